"""G-code out: absolute places, y up; arcs as G2 and G3, curves as arcs within the chord tolerance.

Source: NISTIR 6556 (Kramer, Proctor, Messina 2000) for the words: G0 to G4, G20, G21, M3 to M5, F in units a minute,
P of a dwell in seconds, C for a turn about Z.
"""

from __future__ import annotations

import re

import numpy as np

from ...errors import BadRequest
from ...geometry import ARC, Path, transform
from ...geometry.arcs import centre_and_radius
from ...geometry.nodes import end_directions
from ...geometry.recover import as_arcs
from ...model import Document, Machine
from ...toolpaths import Program, Tool, frame_of, make
from ..format import WriteOptions, Written
from ..machine_words import words_of
from . import RELEASES

#: Heights above and in the material, in mm, feed in mm a minute and power in thousandths: a machine's operator sets
#: his own (common practice).
CLEAR_MM, DEPTH_MM, FEED, POWER = 5.0, -0.5, 1200, 1000
#: Decimals of mm and of inches; mm in an inch.
DECIMALS, INCH_DECIMALS, INCH = 4, 6, 25.4
#: A turned knife is lifted where it has to turn by more at once, in degrees.
TURN_DEG = 1.0
_PLAIN = re.compile(r"[^A-Za-z0-9 ,.#_-]")


def write(document: Document, options: WriteOptions) -> Written:
    """The strokes of all layers that are cut, scored or drawn, as their machine works them; a T word for each tool."""
    return write_program(make(document, options.plan).program, options)


def write_program(program: Program, options: WriteOptions) -> Written:
    """G-code of a program. Release "power" switches a laser by M3 or M4 and M5, "height" lifts a knife or pen by Z.
    Raises BadRequest for a release or words that do not fit the machine."""
    machine = options.plan.machine
    release = options.release or ("height" if machine and machine.tool != "laser" else "power")
    if release not in RELEASES:
        raise BadRequest(f"G-code can be written for {' or '.join(RELEASES)}, not for {release}.")
    before, after = words_of(machine, "gcode")
    beam, inches = release == "power", bool(machine and machine.unit == "in")
    out = [f"({_PLAIN.sub(' ', options.title)})"] if options.title else []
    off = "M5" if beam else f"G0 Z{_number(_up(machine), inches)}"
    out += [f"G17 {'G20' if inches else 'G21'} G90", "G91.1", *before, off]
    path = transform(program.path, frame_of(machine)) if len(program) else program.path
    arcs = as_arcs(path, max(options.chord_mm - program.off_mm, options.chord_mm / 2)) if len(program) else path
    moves, begins = _moves(arcs, inches)
    turns = _turns(arcs) if machine and machine.tangential and not beam else None
    # Where each segment's words begin: a curve may be several arcs, which share its pace.
    pace, lifted = _of_arcs(program, arcs)
    plain, tool = bool((pace == 1.0).all()) and not lifted.any() and turns is None, -1
    for k, own in enumerate(program.tool.tolist()):
        if own != tool:
            tool = own
            told = program.tools[tool]
            out += [f"({_PLAIN.sub(' ', told.layer)}, {told.treatment.value})", f"T{told.number}"]
        feed = _feed(program.tools[own], inches)
        first, last = int(arcs.start[k]), int(arcs.start[k + 1])
        out.append(begins[k] if turns is None else f"{begins[k]} C{_number(turns[first][0])}")
        on = _on(program.tools[own], beam, int(program.nth_pass[k]), feed(1.0), inches)
        out.append(on)
        if machine and machine.dwell_s:
            out.append(f"G4 P{machine.dwell_s:g}")
        if plain:
            out += [f"{moves[first]} F{feed(1.0)}", *moves[first + 1 : last]]
        else:
            for m in range(first, last):
                out += _turning(turns, m, first, machine, on) if turns is not None and machine else []
                word = moves[m] if turns is None else f"{moves[m]} C{_number(turns[m][1])}"
                if lifted[m] and machine:
                    out.append(f"G1 Z{_number(machine.z_swivel_mm, inches)}")
                changes = m == first or pace[m] != pace[m - 1]
                out.append(f"{word} F{feed(float(pace[m]))}" if changes else word)
                out += [on] if lifted[m] else []
        out.append(off)
    out += [off, *after, "M2"]
    notes = tuple(f"tool {each.number}: {each.layer}, {each.treatment.value}" for each in program.tools)
    return Written(("\n".join(out) + "\n").encode("ascii"), notes)


def _up(machine: Machine | None) -> float:
    return machine.z_up_mm if machine else CLEAR_MM


def _feed(tool: Tool, inches: bool):
    """The F word's number at a share of a tool's speed."""
    speed = tool.machine.speed_mm_s if tool.machine else None
    if speed is None:
        return lambda pace: _number(round(FEED * pace, 1), inches)
    return lambda pace: _number(round(60 * speed * pace, 1), inches)


def _on(tool: Tool, beam: bool, nth_pass: int, feed: str, inches: bool) -> str:
    """What begins a run: a beam at its power, or the tool's height, deeper with each pass."""
    machine = tool.machine
    if beam:
        power = round(POWER * machine.power_at(nth_pass) / 100) if machine else POWER
        return f"{'M4' if machine and machine.beam == 'speed' else 'M3'} S{power}"
    depth = machine.z_down_mm - (nth_pass - 1) * machine.pass_depth_mm if machine else DEPTH_MM
    return f"G1 Z{_number(depth, inches)} F{feed}"


def _of_arcs(program: Program, arcs: Path) -> tuple[np.ndarray, np.ndarray]:
    """Pace and lift of each segment when curves have been made arcs; curves in runs that have been altered are arcs
    already."""
    if arcs.segment_count == program.path.segment_count:
        return program.pace, program.lifted
    return np.ones(arcs.segment_count), np.zeros(arcs.segment_count, bool)


def _turns(path: Path) -> np.ndarray:
    """Where a turned knife points at the beginning and at the end of each segment (M, 2), in degrees, unwound along
    each run."""
    leave, arrive = end_directions(path)
    first = np.degrees(np.arctan2(leave[:, 1], leave[:, 0]))
    last = np.degrees(np.arctan2(arrive[:, 1], arrive[:, 0]))
    sweep = np.where(path.kind == ARC, np.degrees(4 * np.arctan(path.bulge)), last - first)
    step = (first[1:] - last[:-1] + 180) % 360 - 180
    step[path.start[1:-1] - 1] = 0.0
    begin = np.concatenate([[0.0], np.cumsum(sweep[:-1] + step)])
    at = begin[path.start[:-1]]
    begin = begin - np.repeat(at, np.diff(path.start)) + np.repeat(first[path.start[:-1]], np.diff(path.start))
    return np.column_stack([begin, begin + sweep])


def _turning(turns: np.ndarray, m: int, first: int, machine: Machine, on: str) -> list[str]:
    """A knife turned at a corner: in the material, or lifted above an angle."""
    if m == first:
        return []
    by = abs(turns[m][0] - turns[m - 1][1])
    if by < TURN_DEG:
        return []
    inches = machine.unit == "in"
    turn = f"G1 C{_number(turns[m][0])}"
    return [f"G0 Z{_number(machine.z_swivel_mm, inches)}", turn, on] if by > machine.lift_angle_deg else [turn]


def _moves(path: Path, inches: bool) -> tuple[list[str], list[str]]:
    """The words that follow each segment, and those that go to the begin of each outline."""
    ends = np.round(path.ctrl[:, [0, 3]], DECIMALS)
    first, last = ends[:, 0], ends[:, 1]
    turned = np.flatnonzero((path.kind == ARC) & (np.abs(path.bulge) >= 1e-9) & (first != last).any(axis=1))
    centre, _ = centre_and_radius(first[turned], last[turned], path.bulge[turned])
    moves = [f"X{x} Y{y}" for x, y in zip(_numbers(last[:, 0], inches), _numbers(last[:, 1], inches), strict=True)]
    ways = ["G1"] * len(moves)
    about = np.round(centre - first[turned], DECIMALS)
    for k, i, j in zip(turned.tolist(), _numbers(about[:, 0], inches), _numbers(about[:, 1], inches), strict=True):
        ways[k] = "G3" if path.bulge[k] > 0 else "G2"
        moves[k] = f"{moves[k]} I{i} J{j}"
    begin = first[path.start[:-1]]
    x, y = _numbers(begin[:, 0], inches), _numbers(begin[:, 1], inches)
    begins = [f"G0 X{a} Y{b}" for a, b in zip(x, y, strict=True)]
    return [f"{way} {move}" for way, move in zip(ways, moves, strict=True)], begins


def _numbers(values: np.ndarray, inches: bool) -> list[str]:
    """Lengths in mm as they are written, all at once."""
    decimals, scaled = (INCH_DECIMALS, values / INCH) if inches else (DECIMALS, values)
    # What rounds to nothing has no sign.
    rounded = np.round(scaled, decimals) + 0.0
    return [text.rstrip("0").rstrip(".") for text in map(f"%.{decimals}f".__mod__, rounded.tolist())]


def _number(value: float, inches: bool = False) -> str:
    """A length in mm as it is written, in mm or inches."""
    text = f"{value / INCH:.{INCH_DECIMALS}f}" if inches else f"{value:.{DECIMALS}f}"
    text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
