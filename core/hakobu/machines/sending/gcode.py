"""G-code sent line by line: each is numbered and answered, and so many may be on their way.

The numbers are N words as NISTIR 6556 has them; how lines are answered, and the requests that begin with @, are those
of the stand-in (simulator/controller.py)."""

from __future__ import annotations

import math
import re
import time
from bisect import bisect_right

from ...errors import MachineTrouble
from .controller_line import WORKING_S, ControllerLine
from .line import Forgotten, Halt, Line, Report

#: Lines that may be on their way, and how often it is asked how far it is, in seconds.
WINDOW, ASK_S = 64, 0.2
#: The tool is at the end of a line where it is so near to it.
SAME_MM = 1e-3
_WORD = re.compile(r"([A-Z])(-?\d*\.?\d+)")


class GcodeSender:
    """A file of G-code as Hakobu writes it. mark: of the job."""

    def __init__(self, data: bytes, mark: int) -> None:
        self.mark = mark
        text = data.decode("ascii").splitlines()
        self.lines = [plain for line in text if (plain := re.sub(r"\([^)]*\)", "", line).strip())]
        ends = [n for n, line in enumerate(self.lines, 1) if n > 1 and _is_end(line) and _works(self.lines, n - 1)]
        #: The line after which each stroke is done.
        self._ends = ends
        self.strokes = len(ends)
        #: In mm: the machine tells its place in mm, whatever its file is in.
        self._unit = 25.4 if any("G20" in line for line in self.lines) else 1.0
        #: Where a job is taken up: the number of a line, and the place of the tool, in the units of the file.
        self._start: tuple[int, float, float] | None = None

    def send(self, line: Line, begun: bool, report: Report, skip: int = 0) -> Halt:
        machine = ControllerLine(line)
        # What an earlier job left in the machine is none of this one's.
        machine.cancel()
        state, first = machine.settled(), self._ends[skip - 1] + 1 if skip else 1
        if begun and state.job != self.mark:
            raise Forgotten
        if begun and state.done:
            first = state.done + 1
        elif not begun:
            machine.begin(self.mark)
        if wish := report(self._finished(first - 1)):
            return wish
        if first > 1:
            x, y = state.x / self._unit, state.y / self._unit
            self._start = (first, x, y)
            for text in self._taken_up(first, x, y):
                machine.say_and_wait(text)
        return self._flow(machine, first, report)

    def _flow(self, machine: ControllerLine, first: int, report: Report) -> Halt:
        sent, heard, asked, wish, done = first - 1, first - 1, 0.0, Halt.NO, first - 1
        quiet = time.monotonic()
        while done < len(self.lines):
            # No more than the stroke that is under way and the next one: a pause then comes soon.
            stop = self._end_after(done, 2) if not wish else max(self._end_after(done, 1), sent)
            while sent < stop and sent - heard < WINDOW:
                sent += 1
                machine.put(f"N{sent} {self._text(sent)}")
            before = heard
            heard = machine.heard(heard)
            if time.monotonic() - asked > ASK_S or heard == sent:
                asked = time.monotonic()
                state = machine.state()
                quiet = quiet if state.done == done and heard == before else time.monotonic()
                # Of a job whose first strokes are skipped nothing is done at first.
                done = max(state.done, done)
                wish = report(self._finished(done)) or wish
            if wish is Halt.CANCEL:
                machine.cancel()
                for text in self._off():
                    machine.say_and_wait(text)
                break
            if wish is Halt.PAUSE and done >= stop:
                break
            if time.monotonic() - quiet > WORKING_S:
                raise MachineTrouble("The machine does not go on: look at it, then go on or cancel.")
        report(self._finished(done))
        return wish

    def _text(self, number: int) -> str:
        """A line; the first after a stop, if it is an arc, about its centre as seen from where the tool is now."""
        text = self.lines[number - 1]
        if self._start is None or number != self._start[0] or not text.startswith(("G2 ", "G3 ")):
            return text
        _, x, y = self._start
        was = self._place(number - 1)
        words = dict(_WORD.findall(text))
        if math.dist((x, y), (float(words["X"]), float(words["Y"]))) < SAME_MM / self._unit:
            # It was run to its end; about the same centre it would be a whole circle.
            return "G4 P0"
        i, j = float(words.get("I", 0)) + was[0] - x, float(words.get("J", 0)) + was[1] - y
        kept = " ".join(f"{k}{v}" for k, v in words.items() if k not in "GIJ")
        return f"{text[:2]} {kept} I{i:.6f} J{j:.6f}"

    def _end_after(self, done: int, count: int) -> int:
        """The line with which so many strokes that are not done yet end."""
        nth = bisect_right(self._ends, done) + count - 1
        return self._ends[nth] if nth < self.strokes else len(self.lines)

    def _place(self, number: int) -> tuple[float, float]:
        """Where the tool is after a line."""
        place = {"X": 0.0, "Y": 0.0}
        for text in self.lines[:number]:
            for letter, value in _WORD.findall(text):
                if letter in place:
                    place[letter] = float(value)
        return place["X"], place["Y"]

    def _taken_up(self, first: int, x: float, y: float) -> list[str]:
        """What brings the machine to where it was before a line: settings, the place with the tool up, the tool
        down."""
        before = self.lines[: first - 1]
        made = [text for text in before if text.startswith(("G17", "G20", "G21", "G91.1"))]
        made += self._off()
        made += [next((text for text in reversed(before) if text.startswith("T")), "")]
        feed = next((m[1] for text in reversed(before) if (m := re.search(r"F([\d.]+)", text))), "")
        if _works(self.lines, first - 1):
            made += [f"G0 X{x:.5f} Y{y:.5f}"]
            made += [next(text for text in reversed(before) if _is_on(text))]
            made += [f"G1 F{feed}"] if feed else []
        return [text for text in made if text]

    def _off(self) -> list[str]:
        """The tool up, or its beam off."""
        return [next((text for text in self.lines if _is_end(text)), "M5")]

    def _finished(self, done: int) -> int:
        return bisect_right(self._ends, done)


def _is_on(text: str) -> bool:
    return text.startswith(("M3", "M4")) or (text.startswith("G1 Z"))


def _is_end(text: str) -> bool:
    return text == "M5" or text.startswith("G0 Z")


def _works(lines: list[str], number: int) -> bool:
    """Whether the tool works after a line."""
    for text in reversed(lines[:number]):
        if _is_end(text):
            return False
        if _is_on(text):
            return True
    return False
