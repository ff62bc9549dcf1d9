"""Hakobu's values: frozen, small, and the same in every room."""

from ..errors import HakobuError
from .conditions import Conditions
from .document import Document, Group, Layer, OutlinePlace, Page, Picture, Piece, Treatment
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
    "OutlinePlace",
    "OutlineRef",
    "Page",
    "Picture",
    "Piece",
    "Purpose",
    "Step",
    "Stroke",
    "Treatment",
]
