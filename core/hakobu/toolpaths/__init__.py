"""Tool paths: what a machine does, stroke by stroke, between the design and its file."""

from .as_document import as_document, lines_of
from .estimate import Estimate, estimate
from .frame import frame_of, inverse
from .making import Made, Plan, make
from .order import shortened
from .program import ORDER, Program, Tool, layers_in_order, program_of, travel_mm

__all__ = [
    "ORDER",
    "Estimate",
    "Made",
    "Plan",
    "Program",
    "Tool",
    "as_document",
    "estimate",
    "frame_of",
    "inverse",
    "layers_in_order",
    "lines_of",
    "make",
    "program_of",
    "shortened",
    "travel_mm",
]
