"""Circular arcs by bulge, and elliptical arcs as the nearest cubics."""

from __future__ import annotations

import numpy as np

from .tolerances import CONIC_MM

#: Largest radial error of the usual cubic for a quarter circle of radius 1 (derived in the tests). It falls with the
#: sixth power of the sweep.
QUARTER_ERROR = 2.7253e-4


def centre_and_radius(first: np.ndarray, last: np.ndarray, bulge: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Centres (M, 2) and radii (M,) of arcs given by their ends (M, 2) and bulges (M,), none of them straight."""
    chord = last - first
    normal = np.stack([-chord[:, 1], chord[:, 0]], axis=1)
    centre = (first + last) / 2 + normal * ((1 - bulge**2) / (4 * bulge))[:, None]
    radius = np.hypot(chord[:, 0], chord[:, 1]) * (1 + bulge**2) / (4 * np.abs(bulge))
    return centre, radius


def cubics_needed(sweep: np.ndarray, radius: np.ndarray, tolerance_mm: float = CONIC_MM) -> np.ndarray:
    """How many cubics stand in for arcs of these sweeps (radians) and radii (mm) within the tolerance."""
    quarters = np.abs(sweep) / (np.pi / 2)
    grow = np.maximum(QUARTER_ERROR * radius / tolerance_mm, 1e-12) ** (1 / 6)
    return np.maximum(np.ceil(quarters * np.maximum(grow, 1 / 1.35) - 1e-9), 1).astype(int)


def unit_arc_cubics(start: float, sweep: float, count: int) -> np.ndarray:
    """Cubics (count, 4, 2) along the unit circle from an angle, in radians; the handle is 4/3 tan(step / 4)."""
    step = sweep / count
    handle = 4 / 3 * np.tan(step / 4)
    angles = start + step * np.arange(count + 1)
    point = np.stack([np.cos(angles), np.sin(angles)], axis=1)
    tangent = np.stack([-point[:, 1], point[:, 0]], axis=1) * handle
    return np.stack([point[:-1], point[:-1] + tangent[:-1], point[1:] - tangent[1:], point[1:]], axis=1)


def endpoint_to_centre(
    first: np.ndarray, last: np.ndarray, rx: float, ry: float, rotation: float, large: bool, sweep: bool
) -> tuple[np.ndarray, float, float, float, float]:
    """Centre, radii (grown where they cannot reach), start angle and sweep of an arc given by its ends.

    Source: SVG 2, appendix B.2.4 "Conversion from endpoint to center parameterization" and B.2.5 for the radii.
    """
    cos, sin = np.cos(rotation), np.sin(rotation)
    half = (first - last) / 2
    x, y = cos * half[0] + sin * half[1], -sin * half[0] + cos * half[1]
    reach = (x / rx) ** 2 + (y / ry) ** 2
    if reach > 1:
        rx, ry = rx * np.sqrt(reach), ry * np.sqrt(reach)
    rest = max(rx**2 * ry**2 - rx**2 * y**2 - ry**2 * x**2, 0.0) / (rx**2 * y**2 + ry**2 * x**2)
    factor = np.sqrt(rest) * (-1 if large == sweep else 1)
    cx, cy = factor * rx * y / ry, -factor * ry * x / rx
    centre = np.array([cos * cx - sin * cy, sin * cx + cos * cy]) + (first + last) / 2
    start = np.arctan2((y - cy) / ry, (x - cx) / rx)
    turn = np.arctan2((-y - cy) / ry, (-x - cx) / rx) - start
    if sweep and turn < 0:
        turn += 2 * np.pi
    if not sweep and turn > 0:
        turn -= 2 * np.pi
    return centre, rx, ry, float(start), float(turn)
