"""Outlines of many shapes, each in its own units, in millimetres: moved and checked all at once."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

import numpy as np

from ..geometry import ARC, Path, transform
from ..geometry.affine import similarity_sign
from ..geometry.build import Built, join_built

#: Ten kilometres: what lies farther out is a mistake, and would drown the rest.
FARTHEST_MM = 1e7


class Drawn(Protocol):
    """built: the outlines in their own units; matrix: to millimetres."""

    built: Built
    matrix: np.ndarray


def paths_of(shapes: Sequence[Drawn]) -> list[Path | None]:
    """The path of each shape, or None where it lies farther out than anything can be meant to."""
    whole, owner = path_of_all(shapes)
    counts = np.bincount(owner, minlength=len(shapes))
    paths = whole.split(counts.tolist())
    return [path if counts[i] else None for i, path in enumerate(paths)]


def path_of_all(shapes: Sequence[Drawn]) -> tuple[Path, np.ndarray]:
    """One path of all shapes that do not lie farther out than anything can be meant to, and the number of the shape
    that each outline (K,) is of."""
    signs = _signs(shapes)
    near = [i for i, shape in enumerate(shapes) if _is_near(shape)]
    # Arcs under a matrix that makes ellipses of them become cubics, one shape after the other; the rest go together.
    odd = [i for i in near if signs[id(shapes[i].matrix)] == 0 and ARC in shapes[i].built.kinds]
    apart = set(odd)
    plain = [i for i in near if i not in apart]
    parts = [_turned(shapes[i].built, signs[id(shapes[i].matrix)]) for i in plain]
    matrices = np.array([shapes[i].matrix for i in plain]).reshape(-1, 2, 3)
    owner = np.repeat(np.arange(len(plain)), [len(part.rows) for part in parts])

    def moved(ctrl: np.ndarray) -> np.ndarray:
        own = matrices[owner]
        return ctrl @ own[:, :, :2].transpose(0, 2, 1) + own[:, None, :, 2]

    whole = join_built(parts, moved)
    shape_of = np.repeat(np.array(plain, np.int64), [len(part.closed) for part in parts])
    if odd:
        own = [transform(join_built([shapes[i].built]), shapes[i].matrix) for i in odd]
        shape_of = np.concatenate([shape_of, np.repeat(odd, [len(path) for path in own])])
        order = np.argsort(shape_of, kind="stable")
        whole, shape_of = Path.concatenate([whole, *own]).take(order.tolist()), shape_of[order]
    return whole, shape_of


def _signs(shapes: Sequence[Drawn]) -> dict[int, int]:
    """Whether each matrix keeps circles round (1, mirrored -1) or not (0); most shapes share theirs with others."""
    return {key: similarity_sign(matrix) for key, matrix in {id(s.matrix): s.matrix for s in shapes}.items()}


def _is_near(shape: Drawn) -> bool:
    rows = shape.built.rows
    largest = max(max(map(max, rows)), -min(map(min, rows)))
    reach = float(np.abs(shape.matrix[:, :2]).sum()) * largest + float(np.abs(shape.matrix[:, 2]).max())
    return reach < FARTHEST_MM


def _turned(built: Built, sign: int) -> Built:
    """Under a mirror arcs turn the other way."""
    return built._replace(bulges=[-bulge for bulge in built.bulges]) if sign < 0 else built
