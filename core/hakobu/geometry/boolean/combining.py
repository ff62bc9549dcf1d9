"""Union, difference, intersection and exclusive-or of any number of shapes at once."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ..flatten import flatten, points_at
from ..intersect import curve_table
from ..path import ARC, CUBIC, LINE, Path, line_controls
from .arrangement import SNAP_MM, Arrangement, arrange

#: Rays look at chords within this of their curves, and within this share of their size; where it matters, at the curves
#: themselves.
RAY_MM, RAY_SHARE = 0.005, 0.001
#: What lies within the first of these is one. Where outlines then do not come out closed, curves lie about so far from
#: each other, and it is tried again with another measure.
SNAPS_MM = (SNAP_MM, 1e-4, 2e-6, 5e-4)
#: Two rays across each other, at an odd angle, so that they seldom run along anything that people draw.
RAYS = (0.5772156649, 0.5772156649 + math.pi / 2)
#: Where along an edge its sides are looked at.
LOOK = 0.37


@dataclass(frozen=True)
class Operand:
    """A shape: its outlines and its fill rule, "nonzero" or "evenodd". Open outlines are taken as painted: closed."""

    path: Path
    rule: str = "nonzero"


@dataclass(frozen=True)
class Combined:
    """The resulting path, outer outlines clockwise on the screen and holes the other way, so that both fill rules give
    the same; and for each of its segments (M,) the segment of all operands' closed paths in order that it is a span of,
    and the parameters there at its ends (M, 2), which run down where it was turned round."""

    path: Path
    source: np.ndarray
    span: np.ndarray


class NotCombined(ArithmeticError):
    """The outlines did not come out closed: the shapes are degenerate beyond what is told apart."""


#: What is inside, from what is inside of each operand (E, O).
INSIDE: dict[str, Callable[[np.ndarray], np.ndarray]] = {
    "union": lambda each: each.any(axis=1),
    "intersection": lambda each: each.all(axis=1),
    "difference": lambda each: each[:, 0] & ~each[:, 1:].any(axis=1),
    "xor": lambda each: each.sum(axis=1) % 2 == 1,
}


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
    """how: a key of INSIDE. Raises NotCombined where no closed outlines come of it: never a wrong shape in silence.

    Every segment of the result is a span of a segment of an operand; new nodes are only where curves meet. What lies
    within 2e-5 mm of each other is one, or where that decides nothing, within the next of SNAPS_MM.
    """
    operands = [shape if isinstance(shape, Operand) else Operand(shape) for shape in shapes]
    paths = [closed_up(operand.path) for operand in operands]
    path = Path.concatenate(paths)
    if not path.segment_count:
        return Combined(path, np.zeros(0, np.int64), np.zeros((0, 2)))
    owner = np.repeat(np.arange(len(paths)), [p.segment_count for p in paths])
    rules = np.array([operand.rule == "evenodd" for operand in operands])
    for snap_mm in SNAPS_MM:
        made = arrange(path, owner, len(operands), snap_mm)
        sides = _sides(made)
        inner, outer = (INSIDE[how](np.where(rules, side % 2 != 0, side != 0)) for side in sides)
        result = _linked(made, inner, outer)
        if result is not None:
            return result
    raise NotCombined("These shapes could not be combined: their outlines come too near each other.")


def closed_up(path: Path) -> Path:
    """The path with every open outline closed by a straight line."""
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


def _sides(made: Arrangement) -> tuple[np.ndarray, np.ndarray]:
    """Windings (E, O) to the right and to the left of each edge.

    Each edge is looked at from a place that is never its middle, along the one of two rays that it runs more across:
    what lies close beside it runs across that ray as well, and so passes its level once within a chord.
    """
    from ..kernels.windings import windings

    kinds, geometry = curve_table(made.path)
    edges = span_path(made.path, made.segment, made.span)
    hull = np.abs(np.diff(edges.ctrl, axis=1)).sum(axis=(1, 2))
    chords = flatten(edges, np.clip(RAY_SHARE * hull, 1e-12, RAY_MM))
    inner = np.ones(len(chords.points), bool)
    inner[chords.start[1:] - 1] = False
    rows = np.flatnonzero(inner)
    edge = chords.segment[rows].astype(np.int64)
    share = np.column_stack([chords.parameter[rows], chords.parameter[rows + 1]])
    low, high = made.span[edge, 0][:, None], made.span[edge, 1][:, None]
    between = np.ascontiguousarray(low + share * (high - low))
    looks = made.span[:, 0] + LOOK * (made.span[:, 1] - made.span[:, 0])
    step = 1e-4 * (made.span[:, 1] - made.span[:, 0])
    along = points_at(made.path, made.segment, looks + step) - points_at(made.path, made.segment, looks)
    right, left = np.zeros_like(made.net), np.zeros_like(made.net)
    across = np.stack([np.abs(along @ (-math.sin(a), math.cos(a))) for a in RAYS])
    for ray, angle in enumerate(RAYS):
        cos, sin = math.cos(angle), math.sin(angle)
        turn = np.array([[cos, -sin], [sin, cos]])
        first, last = (np.ascontiguousarray(chords.points[i] @ turn) for i in (rows, rows + 1))
        at = np.where(across.argmax(axis=0) == ray, looks, np.nan)
        shared = (edge, between, made.segment, made.span, made.net, kinds, geometry)
        to_right, to_left = windings(first, last, *shared, RAY_MM, cos, sin, at)
        right, left = right + to_right, left + to_left
    return right, left


def _linked(made: Arrangement, inside_right: np.ndarray, inside_left: np.ndarray) -> Combined | None:
    """The edges with inside on one side only, as outlines; None where not every node has as many in as out."""
    from ..kernels.links import link

    keep = inside_right != inside_left
    turned = inside_left[keep]
    segment, span, ends = made.segment[keep], made.span[keep].copy(), made.ends[keep].copy()
    span[turned], ends[turned] = span[turned][:, ::-1], ends[turned][:, ::-1]
    kinds, geometry = curve_table(made.path)
    node = np.ascontiguousarray(made.node)
    order, start, good = link(node, segment, np.ascontiguousarray(span), np.ascontiguousarray(ends), kinds, geometry)
    if not good:
        return None
    segment, span, ends = segment[order], span[order], ends[order]
    segment, span, ends, start = _rejoined(segment, span, ends, start)
    path = span_path(made.path, segment, span, node[ends], start)
    return Combined(path, segment, span)


def _rejoined(segment: np.ndarray, span: np.ndarray, ends: np.ndarray, start: np.ndarray):
    """Spans that go on along one curve are one again."""
    rows_segment, rows_span, rows_ends, begin = [], [], [], [0]
    for a, b in zip(start[:-1].tolist(), start[1:].tolist(), strict=True):
        own = np.arange(a, b)
        before = np.roll(own, 1)
        goes_on = (segment[own] == segment[before]) & (span[own, 0] == span[before, 1])
        goes_on &= np.sign(span[own, 1] - span[own, 0]) == np.sign(span[before, 1] - span[before, 0])
        breaks = np.flatnonzero(~goes_on)
        if not len(breaks):
            breaks = np.array([0])
        own = np.roll(own, -int(breaks[0]))
        firsts = own[(breaks - breaks[0])]
        lasts = own[np.append((breaks - breaks[0])[1:], len(own)) - 1]
        rows_segment.append(segment[firsts])
        rows_span.append(np.column_stack([span[firsts, 0], span[lasts, 1]]))
        rows_ends.append(np.column_stack([ends[firsts, 0], ends[lasts, 1]]))
        begin.append(begin[-1] + len(firsts))
    if not rows_segment:
        return segment[:0], span[:0], ends[:0], np.zeros(1, np.int64)
    return np.concatenate(rows_segment), np.concatenate(rows_span), np.concatenate(rows_ends), np.array(begin)


def span_path(path: Path, segment: np.ndarray, span: np.ndarray, ends=None, start=None) -> Path:
    """Spans of segments as a path: each an open outline, or closed outlines by their first spans (K+1,), with given end
    points (N, 2, 2)."""
    ctrl = _sub_cubics(path.ctrl[segment], span)
    kind = path.kind[segment]
    bulge = np.tan(np.arctan(path.bulge[segment]) * (span[:, 1] - span[:, 0]))
    # Half circles stay half circles to the bit.
    bulge = np.where((np.abs(span[:, 1] - span[:, 0]) == 1), path.bulge[segment] * (span[:, 1] - span[:, 0]), bulge)
    arc = kind == ARC
    if arc.any():
        first, last = (points_at(path, segment[arc], span[arc, k]) for k in (0, 1))
        ctrl[arc] = line_controls(first, last)
    if ends is not None:
        ctrl[:, 0], ctrl[:, 3] = ends[:, 0], ends[:, 1]
        straight = kind != CUBIC
        ctrl[straight] = line_controls(ctrl[straight, 0], ctrl[straight, 3])
    if start is None:
        return Path(ctrl, kind, bulge, np.arange(len(segment) + 1), np.zeros(len(segment), bool))
    return Path(ctrl, kind, bulge, start, np.ones(len(start) - 1, bool))


def _sub_cubics(ctrl: np.ndarray, span: np.ndarray) -> np.ndarray:
    """The parts of cubics (M, 4, 2) between two parameters, by the blossom (Ramshaw 1987); a whole one is itself."""
    a, b = span[:, :1, None], span[:, 1:, None]

    def blossom(t, u, v):
        first = ctrl[:, :-1] * (1 - t) + ctrl[:, 1:] * t
        second = first[:, :-1] * (1 - u) + first[:, 1:] * u
        return (second[:, :-1] * (1 - v) + second[:, 1:] * v)[:, 0]

    parts = np.stack([blossom(a, a, a), blossom(a, a, b), blossom(a, b, b), blossom(b, b, b)], axis=1)
    whole, back = (span == (0.0, 1.0)).all(axis=1), (span == (1.0, 0.0)).all(axis=1)
    parts[whole], parts[back] = ctrl[whole], ctrl[back][:, ::-1]
    return parts
