"""Builds the library of kernels: `python -m hakobu.compiled.build`.

Files are compiled on all processors, the largest first. What is compiled is kept by the hash of a file and of those it
imports, so that a change compiles only what depends on it. One process builds, under a lock; others wait for it.
"""

from __future__ import annotations

import fcntl
import json
import multiprocessing
import os
import pickle
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from .library import LOCK, PROGRESS, find_library
from .sources import COMPILER, LINKER, cache_folder, dependencies, digest, kernel_sources, library_name

#: Libraries and parts that were not used for this many days are deleted.
KEPT_DAYS = 14
RUNTIME = "numba's runtime"


def build(output: Path | None = None) -> Path:
    """Build the library for the sources as they are, in a folder or in the cache, where it is not there yet."""
    folder = cache_folder()
    with _alone(folder):
        path = (output or folder) / library_name()
        if not path.exists():
            _build(folder, path)
            _clean(folder)
    return path


def _build(folder: Path, path: Path) -> None:
    names = {source: part_name(source) for source in kernel_sources()}
    runtime = folder / f"runtime-{digest([LINKER], *_versions())}.part"
    missing = [source for source, name in names.items() if not (folder / name).exists()]
    # The largest first, so that no processor is left with one at the end.
    missing.sort(key=lambda source: -source.stat().st_size)
    jobs = [(str(source), str(folder / names[source])) for source in missing]
    if not runtime.exists():
        jobs.insert(len(jobs) // 2, (RUNTIME, str(runtime)))
    begun = time.monotonic()
    _report(folder, len(names) + 1 - len(jobs), len(names) + 1)
    for done, _ in enumerate(_compiled(jobs), len(names) + 2 - len(jobs)):
        _report(folder, done, len(names) + 1)
    from . import extension

    parts = [pickle.loads((folder / name).read_bytes()) for name in names.values()]
    objects = [*(part.code for part in parts), *pickle.loads(runtime.read_bytes()).values()]
    extension.link([*objects, extension.compile_table(parts)], path)
    print(f"{len(jobs)} parts compiled in {time.monotonic() - begun:.0f} s: {path}", flush=True)


def _compiled(jobs: list[tuple[str, str]]) -> Iterator[None]:
    """Compiles each of the jobs, on all processors, in any order."""
    if not jobs:
        return
    processes = min(len(os.sched_getaffinity(0)), len(jobs))
    with multiprocessing.get_context("spawn").Pool(processes) as pool:
        yield from pool.imap_unordered(_compile, jobs)


def _compile(job: tuple[str, str]) -> None:
    source, output = job
    if source == RUNTIME:
        from .extension import compile_runtime

        content = compile_runtime()
    else:
        content = _compiler().compile(Path(source))
    half = Path(output).with_suffix(".half")
    half.write_bytes(pickle.dumps(content))
    half.rename(output)


_COMPILER: list = []


def _compiler():
    """The one compiler of a process: what it has typed serves the next file."""
    if not _COMPILER:
        from .part import Compiler

        _COMPILER.append(Compiler())
    return _COMPILER[0]


def part_name(source: Path) -> str:
    """The file that a source's object code is kept in."""
    state = digest([*sorted(dependencies(source)), *COMPILER], *_versions())
    return f"{source.parent.parent.name}-{source.stem}-{state}.part"


def _versions() -> tuple[str, ...]:
    from importlib.metadata import version

    return version("numba"), version("llvmlite"), version("numpy")


@contextmanager
def _alone(folder: Path) -> Iterator[None]:
    folder.mkdir(parents=True, exist_ok=True)
    with open(folder / LOCK, "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        try:
            yield
        finally:
            (folder / PROGRESS).unlink(missing_ok=True)


def _report(folder: Path, done: int, parts: int) -> None:
    half = folder / f"{PROGRESS}.half"
    half.write_text(json.dumps({"done": done, "of": parts}))
    half.rename(folder / PROGRESS)


def _clean(folder: Path) -> None:
    old = time.time() - KEPT_DAYS * 24 * 3600
    for path in (*folder.glob("*.part"), *folder.glob("*.so"), *folder.glob("*.half")):
        if path.stat().st_mtime < old:
            path.unlink(missing_ok=True)


if __name__ == "__main__":
    if find_library() is None:
        build()
