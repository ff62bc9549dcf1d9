"""The page that follows what lies on it, unless a person has set it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from .document import Box, Document, Page, Picture
from .scaling import shifted

#: What lies beyond a page by no more than this is on its edge.
ON_EDGE_MM = 0.5
#: What is left free on a roll before and after a design (common practice).
ROLL_MARGIN_MM = 5.0


def on_page_of(document: Document, box: Box) -> Document:
    """The document with a box (left, top, right, bottom) of it as its page: what lies in it is moved along."""
    left, top, right, bottom = box
    moved = shifted(document, -left, -top)
    fixed = document.page is not None and document.page.fixed
    return replace(moved, page=Page(right - left, bottom - top, fixed))


def on_roll(document: Document, page: Page) -> Document:
    """The document on a roll as long as it needs: with a margin before and after, and in the middle of it where it
    does not lie on it."""
    left, top, right, bottom = document.box or (0.0, 0.0, page.width_mm, 0.0)
    x = 0.0 if left >= 0 and right <= page.width_mm else (page.width_mm - left - right) / 2
    y = max(ROLL_MARGIN_MM - top, 0.0)
    return replace(shifted(document, x, y), page=replace(page, height_mm=bottom + y + ROLL_MARGIN_MM))


def grown(document: Document) -> Document:
    """The document on a page that is as large as it was, and holds all pieces in use; one that was set stays."""
    if document.page is not None and document.page.roll:
        return on_roll(document, document.page)
    if document.page is None or document.page.fixed or document.box is None:
        return document
    return _on(document, united([page_box(document), document.box]))


def close_round(document: Document, pictures: Iterable[Picture], margin_mm: float) -> Document:
    """The document on a page about all pieces in use and some pictures, a margin away; one that was set stays."""
    if document.page is not None and document.page.fixed:
        return on_roll(document, document.page) if document.page.roll else document
    boxes = [picture_box(picture) for picture in pictures] + ([document.box] if document.box else [])
    left, top, right, bottom = united(boxes)
    return _on(document, (left - margin_mm, top - margin_mm, right + margin_mm, bottom + margin_mm))


def _on(document: Document, box: Box) -> Document:
    apart = max(abs(a - b) for a, b in zip(box, page_box(document), strict=True))
    return on_page_of(document, box) if apart > ON_EDGE_MM else document


def page_box(document: Document) -> Box:
    return 0.0, 0.0, *document.frame


def united(boxes: Iterable[Box]) -> Box:
    left, top, right, bottom = zip(*boxes, strict=True)
    return min(left), min(top), max(right), max(bottom)


def picture_box(picture: Picture) -> Box:
    """The box of a picture as it lies in the document."""
    width, height = picture.size_px
    a, b, c, d, e, f = picture.matrix
    corners = np.array([[0, 0], [width, 0], [0, height], [width, height]]) @ [[a, b], [c, d]] + (e, f)
    return *corners.min(axis=0).tolist(), *corners.max(axis=0).tolist()
