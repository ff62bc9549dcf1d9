"""Outlines in the plane: exact curves, their measures, and what lies where. Millimetres, y down."""

from .affine import IDENTITY, compose, rotation, scaling, transform, transform_each, translation
from .build import PathBuilder
from .fit import Fitted, fit
from .flatten import Polylines, flatten
from .measure import Box, area, bounds, box_of, length, lengths, signed_areas
from .path import ARC, CUBIC, LINE, Path
from .proximity.chord_distance import SegmentIndex
from .tolerances import CHORD_MM, DRAWING_MM, EXACT_MM

__all__ = [
    "ARC",
    "CHORD_MM",
    "CUBIC",
    "DRAWING_MM",
    "EXACT_MM",
    "IDENTITY",
    "LINE",
    "Box",
    "Fitted",
    "Path",
    "PathBuilder",
    "Polylines",
    "SegmentIndex",
    "area",
    "bounds",
    "box_of",
    "compose",
    "fit",
    "flatten",
    "length",
    "lengths",
    "rotation",
    "scaling",
    "signed_areas",
    "transform",
    "transform_each",
    "translation",
]
