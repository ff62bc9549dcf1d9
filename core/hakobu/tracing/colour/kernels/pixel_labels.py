"""Which colour each pixel belongs to. At an edge pixels are mixtures of both sides: such a one belongs to the side that
it is nearer to, though some third colour may look like it."""

from __future__ import annotations

import numpy as np

from ....compiled import kernel
from ....geometry.kernels.curves import length

#: Boxes along each side of sRGB for which the nearest colour is looked up: 5 bits.
SHIFT, SIDE = 3, 32
#: Pixels to each side within which the two sides of an edge are looked for, one after the other.
FAR = 4
#: Pixels of a row that are looked at together for whether anything changes about them.
TOGETHER = 32
SPAN = 3 * TOGETHER


@kernel("u1[::1](Array(f8, 2, 'C', readonly=True), f8[:, ::1])")
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


@kernel("void(Array(u1, 3, 'C', readonly=True), u1[::1], i8, i8, u1[:, ::1])")
def nearest_labels(rgb, table, first, last, labels):
    """The nearest colour of each pixel of rows first to before last."""
    for r in range(first, last):
        for c in range(rgb.shape[1]):
            box = (np.int64(rgb[r, c, 0]) >> SHIFT) * SIDE * SIDE
            box += (np.int64(rgb[r, c, 1]) >> SHIFT) * SIDE + (np.int64(rgb[r, c, 2]) >> SHIFT)
            labels[r, c] = table[box]


@kernel("void(Array(u1, 3, 'C', readonly=True), f4, i8, i8, f4[:, :, ::1])")
def seen(rgb, count, first, last, out):
    """Rows first to before last of a picture as brightness and two differences of colour (JFIF's, after ITU-R BT.601),
    which count so much beside it."""
    for r in range(first, last):
        for c in range(rgb.shape[1]):
            red, green, blue = np.float32(rgb[r, c, 0]), np.float32(rgb[r, c, 1]), np.float32(rgb[r, c, 2])
            y = np.float32(0.299) * red + np.float32(0.587) * green + np.float32(0.114) * blue
            out[r, c, 0] = y
            out[r, c, 1] = np.float32(0.564) * (blue - y) * count
            out[r, c, 2] = np.float32(0.713) * (red - y) * count


@kernel("f4(f4[:, :, ::1], i8, i8, i8, i8)")
def differs(picture, r, c, y, x):
    most = np.float32(0)
    for k in range(3):
        most = max(most, abs(picture[r, c, k] - picture[y, x, k]))
    return most


@kernel("b1(f4[:, :, ::1], f8, i8, i8)")
def between_two(picture, tolerance, r, c):
    """Whether a pixel lies between its neighbours to both sides, or above and below: a mixture of an edge's sides."""
    height, width = picture.shape[:2]
    for way in range(2):
        y0, x0 = (r - 1, c) if way == 0 else (r, c - 1)
        y1, x1 = (r + 1, c) if way == 0 else (r, c + 1)
        y0, x0 = max(y0, 0), max(x0, 0)
        y1, x1 = min(y1, height - 1), min(x1, width - 1)
        whole = differs(picture, y0, x0, y1, x1)
        if whole <= tolerance:
            continue
        one, other = differs(picture, r, c, y0, x0), differs(picture, r, c, y1, x1)
        if (one > tolerance / 2 and other > tolerance / 2 and one < whole and other < whole) or (
            max(one, other) > tolerance and min(one, other) > tolerance / 3
        ):
            return True
    return False


@kernel("b1(Array(u1, 2, 'C', readonly=True), i8, i8, i8)")
def is_even(rows, r, first, most):
    """Whether the bytes of some pixels of a picture's row, from one on, differ by no more than the most to both sides
    of each, and above and below it."""
    before, after = rows[r, first - 3 : first - 3 + SPAN], rows[r, first + 3 : first + 3 + SPAN]
    above, below = rows[max(r - 1, 0), first : first + SPAN], rows[min(r + 1, len(rows) - 1), first : first + SPAN]
    worst = np.uint8(0)
    for k in range(SPAN):
        a, b, c, d = before[k], after[k], above[k], below[k]
        aside, over = np.uint8(max(a, b) - min(a, b)), np.uint8(max(c, d) - min(c, d))
        worst = max(worst, max(aside, over))
    return np.int64(worst) <= most


@kernel("b1(Array(u1, 1, 'C', readonly=True), Array(u1, 1, 'C', readonly=True), i8)")
def is_near(own, colour, most):
    """Whether bytes (SPAN,) differ from a colour's by no more than the most."""
    worst = np.uint8(0)
    for k in range(SPAN):
        a, b = own[k], colour[k]
        worst = max(worst, np.uint8(max(a, b) - min(a, b)))
    return np.int64(worst) <= most


@kernel("b1(u1[::1])")
def is_one(labels):
    """Whether labels (TOGETHER,) are all the same."""
    differ = np.uint8(0)
    for k in range(TOGETHER):
        differ = np.uint8(differ | (labels[k] ^ labels[0]))
    return differ == 0


@kernel(
    "void(Array(u1, 2, 'C', readonly=True), u1[:, ::1], f4[:, :, ::1], Array(f8, 2, 'C', readonly=True), f8, i8, i8,"
    " u1[:, ::1], b1[:, ::1])"
)
def label_pixels(rows, nearest, picture, colours, tolerance, first, last, labels, sure):
    """Of which pixels of rows first to before last the nearest colour is theirs for sure: where they are near to it,
    and lie between no two neighbours that differ. rows (H, 3W): sRGB; nearest (K, SPAN): each colour in whole bytes,
    again and again; colours (K, 3) as the picture is seen."""
    width = labels.shape[1]
    for r in range(first, last):
        for b in range(0, width, TOGETHER):
            end = min(b + TOGETHER, width)
            # Neither brightness nor a difference of colour changes by more than the most of red, green and blue.
            even = b > 0 and b + TOGETHER < width and is_even(rows, r, 3 * b, np.int64(tolerance))
            if even and is_one(labels[r, b:end]):
                own = rows[r, 3 * b : 3 * end]
                if is_near(own, nearest[labels[r, b]], np.int64(2 * tolerance) - 1):
                    sure[r, b:end] = True
                    continue
            for c in range(b, end):
                k = labels[r, c]
                far = 0.0
                for j in range(3):
                    far = max(far, abs(picture[r, c, j] - colours[k, j]))
                sure[r, c] = far < 2 * tolerance and (even or not between_two(picture, tolerance, r, c))


@kernel("Tuple((f8, f8))(f4[:, :, ::1], i8, i8)")
def steepest(picture, r, c):
    """The direction across an edge, by the differences of the channel that changes most; 0, 0 where none does."""
    height, width = picture.shape[:2]
    up, down, left, right = max(r - 1, 0), min(r + 1, height - 1), max(c - 1, 0), min(c + 1, width - 1)
    best, gx, gy = 0.0, 0.0, 0.0
    for k in range(3):
        x = y = 0.0
        for i, weight in ((-1, 1.0), (0, 2.0), (1, 1.0)):
            a, b = min(max(r + i, 0), height - 1), min(max(c + i, 0), width - 1)
            x += weight * (picture[a, right, k] - picture[a, left, k])
            y += weight * (picture[down, b, k] - picture[up, b, k])
        if x * x + y * y > best:
            best, gx, gy = x * x + y * y, x, y
    size = length(gx, gy)
    return (gx / size, gy / size) if size > 0 else (0.0, 0.0)


@kernel("f8(f4[:, :, ::1], Array(f8, 2, 'C', readonly=True), i8, i8, i8)")
def off_colour(picture, colours, r, c, k):
    d = 0.0
    for q in range(3):
        d += (picture[r, c, q] - colours[k, q]) ** 2
    return d


@kernel("void(f4[:, :, ::1], Array(f8, 2, 'C', readonly=True), u1[:, ::1], b1[:, ::1], i8, i8)")
def settle(picture, colours, labels, sure, first, last):
    """Pixels that are not sure take the nearer colour of the two sides of their edge; where these are not found, the
    nearest of the colours that are sure about them."""
    height, width = labels.shape
    for r in range(first, last):
        for c in range(width):
            if sure[r, c]:
                continue
            ux, uy = steepest(picture, r, c)
            found = np.full(2, -1)
            if ux != 0 or uy != 0:
                for side in range(2):
                    for step in range(1, FAR + 3):
                        sign = 1 if side == 0 else -1
                        y, x = r + round(sign * step * uy), c + round(sign * step * ux)
                        if y < 0 or x < 0 or y >= height or x >= width:
                            break
                        if sure[y, x]:
                            found[side] = labels[y, x]
                            break
            best, which = np.inf, -1
            if found[0] >= 0 and found[1] >= 0:
                for side in range(2):
                    d = off_colour(picture, colours, r, c, found[side])
                    if d < best:
                        best, which = d, found[side]
            # Where more than two meet, the third is next to it.
            for reach in range(1, FAR + 1):
                if which >= 0 and reach > 1:
                    break
                for i in range(-reach, reach + 1):
                    for j in range(-reach, reach + 1):
                        if max(abs(i), abs(j)) != reach:
                            continue
                        y, x = r + i, c + j
                        if y < 0 or x < 0 or y >= height or x >= width or not sure[y, x]:
                            continue
                        k = np.int64(labels[y, x])
                        if k == which:
                            continue
                        d = off_colour(picture, colours, r, c, k)
                        if d < best:
                            best, which = d, k
            if which >= 0:
                labels[r, c] = which


@kernel("i8(u1[:, ::1], i4[:, ::1], i8[::1], b1[::1], i8[::1], i8[::1], i8[::1])")
def absorb(labels, number, area, small, rows, columns, which):
    """Components that are too small (N,) take the label that most of their border pixels lie against, of components
    that are not smaller than they; how many were. rows, columns, which (P,): their pixels, and the component of
    each."""
    height, width = labels.shape
    votes = np.zeros((len(area), 2), np.int64)
    # Majority vote (Boyer and Moore 1981): one pass, the label that most neighbours have.
    for i in range(len(rows)):
        r, c, k = rows[i], columns[i], which[i]
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
    for i in range(len(rows)):
        if votes[which[i], 1] > 0:
            labels[rows[i], columns[i]] = votes[which[i], 0]
    gone = 0
    for k in range(len(area)):
        gone += small[k] and votes[k, 1] > 0
    return gone
