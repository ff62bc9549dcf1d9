"""G-code in: what the tool would work, a layer for each tool or power; closed strokes inside others are their holes."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ...geometry import ARC, LINE, Path
from ...geometry.build import HALF_CIRCLE
from ...geometry.path import line_controls
from ...model import Finding
from ...model.notices import DAMAGED, NOT_UNDERSTOOD, TAKEN_PLAINLY
from ...model.units import MM_PER_UNIT, FileUnit
from ..format import ReadOptions, ReadResult
from ..machine_files import document_of
from .interpreter import Interpreter, Moves
from .words import line_of, plain_move

#: Places nearer than this, in mm, are one.
SAME_MM = 1e-6
#: What is so near to half a circle, in mm at its end, is one: numbers are written with three or four decimals.
NEARLY_MM = 1.5e-3


def read(data: bytes, options: ReadOptions) -> ReadResult:
    """Strokes as pieces, in millimetres, y down from the page's height or, without one, from the topmost line."""
    machine = Interpreter(options.budget)
    for number, line in enumerate(data.decode("utf-8", "replace").splitlines(), 1):
        move = plain_move(line)
        if move is not None and machine.is_plain:
            machine.plain_move(*move, number)
        elif line and not line.isspace():
            machine.line(number, *line_of(line))
    drawn = _strokes(machine.moves(), machine)
    strokes, passes = ([(key, path) for key, _, path in drawn], 1) if options.as_run else _once(drawn)
    keys = dict.fromkeys(key for key, _ in strokes)
    layers = {key: (_layer_id(key), _layer_name(key), number) for number, key in enumerate(keys)}
    name = machine.unit or "mm"
    unit = FileUnit(name, MM_PER_UNIT[name], machine.unit is not None)
    return ReadResult(document_of(strokes, layers, 1.0, options), tuple(_findings(machine, passes)), unit=unit)


def _working(moves: Moves, machine: Interpreter) -> tuple[np.ndarray, bool]:
    """Of each move (N,), whether the tool works: below the clearance height, else with the beam on, else all but
    rapids; and whether it is a beam."""
    heights = np.unique(moves.z) if machine.saw_z else np.zeros(0)
    if len(heights) > 1:
        low, high = heights[[0, -1]]
        clear = 0.0 if low <= 0 < high else high
        return ~moves.rapid & (moves.z <= clear if clear == 0.0 else moves.z < clear), False
    if machine.saw_power:
        return ~moves.rapid & (moves.power > 0), True
    return ~moves.rapid, False


def _strokes(moves: Moves, machine: Interpreter) -> list[tuple[tuple[int, float], float, Path]]:
    """Runs of working moves with one tool and, of a beam, one power: those, the depth, and the outline."""
    if not len(moves):
        return []
    works, by_beam = _working(moves, machine)
    power = moves.power if by_beam else np.zeros(len(moves))
    # A run goes on while nothing comes between, a move without way apart.
    other = (moves.tool[1:] != moves.tool[:-1]) | (power[1:] != power[:-1])
    breaks = np.concatenate([[0], np.cumsum(~works[1:] | ~works[:-1] | other)])
    still = (moves.turn == 0) & (np.hypot(*(moves.end - moves.start).T) < SAME_MM)
    rows = np.flatnonzero(works & ~still)
    if not len(rows):
        return []
    path, first = _path(moves, rows, breaks[rows])
    key = zip(moves.tool[rows[first]].tolist(), power[rows[first]].tolist(), strict=True)
    return list(zip(key, moves.z[rows[first]].tolist(), path.outlines(), strict=True))


def _path(moves: Moves, rows: np.ndarray, run: np.ndarray) -> tuple[Path, np.ndarray]:
    """Moves as outlines, one for each run (N,); and the first of the rows of each."""
    first = np.flatnonzero(np.concatenate([[True], run[1:] != run[:-1]]))
    turn, start, end, centre = _meant(moves, rows)
    # An arc has no more than half a circle.
    parts = np.maximum(np.ceil(np.abs(turn) / np.pi - 1e-9), 1).astype(np.int64)
    of = np.repeat(np.arange(len(rows)), parts)
    nth = np.arange(len(of)) - np.repeat(np.cumsum(parts) - parts, parts)
    places = np.empty((len(of), 2, 2))
    places[:, 0], places[:, 1] = start[of], end[of]
    for column, at in ((0, nth), (1, nth + 1)):
        inner = np.flatnonzero((at > 0) & (at < parts[of]))
        k = of[inner]
        angle = turn[k] * at[inner] / parts[k]
        arm, cos, sin = start[k] - centre[k], np.cos(angle), np.sin(angle)
        places[inner, column, 0] = centre[k, 0] + arm[:, 0] * cos - arm[:, 1] * sin
        places[inner, column, 1] = centre[k, 1] + arm[:, 0] * sin + arm[:, 1] * cos
    bulge = np.tan(turn / parts / 4)[of]
    half = np.abs(np.abs(bulge) - 1) < HALF_CIRCLE
    bulge = np.clip(np.where(half, np.sign(bulge), bulge), -1.0, 1.0)
    begin = np.append((np.cumsum(parts) - parts)[first], len(of))
    joint = np.ones(len(of), bool)
    joint[begin[:-1]] = False
    places[joint, 0] = places[np.flatnonzero(joint) - 1, 1]
    head, last = places[begin[:-1], 0], begin[1:] - 1
    closed = (np.hypot(*(places[last, 1] - head).T) < SAME_MM) & (np.diff(begin) > 1)
    places[last[closed], 1] = head[closed]
    kind = np.where(turn[of] == 0, LINE, ARC)
    return Path(
        line_controls(places[:, 0], places[:, 1]), kind, np.where(kind == ARC, bulge, 0.0), begin, closed
    ), first


def _meant(moves: Moves, rows: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """Turns, starts, ends and centres of moves; turns that are nearly half a circle or a whole one are."""
    turn, start, centre = moves.turn[rows].copy(), moves.start[rows], moves.centre[rows]
    radius = np.hypot(*(start - centre).T)
    near = NEARLY_MM / np.maximum(radius, NEARLY_MM)
    for whole in (np.pi, 2 * np.pi):
        meant = (turn != 0) & (np.abs(np.abs(turn) - whole) < near)
        turn[meant] = np.copysign(whole, turn[meant])
    return turn, start, moves.end[rows], centre


def _once(strokes: list) -> tuple[list, int]:
    """The strokes without those that repeat one with the same tool at another depth, and the most depths of any."""
    seen: dict[tuple, list[float]] = {}
    kept = []
    for key, depth, path in strokes:
        mark = (key, np.round(path.ctrl, 4).tobytes(), np.round(path.bulge, 6).tobytes())
        depths = seen.setdefault(mark, [depth])
        if depth == depths[0]:
            kept.append((key, path))
        elif depth not in depths:
            depths.append(depth)
    return kept, max(map(len, seen.values()), default=1)


def _layer_id(key: tuple[int, float]) -> str:
    return f"tool-{key[0]}-{key[1]:g}"


def _layer_name(key: tuple[int, float]) -> str:
    tool, power = key
    name = f"Tool {tool}" if tool else "Tool"
    return f"{name}, power {power:g}" if power else name


def _findings(machine: Interpreter, passes: int) -> Iterator[Finding]:
    for what, count in machine.broken.items():
        line = machine.first_line[what]
        said = f'{count} lines could not be read, the first in line {line}: "{what}".'
        yield DAMAGED.at(said, what, count=count, line=line)
    for what, count in machine.unknown.items():
        line = machine.first_line[what]
        said = f"{what} is not understood ({count} times, first in line {line})."
        yield NOT_UNDERSTOOD.at(said, what, count=count, line=line)
    if passes > 1:
        said = f"Lines are run up to {passes} times, as for depth; each is taken once."
        yield TAKEN_PLAINLY.at(said, "passes", count=passes)
