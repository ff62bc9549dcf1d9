"""What a photo is of, by marks inside it and beyond it: graph cuts over two mixtures of colours (GrabCut: Rother,
Kolmogorov and Blake 2004), its edge then laid where the picture's own edge is (guided filter: He, Sun, Tang 2013)."""

from __future__ import annotations

import numpy as np

from ...errors import CannotDo

#: Pixels that the cut is found among, rounds of it, and the width of a mark as a share of the longer side.
CUT_PX, ROUNDS, MARK_SHARE = 250_000, 5, 0.012
#: The edge follows the picture within so many pixels of the cut's; how even it is kept there.
GUIDE_PX, GUIDE_EVEN = 3, 1e-3


def subject_share(rgb: np.ndarray, inside: tuple[tuple[int, int], ...], beyond: tuple[tuple[int, int], ...]):
    """How much of each pixel of rgb (H, W, 3) uint8 is the subject, (H, W) float32 from 0 to 1. inside, beyond: pixels
    x, y that a person has marked. Raises CannotDo where they cannot part the picture."""
    import cv2

    height, width = rgb.shape[:2]
    if not inside:
        raise CannotDo("Mark the subject itself first: draw a stroke or two inside it.")
    shrink = min(1.0, (CUT_PX / (height * width)) ** 0.5)
    size = max(round(width * shrink), 8), max(round(height * shrink), 8)
    small = cv2.resize(rgb, size, interpolation=cv2.INTER_AREA)
    mask = np.full(small.shape[:2], cv2.GC_PR_BGD, np.uint8)
    about = np.array(inside, float)
    # Nearer the marks than the middle of the way to the rim, the subject is likelier than not.
    rows, columns = np.mgrid[: size[1], : size[0]]
    scale = np.array([size[0] / width, size[1] / height])
    low, high = (about * scale).min(axis=0), (about * scale).max(axis=0)
    grown = 0.5 * (high - low) + 0.08 * max(size)
    box = (np.abs(columns - (low[0] + high[0]) / 2) < (high[0] - low[0]) / 2 + grown[0]) & (
        np.abs(rows - (low[1] + high[1]) / 2) < (high[1] - low[1]) / 2 + grown[1]
    )
    mask[box] = cv2.GC_PR_FGD
    radius = max(round(MARK_SHARE * max(size)), 1)
    for places, value in ((beyond, cv2.GC_BGD), (inside, cv2.GC_FGD)):
        for x, y in places:
            at = int(min(max(x * scale[0], 0), size[0] - 1)), int(min(max(y * scale[1], 0), size[1] - 1))
            cv2.circle(mask, at, radius, int(value), -1)
    if not beyond:
        mask[:2] = mask[-2:] = mask[:, :2] = mask[:, -2:] = cv2.GC_BGD
    models = np.zeros((1, 65)), np.zeros((1, 65))
    cv2.setRNGSeed(1)
    try:
        cv2.grabCut(np.ascontiguousarray(small[..., ::-1]), mask, None, *models, ROUNDS, cv2.GC_INIT_WITH_MASK)  # pyright: ignore[reportArgumentType, reportCallIssue]
    except cv2.error as error:
        raise CannotDo("These marks do not part the subject from what is beyond it: mark some of both.") from error
    found = ((mask == cv2.GC_FGD) | (mask == cv2.GC_PR_FGD)).astype(np.float32)
    if not found.any() or found.all():
        raise CannotDo("These marks take all of the picture or none of it: mark what is beyond the subject too.")
    whole = cv2.resize(found, (width, height), interpolation=cv2.INTER_LINEAR)
    return np.ascontiguousarray(_guided(whole, rgb, GUIDE_PX / shrink), np.float32)


def _guided(share: np.ndarray, rgb: np.ndarray, radius: float) -> np.ndarray:
    """The share, its edge moved to where the picture's brightness changes."""
    import cv2

    side = 2 * int(np.ceil(radius)) + 1
    guide = np.ascontiguousarray(rgb.astype(np.float32).mean(axis=2) / 255)

    def mean(values: np.ndarray) -> np.ndarray:
        return cv2.blur(values, (side, side))

    g, s = mean(guide), mean(share)
    slope = (mean(guide * share) - g * s) / (mean(guide * guide) - g * g + GUIDE_EVEN)
    return np.clip(mean(slope) * guide + mean(s - slope * g), 0, 1)
