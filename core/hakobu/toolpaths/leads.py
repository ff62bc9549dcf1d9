"""How closed cuts begin and end: from the waste to the line, past the start so that it closes, and back."""

from __future__ import annotations

import numpy as np

from ..geometry import Path, signed_areas
from ..geometry.crossings import crossings
from ..geometry.nodes import SMOOTH_RADIANS
from ..geometry.stretches import Measured, Run, path_from
from ..model import Finding, Treatment
from .notices import NO_LEAD
from .places import on_page, piece_ids
from .program import Program

#: A lead that has no room is tried this much shorter, and then from so many other places along the outline.
SHORTER, PLACES = (1.0, 0.5), 8


def with_overcut(program: Program) -> Program:
    """Closed cuts run on past their start, so that they close; they are then open runs."""
    over = program.value("overcut_mm", 0.0) * program.treated(Treatment.CUT) * program.path.closed
    if not (over > 0).any():
        return program
    measured, runs = Measured(program.path), []
    for run in range(len(program)):
        if over[run] > 0:
            whole = measured.length(run)
            parts = [measured.whole(run), measured.stretch(run, 0.0, min(over[run], whole))]
            runs.append(Run.joined(parts))
        else:
            runs.append(measured.whole(run))
    return program.with_paths(path_from(runs, program.path.closed & (over <= 0)))


def with_leads(program: Program) -> tuple[Program, list[Finding]]:
    """Closed cuts begin off their line, in the waste, and end there, behind their overcut; never across another line
    nor off the page. Where there is no room at the start, a shorter lead or another start is taken; where there is none
    at all, the run begins on its line, and that is told."""
    cut = program.treated(Treatment.CUT) & program.path.closed & (program.side != 0)
    into, out = program.value("lead_in_mm", 0.0) * cut, program.value("lead_out_mm", 0.0) * cut
    wanted = np.flatnonzero((into > 0) | (out > 0))
    over = program.value("overcut_mm", 0.0)
    if not len(wanted):
        return with_overcut(program), []
    measured = Measured(program.path)
    left = _waste_left(program)
    begin = np.zeros(len(program))
    share = np.zeros(len(program))
    open_ = wanted
    own = np.isfinite(program.begin[:, 0])
    without: list[np.ndarray] = []
    for nth in range(PLACES):
        if nth == 1:
            # A start that a person has set is kept.
            without, open_ = [open_[own[open_]]], open_[~own[open_]]
        for smaller in SHORTER:
            if not len(open_):
                break
            at = np.array([measured.length(run) * nth / PLACES for run in open_.tolist()])
            leads = [_leads(program, measured, run, a, smaller * into[run], smaller * out[run], over[run], left[run])
                     for run, a in zip(open_.tolist(), at.tolist(), strict=True)]  # fmt: skip
            free = _free(program.path, leads)
            begin[open_[free]], share[open_[free]] = at[free], smaller
            open_ = open_[~free]
    open_ = np.sort(np.concatenate([open_, *without]))
    runs, closed, lead, tail = [], program.path.closed.copy(), program.lead.copy(), program.tail.copy()
    for run in range(len(program)):
        whole = measured.length(run)
        over_mm = min(over[run], whole) if cut[run] else 0.0
        parts = [measured.stretch(run, begin[run], begin[run] + whole) if begin[run] else measured.whole(run)]
        if over_mm > 0:
            parts.append(measured.stretch(run, begin[run], begin[run] + over_mm))
        if share[run]:
            lead[run], tail[run] = share[run] * into[run], share[run] * out[run]
            first, last = _leads(program, measured, run, begin[run], lead[run], tail[run], over[run], left[run])
            parts = [*first, *parts, *last]
        closed[run] &= len(parts) == 1
        runs.append(Run.joined(parts))
    made = program.with_paths(path_from(runs, closed))
    made.lead[:], made.tail[:] = lead, tail
    said = "There is no room for a lead in the waste: the run begins on its line. Take a shorter lead, or more room."
    told = [NO_LEAD.at(said, str(run), piece_ids(program, run), on_page(program, run)) for run in open_.tolist()]
    return made, told


def _waste_left(program: Program) -> np.ndarray:
    """Whether waste lies to the left of each run, (N,)."""
    return np.sign(signed_areas(program.path)) * program.side < 0


def _leads(
    program: Program, measured: Measured, run: int, at: float, into: float, out: float, over: float, left: bool
) -> tuple[list[Run], list[Run]]:
    """The runs that come before and behind an outline begun at a place: none or one each."""
    machine = program.machine(run)
    shape = machine.lead if machine else "line"
    whole = measured.length(run)
    first = [_lead(measured, run, at, into, left, shape, False)] if into > 0 else []
    last = [_lead(measured, run, (at + min(over, whole)) % whole, out, left, shape, True)] if out > 0 else []
    return first, last


def _lead(measured: Measured, run: int, at: float, long: float, left: bool, shape: str, leaves: bool) -> Run:
    """A lead to a place on an outline, or away from it."""
    whole, tiny = measured.length(run), min(1e-3, measured.length(run) / 100)
    after = measured.stretch(run, at, at + tiny)
    before = measured.stretch(run, (at - tiny) % whole, (at - tiny) % whole + tiny)
    place = after.ends[0, 0]
    forth, back = _unit(after.ends[-1, 1] - after.ends[0, 0]), _unit(before.ends[-1, 1] - before.ends[0, 0])
    side = 1.0 if left else -1.0
    # The waste at that place, from where the line goes on to where it came from.
    room = (side * np.arctan2(*_across_along(forth, -back))) % (2 * np.pi)
    if shape == "arc" and room > np.pi - SMOOTH_RADIANS:
        way = back if leaves else forth
        normal = side * np.array([-way[1], way[0]])
        radius = long / (np.pi / 2)
        centre = place + radius * normal
        bulge = side * np.tan(np.pi / 8)
        if leaves:
            return Run(np.array([[place, centre + radius * way]]), np.array([bulge]))
        return Run(np.array([[centre - radius * way, place]]), np.array([bulge]))
    # An arc has no room in a corner that is narrower: a line goes half way through it.
    half = side * room / 2
    cos, sin = np.cos(half), np.sin(half)
    way = np.array([forth[0] * cos - forth[1] * sin, forth[0] * sin + forth[1] * cos])
    far = place + long * way
    return Run.line(place, far) if leaves else Run.line(far, place)


def _across_along(a: np.ndarray, b: np.ndarray) -> tuple[float, float]:
    return float(a[0] * b[1] - a[1] * b[0]), float(a @ b)


def _unit(way: np.ndarray) -> np.ndarray:
    return way / max(float(np.hypot(*way)), 1e-300)


def _free(path: Path, leads: list) -> np.ndarray:
    """Which leads cross no line and stay on the page, (N,) bool."""
    runs = [run for first, last in leads for run in (*first, *last)]
    owner = np.repeat(np.arange(len(leads)), [len(first) + len(last) for first, last in leads])
    lines = path_from(runs, np.zeros(len(runs), bool))
    free = np.ones(len(leads), bool)
    off = np.array([(run.ends < 0).any() for run in runs])
    free[owner[off]] = False
    found = crossings(Path.concatenate([path, lines]), np.zeros(len(path) + len(lines), np.int64)).outlines - len(path)
    # Pairs are sorted: the second of a pair is a lead where any is, and leads may cross each other.
    hit = (found[:, 1] >= 0) & (found[:, 0] < 0)
    free[owner[found[hit, 1]]] = False
    return free
