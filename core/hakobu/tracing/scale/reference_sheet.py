"""A sheet with a reference shape of a known size, to be printed or cut and laid beside what is photographed."""

from __future__ import annotations

import numpy as np

from ...geometry import Path
from ...geometry.build import PathBuilder
from ...model import Document, Fill, Layer, Page, Piece, Treatment
from .reference import Reference

#: White that is left about the shape: it must stand clear of what lies beside it.
MARGIN_MM = 12.0


def reference_sheet(reference: Reference) -> Document:
    """A page just large enough, with the shape in its middle, to be printed."""
    width, height = reference.width_mm, reference.height_mm
    page = Page(width + 2 * MARGIN_MM, height + 2 * MARGIN_MM)
    layer = Layer("reference", f"{reference.shape.capitalize()}, {width:g} x {height:g} mm", "#000000", Treatment.PRINT)
    piece = Piece("shape", _shape(reference), layer.id, fill=Fill("#000000"))
    return Document(layers=(layer,), pieces=(piece,), page=page)


def _shape(reference: Reference) -> Path:
    width, height = reference.width_mm, reference.height_mm
    corners = np.array([[0, 0], [width, 0], [width, height], [0, height]], float) + MARGIN_MM
    if reference.shape != "circle":
        return Path.from_points(corners, True)
    builder = PathBuilder()
    builder.circle(MARGIN_MM + width / 2, MARGIN_MM + width / 2, width / 2)
    return builder.path()
