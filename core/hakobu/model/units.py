"""Lengths with their units, as people type them and as SVG states them."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction

from ..errors import BadRequest

#: Millimetres in a unit. CSS Values 3, section 6.2: 1in = 2.54cm = 96px = 72pt = 6pc; q is a quarter millimetre.
MM_PER_UNIT = {
    "mm": 1.0,
    "cm": 10.0,
    "m": 1000.0,
    "in": 25.4,
    "pt": 25.4 / 72,
    "pc": 25.4 / 6,
    "px": 25.4 / 96,
    "q": 0.25,
}
MM_PER_INCH = 25.4
#: What a pixel is where a picture does not say: CSS Values 3, section 6.2.
PX_PER_INCH = 96.0
_NAMES = {'"': "in", "\u2033": "in", "inch": "in", "inches": "in", "millimetre": "mm", "millimetres": "mm"}
_NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?"
_TYPED = re.compile(rf"^\s*(?:(\d+)[\s-]+)?(?:(\d+)\s*/\s*(\d+)|({_NUMBER}))\s*([A-Za-z\"\u2033]*)\s*$")


@dataclass(frozen=True, slots=True)
class FileUnit:
    """What the numbers of a file were taken for: the name of a unit, of which px, pixel (of a picture) and step (of a
    plotter) may be; how many millimetres one is; and whether the file or a person says so."""

    name: str
    mm: float
    stated: bool


def parse_length(text: str, unit: str = "mm") -> float:
    """Millimetres of a typed length such as "57mm", "2.4 in", "2 1/4 in" or "3,5"; unit is meant where none stands.

    Raises BadRequest for anything else.
    """
    match = _TYPED.match(text.replace(",", "."))
    if not match or (match[1] and match[4]):
        raise BadRequest(f'"{text}" is not a length: type a number with a unit, such as 57mm or 2 1/4 in.')
    whole, top, below, number, name = match.groups()
    name = (name or unit).lower()
    name = _NAMES.get(name, name)
    if name not in MM_PER_UNIT:
        raise BadRequest(f'"{name}" is not a unit that is known here: use mm, cm, in, pt or px.')
    if number is None and int(below) == 0:
        raise BadRequest(f'"{text}" divides by nothing: type a number with a unit, such as 2 1/4 in.')
    value = float(number) if number is not None else float(Fraction(int(top), int(below)) + int(whole or 0))
    return value * MM_PER_UNIT[name]


def as_mm(value: float) -> str:
    """A length for people: two decimals below 100 mm, one above, without needless zeros."""
    text = f"{value:.2f}" if abs(value) < 100 else f"{value:.1f}"
    text = text.rstrip("0").rstrip(".")
    return f"{'0' if text == '-0' else text} mm"


def size_text(width: float, height: float) -> str:
    """A width and a height for people."""
    return f"{as_mm(width).removesuffix(' mm')} \u00d7 {as_mm(height)}"


#: Things that most people can picture, by their longer side in millimetres. Sizes: coin and card are common practice;
#: postcard ISO A6, sheets ISO 216.
_COMPARE = (
    (3, "a grain of rice"),
    (8, "a shirt button"),
    (15, "a thumbnail"),
    (28, "a large coin"),
    (60, "a matchbox"),
    (95, "a bank card"),
    (125, "a cup"),
    (165, "a postcard"),
    (240, "a school notebook"),
    (330, "an A4 sheet"),
    (470, "an A3 sheet"),
    (700, "an A2 sheet"),
    (1000, "a kitchen table is deep"),
    (2300, "a door is high"),
)


def in_words(width_mm: float, height_mm: float) -> str:
    """A size in words a person can check, by the longer side."""
    longer = max(width_mm, height_mm)
    side = "wide" if width_mm >= height_mm else "tall"
    for limit, thing in _COMPARE:
        if longer <= limit:
            return f"about as {side} as {thing}"
    return f"larger than a door, {longer / 1000:.1f} m {side}"
