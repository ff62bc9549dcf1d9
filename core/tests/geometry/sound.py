"""What every combined shape must be, whatever it was made of."""

from __future__ import annotations

import unittest

import numpy as np

from hakobu.geometry import Path, signed_areas
from hakobu.geometry.boolean import Combined, Operand
from hakobu.geometry.boolean.combining import closed_up
from hakobu.geometry.flatten import points_at
from hakobu.geometry.intersect import meetings

#: What lies nearer than this is one, in mm: the only thing that may move a segment off its curve.
SNAP_MM = 2e-5


def size(combined: Combined) -> float:
    return float(signed_areas(combined.path).sum())


def off_its_span(made: Combined, whole: Path) -> np.ndarray:
    """How far each segment of a result is from the span that it says it is, at most, at five places."""
    most = np.zeros(made.path.segment_count)
    for share in (0.0, 0.21, 0.5, 0.83, 1.0):
        t = made.span[:, 0] + share * (made.span[:, 1] - made.span[:, 0])
        there = points_at(whole, made.source, t)
        ours = points_at(made.path, np.arange(len(t)), np.full(len(t), share))
        most = np.maximum(most, np.hypot(*(there - ours).T))
    return most


class Case(unittest.TestCase):
    def sound(self, made: Combined, shapes, exact: bool = True) -> None:
        """Closed, free of crossings and of shared runs, and each segment the span that it says it is: within 1e-9 mm,
        or where nodes that nearly meet were made one (exact False), within that measure."""
        self.assertTrue(made.path.closed.all())
        self.assertEqual(made.off_mm, 0.0)
        met = meetings(made.path)
        self.assertEqual(len(met.run_segment), 0)
        inner = ((met.parameter > 1e-7) & (met.parameter < 1 - 1e-7)).all(axis=1) & ~met.touch
        self.assertEqual(int(inner.sum()), 0)
        paths = [shape.path if isinstance(shape, Operand) else shape for shape in shapes]
        whole = Path.concatenate(closed_up(path) for path in paths)
        off = off_its_span(made, whole)
        self.assertLess(float(off.max(initial=0)), 1e-9 if exact else SNAP_MM)
        owner = np.repeat(np.arange(len(paths)), [closed_up(path).segment_count for path in paths])
        np.testing.assert_array_equal(made.operand, owner[made.source])
        np.testing.assert_array_equal(made.outline, whole.outline_of[made.source])
