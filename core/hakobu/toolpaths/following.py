"""Where the tip of a blade runs while its axis follows a program or a file."""

from __future__ import annotations

import numpy as np

from ..geometry import Path, flatten
from ..geometry.nodes import end_directions
from ..geometry.path import line_controls

#: The axis is followed in chords this near to its arcs, in mm.
CHORD_MM = 1e-4


def tips(path: Path, offset_mm: np.ndarray, towards: np.ndarray | None = None, chord_mm: float = CHORD_MM) -> Path:
    """The way of a blade's tip (K outlines of straight lines) while its axis runs along a path, offset_mm (K,) ahead,
    run after run. The blade keeps its direction from run to run; towards (2,): where it points at first, along the
    first run if not given."""
    from .kernels.dragging import tips_of

    if not len(path):
        return path
    chords = flatten(path, chord_mm)
    counts = np.diff(chords.start)
    offset = np.repeat(np.asarray(offset_mm, float), counts)
    offset[chords.start[:-1]] = 0.0
    first = end_directions(path)[0][0] if towards is None else towards
    first = first / max(float(np.hypot(*first)), 1e-300)
    points = tips_of(
        np.ascontiguousarray(chords.points), np.ascontiguousarray(offset), float(first[0]), float(first[1])
    )
    inner = np.ones(len(points), bool)
    inner[chords.start[1:] - 1] = False
    at = np.flatnonzero(inner)
    start = chords.start - np.arange(len(chords.start))
    return Path(
        line_controls(points[at], points[at + 1]),
        np.zeros(len(at)),
        np.zeros(len(at)),
        start,
        np.zeros(len(path), bool),
    )
