"""Lines cut by shapes: what of them lies inside, what outside."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..path import Path
from .arrangement import BARE
from .combining import WAYS, Operand, covered, operands_of, span_path


@dataclass(frozen=True)
class Cut:
    """path: the pieces, in the order and direction of the lines; outline (K,), the outline that each piece is of;
    source (M,) and span (M, 2), the segment of the lines that each segment is a span of, and the parameters there."""

    path: Path
    outline: np.ndarray
    source: np.ndarray
    span: np.ndarray


def cut_lines(lines: Path, *shapes: Operand | Path, keep: str = "inside") -> Cut:
    """What of the lines, open or closed, is inside or outside ("inside", "outside") of all the shapes together. What
    runs along a shape's own outline counts as inside. Raises NotCombined as `combine` does."""
    path, owner, evenodd = operands_of(shapes)
    count = lines.segment_count
    both = Path.concatenate([lines, path])
    owner = np.concatenate([np.full(count, BARE), owner])
    if not count:
        return Cut(lines, np.zeros(0, np.int64), np.zeros(0, np.int64), np.zeros((0, 2)))
    made, covers = covered(both, owner, evenodd, WAYS.index("union"), listed=False)
    edges = made.edges
    own = np.arange(edges.begin[count])
    number = edges.number[edges.lead[own]]
    within = covers.inside[made.cycle[2 * number]] | covers.inside[made.cycle[2 * number + 1]]
    chosen = own[within if keep == "inside" else ~within]
    segment = np.searchsorted(edges.begin, chosen, side="right") - 1
    return _pieces(lines, both, made.node[edges.ends[chosen]], segment, edges.span[chosen], edges.ends[chosen])


def _pieces(lines: Path, both: Path, place: np.ndarray, segment: np.ndarray, span: np.ndarray, ends: np.ndarray) -> Cut:
    """Edges in order as pieces that go on where one ends as the next begins, spans of one segment made one again."""
    if not len(segment):
        none = np.zeros(0, np.int64)
        return Cut(Path.concatenate([]), none, none, np.zeros((0, 2)))
    outline = lines.outline_of[segment]
    goes_on = (outline[1:] == outline[:-1]) & (ends[1:, 0] == ends[:-1, 1])
    goes_on &= (segment[1:] == segment[:-1]) | (segment[1:] == segment[:-1] + 1)
    same = goes_on & (segment[1:] == segment[:-1]) & (span[1:, 0] == span[:-1, 1])
    first = np.flatnonzero(np.concatenate([[True], ~same]))
    last = np.concatenate([first[1:] - 1, [len(segment) - 1]])
    piece = np.concatenate([[0], np.cumsum(~goes_on)])[first]
    joined = np.column_stack([span[first, 0], span[last, 1]])
    places = np.stack([place[first, 0], place[last, 1]], axis=1)
    segment, outline = segment[first], outline[first]
    # A closed line that is kept round its start goes on there.
    order, piece = _round_the_start(lines, segment, joined, places, outline, piece)
    start = np.concatenate([[0], np.flatnonzero(np.diff(piece)) + 1, [len(piece)]])
    segment, joined, places, outline = segment[order], joined[order], places[order], outline[order]
    whole = np.zeros(len(start) - 1, bool)
    for k, (a, b) in enumerate(zip(start[:-1], start[1:], strict=True)):
        whole[k] = lines.closed[outline[a]] and bool((places[a, 0] == places[b - 1, 1]).all())
    path = span_path(both, segment, joined, places, start, whole)
    return Cut(path, outline[start[:-1]], segment, joined)


def _round_the_start(lines: Path, segment, span, places, outline, piece) -> tuple[np.ndarray, np.ndarray]:
    """The order in which rows form pieces, the last piece of a closed outline before its first where that goes on from
    it; and the piece of each row in that order."""
    order, piece = np.arange(len(segment)), piece.copy()
    for k in np.unique(outline[lines.closed[outline]]):
        rows = np.flatnonzero(outline == k)
        first, last = rows[0], rows[-1]
        begins = segment[first] == lines.start[k] and span[first, 0] == 0
        ends = segment[last] == lines.start[k + 1] - 1 and span[last, 1] == 1
        if begins and ends and piece[first] != piece[last] and (places[first, 0] == places[last, 1]).all():
            tail = rows[piece[rows] == piece[last]]
            rest = rows[piece[rows] != piece[last]]
            order[rows[0] : rows[-1] + 1] = np.concatenate([tail, rest])
            moved = piece.copy()
            moved[rows[0] : rows[-1] + 1] = np.concatenate([np.full(len(tail), piece[first]), piece[rest]])
            piece = moved
    return order, piece
