"""Writes the tables of packages in THIRD_PARTY.md from the lock files: third_party.py, or --check to compare only."""

from __future__ import annotations

import json
import re
import sys
from importlib.metadata import PackageNotFoundError, metadata
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
FILE, PYTHON, NPM = (ROOT / name for name in ("THIRD_PARTY.md", "requirements/run.txt", "web/package-lock.json"))
BEGIN, END = "<!-- packages -->", "<!-- end of packages -->"
#: Longer texts than this in a package's metadata are the licence itself; its classifiers name it then.
MOST_NAME = 60


def tables() -> str:
    python = [(name, version, python_licence(name)) for name, version in locked_python()]
    return "\n".join(
        (
            BEGIN,
            "",
            "## Python packages",
            "",
            *_table(python),
            "",
            "## Packages in the web bundle",
            "",
            *_table(locked_npm()),
            "",
            END,
        )
    )


def locked_python() -> list[tuple[str, str]]:
    """Names and versions of the lock file."""
    return sorted(re.findall(r"^([A-Za-z0-9._-]+)==([^\s;\\]+)", PYTHON.read_text(), re.M))


def locked_npm() -> list[tuple[str, str, str]]:
    """Names, versions and licences of what is bundled: all but development packages."""
    packages = json.loads(NPM.read_text())["packages"]
    return sorted(
        (name.rpartition("node_modules/")[2], entry["version"], entry.get("license", "not stated"))
        for name, entry in packages.items()
        if name and not entry.get("dev") and not entry.get("devOptional") and not entry.get("optional")
    )


def python_licence(name: str) -> str:
    """As the installed package states it. Raises PackageNotFoundError where it is not installed."""
    about = metadata(name)
    stated = about.get("License-Expression") or about.get("License") or ""
    if stated and len(stated) <= MOST_NAME and "\n" not in stated:
        return stated
    kinds = [c.rpartition(" :: ")[2] for c in about.get_all("Classifier", []) if c.startswith("License ::")]
    return ", ".join(kinds) or "see the package"


def _table(rows: list[tuple[str, str, str]]) -> list[str]:
    return [
        "| package | version | licence |",
        "|---|---|---|",
        *(f"| {n} | {v} | {licence} |" for n, v, licence in rows),
    ]


def main(arguments: list[str]) -> int:
    text = FILE.read_text()
    before, _, rest = text.partition(BEGIN)
    _, _, after = rest.partition(END)
    made = f"{before}{tables()}{after}"
    if "--check" in arguments:
        return int(made != text)
    FILE.write_text(made)
    return 0


if __name__ == "__main__":
    try:
        raise SystemExit(main(sys.argv[1:]))
    except PackageNotFoundError as error:
        raise SystemExit(f"{error.name} is not installed: run ./test once, then again.") from error
