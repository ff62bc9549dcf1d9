"""The outlines of all shapes of a drawing in millimetres, moved and checked all at once."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...geometry import ARC, Path, transform
from ...geometry.affine import similarity_sign
from ...geometry.build import Built, join_built
from .walk import Drawn

#: Ten kilometres: what lies farther out is a mistake, and would drown the rest.
FARTHEST_MM = 1e7


def paths_of(shapes: Sequence[Drawn]) -> list[Path | None]:
    """The path of each shape, or None where it lies farther out than anything can be meant to."""
    paths: list[Path | None] = [None] * len(shapes)
    signs = _signs(shapes)
    near = [i for i, shape in enumerate(shapes) if _is_near(shape)]
    # Arcs under a matrix that makes ellipses of them become cubics, one shape after the other; the rest go together.
    odd = {i for i in near if signs[id(shapes[i].matrix)] == 0 and ARC in shapes[i].built.kinds}
    for i in odd:
        paths[i] = transform(join_built([shapes[i].built]), shapes[i].matrix)
    plain = [i for i in near if i not in odd]
    parts = [_turned(shapes[i].built, signs[id(shapes[i].matrix)]) for i in plain]
    matrices = np.array([shapes[i].matrix for i in plain]).reshape(-1, 2, 3)
    owner = np.repeat(np.arange(len(plain)), [len(part.rows) for part in parts])

    def moved(ctrl: np.ndarray) -> np.ndarray:
        own = matrices[owner]
        return ctrl @ own[:, :, :2].transpose(0, 2, 1) + own[:, None, :, 2]

    whole = join_built(parts, moved)
    for i, path in zip(plain, whole.split([len(part.closed) for part in parts]), strict=True):
        paths[i] = path
    return paths


def _signs(shapes: Sequence[Drawn]) -> dict[int, int]:
    """Whether each matrix keeps circles round (1, mirrored -1) or not (0); most shapes share theirs with others."""
    return {key: similarity_sign(matrix) for key, matrix in {id(s.matrix): s.matrix for s in shapes}.items()}


def _is_near(shape: Drawn) -> bool:
    largest = max(max(map(abs, row)) for row in shape.built.rows)
    reach = float(np.abs(shape.matrix[:, :2]).sum()) * largest + float(np.abs(shape.matrix[:, 2]).max())
    return reach < FARTHEST_MM


def _turned(built: Built, sign: int) -> Built:
    """Under a mirror arcs turn the other way."""
    return built._replace(bulges=[-bulge for bulge in built.bulges]) if sign < 0 else built
