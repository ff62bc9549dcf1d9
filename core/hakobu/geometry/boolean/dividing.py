"""All the faces that outlines make, each with the shapes that cover it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..path import Path
from .combining import WAYS, Operand, covered, operands_of, outlined


@dataclass(frozen=True)
class Divided:
    """path: the outlines of all faces, outer ones clockwise on the screen and holes the other way; face (K,), the face
    that each belongs to, F of them; source (M,) and span (M, 2) as of `Combined`. covers: for each face the numbers of
    the shapes that cover it, none where outlines enclose what no shape paints."""

    path: Path
    face: np.ndarray
    covers: list[tuple[int, ...]]
    source: np.ndarray
    span: np.ndarray

    def of(self, face: int) -> Path:
        """The outlines of one face."""
        return self.path.take(np.flatnonzero(self.face == face))


def divide(*shapes: Operand | Path) -> Divided:
    """All bounded faces between the outlines of the shapes, in the order of their first segments: laid side by side
    they are what the shapes cover and enclose. Raises NotCombined as `combine` does."""
    path, owner, evenodd = operands_of(shapes)
    if not path.segment_count:
        return Divided(path, np.zeros(0, np.int64), [], np.zeros(0, np.int64), np.zeros((0, 2)))
    from ..kernels.outlines import all_cycles

    made, covers = covered(path, owner, evenodd, WAYS.index("union"), listed=True)
    order, start = all_cycles(made.before, made.cycle, len(made.area))
    # The outside of a component is a hole in the face that it lies in; round all of them there is none.
    face_of = np.arange(len(made.area))
    nested = made.parent >= 0
    face_of[made.outside] = np.where(nested, made.cycle[made.parent], -1)
    bounded = np.flatnonzero(_settled(face_of, made.outside) >= 0)
    rows = np.concatenate([np.arange(start[c], start[c + 1]) for c in bounded] or [np.zeros(0, np.int64)])
    counts = np.diff(start)[bounded]
    result, segment, span = outlined(made, order[rows], np.concatenate([[0], np.cumsum(counts)]))
    faces, face = np.unique(face_of[bounded], return_inverse=True)
    listed = [tuple(covers.cover[covers.begin[c] : covers.begin[c + 1]].tolist()) for c in faces]
    return Divided(result, face, listed, made.rows[segment], span)


def _settled(face_of: np.ndarray, outside: np.ndarray) -> np.ndarray:
    """The face that each cycle bounds, -1 for the one round everything. A component may lie in the outer face of
    another one that lies there with it."""
    for _ in range(len(outside)):
        again = np.where(face_of >= 0, face_of[face_of], -1)
        if (again == face_of).all():
            break
        face_of[:] = again
    return face_of
