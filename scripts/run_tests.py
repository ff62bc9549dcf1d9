"""All checks and tests, or some parts of them, with one line at the end that counts them.

run_tests.py [PART | LABEL]...: the parts are core, server, browser, web and lint; a label is one of Django's runner.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
WEB = ROOT / "web"
BIN = Path(sys.executable).parent
#: The folders of Python tests in each part. Those that wait most, for a browser, begin first.
LABELS = {
    "browser": ("server/browser",),
    "server": ("server/jobs", "server/api", "server/previews", "server/config"),
    "core": ("core/tests", "demo", "simulator/tests"),
}
#: How long each class took last: the longest begin first.
SECONDS = ROOT / ".run" / "test-seconds.json"
#: How many classes are named in the end, the slowest first.
SLOWEST = 10


@dataclass(frozen=True)
class Counts:
    passed: int
    failed: int
    skipped: int = 0

    def __add__(self, other: Counts) -> Counts:
        return Counts(self.passed + other.passed, self.failed + other.failed, self.skipped + other.skipped)


def main(names: list[str]) -> int:
    parts = [name for name in names if name in (*LABELS, "web", "lint")]
    labels = [name for name in names if name not in parts]
    if not names:
        parts = [*LABELS, "web", "lint"]
    folders = [label for part in LABELS if part in parts for label in LABELS[part]] + labels
    checks = [check for check in CHECKS if set(check[1]) & set(parts)]
    # The checks wait for nothing, browser tests often do: side by side, the processors are never idle.
    with ThreadPoolExecutor(1) as pool:
        others = pool.submit(lambda: [(label, *run()) for label, _, run in checks])
        python = [("python", *python_tests(folders))] if folders else []
        counts = Counts(0, 0)
        for label, found, text in [*others.result(), *python]:
            counts += report(label, found, text)
    skipped = f", {counts.skipped} skipped" if counts.skipped else ""
    print(f"{counts.passed} passed, {counts.failed} failed{skipped}")
    return int(counts.failed > 0 or counts.passed == 0)


def report(label: str, counts: Counts, text: str) -> Counts:
    print(f"-- {label}\n{text}-- {label}: {counts.passed} passed, {counts.failed} failed", flush=True)
    return counts


def command(*words: str, cwd: Path = ROOT) -> Callable[[], tuple[Counts, str]]:
    """A check that passes or fails as a whole, and what it says."""

    def run() -> tuple[Counts, str]:
        done = subprocess.run(words, cwd=cwd, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        return (Counts(0, 1), done.stdout) if done.returncode else (Counts(1, 0), "")

    return run


def python_tests(folders: list[str]) -> tuple[Counts, str]:
    # Waits for the kernels where they are still being compiled.
    if subprocess.run([sys.executable, "-m", "hakobu.compiled.build"], cwd=ROOT, check=False).returncode:
        return Counts(0, 1), "The kernels could not be compiled.\n"
    # Tests that drive a browser wait more than half of the time.
    processes = 2 * len(os.sched_getaffinity(0))
    with tempfile.NamedTemporaryFile(suffix=".json") as file:
        words = [sys.executable, "server/manage.py", "test", *folders, "--parallel", str(processes), "--noinput"]
        # What a crash of the machine would lose is of no use after it.
        environment = {**os.environ, "HAKOBU_TEST_COUNTS": file.name, "PGOPTIONS": "-c synchronous_commit=off"}
        environment["HAKOBU_TEST_SECONDS"] = str(SECONDS)
        code = subprocess.run(words, cwd=ROOT, env=environment, check=False).returncode
        text = Path(file.name).read_text()
    found = json.loads(text) if text else {"passed": 0, "failed": 1, "skipped": 0, "class_seconds": {}}
    if not code:
        known = json.loads(SECONDS.read_text()) if SECONDS.exists() else {}
        SECONDS.write_text(json.dumps(known | found["class_seconds"]))
    failed = found["failed"] or int(code != 0)
    slowest = sorted(found["class_seconds"].items(), key=lambda each: -each[1])[:SLOWEST]
    lines = [f"   {seconds:6.1f} s  {name}\n" for name, seconds in slowest]
    said = "".join(["-- the slowest classes\n", *lines]) if lines else ""
    return Counts(found["passed"], failed, found["skipped"]), said


def web_tests() -> tuple[Counts, str]:
    with tempfile.NamedTemporaryFile(suffix=".json") as file:
        words = ["npx", "vitest", "run", "--reporter=default", "--reporter=json", f"--outputFile={file.name}"]
        done = subprocess.run(words, cwd=WEB, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True)
        text = Path(file.name).read_text()
    found = json.loads(text) if text else {"numPassedTests": 0, "numFailedTests": 1, "numPendingTests": 0}
    failed = found["numFailedTests"] or int(done.returncode != 0)
    return Counts(found["numPassedTests"], failed, found["numPendingTests"]), done.stdout if failed else ""


#: What is run beside the Python tests: its name, the parts that it belongs to, and how.
CHECKS = (
    ("lint", ("lint", "core"), command(str(BIN / "ruff"), "check", ".")),
    ("format", ("lint", "core"), command(str(BIN / "ruff"), "format", "--check", ".")),
    ("contracts", ("lint", "server"), command(str(BIN / "lint-imports"), ".importlinter", cwd=ROOT / "server")),
    ("web-lint", ("lint", "web"), command("npx", "eslint", ".", "--max-warnings", "0", cwd=WEB)),
    ("web-format", ("lint", "web"), command("npx", "prettier", "--check", ".", cwd=WEB)),
    ("web-types", ("lint", "web"), command("npx", "vue-tsc", "--noEmit", cwd=WEB)),
    ("python-types", ("lint", "core", "server"), command("npx", "pyright", "--project", "..", cwd=WEB)),
    ("web-tests", ("web",), web_tests),
)

if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
