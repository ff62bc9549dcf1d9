"""All checks and tests, one after the other, with one line at the end that counts them."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
WEB = ROOT / "web"
BIN = Path(sys.executable).parent


def main(names: list[str]) -> int:
    passed = failed = skipped = 0
    for label, run in PARTS.items():
        if names and label not in names and not (label == "python" and any("." in n or "/" in n for n in names)):
            continue
        print(f"-- {label}", flush=True)
        p, f, s = run([n for n in names if n not in PARTS])
        print(f"-- {label}: {p} passed, {f} failed", flush=True)
        passed, failed, skipped = passed + p, failed + f, skipped + s
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return int(failed > 0 or passed == 0)


def command(*words: str, cwd: Path = ROOT):
    """A check that passes or fails as a whole."""

    def run(_: list[str]) -> tuple[int, int, int]:
        code = subprocess.run(words, cwd=cwd, check=False).returncode
        return (1, 0, 0) if code == 0 else (0, 1, 0)

    return run


def python_tests(labels: list[str]) -> tuple[int, int, int]:
    # Waits for the kernels where they are still being compiled.
    if subprocess.run([sys.executable, "-m", "hakobu.compiled.build"], cwd=ROOT, check=False).returncode:
        return 0, 1, 0
    labels = labels or ["core/tests", "demo", "server/jobs", "server/api", "server/previews", "server/browser"]
    with tempfile.NamedTemporaryFile(suffix=".json") as file:
        words = [sys.executable, "server/manage.py", "test", *labels, "--parallel", "2", "--noinput"]
        environment = {**os.environ, "HAKOBU_TEST_COUNTS": file.name}
        code = subprocess.run(words, cwd=ROOT, env=environment, check=False).returncode
        text = Path(file.name).read_text()
    Path("/tmp/classes.json").write_text(text)
    counts = json.loads(text) if text else {"passed": 0, "failed": 1, "skipped": 0}
    if code and not counts["failed"]:
        counts["failed"] = 1
    return counts["passed"], counts["failed"], counts["skipped"]


def web_tests(_: list[str]) -> tuple[int, int, int]:
    with tempfile.NamedTemporaryFile(suffix=".json") as file:
        words = ["npx", "vitest", "run", "--reporter=default", "--reporter=json", f"--outputFile={file.name}"]
        code = subprocess.run(words, cwd=WEB, check=False).returncode
        text = Path(file.name).read_text()
    if not text:
        return 0, 1, 0
    counts = json.loads(text)
    failed = counts["numFailedTests"] or int(code != 0)
    return counts["numPassedTests"], failed, counts["numPendingTests"]


PARTS = {
    "lint": command(str(BIN / "ruff"), "check", "."),
    "format": command(str(BIN / "ruff"), "format", "--check", "."),
    "web-lint": command("npx", "eslint", ".", "--max-warnings", "0", cwd=WEB),
    "web-types": command("npx", "vue-tsc", "--noEmit", cwd=WEB),
    "web": web_tests,
    "python": python_tests,
}

if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
