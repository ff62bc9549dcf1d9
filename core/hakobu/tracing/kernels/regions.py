"""Regions of ink: pixels that hang together by sides or corners, with their areas and their darkest pixels.

Two passes with union-find (Rosenfeld and Pfaltz 1966; Wu, Otoo and Suzuki 2009 for the order of the looks).
"""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel


@kernel("i4(i4[::1], i4)")
def root(parent, i):
    while parent[i] != i:
        parent[i] = parent[parent[i]]
        i = parent[i]
    return i


@kernel("i4(i4[::1], i4, i4)")
def union(parent, a, b):
    a = root(parent, a)
    b = root(parent, b)
    if a < b:
        parent[b] = a
        return a
    parent[a] = b
    return b


@kernel("Tuple((i4[:, ::1], i8[::1], i8[::1]))(Array(f4, 2, 'C', readonly=True), f8)")
def label(grey, limit):
    """Labels from 1 on for pixels below the limit, (H, W); areas in pixels and raster index of the darkest pixel
    of each label, (n+1,), the first of equals."""
    height, width = grey.shape
    labels = np.zeros((height, width), np.int32)
    parent = np.zeros(height * ((width + 1) // 2) + 2, np.int32)
    count = np.int32(0)
    for r in range(height):
        for c in range(width):
            if not grey[r, c] < limit:
                continue
            here = np.int32(0)
            if r > 0 and labels[r - 1, c]:
                here = labels[r - 1, c]
            else:
                if c > 0 and labels[r, c - 1]:
                    here = labels[r, c - 1]
                elif r > 0 and c > 0 and labels[r - 1, c - 1]:
                    here = labels[r - 1, c - 1]
                if r > 0 and c + 1 < width and labels[r - 1, c + 1]:
                    right = labels[r - 1, c + 1]
                    here = union(parent, here, right) if here else right
            if not here:
                count += 1
                parent[count] = count
                here = count
            labels[r, c] = here
    final = np.zeros(count + 1, np.int32)
    regions = 0
    for i in range(1, count + 1):
        if parent[i] == i:
            regions += 1
            final[i] = regions
    for i in range(1, count + 1):
        final[i] = final[root(parent, np.int32(i))]
    area = np.zeros(regions + 1, np.int64)
    darkest = np.full(regions + 1, -1, np.int64)
    least = np.full(regions + 1, np.inf)
    for r in range(height):
        for c in range(width):
            if labels[r, c]:
                here = final[labels[r, c]]
                labels[r, c] = here
                area[here] += 1
                if grey[r, c] < least[here]:
                    least[here] = grey[r, c]
                    darkest[here] = r * width + c
    return labels, area, darkest


@kernel("void(i4[:, ::1], Array(b1, 1, 'C', readonly=True))")
def keep_only(labels, kept):
    """Clears the labels that are not kept."""
    height, width = labels.shape
    for r in range(height):
        for c in range(width):
            if labels[r, c] and not kept[labels[r, c]]:
                labels[r, c] = 0
