"""Designs that look suspicious and are sound: nothing in them stops or spoils a cut.

Letters and words of two open fonts, icons of an open set (Material Design Icons, Apache 2.0), and gears, lattices,
lace, maps and deliberate things drawn here.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path as File

import numpy as np
import shapely

from hakobu.formats import ReadOptions
from hakobu.formats.svg import FORMAT as SVG
from hakobu.geometry import Path, flatten, rotation, scaling, transform, translation
from hakobu.geometry.boolean import difference, union
from hakobu.model import Document, Layer, Treatment

from .fonts import glyph
from .planted.host import box, design, line, moved, pebble, ring

ICONS = File(__file__).parents[2] / "web" / "node_modules" / "@mdi" / "js" / "commonjs" / "mdi.js"
HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 24 24">'
WORDS = ("Heron", "kettle", "Lantern", "MOTH", "shadow", "Reed&Co", "quay", "fjord")


def sound_designs() -> Iterator[tuple[str, Document]]:
    """Each with its name."""
    for font in ("sans", "serif"):
        for word in WORDS:
            yield f"{word} in {font}", design([Path.concatenate(word_of(font, word, 25.0))], 180)
    yield from icons(30)
    for teeth in (8, 17, 40):
        yield f"gear of {teeth}", design([gear(teeth)], 80)
    for cells in (3, 6, 9):
        yield f"lattice of {cells}", design([lattice(cells)], 100)
    for petals in (5, 8, 12):
        yield f"lace of {petals}", design([lace(petals)], 100)
    for seed in (1, 2, 3):
        yield f"map {seed}", design([coast(seed)], 150)
    yield from deliberate()


def word_of(font: str, word: str, size: float) -> list[Path]:
    """Glyphs side by side by their boxes, with room between."""
    from hakobu.geometry import bounds

    at, made = 0.0, []
    for letter in word:
        shape = transform(glyph(font, {"&": "ampersand"}.get(letter, letter)), scaling(size / 700))
        left, _, right, _ = bounds(shape)
        made.append(moved(shape, at - left - size * 1.5, 0))
        at += right - left + size * 0.12
    return made


def icons(count: int, seed: int = 5) -> Iterator[tuple[str, Document]]:
    """Icons drawn 60 mm wide, some at random, of those whose every outline comes back to its start and is valid by
    itself, as GEOS has it."""
    every = list(every_icon())
    random = np.random.default_rng(seed)
    made = 0
    for n in random.permutation(len(every)).tolist():
        name, read = every[n]
        icon = read()
        if made < count and all(comes_back(piece.path) and is_valid(piece.path) for piece in icon.pieces):
            made += 1
            yield name, icon
        if made == count:
            return


def every_icon() -> Iterator[tuple[str, Callable[[], Document]]]:
    """The name of each icon, and how it is read."""
    for a, data, b, other in re.findall(r"exports\.(mdi\w+) = \"([^\"]+)\"|(mdi\w+) = '([^']+)'", ICONS.read_text()):
        yield a or b, partial(_icon, data or other)


def _icon(data: str) -> Document:
    return SVG.read((HEAD + f'<path d="{data}"/></svg>').encode(), ReadOptions(key="i")).document


def comes_back(path: Path) -> bool:
    return bool((np.hypot(*(path.ctrl[path.start[:-1], 0] - path.ctrl[path.start[1:] - 1, 3]).T) < 1e-3).all())


def is_valid(path: Path) -> bool:
    chords = flatten(path, 0.005)
    parts = zip(chords.start[:-1], chords.start[1:], strict=True)
    return all(b - a > 3 and shapely.Polygon(chords.points[a:b]).is_valid for a, b in parts)


def gear(teeth: int) -> Path:
    angle = np.arange(4 * teeth) * 2 * np.pi / (4 * teeth)
    reach = np.where(np.arange(4 * teeth) % 4 < 2, 40.0, 34.0)
    rim = Path.from_points(np.column_stack([np.cos(angle), np.sin(angle)]) * reach[:, None], closed=True)
    holes = [ring(4.0, 18 * np.cos(a), 18 * np.sin(a)) for a in np.arange(6) * np.pi / 3]
    return difference(rim, ring(6.0), *holes).path


def lattice(cells: int) -> Path:
    pitch, bar = 90 / cells, 2.0
    holes = [
        box(pitch - bar, pitch - bar, (i + 0.5) * pitch - 45, (k + 0.5) * pitch - 45)
        for i in range(cells)
        for k in range(cells)
    ]
    return difference(box(94, 94), *holes).path


def lace(petals: int) -> Path:
    holes = []
    for n, reach in enumerate((12.0, 24.0, 36.0)):
        count = petals * (n + 1)
        step = 2 * np.pi / count
        hole = min(2 * reach * np.sin(step / 2) - 1.2, 5.5)
        if hole > 1.0:
            holes += [ring(hole / 2, reach * np.cos(k * step), reach * np.sin(k * step)) for k in range(count)]
    scallops = [ring(4.0, 42 * np.cos(a), 42 * np.sin(a)) for a in np.arange(4 * petals) * np.pi / (2 * petals)]
    return difference(union(ring(42.0), *scallops).path, *holes).path


def coast(seed: int) -> Path:
    """An island's shore with bays, and lakes in it."""
    random = np.random.default_rng(seed)
    angle = np.linspace(0, 2 * np.pi, 240, endpoint=False)
    reach = 55 + sum(random.normal(0, 7 / n) * np.cos(n * angle + random.uniform(0, 7)) for n in range(1, 12))
    shore = Path.from_points(np.column_stack([np.cos(angle), np.sin(angle)]) * reach[:, None], closed=True)
    lakes = [moved(pebble(random, 9.0), x, y) for x, y in ((-20, 5), (10, -18), (18, 20))]
    return difference(shore, *lakes).path


def deliberate() -> Iterator[tuple[str, Document]]:
    """What is meant so: touching, doubled in another treatment, hatched, mirrored."""
    yield "tangent circles", design([ring(10, -10), ring(10, 10)], 40)
    yield "touching rims", design([box(20, 20, -10), box(20, 20, 10)], 40)
    twin = moved(pebble(np.random.default_rng(4), 16.0), -9)
    yield "mirrored twins", design([twin, transform(twin, scaling(-1.0, 1.0))], 40)
    cut, score = Layer("cut", "Cut", "#1b2a4e"), Layer("score", "Score", "#c2361f", Treatment.SCORE)
    fold = {"layer": "score", "fill": None}
    yield (
        "a score over a cut",
        design([box(40, 30), (line((-20, 0), (20, 0)), fold), (box(40, 30), fold)], 60, (cut, score)),
    )
    hatch = [(line((-18, y), (18, y)), fold) for y in np.arange(-12, 12.1, 0.4)]
    yield "hatching", design([box(40, 30), *hatch], 60, (cut, score))
    draw = Layer("draw", "Draw", "#2f6f4e", Treatment.DRAW)
    both = [(ring(12), {"layer": "draw", "fill": None}), (ring(12), fold)]
    yield "a line drawn and scored", design(both, 40, (cut, score, draw))
    cross = [line((-15, -15), (15, 15)), line((-15, 15), (15, -15)), line((0, -20), (0, 20))]
    yield "open lines that cross", design(cross, 40, fill=None)
    net = [line((0, 0), (20 * np.cos(a), 20 * np.sin(a))) for a in np.arange(5) * 2 * np.pi / 5]
    yield "lines that meet in a point", design(net, 40, fill=None)
    eight = union(ring(10, -9.0), ring(10, 9.0)).path
    yield "an eight", design([eight], 50)
    points = (
        np.array([(np.cos(a), np.sin(a)) for a in np.arange(24) * np.pi / 12])
        * np.where(np.arange(24) % 2, 8, 20)[:, None]
    )
    yield "a star of twelve sharp points", design([Path.from_points(points, closed=True)], 50)
    zigzag = np.column_stack([np.arange(20) * 2.0 - 19, np.where(np.arange(20) % 2, 1.0, -1.0)])
    pinked = np.vstack([zigzag, [[19, 15], [-19, 15]]])
    yield "a pinked edge", design([Path.from_points(pinked, closed=True)], 50)
    yield (
        "rings in rings",
        design([Path.concatenate([ring(20), ring(16).reversed(), ring(12), ring(8).reversed()])], 50),
    )
    spiral = np.linspace(0, 6 * np.pi, 300)
    yield (
        "a spiral",
        design([line(*np.column_stack([np.cos(spiral), np.sin(spiral)]) * (2 + spiral)[:, None])], 60, fill=None),
    )
    yield "a turned square", design([transform(box(20, 20), rotation(0.3))], 40)
    yield "a wedge", design([Path.from_points(np.array([[0, 0], [40, 1.5], [40, -1.5]]), closed=True)], 90)
    yield (
        "a page alone",
        Document(design([], 40).page, (cut,), design([transform(box(60, 60), translation(0, 0))], 40, (cut,)).pieces),
    )
