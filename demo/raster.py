"""Vector drawings as pictures: how much of each pixel a shape covers, and what a scanner adds to that."""

from __future__ import annotations

import io

import numpy as np

from hakobu.geometry import Path, SegmentIndex, flatten

#: Scan lines in each row of pixels; across, the coverage is exact.
LINES = 16


def coverage(path: Path, width: int, height: int) -> np.ndarray:
    """The share of each pixel (height, width) that a path in pixels fills, by the even-odd rule."""
    first, last, _ = flatten(path, 0.002).edges()
    down = first[:, 1] > last[:, 1]
    upper, lower = np.where(down[:, None], last, first), np.where(down[:, None], first, last)
    begin = np.ceil(upper[:, 1] * LINES - 0.5).astype(int).clip(0, height * LINES)
    end = np.ceil(lower[:, 1] * LINES - 0.5).astype(int).clip(0, height * LINES)
    edge = np.repeat(np.arange(len(first)), end - begin)
    line = np.arange(len(edge)) - np.repeat(np.cumsum(end - begin) - (end - begin), end - begin) + begin[edge]
    share = ((line + 0.5) / LINES - upper[edge, 1]) / (lower[edge, 1] - upper[edge, 1])
    x = np.clip(upper[edge, 0] + share * (lower[edge, 0] - upper[edge, 0]), 0, width - 1e-9)
    order = np.lexsort((x, line))
    x, row = x[order], line[order] // LINES
    sign = np.where(np.arange(len(x)) % 2 == 0, 1.0, -1.0)
    column = x.astype(int)
    step = np.zeros((height, width + 2))
    np.add.at(step, (row, column), sign * (1 - (x - column)))
    np.add.at(step, (row, column + 1), sign * (x - column))
    return np.clip(np.cumsum(step, axis=1)[:, :width] / LINES, 0, 1)


def stroke_coverage(path: Path, line_width: float, width: int, height: int) -> np.ndarray:
    """The share of each pixel that a stroke along a path in pixels covers, with round joins."""
    chords = flatten(path, 0.01)
    left, top = np.floor(chords.points.min(axis=0) - line_width).astype(int).clip(0)
    right, bottom = np.ceil(chords.points.max(axis=0) + line_width).astype(int).clip(0, (width, height))
    row, column = np.nonzero(_near(path, line_width / 2 + 1, (left, top, right, bottom)))
    places = np.column_stack([column + left, row + top]) + 0.5
    distance = SegmentIndex(chords, 2.0).nearest(places)[0]
    result = np.zeros((height, width))
    result[row + top, column + left] = np.clip(0.5 + line_width / 2 - distance, 0, 1)
    return result


def _near(path: Path, reach: float, box: tuple[int, int, int, int]) -> np.ndarray:
    """The pixels of a box that lie within reach of a path, and some more: only these need the true distance."""
    from scipy.ndimage import distance_transform_edt

    left, top, right, bottom = box
    away = np.ones((bottom - top, right - left), bool)
    column, row = (flatten(path, 0.01, 0.5).points - (left, top)).astype(int).T
    away[row.clip(0, bottom - top - 1), column.clip(0, right - left - 1)] = False
    # A place may lie half a pixel from where its pixel is, and both may be off by that.
    return distance_transform_edt(away) <= reach + 2


def softened(picture: np.ndarray, sigma: float) -> np.ndarray:
    """The blur of a scanner's optics."""
    from scipy.ndimage import gaussian_filter

    return gaussian_filter(picture, sigma, mode="nearest")


def png(pixels: np.ndarray, per_inch: float) -> bytes:
    return _saved(pixels, "PNG", dpi=(per_inch, per_inch), compress_level=9)


def jpeg(pixels: np.ndarray, per_inch: float, quality: int) -> bytes:
    return _saved(pixels, "JPEG", dpi=(per_inch, per_inch), quality=quality, subsampling=0)


def _saved(pixels: np.ndarray, kind: str, **options) -> bytes:
    from PIL import Image

    out = io.BytesIO()
    Image.fromarray(np.clip(np.rint(pixels), 0, 255).astype(np.uint8)).save(out, kind, **options)
    return out.getvalue()
