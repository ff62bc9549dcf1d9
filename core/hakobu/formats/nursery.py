"""The fork server of children.py: loads the readers, then forks a child process for each request.

It never reads a file itself and has one thread, so that a fork is a clean copy. It ends when its parent does.
"""

from __future__ import annotations

import json
import os
import selectors
import signal
import socket
import sys
from importlib import import_module

from ..compiled.sources import cache_folder
from . import child, confined

#: Message kinds: fork a child for four ends of pipes (input, output, errors, status); kill one.
FORK, KILL = b"f", b"k"


def main() -> None:
    parent = socket.socket(fileno=int(sys.argv[1]))
    # What reads most files; the rest is loaded by the child that needs it.
    import_module(f"{__package__}.svg.reader")
    # A folder can be allowed only where it is; kernels may still be compiled into it.
    kernels = cache_folder()
    kernels.mkdir(parents=True, exist_ok=True)
    confined.shut_in(os.environ["PYTHONPATH"], str(kernels))
    statuses: dict[int, int] = {}
    wake, woken = socket.socketpair()
    for end in (wake, woken):
        end.setblocking(False)
    signal.set_wakeup_fd(wake.fileno())
    signal.signal(signal.SIGCHLD, lambda *_: None)
    with selectors.DefaultSelector() as waiting:
        waiting.register(parent, selectors.EVENT_READ)
        waiting.register(woken, selectors.EVENT_READ)
        while True:
            for key, _ in waiting.select():
                if key.fileobj is woken:
                    woken.recv(4096)
                    _reap(statuses)
                elif not _serve(parent, statuses):
                    return


def _serve(parent: socket.socket, statuses: dict[int, int]) -> bool:
    """Does what the next message asks; False where the parent has ended."""
    message, ends, _, _ = socket.recv_fds(parent, 16, 4)
    if message == FORK:
        _fork(parent, ends, statuses)
    elif message[:1] == KILL and (pid := int.from_bytes(message[1:], "little")) in statuses:
        os.kill(pid, signal.SIGKILL)
    return bool(message)


def _fork(parent: socket.socket, ends: list[int], statuses: dict[int, int]) -> None:
    pid = os.fork()
    if pid == 0:
        signal.set_wakeup_fd(-1)
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        parent.close()
        for own, end in enumerate(ends[:3]):
            os.dup2(end, own)
        os.closerange(3, max([*ends, *statuses.values()]) + 1)
        _be_child()
    _write_status(ends[3], {"pid": pid})
    statuses[pid] = ends[3]
    for end in ends[:3]:
        os.close(end)


def _be_child() -> None:
    code = 1
    try:
        confined.seal()
        child.main()
        code = 0
    except BaseException as error:
        sys.excepthook(type(error), error, error.__traceback__)
    finally:
        # Nothing of the nursery's own is to be cleaned up here.
        os._exit(code)


def _reap(statuses: dict[int, int]) -> None:
    while statuses:
        pid, status = os.waitpid(-1, os.WNOHANG)
        if not pid:
            return
        end = statuses.pop(pid)
        _write_status(end, {"code": os.waitstatus_to_exitcode(status)})
        os.close(end)


def _write_status(end: int, values: dict) -> None:
    try:
        os.write(end, json.dumps(values).encode() + b"\n")
    except BrokenPipeError:
        # Whoever waited for it has given up.
        return


if __name__ == "__main__":
    main()
