"""Questions that take long to answer, asked of child processes with limits while whoever asked waits.

The same question is answered once, however many ask it; when nobody waits any more, the child is ended.
"""

from __future__ import annotations

import json
import os
import signal
import struct
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from typing import Any

from django.db import connection

from hakobu import errors
from hakobu.errors import HakobuError, TooMuch

from .children import MANAGE

#: Seconds for which somebody is kept waiting, and how often it is seen whether they still are.
PATIENCE, LOOK = 60.0, 0.1
#: Questions that are answered at once, and requests that may wait for answers.
MOST_AT_ONCE, MOST_WAITING = max(os.cpu_count() or 1, 2), 12


class Busy(HakobuError):
    """Too much is asked for at once, or the answer takes longer than anybody waits."""

    code = "busy"
    http_status = 503


class Gone(HakobuError):
    """Whoever asked has gone."""

    code = "gone"
    http_status = 499


class _Child:
    """A process that answers questions, one after the other, and keeps at hand what they were about."""

    def __init__(self) -> None:
        self.about = ""
        # The database that this process uses, which in tests is another than the environment's.
        environment = {**os.environ, "PGDATABASE": connection.settings_dict["NAME"]}
        command = [sys.executable, str(MANAGE), "answer_child"]
        self.process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, env=environment)
        assert self.process.stdin is not None
        assert self.process.stdout is not None
        self._questions, self._answers = self.process.stdin, self.process.stdout

    def ask(self, question: bytes) -> bytes:
        """Raises EOFError where the child ends instead."""
        try:
            self._questions.write(question + b"\n")
            self._questions.flush()
        except BrokenPipeError as error:
            raise EOFError from error
        size = self._answers.read(8)
        data = self._answers.read(struct.unpack("<Q", size)[0]) if len(size) == 8 else b""
        if len(size) < 8 or not data:
            raise EOFError
        return data

    def end(self) -> int:
        self.process.kill()
        return self.process.wait()


class _Question:
    """One question on its way: how many wait for its answer, and the child that works on it."""

    def __init__(self) -> None:
        self.waiting = 0
        self.done = threading.Event()
        self.answer: bytes | Exception = b""
        self.child: _Child | None = None
        self.given_up = False


class _Asking:
    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._going: dict[bytes, _Question] = {}
        self._idle: list[_Child] = []
        self._at_once = threading.BoundedSemaphore(MOST_AT_ONCE)
        self._waiting = 0

    def ask(self, question: bytes, about: str, gone: Callable[[], bool]) -> bytes:
        with self._lock:
            if self._waiting >= MOST_WAITING:
                raise Busy("Hakobu is busy with other designs just now; ask again in a moment.")
            going = self._going.get(question)
            if going is None:
                going = self._going[question] = _Question()
                threading.Thread(target=self._work, args=(going, question, about), daemon=True).start()
            going.waiting += 1
            self._waiting += 1
        try:
            return self._wait(going, gone)
        finally:
            with self._lock:
                self._waiting -= 1
                going.waiting -= 1
                if not going.waiting and not going.done.is_set():
                    going.given_up = True
                    self._going.pop(question, None)
                    if going.child:
                        going.child.process.kill()

    def _wait(self, going: _Question, gone: Callable[[], bool]) -> bytes:
        until = time.monotonic() + PATIENCE
        while not going.done.wait(LOOK):
            if gone():
                raise Gone("Nobody waits for this any more.")
            if time.monotonic() > until:
                raise Busy("This takes longer than a minute on this machine just now; ask again later.")
        if isinstance(going.answer, Exception):
            raise going.answer
        return going.answer

    def _work(self, going: _Question, question: bytes, about: str) -> None:
        with self._at_once:
            try:
                going.answer = self._worked_out(going, question, about)
            except Exception as error:
                going.answer = error
        with self._lock:
            self._going.pop(question, None)
            going.done.set()

    def _worked_out(self, going: _Question, question: bytes, about: str) -> bytes:
        with self._lock:
            if going.given_up:
                raise Gone("Nobody waits for this any more.")
            same = next((child for child in self._idle if child.about == about), None)
            child = same or (self._idle[0] if self._idle else None)
            if child:
                self._idle.remove(child)
            child = going.child = child or _Child()
        try:
            data = child.ask(question)
        except EOFError:
            code = child.end()
            if code == -signal.SIGXCPU:
                raise TooMuch("This design is too large to be worked out here: it took too long; split it.") from None
            raise TooMuch("This design is too large to be worked out here: it needs too much memory.") from None
        child.about = about
        with self._lock:
            self._idle.append(child)
        return data


_ASKING = _Asking()
KINDS = {kind.code: kind for kind in HakobuError.__subclasses__()} | {"failed": errors.HakobuError}


def asked(name: str, arguments: list[Any], gone: Callable[[], bool] = lambda: False) -> Any:
    """What a function of ANSWERS gives, worked out in a child. Raises what it raises, Busy, Gone, or TooMuch where a
    limit ended it."""
    question = json.dumps([name, arguments], sort_keys=True).encode()
    data = _ASKING.ask(question, str(arguments[0]), gone)
    kind, rest = data[:1], data[1:]
    if kind == b"b":
        return rest
    told = json.loads(rest)
    if kind == b"e":
        raise KINDS.get(told["code"], HakobuError)(told["sentence"])
    return told
