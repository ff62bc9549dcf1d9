"""HP-GL out: each layer that a tool follows is a pen, each outline one stroke of chords on the 0.025 mm grid."""

from __future__ import annotations

import numpy as np

from ...geometry import flatten
from ...model import Document, Treatment
from ..format import WriteOptions, Written

UNITS_PER_MM = 40
#: Coordinate pairs in one instruction; old controllers have small buffers (common practice).
PAIRS_PER_INSTRUCTION = 120
#: Drawn and scored before anything is cut loose (common practice).
ORDER = (Treatment.DRAW, Treatment.SCORE, Treatment.CUT)


def write(document: Document, options: WriteOptions) -> Written:
    """The strokes of all layers that are cut, scored or drawn; pens are numbered in the order they are used."""
    height = document.frame[1]
    out, notes, pen = ["IN;PA;"], [], 0
    layers = sorted(
        (layer for layer in document.layers if layer.treatment.follows_lines),
        key=lambda layer: ORDER.index(layer.treatment),
    )
    for layer in layers:
        strokes = [s for p in document.pieces if p.layer == layer.id for s in _strokes(p.path, height, options)]
        if not strokes:
            continue
        pen += 1
        out.append(f"SP{pen};")
        out.extend(strokes)
        notes.append(f"pen {pen}: {layer.name}, {layer.treatment.value}")
    out.append("PU;SP0;IN;")
    return Written("\n".join(out).encode("ascii") + b"\n", tuple(notes))


def _strokes(path, height: float, options: WriteOptions) -> list[str]:
    chords = flatten(path, options.chord_mm)
    page = chords.points * (1, -1) + (0, height)
    grid = np.round(page * UNITS_PER_MM).astype(np.int64)
    return [_stroke(grid[a:b]) for a, b in zip(chords.start[:-1], chords.start[1:], strict=True)]


def _stroke(points: np.ndarray) -> str:
    moved = np.concatenate([[True], (np.diff(points, axis=0) != 0).any(axis=1)])
    points = points[moved]
    (x, y), rest = points[0], points[1:] if len(points) > 1 else points
    text = [f"PU{x},{y};"]
    for at in range(0, len(rest), PAIRS_PER_INSTRUCTION):
        pairs = rest[at : at + PAIRS_PER_INSTRUCTION].ravel().tolist()
        text.append(f"PD{','.join(map(str, pairs))};")
    return "".join(text)
