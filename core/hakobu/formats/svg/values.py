"""Numbers, lengths and viewports as SVG writes them."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from ...geometry import compose, scaling, translation
from ...geometry.path_data import NUMBER
from ...model.units import MM_PER_UNIT

_LENGTH = re.compile(rf"^\s*({NUMBER.pattern})\s*([a-zA-Z]*|%)\s*$")
#: The default size of a font, and the units that are shares of it (CSS Values 3, section 5.1; ex and ch are half of it
#: where the font is not known).
FONT_PX = 16.0
_OF_FONT = {"em": 1.0, "ex": 0.5, "ch": 0.5}


def numbers(text: str) -> list[float]:
    return [float(n) for n in NUMBER.findall(text)]


def split_length(text: str | None) -> tuple[float, str] | None:
    """(number, unit) of a length; the unit is "" where none stands. None where it is no length or not finite."""
    match = _LENGTH.match(text or "")
    if not match or not math.isfinite(float(match[1])):
        return None
    return float(match[1]), match[2].lower()


#: What is taken where a length is missing.
_Default = TypeVar("_Default", float, None)


def user_units(text: str | None, whole: float, default: _Default = 0.0, font: float = FONT_PX) -> float | _Default:
    """A length in user units (px of CSS), the default where it is none; whole is what 100 % means."""
    parts = split_length(text)
    if parts is None:
        return default
    value, unit = parts
    if unit == "%":
        return value / 100 * whole
    if unit in _OF_FONT:
        return value * _OF_FONT[unit] * font
    if unit == "rem":
        return value * FONT_PX
    return value * MM_PER_UNIT[unit] / MM_PER_UNIT["px"] if unit in MM_PER_UNIT else value


@dataclass(frozen=True)
class Viewport:
    """What percentages mean, the nearest viewport's width and height in user units; and the size of the font."""

    width: float
    height: float
    font: float = FONT_PX

    @property
    def diagonal(self) -> float:
        return ((self.width**2 + self.height**2) / 2) ** 0.5

    def across(self, text: str | None, default: _Default = 0.0) -> float | _Default:
        return user_units(text, self.width, default, self.font)

    def down(self, text: str | None, default: _Default = 0.0) -> float | _Default:
        return user_units(text, self.height, default, self.font)

    def any_way(self, text: str | None, default: _Default = 0.0) -> float | _Default:
        """A length that is neither across nor down: a radius, a width of a line."""
        return user_units(text, self.diagonal, default, self.font)


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
