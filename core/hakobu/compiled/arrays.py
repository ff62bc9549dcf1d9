"""Arrays are checked where Python hands them to a kernel.

numba's own conversion checks the number of bytes of an element only, since its dispatcher has looked at the types
before. Compiled ahead, there is no dispatcher: an array of another type, order or number of dimensions would be read
as garbage, and a read-only one would be written to. What is read here are the public fields of NumPy's C structures
PyArrayObject_fields and PyArray_Descr (NumPy 2 C API, "Python types and C-structures").
"""

from __future__ import annotations

from llvmlite import ir
from numba.core import boxing, cgutils, pythonapi, types
from numba.extending import NativeValue
from numba.np.numpy_support import as_dtype

BYTE, INT, WORD = ir.IntType(8), ir.IntType(32), ir.IntType(64)
POINTER = BYTE.as_pointer()
#: PyArrayObject_fields: head (count, type), data, nd, dimensions, strides, base, descr, flags.
ARRAY = ir.LiteralStructType([WORD, POINTER, POINTER, INT, POINTER, POINTER, POINTER, POINTER, INT])
DIMENSIONS, DESCRIPTION, FLAGS = 3, 7, 8
#: PyArray_Descr: head (count, type), typeobj, kind.
TYPE = ir.LiteralStructType([WORD, POINTER, POINTER, BYTE])
KIND = 3
#: NPY_ARRAY_C_CONTIGUOUS, NPY_ARRAY_ALIGNED, NPY_ARRAY_WRITEABLE.
C_ORDER, ALIGNED, WRITABLE = 0x1, 0x100, 0x400


def install() -> None:
    """Replaces numba's conversion of arrays for what is compiled from now on in this process."""
    # numba's own is registered when this is imported, and refuses a second one.
    assert boxing.unbox_array
    pythonapi._unboxers.functions[types.Array] = unbox_checked


def unbox_checked(typ: types.Array, obj, c) -> NativeValue:
    """Convert a NumPy array to a native one; TypeError where it is not just what the signature says."""
    builder = c.builder
    native = c.context.make_array(typ)(c.context, builder)
    pointer = native._getpointer()
    error = c.pyapi.nrt_adapt_ndarray_from_python(obj, builder.bitcast(pointer, c.pyapi.voidptr))
    failed = cgutils.alloca_once_value(builder, cgutils.is_not_null(builder, error))
    # Only what is an array has the fields.
    with builder.if_then(builder.not_(builder.load(failed)), likely=True):
        misfit = builder.not_(_fits(builder, typ, obj, native))
        builder.store(misfit, failed)
        with builder.if_then(misfit, likely=False):
            # The conversion holds a reference by now.
            c.context.nrt.decref(builder, typ, builder.load(pointer))
    wrong = builder.load(failed)
    with builder.if_then(wrong, likely=False):
        c.pyapi.err_set_string("PyExc_TypeError", f"a kernel takes {describe(typ)} here")
    return NativeValue(builder.load(pointer), is_error=wrong)


def describe(typ: types.Array) -> str:
    order = "C-ordered " if typ.layout == "C" else ""
    access = "writable " if typ.mutable else ""
    return f"a {access}{order}array of {typ.dtype} in {typ.ndim} dimension{'s' if typ.ndim > 1 else ''}"


def _fits(builder: ir.IRBuilder, typ: types.Array, obj, native):
    dtype = as_dtype(typ.dtype)
    array = builder.bitcast(obj, ARRAY.as_pointer())
    description = builder.bitcast(_field(builder, array, DESCRIPTION), TYPE.as_pointer())
    needed = ALIGNED | (C_ORDER if typ.layout == "C" else 0) | (WRITABLE if typ.mutable else 0)
    checks = [
        builder.icmp_signed("==", builder.and_(_field(builder, array, FLAGS), INT(needed)), INT(needed)),
        builder.icmp_signed("==", _field(builder, array, DIMENSIONS), INT(typ.ndim)),
        builder.icmp_signed("==", _field(builder, description, KIND), BYTE(ord(dtype.kind))),
        builder.icmp_signed("==", native.itemsize, native.itemsize.type(dtype.itemsize)),
    ]
    fits = checks[0]
    for check in checks[1:]:
        fits = builder.and_(fits, check)
    return fits


def _field(builder: ir.IRBuilder, structure, index: int):
    return builder.load(builder.gep(structure, [INT(0), INT(index)]))
