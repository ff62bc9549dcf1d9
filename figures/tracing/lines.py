"""Drawn lines of known middles, and how near to them they are traced."""

from __future__ import annotations

import numpy as np

from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import Path, SegmentIndex, flatten, scaling, transform
from hakobu.geometry.nodes import end_directions
from hakobu.tracing.skeleton import centre_lines

from .pictures import blurred, body_of, drawn, jpeg, scanned, svg
from .scores import apart
from .shapes import polygon

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
#: An end this near to a line is on it, in pixels; a straight line that turns by more than this, in radians, has a kink.
ON_IT, KINK = 0.3, 0.1
PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def body(d: str, width: float) -> str:
    return f'<path fill="none" stroke="#000" stroke-width="{width}" d="{d}"/>'


def truth(d: str) -> Path:
    document = by_id("svg").read(svg(body(d, 1), SIDE, SIDE).encode(), ReadOptions()).document
    return transform(Path.concatenate(p.path for p in document.pieces[1:]), scaling(96 / 25.4))


def traced(d: str, width: int, noisy: bool) -> tuple[np.ndarray, Path]:
    """Distances of points both ways from a drawn line's middle, and that as it is traced."""
    return traced_drawing(body(d, width), truth(d), noisy, width)


def traced_drawing(drawing: str, known: Path, noisy: bool, seed: int) -> tuple[np.ndarray, Path]:
    """The same of any drawing whose middle is known."""
    grey = np.ascontiguousarray(drawn(drawing, SIDE, SIDE)[..., 0])
    if noisy:
        grey = np.ascontiguousarray(scanned(grey, seed), np.float32)
    made = centre_lines.trace(grey, PIXELS, 0.5, 0.2 if noisy else 0.1, 12.0)
    path = Path.concatenate(drawing.path for drawing in made.drawings)
    return apart(known, path), path


def middles(noisy: bool):
    """Of each drawing at each width: its name, the width, distances of points both ways, and how far its ends, bends
    and meetings are off."""
    for name, d in DRAWINGS.items():
        for width in WIDTHS:
            distance, path = traced(d, width, noisy)
            nodes = np.vstack([path.ctrl[:, 0], path.ctrl[:, 3]])
            off = [float(np.hypot(*(nodes - place).T).min()) for place in PLACES.get(name, ())]
            yield name, width, distance, off


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


def brush_lines(noisy: bool):
    """Distances of points both ways for strokes that taper, and that swell once or twice: straight, waved and round."""
    t = np.linspace(0, 1, 800)
    ways = (
        np.column_stack([30 + 140 * t, 40 + 90 * t]),
        np.column_stack([30 + 140 * t, 100 + 36 * np.sin(2 * np.pi * t)]),
        100 + 60 * np.column_stack([np.cos(3.6 * t + 0.3), np.sin(3.6 * t + 0.3)]),
    )
    for points in ways:
        along = np.gradient(points, axis=0)
        square = np.column_stack([-along[:, 1], along[:, 0]]) / np.hypot(*along.T)[:, None]
        for share in (t, np.sin(np.pi * t), 0.5 - 0.5 * np.cos(4 * np.pi * t)):
            for least, most in ((3, 8), (4, 16), (8, 14)):
                side = square * ((least + (most - least) * share) / 2)[:, None]
                outline = np.vstack([points + side, (points - side)[::-1]])
                yield traced_drawing(body_of(polygon(outline)), truth(_through(points)), noisy, 3)[0]


def _through(points: np.ndarray) -> str:
    return "M" + "L".join(f"{x:.4f} {y:.4f}" for x, y in points)


def gaps_at_junctions() -> tuple[int, int, int]:
    """Of drawings of lines across each other, written as JPEG of quality 30 and 60: how many there are, how many of
    their lines' ends lie beside another line without reaching it, and how many turn by a kink at a crossing. The drawn
    lines end far from each other, so no end belongs there."""
    gaps = kinks = count = 0
    for seed in range(12):
        random = np.random.default_rng(seed)
        width = random.uniform(2.5, 6.0)
        across = [(8, y + random.uniform(-6, 6), 192, y + random.uniform(-6, 6)) for y in (50, 100, 150)]
        down = [(x + random.uniform(-14, 14), 8, x + random.uniform(-14, 14), 192) for x in (45, 100, 155)]
        d = "".join(f"M{a:.2f} {b:.2f}L{c:.2f} {e:.2f}" for a, b, c, e in (*across, *down))
        for quality in (30, 60):
            picture = jpeg(blurred(drawn(body(d, width), SIDE, SIDE), (0.5, 0.5, 0)), quality)
            made = centre_lines.trace(np.ascontiguousarray(picture[..., 0], np.float32), PIXELS, 0.5, 0.2, 12.0)
            path = Path.concatenate(drawing.path for drawing in made.drawings)
            count += 1
            gaps += _gaps(path, width)
            kinks += _kinks(path)
    return count, gaps, kinks


def _gaps(path: Path, width: float) -> int:
    """Free ends within one and a half widths of another line, but not on it."""
    rows = np.flatnonzero(~path.closed)
    number = 0
    for k in rows.tolist():
        others = path.take([n for n in range(len(path)) if n != k])
        if not len(others):
            continue
        ends = path.ctrl[[path.start[k], path.start[k + 1] - 1], [0, 3]]
        away = SegmentIndex(flatten(others, 0.01), 1.0).nearest(ends)[0]
        number += int(((away > ON_IT) & (away < 1.5 * width)).sum())
    return number


def _kinks(path: Path) -> int:
    """Nodes inside of straight lines at which these turn by more than a few degrees."""
    number = 0
    for outline in path.outlines():
        leaving, arriving = end_directions(outline)
        turn = np.abs(np.arctan2(*_cross_and_dot(arriving[:-1], leaving[1:])))
        number += int((turn > KINK).sum())
    return number


def _cross_and_dot(one: np.ndarray, other: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    return one[:, 0] * other[:, 1] - one[:, 1] * other[:, 0], (one * other).sum(axis=1)
