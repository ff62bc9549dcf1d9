"""Moving, turning, scaling and shearing whole paths. A matrix is (2, 3) float64: [[a, c, e], [b, d, f]] as in SVG."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from .arcs import centre_and_radius, cubics_needed, unit_arc_cubics
from .path import ARC, CUBIC, Path
from .tolerances import STRAIGHT_BULGE

IDENTITY = np.array([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]])
IDENTITY.flags.writeable = False


def compose(outer: np.ndarray, inner: np.ndarray) -> np.ndarray:
    """The matrix that applies inner first, then outer."""
    result = outer[:, :2] @ inner
    result[:, 2] += outer[:, 2]
    return result


def translation(x: float, y: float) -> np.ndarray:
    return np.array([[1.0, 0.0, x], [0.0, 1.0, y]])


def scaling(x: float, y: float | None = None) -> np.ndarray:
    return np.array([[x, 0.0, 0.0], [0.0, x if y is None else y, 0.0]])


def rotation(angle: float) -> np.ndarray:
    """Turns from +x towards +y by an angle in radians."""
    cos, sin = np.cos(angle), np.sin(angle)
    return np.array([[cos, -sin, 0.0], [sin, cos, 0.0]])


def similarity_sign(matrix: np.ndarray) -> int:
    """1 where the matrix keeps circles round, -1 where it also mirrors, 0 where it makes ellipses of them."""
    (a, c), (b, d) = matrix[:, :2]
    near = 1e-12 * max(abs(a), abs(b), abs(c), abs(d))
    if abs(a - d) <= near and abs(b + c) <= near:
        return 1
    if abs(a + d) <= near and abs(b - c) <= near:
        return -1
    return 0


def transform(path: Path, matrix: np.ndarray) -> Path:
    """The path under a matrix. A similarity keeps arcs; any other makes cubics of them, within 1e-4 mm."""
    sign = similarity_sign(matrix)
    if sign == 0 and (path.kind == ARC).any():
        path = arcs_to_cubics(path, float(np.linalg.norm(matrix[:, :2], 2)))
    points = path.ctrl.reshape(-1, 2) @ matrix[:, :2].T
    points += matrix[:, 2]
    return Path.taking(points.reshape(-1, 4, 2), path.kind, path.bulge * (sign or 1), path.start, path.closed)


def transform_each(paths: Sequence[Path], matrix: np.ndarray) -> list[Path]:
    """Many paths under one matrix: as `transform`, all at once."""
    whole = transform(Path.concatenate(paths), matrix)
    sizes = np.cumsum([0] + [len(path) for path in paths])
    return [whole.between(int(a), int(b)) for a, b in zip(sizes, sizes[1:], strict=False)]


def arcs_to_cubics(path: Path, scale: float = 1.0) -> Path:
    """The path with every arc as cubics, within 1e-4 mm once drawn at the given scale."""
    arc = np.flatnonzero((path.kind == ARC) & (np.abs(path.bulge) >= STRAIGHT_BULGE))
    first, last, bulge = path.ctrl[arc, 0], path.ctrl[arc, 3], path.bulge[arc]
    centre, radius = centre_and_radius(first, last, bulge)
    sweep = 4 * np.arctan(bulge)
    pieces = np.ones(path.segment_count, int)
    pieces[arc] = cubics_needed(sweep, radius * scale)
    at = np.concatenate([[0], np.cumsum(pieces)])
    rows = np.repeat(np.arange(path.segment_count), pieces)
    ctrl = path.ctrl[rows].copy()
    kind = np.where(path.kind[rows] == ARC, CUBIC, path.kind[rows])
    begin = np.arctan2(first[:, 1] - centre[:, 1], first[:, 0] - centre[:, 0])
    for i, segment in enumerate(arc):
        curves = centre[i] + radius[i] * unit_arc_cubics(begin[i], sweep[i], pieces[segment])
        curves[0, 0], curves[-1, 3] = first[i], last[i]
        ctrl[at[segment] : at[segment + 1]] = curves
    return Path(ctrl, kind, np.zeros(len(rows)), at[path.start], path.closed)
