"""Painted area, by resvg: both drawn by one renderer at 2,048 pixels, the sum of the smaller over the sum of the larger
coverage (CONTRACT: painted area)."""

import io

import numpy as np
import resvg_py
from PIL import Image


def coverage(text: str, width: int = 2048) -> np.ndarray:
    png = resvg_py.svg_to_bytes(svg_string=text, width=width, dpi=96.0, skip_system_fonts=True)
    return np.asarray(Image.open(io.BytesIO(bytes(png))).getchannel("A"))


def overlap(before: str, after: str, width: int = 2048) -> float:
    """1 where both are the same, also where both are empty."""
    a, b = coverage(before, width), coverage(after, width)
    larger = np.maximum(a, b).sum(dtype=np.int64)
    return float(np.minimum(a, b).sum(dtype=np.int64) / larger) if larger else 1.0
