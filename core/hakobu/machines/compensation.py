"""Whether what the tool takes away and where its tip runs come back to the design: the program against it, by
places."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..geometry import EXACT_MM, Path, SegmentIndex, compose, flatten, scaling, transform, translation
from ..geometry.measure import outline_bounds
from ..geometry.nodes import end_directions
from ..model import Document, Treatment
from ..toolpaths import Made, Program
from ..toolpaths.following import tips

#: Lines are followed in steps of this, in mm; and blades in chords this near to their axis.
STEP_MM, AXIS_MM = 0.25, 5e-4
#: How far the tip of a dragged blade may be from its line, and what is kept from its size, in mm.
TIP_LIMIT_MM, KERF_LIMIT_MM = 0.02, 0.01


@dataclass(frozen=True)
class Compensation:
    """tip_off_mm: how far the tip of a simulated blade gets from its line while its axis runs the program; None where
    none is dragged. kerf_off_mm: by how much the distance of compensated cuts from the design's outlines differs from
    half the kerf; None where there is none."""

    tip_off_mm: float | None
    kerf_off_mm: float | None

    @property
    def holds(self) -> bool:
        return (self.tip_off_mm or 0.0) <= TIP_LIMIT_MM and (self.kerf_off_mm or 0.0) <= KERF_LIMIT_MM

    def as_json(self) -> dict:
        def said(value: float | None) -> float | None:
            return None if value is None else round(value, 6)

        return {
            "tip_off_mm": said(self.tip_off_mm),
            "tip_limit_mm": TIP_LIMIT_MM,
            "kerf_off_mm": said(self.kerf_off_mm),
            "kerf_limit_mm": KERF_LIMIT_MM,
        }


def compensation_of(made: Made, design: Document) -> Compensation:
    return Compensation(_tip_off(made), _kerf_off(made, design))


def _tip_off(made: Made) -> float | None:
    drags = np.array([bool(tool.machine and tool.machine.drags) for tool in made.program.tools] or [False])
    dragged = drags[made.program.tool] & ~made.program.treated(Treatment.DRAW)
    if not dragged.any():
        return None
    rows = np.flatnonzero(dragged)
    axis = made.program.taken(rows)
    towards = end_directions(made.before.path)[0][made.before.path.start[rows[0]]]
    tip = tips(axis.path, axis.value("blade_offset_mm", 0.0), towards, AXIS_MM)
    index = SegmentIndex(flatten(made.before.path, EXACT_MM), STEP_MM)
    return float(index.nearest(np.ascontiguousarray(tip.ctrl[:, 3]))[0].max())


def _kerf_off(made: Made, design: Document) -> float | None:
    before = made.before
    half = before.value("cut_kerf_mm", 0.0) / 2 * before.treated(Treatment.CUT) * (before.side != 0)
    rows = np.flatnonzero((half > 0) & (before.nth_pass == 1))
    if not len(rows):
        return None
    outlines = _own_outlines(before, design, rows)
    points, owner = _on_line(before.path.take(rows), before.lead[rows], before.tail[rows])
    # Each run is held against its own outline alone: all pairs lie apart, side by side.
    box = outline_bounds(outlines)
    at = np.cumsum(box[:, 2] - box[:, 0] + 10.0) - box[:, 2]
    chords = flatten(outlines, EXACT_MM)
    beside = replace(chords, points=_shifted(chords.points, np.repeat(at, np.diff(chords.start))))
    apart = SegmentIndex(beside, STEP_MM).nearest(_shifted(points, at[owner]))[0] - half[rows][owner]
    # The corners of a knife's lines are farther out, where the parallels of both sides meet.
    mitred = np.array([bool(tool.machine) and tool.machine.tool == "knife" for tool in before.tools])[before.tool[rows]]
    off = np.where(mitred[owner], np.maximum(-apart, 0.0), np.abs(apart))
    return float(off.max(initial=0.0))


def _own_outlines(before: Program, design: Document, rows: np.ndarray) -> Path:
    """The outline of the design that each run is of, y up."""
    up = compose(translation(0.0, before.page_height_mm), scaling(1.0, -1.0))
    known = {piece.id: piece.path for piece in design.pieces}
    first, paths = {}, []
    for piece in dict.fromkeys(before.piece[rows].tolist()):
        first[piece] = sum(map(len, paths))
        paths.append(known[before.pieces[piece]])
    numbers = [first[piece] + outline for piece, outline in zip(before.piece[rows], before.outline[rows], strict=True)]
    return transform(Path.concatenate(paths), up).take(np.array(numbers))


def _shifted(points: np.ndarray, by: np.ndarray) -> np.ndarray:
    return np.ascontiguousarray(points + np.column_stack([by, np.zeros(len(by))]))


def _on_line(path: Path, lead: np.ndarray, tail: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Places along runs without their leads (N, 2), and the run of each (N,)."""
    chords = flatten(path, EXACT_MM, STEP_MM)
    owner = np.repeat(np.arange(len(chords)), np.diff(chords.start))
    step = np.hypot(*np.diff(chords.points, axis=0, prepend=chords.points[:1]).T)
    step[chords.start[:-1]] = 0.0
    along = np.cumsum(step)
    begin, end = along[chords.start[:-1]], along[chords.start[1:] - 1]
    kept = (along >= (begin + lead)[owner] - 1e-6) & (along <= (end - tail)[owner] + 1e-6)
    return np.ascontiguousarray(chords.points[kept]), owner[kept]
