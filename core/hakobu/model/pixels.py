"""What is told of a picture by its pixels alone."""

from __future__ import annotations

import numpy as np

#: Pixels with more alpha are drawn; with all colours above, they are white; and so few others are specks.
OPAQUE, NEARLY_WHITE, WHITE_SHARE = 25, 230, 0.005


def white_on_clear(array: np.ndarray) -> bool:
    """Whether (H, W, 4) uint8 pixels show next to nothing on white paper, though something is drawn in them."""
    drawn = array[..., 3] > OPAQUE
    many = int(drawn.sum())
    if many == 0 or many == drawn.size:
        return False
    dark = array[..., :3].min(axis=2)[drawn] < NEARLY_WHITE
    return bool(dark.sum() < WHITE_SHARE * many)


def with_dark_ink(array: np.ndarray) -> np.ndarray:
    """The picture (H, W, 4) uint8; what is white on a clear ground as black on it, for the ground is what is clear."""
    if array[..., 3].min(initial=255) == 255 or not white_on_clear(array):
        return array
    return np.concatenate([255 - array[..., :3], array[..., 3:]], axis=2)
