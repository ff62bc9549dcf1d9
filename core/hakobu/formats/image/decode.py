"""The pixels of a picture, upright, as they are and as a browser may show them."""

from __future__ import annotations

import io

import numpy as np

from ...errors import TooMuch, UnreadableFile
from ..budget import Budget

#: Exif orientations that swap width and height.
SIDEWAYS = (5, 6, 7, 8)
#: What Pillow may try; each has its line in FORMATS.
PILLOW = ("PNG", "JPEG", "TIFF", "GIF", "WEBP", "BMP")
BROKEN = "The picture is damaged or breaks off before its end; save or scan it again."


def opened(data: bytes, budget: Budget):
    """The opened picture, not decoded yet, and whether it lies on its side. Raises TooMuch or UnreadableFile."""
    from PIL import Image

    # Our own limit comes with a sentence.
    Image.MAX_IMAGE_PIXELS = None
    try:
        image = Image.open(io.BytesIO(data), formats=PILLOW)
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
        elif image.mode == "F":
            image = Image.fromarray(_shades(np.asarray(image)))
        elif image.mode == "LAB":
            image = _from_lab(image)
        # A large picture does not fit several times.
        ImageOps.exif_transpose(image, in_place=True)  # pyright: ignore[reportArgumentType, reportCallIssue]
        return np.asarray(image if image.mode == "RGBA" else image.convert("RGBA"))  # pyright: ignore[reportOptionalMemberAccess]
    except (OSError, SyntaxError, ValueError) as error:
        raise UnreadableFile(BROKEN) from error


def _shades(numbers: np.ndarray) -> np.ndarray:
    """Floating numbers as grey: from 0 to 1 as they are, others from the lowest to the highest."""
    plain = np.nan_to_num(numbers.astype(np.float64), nan=0.0, posinf=0.0, neginf=0.0)
    low, high = float(plain.min()), float(plain.max())
    if low < 0 or high > 1:
        plain = (plain - low) / max(high - low, 1e-300)
    return np.rint(255 * plain).astype(np.uint8)


def _from_lab(image):
    """CIELAB, lit by D50 as TIFF has it, as sRGB."""
    from PIL import ImageCms

    return ImageCms.profileToProfile(
        image, ImageCms.createProfile("LAB"), ImageCms.createProfile("sRGB"), outputMode="RGB"
    )


def decode(data: bytes, budget: Budget) -> np.ndarray:
    """The pixels of untrusted bytes, (H, W, 4) uint8; only ever called in the limited child process."""
    return pixels(opened(data, budget)[0])


def shown(data: bytes, budget: Budget, most_px: int, quality: int = 88) -> tuple[bytes, str]:
    """The picture for a browser or a file, written anew from its pixels with the longer side at most so long, as a JPEG
    of so much quality or, where some of it is clear, as a PNG; and its type."""
    from PIL import Image

    image = Image.fromarray(decode(data, budget))
    image.thumbnail((most_px, most_px), Image.Resampling.BOX)
    out = io.BytesIO()
    if np.asarray(image.getchannel("A")).min() == 255:
        image.convert("RGB").save(out, "JPEG", quality=quality, subsampling=0 if quality > 90 else 2)
        return out.getvalue(), "image/jpeg"
    image.save(out, "PNG", compress_level=3)
    return out.getvalue(), "image/png"
