"""Greedy packing on a raster: the largest first, each as far left as it goes, then as far up.

A cell belongs to an item where its centre is nearer to the item than half of what stays free plus half of the cell's
diagonal, so items whose cells differ are never nearer than asked. All free places of an item are found at once, by the
correlation of its cells with those that are taken (fast Fourier transform). It takes stock of any outline, shapes with
holes that others may lie in, and any angles.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from scipy import fft

from ...geometry import Path, box_of, flatten, rotation, transform
from ...geometry.offset import offset
from .shapes import Shape

#: Cells along the longer side of the stock, and the finest and the coarsest cell, in mm.
CELLS, FINEST_MM, COARSEST_MM = 500, 0.2, 4.0
#: A place (x, y, degrees) of a shape's centre, or None where it found no room.
Place = tuple[float, float, float]


@dataclass
class Raster:
    """The stock in cells of a size: taken (H, W) is true where nothing may lie."""

    cell_mm: float
    origin: tuple[float, float]
    taken: np.ndarray
    spacing_mm: float
    in_holes: bool
    masks: dict[tuple[str, float], tuple[np.ndarray, np.ndarray]] = field(default_factory=dict)

    @staticmethod
    def of_stock(usable: Path, spacing_mm: float, in_holes: bool) -> Raster:
        """usable: what of the stock may be covered."""
        left, top, right, bottom = box_of(usable)
        cell = float(np.clip(max(right - left, bottom - top) / CELLS, FINEST_MM, COARSEST_MM))
        width, height = (int(np.ceil(side / cell)) + 2 for side in (right - left, bottom - top))
        # Items are grown by half of what stays free and of a diagonal: the stock by half of what stays free less that.
        reach = spacing_mm / 2 - cell * np.sqrt(0.5)
        free = offset(usable, distance_mm=reach).path
        inside = cells_in(free, (left - cell, top - cell), cell, (height, width), whole=True)
        return Raster(cell, (left - cell, top - cell), ~inside, spacing_mm, in_holes)

    def mask(self, shape: Shape, degrees: float) -> tuple[np.ndarray, np.ndarray]:
        """The cells (h, w) of a turned shape, and the place (2,) of its centre in mm from their top left."""
        key = (shape.key, degrees)
        if key not in self.masks:
            grown = shape.grown(self.spacing_mm / 2 + self.cell_mm * np.sqrt(0.5), self.in_holes)
            path = transform(grown, rotation(np.radians(degrees))) if degrees else grown
            left, top, right, bottom = box_of(path)
            size = int(np.ceil((bottom - top) / self.cell_mm)) + 1, int(np.ceil((right - left) / self.cell_mm)) + 1
            cells = cells_in(path, (left, top), self.cell_mm, size, whole=False)
            self.masks[key] = cells, np.array([-left, -top])
        return self.masks[key]

    def put(self, shape: Shape, turns: Sequence[float]) -> Place | None:
        """Places a shape where its right end comes to lie farthest left, and marks its cells. None without room."""
        best: tuple[tuple[float, float], float, tuple[int, int]] | None = None
        height, width = self.taken.shape
        spectrum: Any = None
        size = [fft.next_fast_len(side, real=True) for side in self.taken.shape]
        for degrees in turns:
            cells, _ = self.mask(shape, degrees)
            h, w = cells.shape
            if h > height or w > width:
                continue
            if spectrum is None:
                spectrum = fft.rfft2(self.taken.astype(np.float32), size)
            own: Any = fft.rfft2(cells.astype(np.float32), size)
            hits: Any = fft.irfft2(spectrum * np.conj(own), size)
            free = hits[: height - h + 1, : width - w + 1] < 0.5
            columns = np.flatnonzero(free.any(axis=0))
            if not len(columns):
                continue
            column = int(columns[0])
            row = int(np.argmax(free[:, column]))
            score = (column + w, row + h)
            if best is None or score < best[0]:
                best = score, degrees, (row, column)
        if best is None:
            return None
        _, degrees, (row, column) = best
        cells, centre = self.mask(shape, degrees)
        h, w = cells.shape
        self.taken[row : row + h, column : column + w] |= cells
        x, y = np.array(self.origin) + np.array([column, row]) * self.cell_mm + centre
        return float(x), float(y), degrees

    def take(self, shape: Shape, place: Place) -> None:
        """Marks the cells of a shape that lies at a place of its own."""
        x, y, degrees = place
        cells, centre = self.mask(shape, degrees)
        column, row = np.floor((np.array([x, y]) - centre - self.origin) / self.cell_mm).astype(int)
        # Between cells it reaches into the next ones as well.
        for down in (row, row + 1):
            for across in (column, column + 1):
                part = self.taken[max(down, 0) : down + cells.shape[0], max(across, 0) : across + cells.shape[1]]
                part |= cells[max(-down, 0) :, max(-across, 0) :][: part.shape[0], : part.shape[1]]


def pack_greedily(
    raster: Raster,
    shapes: Sequence[Shape],
    turns: Sequence[float],
    wanted: Callable[[float], object] = lambda share: None,
) -> list[Place | None]:
    """A place for each shape, in their order. What found no room is not tried again. wanted(share): told how far it is;
    it may raise."""
    order = sorted(range(len(shapes)), key=lambda n: (-shapes[n].area_mm2, n))
    places: list[Place | None] = [None] * len(shapes)
    full: set[str] = set()
    for done, n in enumerate(order):
        wanted(done / len(order))
        if shapes[n].key not in full:
            places[n] = raster.put(shapes[n], turns)
            if places[n] is None:
                full.add(shapes[n].key)
    return places


def cells_in(path: Path, origin: tuple[float, float], cell: float, size: tuple[int, int], whole: bool) -> np.ndarray:
    """The cells (h, w) whose centres lie in a path, even-odd; whole: without those that its outline runs
    through."""
    import cv2

    if not len(path):
        return np.zeros(size, bool)
    # OpenCV takes fixed-point coordinates, in 1/16 of a pixel; the centre of a cell is a whole number there.
    lines = flatten(path, cell / 20)
    points = np.rint((lines.points - origin) / cell * 16 - 8).astype(np.int32)
    polygons = [points[a:b] for a, b in zip(lines.start[:-1], lines.start[1:], strict=True)]
    cells = np.zeros(size, np.uint8)
    cv2.fillPoly(cells, polygons, 1, lineType=cv2.LINE_8, shift=4)
    if not whole:
        return cells.astype(bool)
    # What the outline itself runs through is not whole.
    cv2.polylines(cells, polygons, True, 0, 1, cv2.LINE_8, 4)
    return cells.astype(bool)
