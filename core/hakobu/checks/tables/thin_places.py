"""The narrowest places of what is cut, as if overlapping shapes were welded."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...geometry import Path
from ...geometry.boolean import NotCombined, Operand, union
from ...geometry.narrow import narrowest_places
from ...geometry.proximity.near_segments import near_sides
from ...model import Conditions, Material
from ..double_outline import double_outlines
from ..overlapping_shape import crossed_pieces
from ..sliver import slivers
from .nesting import OUTER
from .outlines import OutlineTable
from .small_outlines import least_areas, least_strips

#: Pieces that cross each other more often are not made one: that they cross is told of.
MOST_CROSSINGS = 15_000
#: From this share of all outlines on they are looked at where they are, in the path of all.
MOST_OF_THEM = 0.8


@dataclass(frozen=True)
class ThinPlaces:
    """width (N,) in mm; points (N, 2, 2), the two that face each other; piece (N, 2), the numbers of the pieces that
    they lie on; inside (N,), whether it is a strip, else a gap; layer (N,); reach (N, 4); outline (N, 2), the numbers
    of the outlines that they lie on, -1 for one that several make together."""

    width: np.ndarray
    points: np.ndarray
    piece: np.ndarray
    inside: np.ndarray
    layer: np.ndarray
    reach: np.ndarray
    outline: np.ndarray


def thin_places_of(table: OutlineTable, conditions: Conditions) -> ThinPlaces:
    """All that are thinner than the materials' least strips, or gaps narrower than their least gaps."""
    key = "thin", conditions.key
    if key not in table.kept:
        table.kept[key] = _found(table, conditions)
    return table.kept[key]


def near_sides_of(table: OutlineTable, conditions: Conditions) -> tuple[np.ndarray, np.ndarray]:
    """Which segments of closed outlines that are cut may be both sides of a thin place (M,), and which pairs of them
    (N, 2) its two."""
    key = "near", conditions.key
    if key not in table.kept:
        rows = np.flatnonzero(_large_enough(table, conditions))
        used = np.unique(table.group[rows]).tolist()
        below = max((_below(conditions.material_of(table.layers[layer])) for layer in used), default=0.0)
        chosen = _segments(table.path, rows)
        if len(rows) > MOST_OF_THEM * len(table.owner):
            # Each of the others in a group of its own: they are near nothing, and the path's chords are made once.
            group = -1 - np.arange(len(table.owner))
            group[rows] = table.group[rows]
            own, pairs = near_sides(table.path, below, group)
            found = own & chosen, pairs[chosen[pairs].all(axis=1)]
        else:
            own, pairs = near_sides(table.path.take(rows), below, table.group[rows])
            number = np.flatnonzero(chosen)
            found = np.isin(np.arange(len(chosen)), number[own]), number[pairs]
        table.kept[key] = found
    return table.kept[key]


def _large_enough(table: OutlineTable, conditions: Conditions) -> np.ndarray:
    """Closed outlines that are cut, but specks (K,): of these it is told that they are too small as a whole."""
    speck = (table.nested.role == OUTER) & (np.abs(table.area) < least_areas(table, conditions))
    return table.cut & table.path.closed & ~speck


def _below(material: Material) -> float:
    return max(material.least_strip_mm, material.least_gap_mm)


def _segments(path: Path, outlines: np.ndarray) -> np.ndarray:
    """Which segments (M,) belong to some outlines."""
    chosen = np.zeros(len(path), bool)
    chosen[outlines] = True
    return chosen[path.outline_of]


def _found(table: OutlineTable, conditions: Conditions) -> ThinPlaces:
    path, number, owner, group, near = _resolved(table, conditions)
    parts = []
    for layer in np.unique(group).tolist():
        own = np.flatnonzero(group == layer)
        material = conditions.material_of(table.layers[layer])
        shape = path.take(own.tolist())
        found = narrowest_places(shape, _below(material), near[_segments(path, own)])
        if not len(found):
            continue
        found = found.take(found.width < np.where(found.inside, material.least_strip_mm, material.least_gap_mm))
        sides = own[found.outline]
        layers = np.full(len(found), layer)
        parts.append((found.width, found.points, owner[sides], found.inside, layers, found.reach, number[sides]))
    if not parts:
        none = np.zeros(0, np.int64)
        pairs = np.zeros((0, 2), np.int64)
        return ThinPlaces(np.zeros(0), np.zeros((0, 2, 2)), pairs, none.astype(bool), none, np.zeros((0, 4)), pairs)
    all_ = [np.concatenate(column) for column in zip(*parts, strict=True)]
    order = np.argsort(all_[0], kind="stable")
    return ThinPlaces(*(column[order] for column in all_))


def _resolved(
    table: OutlineTable, conditions: Conditions
) -> tuple[Path, np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """Closed outlines that are cut, without copies, slivers and lines drawn by both sides; those of pieces that cross
    each other or themselves as the outline of what they paint together; the number of the outline, -1 where it was
    made so, of the piece and of the layer of each; which of all segments may be a side of a thin place."""
    use = _large_enough(table, conditions)
    large = use.copy()
    use[[match.doubled for match in table.doubled(conditions.tolerance_mm)]] = False
    use[slivers(table, conditions)[0]] = False
    least = least_strips(table, conditions)
    pairs = [pair[:2] for pair in double_outlines(table, conditions) if pair[2] < least[pair[0]]]
    use[[k for pair in pairs for k in pair]] = False
    gone = large & ~use
    parts = [(Path.concatenate([]), np.zeros(0, np.int64))]
    for members in _crossing(table, conditions):
        rows = np.isin(table.owner, members)
        # What is thin in them is looked at once that they cross is mended.
        if _crossed_too_often(table, members):
            use &= ~rows
            continue
        try:
            made = union(*(Operand(table.pieces[n].path, table.pieces[n].fill_rule) for n in members)).path
        except NotCombined:
            continue
        finally:
            use &= ~rows
        parts.append((made, np.full(len(made), members[0])))
    rows = np.flatnonzero(use)
    parts.append((table.path.take(rows.tolist()), table.owner[rows]))
    owner = np.concatenate([own for _, own in parts])
    layer = np.array([table.group[table.first[n]] for n in range(len(table.pieces))], np.int64)
    path = Path.concatenate(path for path, _ in parts)
    # Of what was made anew any may be.
    near = np.ones(path.segment_count, bool)
    kept = _near_others(table, conditions, gone)[_segments(table.path, rows)]
    near[len(near) - len(kept) :] = kept
    number = np.concatenate([np.full(len(owner) - len(rows), -1), rows])
    return path, number, owner, layer[owner], near


def _near_others(table: OutlineTable, conditions: Conditions, gone: np.ndarray) -> np.ndarray:
    """Which segments may be a side of a thin place (M,), without outlines that are gone (K,)."""
    own, pairs = near_sides_of(table, conditions)
    near = own.copy()
    near[pairs[~gone[table.path.outline_of[pairs]].any(axis=1)].ravel()] = True
    return near


def _crossing(table: OutlineTable, conditions: Conditions) -> list[list[int]]:
    """Pieces that hang together by crossing each other, and those that cross themselves."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    own = table.crossings.outlines
    own = table.owner[own[(own[:, 0] == own[:, 1]) & table.path.closed[own[:, 0]]]]
    pairs = [*crossed_pieces(table, conditions.tolerance_mm), *map(tuple, own.tolist())]
    pairs = [pair for pair in pairs if all(table.pieces[n].path.closed.all() for n in pair)]
    if not pairs:
        return []
    a, b = np.array(pairs).T
    count = len(table.pieces)
    label = connected_components(coo_array((np.ones(len(a)), (a, b)), shape=(count, count)), directed=False)[1]
    members = np.unique(np.concatenate([a, b]))
    order = members[np.argsort(label[members], kind="stable")]
    return [part.tolist() for part in np.split(order, np.flatnonzero(np.diff(label[order])) + 1)]


def _crossed_too_often(table: OutlineTable, members: list[int]) -> bool:
    """Whether some pieces cross each other more often than they can be made one."""
    owner = np.zeros(len(table.pieces), bool)
    owner[members] = True
    return int(owner[table.owner[table.crossings.outlines[:, 0]]].sum()) > MOST_CROSSINGS
