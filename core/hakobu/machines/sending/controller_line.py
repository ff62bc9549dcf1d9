"""A line to a controller that is told G-code: what it answers."""

from __future__ import annotations

import re
import time
from collections.abc import Callable

from ...errors import MachineTrouble
from .line import Line

#: How long an answer may take, and a machine to come to rest, in seconds.
PATIENCE_S, WORKING_S = 3.0, 120.0
_STATE = re.compile(r"state (\w+) done (\d+) at (-?[\d.]+) (-?[\d.]+) (-?[\d.]+) job (\d+)(?: (.*))?$")
SILENT = "The machine does not answer: see that it is on, its cable in, and the address right."


class State:
    def __init__(self, match: re.Match) -> None:
        self.name, self.error = match[1], match[7] or ""
        self.done, self.job = int(match[2]), int(match[6])
        self.x, self.y = float(match[3]), float(match[4])


class ControllerLine:
    def __init__(self, line: Line) -> None:
        self.line, self._text = line, ""
        self._oks: list[int] = []
        self._states: list[State] = []
        self._words: list[str] = []

    def put(self, text: str) -> None:
        self.line.write(text.encode("ascii") + b"\n")

    def begin(self, mark: int) -> None:
        self.put(f"@job {mark}")
        self._wait(lambda: "job" in self._words)

    def cancel(self) -> None:
        """Drops what waits in the machine, and what it answered to that."""
        self._words = []
        self.put("@cancel")
        self._wait(lambda: "cancelled" in self._words)
        self._oks = []

    def settled(self) -> State:
        """Where it is when it has come to rest."""
        end = time.monotonic() + WORKING_S
        while time.monotonic() < end:
            state = self.state()
            if state.name != "busy":
                return state
            time.sleep(0.02)
        raise MachineTrouble("The machine does not come to rest: look at it, then go on or cancel.")

    def state(self) -> State:
        self._states = []
        self.put("@state")
        self._wait(lambda: bool(self._states))
        state = self._states.pop()
        if state.error == "no sheet":
            raise MachineTrouble("No sheet lies in the machine: put one in, then go on.")
        if state.error:
            raise MachineTrouble(f"The machine stopped: {state.error}. Look at it, then go on or cancel.")
        return state

    def say_and_wait(self, text: str) -> None:
        self._oks = []
        self.put(text)
        self._wait(lambda: 0 in self._oks)
        self.settled()

    def heard(self, before: int) -> int:
        """The last line that was taken, as far as was heard."""
        self._hear(0.002)
        last = max([before, *self._oks])
        self._oks = []
        return last

    def _wait(self, there: Callable[[], bool]) -> None:
        end = time.monotonic() + PATIENCE_S
        while not there():
            if time.monotonic() > end:
                raise MachineTrouble(
                    "The machine does not answer: see that it is on, its cable in, and the address right."
                )
            self._hear(0.05)

    def _hear(self, seconds: float) -> None:
        self._text += self.line.read(seconds).decode("latin-1")
        *whole, self._text = self._text.split("\n")
        for text in whole:
            text = text.strip()
            if match := re.fullmatch(r"ok (\d+)", text):
                self._oks.append(int(match[1]))
            elif match := _STATE.match(text):
                self._states.append(State(match))
            elif text in ("cancelled", "job"):
                self._words.append(text)
            elif match := re.fullmatch(r"error (\d+): (.*)", text):
                raise MachineTrouble(f"The machine refused line {match[1]}: {match[2]}.")
            elif text == "busy":
                raise MachineTrouble("Another program is sending to this machine: wait for it, or end it.")
            elif text:
                raise MachineTrouble(f"What answers is no such machine: it said {text[:30]!r}. Look at the address.")
        if len(self._text) > 300 or not self._text.isprintable() or not self._text.isascii():
            raise MachineTrouble(f"What answers is no such machine: it said {self._text[:30]!r}. Look at the address.")
