"""What lies at a distance of shapes and lines: rims and backings, clearances, kerf, and the outlines of strokes."""

from .banded import ENDS, JOINS
from .offsetting import Offset, around, offset
from .stroke import stroke_outline

__all__ = ["ENDS", "JOINS", "Offset", "around", "offset", "stroke_outline"]
