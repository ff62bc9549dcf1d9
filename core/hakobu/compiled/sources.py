"""The source files of the kernels, and the names under which what is built of them is kept."""

from __future__ import annotations

import hashlib
import os
import platform
import re
from collections.abc import Iterable
from functools import cache
from pathlib import Path

CORE = Path(__file__).resolve().parents[1]
#: What turns sources into machine code: a change there compiles everything anew; and what links it.
COMPILER = [Path(__file__).with_name(name) for name in ("__init__.py", "part.py", "arrays.py")]
LINKER = Path(__file__).with_name("extension.py")
#: How one file of kernels imports another.
IMPORT = re.compile(r"^from (\.+)([\w.]+) import", re.M)


def kernel_sources() -> list[Path]:
    """Every file that holds kernels: those in a folder of that name."""
    return sorted(p for p in CORE.glob("**/kernels/*.py") if p.name != "__init__.py")


@cache
def dependencies(source: Path) -> frozenset[Path]:
    """A file of kernels and all files of kernels that it imports, directly or not."""
    known = {source}
    for dots, name in IMPORT.findall(source.read_text()):
        other = source.parents[len(dots) - 1].joinpath(*name.split(".")).with_suffix(".py")
        if other.parent.name == "kernels" and other.exists():
            known |= dependencies(other)
    return frozenset(known)


def module_name(source: Path) -> str:
    return ".".join(("hakobu", *source.relative_to(CORE).with_suffix("").parts))


def digest(files: Iterable[Path], *words: str) -> str:
    """A hash of the contents and names of files, of words, and of the Python and processor that code is made for."""
    state = hashlib.sha256()
    for file in files:
        state.update(file.name.encode() + b"\0" + file.read_bytes() + b"\0")
    for word in (platform.python_version(), _processor(), *words):
        state.update(word.encode() + b"\0")
    return state.hexdigest()[:20]


def library_name() -> str:
    """The file name of the extension module that holds the kernels as they are now."""
    return f"kernels-{digest([*kernel_sources(), *COMPILER, LINKER])}.so"


def cache_folder() -> Path:
    """Where the library is built: in HAKOBU_CACHE or the user's cache folder."""
    base = os.environ.get("HAKOBU_CACHE") or os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache"
    return Path(base) / "hakobu" / "kernels"


@cache
def _processor() -> str:
    """The features that code is compiled for."""
    try:
        lines = Path("/proc/cpuinfo").read_text().splitlines()
    except OSError:
        return platform.processor()
    return "".join(sorted({line for line in lines if line.startswith(("model name", "flags", "Features"))}))
