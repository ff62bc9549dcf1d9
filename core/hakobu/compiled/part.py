"""One file of kernels compiled to an object file, with numba.

numba compiles a function together with copies of all that it calls, for each caller anew. Here signatures are explicit,
so a kernel is known to its callers by its signature and a symbol alone: each is typed and optimised once, files are
compiled side by side, and the linker brings them together.
"""

# numba states no types for its inside, which this file works with.
# pyright: reportAttributeAccessIssue=false, reportPrivateImportUsage=false, reportOptionalCall=false

from __future__ import annotations

import sys
from collections.abc import Callable
from dataclasses import dataclass, field
from importlib import import_module
from pathlib import Path
from types import ModuleType

from llvmlite import ir
from numba.core import cgutils, cpu, funcdesc, sigutils, types, typing
from numba.core.codegen import AOTCodeLibrary, AOTCPUCodegen
from numba.core.compiler import Flags, compile_extra
from numba.core.compiler_lock import global_compiler_lock
from numba.core.environment import lookup_environment
from numba.core.imputils import lower_builtin
from numba.core.registry import cpu_target
from numba.core.typing.templates import AbstractTemplate, ConcreteTemplate, infer_global, signature

import hakobu.compiled as kernels

from . import arrays
from .sources import CORE, kernel_sources, module_name

#: What the optimiser may do with sums that may be taken in any order.
SUMS = {"reassoc", "contract", "nsz"}
#: How numba names the globals that point to a function's constants.
ENVIRONMENT = "_ZN08NumbaEnv"
#: What the symbols and libraries of kernels begin with.
OWN = "hakobu."


@dataclass(frozen=True)
class Entry:
    """A kernel for one signature, under the symbol that its callers link to."""

    symbol: str
    function: Callable
    signature: typing.Signature
    any_order: bool


@dataclass
class Part:
    """A compiled file: its object code; for each kernel the symbol of its Python wrapper, of the global that points to
    its constants, and these; the same of what numba's own functions need."""

    code: bytes
    wrappers: list[tuple[str, str, list]] = field(default_factory=list)
    constants: list[tuple[str, list]] = field(default_factory=list)


class PartLibrary(AOTCodeLibrary):
    """Of what was linked in, only the kernels stay visible: numba's own functions are named by a counter that differs
    from process to process, and must not meet those of other parts."""

    def _optimize_final_module(self):
        # numba makes libraries of its own of this class as well, which are linked into ours.
        if self.name.startswith(OWN):
            self._isolate()
        super()._optimize_final_module()

    def _isolate(self) -> None:
        for function in self._final_module.functions:
            if function.name.startswith(OWN):
                function.visibility = "hidden"
            elif not function.is_declaration:
                function.linkage = "internal"


class PartCodegen(AOTCPUCodegen):
    _library_class = PartLibrary


class Compiler:
    """Compiles files of kernels, one after the other, in one process."""

    def __init__(self) -> None:
        self.entries: dict[str, list[Entry]] = {}
        kernels.recorder = self.record
        arrays.install()
        _declare_prefetch()
        # The rooms themselves need not be loaded, nor what they stand on.
        for room in {room for source in kernel_sources() for room in source.parents[1:] if CORE in room.parents}:
            sys.modules.setdefault(".".join(("hakobu", *room.relative_to(CORE).parts)), _bare(room))

    def record(self, function: Callable, signatures: list[str], any_order: bool) -> Callable:
        """Makes a kernel callable by its signatures from those that are compiled."""
        cases = []
        for i, text in enumerate(signatures):
            arguments, result = sigutils.normalize_signature(text)
            case = typing.signature(result, *arguments)
            entry = Entry(f"{function.__module__}.{function.__name__}.{i}", function, case, any_order)
            self.entries.setdefault(function.__module__, []).append(entry)
            lower_builtin(function, *arguments)(_call_to(entry))
            cases.append(case)
        template = type(function.__name__, (ConcreteTemplate,), {"key": function, "cases": cases})
        infer_global(function, types.Function(template))
        return function

    def load(self, source: Path) -> list[Entry]:
        name = module_name(source)
        import_module(name)
        return self.entries[name]

    @global_compiler_lock
    def compile(self, source: Path) -> Part:
        entries = self.load(source)
        cpu_target.typing_context.refresh()
        cpu_target.target_context.refresh()
        context = self._target()
        library = context.codegen().create_library(module_name(source))
        part = Part(b"")
        for entry in entries:
            compiled = compile_extra(
                cpu_target.typing_context, context, entry.function, entry.signature.args,
                entry.signature.return_type, _flags(entry), locals={}, library=library,
            )  # fmt: skip
            module, about = library._final_module, compiled.fndesc
            module.get_function(about.llvm_func_name).name = entry.symbol
            module.get_function(about.llvm_cpython_wrapper_name).name = f"hakobu.wrapper.{entry.symbol}"
            place = f"{entry.symbol}.constants"
            module.get_global_variable(about.env_name).name = place
            part.wrappers.append((entry.symbol, place, list(compiled.environment.consts)))
        library.finalize()
        part.constants = _constants_of(library, module_name(source))
        part.code = library.emit_native_object()
        return part

    def _target(self):
        if not hasattr(self, "_context"):
            codegen = PartCodegen("hakobu", cpu_name="host")
            self._context = cpu_target.target_context.subtarget(
                _internal_codegen=codegen, aot_mode=True, get_c_value=_c_value
            )
        return self._context


def _bare(folder: Path) -> ModuleType:
    module = ModuleType(".".join(("hakobu", *folder.relative_to(CORE).parts)))
    module.__path__ = [str(folder)]
    return module


def _c_value(builder: ir.IRBuilder, kind: ir.Type, name: str, dllimport: bool = False):
    """A global of the interpreter. An exception's is a pointer to the object: numba takes its address for the object,
    which is what its JIT, but no linker, binds the name to."""
    module = builder.function.module
    variable = module.globals.get(name) or cgutils.add_global_variable(module, kind, name)
    if name.startswith("PyExc_"):
        return builder.load(builder.bitcast(variable, kind.as_pointer().as_pointer()))
    return variable


def _flags(entry: Entry) -> Flags:
    flags = Flags()
    flags.no_compile = True
    flags.nrt = True
    flags.release_gil = True
    flags.error_model = "numpy"
    flags.no_cfunc_wrapper = True
    if entry.any_order:
        flags.fastmath = cpu.FastMathOptions(SUMS)
    return flags


def _call_to(entry: Entry) -> Callable:
    """How a call to a kernel is compiled: to its symbol, by numba's own calling convention."""
    case = entry.signature
    about = funcdesc.ExternalFunctionDescriptor(entry.symbol, case.return_type, tuple(case.args))

    def call(context, builder, _, values):
        return context.call_internal(builder, about, case, values)

    return call


def _constants_of(library: PartLibrary, name: str) -> list[tuple[str, list]]:
    """The constants of numba's own functions that were linked in, under names that no other part uses."""
    found = []
    for variable in list(library._final_module.global_variables):
        if variable.name.startswith(ENVIRONMENT):
            environment = lookup_environment(variable.name)
            if environment is not None and environment.can_cache():
                variable.name = f"{name}.inner.{len(found)}.constants"
                found.append((variable.name, list(environment.consts)))
    return found


def _declare_prefetch() -> None:
    @infer_global(kernels.prefetch)
    class Prefetch(AbstractTemplate):
        key = kernels.prefetch

        def generic(self, arguments, _):
            return signature(types.void, arguments[0], types.int64)

    @lower_builtin(kernels.prefetch, types.Array, types.int64)
    def lower(context, builder, case, values):
        held = context.make_array(case.args[0])(context, builder, values[0])
        address = builder.bitcast(builder.gep(held.data, [values[1]]), ir.IntType(8).as_pointer())
        number = ir.IntType(32)
        kind = ir.FunctionType(ir.VoidType(), [address.type, number, number, number])
        # To read, kept near, data.
        builder.call(
            cgutils.get_or_insert_function(builder.module, kind, "llvm.prefetch.p0"),
            [address, number(0), number(3), number(1)],
        )
        return context.get_dummy_value()
