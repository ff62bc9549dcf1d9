"""Which way closed cuts run, and where closed runs begin."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..errors import NotThere
from ..geometry import LINE, Path, flatten, node_edit, signed_areas
from ..geometry.measure import segment_lengths
from ..geometry.nodes import CORNER_RADIANS, turns_after
from ..geometry.proximity.places import Places
from ..geometry.stretches import Measured, path_from
from ..model import Document, StartPoint, Treatment
from .program import Program

#: Chords by which places along outlines are measured, in mm; and how near a node has to be to be taken for a place.
CHORD_MM, NODE_MM = 0.01, 0.01


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


def with_own_starts(program: Program, starts: Sequence[StartPoint]) -> Program:
    """The program with the places near which a person wants runs to begin; copies of a piece begin alike."""
    own: dict[tuple[str, int], float] = {(each.piece, each.outline): each.share for each in starts}
    begin = program.begin.copy()
    for run, (piece, outline) in enumerate(zip(program.piece.tolist(), program.outline.tolist(), strict=True)):
        share = own.get((program.pieces[piece].split("*")[0], outline))
        if share is not None and program.path.closed[run]:
            begin[run] = place_at(program.path.outline(run), share)
    return replace(program, begin=begin)


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


def place_at(outline: Path, share: float) -> np.ndarray:
    """x, y at a share of the length of an outline."""
    points = flatten(outline, CHORD_MM).points
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    at = along[-1] * (share % 1.0)
    return np.array([np.interp(at, along, points[:, 0]), np.interp(at, along, points[:, 1])])


def start_near(document: Document, piece: str, outline: int, at: tuple[float, float]) -> StartPoint:
    """The place on an outline of a design that is nearest to x, y in mm on its page. Raises NotThere."""
    found = document.by_id.get(piece)
    if not found or not 0 <= outline < len(found.path) or not found.path.closed[outline]:
        raise NotThere("This outline is not there (any more), or not closed: pick another one.")
    points = flatten(found.path.outline(outline), CHORD_MM).points
    way, long = np.diff(points, axis=0), np.hypot(*np.diff(points, axis=0).T)
    part = np.clip(((np.array(at) - points[:-1]) * way).sum(axis=1) / np.maximum(long**2, 1e-300), 0.0, 1.0)
    nearest = int(np.hypot(*(points[:-1] + part[:, None] * way - at).T).argmin())
    share = (long[:nearest].sum() + part[nearest] * long[nearest]) / max(float(long.sum()), 1e-300)
    return StartPoint(piece.split("*")[0], outline, round(float(share) % 1.0, 6))


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
