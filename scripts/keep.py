"""Keeps a program running: starts it again whenever it ends, until told to stop. keep.py PIDFILE COMMAND..."""

from __future__ import annotations

import ctypes
import os
import signal
import subprocess
import sys
import time

#: A program that ends sooner than this is begun again with growing pauses, up to the longest.
SOON_SECONDS, LONGEST_PAUSE = 5.0, 20.0


#: prctl(2): the signal that a process gets when the one that began it ends.
PR_SET_PDEATHSIG = 1
_LIBRARY = ctypes.CDLL(None)


def end_with_keeper() -> None:
    """Whatever ends the keeper, by any signal, ends the program too: nothing is left that holds its port."""
    _LIBRARY.prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def main(pid_file: str, command: list[str]) -> int:
    with open(pid_file, "w") as file:
        file.write(str(os.getpid()))
    stopping = False
    program: subprocess.Popen | None = None

    def stop(*_) -> None:
        nonlocal stopping
        stopping = True
        if program and program.poll() is None:
            program.terminate()

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    pause = 0.5
    while not stopping:
        begun = time.monotonic()
        program = subprocess.Popen(command, preexec_fn=end_with_keeper)
        code = program.wait()
        if stopping:
            break
        pause = 0.5 if time.monotonic() - begun > SOON_SECONDS else min(pause * 2, LONGEST_PAUSE)
        print(f"{command[1:3]} ended with {code}; starting it again in {pause:g} s", flush=True)
        time.sleep(pause)
    os.unlink(pid_file)
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1], sys.argv[2:]))
