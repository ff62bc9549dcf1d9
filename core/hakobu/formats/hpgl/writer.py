"""HP-GL out: each tool of a program is a pen, each run one stroke of chords on the 0.025 mm grid.

Places are absolute and rounded each by itself, so that rounding never adds up. The second release writes the same
strokes as encoded polylines, in about half of the bytes.
"""

from __future__ import annotations

import numpy as np

from ...errors import BadRequest
from ...geometry import Path, flatten
from ...model import Document
from ...toolpaths import Program, program_of, shortened
from ..format import WriteOptions, Written
from . import RELEASES, UNITS_PER_MM
from .encoded import encoded

#: Coordinate pairs in one instruction; old controllers have small buffers (common practice).
PAIRS_PER_INSTRUCTION = 120


def write(document: Document, options: WriteOptions) -> Written:
    """The strokes of all layers that are cut, scored or drawn, in a short order; pens as they are used."""
    return write_program(shortened(program_of(document)), options)


def write_program(program: Program, options: WriteOptions) -> Written:
    """The runs of a program, in its order."""
    release = options.release or RELEASES[0]
    if release not in RELEASES:
        raise BadRequest(f"HP-GL can be written as {' or '.join(RELEASES)}, not as {release}.")
    stroke = _stroke if release == RELEASES[0] else _encoded_stroke
    out, tool = ["IN;PA;"], -1
    ways = _ways(options)
    for own, grid in zip(program.tool.tolist(), _grids(program.path, options), strict=True):
        if own != tool:
            tool = own
            out.append(f"SP{program.tools[tool].number};{ways}")
        out.append(stroke(grid))
    out.append("PU;SP0;IN;")
    notes = tuple(f"pen {each.number}: {each.layer}, {each.treatment.value}" for each in program.tools)
    return Written("\n".join(out).encode("ascii") + b"\n", notes)


def _ways(options: WriteOptions) -> str:
    """Speed in whole centimetres a second and force in grams, as the reference has VS and FS, for each pen anew."""
    speed = f"VS{max(round(options.speed_mm_s / 10), 1)};" if options.speed_mm_s else ""
    force = f"FS{max(round(options.force_g), 1)};" if options.force_g else ""
    return speed + force


def _grids(path: Path, options: WriteOptions) -> list[np.ndarray]:
    """The points of each stroke in plotter units, (N, 2), none twice in a row."""
    if not len(path):
        return []
    chords = flatten(path, options.chord_mm)
    grid = np.round(chords.points * UNITS_PER_MM).astype(np.int64)
    return [_moved(grid[a:b]) for a, b in zip(chords.start[:-1], chords.start[1:], strict=True)]


def _moved(points: np.ndarray) -> np.ndarray:
    return points[np.concatenate([[True], (np.diff(points, axis=0) != 0).any(axis=1)])]


def _stroke(points: np.ndarray) -> str:
    (x, y), rest = points[0], points[1:] if len(points) > 1 else points
    text = [f"PU{x},{y};"]
    for at in range(0, len(rest), PAIRS_PER_INSTRUCTION):
        pairs = rest[at : at + PAIRS_PER_INSTRUCTION].ravel().tolist()
        text.append(f"PD{','.join(map(str, pairs))};")
    return "".join(text)


def _encoded_stroke(points: np.ndarray) -> str:
    """PE in seven bits: up to the first place, then steps from place to place."""
    steps = np.diff(points, axis=0) if len(points) > 1 else np.zeros((1, 2), np.int64)
    first = "".join(map(encoded, points[0].tolist()))
    return f"PE7<={first}{''.join(map(encoded, steps.ravel().tolist()))};"
