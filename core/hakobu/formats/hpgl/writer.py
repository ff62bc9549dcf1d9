"""HP-GL out: each layer that a tool follows is a pen, each outline one stroke of chords on the 0.025 mm grid.

Places are absolute and rounded each by itself, so that rounding never adds up. The second release writes the same
strokes as encoded polylines, in about half of the bytes.
"""

from __future__ import annotations

import numpy as np

from ...errors import BadRequest
from ...geometry import flatten
from ...model import Document
from ..format import WriteOptions, Written
from ..machine_files import layers_in_order
from . import RELEASES, UNITS_PER_MM
from .encoded import encoded

#: Coordinate pairs in one instruction; old controllers have small buffers (common practice).
PAIRS_PER_INSTRUCTION = 120


def write(document: Document, options: WriteOptions) -> Written:
    """The strokes of all layers that are cut, scored or drawn; pens are numbered in the order they are used."""
    release = options.release or RELEASES[0]
    if release not in RELEASES:
        raise BadRequest(f"HP-GL can be written as {' or '.join(RELEASES)}, not as {release}.")
    stroke = _stroke if release == RELEASES[0] else _encoded_stroke
    height = document.frame[1]
    out, notes, pen = ["IN;PA;"], [], 0
    ways = _ways(options)
    for layer in layers_in_order(document):
        grids = [grid for p in document.pieces if p.layer == layer.id for grid in _grids(p.path, height, options)]
        if not grids:
            continue
        pen += 1
        out.append(f"SP{pen};{ways}")
        out.extend(map(stroke, grids))
        notes.append(f"pen {pen}: {layer.name}, {layer.treatment.value}")
    out.append("PU;SP0;IN;")
    return Written("\n".join(out).encode("ascii") + b"\n", tuple(notes))


def _ways(options: WriteOptions) -> str:
    """Speed in whole centimetres a second and force in grams, as the reference has VS and FS, for each pen anew."""
    speed = f"VS{max(round(options.speed_mm_s / 10), 1)};" if options.speed_mm_s else ""
    force = f"FS{max(round(options.force_g), 1)};" if options.force_g else ""
    return speed + force


def _grids(path, height: float, options: WriteOptions) -> list[np.ndarray]:
    """The points of each stroke in plotter units, (N, 2), none twice in a row."""
    chords = flatten(path, options.chord_mm)
    page = chords.points * (1, -1) + (0, height)
    grid = np.round(page * UNITS_PER_MM).astype(np.int64)
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
