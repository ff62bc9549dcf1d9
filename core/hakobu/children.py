"""Child processes that read untrusted files, one for each file.

They are forked from a nursery: a process that has loaded the readers, has seen no file, and waits. A fork takes
milliseconds where an interpreter takes a third of a second of processor time. Nursery and children inherit no secrets:
their environment is empty but for what Python needs.

This module loads nothing else of Hakobu, so that a nursery can be on its way before its parent is.
"""

from __future__ import annotations

import json
import os
import selectors
import socket
import subprocess
import sys
import threading
import time
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

_CORE = str(Path(__file__).resolve().parents[1])
_KEPT = ("PATH", "LANG", "OPENBLAS_CORETYPE", "OPENBLAS_L2_SIZE", "HAKOBU_CACHE")
#: Bytes read or written at once.
_CHUNK = 1 << 20
#: How long a child may take to begin, beside whatever else the machine does, and to end after it has closed its
#: output, in seconds.
_BEGINNING, _ENDING = 60.0, 10.0


@dataclass(frozen=True)
class Ended:
    """The output of a child, its error output, and its exit code (negative: the signal that ended it)."""

    answer: bytes
    complaint: bytes
    code: int


class Child:
    """One child of the nursery; `communicate` is called once."""

    def __init__(self, nursery: socket.socket) -> None:
        self._nursery = nursery
        pipes = [os.pipe() for _ in range(4)]
        (theirs_in, self._input), (self._output, theirs_out), (self._errors, theirs_err), (self._status, status) = pipes
        theirs = [theirs_in, theirs_out, theirs_err, status]
        try:
            socket.send_fds(nursery, [b"f"], theirs)
        except OSError:
            self._close_all()
            raise
        finally:
            self._close(*theirs)
        try:
            self._pid = self._read_status(time.monotonic() + _BEGINNING)["pid"]
        except OSError:
            self._close_all()
            raise

    def communicate(self, data: bytes, seconds: float) -> Ended:
        """Hand over bytes and wait for the end. Raises TimeoutError, and ends the child, after so many seconds."""
        try:
            answer, complaint = self._exchange(memoryview(data), time.monotonic() + seconds)
            end = self._read_status(time.monotonic() + _ENDING)
            return Ended(answer, complaint, end["code"])
        except BaseException:
            # The nursery knows whether the number is still the child's.
            with suppress(OSError):
                self._nursery.sendall(b"k" + self._pid.to_bytes(4, "little"))
            raise
        finally:
            self._close_all()

    def _exchange(self, data: memoryview, until: float) -> tuple[bytes, bytes]:
        read: dict[int, list[bytes]] = {self._output: [], self._errors: []}
        sent = 0
        os.set_blocking(self._input, False)
        with selectors.DefaultSelector() as waiting:
            waiting.register(self._input, selectors.EVENT_WRITE)
            for end in read:
                waiting.register(end, selectors.EVENT_READ)
            while waiting.get_map():
                left = until - time.monotonic()
                if left <= 0:
                    raise TimeoutError
                for key, _ in waiting.select(left):
                    if key.fd == self._input:
                        try:
                            sent += os.write(self._input, data[sent : sent + _CHUNK])
                        except BrokenPipeError:
                            sent = len(data)
                        if sent >= len(data):
                            waiting.unregister(self._input)
                            self._close(self._input)
                            self._input = -1
                    elif part := os.read(key.fd, _CHUNK):
                        read[key.fd].append(part)
                    else:
                        waiting.unregister(key.fd)
        return b"".join(read[self._output]), b"".join(read[self._errors])

    def _read_status(self, until: float) -> dict:
        """The next line that the nursery writes about the child."""
        line = b""
        with selectors.DefaultSelector() as waiting:
            waiting.register(self._status, selectors.EVENT_READ)
            while not line.endswith(b"\n"):
                if not waiting.select(max(until - time.monotonic(), 0)):
                    raise TimeoutError
                # A byte at a time: what follows is another line's.
                part = os.read(self._status, 1)
                if not part:
                    raise ChildProcessError("The process that starts readers has ended.")
                line += part
        return json.loads(line)

    def _close_all(self) -> None:
        self._close(self._input, self._output, self._errors, self._status)

    @staticmethod
    def _close(*ends: int) -> None:
        for end in ends:
            if end >= 0:
                os.close(end)


class Children:
    """The nursery of this process, started with the first child or ahead of it."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._nursery: socket.socket | None = None
        self._process: subprocess.Popen | None = None
        #: The process whose nursery it is; after a fork it is somebody else's.
        self._owner = 0

    def take(self) -> Child:
        """A new child process, for one file."""
        with self._lock:
            try:
                return Child(self._ready())
            except OSError:
                # The nursery is gone; the next one is as good.
                self._owner = 0
                return Child(self._ready())

    def keep_ready(self) -> None:
        """Starts the nursery ahead of the first file."""
        with self._lock:
            self._ready()

    def _ready(self) -> socket.socket:
        ended = self._process is None or self._process.poll() is not None
        if self._nursery is None or self._owner != os.getpid() or ended:
            self._nursery, self._process = self._start()
            self._owner = os.getpid()
        return self._nursery

    def _start(self) -> tuple[socket.socket, subprocess.Popen]:
        environment = {name: os.environ[name] for name in _KEPT if name in os.environ}
        environment |= {"PYTHONPATH": _CORE, "OPENBLAS_NUM_THREADS": "1"}
        # Each message is taken whole, with the ends of pipes that belong to it.
        ours, theirs = socket.socketpair(socket.AF_UNIX, socket.SOCK_SEQPACKET)
        with theirs:
            process = subprocess.Popen(
                [sys.executable, "-m", "hakobu.formats.nursery", str(theirs.fileno())],
                stdin=subprocess.DEVNULL,
                stdout=subprocess.DEVNULL,
                pass_fds=[theirs.fileno()],
                env=environment,
                cwd="/",
            )
        return ours, process


CHILDREN = Children()
