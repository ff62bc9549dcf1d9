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
    "ft": 304.8,
    "pt": 25.4 / 72,
    "pc": 25.4 / 6,
    "px": 25.4 / 96,
    "q": 0.25,
}
MM_PER_INCH = 25.4
#: What a pixel is where a picture does not say: CSS Values 3, section 6.2.
PX_PER_INCH = 96.0
_NAMES = {
    '"': "in",
    "\u2033": "in",
    "'": "ft",
    "\u2032": "ft",
    "foot": "ft",
    "feet": "ft",
    "inch": "in",
    "inches": "in",
    "millimetre": "mm",
    "millimetres": "mm",
}
_NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?"
_PLAIN = r"(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?"
#: The longest length that anybody types, and how deep its brackets go.
MOST_LETTERS, MOST_DEEP = 200, 20
_AREA = re.compile(r"(?s)^(.*?)\s*(?:([A-Za-z]+)\s*[2\u00b2]?)?\s*$")


@dataclass(frozen=True, slots=True)
class FileUnit:
    """What the numbers of a file were taken for: the name of a unit, of which px, pixel (of a picture) and step (of a
    plotter) may be; how many millimetres one is; and whether the file or a person says so."""

    name: str
    mm: float
    stated: bool


def parse_length(text: str, unit: str = "mm") -> float:
    """Millimetres of a typed length such as "57mm", "2.4 in", "2 1/4 in", "3' 2\"" or "3,5"; of sums, differences and
    shares of lengths as well: "180/2", "40 + 2*1.5mm", "(10 + 5) * 2 cm". unit is meant where none stands.

    Raises BadRequest for anything else.
    """
    reader = _Typed(text, _unit(unit))
    value = reader.sum()
    if reader.at < len(reader.words):
        raise reader.wrong()
    return value.mm


def _unit(name: str) -> float:
    name = name.lower()
    name = _NAMES.get(name, name)
    if name not in MM_PER_UNIT:
        raise BadRequest(f'"{name}" is not a unit that is known here: use mm, cm, in, pt or px.')
    return MM_PER_UNIT[name]


@dataclass(frozen=True, slots=True)
class _Value:
    """A figure, and how many millimetres it means where no unit stands at it; None where one does: then it is in mm."""

    figure: float
    each: float | None

    @property
    def mm(self) -> float:
        return self.figure * (1.0 if self.each is None else self.each)


#: A fraction, with whole ones before it, or a number; and its unit. Or a sign.
_WORD = re.compile(
    rf"\s*(?:(?:(?:(\d+)[\s-]+)?(\d+)\s*/\s*(\d+)(?![\d.])|({_PLAIN}))\s*([A-Za-z\"\u2033'\u2032]*)"
    r"|([-+*/()\u00d7]))"
)


class _Typed:
    """A length as it is typed, read from the left: sums of products of figures with units."""

    def __init__(self, text: str, each: float) -> None:
        self.text, self.each, self.at, self.deep = text, each, 0, 0
        self.words: list[_Value | str] = []
        plain, at = text.replace(",", "."), 0
        if len(plain) > MOST_LETTERS:
            raise self.wrong()
        while plain[at:].strip():
            match = _WORD.match(plain, at)
            if not match:
                raise self.wrong()
            self.words.append(match[6] if match[6] else self._figure(match))
            at = match.end()

    def wrong(self) -> BadRequest:
        return BadRequest(f'"{self.text}" is not a length: type a number with a unit, such as 57mm or 2 1/4 in.')

    def _figure(self, match: re.Match) -> _Value:
        whole, top, below, number, name, _ = match.groups()
        if number is None and int(below) == 0:
            raise BadRequest(f'"{self.text}" divides by nothing: type a number with a unit, such as 2 1/4 in.')
        value = float(number) if number is not None else float(Fraction(int(top), int(below)) + int(whole or 0))
        return _Value(value * _unit(name), None) if name else _Value(value, self.each)

    def next_is(self, *signs: str) -> str:
        if self.at < len(self.words) and self.words[self.at] in signs:
            self.at += 1
            return str(self.words[self.at - 1])
        return ""

    def sum(self) -> _Value:
        made = self.product()
        while sign := self.next_is("+", "-"):
            other = self.product()
            made = self._added(made, other, -1.0 if sign == "-" else 1.0)
        return made

    def _added(self, one: _Value, other: _Value, sign: float) -> _Value:
        if one.each is not None and other.each is not None:
            return _Value(one.figure + sign * other.figure, self.each)
        return _Value(one.mm + sign * other.mm, None)

    def product(self) -> _Value:
        made = self.one()
        while True:
            sign = self.next_is("*", "/", "\u00d7")
            if not sign:
                # Feet and inches stand beside each other.
                if made.each is None and self.at < len(self.words) and isinstance(self.words[self.at], _Value):
                    made = self._added(made, self.one(), 1.0)
                    continue
                return made
            other = self.one()
            if sign == "/":
                if (other.each is None and made.each is not None) or other.figure == 0:
                    raise self.wrong()
                ratio = made.each is None and other.each is None
                made = _Value(made.figure / other.figure, self.each if ratio else made.each)
            elif made.each is None and other.each is None:
                raise self.wrong()
            else:
                made = _Value(made.figure * other.figure, None if None in (made.each, other.each) else self.each)

    def one(self) -> _Value:
        self.deep += 1
        if self.deep > MOST_DEEP or self.at >= len(self.words):
            raise self.wrong()
        try:
            if sign := self.next_is("-", "+"):
                value = self.one()
                return _Value(-value.figure if sign == "-" else value.figure, value.each)
            if self.next_is("("):
                value = self.sum()
                if not self.next_is(")"):
                    raise self.wrong()
                return value
            word = self.words[self.at]
            if not isinstance(word, _Value):
                raise self.wrong()
            self.at += 1
            return word
        finally:
            self.deep -= 1


def parse_area(text: str, unit: str = "mm") -> float:
    """Square millimetres of a typed area such as "2mm2", "0.5 in2" or "3"; raises BadRequest for anything else."""
    found = _AREA.match(text)
    number, name = found.groups() if found else ("", "")
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
