"""A controller that speaks G-code: line by line, each answered, with numbers by which a job goes on where it stopped.

Source: NISTIR 6556 for the words. How lines are answered is this stand-in's own: "ok N" when line N was taken, "error
N: why" when it was not; "@state" asks what it does: "state NAME done N at X Y Z job MARK"; "@pause", "@resume" and
"@cancel" are followed at once."""

from __future__ import annotations

import asyncio
import math
import re
from collections.abc import Callable

from .machine import Build, Machine, Passing
from .motion import Move, Place

_WORD = re.compile(r"([A-Z])(-?\d*\.?\d+)")
#: Arcs are run in chords this near to them, in mm.
CHORD_MM = 0.005
#: Codes that change nothing that this machine has.
QUIET_G = {4, 17, 40, 43, 49, 54, 64, 80, 90, 91.1, 94}
QUIET_M = {0, 1, 2, 6, 7, 8, 9, 30}


class Controller(Machine):
    def __init__(self, build: Build) -> None:
        super().__init__(build)
        self.output: Callable[[bytes], None] = lambda _: None
        self.lines: asyncio.Queue[str] = asyncio.Queue()
        self.done = self.job = 0
        self.here, self.z, self.motion, self.scale = (0.0, 0.0), 5.0, 0, 1.0
        self.beam, self.power, self.feed_mm_s = False, 0.0, build.speed
        self.saw_beam = False
        self._text = ""

    def receive(self, data: bytes) -> None:
        *whole, self._text = (self._text + data.decode("latin-1")).split("\n")
        for line in whole:
            line = line.strip()
            if line.startswith("@"):
                self._at_once(line)
            elif line:
                self.lines.put_nowait(line)
                self.wake()

    def cut_off(self) -> None:
        """The other side is gone: what stands on no whole line is nothing."""
        self._text = ""

    def _at_once(self, line: str) -> None:
        if line == "@state":
            name = "error" if self.error else "paused" if self.paused else "idle" if self.rests else "busy"
            x, y = self.axes.x, self.axes.y
            said = f"state {name} done {self.done} at {x:.4f} {y:.4f} {self.z:.4f} job {self.job}"
            self.output(f"{said}{' ' + self.error if self.error else ''}\n".encode())
        elif line == "@pause":
            self.paused = True
        elif line == "@resume":
            self.paused, self.error = False, ""
            self.wake()
        elif line == "@cancel":
            while not self.lines.empty():
                self.lines.get_nowait()
            self.drop()
            self.beam = False
            self.here = (self.axes.x, self.axes.y)
            self.output(b"cancelled\n")
        elif match := re.fullmatch(r"@job (\d+)", line):
            self.job, self.done, self.error = int(match[1]), 0, ""
            self.output(b"job\n")
        else:
            self.output(f"error 0: {line} is not known\n".encode())

    @property
    def rests(self) -> bool:
        return self.idle and self.lines.empty()

    def take(self) -> bool:
        """Follows the next line, if there is one."""
        if self.lines.empty():
            return False
        line = self.lines.get_nowait()
        plain = re.sub(r"\([^)]*\)|;.*", "", line).upper().replace(" ", "")
        found = _WORD.findall(plain)
        rest = _WORD.sub("", plain)
        words = [(letter, float(value)) for letter, value in found]
        number = int(next((v for letter, v in words if letter == "N"), 0))
        why = f"{rest!r} is not understood" if rest else self._follow(words)
        if why:
            self.output(f"error {number}: {why}\n".encode())
        else:
            self.tell(Passing(lambda: self._done(number)))
            self.output(f"ok {number}\n".encode())
        return True

    def _done(self, number: int) -> None:
        if number:
            self.done = number

    @property
    def works(self) -> bool:
        return self.beam if self.saw_beam else self.z <= 0

    def _follow(self, words: list[tuple[str, float]]) -> str:
        values = {}
        for letter, value in words:
            if letter == "G":
                if value in (0, 1, 2, 3):
                    self.motion = int(value)
                elif value in (20, 21):
                    self.scale = 25.4 if value == 20 else 1.0
                elif value not in QUIET_G:
                    return f"G{value:g} is not known"
            elif letter == "M":
                if value in (3, 4, 5):
                    self.beam, self.saw_beam = value != 5, True
                elif value not in QUIET_M:
                    return f"M{value:g} is not known"
            else:
                values[letter] = value
        if "S" in values:
            self.power = values["S"]
        if "T" in values:
            tool = int(values["T"])
            self.tell(lambda: setattr(self, "tool", tool))
        if "F" in values:
            self.feed_mm_s = values["F"] * self.scale / 60
        how = {"speed": self.feed_mm_s, "power": self.power, "z": self.z}
        if "Z" in values:
            self.z = values["Z"] * self.scale
            how["z"] = self.z
        self.tell(Passing(lambda: self.how.update(how)))
        if not self.works:
            self.tell(self._lift)
        if not values.keys() & {"X", "Y"}:
            return ""
        to = (self._place(values, "X", self.here[0]), self._place(values, "Y", self.here[1]))
        down = self.motion != 0 and self.works
        speed = self.feed_mm_s if self.motion else self.build.travel
        if self.motion in (2, 3):
            x, y = self.here
            centre = (x + values.get("I", 0.0) * self.scale, y + values.get("J", 0.0) * self.scale)
            self._arc(centre, to, down, speed)
        else:
            self.tell(Move(*to, down, speed))
        self.here = to
        return ""

    def _place(self, values: dict[str, float], axis: str, here: float) -> float:
        return values[axis] * self.scale if axis in values else here

    def _arc(self, centre: Place, to: Place, down: bool, speed: float) -> None:
        (x0, y0), (cx, cy) = self.here, centre
        radius = math.dist(self.here, centre)
        first, last = math.atan2(y0 - cy, x0 - cx), math.atan2(to[1] - cy, to[0] - cx)
        turn = (last - first) % (2 * math.pi) if self.motion == 3 else -((first - last) % (2 * math.pi))
        if math.dist(self.here, to) < 1e-9:
            turn = 2 * math.pi if self.motion == 3 else -2 * math.pi
        # The pull across an arc is no more than what the axes have.
        speed = min(speed, math.sqrt(self.build.acceleration * max(radius, 1e-9)))
        step = 2 * math.acos(max(1 - CHORD_MM / max(radius, CHORD_MM), -1.0))
        count = max(math.ceil(abs(turn) / step), 1)
        for k in range(1, count):
            angle = first + turn * k / count
            self.tell(Move(cx + radius * math.cos(angle), cy + radius * math.sin(angle), down, speed))
        self.tell(Move(*to, down, speed))
