"""Numbers and things in sentences."""

from __future__ import annotations


def counted(count: int, one: str, many: str = "") -> str:
    """A number of things inside a sentence: "one hole", "1,200 holes"."""
    return f"one {one}" if count == 1 else f"{count:,} {many or one + 's'}"


def number_of(count: int, one: str, many: str = "") -> str:
    """A number of things in figures: "1 hole", "1,200 holes"."""
    return f"{count:,} {one if count == 1 else many or one + 's'}"


def time_words(seconds: float) -> str:
    """As "1 h 05 min", "3 min 20 s", "12 s"."""
    whole = round(seconds)
    if whole >= 3600:
        return f"{whole // 3600} h {whole % 3600 // 60:02d} min"
    return f"{whole // 60} min {whole % 60:02d} s" if whole >= 60 else f"{whole} s"
