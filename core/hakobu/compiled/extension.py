"""The extension module around compiled parts: numba's runtime in C, the table of kernels, and the linking."""

from __future__ import annotations

import os
import tempfile
import warnings
from pathlib import Path

from llvmlite import ir
from numba.core.cgutils import create_constant_array
from numba.core.compiler_lock import global_compiler_lock
from numba.core.errors import NumbaPendingDeprecationWarning

from .library import MODULE
from .part import Part

with warnings.catch_warnings():
    # numba keeps this compiler without developing it further; the versions are locked.
    warnings.simplefilter("ignore", NumbaPendingDeprecationWarning)
    from numba.pycc import llvm_types
    from numba.pycc.cc import CC
    from numba.pycc.compiler import ExportEntry, ModuleCompiler

#: PyObject *wrapper(closure, arguments, keywords).
WRAPPER = ir.FunctionType(llvm_types._void_star, [llvm_types._void_star] * 3)


class TableCompiler(ModuleCompiler):
    """Compiles the module's initialisation, with a table of the wrappers that parts hold."""

    def __init__(self, parts: list[Part]) -> None:
        super().__init__([], MODULE, use_nrt=True, cpu_name="host")
        self.external_init_function = f"pycc_init_{MODULE}"
        wrappers = [wrapper for part in parts for wrapper in part.wrappers]
        self.export_entries = [ExportEntry(symbol, None, None) for symbol, _, _ in wrappers]
        self.exported_function_types = dict.fromkeys(self.export_entries, WRAPPER)
        self._constants = [(place, values) for _, place, values in wrappers]
        self._constants += [each for part in parts for each in part.constants]

    def _cull_exports(self):
        """The parts hold the functions; what is left is the table."""
        library = self.context.codegen().create_library(self.module_name)
        module = library.create_ir_module("table")
        self._emit_python_wrapper(module)
        library.add_ir_module(module)
        library.finalize()
        return library

    def _mangle_method_symbol(self, func_name):
        return f"hakobu.wrapper.{func_name}"

    def _emit_environment_array(self, llvm_module, builder, pyapi):
        return self._constant_array(
            llvm_module, ".module_environments", self.env_def_ty,
            [pyapi.serialize_uncached(values) for _, values in self._constants],
        )  # fmt: skip

    def _emit_envgvs_array(self, llvm_module, builder, pyapi):
        pointers = [
            self.context.declare_env_global(llvm_module, place).bitcast(llvm_types._void_star)
            for place, _ in self._constants
        ]
        return self._constant_array(
            llvm_module, ".module_envgvs", llvm_types._void_star, [*pointers, llvm_types._void_star(None)]
        )

    def _constant_array(self, llvm_module, name: str, kind, values: list):
        array = create_constant_array(kind, values)
        zero = ir.Constant(llvm_types._int32, 0)
        return self.context.insert_unique_const(llvm_module, name, array).gep([zero, zero])


def compile_table(parts: list[Part]) -> bytes:
    """The object code of the module's initialisation."""
    with global_compiler_lock:
        return TableCompiler(parts)._cull_exports().emit_native_object()


def compile_runtime() -> dict[str, bytes]:
    """The object files of numba's runtime, compiled by the C compiler: names and contents."""
    with tempfile.TemporaryDirectory() as folder:
        # The paths of sources are absolute, and objects lie below the folder by them.
        objects = _compiler()._compile_mixins(folder)
        return {Path(name).name: Path(name).read_bytes() for name in objects}


def link(objects: list[bytes], output: Path) -> None:
    """Links object files into the extension module; it is whole as soon as it is there."""
    toolchain = _compiler()._toolchain
    with tempfile.TemporaryDirectory() as folder:
        names = []
        for number, code in enumerate(objects):
            names.append(os.path.join(folder, f"{number}.o"))
            Path(names[-1]).write_bytes(code)
        half = output.with_suffix(".half")
        toolchain.link_shared(
            str(half), names, toolchain.get_python_libraries(), toolchain.get_python_library_dirs(),
            export_symbols=[f"PyInit_{MODULE}"], extra_ldflags=["-pthread"],
        )  # fmt: skip
        half.rename(output)


def _compiler() -> CC:
    return CC(MODULE, source_module=__import__(__name__, fromlist=["MODULE"]))
