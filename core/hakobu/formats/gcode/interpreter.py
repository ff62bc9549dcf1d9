"""What a controller does with the words: the moves of its tool, in millimetres, y up.

Source: NISTIR 6556, sections 3.5 (G codes), 3.6 (M codes); G90.1 and G91.1 as later dialects have them (common
practice).
"""

from __future__ import annotations

import math
from array import array
from collections import Counter
from dataclasses import dataclass

import numpy as np

from ...errors import TooMuch
from ..budget import Budget

MM_PER_INCH = 25.4
#: An arc's end may be off its circle by this: the standard's tolerance, in mm.
OFF_CIRCLE_MM = 0.005
#: Codes that change the tool's ways, not where it goes: exact stop, tool length and radius registers off, feed modes,
#: work offsets, returns to the clearance plane, dwell.
HARMLESS_G = {4, 9, 40, 43, 43.1, 49, 50, 54, 55, 56, 57, 58, 59, 61, 61.1, 64, 80, 93, 94, 95, 96, 97, 98, 99}
HARMLESS_M = {0, 1, 2, 6, 7, 8, 9, 30, 48, 49, 60}
#: The warnings about arcs.
NO_CIRCLE, END_OFF = "an arc that no circle fits", "an arc whose end is off its circle"
WORDS = set("GMXYZIJRFSTPQHDLKABCE")


@dataclass(frozen=True)
class Moves:
    """From places to others (N, 2): straight, or about a centre (N, 2) by an angle (turn, not 0). rapid (N,) bool:
    without working. z (N,): of the end; power (N,): what a laser or spindle was told, 0 where it is off; tool (N,): the
    last T."""

    start: np.ndarray
    end: np.ndarray
    rapid: np.ndarray
    z: np.ndarray
    power: np.ndarray
    tool: np.ndarray
    centre: np.ndarray
    turn: np.ndarray

    def __len__(self) -> int:
        return len(self.z)


#: Numbers of a move as they are collected: start, end, rapid, z, power, tool, centre, turn, and the line that it is of.
#: A turn that is not a number is still to be reckoned: clockwise where the rapid is 2, else the other way.
COLUMNS = 12
CLOCKWISE, OTHER_WAY = 2.0, 3.0


class Interpreter:
    def __init__(self, budget: Budget) -> None:
        self.budget = budget
        self._moves = array("d")
        self._count = 0
        self.broken: Counter[str] = Counter()
        self.unknown: Counter[str] = Counter()
        self.first_line: dict[str, int] = {}
        self.saw_z = self.saw_power = False
        #: What is in force at the end, where any is named.
        self.unit: str | None = None
        self._at, self._z = (0.0, 0.0), 0.0
        self._offset = (0.0, 0.0, 0.0)
        self._motion: int | None = None
        self._scale, self._relative, self._centre_absolute = 1.0, False, False
        self._on, self._speed, self._tool = False, 0.0, 0

    @property
    def is_plain(self) -> bool:
        """Whether places and centres are as they stand: absolute, in mm, in no other coordinates."""
        return not (self._relative or self._centre_absolute or self._scale != 1.0) and self._offset == (0.0, 0.0, 0.0)

    def plain_move(self, code: int, x: float, y: float, i: float | None, j: float | None, number: int) -> None:
        """G0 to G3 with both places and, of an arc, both ways to its centre, while `is_plain` holds."""
        self._motion = code
        if code < 2:
            return self._keep(x, y, float(code == 0), 0.0, 0.0, 0.0, number)
        if i is None or j is None:
            return self._move({"X": x, "Y": y}, number)
        way = CLOCKWISE if code == 2 else OTHER_WAY
        return self._keep(x, y, way, self._at[0] + i, self._at[1] + j, math.nan, number)

    def _keep(self, x: float, y: float, way: float, cx: float, cy: float, turn: float, number: int) -> None:
        if self._count >= self.budget.segments:
            raise TooMuch("It holds more moves than are read at once; split it.")
        self._count += 1
        power = self._speed if self._on else 0.0
        self._moves.extend((*self._at, x, y, way, self._z, power, self._tool, cx, cy, turn, number))
        self._at = (x, y)

    def moves(self) -> Moves:
        """All moves so far. Arcs that no circle fits are straight, and noted, as those whose end is off their
        circle."""
        rows = np.frombuffer(self._moves, np.float64).reshape(-1, COLUMNS) if self._count else np.zeros((0, COLUMNS))
        start, end, centre, turn = rows[:, :2], rows[:, 2:4], rows[:, 8:10], rows[:, 10].copy()
        open_ = np.flatnonzero(np.isnan(turn))
        arm, last = start[open_] - centre[open_], end[open_] - centre[open_]
        radius = np.hypot(*arm.T)
        off = np.abs(np.hypot(*last.T) - radius)
        no_circle, off_circle = radius < 1e-9, off > np.maximum(OFF_CIRCLE_MM, 1e-3 * radius)
        for what, rows_of in ((NO_CIRCLE, no_circle), (END_OFF, off_circle & ~no_circle)):
            for number in rows[open_[rows_of], 11].astype(int).tolist():
                self._note(self.broken, what, number)
        angle = np.arctan2(last[:, 1], last[:, 0]) - np.arctan2(arm[:, 1], arm[:, 0])
        clockwise = rows[open_, 4] == CLOCKWISE
        made = np.where(clockwise, -angle, angle) % (2 * np.pi)
        made[np.hypot(*(end[open_] - start[open_]).T) < 1e-9] = 2 * np.pi
        turn[open_] = np.where(no_circle, 0.0, np.where(clockwise, -made, made))
        return Moves(start, end, rows[:, 4] == 1.0, rows[:, 5], rows[:, 6], rows[:, 7].astype(np.int64), centre, turn)

    def line(self, number: int, words: list[tuple[str, float]], rest: str) -> None:
        """Follows one line: settings first, then its motion (section 3.8, order of execution)."""
        if rest:
            return self._note(self.broken, f"{rest[:20]}", number)
        values: dict[str, float] = {}
        once = None
        for letter, value in words:
            if letter == "G":
                once = self._setting(value, number) or once
            elif letter == "M":
                self._switch(value, number)
            elif letter in WORDS:
                values[letter] = value
            else:
                self._note(self.unknown, letter, number)
        if "S" in values:
            self._speed, self.saw_power = values["S"], True
        if "T" in values:
            self._tool = int(values["T"])
        if once == "G92":
            self._shift(values)
        elif once is None and values.keys() & {"X", "Y", "Z", "I", "J", "R"}:
            self._move(values, number)
        return None

    # -- settings ----------------------------------------------------------------------------------------------------
    def _setting(self, code: float, number: int) -> str | None:
        """Follows a G code; names one that uses the line's numbers for itself."""
        if code in (0, 1, 2, 3):
            self._motion = int(code)
        elif code in (20, 21):
            self._scale = MM_PER_INCH if code == 20 else 1.0
            self.unit = "in" if code == 20 else "mm"
        elif code in (90, 91):
            self._relative = code == 91
        elif code in (90.1, 91.1):
            self._centre_absolute = code == 90.1
        elif code in (10, 28, 28.1, 30, 30.1, 53):
            return "elsewhere"
        elif code in (92, 92.1, 92.2):
            if code != 92:
                self._offset = (0.0, 0.0, 0.0)
            return "G92" if code == 92 else "elsewhere"
        elif code == 80:
            self._motion = None
        elif code == 4:
            return "dwell"
        elif code != 17 and code not in HARMLESS_G:
            self._note(self.unknown, f"G{code:g}", number)
            return "unknown" if 73 <= code <= 89 or code in (5, 6, 33, 38.2) else None
        return None

    def _switch(self, code: float, number: int) -> None:
        if code in (3, 4):
            self._on = self.saw_power = True
        elif code == 5:
            self._on = False
        elif code not in HARMLESS_M:
            self._note(self.unknown, f"M{code:g}", number)

    def _shift(self, values: dict[str, float]) -> None:
        """G92: where the tool is gets other numbers."""
        now = (*self._at, self._z)
        self._offset = tuple(
            here - values[axis] * self._scale if axis in values else old
            for axis, here, old in zip("XYZ", now, self._offset, strict=True)
        )

    # -- motion ------------------------------------------------------------------------------------------------------
    def _move(self, values: dict[str, float], number: int) -> None:
        if self._motion is None:
            return self._note(self.broken, "a place without G0 to G3", number)
        x, y = (self._to(values, axis, here, k) for k, (axis, here) in enumerate(zip("XY", self._at, strict=True)))
        if "Z" in values:
            self._z, self.saw_z = self._to(values, "Z", self._z, 2), True
        if not all(map(math.isfinite, (x, y, self._z))):
            return self._note(self.broken, "a number that is too large", number)
        if self._motion in (2, 3):
            return self._arc(values, (x, y), number)
        return self._keep(x, y, float(self._motion == 0), 0.0, 0.0, 0.0, number)

    def _to(self, values: dict[str, float], axis: str, here: float, k: int) -> float:
        if axis not in values:
            return here
        value = values[axis] * self._scale
        return here + value if self._relative else value + self._offset[k]

    def _arc(self, values: dict[str, float], end: tuple[float, float], number: int) -> None:
        (x0, y0), clockwise = self._at, self._motion == 2
        if "R" in values:
            centre = _by_radius(self._at, end, values["R"] * self._scale, clockwise)
        else:
            i, j = values.get("I", 0.0) * self._scale, values.get("J", 0.0) * self._scale
            if self._centre_absolute:
                shift = self._offset
                centre = (i + shift[0] if "I" in values else x0, j + shift[1] if "J" in values else y0)
            else:
                centre = (x0 + i, y0 + j)
        if centre is None:
            self._note(self.broken, NO_CIRCLE, number)
            return self._keep(*end, 0.0, 0.0, 0.0, 0.0, number)
        return self._keep(*end, CLOCKWISE if clockwise else OTHER_WAY, *centre, math.nan, number)

    def _note(self, where: Counter[str], what: str, number: int) -> None:
        where[what] += 1
        self.first_line.setdefault(what, number)


def _by_radius(start, end, radius: float, clockwise: bool) -> tuple[float, float] | None:
    """The centre of an arc by its radius; a negative one means the arc of more than half a circle (section 3.5.3.1)."""
    dx, dy = end[0] - start[0], end[1] - start[1]
    chord = math.hypot(dx, dy)
    if chord == 0 or abs(radius) * 2 < chord - 2 * OFF_CIRCLE_MM:
        return None
    rise = math.sqrt(max(radius * radius - chord * chord / 4, 0.0))
    side = 1.0 if (radius > 0) != clockwise else -1.0
    return (start[0] + dx / 2 - side * rise * dy / chord, start[1] + dy / 2 + side * rise * dx / chord)
