"""Flat pictures, painted one shape over the other in millimetres, as a drawing program or a printer makes them."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from raster import coverage, stroke_coverage

from hakobu.geometry import Path, scaling, transform

MM_PER_INCH = 25.4


def rgb(color: str) -> np.ndarray:
    return np.array([int(color[i : i + 2], 16) for i in (1, 3, 5)], float)


class Sheet:
    """A picture of a size in mm: pixels (H, W, 3) from 0 to 255, and how much of each is painted (H, W)."""

    def __init__(self, size_mm: tuple[float, float], per_inch: float, paper: str = "#ffffff"):
        self.scale = per_inch / MM_PER_INCH
        self.width, self.height = (round(side * self.scale) for side in size_mm)
        self.pixels = np.broadcast_to(rgb(paper), (self.height, self.width, 3)).copy()
        self.painted = np.zeros((self.height, self.width))

    def fill(self, path: Path, color: str) -> None:
        self._over(coverage(transform(path, scaling(self.scale)), self.width, self.height), color)

    def stroke(self, paths: Iterable[Path], width_mm: float, color: str) -> None:
        share = np.zeros((self.height, self.width))
        for path in paths:
            own = stroke_coverage(transform(path, scaling(self.scale)), width_mm * self.scale, self.width, self.height)
            np.maximum(share, own, out=share)
        self._over(share, color)

    def _over(self, share: np.ndarray, color: str) -> None:
        self.pixels = self.pixels * (1 - share[..., None]) + rgb(color) * share[..., None]
        self.painted = np.maximum(self.painted, share)

    def with_alpha(self) -> np.ndarray:
        """(H, W, 4), transparent where nothing is painted."""
        share = np.maximum(self.painted, 1e-6)[..., None]
        # What shines through at the rim is nothing, not paper.
        own = np.clip((self.pixels - 255 * (1 - share)) / share, 0, 255)
        return np.concatenate([own, 255 * self.painted[..., None]], axis=2)
