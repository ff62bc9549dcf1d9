"""Curves as they are moved by their nodes, and by how long their handles are and where they point."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import Path, flatten
from ..geometry.nodes import SMOOTH_RADIANS
from ..geometry.path import CUBIC, LINE
from ..geometry.search import following_of

#: Borders are drawn within this of their curves, from places no farther apart, in pixels.
WITHIN_PX, APART_PX = 0.01, 1.0
#: Handles shorter than this, in pixels, turn no farther than those as long.
SHORTEST_PX = 1.0
#: Ends closer than this share of a segment's length are one place: it cannot be turned about.
LEAST_CHORD = 1e-9


@dataclass(frozen=True)
class Handles:
    """What moves borders, numbered: first across and down for each node, then how long both handles of each segment
    are, then how each tangent turns.

    node (M, 2): the nodes that each segment goes from and to; way (M, 2, 2): where its handles point, zeros for those
    that have none; long (M, 2): how long they are; tangent (M, 2): the tangent that each lies on, shared where curves
    go on smoothly, -1 for those that do not turn; reach (M, 2): pixels that the longest handle on it goes while it
    turns by one radian; count: of nodes; tangents: of tangents.
    """

    node: np.ndarray
    way: np.ndarray
    long: np.ndarray
    tangent: np.ndarray
    reach: np.ndarray
    count: int
    tangents: int

    @property
    def turns(self) -> int:
        """The number of what turns the first tangent."""
        return 2 * self.count + 2 * len(self.way)

    @property
    def size(self) -> int:
        return self.turns + self.tangents


@dataclass(frozen=True)
class Chords:
    """Short straight parts of borders: middle (N, 2); long (N,): how long they are; border (N,); mover (N, 8) and
    by (N, 8): what moves each to its right, and how far for one pixel: both nodes of its segment, across and down, how
    long both handles are, and how they turn."""

    middle: np.ndarray
    long: np.ndarray
    border: np.ndarray
    mover: np.ndarray
    by: np.ndarray


def handles_of(path: Path, ends: np.ndarray) -> Handles:
    """ends (C, 2): numbers of the places that each outline goes from and to, shared by those that meet there; -1 where
    it goes round."""
    first, last = path.start[:-1], path.start[1:] - 1
    node = np.empty((path.segment_count, 2), np.int64)
    shared = int(ends.max(initial=-1)) + 1
    node[:, 0] = shared + np.arange(path.segment_count)
    node[:-1, 1] = node[1:, 0]
    open_ = ends[:, 0] >= 0
    node[first[open_], 0] = ends[open_, 0]
    node[last, 1] = np.where(open_, ends[:, 1], node[first, 0])
    way = np.stack([path.ctrl[:, 1] - path.ctrl[:, 0], path.ctrl[:, 2] - path.ctrl[:, 3]], axis=1)
    size = np.hypot(way[..., 0], way[..., 1])
    curve = (path.kind == CUBIC)[:, None] & (size > 0)
    way = np.where(curve[..., None], way / np.where(curve, size, 1)[..., None], 0)
    tangent, tangents = _tangents(path, curve)
    reach = np.full(tangents + 1, SHORTEST_PX)
    np.maximum.at(reach, tangent, size)
    return Handles(node, way, np.where(curve, size, 0), tangent, reach[tangent], shared + path.segment_count, tangents)


def _tangents(path: Path, curve: np.ndarray) -> tuple[np.ndarray, int]:
    """The tangent of each handle (M, 2), and how many there are. Where a curve goes on in a line or an arc, or from
    one, it lies on theirs."""
    tangent = np.arange(2 * len(curve)).reshape(-1, 2)
    before, after = _smooth_joins(path)
    tangent[after, 0] = tangent[before, 1]
    for own, other, end in ((before, after, 1), (after, before, 0)):
        tangent[own[path.kind[other] != CUBIC], end] = -1
    tangent[~curve] = -1
    used, number = np.unique(tangent[tangent >= 0], return_inverse=True)
    tangent[tangent >= 0] = number
    return tangent, len(used)


def _smooth_joins(path: Path) -> tuple[np.ndarray, np.ndarray]:
    """Segments, and those that go on from them smoothly by the tangents of their handles."""
    following = following_of(path)
    before = np.flatnonzero(following >= 0)
    after = following[before]
    leaves, enters = path.ctrl[before, 3] - path.ctrl[before, 2], path.ctrl[after, 1] - path.ctrl[after, 0]
    both = np.hypot(*leaves.T) * np.hypot(*enters.T)
    cross = leaves[:, 0] * enters[:, 1] - leaves[:, 1] * enters[:, 0]
    smooth = (np.abs(cross) < SMOOTH_RADIANS * both) & ((leaves * enters).sum(axis=1) > 0)
    return before[smooth], after[smooth]


def chords_of(path: Path, handles: Handles) -> tuple[Chords, np.ndarray, np.ndarray]:
    """Chords of a path in pixels; and the places (N, 2) and start (C+1,) that they were made from."""
    flat = flatten(path, WITHIN_PX, APART_PX)
    places, start = np.ascontiguousarray(flat.points), flat.start
    inner = np.ones(len(places), bool)
    inner[start[1:] - 1] = False
    at = np.flatnonzero(inner)
    segment = flat.segment[at]
    until = np.where(flat.segment[at + 1] == segment, flat.parameter[at + 1], 1.0)
    until = np.where(until > flat.parameter[at], until, 1.0)
    t = (flat.parameter[at] + until) / 2
    middle, step = (places[at] + places[at + 1]) / 2, places[at + 1] - places[at]
    right = np.stack([-step[:, 1], step[:, 0]], axis=1)
    size = np.hypot(*step.T)
    normal = right / np.maximum(size, 1e-12)[:, None]
    mover, by = _movers(path, handles, segment, t, middle, normal)
    return Chords(middle, size, path.outline_of[segment], mover, by), places, start


def _movers(path: Path, handles: Handles, segment, t, middle, normal) -> tuple[np.ndarray, np.ndarray]:
    a, b = path.ctrl[segment, 0], path.ctrl[segment, 3]
    curve = path.kind[segment] == CUBIC
    # Lines and arcs turn and grow with their ends; in the plane of complex numbers that is a product.
    chord = (b - a) @ (1, 1j)
    far = np.abs(chord) > LEAST_CHORD
    share = np.where(far, ((middle - a) @ (1, 1j)) / np.where(far, chord, 1), 0.5)
    u = 1 - t
    share = np.where(curve, 3 * u * t * t + t**3, share)
    last = np.stack(
        [normal[:, 0] * share.real + normal[:, 1] * share.imag, normal[:, 1] * share.real - normal[:, 0] * share.imag],
        axis=1,
    )
    own = np.stack([3 * u * u * t, 3 * u * t * t], axis=1) * curve[:, None]
    way = handles.way[segment]
    grown = own * np.einsum("nkj,nj->nk", way, normal)
    turned = own * (way[..., 0] * normal[:, None, 1] - way[..., 1] * normal[:, None, 0])
    turned *= (handles.long * (handles.tangent >= 0) / handles.reach)[segment]
    node = handles.node[segment]
    number = 2 * handles.count + 2 * segment
    places = [2 * node[:, 0], 2 * node[:, 0] + 1, 2 * node[:, 1], 2 * node[:, 1] + 1, number, number + 1]
    # Handles that do not turn are moved by nothing, whatever stands for it.
    tangent = handles.turns + np.maximum(handles.tangent[segment], 0)
    mover = np.concatenate([np.stack(places, axis=1), np.minimum(tangent, handles.size - 1)], axis=1)
    return mover, np.concatenate([normal - last, last, grown, turned], axis=1)


def moved(path: Path, handles: Handles, move: np.ndarray, turn: np.ndarray) -> Path:
    """The path with each of what moves it moved; turn (2, 2) takes moves to what the path is measured in. Curves that
    went on from lines smoothly still do."""
    nodes = move[: 2 * handles.count].reshape(-1, 2) @ turn
    grown = move[2 * handles.count : handles.turns].reshape(-1, 2)
    angle = np.append(move[handles.turns :], 0)[handles.tangent] / handles.reach
    round_ = (handles.way @ (1, 1j)) * np.exp(1j * angle) * np.maximum(handles.long + grown, 0)
    arms = np.stack([round_.real, round_.imag], axis=-1) @ turn
    ctrl = path.ctrl.copy()
    a, b = nodes[handles.node[:, 0]], nodes[handles.node[:, 1]]
    ctrl[:, 0] += a
    ctrl[:, 3] += b
    curve = (path.kind == CUBIC)[:, None]
    ctrl[:, 1] = np.where(curve, ctrl[:, 0] + arms[:, 0], (2 * ctrl[:, 0] + ctrl[:, 3]) / 3)
    ctrl[:, 2] = np.where(curve, ctrl[:, 3] + arms[:, 1], (ctrl[:, 0] + 2 * ctrl[:, 3]) / 3)
    _turn_with_lines(path, ctrl)
    return Path(ctrl, path.kind, path.bulge, path.start, path.closed)


def _turn_with_lines(path: Path, ctrl: np.ndarray) -> None:
    """Turns the handles of curves that lines went on in, or went on from, to where these lie now: ctrl (M, 4, 2)."""
    before, after = _smooth_joins(path)
    for line, curve, end, sign in ((before, after, 0, 1), (after, before, 3, -1)):
        turns = (path.kind[line] == LINE) & (path.kind[curve] == CUBIC)
        line, curve, handle = line[turns], curve[turns], end + sign
        way = ctrl[line, 3] - ctrl[line, 0]
        size = np.hypot(*(ctrl[curve, handle] - ctrl[curve, end]).T) / np.maximum(np.hypot(*way.T), LEAST_CHORD)
        ctrl[curve, handle] = ctrl[curve, end] + sign * size[:, None] * way
