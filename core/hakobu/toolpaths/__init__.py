"""Tool paths: what a machine does, stroke by stroke, between the design and its file."""

from .order import shortened
from .program import ORDER, Program, Tool, layers_in_order, program_of, travel_mm

__all__ = ["ORDER", "Program", "Tool", "layers_in_order", "program_of", "shortened", "travel_mm"]
