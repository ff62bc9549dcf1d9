"""A planar arrangement: curves split where they meet, ends that are one made one, edges that lie on each other merged.

Nothing is flattened here but to look for candidates: every edge is a span of the curve it comes from.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..flatten import points_at
from ..intersect import curve_table, meetings
from ..path import Path

#: Ends closer than this are one node, in mm: twenty times the error of a meeting, a thousandth of a machine's step.
SNAP_MM = 2e-5
#: Cuts of a segment at one node farther apart than this are two passes through it.
NEAR_PARAMETER = 0.01


@dataclass(frozen=True)
class Arrangement:
    """path: the curves, M segments. node (N, 2): where edges end. segment, span (E, 2): the curve of each edge and the
    parameters at its ends, in the curve's direction; ends (E, 2): its nodes. net (E, O): how often each
    operand's outlines run along the edge, with its direction less against it."""

    path: Path
    node: np.ndarray
    segment: np.ndarray
    span: np.ndarray
    ends: np.ndarray
    net: np.ndarray


def arrange(path: Path, operand: np.ndarray, operands: int, snap_mm: float = SNAP_MM) -> Arrangement:
    """The arrangement of all segments; operand (M,): which operand each belongs to. What lies within snap_mm is one."""
    cut_segment, cut_at, cut_point = _cuts(path)
    label, node = _nodes(cut_point, snap_mm)
    segment, span, ends = _edges(path, cut_segment, cut_at, label, snap_mm)
    return _merged(path, node, segment, span, ends, operand, operands, snap_mm)


def _cuts(path: Path) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Every place where a segment ends or is to be cut: the segment, its parameter, the point. Ends come first, so that
    where several points become one it is an end that stays where it was drawn."""
    count = path.segment_count
    met = meetings(path)
    rows = np.arange(count)
    runs = met.run.reshape(-1, 2, 2)
    run_segment = np.repeat(met.run_segment, 2, axis=0).reshape(-1)
    run_at = runs.reshape(-1, 2).reshape(-1)
    # Both curves of a run pass the place of the first one.
    first = np.repeat(met.run_segment[:, 0], 2)
    place = points_at(path, first, runs[:, :, 0].reshape(-1)) if len(first) else np.zeros((0, 2))
    segment = np.concatenate([rows, rows, met.segment.ravel(), run_segment])
    at = np.concatenate([np.zeros(count), np.ones(count), met.parameter.ravel(), run_at])
    point = np.concatenate(
        [path.ctrl[:, 0], path.ctrl[:, 3], np.repeat(met.point, 2, axis=0), np.repeat(place, 2, axis=0)]
    )
    return segment.astype(np.int64), at, point


def _nodes(point: np.ndarray, snap_mm: float) -> tuple[np.ndarray, np.ndarray]:
    """The number of the node that each point belongs to, and the nodes (N, 2)."""
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components
    from scipy.spatial import cKDTree

    # Most points are shared exactly; only what is left is looked at for neighbours.
    exact, first, inverse = np.unique(point, axis=0, return_index=True, return_inverse=True)
    pairs = cKDTree(exact).query_pairs(snap_mm, output_type="ndarray")
    graph = coo_matrix((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(len(exact), len(exact)))
    count, group = connected_components(graph, directed=False)
    # The earliest point of each group stands for it.
    order = np.lexsort((first, group))
    lead = order[np.searchsorted(group[order], np.arange(count))]
    return group[inverse.ravel()].astype(np.int64), exact[lead]


def _edges(path: Path, segment: np.ndarray, at: np.ndarray, label: np.ndarray, snap_mm: float):
    """Spans between neighbouring cuts of each segment; those shorter than a node are no edges."""
    order = np.lexsort((at, segment))
    segment, at, label = segment[order], _settled(segment[order], at[order], label[order]), label[order]
    same = segment[1:] == segment[:-1]
    longer = (label[1:] != label[:-1]) | (at[1:] - at[:-1] > 1e-6)
    keep = np.flatnonzero(same & longer)
    rows, span = segment[keep], np.column_stack([at[keep], at[keep + 1]])
    ends = np.column_stack([label[keep], label[keep + 1]])
    # An edge from a node to itself is a loop only where it goes somewhere between.
    loop = ends[:, 0] == ends[:, 1]
    if loop.any():
        middle = points_at(path, rows, span.mean(axis=1))
        start = points_at(path, rows, span[:, 0])
        loop &= np.hypot(*(middle - start).T) <= snap_mm
        rows, span, ends = rows[~loop], span[~loop], ends[~loop]
    return rows, span, ends


def _settled(segment: np.ndarray, at: np.ndarray, label: np.ndarray) -> np.ndarray:
    """Cuts of a segment that are one node have one parameter: the end's where one of them is an end, else the first's.
    Where curves touch, the place along them is found less sharply than they lie to each other."""
    apart = (segment[1:] != segment[:-1]) | (label[1:] != label[:-1]) | (at[1:] - at[:-1] > NEAR_PARAMETER)
    run = np.concatenate([[0], np.cumsum(apart)])
    first = np.concatenate([[0], np.flatnonzero(apart) + 1])
    last = np.concatenate([np.flatnonzero(apart), [len(at) - 1]])
    return np.where(at[last] == 1.0, 1.0, at[first])[run]


def _merged(path: Path, node, segment, span, ends, operand, operands: int, snap_mm: float) -> Arrangement:
    """Edges between the same nodes that lie on each other become one."""
    from ..kernels.coinciding_edges import same_edges

    low, high = ends.min(axis=1), ends.max(axis=1)
    order = np.lexsort((high, low))
    segment, span, ends, low, high = segment[order], span[order], ends[order], low[order], high[order]
    kinds, geometry = curve_table(path)
    firsts = np.ascontiguousarray(ends[:, 0])
    lead, sign = same_edges(low, high, firsts, segment, np.ascontiguousarray(span), kinds, geometry, snap_mm)
    leaders = np.flatnonzero(lead == np.arange(len(lead)))
    number = np.zeros(len(lead), np.int64)
    number[leaders] = np.arange(len(leaders))
    net = np.zeros((len(leaders), operands), np.int64)
    np.add.at(net, (number[lead], operand[segment]), sign)
    # What is run along as often one way as the other parts nothing from nothing.
    there = net.any(axis=1)
    chosen = leaders[there]
    return Arrangement(path, node, segment[chosen], span[chosen], ends[chosen], net[there])
