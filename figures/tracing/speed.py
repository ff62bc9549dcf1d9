"""How long tracing takes from the decoded grey, beside the raw contours of contourpy and of scikit-image on the same
picture."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path as File

import contourpy
import cv2
import numpy as np
from scipy import ndimage
from skimage.measure import find_contours

from hakobu import pipeline
from hakobu.geometry import Path, rotation, scaling, transform, translation
from hakobu.tracing import View, find
from hakobu.tracing.edges.downsampling import LARGE_PX
from hakobu.tracing.edges.greyscale import MOST_LEVEL, luma_over_white, to_levels
from hakobu.tracing.edges.regions import find_regions
from hakobu.tracing.modes.outside import ground_of
from hakobu.tracing.options import TraceOptions
from hakobu.tracing.outlines import thresholding

from .pictures import SCANNER_NOISE, body_of, drawn
from .shapes import blob, leaf, polygon_of, star

SCAN = File(__file__).resolve().parents[2] / "demo" / "files" / "heron-scan.jpg"
MM = 25.4 / 300
MATRIX = (MM, 0.0, 0.0, MM, 0.0, 0.0)


def heron() -> np.ndarray:
    """The scan's grey, (1890, 1417)."""
    return luma_over_white(pipeline.picture(SCAN.name, SCAN.read_bytes()))


def page(side: int, count: int) -> np.ndarray:
    """So many small shapes in rows, with a scanner's noise."""
    random = np.random.default_rng(4)
    rows = int(np.ceil(count**0.5))
    pitch = side / rows
    makers = (star, blob, leaf, polygon_of)
    parts = []
    for k in range(count):
        shape = transform(makers[k % 4](random), scaling(pitch / 330))
        shape = transform(shape, rotation(random.uniform(0, 6)))
        middle = shape.ctrl.reshape(-1, 2).mean(axis=0)
        place = np.array([(k % rows + 0.5) * pitch, (k // rows + 0.5) * pitch]) - middle
        parts.append(transform(shape, translation(*place)))
    grey = drawn(body_of(Path.concatenate(parts)), side, side)[..., 0] if side <= 1600 else _coarse(parts, side)
    noise = random.normal(0, SCANNER_NOISE, grey.shape)
    return np.ascontiguousarray(0.1 + 0.82 * grey + noise, np.float32)


def _coarse(parts: list[Path], side: int) -> np.ndarray:
    """A large page, drawn at a third and blown up: what it costs is the same."""
    small = transform(Path.concatenate(parts), scaling(1 / 3))
    grey = drawn(body_of(small), side // 3, side // 3)[..., 0]
    return ndimage.zoom(grey, side / (side // 3), order=1)[:side, :side]


def large() -> np.ndarray:
    """The heron at 20 megapixels, with a scanner's noise, (5164, 3871) float32."""
    grey = ndimage.zoom(heron(), 2.732, order=1)
    noise = np.random.default_rng(1).normal(0, SCANNER_NOISE, grey.shape)
    return np.ascontiguousarray(grey + noise, np.float32)


def traced(grey: np.ndarray, threshold: float):
    return thresholding.trace(grey, MATRIX, threshold, 0.2 * MM, 0.3)


def speed() -> Iterator:
    scan = heron()
    pictures = {
        "dark, 1 megapixel of the heron's scan": np.ascontiguousarray(scan[400:1400, 200:1200]),
        "dark, a page of 1,500 small shapes, 1.4 megapixels": page(1170, 1500),
        "dark, the heron at 20 megapixels": large(),
        "dark, a page of 1,500 small shapes, 20 megapixels": page(4470, 1500),
    }
    for name, grey in pictures.items():
        mark = thresholding.propose(grey, MM).threshold
        level = mark
        if grey.size > LARGE_PX:
            # As they are decoded: large pictures are traced from their levels.
            grey, level = to_levels(np.clip(grey, 0, 1)), mark * MOST_LEVEL
        raw = lambda g=grey, m=level: contourpy.contour_generator(z=g).lines(m)  # noqa: E731
        yield name, lambda g=grey, m=mark: traced(g, m), raw, "contourpy: raw contours"
        if grey.size < 2e6:
            other = lambda g=grey, m=mark: find_contours(g, m)  # noqa: E731
            yield name, lambda g=grey, m=mark: traced(g, m), other, "scikit-image: raw contours"
    yield from _background(pictures["dark, a page of 1,500 small shapes, 20 megapixels"])
    from .colours import eight, scene

    body, _ = scene(6, 61)
    rgb = np.kron(eight(drawn(body, 600, 600)), np.ones((2, 2, 1), np.uint8))[:1000, :1000]
    rgba = np.ascontiguousarray(np.dstack([rgb, np.full(rgb.shape[:2], 255, np.uint8)]))
    # A view keeps what was found out of it: each time a new one.
    yield "colour, six, 1 megapixel", lambda: find(View(rgba, MATRIX), "colour", TraceOptions()), None, ""
    lattice = "".join(
        f'<path stroke="#000" stroke-width="7" d="M{20 + 96 * i} 20V980M20 {20 + 96 * i}H980"/>' for i in range(11)
    )
    grey = drawn(lattice, 1000, 1000)
    lined = np.ascontiguousarray(np.dstack([eight(grey), np.full((1000, 1000), 255, np.uint8)]))
    yield (
        "centre, a lattice of 100 cells, 1 megapixel",
        lambda: find(View(lined, MATRIX), "centre", TraceOptions()),
        None,
        "",
    )


def _background(grey: np.ndarray) -> Iterator:
    """From the decoded colours to all that is not background: its regions, their hollows and the specks told apart."""
    value = np.clip(grey * 255, 0, 255).astype(np.uint8)
    rgba = np.ascontiguousarray(np.dstack([value, value, value, np.full(value.shape, 255, np.uint8)]))
    mask = (value < 128).astype(np.uint8)
    yield (
        "background with hollows and specks, 20 megapixels",
        lambda: find_regions(ground_of(View(rgba, MATRIX), 0.1), 0.5),
        lambda: cv2.connectedComponentsWithStats(mask),
        "OpenCV: components of a mask",
    )


def trace() -> Iterator:
    from .accuracy import accuracy
    from .art import art

    yield from speed()
    yield from accuracy()
    yield from art()
