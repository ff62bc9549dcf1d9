"""Compiled kernels: where numba keeps them, and how they are made ready once.

numba's own cache notices a changed file but not that a function it calls has changed, so its folder is named by a hash
of all kernel sources, the versions, and the processor: whatever changes, everything is compiled anew. Signatures are
explicit, so importing a kernel's module is what loads or compiles it; modules are imported by the functions that use
them, never at the top, since a compiled kernel must not have run before a process forks.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import platform
from collections.abc import Callable
from functools import lru_cache
from importlib import import_module
from pathlib import Path

_CORE = Path(__file__).resolve().parents[1]


def kernel_sources() -> list[Path]:
    """Every file that holds kernels: those in a folder of that name."""
    return sorted(p for p in _CORE.glob("*/kernels/*.py") if p.name != "__init__.py")


@lru_cache(maxsize=1)
def cache_folder() -> Path:
    """HAKOBU_CACHE or the user's cache folder, then the hash."""
    import numba

    state = hashlib.sha256()
    for source in (*kernel_sources(), Path(__file__)):
        state.update(str(source).encode())
        state.update(source.read_bytes())
    for word in (numba.__version__, platform.python_version(), _processor()):
        state.update(word.encode())
    base = os.environ.get("HAKOBU_CACHE") or os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache"
    return Path(base) / "hakobu" / "kernels" / state.hexdigest()[:16]


def _processor() -> str:
    try:
        lines = Path("/proc/cpuinfo").read_text().splitlines()
    except OSError:
        return platform.processor()
    wanted = ("model name", "flags", "Features")
    return "".join(sorted({line for line in lines if line.startswith(wanted)}))


def kernel(signature: str) -> Callable:
    """Compiles a function for one signature, without the interpreter's lock, kept on disk."""
    import numba

    numba.config.CACHE_DIR = str(cache_folder())
    return numba.njit(signature, nogil=True, cache=True, error_model="numpy")


def warm() -> None:
    """Loads or compiles every kernel; where several processes ask at once, one works and the others wait."""
    folder = cache_folder()
    folder.mkdir(parents=True, exist_ok=True)
    with open(folder / "lock", "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        for source in kernel_sources():
            import_module(f"hakobu.{source.parent.parent.name}.kernels.{source.stem}")


if __name__ == "__main__":
    warm()
