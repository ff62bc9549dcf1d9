"""How long a program takes, and how far its tools go."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..geometry import ARC, Path, flatten
from ..geometry.arcs import centre_and_radius
from ..geometry.measure import lengths, segment_lengths
from ..geometry.nodes import turns_after
from ..geometry.path import line_controls
from .program import Program

#: Speeds in mm/s where a machine names none: common practice for a desk machine.
SPEED, TRAVEL = 20.0, 100.0
ACCELERATION = 1000.0
#: A tool goes round a corner at the speed at which an arc that stays this near to it could be run, in mm: what
#: controllers call the deviation at a junction (common practice: 0.01 to 0.05).
JUNCTION_MM = 0.02


@dataclass(frozen=True)
class Estimate:
    """seconds: in all; segment (M,): of each segment; run, travel (N,): of each run with its fall and lift, and of the
    way to it; lengths in mm."""

    seconds: float
    segment: np.ndarray
    run: np.ndarray
    travel: np.ndarray
    line_mm: float
    travel_mm: float
    lifts: int
    changes: int


def estimate(program: Program, at: tuple[float, float] = (0.0, 0.0)) -> Estimate:
    """The time of a program from a place on, by trapezoidal speeds. A machine that knows no arcs runs their chords."""
    if not len(program):
        return Estimate(0.0, np.zeros(0), np.zeros(0), np.zeros(0), 0.0, 0.0, 0, 0)
    from .kernels.motion import run_seconds, trapezoid

    pull = program.value("acceleration_mm_s2", ACCELERATION)
    path, segment = _as_run(program)
    of = path.outline_of
    top = np.minimum(program.value("speed_mm_s", SPEED)[of] * program.pace[segment], _along_arcs(path, pull))
    joint = np.concatenate([[0.0], _round_corners(path, pull)[:-1]])
    seconds = run_seconds(segment_lengths(path), top, joint, pull[of], path.start.copy())
    seconds = np.bincount(segment, seconds, program.path.segment_count)
    path = program.path
    own = np.add.reduceat(seconds, path.start[:-1])
    own = own + 2 * program.value("lift_s", 0.0) + program.value("dwell_s", 0.0)
    begin, end = program.ends
    way = np.hypot(*(begin - np.vstack([[at], end[:-1]])).T)
    fast = np.maximum(program.value("travel_speed_mm_s", TRAVEL), 0.1)
    travel = np.array([trapezoid(*row) for row in np.column_stack([way, 0 * way, 0 * way, fast, pull]).tolist()])
    number = np.array([tool.number for tool in program.tools])[program.tool]
    changes = np.concatenate([[False], np.diff(number) != 0])
    travel = travel + changes * program.value("change_s", 0.0)
    total = float(own.sum() + travel.sum())
    return Estimate(
        total, seconds, own, travel, float(lengths(path).sum()), float(way.sum()), len(program), int(changes.sum())
    )


def run_clock(program: Program, path: Path, found: Estimate, tolerance_mm: float) -> np.ndarray:
    """When a tool is at each of the points (N,) of a program's lines as chords within a tolerance, in seconds since it
    came down there; path: those lines, wherever they lie."""
    if not len(path):
        return np.zeros(0)
    chords = flatten(path, tolerance_mm)
    ends = np.cumsum(found.segment)
    begin = (ends - found.segment)[path.start[:-1]]
    at = (ends - found.segment)[chords.segment] + found.segment[chords.segment] * chords.parameter
    down = program.value("lift_s", 0.0) + program.value("dwell_s", 0.0)
    return at + np.repeat(down - begin, np.diff(chords.start))


def _as_run(program: Program) -> tuple[Path, np.ndarray]:
    """The lines as the machine is told them, and the segment of the program that each is of."""
    machine = next((tool.machine for tool in program.tools if tool.machine), None)
    if machine is None or machine.format != "hpgl" or machine.arcs:
        return program.path, np.arange(program.path.segment_count)
    chords = flatten(program.path, max(machine.chord_mm - program.off_mm, machine.chord_mm / 2))
    kept = np.ones(len(chords.points), bool)
    kept[chords.start[1:] - 1] = False
    at = np.flatnonzero(kept)
    start = chords.start - np.arange(len(chords.start))
    flat = np.zeros(len(at))
    lines = Path(line_controls(chords.points[at], chords.points[at + 1]), flat, flat, start, program.path.closed)
    return lines, chords.segment[at]


def _along_arcs(path: Path, pull: np.ndarray) -> np.ndarray:
    """The speed (M,) at which the pull across an arc is what the axes have."""
    made = np.full(path.segment_count, np.inf)
    arc = np.flatnonzero((path.kind == ARC) & (np.abs(path.bulge) > 1e-9))
    _, radius = centre_and_radius(path.ctrl[arc, 0], path.ctrl[arc, 3], path.bulge[arc])
    made[arc] = np.sqrt(pull[path.outline_of[arc]] * radius)
    return made


def _round_corners(path: Path, pull: np.ndarray) -> np.ndarray:
    """The speed (M,) that may be had from each segment to the next one of its run."""
    following = np.arange(path.segment_count) + 1
    following[path.start[1:] - 1] = -1
    turn = np.abs(turns_after(path, following))
    # An arc tangent to both sides that stays so near to the corner has r = e sin(h) / (1 - sin(h)), h half the angle
    # between the sides.
    half = np.sin((np.pi - turn) / 2)
    radius = JUNCTION_MM * half / np.maximum(1 - half, 1e-12)
    return np.sqrt(pull[path.outline_of] * radius)
