"""Commands as whole processes, and the memory of a worker's child that waits for work."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
FILES = ROOT / "demo" / "files"
#: A child is ready when its memory has stayed the same for so long, in seconds.
SETTLED_S, PATIENCE_S = 1.0, 30.0


def commands() -> Iterator:
    """Warm files, warm kernels; beside an interpreter that only imports the libraries that every command stands on."""
    title = str(FILES / "van-title.svg")
    with tempfile.TemporaryDirectory() as folder:
        runs = {
            "convert, the van's title to DXF": ("convert", title, f"{folder}/title.dxf"),
            "check, the van's title": ("check", title),
            "mend, the van's title": ("mend", title, f"{folder}/title.svg"),
            "trace, the kettle (1.4 megapixels), dark": (
                "trace", str(FILES / "kettle.png"), f"{folder}/kettle.svg", "--mode", "dark",
            ),
        }  # fmt: skip
        libraries = [sys.executable, "-c", "import numpy, scipy.spatial"]
        for what, words in runs.items():
            command = [sys.executable, "-m", "hakobu", *words]
            yield f"process: {what}", lambda c=command: _run(c), lambda: _run(libraries), "import NumPy and SciPy"
    yield f"A worker's child that waits for work holds {_waiting_child_mb():.0f} MB."


def _run(command: list[str]) -> None:
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    done = subprocess.run(command, env=environment, check=False, capture_output=True)
    # A check ends with 1 where it finds something.
    if done.returncode > 1:
        raise RuntimeError(done.stderr.decode(errors="replace"))


def _waiting_child_mb() -> float:
    """Resident memory, in MB, of what a worker starts for a piece of work, before there is any."""
    command = [sys.executable, str(ROOT / "server" / "manage.py"), "work_child"]
    with subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE) as child:
        try:
            return _settled_mb(child.pid)
        finally:
            child.kill()


def _settled_mb(pid: int) -> float:
    begun = since = time.monotonic()
    before = 0.0
    while time.monotonic() - since < SETTLED_S:
        if time.monotonic() - begun > PATIENCE_S:
            raise RuntimeError("The child's memory did not settle.")
        now = _resident_mb(pid)
        if now != before:
            before, since = now, time.monotonic()
        time.sleep(0.05)
    return before


def _resident_mb(pid: int) -> float:
    status = Path(f"/proc/{pid}/status").read_text()
    return next(int(line.split()[1]) / 1024 for line in status.splitlines() if line.startswith("VmRSS:"))
