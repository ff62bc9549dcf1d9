"""Colours as they look: CIELAB of sRGB, and back. Sources: IEC 61966-2-1 for sRGB; CIE 15:2018 for CIELAB, with the
white point of D65 at two degrees."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

#: Linear sRGB to XYZ (IEC 61966-2-1).
TO_XYZ = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
WHITE = TO_XYZ.sum(axis=1)
#: (6/29)^3 and the slope below it (CIE 15:2018, 8.2.1.1).
EPSILON, KAPPA = 216 / 24389, 24389 / 27
#: Lighter than this, in L*, is white (common practice).
WHITE_LIGHTNESS = 97.0


def to_linear(rgb: np.ndarray) -> np.ndarray:
    """Gamma-coded sRGB from 0 to 1 to linear light."""
    return np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4)


def to_gamma(linear: np.ndarray) -> np.ndarray:
    linear = np.clip(linear, 0, 1)
    return np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055)


def to_lab(rgb: np.ndarray) -> np.ndarray:
    """sRGB (..., 3) from 0 to 1 -> L*, a*, b*."""
    xyz = to_linear(np.asarray(rgb, np.float64)) @ TO_XYZ.T / WHITE
    f = np.where(xyz > EPSILON, np.cbrt(xyz), (KAPPA * xyz + 16) / 116)
    x, y, z = np.moveaxis(f, -1, 0)
    return np.stack([116 * y - 16, 500 * (x - y), 200 * (y - z)], axis=-1)


def to_rgb(lab: np.ndarray) -> np.ndarray:
    """L*, a*, b* (..., 3) -> sRGB from 0 to 1, the nearest there is in each part."""
    lightness, a, b = np.moveaxis(np.asarray(lab, np.float64), -1, 0)
    y = (lightness + 16) / 116
    f = np.stack([y + a / 500, y, y - b / 200], axis=-1)
    xyz = np.where(f**3 > EPSILON, f**3, (116 * f - 16) / KAPPA) * WHITE
    return to_gamma(xyz @ np.linalg.inv(TO_XYZ).T)


@lru_cache(maxsize=4096)
def color_lab(color: str) -> np.ndarray:
    """L*, a*, b* (3,) of a colour #rrggbb."""
    lab = to_lab(np.array([int(color[k : k + 2], 16) for k in (1, 3, 5)]) / 255)
    lab.flags.writeable = False
    return lab


def lightness_of(color: str) -> float:
    """L* of a colour #rrggbb, from 0 to 100."""
    return float(color_lab(color)[0])


def is_white(color: str) -> bool:
    return lightness_of(color) > WHITE_LIGHTNESS


def is_light(color: str) -> bool:
    """Whether a colour is nearer to white than to black."""
    return lightness_of(color) > 55.0
