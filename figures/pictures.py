"""Tracing: how long it takes beside scikit-image's raw contours, and how far the heron's trace is off its drawing."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from skimage.measure import find_contours

from hakobu import pipeline
from hakobu.geometry import SegmentIndex, flatten
from hakobu.tracing import dark
from hakobu.tracing.grey import luma_over_white

DEMO = Path(__file__).resolve().parents[1] / "demo"
SCAN = DEMO / "files" / "heron-scan.jpg"
MM = 25.4 / 300
MATRIX = (MM, 0.0, 0.0, MM, 0.0, 0.0)


def heron() -> np.ndarray:
    """The scan's grey, (1890, 1417)."""
    return luma_over_white(pipeline.picture(SCAN.name, SCAN.read_bytes()))


def sheet(side: int) -> np.ndarray:
    """A page of small shapes: discs and squares with grain, a fifth of it ink."""
    rows, columns = np.mgrid[:side, :side]
    down, across = rows % 80 - 40, columns % 80 - 40
    disc, square = np.hypot(down, across) < 20, np.maximum(abs(down), abs(across)) < 18
    ink = np.where((rows // 80 + columns // 80) % 2, disc, square)
    grain = np.random.default_rng(2).normal(0, 0.02, (side, side))
    return np.ascontiguousarray(np.where(ink, 0.12, 0.88) + grain, np.float32)


def traced(grey: np.ndarray):
    proposed = dark.propose(grey, MM)
    return dark.trace(grey, MATRIX, proposed.threshold, proposed.smoothness_mm, proposed.smallest_mm2)


def trace() -> Iterator:
    scan = heron()
    pictures = {
        "the heron's scan, 2.7 megapixels": scan,
        "1 megapixel of it": np.ascontiguousarray(scan[400:1400, 200:1200]),
        "a page of small shapes, 1 megapixel": sheet(1000),
        "a page of small shapes, 4 megapixels": sheet(2000),
    }
    for name, grey in pictures.items():
        beside = "scikit-image: raw contours"
        yield f"trace {name}", lambda g=grey: traced(g), lambda g=grey: find_contours(g, 0.5), beside
    yield _accuracy(scan)


def _accuracy(scan: np.ndarray) -> str:
    sys.path.insert(0, str(DEMO))
    import heron as drawing

    made = next(region.path for region in traced(scan).regions if len(region.path) == len(drawing.TRUTH))
    a, b = flatten(drawing.TRUTH, 0.001, 0.02), flatten(made, 0.001, 0.02)
    there, back = SegmentIndex(b, 0.05).nearest(a.points)[0], SegmentIndex(a, 0.05).nearest(b.points)[0]
    apart = np.concatenate([there, back]) / MM
    return (
        f"The heron's trace lies {apart.mean():.3f} pixels off its drawing on average, {np.quantile(apart, 0.99):.2f} "
        f"for 99 of 100 points, {apart.max():.1f} at most (a grain of dust on the line); it has "
        f"{int(made.node_counts.sum())} nodes."
    )
