"""Segments that are the same to the bit are looked at once: copies are common, and every pair of them would be one."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..path import Path


@dataclass(frozen=True)
class SingleSegments:
    """path: the segments without those that are the same as an earlier one, S of them; rows (S,): which of all each is;
    again (D,): the others by the operand of each, the segment of path that each is, and whether it runs the other way.
    """

    path: Path
    rows: np.ndarray
    operand: np.ndarray
    again: np.ndarray
    back: np.ndarray

    def shared(self, begin: np.ndarray, lead: np.ndarray, sign: np.ndarray, operand: np.ndarray):
        """Edges with their leads, signs and operands, and behind them those of the segments left out, which have the
        same edges; begin (S+1,): the first edge of each segment."""
        if not len(self.again):
            return lead, sign, operand
        count = begin[self.again + 1] - begin[self.again]
        offset = np.arange(count.sum()) - np.repeat(np.cumsum(count) - count, count)
        edge = np.repeat(begin[self.again], count) + offset
        way = np.where(np.repeat(self.back, count), -1, 1)
        return (
            np.concatenate([lead, lead[edge]]),
            np.concatenate([sign, sign[edge] * way]),
            np.concatenate([operand, np.repeat(self.operand, count)]),
        )


def single_segments(path: Path, operand: np.ndarray, bare: int) -> SingleSegments:
    """operand (M,): of each segment; those of the operand bare are all kept."""
    from ..kernels.coincident_segments import coincident_segments

    bits = path.ctrl.reshape(-1, 8).view(np.int64)
    lead, back = coincident_segments(bits, path.kind, path.bulge, operand == bare)
    first = lead == np.arange(len(lead))
    rows, others = np.flatnonzero(first), np.flatnonzero(~first)
    if not len(others):
        none = np.zeros(0, np.int64)
        return SingleSegments(path, rows, none, none, np.zeros(0, bool))
    # Outlines are broken where a segment is left out.
    outline = path.outline_of[rows]
    begins = np.concatenate([[True], (np.diff(rows) > 1) | (np.diff(outline) > 0)])
    start = np.append(np.flatnonzero(begins), len(rows))
    whole = np.diff(start) == np.diff(path.start)[outline[start[:-1]]]
    kept = Path(path.ctrl[rows], path.kind[rows], path.bulge[rows], start, path.closed[outline[start[:-1]]] & whole)
    number = np.cumsum(first) - 1
    return SingleSegments(kept, rows, operand[others], number[lead[others]], back[others])
