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
_AREA = re.compile(r"(?s)^(.*?)\s*(?:([A-Za-z]+)\s*[2\u00b2]?)?\s*$")


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


def parse_area(text: str, unit: str = "mm") -> float:
    """Square millimetres of a typed area such as "2mm2", "0.5 in2" or "3"; raises BadRequest for anything else."""
    number, name = _AREA.match(text).groups()
    return parse_length(number or text, name or unit) * parse_length("1", name or unit)


def parse_angle(text: str) -> float:
    """Degrees of a typed angle such as "30", "30deg" or "-12.5\u00b0"; raises BadRequest for anything else."""
    plain = re.sub(r"\s*(deg|degrees|\u00b0)\s*$", "", text.strip()).replace(",", ".")
    try:
        return float(plain)
    except ValueError:
        raise BadRequest(f'"{text}" is not an angle: type a number of degrees, such as 30 or -12.5deg.') from None


def as_mm(value: float) -> str:
    """A length for people: two decimals below 100 mm, one above, without needless zeros."""
    text = f"{value:.2f}" if abs(value) < 100 else f"{value:.1f}"
    text = text.rstrip("0").rstrip(".")
    return f"{'0' if text == '-0' else text} mm"


def size_text(width: float, height: float) -> str:
    """A width and a height for people."""
    return f"{as_mm(width).removesuffix(' mm')} \u00d7 {as_mm(height)}"


#: Things that most people can picture, by their longer side in millimetres; any length from the first to the last is
#: within 15 % of one of them. Sheets: ISO 216; card: ISO/IEC 7810; disc: IEC 60908; cap: DIN 6099; the others: common
#: practice.
_COMPARE = (
    (3.0, "a sesame seed"),
    (3.9, "a match is thick"),
    (5.0, "a peppercorn"),
    (6.5, "a grain of rice"),
    (8.5, "a pencil is thick"),
    (11.0, "a shirt button"),
    (14.5, "a fingernail"),
    (19.0, "a small coin"),
    (25.0, "a large coin"),
    (32.0, "a bottle cap"),
    (40.0, "a table tennis ball"),
    (53.0, "a matchbox"),
    (67.0, "a tennis ball"),
    (85.6, "a bank card"),
    (105.0, "a postcard's short side"),
    (120.0, "a compact disc"),
    (148.0, "a postcard"),
    (190.0, "a new pencil is long"),
    (240.0, "a school notebook"),
    (297.0, "an A4 sheet"),
    (353.0, "a B4 sheet"),
    (420.0, "an A3 sheet"),
    (500.0, "a B3 sheet"),
    (594.0, "an A2 sheet"),
    (707.0, "a B2 sheet"),
    (841.0, "an A1 sheet"),
    (1000.0, "a metre rule"),
    (1189.0, "an A0 sheet"),
    (1500.0, "a double bed is wide"),
    (1700.0, "a bath tub"),
    (2000.0, "a door is tall"),
)
WITHIN = 1.15


def in_words(width_mm: float, height_mm: float) -> str:
    """A size in words a person can check, by the longer side; nothing where there is no size."""
    longer = max(width_mm, height_mm)
    if longer <= 0:
        return ""
    side = "wide" if width_mm >= height_mm else "tall"
    size, thing = min(_COMPARE, key=lambda each: max(each[0] / longer, longer / each[0]))
    if longer > size * WITHIN:
        return f"larger than a door, {longer / 1000:.1f} m {side}"
    return f"about as {side} as {thing}" if longer * WITHIN >= size else f"smaller than {thing}"
