"""A plotter that speaks HP-GL: a bounded buffer, device control by escapes, and output of what it is asked.

Sources: the HP-GL/2 and HP RTL reference guide and the HP 7550A interfacing and programming manual (device control
instructions ESC . B, E, I, J, K, N, O, R; from memory where no copy was at hand): escapes are followed as they come,
instructions as they stand in the buffer.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from .machine import Build, Machine, Passing
from .motion import Move

STEPS_PER_MM = 40
XON, XOFF = b"\x11", b"\x13"
_ESCAPE = re.compile(rb"\x1b\.(?:([BEJKORLA@()])|([HINM])([\d;]*):)")
_INSTRUCTION = re.compile(rb"\s*([A-Za-z]{2})([^A-Za-z;]*)(?:;|(?=[A-Za-z]))")
#: Extended errors: an instruction that is not known, a number that makes no sense, a buffer that ran over.
UNKNOWN, WRONG, OVERFLOW = 1, 3, 16
#: Extended status, as bits: the buffer is empty, the plotter is not ready, no sheet is loaded.
EMPTY, NOT_READY, NO_SHEET = 8, 16, 32


class Plotter(Machine):
    def __init__(self, build: Build, capacity: int = 1024) -> None:
        super().__init__(build)
        self.capacity, self.buffer = capacity, bytearray()
        self.output: Callable[[bytes], None] = lambda _: None
        self.last_error = 0
        self.relative, self.pen_down, self.here = False, False, (0.0, 0.0)
        self.speed = build.speed
        self.p1, self.p2 = (0, 0), (round(build.width * STEPS_PER_MM), round(build.height * STEPS_PER_MM))
        self._threshold, self._stopped, self._tail = 0, False, b""

    # -- what comes in ---------------------------------------------------------------------------------------------
    def receive(self, data: bytes) -> None:
        data = self._tail + data
        self._tail, at = b"", 0
        while at < len(data):
            if data[at] != 0x1B:
                end = data.find(b"\x1b", at)
                end = len(data) if end < 0 else end
                self._store(data[at:end])
                at = end
                continue
            match = _ESCAPE.match(data, at)
            if match is None:
                if len(data) - at < 24:
                    self._tail = data[at:]
                    return
                at += 1
                continue
            self._control((match[1] or match[2]).decode(), (match[3] or b"").decode())
            at = match.end()

    def _store(self, data: bytes) -> None:
        free = self.capacity - len(self.buffer)
        if len(data) > free:
            self.last_error = OVERFLOW
        self.buffer += data[:free]
        if self._threshold and not self._stopped and self.capacity - len(self.buffer) < self._threshold:
            self._stopped = True
            self.output(XOFF)
        self.wake()

    def _control(self, letter: str, numbers: str) -> None:
        if letter == "B":
            self._say(self.capacity - len(self.buffer))
        elif letter == "E":
            self._say(self.last_error)
            self.last_error = 0
        elif letter == "O":
            empty = EMPTY if not self.buffer and self.idle else 0
            self._say(empty | (NOT_READY if self.paused or self.error else 0) | (NO_SHEET if self.no_sheet else 0))
        elif letter == "K":
            # What was decoded in part and what waits is gone; the pen stays where it is, raised.
            self.buffer.clear()
            self.drop()
            self.pen_down, self.here = False, (self.axes.x, self.axes.y)
        elif letter == "I":
            first = numbers.split(";")[0]
            self._threshold = int(first) if first else 80
        elif letter in "RJ":
            self._threshold, self._stopped = 0, False

    def _say(self, *numbers: int) -> None:
        self.output(",".join(map(str, numbers)).encode() + b"\r")

    # -- what is done ----------------------------------------------------------------------------------------------
    def take(self) -> bool:
        """Takes the next instruction out of the buffer; False where there is none that is whole."""
        match = _INSTRUCTION.match(bytes(self.buffer[:400])) or _INSTRUCTION.match(bytes(self.buffer))
        if match is None:
            return False
        del self.buffer[: match.end()]
        if self._stopped and len(self.buffer) < self.capacity // 2:
            self._stopped = False
            self.output(XON)
        word = match[1].decode().upper()
        try:
            numbers = [float(n) for n in re.findall(r"-?\d*\.?\d+", match[2].decode())]
            self._do(word, numbers)
        except (ValueError, IndexError):
            self.last_error = WRONG
        return True

    def _do(self, word: str, n: list[float]) -> None:
        if word in ("PU", "PD", "PA", "PR"):
            if word in ("PU", "PD"):
                self.pen_down = word == "PD"
            else:
                self.relative = word == "PR"
            for x, y in zip(n[::2], n[1::2], strict=True):
                self._to(x, y)
            if word == "PU" and not n:
                self.tell(self._lift)
        elif word == "AA":
            self._arc(n)
        elif word == "SP":
            self.pen_down = False
            self.tell(lambda: self._take(int(n[0]) if n else 0))
        elif word == "VS":
            self.speed = n[0] * 10 if n else self.build.speed
            speed = self.speed
            self.tell(Passing(lambda: self.how.update(speed=speed)))
        elif word == "FS":
            self.tell(lambda: self.how.update(force=n[0]))
        elif word == "IP":
            size = round(self.build.width * STEPS_PER_MM), round(self.build.height * STEPS_PER_MM)
            first = (int(n[0]), int(n[1])) if len(n) >= 2 else (0, 0)
            self.tell(Passing(lambda: self._scale(first, (int(n[2]), int(n[3])) if len(n) >= 4 else size)))
        elif word == "OP":
            self.tell(Passing(lambda: self._say(*self.p1, *self.p2)))
        elif word == "OA":
            self.tell(Passing(self._say_where))
        elif word == "OS":
            self.tell(lambda: self._say(0 if not self.error else 32))
        elif word in ("IN", "DF"):
            self.relative, self.pen_down, self.speed = False, False, self.build.speed
            self.tell(self._lift)
        elif word not in ("PG", "PS", "NP", "VN", "RO", "SC"):
            self.last_error = UNKNOWN

    def _scale(self, p1: tuple[int, int], p2: tuple[int, int]) -> None:
        self.p1, self.p2 = p1, p2

    def _say_where(self) -> None:
        self._say(round(self.axes.x * STEPS_PER_MM), round(self.axes.y * STEPS_PER_MM), int(self.down))

    def _take(self, pen: int) -> None:
        self._lift()
        self.tool = pen

    def _to(self, x: float, y: float) -> None:
        x, y = x / STEPS_PER_MM, y / STEPS_PER_MM
        if self.relative:
            x, y = self.here[0] + x, self.here[1] + y
        self.here = (x, y)
        self.tell(Move(x, y, self.pen_down, self.speed if self.pen_down else self.build.travel))

    def _arc(self, n: list[float]) -> None:
        cx, cy, turn = n[0] / STEPS_PER_MM, n[1] / STEPS_PER_MM, math.radians(n[2])
        fine = math.radians(n[3]) if len(n) > 3 else math.radians(5)
        x, y = self.here[0] - cx, self.here[1] - cy
        count = max(math.ceil(abs(turn) / fine), 1)
        for k in range(1, count + 1):
            c, s = math.cos(turn * k / count), math.sin(turn * k / count)
            to = (cx + x * c - y * s, cy + x * s + y * c)
            self.tell(Move(*to, self.pen_down, self.speed if self.pen_down else self.build.travel))
            self.here = to
