"""picture-without-line: a picture with no cut about it."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..model import Conditions, Document, Finding, Level
from .rule import DOCUMENT, Rows, Rule
from .tables.outlines import outline_table


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each picture of which no part lies in a closed outline that is cut."""
    table = outline_table(document)
    boxes = table.boxes[table.cut & table.path.closed]

    def finding(picture) -> Finding:
        corners = _corners(picture)
        low, high = corners.min(axis=0), corners.max(axis=0)
        return RULE.at(
            "A picture has no cut about it; trace it, or its outside.",
            place=low,
            extent=(*low, *high),
            detail=picture.id,
        )

    return Rows(RULE, [p for p in document.pictures_in_use() if not _is_cut(_corners(p), boxes)], finding)


def _corners(picture) -> np.ndarray:
    a, b, c, d, e, f = picture.matrix
    w, h = picture.size_px
    return np.array([(a * x + c * y + e, b * x + d * y + f) for x, y in ((0, 0), (w, 0), (w, h), (0, h))])


def _is_cut(corners: np.ndarray, boxes: np.ndarray) -> bool:
    low, high = corners.min(axis=0), corners.max(axis=0)
    return bool(((boxes[:, :2] < high) & (boxes[:, 2:] > low)).all(axis=1).any())


RULE = Rule(
    id="picture-without-line",
    about=DOCUMENT,
    level=Level.NOTE,
    title="A picture that is not cut",
    effect="The machine follows lines only: nothing of the picture would be cut.",
    find=find,
)
