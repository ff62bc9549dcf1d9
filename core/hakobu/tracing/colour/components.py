"""Pixels of one label that hang together by sides: told by the runs of rows, and painted only where that is asked."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True)
class Components:
    """In the order of their first pixels: area, first, as a raster index, and label (N,). Of the runs of one label:
    where those of each row begin (H+1,), left, the first column of each, and of, its component (R,)."""

    begin: np.ndarray
    left: np.ndarray
    of: np.ndarray
    area: np.ndarray
    first: np.ndarray
    label: np.ndarray
    width: int

    def __len__(self) -> int:
        return len(self.area)

    def numbers(self) -> np.ndarray:
        """The component (H, W) of each pixel."""
        from .kernels.components import numbered

        return numbered(self.begin, self.left, self.of, self.width)

    def without(self, core: np.ndarray) -> np.ndarray:
        """Which (N,) have no pixel of a core (H, W) bool."""
        from .kernels.components import coreless

        return coreless(self.begin, self.left, self.of, core, len(self))

    def pixels(self, wanted: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Row, column and component (P,) of all pixels of those that are wanted (N,) bool, in the picture's order."""
        from .kernels.components import pixels_of

        return pixels_of(self.begin, self.left, self.of, wanted, self.width)


def components(labels: np.ndarray) -> Components:
    """Of labels (H, W) uint8."""
    from .kernels.components import joined_runs, label_runs

    begin, left = label_runs(labels)
    of, area, first, label = joined_runs(labels, begin, left)
    return Components(begin, left, of, area, first, label, labels.shape[1])
