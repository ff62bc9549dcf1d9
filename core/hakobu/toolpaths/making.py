"""The program of a design for its machine: compensated, in order, as its tools run."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from ..errors import BadRequest
from ..geometry import CUBIC, bounds, lengths
from ..geometry.recover import as_arcs
from ..model import Document, Finding, Machine, OutlinePlace, Treatment
from ..model.words import number_of
from .blade import with_blade
from .kerf import with_kerf
from .leads import with_leads
from .notices import BEYOND, NO_LINE, OUTSIDE_FIRST
from .order import cooled, holders_of, shortened
from .own_places import Own, own_places, with_own_starts
from .pace import with_slow_corners
from .parting import with_passes, with_perforation, with_tabs
from .places import on_page, piece_ids
from .program import Program, program_of
from .starts import begun, directed, with_starts

#: Curves are arcs within this, in mm, where lines have to be parted or moved: a tenth of a machine's step.
ARCS_MM = 0.0025
#: What is beyond the reach by less, in mm, is within it: a machine's step.
REACH_MM = 0.025
AS_DRAWN = "as-drawn"


@dataclass(frozen=True)
class Plan:
    """How a design is worked. machine: what it is worked with; own: what some layers are worked with, by their ids: the
    same machine with what their material changes. compensated: whether what its tools do to lines is taken into
    account; without it lines run as designed. order: of the machine, or "as-drawn". first: pieces in the order of the
    person, by their ids; others follow. starts: where a person wants outlines to begin; tabs: and to be held, by a
    machine. left_out: pieces that are done. from_run: the first run that is not."""

    machine: Machine | None = None
    own: Mapping[str, Machine] = field(default_factory=dict)
    compensated: bool = True
    order: str = ""
    first: tuple[str, ...] = ()
    starts: tuple[OutlinePlace, ...] = ()
    tabs: tuple[OutlinePlace, ...] = ()
    left_out: frozenset[str] = frozenset()
    from_run: int = 0

    def machine_of(self, layer: str) -> Machine | None:
        return self.own.get(layer, self.machine)

    @property
    def machines(self) -> list[Machine]:
        """All that it names, once each."""
        return list(dict.fromkeys([*([self.machine] if self.machine else []), *self.own.values()]))


@dataclass(frozen=True)
class Made:
    """program: what its machine's file holds; before: the same without what a blade's axis does, where the tip runs;
    findings: what a tool cannot do of it."""

    program: Program
    before: Program
    findings: tuple[Finding, ...]


def make(document: Document, plan: Plan = Plan()) -> Made:
    """The program. Raises BadRequest, naming the value, where those of a machine contradict each other."""
    for machine in plan.machines:
        check_machine(machine)
    program = program_of(document, plan.machine_of)
    findings: list[Finding] = []
    tabs = own_places(program, plan.tabs) if plan.compensated and plan.machines else {}
    if plan.compensated and plan.starts:
        program = with_own_starts(program, own_places(program, plan.starts))
    if plan.compensated and plan.machines and len(program):
        program, findings = _lines_only(program)
        program, told = with_kerf(program)
        findings += told
        program = directed(program)
    if plan.compensated and plan.starts:
        program = begun(program)
    ordered = _ordered(program, plan)
    if plan.first:
        findings += _outside_first(ordered)
    program = with_starts(ordered) if plan.compensated else ordered
    before = program
    if plan.compensated and plan.machines and len(program) and (tabs or any(map(_alters, plan.machines))):
        before, told = _run(program, tabs)
        program, more = with_blade(before)
        findings += [*told, *more]
    if plan.left_out or plan.from_run:
        done = np.array([piece in plan.left_out for piece in program.pieces] or [False])[program.piece]
        left = np.flatnonzero(~done & (np.arange(len(program)) >= plan.from_run))
        program, before = program.taken(left), before.taken(left)
    return Made(program, before, (*findings, *_beyond(program)))


def _lines_only(program: Program) -> tuple[Program, list[Finding]]:
    """The program without lone nodes, along which no tool runs."""
    alone = lengths(program.path) == 0
    said = "A lone node is no line: no tool runs there."
    told = [
        NO_LINE.at(said, str(run), piece_ids(program, run), on_page(program, run))
        for run in np.flatnonzero(alone).tolist()
    ]
    return (program.taken(np.flatnonzero(~alone)), told) if told else (program, [])


def _run(program: Program, tabs: Own) -> tuple[Program, list[Finding]]:
    if (program.path.kind == CUBIC).any():
        program = replace(program.with_paths(as_arcs(program.path, ARCS_MM)), off_mm=ARCS_MM)
    program, findings = with_tabs(with_perforation(program), tabs)
    program, told = with_leads(with_passes(program))
    return with_slow_corners(program), [*findings, *told]


def _alters(machine: Machine) -> bool:
    """Whether lines are parted or moved for a machine, so that they have to be lines and arcs."""
    more = (machine.tabs, machine.overcut_mm, machine.lead_in_mm, machine.lead_out_mm, machine.perforate_mm)
    return any(more) or machine.passes > 1 or machine.corner_percent < 100 or machine.drags


def _ordered(program: Program, plan: Plan) -> Program:
    wanted = plan.order or (plan.machine.order if plan.machine else "short")
    if wanted in (AS_DRAWN, "layers"):
        made = program
    elif wanted == "cool":
        made = cooled(shortened(program))
    else:
        made = shortened(program)
    if not plan.first:
        return made
    rank = {piece: n for n, piece in enumerate(plan.first)}
    # Copies on a sheet go with their piece.
    own = np.array([rank.get(piece.split("*")[0], len(rank)) for piece in made.pieces] or [0])[made.piece]
    return made.taken(np.lexsort((np.arange(len(made)), own, made.tool)))


def _outside_first(program: Program) -> list[Finding]:
    """What one tool cuts after an outline that it lies in, once: only a person's own order has that."""
    late = np.zeros(0, np.int64)
    for tool in np.unique(program.tool[program.treated(Treatment.CUT)]).tolist():
        rows = np.flatnonzero(program.tool == tool)
        above = holder = holders_of(program.path.take(rows))
        own = np.zeros(len(rows), bool)
        while (above >= 0).any():
            own |= (above >= 0) & (above < np.arange(len(rows)))
            above = np.where(above >= 0, holder[above], -1)
        late = np.append(late, rows[own])
    if not len(late):
        return []
    after = "is cut after the outline that it lies" if len(late) == 1 else "are cut after the outlines that they lie"
    said = f"{number_of(len(late), 'line')} {after} in: what is cut loose may move. Let inner pieces come first."
    pieces = tuple(dict.fromkeys(program.pieces[piece] for piece in program.piece[late].tolist()))
    return [OUTSIDE_FIRST.at(said, "order", pieces, on_page(program, int(late[0])), lines=len(late))]


def _beyond(program: Program) -> list[Finding]:
    """What lies beyond the reach of its machine, once."""
    box, machine = bounds(program.path), next((tool.machine for tool in program.tools if tool.machine), None)
    if box is None or machine is None:
        return []
    over = max(-box[0], -box[1], box[2] - machine.reach_width_mm, box[3] - machine.reach_height_mm)
    if over <= REACH_MM:
        return []
    ctrl = program.path.ctrl[:, [0, 3]]
    high = np.array([machine.reach_width_mm, machine.reach_height_mm])
    off = np.maximum(-ctrl, ctrl - high).max(axis=2)
    segment = int(off.max(axis=1).argmax())
    place = ctrl[segment, int(off[segment].argmax())]
    said = f"The tool would have to go {over:.1f} mm beyond the reach of the {machine.name}, "
    said += f"{machine.reach_width_mm:g} x {machine.reach_height_mm:g} mm: "
    said += "move or turn the work, or take a machine with more reach."
    run = int(program.path.outline_of[segment])
    return [BEYOND.at(said, "reach", (), on_page(program, run, tuple(place.tolist())), over_mm=round(over, 3))]


def check_machine(machine: Machine) -> None:
    """Raises BadRequest where values of a machine contradict each other."""
    of = f'Of the machine "{machine.name}" the'
    if machine.tool != "laser" and machine.z_up_mm <= machine.z_down_mm:
        raise BadRequest(
            f"{of} height, up, {machine.z_up_mm:g} mm has to be above the height, down, {machine.z_down_mm:g} mm."
        )
    if machine.least_speed_mm_s > machine.most_speed_mm_s:
        raise BadRequest(
            f"{of} slowest speed, {machine.least_speed_mm_s:g} mm/s, is above its fastest, {machine.most_speed_mm_s:g}."
        )
    force, power = machine.force_at(machine.passes), machine.power_at(machine.passes)
    if force is not None and force < 1:
        raise BadRequest(f"{of} force of the last pass would be {force:g} g: less has to be taken away in each pass.")
    if machine.tool == "laser" and not 0 <= power <= 100:
        raise BadRequest(f"{of} power of the last pass would be {power:g} %: it has to lie between 0 and 100.")
    speed = machine.speed_mm_s
    if speed is not None and not machine.least_speed_mm_s <= speed <= machine.most_speed_mm_s:
        span = f"{machine.least_speed_mm_s:g} and {machine.most_speed_mm_s:g} mm/s"
        raise BadRequest(f"{of} speed, {speed:g} mm/s, has to lie between {span}, which it can go.")
