"""G-code out: millimetres, absolute places, y up; arcs as G2 and G3, curves as arcs within the chord tolerance."""

from __future__ import annotations

import re

import numpy as np

from ...errors import BadRequest
from ...geometry import ARC, Path
from ...geometry.arcs import centre_and_radius
from ...geometry.recover import as_arcs
from ...model import Document
from ...toolpaths import Program, program_of, shortened
from ..format import WriteOptions, Written
from . import RELEASES

#: Heights above and in the material, in mm, feed in mm a minute and power in thousandths: a machine's operator sets
#: his own (common practice).
CLEAR_MM, DEPTH_MM, FEED, POWER = 5.0, -0.5, 1200, 1000
DECIMALS = 4
_PLAIN = re.compile(r"[^A-Za-z0-9 ,.#_-]")


def write(document: Document, options: WriteOptions) -> Written:
    """The strokes of all layers that are cut, scored or drawn, in a short order; a T word for each layer."""
    return write_program(shortened(program_of(document)), options)


def write_program(program: Program, options: WriteOptions) -> Written:
    """The runs of a program, in its order. A beam is told its power, any other tool its height."""
    release = options.release or ("height" if options.tool in ("knife", "pen") else "power")
    if release not in RELEASES:
        raise BadRequest(f"G-code can be written for {' or '.join(RELEASES)}, not for {release}.")
    out = [f"({_PLAIN.sub(' ', options.title)})"] if options.title else []
    out += ["G17 G21 G90", "G91.1", "M5" if release == "power" else f"G0 Z{CLEAR_MM:g}"]
    feed, tool = _n(round(60 * options.speed_mm_s, 1)) if options.speed_mm_s else str(FEED), -1
    outlines = as_arcs(program.path, options.chord_mm).outlines() if len(program) else []
    for own, outline in zip(program.tool.tolist(), outlines, strict=True):
        if own != tool:
            tool = own
            told = program.tools[tool]
            out += [f"({_PLAIN.sub(' ', told.layer)}, {told.treatment.value})", f"T{told.number}"]
        out += _stroke(outline, release, feed)
    out += ["M5" if release == "power" else f"G0 Z{CLEAR_MM:g}", "M2"]
    notes = tuple(f"tool {each.number}: {each.layer}, {each.treatment.value}" for each in program.tools)
    return Written(("\n".join(out) + "\n").encode("ascii"), notes)


def _stroke(outline: Path, release: str, feed: str) -> list[str]:
    """feed: in mm a minute."""
    ends = np.round(outline.ctrl[:, [0, 3]], DECIMALS)
    x, y = ends[0, 0]
    out = [f"G0 X{_n(x)} Y{_n(y)}"]
    out.append(f"M3 S{POWER}" if release == "power" else f"G1 Z{DEPTH_MM:g} F{feed}")
    first = True
    for (a, b), kind, bulge in zip(ends, outline.kind.tolist(), outline.bulge.tolist(), strict=True):
        if kind != ARC or abs(bulge) < 1e-9 or (a == b).all():
            words = f"G1 X{_n(b[0])} Y{_n(b[1])}"
        else:
            centre, _ = centre_and_radius(a[None], b[None], np.array([bulge]))
            i, j = centre[0] - a
            words = f"G{3 if bulge > 0 else 2} X{_n(b[0])} Y{_n(b[1])} I{_n(i)} J{_n(j)}"
        out.append(f"{words} F{feed}" if first else words)
        first = False
    out.append("M5" if release == "power" else f"G0 Z{CLEAR_MM:g}")
    return out


def _n(value: float) -> str:
    text = f"{value:.{DECIMALS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
