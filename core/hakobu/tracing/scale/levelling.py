"""By how much a picture must be turned for its long edges to run level and upright."""

from __future__ import annotations

import numpy as np

from ...errors import CannotDo
from ...geometry import Path
from ..options import View
from ..outlines import thresholding

#: An edge tells the way from this share of the picture's longer side on; within so many degrees it is meant to be level
#: or upright; edges of one way differ by no more than this.
LONG_SHARE, MOST_DEGREES, ALIKE_DEGREES = 0.06, 15.0, 0.6
#: Edges that tell the way must be so long together, as a share of the picture's longer side.
ENOUGH_SHARE = 0.25


def level_degrees(view: View) -> float | None:
    """Degrees clockwise; None where no long straight edges tell."""
    height, width = view.grey.shape
    try:
        values = thresholding.propose(view.grey, 1.0)
        traced = thresholding.trace(view.grey, (1, 0, 0, 1, 0, 0), values.threshold, values.smoothness_mm, 40.0)
    except CannotDo:
        return None
    way, size = _edges(Path.concatenate(region.path for region in traced.regions))
    long = (size >= LONG_SHARE * max(width, height)) & (np.abs(way) <= MOST_DEGREES)
    way, size = way[long], size[long]
    if not len(way):
        return None
    # The way that most of their length runs.
    near = np.abs(way[:, None] - way[None]) <= ALIKE_DEGREES
    most = near[(near * size).sum(axis=1).argmax()]
    if size[most].sum() < ENOUGH_SHARE * max(width, height):
        return None
    return round(-float(np.average(way[most], weights=size[most] ** 2)), 3)


def _edges(path: Path) -> tuple[np.ndarray, np.ndarray]:
    """Of each straight piece by how many degrees it is off level or upright, (N,), and how long it is."""
    straight = path.ctrl[path.kind == 0]
    along = straight[:, 3] - straight[:, 0]
    way = np.degrees(np.arctan2(along[:, 1], along[:, 0]))
    return (way + 45) % 90 - 45, np.hypot(*along.T)
