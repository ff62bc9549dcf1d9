"""Packing of rectangles (rectpack): thousands in a moment."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ...geometry import Box
from .raster import Place


def pack_boxes(box: Box, sizes: np.ndarray, spacing_mm: float, may_turn: bool) -> list[Place | None]:
    """A place for each rectangle of sizes (N, 2) in a box; None for what finds no room."""
    import rectpack

    left, top, right, bottom = box
    # Each takes what stays free to its right and below: so does the box.
    across, down = right - left + spacing_mm, bottom - top + spacing_mm
    places: list[Place | None] = [None] * len(sizes)
    for algorithm in (rectpack.MaxRectsBssf, rectpack.MaxRectsBl, rectpack.GuillotineBssfSas):
        packer = rectpack.newPacker(pack_algo=algorithm, sort_algo=rectpack.SORT_AREA, rotation=may_turn)
        for n, (width, height) in enumerate(sizes.tolist()):
            packer.add_rect(width + spacing_mm, height + spacing_mm, n)
        packer.add_bin(across, down)
        packer.pack()
        made = _places(packer.rect_list(), sizes, (left, top), spacing_mm)
        if _rank(made, sizes) > _rank(places, sizes):
            places = made
    return places


def _places(rows: Sequence, sizes: np.ndarray, origin: tuple[float, float], spacing_mm: float) -> list[Place | None]:
    made: list[Place | None] = [None] * len(sizes)
    for _, x, y, width, height, n in rows:
        turned = abs(width - spacing_mm - sizes[n, 0]) > 1e-9
        centre = origin[0] + x + (width - spacing_mm) / 2, origin[1] + y + (height - spacing_mm) / 2
        made[n] = (*centre, 90.0 if turned else 0.0)
    return made


def _rank(places: Sequence[Place | None], sizes: np.ndarray) -> tuple[float, float]:
    """More covered is better, then less far to the right."""
    put = [n for n, place in enumerate(places) if place]
    covered = float(sizes[put].prod(axis=1).sum()) if put else 0.0
    return covered, -max((place[0] for place in places if place), default=0.0)
