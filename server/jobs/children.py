"""Child processes that do a worker's work: they can be ended at any moment, and keep the worker's own loop free.

A child serves run after run, since loading everything takes seconds; it ends when its worker does.
"""

from __future__ import annotations

import json
import os
import select
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

#: Where children write what they log, as subprocess takes it; None: where this process does.
LOG = None
MANAGE = Path(__file__).resolve().parents[1] / "manage.py"


class ChildLost(Exception):
    """A child ended before its work did."""


class Child:
    """One process; asked through its standard input, it answers with a line when a run is over."""

    def __init__(self) -> None:
        self.lost = False
        self._process = subprocess.Popen(
            [sys.executable, str(MANAGE), "work_child"], stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=LOG
        )
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        self._runs, self._answers = self._process.stdin, self._process.stdout

    def ask(self, run: str, attempt: int) -> None:
        try:
            self._runs.write(json.dumps([run, attempt]).encode() + b"\n")
            self._runs.flush()
        except BrokenPipeError:
            self.lost = True

    def answered(self, seconds: float) -> bool:
        """Whether the run is over, one way or the other, within so many seconds."""
        if self.lost:
            return True
        if not select.select([self._answers], [], [], seconds)[0]:
            return False
        self.lost = not self._answers.readline()
        return True

    def seconds(self) -> float:
        """Seconds of work that the process has done (proc(5): utime and stime)."""
        try:
            fields = Path(f"/proc/{self._process.pid}/stat").read_text().rpartition(")")[2].split()
        except OSError:
            return 0.0
        return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")

    def kill(self) -> None:
        self.lost = True
        self._process.kill()
        self._process.wait()

    @property
    def alive(self) -> bool:
        return not self.lost and self._process.poll() is None


class _Children:
    def __init__(self) -> None:
        self._idle: list[Child] = []
        self._lock = threading.Lock()

    @contextmanager
    def borrowed(self) -> Iterator[Child]:
        """A child for one run: one that waits, or a new one. It goes back when it is still alive."""
        with self._lock:
            child = self._idle.pop() if self._idle else None
        child = child if child and child.alive else Child()
        try:
            yield child
        except BaseException:
            child.kill()
            raise
        if child.alive:
            with self._lock:
                self._idle.append(child)

    def prepare(self) -> None:
        """Starts a child ahead of the first run."""
        with self._lock:
            if not self._idle:
                self._idle.append(Child())


CHILDREN = _Children()
