"""Bleed: prints clipped to their outlines, their colours carried on outwards, so that no paper shows beside a cut."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from ..errors import TooMuch
from ..geometry import Path, box_of, transform
from ..geometry.boolean import union
from ..model import Document, Picture, Treatment
from ..model.shapes import has_inside, operand_of
from ..model.sheet import Sheet
from ..sheets.packing.raster import cells_in

#: Pixels that a print with its bleed may have: the distances of each take 16 bytes.
MOST_PX = 40_000_000


def with_bleed(
    document: Document, sheet: Sheet, pixels: Callable[[str], np.ndarray]
) -> tuple[Document, dict[str, bytes]]:
    """The document with the prints of a sheet clipped to what is cut there, grown by the bleed, and the PNG bytes of
    pictures that are new, by their hashes. pixels: of a picture by its hash, (H, W, 4) uint8. A picture that no outline
    lies on stays as it is."""
    if not sheet.printed:
        return document, {}
    cut = {layer.id for layer in document.layers if layer.treatment is Treatment.CUT and layer.id in sheet.layers}
    shapes = [operand_of(piece) for piece in document.pieces_followed() if piece.layer in cut and has_inside(piece)]
    outlines = union(*shapes).path if shapes else Path.concatenate([])
    bleed = sheet.bleed_mm if sheet.printed == "bleed" else 0.0
    made: dict[str, bytes] = {}
    pictures = []
    for picture in document.pictures:
        own = picture.layer in sheet.layers
        found = clipped(pixels(picture.sha256), picture, outlines, bleed) if own and len(outlines) else None
        if found is None:
            pictures.append(picture)
            continue
        data, at = found
        made[at.sha256] = data
        pictures.append(at)
    return replace(document, pictures=tuple(pictures)), made


def clipped(pixels: np.ndarray, picture: Picture, outlines: Path, bleed_mm: float) -> tuple[bytes, Picture] | None:
    """PNG bytes of a picture that ends at outlines, or at a distance beyond them, and where it lies; None where no
    outline lies on it. Beyond an outline a pixel has the colour of the nearest one within (exact Euclidean distance).
    Raises TooMuch."""
    import cv2
    from scipy.ndimage import distance_transform_edt

    a, b, c, d, e, f = picture.matrix
    to_mm = np.array([[a, c, e], [b, d, f]])
    linear = np.linalg.inv(to_mm[:, :2])
    to_pixels = np.column_stack([linear, -linear @ to_mm[:, 2]])
    # Pixels are as good as square: the shorter side tells how many the bleed takes.
    pixel_mm = float(min(np.hypot(a, b), np.hypot(c, d)))
    height, width = pixels.shape[:2]
    placed = transform(outlines, to_pixels)
    pad = int(np.ceil(bleed_mm / pixel_mm)) + 1
    left, top, right, bottom = (int(v) for v in (*np.floor(box_of(placed)[:2]), *np.ceil(box_of(placed)[2:])))
    x0, y0, x1, y1 = max(left, 0) - pad, max(top, 0) - pad, min(right, width) + pad, min(bottom, height) + pad
    if x1 - x0 <= 2 * pad or y1 - y0 <= 2 * pad:
        return None
    if (x1 - x0) * (y1 - y0) > MOST_PX:
        raise TooMuch(f"A print of more than {MOST_PX // 10**6} million pixels is not clipped: print it as it is.")
    there = np.zeros((y1 - y0, x1 - x0, 4), np.uint8)
    u0, v0, u1, v1 = max(x0, 0), max(y0, 0), min(x1, width), min(y1, height)
    there[v0 - y0 : v1 - y0, u0 - x0 : u1 - x0] = pixels[v0:v1, u0:u1]
    within = cells_in(placed, (x0, y0), 1.0, (y1 - y0, x1 - x0), whole=False)
    known = within & (there[:, :, 3] > 0)
    if not known.any():
        return None
    found: Any = distance_transform_edt(~known, return_indices=True)
    far, (rows, columns) = found
    near: Any = distance_transform_edt(~within) if bleed_mm else None
    shown = within if near is None else near * pixel_mm <= bleed_mm
    # What is clear within an outline stays so: only what lies beyond gets the colour of its nearest.
    beyond = shown & ~known & (~within | (far * pixel_mm <= bleed_mm))
    there[beyond] = there[rows[beyond], columns[beyond]]
    there[~shown] = 0
    data = cv2.imencode(".png", cv2.cvtColor(there, cv2.COLOR_RGBA2BGRA))[1].tobytes()
    shift = to_mm[:, :2] @ (x0, y0) + to_mm[:, 2]
    matrix = (a, b, c, d, float(shift[0]), float(shift[1]))
    sha256 = hashlib.sha256(data).hexdigest()
    return data, replace(picture, sha256=sha256, size_px=(there.shape[1], there.shape[0]), matrix=matrix)
