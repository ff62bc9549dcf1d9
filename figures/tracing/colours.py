"""Pictures of flat colours with known borders."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from scipy.spatial import Voronoi

from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import Path, scaling, transform
from hakobu.model.lab import to_lab

from .pictures import blurred, drawn, jpeg, svg

SIDE = 600
#: Colours differ by at least so much in CIELAB.
APART = 18.0
NOISE = 6 / 255


def scene(count: int, seed: int) -> tuple[str, np.ndarray]:
    """Cells and discs of so many colours; the colours (K, 3) of 255."""
    random = np.random.default_rng(seed)
    colours: list[np.ndarray] = []
    while len(colours) < count:
        one = random.integers(0, 256, 3)
        if all(np.linalg.norm(to_lab(one / 255.0) - to_lab(other / 255.0)) > APART for other in colours):
            colours.append(one)
    words = ["#{:02x}{:02x}{:02x}".format(*colour) for colour in colours]
    points = random.uniform(0, SIDE, (3 * count, 2))
    far = np.array([[-9, -9], [10, -9], [-9, 10], [10, 10]]) * SIDE
    cells = Voronoi(np.vstack([points, far]))
    parts = []
    for i in range(3 * count):
        region = cells.regions[cells.point_region[i]]
        if -1 not in region:
            d = "L".join(f"{x:.4f} {y:.4f}" for x, y in cells.vertices[region])
            parts.append(f'<path fill="{words[i % count]}" d="M{d}Z"/>')
    for i in range(count):
        x, y, r = random.uniform(80, SIDE - 80), random.uniform(80, SIDE - 80), random.uniform(10, 60)
        parts.append(f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{r:.3f}" fill="{words[(i + 1) % count]}"/>')
    return "".join(parts), np.array(colours)


def borders(body: str) -> Path:
    document = by_id("svg").read(svg(body, SIDE, SIDE).encode(), ReadOptions()).document
    return transform(Path.concatenate(p.path for p in document.pieces), scaling(96 / 25.4))


def variants(body: str, seed: int) -> Iterator[tuple[str, np.ndarray]]:
    """The picture (H, W, 3) uint8, as it is and spoilt in three ways."""
    clean = drawn(body, SIDE, SIDE)
    yield "clean", eight(clean)
    yield "JPEG", eight(jpeg(clean, 30))
    noise = np.random.default_rng(seed).normal(0, NOISE, clean.shape)
    yield "noise", eight(np.clip(clean + noise, 0, 1))
    yield "blur", eight(blurred(clean, (1.2, 1.2, 0)))


def eight(picture: np.ndarray) -> np.ndarray:
    return np.ascontiguousarray((picture * 255).round().clip(0, 255).astype(np.uint8))
