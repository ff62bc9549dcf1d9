"""Small designs of nothing but one fault: each is checked and mended within 20 seconds of a processor and 2 GB, which
the system sees to, and what was found is told."""

import json
import os
import random
import subprocess
import sys
import unittest
from pathlib import Path

from .. import LONG

SECONDS, BYTES = 20, 2_000_000_000
CORE = str(Path(__file__).parents[2])
#: Reads a design, then, within limits, looks for faults or takes all safe mends, and tells which were found or taken.
PROGRAM = """
import json, resource, sys
from hakobu import pipeline
from hakobu.checks import check
from hakobu.checks.applier import mend_where
from hakobu.model import Conditions
design = pipeline.read("a.svg", sys.stdin.buffer.read()).document
resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
resource.setrlimit(resource.RLIMIT_DATA, (BYTES, BYTES))
if sys.argv[1] == "check":
    found = check(design, Conditions())
else:
    found = mend_where(design, lambda finding: finding.safe, Conditions()).taken
print(json.dumps(sorted({finding.rule for finding in found})))
""".replace("SECONDS", str(SECONDS)).replace("BYTES", str(BYTES))


def svg(body: str) -> bytes:
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">'
    return f"{head}{body}</svg>".encode()


def path(data: str, looks: str = "") -> bytes:
    return svg(f'<path {looks} d="{data}"/>')


LINES = 'fill="none" stroke="#000"'


def stacked(count: int, apart: float) -> list[str]:
    return [f"M{10 + i * apart:.4f} 10L{40 + i * apart:.4f} 10L{25 + i * apart:.4f} 35Z" for i in range(count)]


def apart(outlines: list[str]) -> bytes:
    return svg("".join(f'<path d="{one}"/>' for one in outlines))


def at_random(count: int, one: str, seed: int = 1) -> str:
    """Outlines of a form whose places in braces are random numbers up to 200."""
    drawn = random.Random(seed)
    return "".join(one.format(*(f"{drawn.random() * 200:.3f}" for _ in range(6))) for _ in range(count))


def hatched(count: int) -> str:
    return "".join(f"M0 {i * 200 / count:.4f}h200M{i * 200 / count:.4f} 0v200" for i in range(count))


#: name: the design, and a fault that is told of it.
DESIGNS = {
    "1,000 equal triangles": (lambda: path("".join(stacked(1000, 0))), "duplicate-line"),
    "10,000 equal triangles": (lambda: path("".join(stacked(10_000, 0))), "duplicate-line"),
    "10,000 triangles, each beside the last": (lambda: path("".join(stacked(10_000, 0.01))), "crowded-place"),
    "50,000 closed points in one place": (lambda: path("M50 50z" * 50_000), "stray-node"),
    "300 lines across each other": (lambda: path(at_random(300, "M{0} {1}L{2} {3}"), LINES), "stroke-only"),
}
DESIGNS_TOO = {
    "10,000 pieces in one place": (lambda: apart(stacked(10_000, 0)), "duplicate-line"),
    "10,000 pieces, each beside the last": (lambda: apart(stacked(10_000, 0.01)), "crowded-place"),
    "3,000 pieces closer than can be told": (lambda: apart(stacked(3000, 0.0005)), "duplicate-line"),
    "100,000 triangles, each beside the last": (lambda: path("".join(stacked(100_000, 0.001))), "crowded-place"),
    "20,000 lines across each other": (lambda: path(at_random(20_000, "M{0} {1}L{2} {3}"), LINES), "crowded-place"),
    "one line of 50,000 corners": (lambda: path("M0 0" + at_random(50_000, "L{0} {1}"), LINES), "crowded-place"),
    "30,000 lines along one": (lambda: path(at_random(30_000, "M{0} 50h{1}"), LINES), "crowded-place"),
    "9 million crossings": (lambda: path(hatched(3000), LINES), "crowded-place"),
    "3,000 curves across each other": (
        lambda: path(at_random(3000, "M{0} {1}C{2} {3} {4} {5} 9 9"), LINES),
        "crowded-place",
    ),
}


class Bounds(unittest.TestCase):
    def run_one(self, what: str, design: bytes) -> list[str]:
        made = subprocess.run(
            [sys.executable, "-c", PROGRAM, what],
            input=design,
            capture_output=True,
            env={**os.environ, "PYTHONPATH": CORE, "OPENBLAS_NUM_THREADS": "1"},
        )
        self.assertEqual(made.returncode, 0, made.stderr[-2000:])
        return json.loads(made.stdout)

    def test_what_is_found_is_told_within_bounds(self):
        for name, (design, fault) in (DESIGNS | (DESIGNS_TOO if LONG else {})).items():
            with self.subTest(name):
                self.assertIn(fault, self.run_one("check", design()))

    def test_what_is_safe_is_mended_within_bounds(self):
        for name, (design, _) in (DESIGNS | DESIGNS_TOO if LONG else {}).items():
            with self.subTest(name):
                self.run_one("mend", design())


if __name__ == "__main__":
    unittest.main()
