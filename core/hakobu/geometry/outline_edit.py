"""Outlines opened, joined, and begun elsewhere. Nodes are numbered as `nodes_of` gives them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np

from .path import LINE, Path, line_controls

#: Ends so near to each other, in mm, are one when they are joined.
JOINED_MM = 1e-6


def started(path: Path, node: int) -> Path:
    """A closed outline that begins at a node."""
    outline = int(path.outline_of[node])
    parts = list(path.outlines())
    parts[outline] = _rotated(path, outline, node, closed=True)
    return Path.concatenate(parts)


def opened(path: Path, nodes: Iterable[int]) -> Path:
    """Outlines opened at nodes: a closed one begins and ends there, an open one becomes two."""
    cuts = sorted({node for node in nodes if node < path.segment_count})
    parts = []
    for k in range(len(path)):
        first, end = int(path.start[k]), int(path.start[k + 1])
        own = [node for node in cuts if first <= node < end]
        if not own or (not path.closed[k] and own == [first]):
            parts.append(path.take([k]))
        elif path.closed[k]:
            rows = np.roll(np.arange(first, end), -(own[0] - first))
            parts += _pieces(path, rows, [node - own[0] for node in own])
        else:
            parts += _pieces(path, np.arange(first, end), sorted({0, *(node - first for node in own)}))
    return Path.concatenate(parts)


def _pieces(path: Path, rows: np.ndarray, starts: Sequence[int]) -> list[Path]:
    return [_of(path, rows[a:b], False) for a, b in zip(starts, [*starts[1:], len(rows)], strict=True)]


def _rotated(path: Path, outline: int, node: int, closed: bool) -> Path:
    first, end = int(path.start[outline]), int(path.start[outline + 1])
    return _of(path, np.roll(np.arange(first, end), -(node - first)), closed)


def joined(path: Path, one: int, other: int) -> Path:
    """The outline that two loose ends make when a line joins them; nothing between them where they lie on each other.
    Both ends of one outline close it. Raises ValueError where a node is no loose end."""
    (a, at_end), (b, to_end) = _end(path, one), _end(path, other)
    if a == b:
        rows = np.arange(int(path.start[a]), int(path.start[a + 1]))
        made = _closed(_of(path, rows, False))
        return Path.concatenate([made if k == a else path.take([k]) for k in range(len(path))])
    first = path.take([a]) if at_end else path.take([a]).reversed()
    second = path.take([b]).reversed() if to_end else path.take([b])
    made = _chained(first, second)
    return Path.concatenate([made if k == a else path.take([k]) for k in range(len(path)) if k != b])


def _end(path: Path, node: int) -> tuple[int, bool]:
    """The outline that a loose end is of, and whether it is its last point."""
    if node >= path.segment_count:
        return int(np.flatnonzero(~path.closed)[node - path.segment_count]), True
    outline = int(path.outline_of[node])
    if path.closed[outline] or node != path.start[outline]:
        raise ValueError("only loose ends can be joined")
    return outline, False


def _chained(first: Path, second: Path) -> Path:
    start, end = first.ctrl[-1, 3], second.ctrl[0, 0]
    far = float(np.hypot(*(end - start)))
    between = line_controls(start[None], end[None]) if far > JOINED_MM else np.zeros((0, 4, 2))
    ctrl = np.concatenate([first.ctrl, between, second.ctrl])
    if far <= JOINED_MM:
        ctrl[len(first.ctrl), 0] = start
    extra = len(between)
    kind = np.concatenate([first.kind, np.full(extra, LINE, np.uint8), second.kind])
    bulge = np.concatenate([first.bulge, np.zeros(extra), second.bulge])
    return Path(ctrl, kind, bulge, [0, len(kind)], [False])


def _closed(outline: Path) -> Path:
    start, end = outline.ctrl[0, 0], outline.ctrl[-1, 3]
    ctrl, kind, bulge = outline.ctrl.copy(), outline.kind, outline.bulge
    if np.hypot(*(end - start)) > JOINED_MM:
        ctrl = np.concatenate([ctrl, line_controls(end[None], start[None])])
        kind, bulge = np.append(kind, np.uint8(LINE)), np.append(bulge, 0.0)
    else:
        ctrl[-1, 3] = start
    return Path(ctrl, kind, bulge, [0, len(kind)], [True])


def _of(path: Path, rows: np.ndarray, closed: bool) -> Path:
    return Path(path.ctrl[rows], path.kind[rows], path.bulge[rows], [0, len(rows)], [closed])
