"""Outlines made ready to be fitted."""

from __future__ import annotations

import numpy as np

from ...geometry.parallel import parallel_map

#: Points that are worth a thread of their own.
WORTH_POINTS = 1_500


def made_ready(
    points: np.ndarray, start: np.ndarray, corner: np.ndarray, closed: np.ndarray, noises: np.ndarray, waves: float
) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """Outlines, points (N, 2) from start (K+1,) on with corners (N,), the closed ones beginning at a corner if they
    have one: straight runs are their two ends, with their direction, and the rest is smoothed. noises (K,): of each, in
    pixels; waves: so many times that may be smoothed away. Points, start, corners, directions (N, 2), zeros for
    none."""
    from .kernels import fit_input

    if len(start) < 2:
        return points, start, corner, np.zeros((len(points), 2))
    own, marks, ends, begun = fit_input.sections_of(points, start, corner, closed)
    open_ends = np.zeros(len(ends), bool)
    open_ends[begun[1:][~closed & (np.diff(begun) > 0)] - 1] = True
    noise = np.repeat(noises, np.diff(begun))

    def work(a: int, b: int) -> tuple:
        return fit_input.made_ready(own, marks, ends, noise, open_ends, waves, a, b)

    parts = parallel_map(work, (ends[:, 1] - ends[:, 0]).astype(float), WORTH_POINTS)
    out, mark, direction, counts = (np.concatenate(of) for of in zip(*parts, strict=True))
    begin = np.concatenate([[0], np.cumsum(counts)])[begun]
    small = closed & (np.diff(begin) < 3)
    if small.any():
        out, mark, direction, begin = fit_input.with_small(out, mark, direction, begin, small, own, marks, ends, begun)
    return out, begin, mark, direction
