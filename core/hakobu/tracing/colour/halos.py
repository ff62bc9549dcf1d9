"""Fringes: thin bits along a border of two colours that look like a third, since what lies between two colours may pass
near another one. They are no areas of their own, and go to the two."""

from __future__ import annotations

import numpy as np

from ..outlines.edge_blur import GENTLE_COUNT
from .components import components

#: A bit is thin where no square of so many pixels lies in it, or of so many where colour steps gently.
CORE_PX, GENTLE_CORE_PX = 5, 7
#: Its pixels are of its colour where they lie nearer to it than this, of 255.
NEAR = 15.0
ROUNDS = 3
#: Where colour steps gently bits may hang on an area of their colour, as its points do. They are fringes where they lie
#: along the second of two colours with so many sides of pixels, and off their mixtures by so much of what they are off
#: their own.
HANGS_BESIDE, HANGS_SHARE = 8, 0.35
#: The label of what is not thin.
THICK = 255
#: Where colour steps gently, bits are of their own colour where they lie so far on the way to it from what is about
#: them: compression leaves waves beside steps, which may pass half the way to a near colour.
OWN_SHARE = 0.7


def without_fringes(labels: np.ndarray, picture: np.ndarray, colours: np.ndarray, gentle_colour: bool) -> None:
    """Labels (H, W) uint8, changed in place; picture (H, W, 3) float32 and colours (K, 3): brightness and
    differences of colour; gentle_colour: whether these step more gently than brightness, and count less for it."""
    for _ in range(ROUNDS):
        if not _some_gone(labels, picture, colours, gentle_colour):
            return


def _thin_bits(labels: np.ndarray, gentle_colour: bool) -> tuple[np.ndarray, ...]:
    """Labels (H, W) that differ from each bit to what is about it; the label of each thin bit (T,); and the row, the
    column and the bit of each of their pixels (P,)."""
    import cv2

    side = GENTLE_CORE_PX if gentle_colour else CORE_PX
    square = np.ones((side, side), np.uint8)
    core = cv2.erode(labels, square) == cv2.dilate(labels, square)
    if gentle_colour:
        thick = cv2.dilate(core.astype(np.uint8), square) > 0
        labels = np.where(thick, np.uint8(THICK), labels)
        found = components(labels)
        thin = found.label != THICK
    else:
        found = components(labels)
        thin = found.without(core)
    row, column, which = found.pixels(thin)
    return labels, found.label[thin], row, column, (np.cumsum(thin) - 1)[which]


def _some_gone(labels: np.ndarray, picture: np.ndarray, colours: np.ndarray, gentle_colour: bool) -> bool:
    bits, label, row, column, of = _thin_bits(labels, gentle_colour)
    if not len(label):
        return False
    beside = _beside(labels, bits, row, column, of, len(label), len(colours))
    every = np.arange(len(label))
    hangs = beside[every, label] > 0
    beside[every, label] = 0
    order = np.argsort(-beside, axis=1, kind="stable")
    one, other = order[:, 0], order[:, 1]
    pixels = picture[row, column].astype(np.float64)
    if gentle_colour:
        # As much of each as there is: a third colour may be as light as the two.
        whole = np.array([1.0, GENTLE_COUNT, GENTLE_COUNT])
        pixels, colours = pixels / whole, colours / whole
    off_own = np.linalg.norm(pixels - colours[label[of]], axis=1)
    off_mixed, share = _off_mixture(pixels, colours[one[of]], colours[other[of]], gentle_colour)
    count = np.bincount(of, minlength=len(label))
    own, mixed = (np.bincount(of, off, len(label)) / count for off in (off_own, off_mixed))
    along = beside[every, other] >= np.where(hangs, HANGS_BESIDE, 1)
    gone = along & (own > NEAR) & (mixed < np.where(hangs, HANGS_SHARE, 1.0) * own)
    if gentle_colour:
        way = _share(pixels - colours[one[of]], (colours[label] - colours[one])[of])
        wave = ~hangs & (beside[every, one] > 0) & (np.bincount(of, way, len(label)) / count < OWN_SHARE)
        gone |= wave
        share = np.where(wave[of], 0.0, share)
    at = gone[of]
    if not at.any():
        return False
    labels[row[at], column[at]] = np.where(share[at] < 0.5, one[of[at]], other[of[at]])
    return True


def _beside(labels, bits, row, column, of, count: int, colours: int) -> np.ndarray:
    """For each thin bit how many of its pixels' sides lie against each colour, (T, K). bits (H, W) differ from
    each bit to what is about it; row, column (P,) of the pixels, of (P,): the bit of each."""
    height, width = labels.shape
    found = np.zeros(count * colours, np.int64)
    for down, right in ((0, 1), (0, -1), (1, 0), (-1, 0)):
        y, x = row + down, column + right
        inside = (y >= 0) & (x >= 0) & (y < height) & (x < width)
        y, x, own = y[inside], x[inside], of[inside]
        other = bits[y, x] != bits[row[inside], column[inside]]
        found += np.bincount(own[other] * colours + labels[y, x][other], minlength=len(found))
    return found.reshape(count, colours)


def _off_mixture(
    pixels: np.ndarray, one: np.ndarray, other: np.ndarray, gentle_colour: bool
) -> tuple[np.ndarray, np.ndarray]:
    """How far pixels (P, 3) lie from all mixtures of two colours, and which share of the nearest is of the other."""
    along = other - one
    if not gentle_colour:
        share = _share(pixels - one, along)
        return np.linalg.norm(pixels - one - share[:, None] * along, axis=1), share
    # Brightness and colour are each mixed by a share of their own; the pixel is of the side that brightness tells,
    # where it does.
    off, shares = np.zeros(len(pixels)), []
    for part in (slice(0, 1), slice(1, 3)):
        shares.append(_share(pixels[:, part] - one[:, part], along[:, part]))
        rest = pixels[:, part] - one[:, part] - shares[-1][:, None] * along[:, part]
        off += (rest**2).sum(axis=1)
    told = np.abs(along[:, 0]) > GENTLE_COUNT * np.linalg.norm(along[:, 1:], axis=1)
    return np.sqrt(off), np.where(told, *shares)


def _share(off: np.ndarray, along: np.ndarray) -> np.ndarray:
    size = (along**2).sum(axis=1)
    return np.clip((off * along).sum(axis=1) / np.where(size > 0, size, 1), 0, 1)
