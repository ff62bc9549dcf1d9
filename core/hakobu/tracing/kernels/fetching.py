"""Pixels asked for before they are needed: where a line is followed through a picture that is larger than the
processor's caches, waiting for memory takes most of the time."""

from __future__ import annotations

from llvmlite import ir
from numba.core import types
from numba.extending import intrinsic

from ...geometry.compiled import kernel

#: What lies across an edge is asked for so many pixels to each side of it.
NEAR = 5


@intrinsic
def fetch(context, array, index):
    """Begins to bring an element of an array (N,) near; nothing waits for it, and nothing comes of it where there is
    no such element."""

    def made(target, builder, signature, values):
        held = target.make_array(signature.args[0])(target, builder, values[0])
        address = builder.bitcast(builder.gep(held.data, [values[1]]), ir.IntType(8).as_pointer())
        number = ir.IntType(32)
        kind = ir.FunctionType(ir.VoidType(), [address.type, number, number, number])
        name = "llvm.prefetch.p0"
        function = builder.module.globals.get(name) or ir.Function(builder.module, kind, name)
        builder.call(function, [address, number(0), number(3), number(1)])
        return target.get_dummy_value()

    return types.void(array, index), made


@kernel("void(Array(f4, 1, 'C', readonly=True), i8, i8, i8, i8)")
def ask_for(flat, width, r, c, way):
    """Asks for the pixels across a crack, of a way, of pixel r, c in a picture so wide, whose pixels lie row by row."""
    place = r * width + c
    if way & 1:
        fetch(flat, place - NEAR)
        fetch(flat, place + NEAR)
        return
    for k in range(-NEAR, NEAR + 1):
        fetch(flat, place + k * width)
