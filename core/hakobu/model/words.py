"""Numbers and things in sentences."""

from __future__ import annotations


def counted(count: int, one: str, many: str = "") -> str:
    """A number of things inside a sentence: "one hole", "1,200 holes"."""
    return f"one {one}" if count == 1 else f"{count:,} {many or one + 's'}"


def number_of(count: int, one: str, many: str = "") -> str:
    """A number of things in figures: "1 hole", "1,200 holes"."""
    return f"{count:,} {one if count == 1 else many or one + 's'}"
