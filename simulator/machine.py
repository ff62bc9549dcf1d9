"""A machine: a queue of what it was told, done one thing after the other in its own time."""

from __future__ import annotations

import asyncio
import time
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import islice, takewhile

from .motion import AHEAD, Axes, Move
from .paper import Paper, Stroke

#: So many things may wait to be done; what was told beyond stays in the buffer.
QUEUE = 256
#: Sleeps are gathered until they are worth one, in seconds.
NAP = 0.004
#: A machine that is later than this, in seconds, was idle.
LATE = 0.03


@dataclass(frozen=True, slots=True)
class Passing:
    """What is done between two moves without a stop: a number kept, a place told."""

    do: Callable[[], None]


@dataclass(frozen=True)
class Build:
    """How a machine is made. width, height: how far its tool gets, in mm; speeds in mm/s. pace: how many times faster
    than a real one it works; 0: as fast as it can."""

    width: float = 600.0
    height: float = 400.0
    acceleration: float = 4000.0
    speed: float = 300.0
    travel: float = 600.0
    lift: float = 0.05
    pace: float = 1.0


@dataclass
class Machine:
    build: Build
    paper: Paper = None  # type: ignore[assignment]
    #: Seconds that it worked, by its own time.
    clock: float = 0.0
    paused: bool = False
    no_sheet: bool = False
    #: What went wrong: beyond its reach, nothing to cut.
    error: str = ""
    tool: int = 1
    how: dict[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.paper = self.paper or Paper(self.build.width, self.build.height)
        self.axes = Axes(self.build.acceleration)
        self.queue: deque[Move | Passing | Callable[[], None]] = deque()
        self.room = asyncio.Event()
        self.work = asyncio.Event()
        self.fed = asyncio.Event()
        self.down = False
        self.room.set()
        self._owed, self._due = 0.0, time.monotonic()

    def tell(self, what: Move | Passing | Callable[[], None]) -> None:
        self.queue.append(what)
        self.work.set()
        if len(self.queue) >= QUEUE:
            self.room.clear()

    def wake(self) -> None:
        """Something came in, or it may go on."""
        self.fed.set()
        self.work.set()

    @property
    def idle(self) -> bool:
        return not self.queue

    def drop(self) -> None:
        """All that waits to be done is forgotten; the tool goes up."""
        self.queue.clear()
        self.room.set()
        self._lift()

    def cut_off(self) -> None:
        """The other side of its line is gone."""

    async def run(self) -> None:
        while True:
            if not self.queue or self.paused:
                self.axes.rest()
                self.work.clear()
                await self.work.wait()
                continue
            what = self.queue.popleft()
            if len(self.queue) < QUEUE // 2:
                self.room.set()
            if isinstance(what, Passing):
                what.do()
            elif callable(what):
                self.axes.rest()
                what()
            else:
                await self._move(what)

    async def _move(self, move: Move) -> None:
        if not (-1e-6 <= move.x <= self.build.width + 1e-6 and -1e-6 <= move.y <= self.build.height + 1e-6):
            self.error = f"end stop at {move.x:.3f}, {move.y:.3f} mm"
            self.drop()
            return
        if move.down and self.no_sheet:
            self.error = "no sheet"
            self.drop()
            return
        if move.down != self.down:
            self.axes.rest()
            self.clock += self.build.lift
            self._owed += self.build.lift
        if move.down and not self.down:
            self.paper.strokes.append(Stroke(self.tool, dict(self.how), [(self.axes.x, self.axes.y)], self.clock))
        self.down = move.down
        same = takewhile(lambda each: isinstance(each, Passing) or _goes_on(each, move), self.queue)
        ahead = [each for each in islice(same, 2 * AHEAD) if isinstance(each, Move)]
        took = self.axes.seconds(move, ahead[:AHEAD])
        self.clock += took
        if move.down:
            stroke = self.paper.strokes[-1]
            stroke.points.append((move.x, move.y))
            stroke.ended = self.clock
        await self._wait(took)

    async def _wait(self, took: float) -> None:
        """Lets the time pass that a move took. Sleeps that are too long are made up for by the next ones."""
        now = time.monotonic()
        if not self.build.pace:
            self._owed = 0.0
            if now - self._due > NAP:
                self._due = now
                await asyncio.sleep(0)
            return
        if now - self._due > LATE:
            # It had nothing to do meanwhile.
            self._due = now
        self._due += (took + self._owed) / self.build.pace
        self._owed = 0.0
        if self._due - now > NAP:
            await asyncio.sleep(self._due - now)

    def _lift(self) -> None:
        if self.down:
            self.clock += self.build.lift
            self._owed += self.build.lift
        self.down = False
        self.axes.rest()


def _goes_on(what: object, move: Move) -> bool:
    """Whether something comes after a move without a stop between them."""
    return isinstance(what, Move) and what.down == move.down
