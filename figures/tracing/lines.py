"""Drawn lines of known middles, and how near to them they are traced."""

from __future__ import annotations

import numpy as np

from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import Path, flatten, scaling, transform
from hakobu.geometry.places import Places
from hakobu.tracing import centre

from .pictures import drawn, scanned, svg

SIDE = 200
WIDTHS = (3, 5, 8, 11, 15)
DRAWINGS = {
    "line": "M30 40L170 120",
    "curve": "M20 150C60 20 120 20 180 120",
    "circle": "M100 30A70 70 0 1 1 99.9 30Z",
    "bend": "M30 30L120 40L140 160",
    "T": "M20 50L180 70M95 59.375L80 180",
    "X": "M20 30L180 170M30 170L170 40",
    "Y": "M100 100L100 20M100 100L170 170M100 100L30 160",
    "lattice": "M20.3 20.6H180.3V180.6H20.3ZM20.3 75.2H180.3M20.3 125.7H180.3M75.1 20.6V180.6M125.4 20.6V180.6",
}
#: Lines that bend tightly: their widths, and the radii of their arcs in widths.
WIDE, RADII = (8, 12, 16), (1.2, 1.7, 2.5)
#: Where each drawing ends, bends and meets.
PLACES = {
    "line": ((30, 40), (170, 120)),
    "curve": ((20, 150), (180, 120)),
    "bend": ((120, 40), (30, 30), (140, 160)),
    "T": ((95, 59.375), (20, 50), (180, 70), (80, 180)),
    "X": ((102.787, 102.439), (20, 30), (180, 170), (30, 170), (170, 40)),
    "Y": ((100, 100), (100, 20), (170, 170), (30, 160)),
}
PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def body(d: str, width: float) -> str:
    return f'<path fill="none" stroke="#000" stroke-width="{width}" d="{d}"/>'


def truth(d: str) -> Path:
    document = by_id("svg").read(svg(body(d, 1), SIDE, SIDE).encode(), ReadOptions()).document
    return transform(Path.concatenate(p.path for p in document.pieces[1:]), scaling(96 / 25.4))


def traced(d: str, width: int, noisy: bool) -> tuple[np.ndarray, Path]:
    """Distances of points both ways from a drawn line's middle, and that as it is traced."""
    grey = np.ascontiguousarray(drawn(body(d, width), SIDE, SIDE)[..., 0])
    if noisy:
        grey = np.ascontiguousarray(scanned(grey, width), np.float32)
    made = centre.trace(grey, PIXELS, 0.5, 0.2 if noisy else 0.1, 12.0)
    path = Path.concatenate(drawing.path for drawing in made.drawings)
    known = truth(d)
    there = Places(known).nearest(flatten(path, 0.001, 0.25).points).distance
    back = Places(path).nearest(flatten(known, 0.001, 0.25).points).distance
    return np.concatenate([there, back]), path


def middles(noisy: bool):
    """Of each drawing at each width: its name, the width, distances of points both ways, and how far its ends, bends
    and meetings are off."""
    for name, d in DRAWINGS.items():
        for width in WIDTHS:
            apart, path = traced(d, width, noisy)
            nodes = np.vstack([path.ctrl[:, 0], path.ctrl[:, 3]])
            off = [float(np.hypot(*(nodes - place).T).min()) for place in PLACES.get(name, ())]
            yield name, width, apart, off


def tight_bends(noisy: bool):
    """Distances of points both ways for lines that turn back in arcs of 1.2 to 2.5 times their width: a hairpin, an S
    and a rounded square."""
    for width in WIDE:
        for times in RADII:
            r = width * times
            for d in (
                f"M{100 - r} 180V{20 + r}A{r} {r} 0 0 1 {100 + r} {20 + r}V180",
                f"M20 100A{r} {r} 0 0 1 {20 + 2 * r} 100A{r} {r} 0 0 0 {20 + 4 * r} 100",
                f"M{30 + r} 30H{170 - r}A{r} {r} 0 0 1 170 {30 + r}V{170 - r}A{r} {r} 0 0 1 {170 - r} 170H{30 + r}"
                f"A{r} {r} 0 0 1 30 {170 - r}V{30 + r}A{r} {r} 0 0 1 {30 + r} 30Z",
            ):
                yield traced(d, width, noisy)[0]
