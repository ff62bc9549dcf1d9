"""The built library of kernels: found by the hash of its sources, loaded once."""

from __future__ import annotations

import fcntl
import json
import sys
import threading
from collections.abc import Callable
from functools import cache
from importlib.machinery import ExtensionFileLoader
from importlib.util import module_from_spec, spec_from_file_location
from pathlib import Path
from types import ModuleType

from ..errors import NotCompiled
from .sources import cache_folder, library_name

#: The name that the extension module has within.
MODULE = "hakobu_kernels"
#: How far a build is: {"done": parts, "of": parts}.
PROGRESS = "progress.json"
#: Held by a build while it runs.
LOCK = "lock"

_loading = threading.Lock()


def find_library() -> Path | None:
    """The library for the sources as they are: beside this file where it was installed, else in the cache folder."""
    name = library_name()
    places = (Path(__file__).with_name(name), cache_folder() / name)
    return next((place for place in places if place.exists()), None)


def load() -> ModuleType:
    """Load the library, once; every kernel is an attribute, by the name of its module and its own."""
    with _loading:
        return _load()


@cache
def _load() -> ModuleType:
    path = find_library()
    if path is None:
        raise NotCompiled(_explain())
    loader = ExtensionFileLoader(MODULE, str(path))
    spec = spec_from_file_location(MODULE, path, loader=loader)
    assert spec is not None, "a loader was given"
    module = module_from_spec(spec)
    loader.exec_module(module)
    sys.modules[MODULE] = module
    return module


def native(function: Callable, signatures: int) -> Callable:
    """The compiled form of a kernel: one built-in function, or one that picks by the types of arrays."""
    library, name = load(), f"{function.__module__}.{function.__name__}"
    forms = [getattr(library, f"{name}.{i}") for i in range(signatures)]
    return forms[0] if len(forms) == 1 else _overloaded(forms)


def _overloaded(forms: list[Callable]) -> Callable:
    def call(*arguments):
        for form in forms[:-1]:
            try:
                return form(*arguments)
            except TypeError:
                # Raised before the kernel runs, when arguments are converted; the last form's error is passed on.
                continue
        return forms[-1](*arguments)

    return call


def progress() -> tuple[int, int] | None:
    """Parts that are compiled and parts in all of a build that runs; None where none runs."""
    folder = cache_folder()
    try:
        state = json.loads((folder / PROGRESS).read_text())
        with open(folder / LOCK) as lock:
            fcntl.flock(lock, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except BlockingIOError:
        return state["done"], state["of"]
    except (OSError, ValueError):
        return None
    # A build that was ended in the middle has left its state, but not its lock.
    return None


def _explain() -> str:
    state = progress()
    if state is None:
        return "Hakobu's kernels are not compiled; run ./start, or python -m hakobu.compiled.build."
    done, parts = state
    return f"Hakobu is still being set up: {done} of {parts} parts are compiled. Try again in a minute."
