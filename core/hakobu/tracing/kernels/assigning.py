"""Which colour each pixel belongs to. At an edge pixels are mixtures of both sides: such a one belongs to the side that
it is nearer to, though some third colour may look like it."""

from __future__ import annotations

import numpy as np

from ...geometry.compiled import kernel

#: Boxes along each side of sRGB for which the nearest colour is looked up: 5 bits.
SHIFT, SIDE = 3, 32
#: Pixels to each side within which the two sides of an edge are looked for, one after the other.
FAR = 4


@kernel("u1[::1](f8[:, ::1], f8[:, ::1])")
def nearest_table(lab, colours):
    """The nearest of colours (K, 3) to the middle of each box (32768, 3)."""
    found = np.zeros(len(lab), np.uint8)
    for i in range(len(lab)):
        best = np.inf
        for k in range(len(colours)):
            d = 0.0
            for j in range(3):
                d += (lab[i, j] - colours[k, j]) ** 2
            if d < best:
                best = d
                found[i] = k
    return found


@kernel("i8(Array(u1, 3, 'C', readonly=True), i8, i8, i8, i8)")
def differs(rgb, r, c, y, x):
    most = 0
    for k in range(3):
        most = max(most, abs(np.int64(rgb[r, c, k]) - np.int64(rgb[y, x, k])))
    return most


@kernel(
    "void(Array(u1, 3, 'C', readonly=True), u1[::1], Array(f8, 2, 'C', readonly=True), i8, i8, i8, u1[:, ::1],"
    " b1[:, ::1])"
)
def first_labels(rgb, table, colours, tolerance, first, last, labels, sure):
    """The nearest colour of each pixel of rows first to last, and whether it is so for sure: where its neighbours are
    alike, or it lies between no two of them. colours (K, 3) of 255."""
    height, width = rgb.shape[:2]
    for r in range(first, last):
        for c in range(width):
            box = (np.int64(rgb[r, c, 0]) >> SHIFT) * SIDE * SIDE
            box += (np.int64(rgb[r, c, 1]) >> SHIFT) * SIDE + (np.int64(rgb[r, c, 2]) >> SHIFT)
            labels[r, c] = table[box]
            good = True
            for way in range(2):
                y0, x0 = (r - 1, c) if way == 0 else (r, c - 1)
                y1, x1 = (r + 1, c) if way == 0 else (r, c + 1)
                y0, x0 = max(y0, 0), max(x0, 0)
                y1, x1 = min(y1, height - 1), min(x1, width - 1)
                whole = differs(rgb, y0, x0, y1, x1)
                if whole <= tolerance:
                    continue
                one, other = differs(rgb, r, c, y0, x0), differs(rgb, r, c, y1, x1)
                # Between its neighbours: a mixture of the two sides of an edge.
                if one > tolerance // 2 and other > tolerance // 2 and one < whole and other < whole:
                    good = False
                elif max(one, other) > tolerance and min(one, other) > tolerance // 3:
                    good = False
            if good:
                k = labels[r, c]
                far = 0.0
                for j in range(3):
                    far = max(far, abs(np.float64(rgb[r, c, j]) - colours[k, j]))
                good = far < 4 * tolerance
            sure[r, c] = good


@kernel(
    "void(Array(u1, 3, 'C', readonly=True), Array(f8, 2, 'C', readonly=True), u1[:, ::1], b1[:, ::1], i8, i8)"
)
def settle(rgb, colours, labels, sure, first, last):
    """Pixels that are not sure take the nearest of the colours that are sure about them."""
    height, width = labels.shape
    for r in range(first, last):
        for c in range(width):
            if sure[r, c]:
                continue
            best, which = np.inf, -1
            for reach in range(1, FAR + 1):
                for i in range(-reach, reach + 1):
                    for j in range(-reach, reach + 1):
                        if max(abs(i), abs(j)) != reach:
                            continue
                        y, x = r + i, c + j
                        if y < 0 or x < 0 or y >= height or x >= width or not sure[y, x]:
                            continue
                        k = labels[y, x]
                        if k == which:
                            continue
                        d = 0.0
                        for q in range(3):
                            d += (np.float64(rgb[r, c, q]) - colours[k, q]) ** 2
                        if d < best:
                            best, which = d, k
                # The other side of the edge may lie one pixel farther off.
                if which >= 0 and reach >= 2:
                    break
            if which >= 0:
                labels[r, c] = which


@kernel("Tuple((i4[:, ::1], i8[::1], i8[::1], i4[::1], i4[::1]))(u1[:, ::1])")
def components(labels):
    """Pixels of one label that hang together by sides: the number of each (H, W), its area, its first pixel as a raster
    index, its label, and the label that it borders on most (N,)."""
    height, width = labels.shape
    number = np.empty((height, width), np.int32)
    parent = np.empty(height * width, np.int32)
    count = np.int32(0)
    for r in range(height):
        for c in range(width):
            v = labels[r, c]
            left = c > 0 and labels[r, c - 1] == v
            up = r > 0 and labels[r - 1, c] == v
            if left:
                k = number[r, c - 1]
                if up:
                    a, b = k, number[r - 1, c]
                    if a != b:
                        while parent[a] != a:
                            parent[a] = parent[parent[a]]
                            a = parent[a]
                        while parent[b] != b:
                            parent[b] = parent[parent[b]]
                            b = parent[b]
                        if a < b:
                            parent[b] = a
                        else:
                            parent[a] = b
            elif up:
                k = number[r - 1, c]
            else:
                k = count
                parent[count] = count
                count += 1
            number[r, c] = k
    final = np.empty(count, np.int32)
    total = 0
    for i in range(count):
        a = np.int32(i)
        while parent[a] != a:
            a = parent[a]
        if a == i:
            final[i] = total
            total += 1
        else:
            final[i] = final[a]
    area, first = np.zeros(total, np.int64), np.full(total, -1, np.int64)
    label, beside = np.zeros(total, np.int32), np.full(total, -1, np.int32)
    for r in range(height):
        for c in range(width):
            k = final[number[r, c]]
            number[r, c] = k
            if area[k] == 0:
                first[k] = r * width + c
                label[k] = labels[r, c]
            area[k] += 1
    return number, area, first, label, beside


@kernel("i8(u1[:, ::1], i4[:, ::1], i8[::1], f8)")
def absorb(labels, number, area, smallest):
    """Components smaller than that take the label that most of their border pixels lie against, of components that are
    not smaller than they; how many were."""
    height, width = labels.shape
    small = area < smallest
    votes = np.zeros((len(area), 2), np.int64)
    # Majority vote (Boyer and Moore 1981): one pass, the label that most neighbours have.
    for r in range(height):
        for c in range(width):
            k = number[r, c]
            if not small[k]:
                continue
            for way in range(4):
                y = r + (1 if way == 0 else (-1 if way == 1 else 0))
                x = c + (1 if way == 2 else (-1 if way == 3 else 0))
                if y < 0 or x < 0 or y >= height or x >= width or number[y, x] == k:
                    continue
                if small[number[y, x]] and area[number[y, x]] <= area[k]:
                    continue
                other = labels[y, x]
                if votes[k, 1] == 0:
                    votes[k, 0], votes[k, 1] = other, 1
                elif votes[k, 0] == other:
                    votes[k, 1] += 1
                else:
                    votes[k, 1] -= 1
    gone = 0
    for k in range(len(area)):
        gone += small[k] and votes[k, 1] > 0
    for r in range(height):
        for c in range(width):
            k = number[r, c]
            if small[k] and votes[k, 1] > 0:
                labels[r, c] = votes[k, 0]
    return gone
