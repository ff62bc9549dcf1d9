"""HP-GL sent to a plotter: never more than its buffer has room for, and marks by which it knows how far it is.

Sources: the HP-GL/2 and HP RTL reference guide for IP, OP and OA; HP's interfacing manuals for the device control
instructions ESC . B (room in the buffer), ESC . K (abort), ESC . O (status) (from memory).

The scaling points P1 and P2 mean nothing while SC is off: after each part of a stroke IP sets them to its number and to
a mark of the job. A plotter that is asked for them by OP tells what it has done last, whatever got lost on the line.
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import dataclass

from ...errors import MachineTrouble
from .hpgl_strokes import from_place, parsed, said, start_of, words_of
from .line import Forgotten, Halt, Line, Report
from .plotter_line import ABORT, WORKING_S, PlotterLine

#: Strokes that may be on their way.
AHEAD = 3
#: Numbers that IP takes at most; marks of jobs are above the numbers of strokes.
MOST, BASE = 30_000, 30_001
#: Seconds between two reports.
REPORT_S = 0.2


@dataclass(frozen=True)
class Done:
    """stroke: the last one whose begin was come to, from 1; part: how many of its parts are done."""

    stroke: int
    part: int


class HpglSender:
    """A file of straight strokes, as Hakobu writes it. mark: of the job, from 1 to 30,000. Raises CannotDo for a file
    of other instructions."""

    def __init__(self, data: bytes, mark: int) -> None:
        self.mark = mark % MOST or 1
        self.head, self._strokes, self.tail = parsed(data.decode("ascii"))
        self.strokes = len(self._strokes)

    def send(self, line: Line, begun: bool, report: Report, skip: int = 0) -> Halt:
        plotter = PlotterLine(line)
        plotter.check()
        # What an earlier job left in the plotter is none of this one's.
        plotter.abort()
        if not begun:
            plotter.put(self.head + self._marked(skip, len(self._strokes[skip - 1].parts) if skip else 0))
        done, place = self._where(plotter)
        return report(self._finished(done)) or self._flow(plotter, self._stream(done, place), done, report)

    # -- where it is -------------------------------------------------------------------------------------------------
    def _where(self, plotter: PlotterLine) -> tuple[Done, tuple[int, int]]:
        """What is done of this job, and where the pen is."""
        plotter.put("OP;OA;")
        p1x, p1y, p2x, p2y = plotter.answer(4)
        x, y, _ = plotter.answer(3)
        if p2y != BASE + self.mark:
            raise Forgotten
        return Done((p2x - BASE) * MOST + p1x, p1y), (x, y)

    def _marked(self, stroke: int, part: int) -> str:
        return f"IP{stroke % MOST},{part},{BASE + stroke // MOST},{BASE + self.mark};"

    def _stream(self, done: Done, place: tuple[int, int]) -> Iterator[tuple[int, str]]:
        """The text still to be sent, with the number of the stroke that it is of."""
        yield 0, "PU;"
        number = max(done.stroke, 1)
        if done.stroke and done.part == len(self._strokes[done.stroke - 1].parts):
            number = done.stroke + 1
        for n in range(number, self.strokes + 1):
            stroke = self._strokes[n - 1]
            part = done.part if n == number == done.stroke else 0
            text = stroke.setup if n > number else stroke.state + words_of(stroke.parts[:part])
            first = start_of(stroke, part)
            going = stroke.parts[part:]
            if n == number == done.stroke:
                first, going = from_place(place, first, going)
            # Only a stroke whose begin was come to can have been cut in part.
            yield n, f"{text}PU{first[0]},{first[1]};" + (self._marked(n, 0) if not part else "")
            for k, words in enumerate(going, part + 1):
                # A part that is there in part only begins where the pen is.
                yield n, "".join(said(word, points) for word, points in words) + self._marked(n, k) + "OP;"
        yield self.strokes, self.tail + self._marked(self.strokes, len(self._strokes[-1].parts) if self.strokes else 0)
        yield self.strokes, "OP;"

    # -- flow --------------------------------------------------------------------------------------------------------
    def _flow(self, plotter: PlotterLine, stream: Iterator[tuple[int, str]], done: Done, report: Report) -> Halt:
        heard, asked, told, wish = 0, 0, time.monotonic(), Halt.NO
        last, finished = done.stroke, self._finished(done)
        for number, text in stream:
            if wish is Halt.CANCEL or (wish is Halt.PAUSE and number != last):
                break
            last = number
            # No more than a few strokes are on their way: a pause then comes soon.
            while number > finished + AHEAD and heard < asked:
                for answer in plotter.taken(0.02):
                    heard, finished = heard + 1, self._finished_of(answer, finished)
                if time.monotonic() - told > REPORT_S:
                    told, wish = time.monotonic(), report(finished) or wish
                    plotter.check_status()
                if wish is Halt.CANCEL:
                    break
            plotter.put(text)
            asked += text.count("OP;")
            for answer in plotter.taken():
                heard, finished = heard + 1, self._finished_of(answer, finished)
            if time.monotonic() - told > REPORT_S:
                told, wish = time.monotonic(), report(finished) or wish
        if wish is Halt.CANCEL:
            plotter.line.write(ABORT + b"PU;SP0;")
            report(finished)
            return wish
        quiet = time.monotonic()
        while heard < asked:
            answers = plotter.taken(0.1)
            for answer in answers:
                heard, finished = heard + 1, self._finished_of(answer, finished)
            quiet = time.monotonic() if answers else quiet
            if time.monotonic() - quiet > WORKING_S:
                raise MachineTrouble("The plotter does not say that it is done: look at it, then go on or cancel.")
            if time.monotonic() - told > REPORT_S:
                told, wish = time.monotonic(), report(finished) or wish
                plotter.check_status()
            if wish is Halt.CANCEL:
                plotter.line.write(ABORT + b"PU;SP0;")
                break
        report(finished)
        return wish

    def _finished(self, done: Done) -> int:
        """How many strokes are done."""
        whole = done.stroke and done.part >= len(self._strokes[done.stroke - 1].parts)
        return done.stroke if whole else max(done.stroke - 1, 0)

    def _finished_of(self, answer: list[int], before: int) -> int:
        p1x, p1y, p2x, p2y = answer
        stroke = (p2x - BASE) * MOST + p1x
        if p2y != BASE + self.mark or not 0 <= stroke <= self.strokes:
            raise MachineTrouble("The plotter works on something else: another program may be sending to it.")
        return max(self._finished(Done(stroke, p1y)), before)
