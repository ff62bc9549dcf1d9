"""Targets: what the work goes onto or into, with its size or its outline."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..errors import BadRequest
from ..geometry import Path, box_of, primitives, scaling, transform, translation
from ..geometry.containment import Clearance, clearance
from ..geometry.path_data import closed_outline
from .declare import choice, length, text
from .document import Document
from .materials import MOST_NAME, MOST_SHEET_MM
from .validate import validated

SHAPES = (("rectangle", "a rectangle"), ("ellipse", "round"), ("outline", "an outline"))
#: Letters of an outline: some thousands of curves.
MOST_OUTLINE = 50_000


@dataclass(frozen=True, slots=True)
class Target:
    """width, height: of its opening or face. corner_mm: how a rectangle is rounded. outline: SVG path data of an
    outline in any unit; it is scaled to the width and the height."""

    id: str = text(label="id", help="by which jobs name it", most=40)
    name: str = text(label="name", help="what it is called", most=MOST_NAME)
    width_mm: float = length(label="width", help="of its face or opening", low=1.0, high=MOST_SHEET_MM)
    height_mm: float = length(label="height", help="of its face or opening", low=1.0, high=MOST_SHEET_MM)
    shape: str = choice("rectangle", label="shape", help="of its face or opening", choices=SHAPES)
    corner_mm: float = length(0.0, label="corner radius", help="of a rectangle", high=10_000.0)
    outline: str = text("", label="outline", help="SVG path data", most=MOST_OUTLINE)


#: What ships. The disc is IEC 60908's; the others are common practice.
TARGETS: tuple[Target, ...] = (
    Target("tile", "tile 150 × 150", 150.0, 150.0),
    Target("bag", "front of a cotton bag", 260.0, 300.0),
    Target("frame", "opening of a 5 × 7 in frame", 127.0, 177.8),
    Target(
        "lantern",
        "side of a lantern",
        110.0,
        160.0,
        "outline",
        outline="M0 160L0 55A55 55 0 0 1 110 55L110 160Z",
    ),
    Target("badge", "face of a badge", 58.0, 58.0, "ellipse"),
    Target("mug", "side of a mug", 80.0, 70.0, corner_mm=6.0),
)


def outline_of(target: Target) -> Path:
    """Its closed outline with its middle at 0, 0. Raises BadRequest where path data make no outline."""
    width, height = target.width_mm, target.height_mm
    if target.shape == "ellipse":
        return primitives.ellipse(0.0, 0.0, width, height)
    if target.shape == "rectangle":
        return primitives.rectangle(
            -width / 2, -height / 2, width, height, min(target.corner_mm, width / 2, height / 2)
        )
    try:
        path = closed_outline(target.outline)
    except ValueError as error:
        raise BadRequest(f'The outline of the target "{target.name}" is not a closed shape: {error}.') from error
    left, top, right, bottom = box_of(path)
    middle = translation(-(left + right) / 2, -(top + bottom) / 2)
    return transform(transform(path, middle), scaling(width / (right - left), height / (bottom - top)))


def clearance_of(document: Document, target: Target, off: tuple[float, float] = (0.0, 0.0)) -> Clearance | None:
    """How the design lies in a target: its box centred in that, or off its middle. In the design's own millimetres;
    None of a design without lines."""
    rim = rim_of(document, target, off)
    return None if rim is None else clearance(_lines(document), rim)


def rim_of(document: Document, target: Target, off: tuple[float, float] = (0.0, 0.0)) -> Path | None:
    """The outline of a target where it lies under the design."""
    if document.box is None:
        return None
    left, top, right, bottom = document.box
    return transform(outline_of(target), translation((left + right) / 2 - off[0], (top + bottom) / 2 - off[1]))


def _lines(document: Document) -> Path:
    return Path.concatenate(piece.path for piece in document.pieces_in_use())


def target_from(values: Mapping[str, Any]) -> tuple[Target, tuple[float, float]]:
    """A target of plain data, and how far off its middle the design lies in it (`off`). Raises BadRequest."""
    own = {"id": "target", "name": "the target", **values}
    try:
        x, y = (float(value) for value in own.pop("off", (0.0, 0.0)))
    except (TypeError, ValueError):
        raise BadRequest('"off" must be a place, as x and y in mm.') from None
    if not math.isfinite(x + y):
        raise BadRequest('"off" must be a place, as x and y in mm.')
    return validated(Target, own, "target"), (x, y)
