"""G-code in: what the tool would work, a layer for each tool or power; closed strokes inside others are their holes."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from ...geometry import Path, PathBuilder
from ...model import Finding
from ...model.notices import DAMAGED, NOT_UNDERSTOOD, TAKEN_PLAINLY
from ...model.units import MM_PER_UNIT, FileUnit
from ..format import ReadOptions, ReadResult
from ..machine_files import document_of
from .interpreter import Interpreter, Move
from .words import lines

#: Places nearer than this, in mm, are one.
SAME_MM = 1e-6
#: What is so near to half a circle, in mm at its end, is one: numbers are written with three or four decimals.
NEARLY_MM = 1.5e-3


def read(data: bytes, options: ReadOptions) -> ReadResult:
    """Strokes as pieces, in millimetres, y down from the page's height or, without one, from the topmost line."""
    machine = Interpreter(options.budget)
    for number, words, rest in lines(data.decode("utf-8", "replace")):
        machine.line(number, words, rest)
    works, by_beam = _working(machine)
    strokes, passes = _once(list(_strokes(machine.moves, works, by_beam)))
    keys = dict.fromkeys(key for key, _ in strokes)
    layers = {key: (_layer_id(key), _layer_name(key), number) for number, key in enumerate(keys)}
    name = machine.unit or "mm"
    unit = FileUnit(name, MM_PER_UNIT[name], machine.unit is not None)
    return ReadResult(document_of(strokes, layers, 1.0, options), tuple(_findings(machine, passes)), unit=unit)


def _working(machine: Interpreter) -> tuple[list[bool], bool]:
    """Of each move, whether the tool works: below the clearance height, else with the beam on, else all but rapids; and
    whether it is a beam."""
    heights = {move.z for move in machine.moves} if machine.saw_z else set()
    if len(heights) > 1:
        low, high = min(heights), max(heights)
        clear = 0.0 if low <= 0 < high else high
        return [not m.rapid and (m.z <= clear if clear == 0.0 else m.z < clear) for m in machine.moves], False
    if machine.saw_power:
        return [not m.rapid and m.power > 0 for m in machine.moves], True
    return [not m.rapid for m in machine.moves], False


def _strokes(moves: list[Move], works: list[bool], by_beam: bool) -> Iterator[tuple[tuple[int, float], float, Path]]:
    """Runs of working moves with one tool and, of a beam, one power: those, the depth, and the outline."""
    builder: PathBuilder | None = None
    key, depth, first, at = (0, 0.0), 0.0, (0.0, 0.0), (0.0, 0.0)
    for move, work in zip(moves, works, strict=True):
        own = (move.tool, move.power if by_beam else 0.0)
        still = move.turn == 0 and math.dist(move.start, move.end) < SAME_MM
        if builder is not None and (not work or own != key):
            yield key, depth, _ended(builder, first, at)
            builder = None
        if not work or still:
            continue
        if builder is None:
            builder, key, depth, first = PathBuilder(), own, move.z, move.start
            builder.move_to(first)
        _draw(builder, move)
        at = move.end
    if builder is not None:
        yield key, depth, _ended(builder, first, at)


def _draw(builder: PathBuilder, move: Move) -> None:
    if move.turn == 0:
        return builder.line_to(move.end)
    radius = math.dist(move.start, move.centre)
    turn, near = move.turn, NEARLY_MM / max(radius, NEARLY_MM)
    for whole in (math.pi, 2 * math.pi):
        turn = math.copysign(whole, turn) if abs(abs(turn) - whole) < near else turn
    builder.arc_about(move.centre, turn, move.end)
    return None


def _ended(builder: PathBuilder, first, at) -> Path:
    path = builder.path()
    if path.segment_count > 1 and math.dist(first, at) < SAME_MM:
        builder.close()
        return builder.path()
    return path


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
