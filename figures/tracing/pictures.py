"""Pictures of known shapes, as clean as can be and spoilt as scanners, cameras and compression spoil them.

The truth is drawn eight times as large by resvg and averaged down: a renderer's own antialiasing has few steps and errs
by an eighth of a pixel. The blur is a Gaussian's, the noise normal and from a seed, JPEG is Pillow's.
"""

from __future__ import annotations

import io

import numpy as np
import resvg_py
from PIL import Image
from scipy import ndimage

from hakobu.geometry import Path, scaling, transform
from hakobu.geometry.path_text import path_data

SAMPLES = 8
#: Black and white as a scanner gives them.
BLACK, WHITE = 0.1, 0.92
SCANNER_BLUR_PX, SCANNER_NOISE = 0.5, 4 / 255


def svg(body: str, width: int, height: int, paper: str = "#fff") -> str:
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="0 0 {width} {height}">'
        f'<rect width="{width}" height="{height}" fill="{paper}"/>{body}</svg>'
    )


def body_of(path: Path, ink: str = "#000") -> str:
    return f'<path fill-rule="evenodd" fill="{ink}" d="{path_data(path, 6)}"/>'


def drawn(body: str, width: int, height: int, paper: str = "#fff") -> np.ndarray:
    """(H, W, 3) float32 from 0 to 1."""
    png = resvg_py.svg_to_bytes(svg_string=svg(body, width, height, paper), zoom=SAMPLES)
    fine = np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGB"), np.float32) / 255
    return fine.reshape(height, SAMPLES, width, SAMPLES, 3).mean(axis=(1, 3))


def clean(path: Path, side: int, scale: float = 1.0) -> np.ndarray:
    """Grey (H, W) float32, black on white, at a scale."""
    side = round(side * scale)
    return np.ascontiguousarray(drawn(body_of(transform(path, scaling(scale))), side, side)[..., 0])


def blurred(grey: np.ndarray, sigma_px: float) -> np.ndarray:
    return ndimage.gaussian_filter(grey, sigma_px, truncate=6, mode="nearest")


def scanned(grey: np.ndarray, seed: int, quality: int = 30) -> np.ndarray:
    """As off a scanner and through JPEG."""
    noise = np.random.default_rng(seed).normal(0, SCANNER_NOISE, grey.shape)
    spoilt = BLACK + (WHITE - BLACK) * blurred(grey, SCANNER_BLUR_PX) + noise
    return jpeg(spoilt, quality)


def jpeg(picture: np.ndarray, quality: int) -> np.ndarray:
    out = io.BytesIO()
    Image.fromarray((picture * 255).round().clip(0, 255).astype(np.uint8)).save(out, "JPEG", quality=quality)
    return np.asarray(Image.open(out), np.float32) / 255
