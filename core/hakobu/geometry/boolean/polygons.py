"""Shapes combined as polygons of their chords: what is left where curves could not be told apart."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..flatten import flatten
from ..path import Path
from ..proximity.chord_distance import SegmentIndex

#: How far chords may be from the curves, and the grid on which polygons are clipped, in mm.
CHORD_MM, GRID_MM = 0.001, 1e-7


def combine_polygons(paths: Sequence[Path], evenodd: np.ndarray, how: str) -> tuple[Path, np.ndarray]:
    """The result as straight lines, and the segment of all paths in order that each comes from (M,). By pyclipr, the
    clipping of Vatti (1992) on a grid of whole numbers. paths: closed; how: as of `combine`."""
    import pyclipr

    kinds = {
        "union": pyclipr.Union,
        "intersection": pyclipr.Intersection,
        "difference": pyclipr.Difference,
        "xor": pyclipr.Xor,
    }
    chords = [flatten(path, CHORD_MM) for path in paths]
    rules = [pyclipr.FillRule.EvenOdd if each else pyclipr.FillRule.NonZero for each in evenodd]
    result: list[np.ndarray] = []
    for k, (each, rule) in enumerate(zip(chords, rules, strict=True)):
        rings = [each.outline(r)[:-1] for r in range(len(each)) if len(each.outline(r)) > 3]
        plain = _clipped(rings, [], pyclipr.Union, rule)
        result = plain if k == 0 else _clipped(result, plain, kinds[how], pyclipr.FillRule.NonZero)
    # Outer outlines come out anticlockwise with y up, which is clockwise on the screen.
    made = Path.concatenate(Path.from_points(ring, closed=True) for ring in result)
    whole = flatten(Path.concatenate(paths), CHORD_MM)
    if not made.segment_count:
        return made, np.zeros(0, np.int64)
    inner = np.ones(len(whole.points), bool)
    inner[whole.start[1:] - 1] = False
    _, near = SegmentIndex(whole, 10 * CHORD_MM).nearest(made.ctrl[:, [0, 3]].mean(axis=1))
    return made, whole.segment[np.flatnonzero(inner)[near]]


def _clipped(subject: list, clip: list, kind, rule) -> list[np.ndarray]:
    import pyclipr

    work = pyclipr.Clipper()
    work.scaleFactor = int(1 / GRID_MM)
    if subject:
        work.addPaths(subject, pyclipr.Subject)
    if clip:
        work.addPaths(clip, pyclipr.Clip)
    return [np.asarray(ring)[:, :2] for ring in work.execute(kind, rule)]
