"""Outlines with some of their segments taken out, and what is left brought together."""

from __future__ import annotations

import numpy as np

from ..geometry import CUBIC, Path
from ..geometry.path import line_controls


def without_segments(outline: Path, gone: np.ndarray) -> Path | None:
    """An outline without the segments where gone (M,) is true: of each run of them, both neighbours end in the middle
    between its ends, at the outline's own end where it is open. None where nothing would be left."""
    stays = np.flatnonzero(~gone)
    closed = bool(outline.closed[0])
    if len(stays) < (2 if closed else 1):
        return None
    first, last = outline.ctrl[stays, 0], outline.ctrl[stays, 3]
    following = np.roll(np.arange(len(stays)), -1)
    meets = (last + first[following]) / 2
    exact = (last == first[following]).all(axis=1)
    meets[exact] = last[exact]
    ends, begins = meets.copy(), np.roll(meets, 1, axis=0)
    if not closed:
        ends[-1], begins[0] = outline.ctrl[-1, 3], outline.ctrl[0, 0]
    return _with_ends(outline, stays, begins, ends)


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
