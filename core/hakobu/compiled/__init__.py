"""Kernels: functions of arrays and numbers, compiled ahead of time into one extension module.

A kernel is written as a Python function in a folder `kernels/` of the room that it serves, with its signature
(numba's notation) in its decorator. `build.py` compiles all of them with numba; `library.py` loads what was built.
Running a kernel needs neither numba nor LLVM. This module loads nothing else, so that it costs nothing to import.
"""

from __future__ import annotations

from collections.abc import Callable

#: Set by the build to take the kernels in place of the built library. It is called with a function, its signatures and
#: whether sums may be reordered, and returns what the module's name is bound to.
recorder: Callable[[Callable, list[str], bool], Callable] | None = None


def kernel(signature: str | list[str], any_order: bool = False) -> Callable[[Callable], Callable]:
    """Decorate a kernel with its signature, or with several that differ in the types of arrays.

    A kernel runs without the interpreter's lock and takes positional arguments only. Arrays must have the type,
    dimensions and order that the signature states, and be writable unless it says `readonly`; else TypeError. There are
    no bounds checks. any_order: sums may be reordered so that they vectorise; their last bits are then not defined.
    Importing a module of kernels raises NotCompiled while they are not built.
    """
    signatures = [signature] if isinstance(signature, str) else signature

    def bind(function: Callable) -> Callable:
        if recorder is not None:
            return recorder(function, signatures, any_order)
        from .library import native

        return native(function, len(signatures))

    return bind


def prefetch(array, index) -> None:
    """Ask the processor to load an element of an array (N,) into its cache; in kernels only. It does not wait, and an
    index beyond the array does nothing."""
