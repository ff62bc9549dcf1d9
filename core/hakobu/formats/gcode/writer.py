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
    """G-code of a program. Release "power" switches a laser by M3 and M5, "height" lifts a knife or pen by Z."""
    release = options.release or ("height" if options.tool in ("knife", "pen") else "power")
    if release not in RELEASES:
        raise BadRequest(f"G-code can be written for {' or '.join(RELEASES)}, not for {release}.")
    out = [f"({_PLAIN.sub(' ', options.title)})"] if options.title else []
    out += ["G17 G21 G90", "G91.1", "M5" if release == "power" else f"G0 Z{CLEAR_MM:g}"]
    feed, tool = _number(round(60 * options.speed_mm_s, 1)) if options.speed_mm_s else str(FEED), -1
    on = f"M3 S{POWER}" if release == "power" else f"G1 Z{DEPTH_MM:g} F{feed}"
    off = "M5" if release == "power" else f"G0 Z{CLEAR_MM:g}"
    path = as_arcs(program.path, options.chord_mm) if len(program) else program.path
    moves, begins = _moves(path)
    for k, own in enumerate(program.tool.tolist()):
        if own != tool:
            tool = own
            told = program.tools[tool]
            out += [f"({_PLAIN.sub(' ', told.layer)}, {told.treatment.value})", f"T{told.number}"]
        first, last = int(path.start[k]), int(path.start[k + 1])
        out += [begins[k], on, f"{moves[first]} F{feed}", *moves[first + 1 : last], off]
    out += ["M5" if release == "power" else f"G0 Z{CLEAR_MM:g}", "M2"]
    notes = tuple(f"tool {each.number}: {each.layer}, {each.treatment.value}" for each in program.tools)
    return Written(("\n".join(out) + "\n").encode("ascii"), notes)


def _moves(path: Path) -> tuple[list[str], list[str]]:
    """The words that follow each segment, and those that go to the begin of each outline."""
    ends = np.round(path.ctrl[:, [0, 3]], DECIMALS)
    first, last = ends[:, 0], ends[:, 1]
    turned = np.flatnonzero((path.kind == ARC) & (np.abs(path.bulge) >= 1e-9) & (first != last).any(axis=1))
    centre, _ = centre_and_radius(first[turned], last[turned], path.bulge[turned])
    moves = [f"X{x} Y{y}" for x, y in zip(_numbers(last[:, 0]), _numbers(last[:, 1]), strict=True)]
    ways = ["G1"] * len(moves)
    about = np.round(centre - first[turned], DECIMALS)
    for k, i, j in zip(turned.tolist(), _numbers(about[:, 0]), _numbers(about[:, 1]), strict=True):
        ways[k] = "G3" if path.bulge[k] > 0 else "G2"
        moves[k] = f"{moves[k]} I{i} J{j}"
    begin = first[path.start[:-1]]
    begins = [f"G0 X{x} Y{y}" for x, y in zip(_numbers(begin[:, 0]), _numbers(begin[:, 1]), strict=True)]
    return [f"{way} {move}" for way, move in zip(ways, moves, strict=True)], begins


def _numbers(values: np.ndarray) -> list[str]:
    return [_number(value) for value in values.tolist()]


def _number(value: float) -> str:
    text = f"{value:.{DECIMALS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
