"""Compiled kernels: where numba keeps them, and how they are made ready once.

numba's own cache notices a changed file but not that a function it calls has changed, so each file's folder is named by
a hash of it and of all kernel files that it imports, the versions and the processor: where something changes, what
stands on it is compiled anew. Signatures are explicit, so importing a kernel's module is what loads or compiles it;
modules are imported by the functions that use them, never at the top, since a compiled kernel must not have run before
a process forks.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import platform
import re
from collections.abc import Callable
from functools import cache, lru_cache
from importlib import import_module
from pathlib import Path

#: How one file of kernels imports another.
IMPORT = re.compile(r"^from (\.+)([\w.]+) import", re.M)
_CORE = Path(__file__).resolve().parents[1]


def kernel_sources() -> list[Path]:
    """Every file that holds kernels: those in a folder of that name."""
    return sorted(p for p in _CORE.glob("*/kernels/*.py") if p.name != "__init__.py")


#: What a compiler may do with sums that may be taken in any order.
SUMS = {"reassoc", "contract", "nsz"}


@cache
def stands_on(source: Path) -> frozenset[Path]:
    """A file of kernels and all those that it imports, and they."""
    found = {source}
    for dots, name in IMPORT.findall(source.read_text()):
        other = source.parents[len(dots) - 1].joinpath(*name.split(".")).with_suffix(".py")
        if other.parent.name == "kernels" and other.exists():
            found |= stands_on(other)
    return frozenset(found)


def cache_base() -> Path:
    """In HAKOBU_CACHE or the user's cache folder."""
    base = os.environ.get("HAKOBU_CACHE") or os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache"
    return Path(base) / "hakobu" / "kernels"


def cache_folder(source: Path) -> Path:
    """The folder of one file's kernels, by the hash."""
    import numba

    state = hashlib.sha256()
    for each in (*sorted(stands_on(source)), Path(__file__)):
        state.update(str(each).encode())
        state.update(each.read_bytes())
    for word in (numba.__version__, platform.python_version(), _processor()):
        state.update(word.encode())
    return cache_base() / f"{source.stem}-{state.hexdigest()[:16]}"


@lru_cache(maxsize=1)
def _processor() -> str:
    try:
        lines = Path("/proc/cpuinfo").read_text().splitlines()
    except OSError:
        return platform.processor()
    wanted = ("model name", "flags", "Features")
    return "".join(sorted({line for line in lines if line.startswith(wanted)}))


def kernel(signature: str | list[str], any_order: bool = False) -> Callable:
    """Compiles a function for one signature, or several, without the interpreter's lock, kept on disk. any_order: sums
    may be taken in any order, so that several numbers are added at once; the last bits of what comes out are then not
    known."""
    import numba

    def compiled(function: Callable) -> Callable:
        numba.config.CACHE_DIR = str(cache_folder(Path(function.__code__.co_filename)))
        return numba.njit(
            signature, nogil=True, cache=True, error_model="numpy", fastmath=SUMS if any_order else False
        )(function)

    return compiled


def warm() -> None:
    """Loads or compiles every kernel; where several processes ask at once, one works and the others wait."""
    base = cache_base()
    base.mkdir(parents=True, exist_ok=True)
    with open(base / "lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        for source in kernel_sources():
            import_module(f"hakobu.{source.parent.parent.name}.kernels.{source.stem}")


if __name__ == "__main__":
    warm()
