"""A line to a plotter: what it answers, and how much room there is in its buffer."""

from __future__ import annotations

import re
import time

from ...errors import MachineTrouble
from .line import Line

#: How long an answer may take, and how long a plotter may be about one part, in seconds.
PATIENCE_S, WORKING_S = 3.0, 120.0
#: So many bytes are worth asking for room.
LEAST_ROOM = 96
ABORT, ROOM, STATUS = b"\x1b.K", b"\x1b.B", b"\x1b.O"
NOT_READY, NO_SHEET = 16, 32


class PlotterLine:
    """A line with what was heard on it, and how much room there is at the other end."""

    def __init__(self, line: Line) -> None:
        self.line, self.room, self._text = line, 0, ""
        self._answers: list[list[int]] = []
        self._rooms: list[int] = []

    def check(self) -> None:
        """Raises MachineTrouble where nobody answers as a plotter does, or it is not ready."""
        self.check_status()
        self.room = self._number(ROOM)

    def check_status(self) -> None:
        status = self._number(STATUS)
        if status & NO_SHEET:
            raise MachineTrouble("No sheet lies in the machine: put one in, then go on.")
        if status & NOT_READY:
            raise MachineTrouble("The machine is not ready: it was paused or met its end stop. Look at it, then go on.")

    def abort(self) -> None:
        """Drops what waits in the plotter, and what it answered to that. Its status is told at once: answers that came
        before it are of what was dropped."""
        self.line.write(ABORT)
        self._number(STATUS)
        self._answers = []

    def put(self, text: str) -> None:
        """Writes text as the buffer has room for it."""
        data, begun = text.encode("ascii"), time.monotonic()
        while data:
            if self.room < min(len(data), LEAST_ROOM):
                self.room = self._number(ROOM)
                if self.room < min(len(data), LEAST_ROOM):
                    if time.monotonic() - begun > WORKING_S:
                        self.check_status()
                        raise MachineTrouble("The plotter takes nothing more: look at it, then go on or cancel.")
                    self._hear(0.002)
                    continue
            part, data = data[: self.room], data[self.room :]
            self.line.write(part)
            self.room -= len(part)
            begun = time.monotonic()

    def taken(self, seconds: float = 0.0) -> list[list[int]]:
        """Answers to OP that came in."""
        self._hear(seconds)
        found, self._answers = [a for a in self._answers if len(a) == 4], []
        return found

    def answer(self, count: int) -> list[int]:
        """The next answer of so many numbers."""
        end = time.monotonic() + WORKING_S
        while time.monotonic() < end:
            for k, answer in enumerate(self._answers):
                if len(answer) == count:
                    return self._answers.pop(k)
            self._hear(0.05)
        raise MachineTrouble("The plotter does not tell where it is: look at it, then go on or cancel.")

    def _number(self, escape: bytes) -> int:
        """The answer to a device control instruction, which comes at once."""
        self._rooms = []
        self.line.write(escape)
        end = time.monotonic() + PATIENCE_S
        while time.monotonic() < end:
            self._hear(0.05)
            if self._rooms:
                return self._rooms.pop(0)
        raise MachineTrouble("The machine does not answer: see that it is on, its cable in, and the address right.")

    def _hear(self, seconds: float) -> None:
        self._text += self.line.read(seconds).decode("latin-1")
        *whole, self._text = self._text.split("\r")
        for line in whole:
            if line.strip() == "busy":
                raise MachineTrouble("Another program is sending to this machine: wait for it, or end it.")
            if not re.fullmatch(r"\s*-?\d+(,-?\d+)*\s*", line):
                raise MachineTrouble(f"What answers is no plotter: it said {line.strip()[:30]!r}. Look at the address.")
            numbers = [int(n) for n in line.split(",")]
            self._rooms.append(numbers[0]) if len(numbers) == 1 else self._answers.append(numbers)
        if re.search(r"[^\d,\- ]", self._text):
            raise MachineTrouble(f"What answers is no plotter: it said {self._text[:30]!r}. Look at the address.")
