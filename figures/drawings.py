"""The pictures in docs/geometry.md, drawn by the code that they explain: .venv/bin/python figures/drawings.py"""

from __future__ import annotations

import numpy as np
from distance_drawings import drawn
from drawing import FILLS, INK, ROSE, SEA, STRAW, dots, line, painted, save, word
from shapes import blob, noisy_outline

from hakobu.geometry import Path, PathBuilder, fit, transform, translation
from hakobu.geometry.boolean import divide
from hakobu.geometry.inner import inner_point
from hakobu.geometry.proximity.chord_grid import Search, curve_table
from hakobu.geometry.recover import as_arcs


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
        parts.append(painted(made.of(face), fill))
    parts += [line(made.path, INK, 0.25), dots(made.path.ctrl[:, 0], INK, 0.4)]
    for face, cover in enumerate(made.covers):
        x, y = inner_point(made.of(face), "evenodd")
        parts.append(word(x, y + 0.7, "".join("ABCD"[k] for k in cover)))
    save("faces", "The faces of four circles, each with those that cover it", (2, 1, 42, 36), *parts)


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
    drawn()
