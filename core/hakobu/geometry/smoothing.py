"""Outlines made smoother between their corners, within a distance of what they were."""

from __future__ import annotations

import numpy as np

from .fit import fit
from .flatten import flatten
from .path import Path
from .simplify import distance_between

#: Outlines are smoothed on places so far apart, in the distance that is allowed.
STEP_SHARE = 1.0
#: How wide the smoothing is, in steps, from the widest that is tried to the narrowest.
WIDEST, NARROWER, TRIES = 32.0, 0.6, 10
#: What the fit may leave of the distance.
FIT_SHARE = 0.3


def smoothed(path: Path, within_mm: float, corner_radians: float) -> Path:
    """Outlines as smooth as they can be within a distance: each is averaged along itself (a Gaussian's weights) as
    widely as the distance bears, and fitted anew. Places where they turn by more, and ends, stay."""
    return Path.concatenate(_smoothed(outline, within_mm, corner_radians) for outline in path.outlines())


def _smoothed(outline: Path, within_mm: float, corner_radians: float) -> Path:
    step = within_mm * STEP_SHARE
    chords = flatten(outline, within_mm * 0.02, longest_mm=step)
    closed = bool(outline.closed[0])
    points = chords.points[:-1] if closed else chords.points
    if len(points) < 8:
        return outline
    corner = _corners(outline, chords, len(points), corner_radians)
    width = WIDEST
    for _ in range(TRIES):
        moved = _averaged(points, corner, closed, width)
        if np.hypot(*(moved - points).T).max() <= within_mm * (1 - FIT_SHARE):
            made = fit(moved, np.array([0, len(moved)]), np.array([closed]), corner, within_mm * FIT_SHARE).path
            if distance_between(outline, made) <= within_mm:
                return made
        width *= NARROWER
    return outline


def _corners(outline: Path, chords, count: int, corner_radians: float) -> np.ndarray:
    from .corners import corners_of

    corner = np.zeros(count, bool)
    if not outline.closed[0]:
        corner[[0, -1]] = True
    found = corners_of(outline)
    at = np.searchsorted(chords.segment, found.after[np.abs(found.turn) > corner_radians])
    corner[at % count] = True
    return corner


def _averaged(points: np.ndarray, corner: np.ndarray, closed: bool, width: float) -> np.ndarray:
    """Points averaged along their line with the weights of a Gaussian; each part between corners by itself, whose ends
    stay: beyond them it is mirrored in the point."""
    from scipy.ndimage import gaussian_filter1d

    rows = np.flatnonzero(corner)
    if not len(rows):
        return gaussian_filter1d(points, width, axis=0, mode="wrap" if closed else "nearest")
    order = np.roll(np.arange(len(points)), -rows[0]) if closed else np.arange(len(points))
    cuts = (rows - rows[0]).tolist() if closed else rows.tolist()
    line = points[order]
    line = np.vstack([line, line[:1]]) if closed else line
    cuts = [*cuts, len(line) - 1] if closed else cuts
    made = line.copy()
    for a, b in zip(cuts[:-1], cuts[1:], strict=True):
        part = line[a : b + 1]
        if len(part) > 3:
            # Mirrored in its ends, so that these stay where they are.
            mirrored = np.vstack([2 * part[0] - part[:0:-1], part, 2 * part[-1] - part[-2::-1]])
            made[a : b + 1] = gaussian_filter1d(mirrored, width, axis=0)[len(part) - 1 : 2 * len(part) - 1]
            made[a], made[b] = line[a], line[b]
    result = np.empty_like(points)
    result[order] = made[: len(points)]
    return result
