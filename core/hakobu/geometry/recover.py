"""Circles, arcs and straight lines recovered from curves and from many short lines; curves as arcs."""

from __future__ import annotations

import numpy as np

from .flatten import flatten
from .nodes import CORNER_RADIANS, end_directions
from .path import ARC, CUBIC, LINE, Path, line_controls
from .proximity.chord_grid import curve_table
from .tolerances import STRAIGHT_BULGE

#: Points along curves, for each tolerance, at least so dense.
DENSE = 8


def recover(path: Path, within_mm: float) -> Path:
    """Outlines with lines, arcs and whole circles in the place of segments that are such within a distance, each way.

    Nodes stay where they are; those within a line or an arc go. An arc stands for straight lines only where there are
    several, and for a curve only where that was meant as one: within 5e-4 of its radius.
    """
    return Path.concatenate(_recovered(outline, within_mm) for outline in path.outlines())


def _recovered(outline: Path, within_mm: float) -> Path:
    outline = _without_nothing(outline)
    closed = bool(outline.closed[0])
    if closed:
        circle = _circle(outline, flatten(outline, within_mm / DENSE).points, within_mm)
        if circle is not None:
            return circle
        outline, smooth = _begun_at_sharpest(outline)
    begin, what, bulge = _runs(outline, within_mm)
    if closed and smooth and len(what) > 1:
        # No corner tells where runs begin, so the end of the first one does.
        outline = _turned_to(outline, int(begin[1]))
        begin, what, bulge = _runs(outline, within_mm)
    kept = what < 0
    a, b = begin[:-1], begin[1:]
    ends = np.stack([outline.ctrl[a, 0], outline.ctrl[b - 1, 3]], axis=1)
    ctrl = np.where(kept[:, None, None], outline.ctrl[a], line_controls(ends[:, 0], ends[:, 1]))
    kind = np.where(kept, outline.kind[a], np.where(what == 2, ARC, LINE))
    bulge = np.where(kept, outline.bulge[a], np.where(what == 2, bulge, 0.0))
    return Path(ctrl, kind, bulge, [0, len(a)], [closed])


def _runs(outline: Path, within_mm: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    from .kernels.recovering import runs_of

    chords = flatten(outline, within_mm / DENSE)
    first = np.searchsorted(chords.segment, np.arange(outline.segment_count))
    node = np.append(first, len(chords.points) - 1)
    return runs_of(np.ascontiguousarray(chords.points), node, outline.kind.astype(np.int64), within_mm)


def _without_nothing(outline: Path) -> Path:
    """The outline without segments of no length, if it is more than that."""
    there = (outline.spread > 0).any(axis=1)
    if there.all() or not there.any():
        return outline
    return Path(outline.ctrl[there], outline.kind[there], outline.bulge[there], [0, int(there.sum())], outline.closed)


def _circle(outline: Path, points: np.ndarray, within_mm: float) -> Path | None:
    """The full circle that a closed outline is, if it is one: by least squares (Kasa 1976), run round once."""
    inner = points[:-1]
    if outline.is_circle[0] or len(inner) < 6:
        return None
    middle = inner.mean(axis=0)
    x, y = (inner - middle).T
    solution, *_ = np.linalg.lstsq(np.column_stack([x, y, np.ones(len(x))]), x * x + y * y, rcond=None)
    centre = solution[:2] / 2
    radius = float(np.sqrt(max(solution[2] + centre @ centre, 0.0)))
    off = np.abs(np.hypot(x - centre[0], y - centre[1]) - radius)
    curved = bool((outline.kind != LINE).any())
    allowed = min(within_mm, 5e-4 * radius + 1e-9) if curved else within_mm
    if not radius or off.max() > allowed:
        return None
    angle = np.arctan2(y - centre[1], x - centre[0])
    step = (np.diff(np.append(angle, angle[0])) + np.pi) % (2 * np.pi) - np.pi  # pyright: ignore[reportOperatorIssue]
    once = abs(abs(step.sum()) - 2 * np.pi) < 1e-6 and (
        (step > -within_mm / radius).all() or (step < within_mm / radius).all()
    )
    if not once or radius * (1 - np.cos(np.abs(step).max() / 2)) > within_mm + 1e-12:
        return None
    # The circle begins where the outline did.
    centre = centre + middle
    arm = points[0] - centre
    arm = arm / np.hypot(*arm) * radius
    ends = np.array([centre + arm, centre - arm])
    turn = 1.0 if step.sum() > 0 else -1.0
    return Path(line_controls(ends, ends[::-1]), [ARC, ARC], [turn, turn], [0, 2], [True])


def _begun_at_sharpest(outline: Path) -> tuple[Path, bool]:
    """A closed outline begun at its sharpest node, so that no run of it is cut in two by where it was begun; and
    whether no node is a corner."""
    leaving, arriving = end_directions(outline)
    before = np.roll(arriving, 1, axis=0)
    across = before[:, 0] * leaving[:, 1] - before[:, 1] * leaving[:, 0]
    turn = np.abs(np.arctan2(across, (before * leaving).sum(axis=1)))
    return _turned_to(outline, int(turn.argmax())), bool(turn.max() < CORNER_RADIANS)


def _turned_to(outline: Path, segment: int) -> Path:
    """A closed outline begun at another of its segments."""
    rows = np.roll(np.arange(outline.segment_count), -segment)
    return Path(outline.ctrl[rows], outline.kind[rows], outline.bulge[rows], outline.start, outline.closed)


def as_arcs(path: Path, within_mm: float) -> Path:
    """The path with each cubic as arcs within a distance of it, smooth where it is: for machines that know only lines
    and arcs. Lines and arcs stay."""
    from .kernels.biarc import biarcs_of

    rows = np.flatnonzero(path.kind == CUBIC)
    _, geometry = curve_table(path)
    arcs, begin = biarcs_of(np.ascontiguousarray(geometry[rows]), within_mm)
    count = np.ones(path.segment_count, np.int64)
    count[rows] = np.diff(begin)
    first = np.concatenate([[0], np.cumsum(count)])
    total = int(first[-1])
    ctrl, kind, bulge = np.empty((total, 4, 2)), np.empty(total, np.uint8), np.zeros(total)
    same = np.flatnonzero(path.kind != CUBIC)
    ctrl[first[same]], kind[first[same]], bulge[first[same]] = path.ctrl[same], path.kind[same], path.bulge[same]
    at = np.repeat(first[rows], np.diff(begin)) + np.arange(len(arcs)) - np.repeat(begin[:-1], np.diff(begin))
    # Joints are met to the bit: within a curve by its own points, at its ends by the path's.
    ends = arcs[:, :4].reshape(-1, 2, 2)
    ends[begin[:-1], 0], ends[begin[1:] - 1, 1] = path.ctrl[rows, 0], path.ctrl[rows, 3]
    inner = np.ones(len(arcs), bool)
    inner[begin[:-1]] = False
    ends[inner, 0] = ends[np.flatnonzero(inner) - 1, 1]
    ctrl[at] = line_controls(ends[:, 0], ends[:, 1])
    straight = np.abs(arcs[:, 4]) < STRAIGHT_BULGE
    kind[at], bulge[at] = np.where(straight, LINE, ARC), np.where(straight, 0.0, np.clip(arcs[:, 4], -1, 1))
    return Path(ctrl, kind, bulge, first[path.start], path.closed)
