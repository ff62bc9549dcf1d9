"""Outlines with some of their segments taken out, and what is left brought together."""

from __future__ import annotations

import numpy as np

from ...geometry import CUBIC, LINE, Path
from ...geometry.path import line_controls

#: Lines that would cross within so many times the length of the step between them make a corner there.
NEAR_STEPS = 2.0


def without_segments(outline: Path, gone: np.ndarray, to_corners: bool = False) -> Path | None:
    """An outline without the segments where gone (M,) is true: of each run of them, both neighbours end in the middle
    between its ends, or where they would cross; at the outline's own end where it is open. None where nothing would be
    left."""
    stays = np.flatnonzero(~gone)
    closed = bool(outline.closed[0])
    if len(stays) < (2 if closed else 1):
        return None
    first, last = outline.ctrl[stays, 0], outline.ctrl[stays, 3]
    following = np.roll(np.arange(len(stays)), -1)
    meets = (last + first[following]) / 2
    if to_corners:
        before, kind = outline.ctrl[stays], outline.kind[stays]
        crosses, corner = corners(before, kind, before[following], kind[following])
        meets[crosses] = corner[crosses]
    exact = (last == first[following]).all(axis=1)
    meets[exact] = last[exact]
    ends, begins = meets.copy(), np.roll(meets, 1, axis=0)
    if not closed:
        ends[-1], begins[0] = outline.ctrl[-1, 3], outline.ctrl[0, 0]
    return _with_ends(outline, stays, begins, ends)


def corners(
    before: np.ndarray, kind: np.ndarray, after: np.ndarray, other: np.ndarray
) -> tuple[np.ndarray, np.ndarray]:
    """Of segments (N, 4, 2) and those that come after a step, with their kinds (N,): which are lines that cross near
    the step when they go on (N,), and where (N, 2)."""
    u, v = before[:, 3] - before[:, 0], after[:, 3] - after[:, 0]
    gap = after[:, 0] - before[:, 3]
    cross = u[:, 0] * v[:, 1] - u[:, 1] * v[:, 0]
    with np.errstate(divide="ignore", invalid="ignore"):
        ahead = (gap[:, 0] * v[:, 1] - gap[:, 1] * v[:, 0]) / cross
        place = before[:, 3] + ahead[:, None] * u
        away = np.hypot(*(place - (before[:, 3] + after[:, 0]) / 2).T)
        near = away <= NEAR_STEPS * np.hypot(*gap.T)
    return near & (kind == LINE) & (other == LINE), place


def joined_lines(outline: Path, gone: np.ndarray) -> Path:
    """An outline without the segments where gone (M,) is true, each a line in line with the one after it, which begins
    where it did."""
    stays = np.flatnonzero(~gone)
    closed = bool(outline.closed[0])
    if len(stays) < (2 if closed else 1):
        return outline
    ends = outline.ctrl[stays, 3]
    begins = np.roll(ends, 1, axis=0)
    if not closed:
        begins[0] = outline.ctrl[0, 0]
    return _with_ends(outline, stays, begins, ends)


def with_ends(outline: Path, begins: np.ndarray, ends: np.ndarray) -> Path:
    """The same outline with its segments moved to new ends (M, 2) each."""
    return _with_ends(outline, np.arange(outline.segment_count), begins, ends)


def _with_ends(outline: Path, rows: np.ndarray, begins: np.ndarray, ends: np.ndarray) -> Path:
    ctrl, kind = outline.ctrl[rows].copy(), outline.kind[rows]
    ctrl[:, 1] += begins - ctrl[:, 0]
    ctrl[:, 2] += ends - ctrl[:, 3]
    ctrl[:, 0], ctrl[:, 3] = begins, ends
    plain = kind != CUBIC
    ctrl[plain] = line_controls(begins[plain], ends[plain])
    return Path(ctrl, kind, outline.bulge[rows], [0, len(rows)], outline.closed)
