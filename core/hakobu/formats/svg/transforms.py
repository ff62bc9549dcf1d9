"""Transforms as attributes and as CSS write them. Sources: SVG 1.1, section 7.6; CSS Transforms 1, sections 6 and 7."""

from __future__ import annotations

import math
import re

import numpy as np

from ...geometry import IDENTITY, compose, rotation, scaling, translation
from ...geometry.path_data import NUMBER
from .values import Viewport

_FUNCTION = re.compile(r"\s*,?\s*([A-Za-z]+)\s*\(([^)]*)\)")
_ANGLE = re.compile(rf"^({NUMBER.pattern})(deg|rad|grad|turn)?$")
_DEGREES = {None: 1.0, "deg": 1.0, "rad": 180 / math.pi, "grad": 0.9, "turn": 360.0}
_PLACES = {"left": "0%", "top": "0%", "center": "50%", "right": "100%", "bottom": "100%"}


def parse_transform(text: str, viewport: Viewport) -> np.ndarray | None:
    """The matrix of a transform list, or None where it is not well formed."""
    matrix, at = IDENTITY, 0
    for found in _FUNCTION.finditer(text):
        if text[at : found.start()].strip(" ,\t\r\n"):
            return None
        words = [word for word in re.split(r"[\s,]+", _apart(found[2].strip())) if word]
        part = _one(found[1], words, viewport)
        if part is None or not np.isfinite(part).all():
            return None
        matrix, at = compose(matrix, part), found.end()
    return None if text[at:].strip(" ,\t\r\n") else matrix


def _apart(text: str) -> str:
    """Numbers that stand without a space between them ("10-5") get one."""
    return re.sub(r"(?<=[\d.%a-z])(?<![eE])([+-])", r" \1", text)


def _one(name: str, words: list[str], viewport: Viewport) -> np.ndarray | None:
    count = len(words)
    if name in ("translate", "translateX", "translateY"):
        if not 1 <= count <= (2 if name == "translate" else 1):
            return None
        x = viewport.across(words[0], None) if name != "translateY" else 0.0
        y = viewport.down(words[-1], None) if name == "translateY" or count == 2 else 0.0
        return None if x is None or y is None else translation(x, y)
    if name in ("rotate", "skew", "skewX", "skewY"):
        angle = _degrees(words[0]) if words else None
        if angle is None:
            return None
        if name == "rotate":
            return _rotated(angle, words[1:], viewport)
        other = _degrees(words[1]) if count == 2 and name == "skew" else 0.0
        if other is None or count > (2 if name == "skew" else 1):
            return None
        slant, rise = math.tan(math.radians(angle)), math.tan(math.radians(other))
        if name == "skewY":
            slant, rise = 0.0, slant
        return np.array([[1.0, slant, 0.0], [rise, 1.0, 0.0]])
    numbers = [number for word in words if (number := _plain(word)) is not None]
    if len(numbers) < len(words):
        return None
    if name == "matrix" and count == 6:
        a, b, c, d, e, f = numbers
        return np.array([[a, c, e], [b, d, f]])
    if name == "scale" and count in (1, 2):
        return scaling(*numbers)
    if name in ("scaleX", "scaleY") and count == 1:
        return scaling(numbers[0], 1.0) if name == "scaleX" else scaling(1.0, numbers[0])
    return None


def _rotated(angle: float, centre: list[str], viewport: Viewport) -> np.ndarray | None:
    turn = rotation(math.radians(angle))
    if not centre:
        return turn
    if len(centre) != 2:
        return None
    x, y = viewport.across(centre[0], None), viewport.down(centre[1], None)
    if x is None or y is None:
        return None
    return compose(translation(x, y), compose(turn, translation(-x, -y)))


def _degrees(word: str) -> float | None:
    match = _ANGLE.match(word)
    return float(match[1]) * _DEGREES[match[2]] if match else None


def _plain(word: str) -> float | None:
    if word.endswith("%") and NUMBER.fullmatch(word[:-1]):
        return float(word[:-1]) / 100
    return float(word) if NUMBER.fullmatch(word) else None


def origin_of(text: str, viewport: Viewport) -> tuple[float, float] | None:
    """The place of `transform-origin` in user units, percentages of the viewport; None where it cannot be read."""
    words = text.split()[:2]
    if not words:
        return 0.0, 0.0
    if len(words) == 1:
        words = ["50%", words[0]] if words[0] in ("top", "bottom") else [words[0], "50%"]
    elif words[0] in ("top", "bottom") or words[1] in ("left", "right"):
        words.reverse()
    x = viewport.across(_PLACES.get(words[0], words[0]), None)
    y = viewport.down(_PLACES.get(words[1], words[1]), None)
    return None if x is None or y is None else (x, y)
