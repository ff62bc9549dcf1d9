"""PE, encoded polylines. Source: the HP-GL/2 and HP RTL reference guide, "PE, Polyline Encoded".

A number is doubled, one more if it is negative, and written in digits of base 64 (base 32 in seven bits), the lowest
first; the last digit has a range of characters of its own. Flags stand before the numbers that they are for.
"""

from __future__ import annotations

from collections.abc import Iterator

#: Base, first character of a digit, and of a last digit.
EIGHT_BITS, SEVEN_BITS = (64, 63, 191), (32, 63, 95)
PEN, UP, ABSOLUTE, FRACTION, SEVEN = ":<=>7"


class Broken(ValueError):
    """The encoded text ends within a number, or holds what belongs in none."""


def moves(text: str) -> Iterator[tuple[str, float, float]]:
    """("pen", number, 0), or ("up" or "down", x, y) with "-absolute" where the place is no step. Raises Broken."""
    system, fraction = EIGHT_BITS, 0
    up = absolute = False
    at, text = 0, "".join(text.split())
    while at < len(text) and text[at] != ";":
        char = text[at]
        if char == SEVEN:
            system, at = SEVEN_BITS, at + 1
        elif char == UP:
            up, at = True, at + 1
        elif char == ABSOLUTE:
            absolute, at = True, at + 1
        elif char in (PEN, FRACTION):
            value, at = _number(text, at + 1, system)
            if char == FRACTION:
                fraction = int(value)
            else:
                yield "pen", value, 0.0
        else:
            x, at = _number(text, at, system)
            y, at = _number(text, at, system)
            scale = 2.0**-fraction
            yield ("up" if up else "down") + ("-absolute" if absolute else ""), x * scale, y * scale
            up = absolute = False


def _number(text: str, at: int, system: tuple[int, int, int]) -> tuple[float, int]:
    base, first, last = system
    value, place = 0, 1
    while at < len(text):
        code = ord(text[at])
        at += 1
        if first <= code < first + base and not (system is SEVEN_BITS and code >= last):
            value, place = value + (code - first) * place, place * base
        elif last <= code < last + base:
            value += (code - last) * place
            return float(-(value >> 1) if value & 1 else value >> 1), at
        else:
            raise Broken(f'"{text[at - 1]}" belongs in no number')
    raise Broken("it ends within a number")


def encoded(value: int) -> str:
    """A whole number in seven bits, which every line carries."""
    base, first, last = SEVEN_BITS
    value = (abs(value) << 1) | (value < 0)
    out = []
    while value >= base:
        out.append(chr(first + value % base))
        value //= base
    out.append(chr(last + value))
    return "".join(out)
