"""Lines as the areas that they cover: where that is asked for, and where no pen of one width draws them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from ...geometry import Path, transform
from ...geometry.offset.stroke import stroke_outline
from ...model import Fill, Stroke
from ...model.notices import NOT_UNDERSTOOD
from .state import Drawn, scale_of
from .walk import Walk

#: How far an area may be from what the line covers, in mm.
WITHIN_MM = 0.001
#: SVG's words for joins and ends, and the geometry's.
JOINS = {"miter": "mitre", "round": "round", "bevel": "bevel"}
ENDS = {"butt": "flat", "round": "round", "square": "square"}


def as_areas(walk: Walk, drawn: Drawn, path: Path) -> Iterator[tuple[Drawn, Path]]:
    """What a shape with a line is made of: its filling, and the area of its line."""
    looks = drawn.looks
    if looks.stroke is None or drawn.hidden:
        yield drawn, path
        return
    if looks.fill:
        yield replace(drawn, looks=replace(looks, stroke=None)), path
    try:
        area = _area(drawn, path, looks.stroke)
    except ValueError as error:
        walk.say(NOT_UNDERSTOOD, f"A line could not be made an area: {error}", drawn.line)
        yield replace(drawn, looks=replace(looks, fill=None)), path
        return
    if len(area):
        fill = Fill(looks.stroke.color, looks.stroke.opacity)
        painted = replace(looks, fill=fill, stroke=None, fill_rule="nonzero")
        yield replace(drawn, anchor=f"{drawn.anchor}/line", looks=painted), area


def _area(drawn: Drawn, path: Path, stroke: Stroke) -> Path:
    """In mm; where the matrix stretches one way more than another, in the shape's own units, and stretched then."""
    if not drawn.stretched:
        return _outlined(path, stroke)
    # Enlarged as far as the matrix does at most, so that nothing gets less exact on the way back.
    most = float(np.linalg.norm(drawn.matrix[:, :2], 2))
    back = np.linalg.inv(np.vstack([drawn.matrix, (0, 0, 1)]))[:2]
    forth = drawn.matrix.copy()
    forth[:, :2] /= most
    factor = most / scale_of(drawn.matrix)
    wide = replace(
        stroke,
        width_mm=stroke.width_mm * factor,
        dashes=tuple(dash * factor for dash in stroke.dashes),
        dash_offset=stroke.dash_offset * factor,
    )
    return transform(_outlined(transform(path, back * most), wide), forth)


def _outlined(path: Path, stroke: Stroke) -> Path:
    return stroke_outline(
        path,
        stroke.width_mm,
        JOINS[stroke.join],
        ENDS[stroke.cap],
        stroke.miter_limit,
        stroke.dashes,
        stroke.dash_offset,
        WITHIN_MM,
    ).path
