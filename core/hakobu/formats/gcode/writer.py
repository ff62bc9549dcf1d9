"""G-code out: millimetres, absolute places, y up; arcs as G2 and G3, curves as arcs within the chord tolerance."""

from __future__ import annotations

import re

import numpy as np

from ...errors import BadRequest
from ...geometry import ARC, Path
from ...geometry.arcs import centre_and_radius
from ...geometry.recover import as_arcs
from ...model import Document, Layer
from ..format import WriteOptions, Written
from ..machine_files import layers_in_order
from . import RELEASES

#: Heights above and in the material, in mm, feed in mm a minute and power in thousandths: a machine's operator sets
#: his own (common practice).
CLEAR_MM, DEPTH_MM, FEED, POWER = 5.0, -0.5, 1200, 1000
DECIMALS = 4
_PLAIN = re.compile(r"[^A-Za-z0-9 ,.#_-]")


def write(document: Document, options: WriteOptions) -> Written:
    """The strokes of all layers that are cut, scored or drawn, a T word for each layer."""
    release = options.release or RELEASES[0]
    if release not in RELEASES:
        raise BadRequest(f"G-code can be written for {' or '.join(RELEASES)}, not for {release}.")
    out = [f"({_PLAIN.sub(' ', options.title)})"] if options.title else []
    out += ["G17 G21 G90", "G91.1", "M5" if release == "power" else f"G0 Z{CLEAR_MM:g}"]
    notes: list[str] = []
    height = document.frame[1]
    for layer in layers_in_order(document):
        paths = [piece.path for piece in document.pieces if piece.layer == layer.id]
        outlines = [o for path in paths for o in as_arcs(path, options.chord_mm).outlines()]
        if not outlines:
            continue
        out += [f"({_PLAIN.sub(' ', layer.name)}, {layer.treatment.value})", f"T{len(notes) + 1}"]
        for outline in outlines:
            out += _stroke(outline, height, release)
        notes.append(_note(len(notes) + 1, layer))
    out += ["M5" if release == "power" else f"G0 Z{CLEAR_MM:g}", "M2"]
    return Written(("\n".join(out) + "\n").encode("ascii"), tuple(notes))


def _note(number: int, layer: Layer) -> str:
    return f"tool {number}: {layer.name}, {layer.treatment.value}"


def _stroke(outline: Path, height: float, release: str) -> list[str]:
    turned = np.round(outline.ctrl * (1, -1) + (0, height), DECIMALS)
    ends = turned[:, [0, 3]]
    x, y = ends[0, 0]
    out = [f"G0 X{_n(x)} Y{_n(y)}"]
    out.append(f"M3 S{POWER}" if release == "power" else f"G1 Z{DEPTH_MM:g} F{FEED}")
    first = True
    for (a, b), kind, bulge in zip(ends, outline.kind.tolist(), (-outline.bulge).tolist(), strict=True):
        if kind != ARC or abs(bulge) < 1e-9 or (a == b).all():
            words = f"G1 X{_n(b[0])} Y{_n(b[1])}"
        else:
            centre, _ = centre_and_radius(a[None], b[None], np.array([bulge]))
            i, j = centre[0] - a
            words = f"G{3 if bulge > 0 else 2} X{_n(b[0])} Y{_n(b[1])} I{_n(i)} J{_n(j)}"
        out.append(f"{words} F{FEED}" if first else words)
        first = False
    out.append("M5" if release == "power" else f"G0 Z{CLEAR_MM:g}")
    return out


def _n(value: float) -> str:
    text = f"{value:.{DECIMALS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
