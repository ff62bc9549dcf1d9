"""The company's own lettering: capitals 100 units high, written by hand as path data, each with its advance."""

from __future__ import annotations

#: letter -> (path data, width). Counters run against their outer outline.
LETTERS: dict[str, tuple[str, float]] = {
    "A": ("M30 0H48L78 100H59L53 79H25L19 100H0Z M39 28L30 62H48Z", 78),
    "D": ("M0 0H34C60 0 74 18 74 50C74 82 60 100 34 100H0Z M18 17V83H33C48 83 55 72 55 50C55 28 48 17 33 17Z", 74),
    "E": ("M0 0H58V17H18V41H50V58H18V83H58V100H0Z", 58),
    "H": ("M0 0H18V40H52V0H70V100H52V58H18V100H0Z", 70),
    "K": ("M0 0H18V41L46 0H68L36 46L70 100H48L24 62L18 70V100H0Z", 70),
    "L": ("M0 0H18V83H56V100H0Z", 56),
    "N": ("M0 0H18L52 66V0H70V100H52L18 34V100H0Z", 70),
    "O": (
        "M40 0C64 0 80 20 80 50C80 80 64 100 40 100C16 100 0 80 0 50C0 20 16 0 40 0Z "
        "M40 17C27 17 19 30 19 50C19 70 27 83 40 83C53 83 61 70 61 50C61 30 53 17 40 17Z",
        80,
    ),
    "R": (
        "M0 0H38C58 0 68 12 68 31C68 46 61 56 48 60L72 100H51L30 62H18V100H0Z "
        "M18 17V46H36C45 46 49 40 49 31C49 22 45 17 36 17Z",
        72,
    ),
    "T": ("M0 0H66V17H42V100H24V17H0Z", 66),
}

GAP = 12.0
SPACE = 42.0


def lay_out(text: str, height_mm: float) -> list[tuple[str, float]]:
    """(letter, x in mm) of a line of text whose capitals are so high."""
    scale, x, placed = height_mm / 100, 0.0, []
    for letter in text:
        if letter == " ":
            x += SPACE
            continue
        placed.append((letter, round(x * scale, 3)))
        x += LETTERS[letter][1] + GAP
    return placed
