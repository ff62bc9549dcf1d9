"""Places on outlines that a person has set: where they are on the runs of a program."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from ..errors import NotThere
from ..geometry import Path, flatten, length
from ..model import Document, OutlinePlace
from .program import Program

#: Chords by which places along outlines are measured, in mm.
CHORD_MM = 0.01
#: Places (K, 2) on each outline, by the number of its piece and its own.
Own = Mapping[tuple[int, int], np.ndarray]


def own_places(program: Program, places: Sequence[OutlinePlace]) -> Own:
    """Where places are, in the program's mm, before its lines are moved; on copies of a piece as on itself."""
    if not places:
        return {}
    shares: dict[tuple[str, int], list[float]] = {}
    for each in places:
        shares.setdefault((each.piece, each.outline), []).append(each.share)
    found: dict[tuple[int, int], np.ndarray] = {}
    for run, (piece, outline) in enumerate(zip(program.piece.tolist(), program.outline.tolist(), strict=True)):
        own = shares.get((program.pieces[piece].split("*")[0], outline))
        if own and program.path.closed[run]:
            found[piece, outline] = places_at(program.path.outline(run), np.array(own))
    return found


def with_own_starts(program: Program, starts: Own) -> Program:
    """The program with the places near which a person wants its runs to begin."""
    begin = program.begin.copy()
    for run, key in enumerate(zip(program.piece.tolist(), program.outline.tolist(), strict=True)):
        if key in starts:
            begin[run] = starts[key][0]
    return replace(program, begin=begin)


def places_at(outline: Path, shares: np.ndarray) -> np.ndarray:
    """x, y (K, 2) at shares (K,) of the length of an outline."""
    points = flatten(outline, CHORD_MM).points
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    at = along[-1] * (shares % 1.0)
    return np.column_stack([np.interp(at, along, points[:, 0]), np.interp(at, along, points[:, 1])])


def place_near(document: Document, piece: str, outline: int, at: tuple[float, float]) -> tuple[OutlinePlace, float]:
    """The place on an outline of a design that is nearest to x, y in mm on its page, and how long that outline is, in
    mm. Raises NotThere."""
    found = document.by_id.get(piece)
    if not found or not 0 <= outline < len(found.path) or not found.path.closed[outline]:
        raise NotThere("This outline is not there (any more), or not closed: pick another one.")
    own = found.path.outline(outline)
    points = flatten(own, CHORD_MM).points
    way, long = np.diff(points, axis=0), np.hypot(*np.diff(points, axis=0).T)
    part = np.clip(((np.array(at) - points[:-1]) * way).sum(axis=1) / np.maximum(long**2, 1e-300), 0.0, 1.0)
    nearest = int(np.hypot(*(points[:-1] + part[:, None] * way - at).T).argmin())
    share = (long[:nearest].sum() + part[nearest] * long[nearest]) / max(float(long.sum()), 1e-300)
    return OutlinePlace(piece.split("*")[0], outline, round(float(share) % 1.0, 6)), length(own)
