"""What a sender needs: a line to a machine, and somebody who is told how far it is and may halt it."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from typing import Protocol


class LineLost(Exception):
    """The line to the machine is gone: the machine may have done more than was heard of."""


class Halt(StrEnum):
    """What whoever is told of the progress wants. PAUSE: no more after the stroke that is under way; CANCEL: nothing
    more, the tool up."""

    NO = ""
    PAUSE = "pause"
    CANCEL = "cancel"


class Line(Protocol):
    """Bytes to and from a machine. Both raise LineLost."""

    def write(self, data: bytes) -> None: ...

    def read(self, seconds: float) -> bytes:
        """What came in, as soon as something did; nothing when that time is over."""
        ...


#: Told how many strokes are done; answers whether to halt.
Report = Callable[[int], Halt]


class Sender(Protocol):
    """A file that is sent. strokes: how many it has."""

    strokes: int

    def send(self, line: Line, begun: bool, report: Report) -> Halt:
        """Sends what is still to be done. begun: whether the machine may have done some of it: it is asked how much,
        and nothing is done twice. Raises LineLost, and MachineTrouble where the machine is not ready or does not
        understand."""
        ...
