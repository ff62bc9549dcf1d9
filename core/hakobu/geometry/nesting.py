"""Which outlines are the holes of which: shapes out of lines that a file has only one by one."""

from __future__ import annotations

import numpy as np

from .flatten import flatten, points_at
from .measure import outline_bounds, signed_areas
from .path import Path

#: Chords are this near to the curves, as a share of an outline's size, and never coarser than that many mm.
CHORD_SHARE, CHORD_MM = 1e-3, 0.05
#: An outline that another one lies in is larger by more than this: a copy is not inside the other.
LARGER = 1 + 1e-6


def parents_of(path: Path, areas: np.ndarray | None = None, boxes: np.ndarray | None = None) -> np.ndarray:
    """For each outline (K,) the smallest closed one that it lies in, -1 for none. Of outlines that cross, and of copies
    in the same place, neither lies in the other. areas, boxes: `signed_areas` and `outline_bounds`, where they are
    known.

    A level ray from a place on each outline meets those that it lies in an odd number of times. Only outlines whose
    boxes hold its own are asked.
    """
    from .kernels.containing import boxes_in_boxes, smallest_about

    parent = np.full(len(path), -1)
    closed = np.flatnonzero(path.closed)
    if len(closed) < 2:
        return parent
    area = np.abs(signed_areas(path) if areas is None else areas)[closed]
    box = np.ascontiguousarray((outline_bounds(path) if boxes is None else boxes)[closed])
    # Most outlines lie in none and have none in them: only the others are worth their chords.
    asked, holds = boxes_in_boxes(*_tree(box), box, area, LARGER)
    if not asked.any():
        return parent
    closed, area, box, holds = closed[asked], area[asked], box[asked], holds[asked]
    own = path.take(closed)
    head = own.start[:-1]
    place = points_at(own, head, np.full(len(head), 0.5))
    around = own.take(np.flatnonzero(holds))
    fine = np.minimum(np.sqrt(area[holds]) * CHORD_SHARE, CHORD_MM)[around.outline_of] + 1e-6
    chords = flatten(around, fine)
    count = np.zeros(len(own), np.int64)
    count[holds] = np.diff(chords.start)
    start = np.concatenate([[0], np.cumsum(count)])
    found = smallest_about(place, *_tree(box), box, area, np.ascontiguousarray(chords.points), start, LARGER)
    inner = found >= 0
    parent[closed[inner]] = closed[found[inner]]
    return parent


def are_nested(box: np.ndarray) -> np.ndarray:
    """Which boxes (K, 4), left, top, right, bottom, lie in a larger one, or have a smaller one in them, (K,) bool."""
    from .kernels.containing import boxes_in_boxes

    box = np.ascontiguousarray(box, float)
    size = (box[:, 2] - box[:, 0]) * (box[:, 3] - box[:, 1])
    return boxes_in_boxes(*_tree(box), box, size, LARGER)[0] if len(box) > 1 else np.zeros(len(box), bool)


def _tree(box: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """A packed tree of boxes (K, 4), and their order in it, along a Z curve."""
    from .proximity.kernels.boxtree import packed, z_order

    order = np.argsort(z_order(box), kind="stable")
    return *packed(box, order), order


def shapes_of(path: Path) -> list[list[int]]:
    """The outlines of each shape: one that lies in none, or in a hole, with the holes in it; open ones each alone. In
    the order of their first outlines; in each the outer outline first."""
    parent = parents_of(path)
    depth = np.zeros(len(path), np.int64)
    at = parent.copy()
    while (there := at >= 0).any():
        depth[there] += 1
        at[there] = parent[at[there]]
    outer = np.where(depth % 2 == 1, parent, np.arange(len(path)))
    shapes: dict[int, list[int]] = {}
    for k in np.flatnonzero(depth % 2 == 0).tolist():
        shapes[k] = [k]
    for k in np.flatnonzero(depth % 2 == 1).tolist():
        shapes[int(outer[k])].append(k)
    return sorted(shapes.values(), key=min)
