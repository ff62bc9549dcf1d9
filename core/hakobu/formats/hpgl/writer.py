"""HP-GL out: each tool of a program is a pen, each run one stroke of chords on the machine's grid.

Places are absolute and rounded each by itself, so that rounding never adds up. The second release writes the same
strokes as encoded polylines, in about half of the bytes. Source: the HP-GL/2 and HP RTL reference guide for the
instructions; FS, force, is older than it (common practice).
"""

from __future__ import annotations

import numpy as np

from ...errors import BadRequest
from ...geometry import flatten, transform
from ...model import Document
from ...toolpaths import Program, Tool, frame_of, make
from ..format import WriteOptions, Written
from ..machine_words import words_of
from . import RELEASES, steps_per_mm
from .encoded import encoded
from .round_strokes import round_stroke

#: Coordinate pairs in one instruction; old controllers have small buffers (common practice).
PAIRS_PER_INSTRUCTION = 120


def write(document: Document, options: WriteOptions) -> Written:
    """The strokes of all layers that are cut, scored or drawn, as their machine works them; pens as they are used."""
    return write_program(make(document, options.plan).program, options)


def write_program(program: Program, options: WriteOptions) -> Written:
    """The runs of a program, in its order. Raises BadRequest for a release or words that do not fit."""
    release = options.release or RELEASES[0]
    if release not in RELEASES:
        raise BadRequest(f"HP-GL can be written as {' or '.join(RELEASES)}, not as {release}.")
    machine = options.plan.machine
    before, after = words_of(machine, "hpgl")
    out, told = ["IN;PA;", *before], (-1, 0)
    if release == RELEASES[1] and machine:
        width, height = (
            round(side * steps_per_mm(machine)) for side in (machine.reach_width_mm, machine.reach_height_mm)
        )
        out.append(f"PS{height},{width};")
    for run, stroke in enumerate(_strokes(program, options, release)):
        number, nth_pass = int(program.tool[run]), int(program.nth_pass[run])
        tool = program.tools[number]
        if number != told[0]:
            out.append(f"SP{tool.number};{speed_of(tool)}{force_of(tool, nth_pass)}")
        elif nth_pass != told[1] and tool.machine and tool.machine.pass_force_g:
            out.append(force_of(tool, nth_pass))
        told = (number, nth_pass)
        out.append(stroke)
    out += ["PU;SP0;", *after, "IN;"] if after else ["PU;SP0;IN;"]
    return Written("\n".join(out).encode("ascii") + b"\n", tool_notes(program, "pen"))


def tool_notes(program: Program, called: str) -> tuple[str, ...]:
    """Which tool works which layer."""
    return tuple(f"{called} {each.number}: {each.layer}, {each.treatment.value}" for each in program.tools)


def speed_of(tool: Tool, pace: float = 1.0) -> str:
    """In whole centimetres a second."""
    speed = tool.machine.speed_mm_s if tool.machine else None
    return f"VS{max(round(speed * pace / 10), 1)};" if speed else ""


def force_of(tool: Tool, nth_pass: int = 1) -> str:
    """In whole grams."""
    force = tool.machine.force_at(nth_pass) if tool.machine else None
    return f"FS{max(round(force), 1)};" if force else ""


def _strokes(program: Program, options: WriteOptions, release: str):
    """The instructions of each run."""
    if not len(program):
        return
    machine = options.plan.machine
    steps, path = steps_per_mm(machine), transform(program.path, frame_of(machine))
    chords = flatten(path, max(options.chord_mm - program.off_mm, options.chord_mm / 2))
    grid = np.round(chords.points * steps).astype(np.int64)
    for run, (a, b) in enumerate(zip(chords.start[:-1].tolist(), chords.start[1:].tolist(), strict=True)):
        first, last = int(path.start[run]), int(path.start[run + 1])
        pace = program.pace[first:last]
        tool = program.tools[program.tool[run]]
        if (pace != 1.0).any() and tool.machine and tool.machine.speed_mm_s:
            # Of two segments that meet the second has the point between them.
            own = np.append(pace[np.maximum(chords.segment[a + 1 : b] - first, 0)], pace[-1])
            own = np.concatenate([[own[0]], own[:-1]])
            yield _paced(grid[a:b], own, tool)
        elif machine and machine.arcs and release == RELEASES[0]:
            yield round_stroke(path, first, last, steps, options.chord_mm)
        else:
            yield (_stroke if release == RELEASES[0] else _encoded_stroke)(_moved(grid[a:b]))


def _moved(points: np.ndarray) -> np.ndarray:
    return points[np.concatenate([[True], (np.diff(points, axis=0) != 0).any(axis=1)])]


def _stroke(points: np.ndarray) -> str:
    (x, y), rest = points[0], points[1:] if len(points) > 1 else points
    return f"PU{x},{y};{_down(rest)}"


def _down(points: np.ndarray) -> str:
    text = []
    for at in range(0, len(points), PAIRS_PER_INSTRUCTION):
        pairs = points[at : at + PAIRS_PER_INSTRUCTION].ravel().tolist()
        text.append(f"PD{','.join(map(str, pairs))};")
    return "".join(text)


def _paced(points: np.ndarray, pace: np.ndarray, tool: Tool) -> str:
    """A stroke whose speed changes on its way. pace (N,): at which each point is come to."""
    x, y = points[0]
    changes = np.flatnonzero(np.diff(pace[1:]) != 0) + 2
    text = [f"PU{x},{y};"]
    for part in np.split(np.arange(1, len(points)), changes - 1):
        text.append(speed_of(tool, float(pace[part[0]])) + _down(_moved(points[part])))
    # The next stroke begins at the tool's own speed.
    return "".join(text) + (speed_of(tool) if pace[-1] != 1.0 else "")


def _encoded_stroke(points: np.ndarray) -> str:
    """PE in seven bits: up to the first place, then steps from place to place."""
    steps = np.diff(points, axis=0) if len(points) > 1 else np.zeros((1, 2), np.int64)
    first = "".join(map(encoded, points[0].tolist()))
    return f"PE7<={first}{''.join(map(encoded, steps.ravel().tolist()))};"
