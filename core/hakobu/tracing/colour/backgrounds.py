"""Lines drawn on several grounds, as ink with coloured fields beside it: put as if all of it were as light."""

from __future__ import annotations

import cv2
import numpy as np

#: Pixels about ink that show no ground alone.
ABOUT = 3
#: The ground differs where its lighter and its darker tenth lie apart by this share of the way from black to white.
DIFFERS = 0.08
#: The ground is looked at in about so many places for whether it differs.
LOOKED_AT = 20_000


def on_one_ground(grey: np.ndarray, limit: float, black: float, white: float) -> np.ndarray:
    """A picture (H, W) float32 with the ground beside each line as light as white, so that an edge tells its place
    alike on either side; itself where it has one ground."""
    from .kernels import background_level

    ink = (grey < limit).view(np.uint8)
    near = cv2.dilate(ink, np.ones((2 * ABOUT + 1, 2 * ABOUT + 1), np.uint8))
    step = max(int((grey.size / LOOKED_AT) ** 0.5), 1)
    some = grey[::step, ::step][near[::step, ::step] == 0]
    if len(some) < 10:
        return grey
    dark, light = np.quantile(some, (0.1, 0.9))
    if light - dark < DIFFERS * (white - black):
        return grey
    return background_level.on_one_ground(grey, near, limit, black, white)
