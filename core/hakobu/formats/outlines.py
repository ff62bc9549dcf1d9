"""Outlines of many shapes, each in its own units, in millimetres: moved and checked all at once."""

from __future__ import annotations

from array import array
from collections.abc import Sequence
from dataclasses import replace
from typing import Protocol, TypeVar

import numpy as np

from ..geometry import ARC, Path, transform
from ..geometry.affine import similarity_sign
from ..geometry.build import Built, join_built

#: Ten kilometres: what lies farther out is a mistake, and would drown the rest.
FARTHEST_MM = 1e7
#: Segments that are moved at once.
PART = 20_000


class Drawn(Protocol):
    """built: the outlines in their own units; matrix: to millimetres."""

    @property
    def built(self) -> Built: ...

    @property
    def matrix(self) -> np.ndarray: ...


def paths_of(shapes: Sequence[Drawn]) -> list[Path | None]:
    """The path of each shape, or None where it lies farther out than anything can be meant to."""
    whole, owner = path_of_all(shapes)
    counts = np.bincount(owner, minlength=len(shapes))
    paths = whole.split(counts.tolist())
    return [path if counts[i] else None for i, path in enumerate(paths)]


def path_of_all(shapes: Sequence[Drawn]) -> tuple[Path, np.ndarray]:
    """One path of all shapes that do not lie farther out than anything can be meant to, and the number of the shape
    that each outline (K,) is of. The shapes' own coordinates are used up: of a large file they take much room."""
    if not shapes:
        return join_built([]), np.zeros(0, np.int64)
    # Most shapes share their matrix with others.
    known = {id(shape.matrix): shape.matrix for shape in shapes}
    place = {key: i for i, key in enumerate(known)}
    matrices = np.array(list(known.values())).reshape(-1, 2, 3)
    signs = [similarity_sign(matrix) for matrix in known.values()]
    which = [place[id(shape.matrix)] for shape in shapes]
    near = np.flatnonzero(_are_near(shapes, matrices[which])).tolist()
    # Arcs under a matrix that makes ellipses of them become cubics, one shape after the other; the rest go together.
    odd = [i for i in near if signs[which[i]] == 0 and ARC in shapes[i].built.kinds]
    apart = set(odd)
    plain = [i for i in near if i not in apart]
    parts = [_turned(shapes[i].built, signs[which[i]]) for i in plain]
    owner = np.repeat([which[i] for i in plain] or np.zeros(0, np.int64), [len(part.kinds) for part in parts])

    def moved(ctrl: np.ndarray) -> np.ndarray:
        # In place and in parts: the file's numbers are the most that there is in memory.
        for a in range(0, len(ctrl), PART):
            own = matrices[owner[a : a + PART]]
            ctrl[a : a + PART] = ctrl[a : a + PART] @ own[:, :, :2].transpose(0, 2, 1) + own[:, None, :, 2]
        return ctrl

    whole = join_built(parts, moved, used_up=True)
    shape_of = np.repeat(np.array(plain, np.int64), [len(part.closed) for part in parts])
    if odd:
        own = [transform(join_built([shapes[i].built]), shapes[i].matrix) for i in odd]
        shape_of = np.concatenate([shape_of, np.repeat(odd, [len(path) for path in own])])
        order = np.argsort(shape_of, kind="stable")
        whole, shape_of = Path.concatenate([whole, *own]).take(order.tolist()), shape_of[order]
    return whole, shape_of


def far_origin(shapes: Sequence[Drawn]) -> np.ndarray:
    """Where a drawing lies of which most is farther out than FARTHEST_MM, as survey and site plans are (2,), in mm; the
    origin where most is near."""
    matrices = np.array([shape.matrix for shape in shapes]).reshape(-1, 2, 3)
    first = np.array([(shape.built.coordinates[0], shape.built.coordinates[1]) for shape in shapes])
    with np.errstate(over="ignore", invalid="ignore"):
        places = (matrices[:, :, :2] @ first[:, :, None])[:, :, 0] + matrices[:, :, 2]
    places = places[np.isfinite(places).all(axis=1)]
    middle = np.median(places, axis=0) if len(places) else np.zeros(2)
    return middle if np.abs(middle).max() >= FARTHEST_MM else np.zeros(2)


_Shape = TypeVar("_Shape", bound="Drawn")


def moved_by(shapes: Sequence[_Shape], by: np.ndarray) -> list[_Shape]:
    """The shapes moved by so much (2,), in mm."""
    known: dict[int, np.ndarray] = {}
    for shape in shapes:
        known.setdefault(id(shape.matrix), shape.matrix + np.column_stack([np.zeros((2, 2)), by]))
    return [replace(shape, matrix=known[id(shape.matrix)]) for shape in shapes]  # pyright: ignore[reportArgumentType]


def _are_near(shapes: Sequence[Drawn], matrices: np.ndarray) -> np.ndarray:
    """Which shapes lie within FARTHEST_MM, whatever their matrices (N, 2, 3) do to their largest coordinate."""
    box = np.array([_box(shape.built.coordinates) for shape in shapes])
    with np.errstate(over="ignore", invalid="ignore"):
        corners = box[:, [[0, 1], [2, 1], [0, 3], [2, 3]]] @ matrices[:, :, :2].transpose(0, 2, 1)
        reach = np.abs(corners + matrices[:, None, :, 2]).max(axis=(1, 2))
    return reach < FARTHEST_MM


def _box(numbers: array) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of coordinates x, y one after the other."""
    across, down = numbers[::2], numbers[1::2]
    return min(across), min(down), max(across), max(down)


def _turned(built: Built, sign: int) -> Built:
    """Under a mirror arcs turn the other way."""
    return built._replace(bulges=array("d", [-bulge for bulge in built.bulges])) if sign < 0 else built
