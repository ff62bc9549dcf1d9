"""The pictures in docs/geometry.md, drawn by the code that they explain: .venv/bin/python figures/drawings.py"""

from __future__ import annotations

from pathlib import Path as File

import numpy as np
from shapes import blob, noisy_outline

from hakobu.formats.svg.writer import path_data
from hakobu.geometry import Path, PathBuilder, fit, transform, translation
from hakobu.geometry.boolean import divide
from hakobu.geometry.recover import as_arcs
from hakobu.geometry.search import Search, curve_table

FOLDER = File(__file__).resolve().parents[1] / "docs" / "pictures"
INK, ROSE, SEA, STRAW, PALE = "#1b2a4e", "#b23a55", "#2c6e73", "#c9973b", "#8892a6"
FILLS = ("#e8dcc3", "#bfd6d3", "#e6c3c8", "#9dbdbd", "#d4a5ac", "#b7a88f", "#7f9fa5")


def line(path: Path, colour: str, width: float = 0.3, more: str = "") -> str:
    return f'<path d="{path_data(path)}" fill="none" stroke="{colour}" stroke-width="{width}" {more}/>'


def dots(points: np.ndarray, colour: str, radius: float) -> str:
    return "".join(f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{radius}" fill="{colour}"/>' for x, y in points)


def word(x: float, y: float, text: str, size: float = 2.2, colour: str = INK) -> str:
    return f'<text x="{x:.2f}" y="{y:.2f}" font-size="{size}" fill="{colour}" text-anchor="middle">{text}</text>'


def save(name: str, title: str, box: tuple[float, float, float, float], *parts: str) -> None:
    x, y, width, height = box
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{x} {y} {width} {height}" width="{8 * width:.0f}"'
        f' height="{8 * height:.0f}" font-family="sans-serif" role="img"><title>{title}</title>'
        f'<rect x="{x}" y="{y}" width="{width}" height="{height}" fill="#fbfaf6"/>'
    )
    FOLDER.mkdir(exist_ok=True)
    (FOLDER / f"{name}.svg").write_text(head + "\n".join(parts) + "</svg>\n")


def round_one(x: float, y: float, radius: float) -> Path:
    builder = PathBuilder()
    builder.circle(x, y, radius)
    return builder.path()


def search() -> None:
    """Two curves, the chords that are searched, and the boxes of those that come near each other."""
    random = np.random.default_rng(4)
    both = Path.concatenate([blob(20, 16, 14, 6, random), blob(40, 18, 14, 5, random)])
    kinds, geometry = curve_table(both)
    found = Search(both, None, 0.05, kinds, geometry)
    pairs, _, once = found.near()
    near = np.zeros(len(found.table), int)
    near[pairs.ravel()] = 1
    near[pairs[~once].ravel()] = 2
    parts = []
    for row, (x0, y0, x1, y1), how in zip(found.table, found.box, near, strict=True):
        if how:
            colour = ROSE if how == 2 else SEA
            parts.append(
                f'<rect x="{x0}" y="{y0}" width="{x1 - x0}" height="{y1 - y0}" fill="{colour}" fill-opacity="0.14"'
                f' stroke="{colour}" stroke-width="0.12"/>'
            )
        parts.append(f'<path d="M{row[0]} {row[1]}L{row[2]} {row[3]}" stroke="{STRAW}" stroke-width="0.2"/>')
        parts.append(dots(row[None, :2], STRAW, 0.3))
    title = "Chords of two outlines and the boxes of those that come near"
    save("search", title, (2, 0, 54, 34), *parts, line(both, INK, 0.25))


def faces() -> None:
    """The faces of four shapes, each with how many of them cover it."""
    shapes = [round_one(16, 17, 11), round_one(30, 14, 11), round_one(25, 25, 9), round_one(17, 16, 3)]
    made = divide(*shapes)
    parts = []
    for face, cover in enumerate(made.covers):
        fill = FILLS[(len(cover) * 2 + face) % len(FILLS)]
        parts.append(f'<path d="{path_data(made.of(face))}" fill="{fill}" fill-rule="evenodd"/>')
    parts += [line(made.path, INK, 0.25), dots(made.path.ctrl[:, 0], INK, 0.4)]
    for face, cover in enumerate(made.covers):
        x, y = _inside(made.of(face))
        parts.append(word(x, y + 0.7, "".join("ABCD"[k] for k in cover)))
    save("faces", "The faces of four circles, each with those that cover it", (2, 1, 42, 36), *parts)


def _inside(path: Path) -> np.ndarray:
    """A place well inside of a face: of many, the one farthest from its outline."""
    from hakobu.geometry.places import Places

    low, high = path.ctrl.reshape(-1, 2).min(axis=0), path.ctrl.reshape(-1, 2).max(axis=0)
    points = np.random.default_rng(0).uniform(low, high, (800, 2))
    places = Places(path)
    points = points[places.contains(points, "evenodd")]
    return points[places.nearest(points).distance.argmax()]


def fitted() -> None:
    """Noisy points, the cubics through them, and the same as arcs."""
    points = noisy_outline(400, 0.25) / 8
    made = fit(points, np.array([0, 400]), np.array([True]), np.zeros(400, bool), 0.12).path
    arcs = transform(as_arcs(made, 0.02), translation(34, 0))
    save(
        "fitted",
        "Noisy points and the curves through them; the same as arcs",
        (-17, -17, 68, 34),
        dots(points, ROSE, 0.12),
        line(made, INK, 0.2),
        dots(made.ctrl[:, 0], INK, 0.4),
        line(arcs, SEA, 0.2),
        dots(arcs.ctrl[:, 0], SEA, 0.3),
    )


if __name__ == "__main__":
    search()
    faces()
    fitted()
