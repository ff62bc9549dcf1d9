"""Child processes that read untrusted files: the next one is started ahead and waits, its modules loaded, so that
nobody waits for an interpreter. They inherit no secrets: their environment is empty but for what Python needs.

This module loads nothing else, so that a child can be on its way before its parent is.
"""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from pathlib import Path

_CORE = str(Path(__file__).resolve().parents[1])
_KEPT = ("PATH", "LANG", "OPENBLAS_CORETYPE", "OPENBLAS_L2_SIZE", "HAKOBU_CACHE")


class Children:
    """One child that waits, in each process that asks for it once with keep_ready."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._spare: subprocess.Popen | None = None
        #: The process whose spare it is; after a fork it is somebody else's.
        self._owner = 0
        self._goes_on = False

    def take(self) -> subprocess.Popen:
        """A child to be asked: the waiting one where there is one, whose place is taken by the next."""
        with self._lock:
            ours = self._owner == os.getpid()
            spare = self._spare if ours else None
            self._spare = self._start() if ours and self._goes_on else None
        return spare if spare and spare.poll() is None else self._start()

    def keep_ready(self, goes_on: bool = True) -> None:
        """Starts a child ahead of the next file, and another whenever one is taken, unless this is for one only."""
        with self._lock:
            self._goes_on = goes_on
            if self._spare is None or self._owner != os.getpid():
                self._spare, self._owner = self._start(), os.getpid()

    def _start(self) -> subprocess.Popen:
        environment = {name: os.environ[name] for name in _KEPT if name in os.environ}
        environment |= {"PYTHONPATH": _CORE, "OPENBLAS_NUM_THREADS": "1"}
        return subprocess.Popen(
            [sys.executable, "-m", "hakobu.formats.child"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.PIPE,
            env=environment,
            cwd="/",
        )


CHILDREN = Children()
