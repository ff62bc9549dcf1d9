"""The same outlines with as few nodes as a stated distance allows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .fit import fit
from .flatten import flatten
from .nodes import CORNER_RADIANS, SMOOTH_RADIANS, end_directions
from .path import LINE, Path
from .proximity.places import Places
from .recover import recover

#: Points for each new curve's fit lie so much nearer to the old one than the stated distance; what the fit may then
#: leave of it, so that both together stay within; and how far apart they are, in the old curves' own tolerances.
SAMPLE_SHARE, FIT_SHARE = 0.1, 0.8


@dataclass(frozen=True)
class Simplified:
    """The path, and how far it is from what it was and that from it, at most, in mm, as measured."""

    path: Path
    off_mm: float


def simplify(path: Path, within_mm: float) -> Simplified:
    """Outlines of the least nodes found within a distance, measured both ways: redundant nodes go, lines, arcs and
    circles are recovered, curves between corners are fitted anew where that takes fewer. Corners stay."""
    recovered = recover(path, within_mm)
    parts, worst = [], 0.0
    for before, plain in zip(path.outlines(), recovered.outlines(), strict=True):
        ways = [plain, _fitted(before, within_mm)]
        for made in sorted((way for way in ways if way is not None), key=lambda way: way.segment_count):
            off = distance_between(before, made)
            if off <= within_mm:
                break
        else:
            made, off = before, 0.0
        parts.append(made)
        worst = max(worst, off)
    return Simplified(Path.concatenate(parts), worst)


def _fitted(outline: Path, within_mm: float) -> Path | None:
    """One outline fitted between its corners; None where it has too few points."""
    chords = flatten(outline, within_mm * SAMPLE_SHARE, longest_mm=None)
    closed = bool(outline.closed[0])
    points = chords.points[:-1] if closed else chords.points
    if len(points) < 4:
        return None
    corner = np.zeros(len(points), bool)
    nodes = np.searchsorted(chords.segment, np.arange(outline.segment_count))
    corner[nodes] = _corners(outline)
    points, corner = _denser(points, corner, closed, within_mm)
    made = fit(points, np.array([0, len(points)]), np.array([closed]), corner, within_mm * FIT_SHARE)
    return made.path


def _corners(outline: Path) -> np.ndarray:
    """Whether the line turns at the first node of each segment (S,)."""
    leaving, arriving = end_directions(outline)
    before = np.roll(arriving, 1, axis=0)
    turn = np.abs(
        np.arctan2(before[:, 0] * leaving[:, 1] - before[:, 1] * leaving[:, 0], (before * leaving).sum(axis=1))
    )
    straight = (outline.kind == LINE) & (np.roll(outline.kind, 1) == LINE)
    corner = turn > np.where(straight, CORNER_RADIANS, SMOOTH_RADIANS)
    corner[0] |= not outline.closed[0]
    return corner


def _denser(points: np.ndarray, corner: np.ndarray, closed: bool, within_mm: float) -> tuple[np.ndarray, np.ndarray]:
    """More points along long chords, so that a fit sees that they are straight."""
    ring = np.vstack([points, points[:1]]) if closed else points
    long = np.hypot(*np.diff(ring, axis=0).T)
    count = np.clip(np.ceil(np.sqrt(long / (8 * within_mm))), 1, 12).astype(np.int64)
    at = np.repeat(np.arange(len(count)), count)
    share = (np.arange(len(at)) - np.repeat(np.cumsum(count) - count, count)) / count[at]
    made = ring[at] + share[:, None] * (ring[at + 1] - ring[at])
    marks = corner[at] & (share == 0)
    if not closed:
        made, marks = np.vstack([made, points[-1:]]), np.append(marks, True)
    return made, marks


def distance_between(a: Path, b: Path) -> float:
    """How far two paths are from each other, the farther way, at points along both about as dense as their bends."""
    size = max(float(np.ptp(a.ctrl.reshape(-1, 2), axis=0).max(initial=0)), 1e-9)
    worst = 0.0
    for one, other in ((a, b), (b, a)):
        points = flatten(one, 1e-5 * size, longest_mm=size / 200).points
        worst = max(worst, float(Places(other).nearest(points).distance.max(initial=0)))
    return worst
