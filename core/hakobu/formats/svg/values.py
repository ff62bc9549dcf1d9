"""Numbers, lengths, transforms and viewports as SVG writes them."""

from __future__ import annotations

import math
import re

import numpy as np

from ...geometry import IDENTITY, compose, rotation, scaling, translation
from ...model.units import MM_PER_UNIT

NUMBER = re.compile(r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?")
_LENGTH = re.compile(rf"^\s*({NUMBER.pattern})\s*([a-zA-Z]*|%)\s*$")
_TRANSFORM = re.compile(r"\s*,?\s*(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
#: A font-relative length without a font: the default size of CSS, and half of it for ex.
_FONT_PX = {"em": 16.0, "rem": 16.0, "ex": 8.0}


def numbers(text: str) -> list[float]:
    return [float(n) for n in NUMBER.findall(text)]


def split_length(text: str | None) -> tuple[float, str] | None:
    """(number, unit) of a length; the unit is "" where none stands. None where it is no length or not finite."""
    match = _LENGTH.match(text or "")
    if not match or not math.isfinite(float(match[1])):
        return None
    return float(match[1]), match[2].lower()


def user_units(text: str | None, whole: float, default: float = 0.0) -> float:
    """A length in user units (px of CSS); whole is what 100 % means."""
    parts = split_length(text)
    if parts is None:
        return default
    value, unit = parts
    if unit == "%":
        return value / 100 * whole
    if unit in _FONT_PX:
        return value * _FONT_PX[unit]
    return value * MM_PER_UNIT[unit] / MM_PER_UNIT["px"] if unit in MM_PER_UNIT else value


def parse_transform(text: str) -> np.ndarray | None:
    """The matrix of a transform list, or None where it is not well formed. Source: SVG 1.1, section 7.6."""
    matrix, at = IDENTITY, 0
    for found in _TRANSFORM.finditer(text):
        if text[at : found.start()].strip(" ,\t\r\n"):
            return None
        part = _one_transform(found[1], numbers(found[2]))
        if part is None or not np.isfinite(part).all():
            return None
        matrix, at = compose(matrix, part), found.end()
    return None if text[at:].strip(" ,\t\r\n") else matrix


def _one_transform(name: str, n: list[float]) -> np.ndarray | None:
    count = len(n)
    if name == "matrix" and count == 6:
        return np.array([[n[0], n[2], n[4]], [n[1], n[3], n[5]]])
    if name == "translate" and count in (1, 2):
        return translation(n[0], n[1] if count == 2 else 0.0)
    if name == "scale" and count in (1, 2):
        return scaling(*n)
    if name == "rotate" and count in (1, 3):
        turn = rotation(math.radians(n[0]))
        if count == 1:
            return turn
        return compose(translation(n[1], n[2]), compose(turn, translation(-n[1], -n[2])))
    if name == "skewX" and count == 1:
        return np.array([[1.0, math.tan(math.radians(n[0])), 0.0], [0.0, 1.0, 0.0]])
    if name == "skewY" and count == 1:
        return np.array([[1.0, 0.0, 0.0], [math.tan(math.radians(n[0])), 1.0, 0.0]])
    return None


def parse_view_box(text: str | None) -> tuple[float, float, float, float] | None:
    values = numbers(text or "")
    if len(values) != 4 or values[2] <= 0 or values[3] <= 0:
        return None
    return values[0], values[1], values[2], values[3]


def fit_view_box(
    view_box: tuple[float, float, float, float], width: float, height: float, aspect: str | None
) -> np.ndarray:
    """The matrix from a viewBox to a viewport of width x height. Source: SVG 2, section 8.2."""
    left, top, w, h = view_box
    sx, sy = width / w, height / h
    words = (aspect or "xMidYMid meet").split()
    align = words[0] if words else "xMidYMid"
    if align == "none":
        return compose(scaling(sx, sy), translation(-left, -top))
    scale = max(sx, sy) if "slice" in words else min(sx, sy)
    share = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}
    x = (width - w * scale) * share.get(align[1:4], 0.5)
    y = (height - h * scale) * share.get(align[5:8], 0.5)
    return compose(translation(x, y), compose(scaling(scale), translation(-left, -top)))
