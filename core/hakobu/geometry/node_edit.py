"""Outlines changed node by node. Nodes are numbered as `nodes_of` gives them: the start of each segment, then the ends
of open outlines in their order."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np

from .corners import spans
from .flatten import points_at
from .path import ARC, CUBIC, LINE, Path, line_controls
from .proximity.places import Places


def node_count(path: Path) -> int:
    return path.segment_count + int((~path.closed).sum())


def around_node(path: Path, node: int) -> tuple[int, int]:
    """The segments that come to a node and leave it, -1 where none does."""
    if node >= path.segment_count:
        outline = int(np.flatnonzero(~path.closed)[node - path.segment_count])
        return int(path.start[outline + 1]) - 1, -1
    outline = int(path.outline_of[node])
    first, last = int(path.start[outline]), int(path.start[outline + 1]) - 1
    if node > first:
        return node - 1, node
    return (last if path.closed[outline] else -1), node


def node_after(path: Path, segment: int) -> int:
    """The node that a segment ends at."""
    outline = int(path.outline_of[segment])
    if segment + 1 < path.start[outline + 1]:
        return segment + 1
    if path.closed[outline]:
        return int(path.start[outline])
    return path.segment_count + int((~path.closed[:outline]).sum())


def moved(path: Path, nodes: Iterable[int], by: tuple[float, float]) -> Path:
    """Nodes moved with their handles; lines stay straight, arcs keep their angle."""
    ctrl = path.ctrl.copy()
    step = np.asarray(by, float)
    for node in set(nodes):
        before, after = around_node(path, node)
        if before >= 0:
            ctrl[before, 3] += step
            ctrl[before, 2] += step
        if after >= 0:
            ctrl[after, 0] += step
            ctrl[after, 1] += step
    return _with(path, ctrl=ctrl)


def handle_moved(path: Path, segment: int, end: int, to: tuple[float, float], even: bool) -> Path:
    """The handle of a segment at its start (0) or its end (1) moved; a line or an arc becomes a curve. even: the other
    handle of the node turns with it."""
    path = _as_cubics(path, [segment])
    ctrl = path.ctrl.copy()
    ctrl[segment, 1 + end] = to
    node = ctrl[segment, 3 * end]
    other = _neighbour(path, segment, end)
    if even and other >= 0 and path.kind[other] == CUBIC:
        own = 2 if end == 0 else 1
        size = np.hypot(*(ctrl[other, own] - node))
        way = node - np.asarray(to)
        length = np.hypot(*way)
        if size > 0 and length > 0:
            ctrl[other, own] = node + way / length * size
    return _with(path, ctrl=ctrl)


def _neighbour(path: Path, segment: int, end: int) -> int:
    """The segment on the other side of the node at a segment's start or end."""
    outline = int(path.outline_of[segment])
    first, last = int(path.start[outline]), int(path.start[outline + 1]) - 1
    at = segment + (1 if end else -1)
    if first <= at <= last:
        return at
    return (first if end else last) if path.closed[outline] else -1


def added(path: Path, near: tuple[float, float]) -> Path:
    """A node more, where the outlines come nearest to a place; the line stays what it is."""
    found = Places(path).nearest(np.array([near], float))
    segment, t = int(found.segment[0]), float(np.clip(found.parameter[0], 1e-3, 1 - 1e-3))
    rows = np.insert(np.arange(path.segment_count), segment, segment)
    first, last = np.zeros(len(rows)), np.ones(len(rows))
    last[segment], first[segment + 1] = t, t
    start = path.start + (np.arange(len(path.start)) > path.outline_of[segment])
    return _spanned(path, rows, first, last, start)


def _spanned(path: Path, rows: np.ndarray, first: np.ndarray, last: np.ndarray, start: np.ndarray) -> Path:
    """Segments of a path, some of them parts of what they were."""
    loose = Path(
        path.ctrl[rows], path.kind[rows], path.bulge[rows], np.arange(len(rows) + 1), np.zeros(len(rows), bool)
    )
    ctrl, bulge = spans(loose, first, last)
    return Path(ctrl, path.kind[rows], bulge, start, path.closed)


def deleted(path: Path, nodes: Iterable[int]) -> Path:
    """Without nodes: the two sides of each become one, which leaves and arrives as they did. An outline that has too
    few left is gone."""
    gone = set(nodes)
    kept = []
    for outline, own in enumerate(_nodes_of_outlines(path)):
        stay = [node for node in own if node not in gone]
        closed = bool(path.closed[outline])
        if len(stay) == len(own):
            kept.append(path.take([outline]))
        elif len(stay) >= 2:
            kept.append(_through(path, stay, closed))
    return Path.concatenate(kept)


def _nodes_of_outlines(path: Path) -> list[list[int]]:
    ends = iter(range(path.segment_count, node_count(path)))
    found = []
    for k in range(len(path)):
        own = list(range(int(path.start[k]), int(path.start[k + 1])))
        found.append(own if path.closed[k] else [*own, next(ends)])
    return found


def _through(path: Path, stay: Sequence[int], closed: bool) -> Path:
    """An outline through some of its nodes: what lies between two of them as one segment."""
    pairs = list(zip(stay, [*stay[1:], stay[0]] if closed else stay[1:], strict=False))
    ctrl, kinds, bulges = [], [], []
    for a, b in pairs:
        run = _run(path, a, b)
        if len(run) == 1:
            ctrl.append(path.ctrl[run[0]])
            kinds.append(path.kind[run[0]])
            bulges.append(path.bulge[run[0]])
            continue
        start, end = path.ctrl[run[0], 0], path.ctrl[run[-1], 3]
        bulges.append(0.0)
        if (path.kind[run] == LINE).all():
            ctrl.append(line_controls(start[None], end[None])[0])
            kinds.append(LINE)
        else:
            whole = _as_cubics(path, run)
            sizes = np.hypot(*(whole.ctrl[run, 3] - whole.ctrl[run, 0]).T)
            total = max(float(sizes.sum()), 1e-12)
            one = start + (whole.ctrl[run[0], 1] - start) * total / max(sizes[0], 1e-12)
            other = end + (whole.ctrl[run[-1], 2] - end) * total / max(sizes[-1], 1e-12)
            ctrl.append(np.stack([start, one, other, end]))
            kinds.append(CUBIC)
    return Path(np.stack(ctrl), np.array(kinds), np.array(bulges), [0, len(ctrl)], [closed])


def _run(path: Path, a: int, b: int) -> list[int]:
    """The segments from a node to another one of the same outline."""
    outline = int(path.outline_of[a])
    first, size = int(path.start[outline]), int(path.start[outline + 1] - path.start[outline])
    begin = a - first
    end = size if b >= path.segment_count else b - first
    count = (end - begin) % size if path.closed[outline] else end - begin
    return [first + (begin + k) % size for k in range(count or size)]


def smooth(path: Path, nodes: Iterable[int]) -> Path:
    """Nodes through which the line runs smoothly: both handles lie on one line, as long as they were."""
    nodes = set(nodes)
    sides = {node: around_node(path, node) for node in nodes}
    path = _as_cubics(path, sorted({s for pair in sides.values() for s in pair if s >= 0}))
    ctrl = path.ctrl.copy()
    for before, after in sides.values():
        if before < 0 or after < 0:
            continue
        node = ctrl[after, 0]
        into, out = node - ctrl[before, 2], ctrl[after, 1] - node
        sizes = np.hypot(*into), np.hypot(*out)
        way = into / max(sizes[0], 1e-12) + out / max(sizes[1], 1e-12)
        if np.hypot(*way) < 1e-9:
            way = np.array([-into[1], into[0]])
        way = way / max(np.hypot(*way), 1e-12)
        ctrl[before, 2], ctrl[after, 1] = node - way * sizes[0], node + way * sizes[1]
    return _with(path, ctrl=ctrl)


def corner(path: Path, nodes: Iterable[int]) -> Path:
    """Nodes at which the line turns: their handles point straight to the neighbours."""
    ctrl = path.ctrl.copy()
    for node in set(nodes):
        before, after = around_node(path, node)
        if before >= 0 and path.kind[before] == CUBIC:
            ctrl[before, 2] = ctrl[before, 3] + (ctrl[before, 0] - ctrl[before, 3]) / 3
        if after >= 0 and path.kind[after] == CUBIC:
            ctrl[after, 1] = ctrl[after, 0] + (ctrl[after, 3] - ctrl[after, 0]) / 3
    return _with(path, ctrl=ctrl)


def segments_between(path: Path, nodes: Iterable[int]) -> list[int]:
    """The segments both of whose nodes are among some."""
    own = set(nodes)
    found = []
    for outline, all_nodes in enumerate(_nodes_of_outlines(path)):
        following = [*all_nodes[1:], all_nodes[0]] if path.closed[outline] else all_nodes[1:]
        rows = range(int(path.start[outline]), int(path.start[outline + 1]))
        ends = zip(rows, all_nodes, following, strict=False)
        found += [row for row, a, b in ends if a in own and b in own]
    return found


def straight(path: Path, segments: Sequence[int]) -> Path:
    kind, bulge = path.kind.copy(), path.bulge.copy()
    kind[segments], bulge[segments] = LINE, 0.0
    return _with(path, kind=kind, bulge=bulge)


def as_arcs(path: Path, segments: Sequence[int]) -> Path:
    """Segments as true arcs from end to end, through the middle of what they were; at most half circles."""
    rows = np.array(segments, np.int64)
    middle = points_at(path, rows, np.full(len(rows), 0.5))
    first, last = path.ctrl[rows, 0], path.ctrl[rows, 3]
    chord = last - first
    size = np.maximum(np.hypot(*chord.T), 1e-12)
    off = middle - (first + last) / 2
    # A turn from +x towards +y bulges to the other side.
    rise = (chord[:, 1] * off[:, 0] - chord[:, 0] * off[:, 1]) / size
    bulge, kind = path.bulge.copy(), path.kind.copy()
    bulge[rows] = np.clip(rise / (size / 2), -1.0, 1.0)
    kind[rows] = np.where(np.abs(bulge[rows]) > 1e-6, ARC, LINE)
    bulge[rows] = np.where(kind[rows] == ARC, bulge[rows], 0.0)
    return _with(path, kind=kind, bulge=bulge)


def _as_cubics(path: Path, segments: Sequence[int]) -> Path:
    """Some segments as cubics: arcs by one each, which is exact enough to be edited (within 2e-2 of the radius at half
    a circle), lines by their thirds."""
    rows = np.array([s for s in segments if path.kind[s] != CUBIC], np.int64)
    if not len(rows):
        return path
    ctrl, kind, bulge = path.ctrl.copy(), path.kind.copy(), path.bulge.copy()
    arcs = rows[path.kind[rows] == ARC]
    if len(arcs):
        chord = ctrl[arcs, 3] - ctrl[arcs, 0]
        half = 2 * np.arctan(bulge[arcs])
        # The handles of an arc: 4/3 tan(sweep / 4) of the radius, turned by half the sweep off the chord.
        radius = np.hypot(*chord.T) / (2 * np.sin(np.abs(half)))
        size = 4 / 3 * np.abs(bulge[arcs]) * radius
        way = chord / np.hypot(*chord.T)[:, None]

        def turned(angle: np.ndarray) -> np.ndarray:
            cos, sin = np.cos(angle), np.sin(angle)
            return np.column_stack([way[:, 0] * cos - way[:, 1] * sin, way[:, 0] * sin + way[:, 1] * cos])

        ctrl[arcs, 1] = ctrl[arcs, 0] + turned(-half) * size[:, None]
        ctrl[arcs, 2] = ctrl[arcs, 3] - turned(half) * size[:, None]
    kind[rows], bulge[rows] = CUBIC, 0.0
    return _with(path, ctrl=ctrl, kind=kind, bulge=bulge)


def _with(path: Path, ctrl: np.ndarray | None = None, kind=None, bulge=None) -> Path:
    """A path of other arrays; the inner points of lines and arcs lie at the thirds again."""
    ctrl = path.ctrl.copy() if ctrl is None else ctrl
    kind = path.kind if kind is None else kind
    plain = np.flatnonzero(kind != CUBIC)
    ctrl[plain] = line_controls(ctrl[plain, 0], ctrl[plain, 3])
    return Path(ctrl, kind, path.bulge if bulge is None else bulge, path.start, path.closed)
