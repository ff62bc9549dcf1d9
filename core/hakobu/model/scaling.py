"""A whole document at another size, in proportion: outlines, strokes, pictures and page."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..geometry import compose, scaling, transform_each, translation
from .document import Document, Page


def scaled(document: Document, factor: float) -> Document:
    """Everything times a factor about the page's top left; a page that a person has set stays."""
    if factor == 1.0:
        return document
    page = document.page
    if page and not page.fixed:
        page = Page(page.width_mm * factor, page.height_mm * factor)
    moved = _moved(document, scaling(factor))
    pieces = tuple(
        replace(piece, stroke=_scaled(piece.stroke, factor)) if piece.stroke else piece for piece in moved.pieces
    )
    return replace(moved, page=page, pieces=pieces, sized=None)


def stretched(document: Document, across: float, down: float) -> Document:
    """Everything times one factor across and another down; lines become wider by the mean of both (geometric)."""
    page = document.page
    if page and not page.fixed:
        page = Page(page.width_mm * across, page.height_mm * down)
    moved = _moved(document, scaling(across, down))
    factor = float(np.sqrt(across * down))
    pieces = tuple(
        replace(piece, stroke=_scaled(piece.stroke, factor)) if piece.stroke else piece for piece in moved.pieces
    )
    return replace(moved, page=page, pieces=pieces, sized=None)


def shifted(document: Document, x: float, y: float) -> Document:
    """All that lies on the page, moved on it; the page stays."""
    return _moved(document, translation(x, y)) if x or y else document


def _moved(document: Document, matrix: np.ndarray) -> Document:
    paths = transform_each([piece.path for piece in document.pieces], matrix)
    pieces = tuple(replace(piece, path=path) for piece, path in zip(document.pieces, paths, strict=True))
    pictures = tuple(replace(picture, matrix=moved_matrix(picture.matrix, matrix)) for picture in document.pictures)
    return replace(document, pieces=pieces, pictures=pictures)


def _scaled(stroke, factor: float):
    dashes = tuple(d * factor for d in stroke.dashes)
    return replace(stroke, width_mm=stroke.width_mm * factor, dashes=dashes, dash_offset=stroke.dash_offset * factor)


def moved_matrix(values: tuple[float, ...], matrix: np.ndarray) -> tuple[float, ...]:
    return tuple(compose(matrix, np.array(values).reshape(3, 2).T).T.ravel().tolist())
