"""The way of a dragged blade's axis: its tip follows the line, behind the axis by the blade's offset.

While the tip runs along a line the axis runs along it, so far ahead; along an arc of radius R on one about the same
centre, of radius sqrt(R^2 + d^2). At a corner the tip stands, and the axis turns about it on an arc of radius d: the
axis then moves across the blade, so that its tip does not move. The same follows from the tractrix, whose tangent has
the length d (from the definition of the curve).
"""

from __future__ import annotations

import numpy as np

from ..geometry import ARC, LINE, Path
from ..geometry.arcs import centre_and_radius
from ..geometry.measure import outline_bounds, segment_lengths
from ..geometry.nodes import end_directions
from ..geometry.path import line_controls
from ..model import Finding, Treatment
from .notices import TIGHT
from .places import on_page, piece_ids
from .program import Program, segments_of_runs

#: The axis is not turned where it is off its next way by less, in mm: a tenth of a machine's step.
NOTHING_MM = 0.0025
#: Of curves that are too tight so many are told.
MOST_TOLD = 50


def with_blade(program: Program) -> tuple[Program, list[Finding]]:
    """The program as the axes of dragged blades run it; and the curves that are tighter than their blade. The blade
    points to where the run before ended; before the first run, along that. Runs are open then: where a line closes, its
    axis does not."""
    dragged = program.value("drags", False) & ~program.treated(Treatment.DRAW)
    if not dragged.any():
        return program, []
    findings = _tight(program, dragged)
    own, others = np.flatnonzero(dragged), np.flatnonzero(~dragged)
    axis = _axis(program.taken(own))
    if not len(others):
        return axis, findings
    both = Path.concatenate([axis.path, program.path.take(others)])
    rest = program.taken(others)
    order = np.argsort(np.concatenate([own, others]), kind="stable")
    pace, lifted = np.concatenate([axis.pace, rest.pace]), np.concatenate([axis.lifted, rest.lifted])
    return program.with_paths(both, np.concatenate([own, others]), pace, lifted).taken(order), findings


def _axis(program: Program) -> Program:
    program = _without_nothing(program)
    path = program.path
    first = path.start[:-1]
    d = program.value("blade_offset_mm", 0.0)[path.outline_of][:, None]
    go, arrive = (way / np.hypot(*way.T)[:, None] for way in end_directions(path))
    come = np.roll(arrive, 1, axis=0)
    come[first[0]] = go[first[0]]
    turn = np.arctan2(come[:, 0] * go[:, 1] - come[:, 1] * go[:, 0], (come * go).sum(axis=1))
    # Where segments meet, the axis comes to a place ahead of the tip, turns about the tip, and then runs along.
    turns = np.abs(turn) * d[:, 0] > NOTHING_MM
    swivels = np.abs(np.degrees(turn)) > program.value("swivel_angle_deg", 20.0)[path.outline_of]
    lift = np.abs(np.degrees(turn)) > program.value("lift_angle_deg", 180.0)[path.outline_of]
    count = 1 + turns
    at = np.concatenate([[0], np.cumsum(count)])
    total = int(at[-1])
    ends, bulge, lifted = np.empty((total, 2, 2)), np.zeros(total), np.zeros(total, bool)
    pace = np.repeat(program.pace, count)
    run = at[1:] - 1
    ends[run, 0], ends[run, 1] = path.ctrl[:, 0] + d * go, path.ctrl[:, 3] + d * arrive
    bulge[run] = path.bulge
    corner = at[:-1][turns]
    ends[corner, 0], ends[corner, 1] = (path.ctrl[:, 0] + d * come)[turns], ends[run[turns], 0]
    bulge[corner] = np.where(swivels, np.clip(np.tan(turn / 4), -1, 1), 0.0)[turns]
    lifted[corner] = lift[turns]
    start = at[path.start]
    inner = np.ones(total, bool)
    inner[start[:-1]] = False
    ends[inner, 0] = ends[np.flatnonzero(inner) - 1, 1]
    kind = np.where(np.abs(bulge) > 1e-9, ARC, LINE)
    ctrl = line_controls(ends[:, 0], ends[:, 1])
    axis = Path(ctrl, kind, np.where(kind == ARC, bulge, 0.0), start, np.zeros(len(path), bool))
    return program.with_paths(axis, pace=pace, lifted=lifted)


def _without_nothing(program: Program) -> Program:
    """The program without segments of no length, which have no direction; lone nodes stay out, since nothing
    would be left of them."""
    path = program.path
    there = (path.ctrl[:, 0] != path.ctrl[:, 3]).any(axis=1)
    if there.all():
        return program
    count = np.add.reduceat(there.astype(np.int64), path.start[:-1])
    kept = np.flatnonzero(count > 0)
    segments = segments_of_runs(path, kept)
    segments = segments[there[segments]]
    start = np.concatenate([[0], np.cumsum(count[kept])])
    slim = Path(path.ctrl[segments], path.kind[segments], path.bulge[segments], start, path.closed[kept])
    return program.with_paths(slim, kept, program.pace[segments], program.lifted[segments])


def _tight(program: Program, dragged: np.ndarray) -> list[Finding]:
    path = program.path
    offset = program.value("blade_offset_mm", 0.0) * dragged
    once = dragged & (program.nth_pass == 1)
    box = outline_bounds(path)
    size = np.maximum(box[:, 2] - box[:, 0], box[:, 3] - box[:, 1])
    small = once & (size < 2 * offset)
    told = []
    for run in np.flatnonzero(small).tolist()[:MOST_TOLD]:
        said = f"A line {size[run]:.2f} mm across is smaller than the blade's offset of {offset[run]:g} mm can follow: "
        said += "leave it out, enlarge it, or take a finer blade."
        told.append(TIGHT.at(said, f"small {run}", piece_ids(program, run), on_page(program, run)))
    arc = np.flatnonzero((path.kind == ARC) & (once & ~small)[path.outline_of])
    _, radius = centre_and_radius(path.ctrl[arc, 0], path.ctrl[arc, 3], path.bulge[arc])
    tight = arc[(radius < offset[path.outline_of[arc]]) & (segment_lengths(path)[arc] > NOTHING_MM)]
    seen: set[int] = set()
    for segment, r in zip(tight.tolist(), radius[np.isin(arc, tight)].tolist(), strict=True):
        run = int(path.outline_of[segment])
        if run in seen or len(told) >= MOST_TOLD:
            continue
        seen.add(run)
        place = on_page(program, run, tuple(path.ctrl[segment, 0].tolist()))
        said = f"A bend of radius {r:.2f} mm is tighter than the blade's offset of {offset[run]:g} mm: "
        said += "enlarge it, or take a finer blade."
        told.append(TIGHT.at(said, f"bend {run}", piece_ids(program, run), place, radius_mm=r))
    return told
