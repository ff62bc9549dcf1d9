"""The pixels of a picture, upright, as they are and as a browser may show them."""

from __future__ import annotations

import io

import numpy as np

from ...model.errors import TooMuch, UnreadableFile
from ..budget import Budget

#: Exif orientations that swap width and height.
SIDEWAYS = (5, 6, 7, 8)
BROKEN = "The picture is damaged or breaks off before its end; save or scan it again."


def opened(data: bytes, budget: Budget):
    """The opened picture, not decoded yet, and whether it lies on its side. Raises TooMuch or UnreadableFile."""
    from PIL import Image

    # Our own limit comes with a sentence.
    Image.MAX_IMAGE_PIXELS = None
    try:
        image = Image.open(io.BytesIO(data), formats=("PNG", "JPEG"))
    except (OSError, SyntaxError, ValueError) as error:
        raise UnreadableFile("The picture is damaged at its beginning; save or scan it again.") from error
    width, height = image.size
    if width * height > budget.pixels:
        raise TooMuch(
            f"The picture has {width:,} x {height:,} pixels, and {budget.pixels // 10**6} million are the most that "
            "are read; scan it coarser or save it smaller (600 pixels an inch are enough for any cut)."
        )
    try:
        # A PNG may state it behind its pixels, so this can be where it breaks off.
        return image, image.getexif().get(274) in SIDEWAYS
    except (OSError, SyntaxError, ValueError) as error:
        raise UnreadableFile(BROKEN) from error


def pixels(image) -> np.ndarray:
    """(H, W, 4) uint8, sRGB with straight alpha, turned as its Exif says. Raises UnreadableFile where it breaks off."""
    from PIL import Image, ImageOps

    try:
        image.load()
        if image.mode.startswith("I"):
            deep = np.asarray(image).astype(np.float64)
            image = Image.fromarray(np.clip(np.rint(deep / 257), 0, 255).astype(np.uint8))
        upright = ImageOps.exif_transpose(image)
        return np.asarray(upright.convert("RGBA"))
    except (OSError, SyntaxError, ValueError) as error:
        raise UnreadableFile(BROKEN) from error


def decode(data: bytes, budget: Budget) -> np.ndarray:
    """The pixels of untrusted bytes, (H, W, 4) uint8; only ever called in the limited child process."""
    return pixels(opened(data, budget)[0])


def shown(data: bytes, budget: Budget, most_px: int) -> tuple[bytes, str]:
    """The picture for a browser, written anew from its pixels with the longer side at most so long; and its type."""
    from PIL import Image

    image = Image.fromarray(decode(data, budget))
    image.thumbnail((most_px, most_px), Image.Resampling.BOX)
    out = io.BytesIO()
    if image.getextrema()[3][0] == 255:
        image.convert("RGB").save(out, "JPEG", quality=88)
        return out.getvalue(), "image/jpeg"
    image.save(out, "PNG", compress_level=3)
    return out.getvalue(), "image/png"
