"""Hakobu's values: frozen, small, and the same in every room."""

from ..errors import HakobuError
from .conditions import Conditions
from .document import Document, Group, Layer, Page, Picture, Piece, StartPoint, Treatment
from .edit import Edit, OutlineRef
from .finding import Finding, Level
from .machines import Machine
from .materials import Material
from .paint import Fill, Stroke
from .purposes import Purpose
from .step import Step

__all__ = [
    "Conditions",
    "Document",
    "Edit",
    "Fill",
    "Finding",
    "Group",
    "HakobuError",
    "Layer",
    "Level",
    "Machine",
    "Material",
    "OutlineRef",
    "Page",
    "Picture",
    "Piece",
    "Purpose",
    "StartPoint",
    "Step",
    "Stroke",
    "Treatment",
]
