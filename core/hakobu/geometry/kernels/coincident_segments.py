"""Segments that are the same to the bit, in one direction or the other."""

from __future__ import annotations

import numpy as np

from ...compiled import kernel
from .noding import hash_of

#: The order of the eight coordinates when a segment is run the other way.
BACK = (6, 7, 4, 5, 2, 3, 0, 1)


@kernel(
    "b1(Array(i8, 2, 'C', readonly=True), Array(u1, 1, 'C', readonly=True), Array(f8, 1, 'C', readonly=True), i8, i8,"
    " b1)"
)
def is_twin(bits, kind, bulge, i, j, back):
    if kind[i] != kind[j] or bulge[i] != (-bulge[j] if back else bulge[j]):
        return False
    same = True
    for c in range(8):
        same = same and bits[i, c] == bits[j, BACK[c] if back else c]
    return same


@kernel(
    "Tuple((i8[::1], b1[::1]))(Array(i8, 2, 'C', readonly=True), Array(u1, 1, 'C', readonly=True),"
    " Array(f8, 1, 'C', readonly=True), b1[::1])"
)
def coincident_segments(bits, kind, bulge, alone):
    """The first of those that are the same as each segment (M,), and whether it runs the other way. bits (M, 8): of the
    control points; alone (M,): segments that are never the same as another."""
    n = len(bits)
    size = 16
    while size < 3 * n:
        size *= 2
    mask = np.uint64(size - 1)
    slot = np.full(size, -1, np.int64)
    lead, back = np.arange(n), np.zeros(n, np.bool_)
    for i in range(n):
        if alone[i]:
            continue
        # The same for both directions.
        key = hash_of(bits[i, 0] + bits[i, 6], bits[i, 1] + bits[i, 7]) ^ hash_of(bits[i, 2] + bits[i, 4], kind[i])
        k = key & mask
        while slot[k] >= 0:
            j = slot[k]
            if is_twin(bits, kind, bulge, i, j, False):
                lead[i] = j
                break
            if is_twin(bits, kind, bulge, i, j, True):
                lead[i], back[i] = j, True
                break
            k = (k + np.uint64(1)) & mask
        else:
            slot[k] = i
    return lead, back
