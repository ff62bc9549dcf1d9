"""Shapes combined: united, taken away, cut with each other. Curves in, the same curves out, cut where they meet."""

from .combining import Combined, NotCombined, Operand, combine, difference, intersection, union, xor
from .cutting import Cut, cut_lines
from .dividing import Divided, divide

__all__ = [
    "Combined",
    "Cut",
    "Divided",
    "NotCombined",
    "Operand",
    "combine",
    "cut_lines",
    "difference",
    "divide",
    "intersection",
    "union",
    "xor",
]
