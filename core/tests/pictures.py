"""Pictures of known shapes, for the tests of tracing.

Each pixel is the mean of 8 x 8 samples of resvg's drawing, so that its grey is right to about a thousandth: the
antialiasing of a renderer has few steps. Only tiles that an edge crosses are drawn so finely.
"""

from __future__ import annotations

import io

import numpy as np
import resvg_py
from PIL import Image

from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import Path, SegmentIndex, flatten, scaling, transform
from hakobu.geometry.nodes import end_directions, nodes_of

SAMPLES = 8
#: The side of a tile, in pixels.
TILE = 25


def drawing(body: str, size: int = 400, part: tuple[int, int, int, int] | None = None) -> str:
    """part: x, y, width, height of what is shown of it."""
    x, y, width, height = part or (0, 0, size, size)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="{x} {y} {width} {height}">'
        f'<rect width="{size}" height="{size}" fill="#fff"/>{body}</svg>'
    )


def rendered(body: str, size: int = 400) -> np.ndarray:
    """(size, size) float32 grey, 0 black to 1 white."""
    grey = _drawn(drawing(body, size), 1)
    for y in range(0, size, TILE):
        crossed = [x for x in range(0, size, TILE) if _is_crossed(grey, x, y)]
        for x, end in _runs(crossed):
            width, height = min(end, size) - x, min(TILE, size - y)
            fine = _drawn(drawing(body, size, (x, y, width, height)), SAMPLES)
            mean = fine.reshape(height, SAMPLES, width, SAMPLES).mean(axis=(1, 3))
            grey[y : y + height, x : x + width] = mean
    return grey


def _drawn(svg: str, zoom: int) -> np.ndarray:
    png = resvg_py.svg_to_bytes(svg_string=svg, zoom=zoom, skip_system_fonts=True)
    return np.array(Image.open(io.BytesIO(bytes(png))).convert("L"), np.float32) / np.float32(255)


def _is_crossed(grey: np.ndarray, x: int, y: int) -> bool:
    """Whether a tile is not of one colour, nor its neighbours' next pixels."""
    tile = grey[max(y - 1, 0) : y + TILE + 1, max(x - 1, 0) : x + TILE + 1]
    return bool(tile.max() > tile.min())


def _runs(tiles: list[int]) -> list[tuple[int, int]]:
    """Where tiles that follow each other begin and end."""
    runs: list[tuple[int, int]] = []
    for x in tiles:
        if runs and runs[-1][1] == x:
            runs[-1] = (runs[-1][0], x + TILE)
        else:
            runs.append((x, x + TILE))
    return runs


def truth(body: str, size: int = 400) -> Path:
    """The outlines of all shapes, in pixels."""
    document = by_id("svg").read(drawing(body, size).encode(), ReadOptions()).document
    return transform(Path.concatenate(p.path for p in document.pieces[1:]), scaling(96 / 25.4))


def distances(a: Path, b: Path) -> np.ndarray:
    """How far points every fifth of a unit along each of two paths lie from the other."""
    first, second = flatten(a, 0.001, 0.2), flatten(b, 0.001, 0.2)
    there = SegmentIndex(second, 0.5).nearest(first.points)[0]
    return np.concatenate([there, SegmentIndex(first, 0.5).nearest(second.points)[0]])


def sharp_corners(path: Path, least_degrees: float) -> np.ndarray:
    """Nodes of closed outlines where the direction turns by at least so much, (N, 2)."""
    leaving, arriving = end_directions(path)
    before = np.arange(path.segment_count) - 1
    before[path.start[:-1]] = path.start[1:] - 1
    a, b = arriving[before], leaving
    turn = np.abs(np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], (a * b).sum(axis=1)))
    return nodes_of(path).points[: path.segment_count][np.degrees(turn) >= least_degrees]


def nearest(points: np.ndarray, others: np.ndarray) -> np.ndarray:
    """How far each point is from the nearest of the others."""
    return np.hypot(*(points[:, None] - others[None]).transpose(2, 0, 1)).min(axis=1)
