"""Designs of nothing but one fault, and proofs of large designs, each in a process of its own: seconds of a processor
and the most memory that it held."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from tests.checks.test_bounds import DESIGNS, DESIGNS_TOO

ROOT = Path(__file__).resolve().parents[1]
#: Outlines of five segments in a design that is proven.
PROVEN = (2000, 20_000)


def bounds() -> Iterator[str]:
    with tempfile.TemporaryDirectory() as folder:
        for name, (design, _) in (DESIGNS | DESIGNS_TOO).items():
            file = Path(folder) / "design.svg"
            file.write_bytes(design())
            yield f"check {name}: {_spent('check', str(file))}"
            yield f"mend {name}: {_spent('mend', str(file), f'{folder}/mended.svg')}"
        for count in PROVEN:
            design, made = f"{folder}/design.svg", f"{folder}/made.plt"
            Path(design).write_text(_stars(count))
            _spent("convert", design, made)
            yield f"proof of {5 * count:,} segments, both files read: {_spent('proof', made, '--against', design)}"


def _stars(count: int) -> str:
    random = np.random.default_rng(1)
    angle = np.linspace(0, 2 * np.pi, 5, endpoint=False)
    parts = []
    for i in range(count):
        points = random.uniform(2, 4) * np.stack([np.cos(angle), np.sin(angle)], axis=1)
        points += (10 * (i % 100) + 5, 10 * (i // 100) + 5)
        parts.append(f'<path d="M{"L".join(f"{x:.3f} {y:.3f}" for x, y in points)}Z"/>')
    size = f'width="1000mm" height="{count // 10}mm" viewBox="0 0 1000 {count // 10}"'
    return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{"".join(parts)}</svg>'


def _spent(*words: str) -> str:
    """Of a command and its children."""
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    command = subprocess.Popen(
        [sys.executable, "-m", "hakobu", *words], env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE
    )
    said = command.stderr.read()
    _, code, used = os.wait4(command.pid, 0)
    # A check ends with 1 where it finds something.
    if os.waitstatus_to_exitcode(code) not in (0, 1):
        raise RuntimeError(said.decode(errors="replace"))
    return f"{used.ru_utime + used.ru_stime:.1f} s, {used.ru_maxrss // 1024} MB"
