"""Lines that are not cut through: tabs that hold what is cut, and perforation."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..geometry.proximity.places import Places
from ..geometry.stretches import Measured, Run, path_from
from ..model import Finding, Treatment
from .notices import NO_TAB
from .own_places import Own
from .places import on_page, piece_ids
from .program import Program
from .starts import corners_along

#: Tabs and the cuts between them: a cut that is shorter than this many tabs holds nothing apart.
LEAST_CUT = 2.0
#: A place of a person is on a line that is so near to it, in mm: the kerf moves lines off their outlines.
BESIDE_MM = 2.0
#: Places that are tried for a tab between its neighbours.
TRIED = 41


def with_tabs(program: Program, own: Own) -> tuple[Program, list[Finding]]:
    """Outlines of what is kept cut but for tabs, evenly along each and not at its corners, or at a person's own places;
    a tab is as long as it says when the kerf at both of its ends is gone. Outlines too short for their tabs are cut
    whole, and told."""
    cut = program.treated(Treatment.CUT) & program.path.closed
    count = (program.value("tabs", 0) * cut * (program.side > 0)).astype(int)
    keys = list(zip(program.piece.tolist(), program.outline.tolist(), strict=True))
    by_hand = np.array([key in own for key in keys], bool) & cut
    rows = np.flatnonzero((count > 0) | by_hand)
    if not len(rows):
        return program, []
    gap = program.value("tab_mm", 0.5) + program.value("cut_kerf_mm", 0.0)
    measured, findings = Measured(program.path), []
    cuts: dict[int, np.ndarray] = {}
    for run in rows.tolist():
        whole, each = measured.length(run), float(gap[run])
        places = _along(measured, run, own[keys[run]], each) if by_hand[run] else None
        number = int(count[run]) if places is None else len(places)
        if whole < number * each * (1 + LEAST_CUT):
            said = f"An outline {whole:.1f} mm long is too short for {number} tabs of {each:g} mm: "
            said += "it is cut whole. Take fewer or shorter tabs."
            findings.append(NO_TAB.at(said, str(run), piece_ids(program, run), on_page(program, run)))
            continue
        if places is None:
            places = tab_places(whole, corners_along(measured, run), number, each)
        if not len(places):
            continue
        ends = np.append(places[1:], places[0] + whole)
        cuts[run] = np.column_stack([places + each / 2, ends - each / 2])
    return _parted(program, measured, cuts), findings


def _along(measured: Measured, run: int, places: np.ndarray, gap: float) -> np.ndarray:
    """How far along a run tabs at places (K, 2) beside it are, in order; where two would meet, the first of them."""
    found = Places(measured.path.outline(run)).nearest(places)
    a = int(measured.path.start[run])
    long = measured.long[a : int(measured.path.start[run + 1])]
    along = (np.cumsum(long) - long)[found.segment] + found.parameter * long[found.segment]
    along = np.sort(along[found.distance < BESIDE_MM])
    kept: list[float] = []
    for at in along.tolist():
        if all(min(at - other, other + float(long.sum()) - at) > LEAST_CUT * gap for other in kept):
            kept.append(at)
    return np.array(kept)


def _parted(program: Program, measured: Measured, cuts: Mapping[int, np.ndarray]) -> Program:
    """The program with some runs in parts: of each its cuts, from and to (C, 2), in mm along it. Parts are open."""
    runs: list[Run] = []
    for run in range(len(program)):
        own = cuts.get(run)
        runs += [measured.whole(run)] if own is None else [measured.stretch(run, a, b) for a, b in own.tolist()]
    count = np.array([len(cuts.get(run, (0,))) for run in range(len(program))])
    origin = np.repeat(np.arange(len(program)), count)
    whole = np.array([run not in cuts for run in range(len(program))])
    return program.with_paths(path_from(runs, (program.path.closed & whole)[origin]), origin)


def tab_places(whole: float, corners: np.ndarray, count: int, gap: float) -> np.ndarray:
    """Where along an outline the middles of its tabs are, (count,): near even places, as far from corners as it takes
    to keep them out of the tab."""
    even = (np.arange(count) + 0.5) * whole / count
    if not len(corners):
        return even
    room = max(whole / count - gap * LEAST_CUT, 0.0) / 2
    moves = np.linspace(-room, room, TRIED)
    tried = even[:, None] + moves
    apart = np.abs((tried[..., None] - corners + whole / 2) % whole - whole / 2).min(axis=2)
    # The nearest place that clears corners by a whole tab; else the one that clears them the most.
    cost = np.where(apart > gap, np.abs(moves), whole - apart)
    return np.sort(np.take_along_axis(tried, cost.argmin(axis=1)[:, None], axis=1)[:, 0])


def with_perforation(program: Program) -> Program:
    """Scored lines as cuts and gaps, which begin and end with a cut."""
    cut = program.value("perforate_mm", 0.0) * program.treated(Treatment.SCORE)
    if not (cut > 0).any():
        return program
    gap, measured = program.value("perforate_gap_mm", 2.0), Measured(program.path)
    cuts: dict[int, np.ndarray] = {}
    for run in np.flatnonzero(cut > 0).tolist():
        whole = measured.length(run)
        number = round((whole + gap[run]) / (cut[run] + gap[run]))
        if number < 2:
            continue
        # Gaps keep their length; cuts share what is left.
        each = (whole - (number - (not program.path.closed[run])) * gap[run]) / number
        begins = np.arange(number) * (each + gap[run])
        cuts[run] = np.column_stack([begins, begins + each])
    return _parted(program, measured, cuts)


def with_passes(program: Program) -> Program:
    """Each cut run as often as its machine says, one time after the other."""
    often = np.where(program.treated(Treatment.CUT), program.value("passes", 1), 1).astype(np.int64)
    if (often == 1).all():
        return program
    rows = np.repeat(np.arange(len(program)), often)
    made = program.taken(rows)
    made.nth_pass[:] = np.arange(len(rows)) - np.repeat(np.cumsum(often) - often, often) + 1
    return made
