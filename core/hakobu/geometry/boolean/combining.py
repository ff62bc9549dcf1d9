"""Union, difference, intersection and exclusive-or of any number of shapes at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..intersect import meet
from ..measure import signed_areas
from ..path import LINE, Path, line_controls
from ..proximity.chord_grid import SEARCH_SHARE, Search, curve_table
from .arrangement import SNAP_MM, Arrangement, NotCombined, TooManyMeetings, arrange, meets_too_often

#: What lies within the first of these is one, and curves are searched by so fine chords. Where the outlines then do not
#: lie in a plane, curves are about so far from each other, and it is tried again with another measure.
TRIES = (
    (SNAP_MM, SEARCH_SHARE),
    (1e-4, SEARCH_SHARE / 8),
    (2e-6, SEARCH_SHARE / 8),
    (5e-4, SEARCH_SHARE / 64),
    (2e-3, SEARCH_SHARE / 64),
)
#: The ways to combine, as the kernel `covering` numbers them.
WAYS = ("union", "intersection", "difference", "xor")


@dataclass(frozen=True)
class Operand:
    """A shape: its outlines and its fill rule, "nonzero" or "evenodd". Open outlines are taken as painted: closed."""

    path: Path
    rule: str = "nonzero"


@dataclass(frozen=True)
class Combined:
    """The resulting path, outer outlines clockwise on the screen and holes the other way, so that both fill rules give
    the same. For each of its segments (M,): source, the segment of all operands' closed paths in order that it is a
    span of, with the parameters there at its ends, span (M, 2), which run down where it was turned round; operand, the
    shape, and outline, the outline of all operands in order, that it comes from.

    off_mm: 0 where all segments are spans of curves. More where the curves could not be told apart: then the result is
    made of straight lines within so much of them, and spans are not numbers."""

    path: Path
    source: np.ndarray
    span: np.ndarray
    operand: np.ndarray
    outline: np.ndarray
    off_mm: float = 0.0

    def sources(self) -> list[tuple[int, ...]]:
        """For each resulting outline, the operands' outlines that it comes from, in order."""
        return sources_of(self.path, self.outline)


def sources_of(path: Path, outline: np.ndarray) -> list[tuple[int, ...]]:
    """For each outline of a path the outlines that its segments (M,) come from, in order."""
    ends = zip(path.start[:-1].tolist(), path.start[1:].tolist(), strict=True)
    return [tuple(np.unique(outline[a:b]).tolist()) for a, b in ends]


def union(*shapes: Operand | Path) -> Combined:
    """Everything that any of the shapes covers."""
    return combine(shapes, "union")


def intersection(*shapes: Operand | Path) -> Combined:
    """Everything that all of the shapes cover."""
    return combine(shapes, "intersection")


def difference(shape: Operand | Path, *others: Operand | Path) -> Combined:
    """The first shape without what any of the others covers."""
    return combine((shape, *others), "difference")


def xor(*shapes: Operand | Path) -> Combined:
    """Everything that an odd number of the shapes covers."""
    return combine(shapes, "xor")


def combine(shapes: Sequence[Operand | Path], how: str) -> Combined:
    """how: one of WAYS.

    Every segment of the result is a span of a segment of an operand; new nodes are only where curves meet. What lies
    within 2e-5 mm of each other is one, or where that decides nothing, within the next of TRIES. Where none does, the
    shapes are combined as polygons, and `off_mm` says so. Raises NotCombined where that gives no closed outlines
    either, or where they meet too often to be worked out: never a wrong shape in silence.
    """
    path, owner, evenodd = operands_of(shapes)
    if not path.segment_count:
        none = np.zeros(0, np.int64)
        return Combined(path, none, np.zeros((0, 2)), none, none)
    if how == "union" and len(shapes) == 1 and (path.is_united or _is_plain(path)):
        segments = np.arange(path.segment_count)
        span = np.tile([0.0, 1.0], (len(segments), 1))
        # Another path of the same arrays: what is given is not marked.
        same = path if path.is_united else Path._of_checked(path.ctrl, path.kind, path.bulge, path.start, path.closed)
        return Combined(same.as_united(), segments, span, owner, path.outline_of)
    from ..kernels.outlines import rims

    try:
        made, faces = covered(path, owner, evenodd, WAYS.index(how), listed=False)
    except TooManyMeetings:
        raise
    except NotCombined:
        return _as_polygons(path, owner, evenodd, how)
    order, start = rims(made.before, made.cycle, faces.inside)
    result, segment, span = outlined(made, order, start)
    segment = made.rows[segment]
    return Combined(result.as_united(), segment, span, owner[segment], path.outline_of[segment])


def _is_plain(path: Path) -> bool:
    """Whether a path is one outline that meets itself nowhere and runs clockwise on the screen: as most traces are."""
    if len(path) != 1 or path.segment_count < 2 or signed_areas(path)[0] <= 0:
        return False
    if (np.abs(path.ctrl[:, 3] - path.ctrl[:, 0]).max(axis=1) <= SNAP_MM).any():
        return False
    kinds, geometry = curve_table(path)
    search = Search(path, None, SEARCH_SHARE, kinds, geometry)
    if meets_too_often(search):
        return False
    met = meet(search, kinds, geometry)
    return not len(met.segment) and not len(met.run_segment)


def _as_polygons(path: Path, owner: np.ndarray, evenodd: np.ndarray, how: str) -> Combined:
    from .polygons import CHORD_MM, combine_polygons

    counts = np.bincount(owner[path.start[:-1]], minlength=len(evenodd))
    result, segment = combine_polygons(path.split(counts.tolist()), evenodd, how)
    span = np.full((len(segment), 2), np.nan)
    return Combined(result, segment, span, owner[segment], path.outline_of[segment], CHORD_MM)


def operands_of(shapes: Sequence[Operand | Path]) -> tuple[Path, np.ndarray, np.ndarray]:
    """All closed outlines in order, the operand of each segment (M,), and which operands are even-odd (O,)."""
    operands = [shape if isinstance(shape, Operand) else Operand(shape) for shape in shapes]
    paths = [operand.path for operand in operands]
    path = Path.concatenate(paths)
    if not path.closed.all():
        paths = [closed_up(path) for path in paths]
        path = Path.concatenate(paths)
    owner = np.repeat(np.arange(len(paths)), [path.segment_count for path in paths])
    return path, owner, np.array([operand.rule == "evenodd" for operand in operands])


@dataclass(frozen=True)
class Covers:
    """inside (C,): whether the face of each cycle is of the result; cover: the operands that cover it, those of cycle c
    from begin[c] to begin[c + 1], where they were asked for."""

    inside: np.ndarray
    begin: np.ndarray
    cover: np.ndarray


def covered(path: Path, owner: np.ndarray, evenodd: np.ndarray, how: int, listed: bool) -> tuple[Arrangement, Covers]:
    """The first arrangement that is sound, and what covers its faces; raises NotCombined where none is."""
    from ..kernels.winding_numbers import face_winding_numbers

    for snap_mm, share in TRIES:
        made = arrange(path, owner, snap_mm, share)
        if made is None:
            continue
        faces = (made.before, made.cycle, made.outside, made.parent, made.entry, made.who, made.net, len(made.area))
        inside, begin, cover, good = face_winding_numbers(how, listed, evenodd, *faces)
        if good:
            return made, Covers(inside, begin, cover)
    raise NotCombined("These shapes could not be combined: their outlines come too near each other.")


def outlined(made: Arrangement, order: np.ndarray, start: np.ndarray) -> tuple[Path, np.ndarray, np.ndarray]:
    """Outlines of half-edges in order, the first of each (K+1,), as a path; the segment and span of each of its own."""
    from ..kernels.outlines import rejoined

    segment, span, ends, start = rejoined(order, start, made.segment, made.span, made.ends)
    closed = np.ones(len(start) - 1, bool)
    return span_path(made.path, segment, span, made.node[ends], start, closed), segment, span


def closed_up(path: Path) -> Path:
    """The path with every open outline closed by a straight line."""
    if path.closed.all():
        return path
    parts = []
    for outline in path.outlines():
        if not outline.closed[0]:
            first, last = outline.ctrl[:1, 0], outline.ctrl[-1:, 3]
            if (first == last).all():
                outline = Path(outline.ctrl, outline.kind, outline.bulge, outline.start, [True])
            else:
                outline = Path(
                    np.concatenate([outline.ctrl, line_controls(last, first)]),
                    np.append(outline.kind, LINE),
                    np.append(outline.bulge, 0.0),
                    [0, outline.segment_count + 1],
                    [True],
                )
        parts.append(outline)
    return Path.concatenate(parts)


def span_path(path: Path, segment: np.ndarray, span: np.ndarray, ends: np.ndarray, start: np.ndarray, closed) -> Path:
    """Spans of segments (N,) as outlines, by the first span of each (K+1,), with given ends (N, 2, 2)."""
    from ..kernels.spans import sub_controls

    ctrl = sub_controls(path.ctrl, path.kind, segment, span, ends)
    share, bulge = span[:, 1] - span[:, 0], path.bulge[segment]
    # Half circles stay half circles to the bit.
    bulge = np.where(np.abs(share) == 1, bulge * share, np.tan(np.arctan(bulge) * share))
    # Outlines of spans between nodes are joined to the bit, and spans of finite curves are finite.
    return Path._of_checked(ctrl, path.kind[segment], bulge, start, closed)
