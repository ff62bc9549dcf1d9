"""What a sender needs: a line to a machine, and somebody who is told how far it is and may halt it."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from typing import Protocol

from ...errors import MachineTrouble


class LineLost(Exception):
    """The line to the machine is gone: the machine may have done more than was heard of."""


class Forgotten(MachineTrouble):
    """The machine was heard to have this job, and has it no more."""

    def __init__(self) -> None:
        super().__init__("The machine knows nothing of this job any more: it was switched off, or did another one.")


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


#: Told how many strokes are done, for the first time when the machine has the job and nothing has moved yet; answers
#: whether to halt.
Report = Callable[[int], Halt]


class Sender(Protocol):
    """A file that is sent. strokes: how many it has."""

    strokes: int

    def send(self, line: Line, begun: bool, report: Report, skip: int = 0) -> Halt:
        """Sends what is still to be done. begun: whether the machine has the job, as was reported: it is asked how much
        of it is done, and nothing is done twice. Else it gets the job, without its first strokes if some are skipped.
        Raises LineLost; Forgotten; and MachineTrouble where the machine is not ready or does not understand."""
        ...
