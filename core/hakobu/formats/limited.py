"""Reading untrusted bytes in a child process with limits on memory, processor time and wall clock.

A child serves one file and ends. The next one is started ahead and waits, its modules loaded, so that nobody waits for
an interpreter. It answers with the codec's bytes, never with pickled objects: a reader gone wrong cannot hand code to
its parent. It inherits no secrets: its environment is empty but for what Python needs.
"""

from __future__ import annotations

import json
import os
import struct
import subprocess
import sys
import threading
from dataclasses import asdict
from pathlib import Path as FilePath
from pathlib import PurePath

from ..model import Finding, codec, errors
from .format import Format, ReadOptions, ReadResult

_CORE = str(FilePath(__file__).resolve().parents[2])
_KEPT = ("PATH", "LANG", "OPENBLAS_CORETYPE", "OPENBLAS_L2_SIZE")


def read_limited(name: str, format_: Format, data: bytes, options: ReadOptions) -> ReadResult:
    """The result of format_.read, or its error.

    Raises what the reader raised, TooMuch where a limit ended it, UnreadableFile where it broke.
    """
    label = PurePath(name).name or "The file"
    head = json.dumps({"format": format_.id, "options": asdict(options)}).encode()
    question = struct.pack("<I", len(head)) + head + data
    seconds = options.budget.wall_seconds
    with _CHILDREN.take() as child:
        try:
            answer, complaint = child.communicate(question, timeout=seconds)
        except subprocess.TimeoutExpired as error:
            raise errors.TooMuch(
                f"{label} was not read within {seconds:g} seconds: it is too large or too nested; split it."
            ) from error
        finally:
            child.kill()
    if child.returncode < 0:
        raise errors.TooMuch(f"{label} needs more memory or time than reading a file may take; split it.")
    if child.returncode > 0 or len(answer) < 4:
        reason = complaint.decode("utf-8", "replace").strip().splitlines()[-1:] or ["no answer"]
        raise errors.UnreadableFile(f"{label} could not be read: the reader broke ({reason[0][:200]}).")
    return _unpack(answer, label)


def _unpack(answer: bytes, label: str) -> ReadResult:
    (size,) = struct.unpack_from("<I", answer)
    head = json.loads(answer[4 : 4 + size])
    if "error" in head:
        kinds = {kind.code: kind for kind in errors.HakobuError.__subclasses__()}
        raise kinds.get(head["error"], errors.UnreadableFile)(f"{label}: {head['sentence']}")
    paths, at = {}, 4 + size
    for digest, count in head["paths"]:
        paths[digest] = codec.path_from_bytes(answer[at : at + count])
        at += count
    document = codec.from_manifest(head["manifest"], paths.__getitem__)
    return ReadResult(document, tuple(Finding.from_json(f) for f in head["findings"]))


class _Children:
    """One child that waits, in each process that asks for it once with keep_ready."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._spare: subprocess.Popen | None = None
        #: The process whose spare it is; after a fork it is somebody else's.
        self._owner = 0

    def take(self) -> subprocess.Popen:
        """A child to be asked: the waiting one where there is one, whose place is taken by the next."""
        with self._lock:
            ours = self._owner == os.getpid()
            spare = self._spare if ours else None
            self._spare = self._start() if ours else None
        return spare if spare and spare.poll() is None else self._start()

    def keep_ready(self) -> None:
        """Starts a child ahead of the next file, and another whenever one is taken."""
        with self._lock:
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


_CHILDREN = _Children()
keep_ready = _CHILDREN.keep_ready
