"""Which way closed cuts run, and where closed runs begin."""

from __future__ import annotations

import numpy as np

from ..geometry import LINE, Path, node_edit, signed_areas
from ..geometry.measure import segment_lengths
from ..geometry.nodes import CORNER_RADIANS, turns_after
from ..geometry.proximity.places import Places
from ..geometry.stretches import Measured, path_from
from ..model import Treatment
from .program import Program

#: How near a node has to be to be taken for a place, in mm.
NODE_MM = 0.01


def directed(program: Program) -> Program:
    """Closed cuts run so that what is kept lies to the left of the tool's way, climb, or to its right, conventional,
    where their machine is told to (common practice); others as drawn."""
    told = program.value("direction", "")
    wish = np.where(told == "climb", 1, np.where(told == "conventional", -1, 0))
    wish *= program.treated(Treatment.CUT) & program.path.closed
    if not wish.any():
        return program
    # Counter-clockwise, y up, what is enclosed lies to the left.
    kept_left = np.sign(signed_areas(program.path)) * program.side
    return program.with_turned(wish * kept_left < 0)


def begun(program: Program) -> Program:
    """Closed runs begin where a person wants them to."""
    wanted = np.isfinite(program.begin[:, 0]) & program.path.closed
    if not wanted.any():
        return program
    outlines = [
        begun_near(outline, program.begin[run]) if wanted[run] else outline
        for run, outline in enumerate(program.path.outlines())
    ]
    return program.with_paths(Path.concatenate(outlines))


def begun_near(outline: Path, place: np.ndarray) -> Path:
    """A closed outline begun where it comes nearest to a place, at a node if there is one."""
    found = Places(outline).nearest(place[None])
    segment, point = int(found.segment[0]), found.point[0]
    if segment < 0:
        return outline
    apart = np.hypot(*(outline.ctrl[segment, [0, 3]] - point).T)
    if apart.min() > NODE_MM:
        return rotated(node_edit.added(outline, tuple(point.tolist())), segment + 1)
    return rotated(outline, segment + int(apart.argmin()))


def with_starts(program: Program, at: tuple[float, float] = (0.0, 0.0)) -> Program:
    """Closed runs, in their order, begin where their machine wants it, but for those that a person has set: "near"
    where the tool is then, at a node; "smooth", in the middle of the longest straight line, or of the longest segment
    where none is straight."""
    free = program.path.closed & ~np.isfinite(program.begin[:, 0])
    wish = np.where(free, program.value("start", "drawn"), "drawn")
    if (wish == "drawn").all():
        return program
    path = program.path
    long = segment_lengths(path)
    measured: Measured | None = None
    outlines, place = [], np.array(at, float)
    for run, outline in enumerate(path.outlines()):
        a, b = int(path.start[run]), int(path.start[run + 1])
        if wish[run] == "near":
            first = int(((path.ctrl[a:b, 0] - place) ** 2).sum(axis=1).argmin())
            outline = rotated(outline, first)
        elif wish[run] == "smooth":
            straight = path.kind[a:b] == LINE
            best = a + int((long[a:b] * np.where(straight, 1000.0, 1.0)).argmax())
            if not ((path.kind[a:b] == LINE) | (path.bulge[a:b] != 0)).all():
                outline = rotated(outline, best - a)
            else:
                measured = measured or Measured(_plain(path))
                begin = float(long[a:best].sum() + long[best] / 2)
                whole = measured.stretch(run, begin, begin + measured.length(run))
                outline = path_from([whole], np.array([True]))
        place = outline.ctrl[-1, 3]
        outlines.append(outline)
    return program.with_paths(Path.concatenate(outlines))


def rotated(outline: Path, segment: int) -> Path:
    """A closed outline begun at another of its segments."""
    rows = np.roll(np.arange(outline.segment_count), -segment)
    return Path(outline.ctrl[rows], outline.kind[rows], outline.bulge[rows], outline.start, outline.closed)


def _plain(path: Path) -> Path:
    """The path with chords for curves that no stretch is taken of."""
    curves = (path.kind != LINE) & (path.bulge == 0)
    kind = np.where(curves, LINE, path.kind)
    return Path(path.ctrl, kind, path.bulge, path.start, path.closed)


def corners_along(measured: Measured, run: int) -> np.ndarray:
    """How far along a closed outline its corners are, in order."""
    path = measured.path
    a, b = int(path.start[run]), int(path.start[run + 1])
    outline = path.outline(run)
    turn = np.abs(turns_after(outline, np.roll(np.arange(b - a), -1)))
    along = np.cumsum(measured.long[a:b])
    return np.sort(np.where(along > along[-1] - 1e-9, 0.0, along)[turn > CORNER_RADIANS])
