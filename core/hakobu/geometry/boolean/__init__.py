"""Shapes combined: united, taken away, cut with each other. Curves in, the same curves out, cut where they meet."""

from .combining import Combined, NotCombined, Operand, combine, difference, intersection, union, xor

__all__ = ["Combined", "NotCombined", "Operand", "combine", "difference", "intersection", "union", "xor"]
