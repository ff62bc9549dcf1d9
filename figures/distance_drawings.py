"""The pictures of what lies at a distance: hard cases, joins and ends, narrow places, symmetry and middle lines."""

from __future__ import annotations

import numpy as np
from drawing import INK, ROSE, SEA, STRAW, dots, line, painted, save, word
from tests.geometry.offset_cases import LINES, SHAPES

from hakobu.geometry import Path, bounds, scaling, transform, translation
from hakobu.geometry.boolean import union
from hakobu.geometry.inner import largest_circle, medial_axis
from hakobu.geometry.narrow import narrow_places
from hakobu.geometry.offset import ENDS, JOINS, around, offset
from hakobu.geometry.symmetry import mirror_axes

PAPER = "#e8dcc3"
#: A cell of the tables of cases, in mm of the picture.
WIDE, HIGH, ROOM = 22.0, 24.0, 17.0


def into(cell: int, columns: int, box: tuple[float, float, float, float]) -> np.ndarray:
    """The matrix that puts a box into a cell of a table."""
    left, top, right, bottom = box
    scale = ROOM / max(right - left, bottom - top)
    x, y = cell % columns * WIDE + WIDE / 2, cell // columns * HIGH + 10.5
    matrix = scaling(scale)
    matrix[:, 2] = x - scale * (left + right) / 2, y - scale * (top + bottom) / 2
    return matrix


def table(name: str, title: str, cases: dict, made_of, filled: bool, columns: int = 6) -> None:
    """All cases by name, each with what lies at its distances: outside in red, inside in green."""
    parts = []
    for cell, (case, (path, distances)) in enumerate(cases.items()):
        made = [(made_of(path, d), ROSE if d > 0 else SEA) for d in distances]
        matrix = into(cell, columns, bounds(Path.concatenate([path, *(one for one, _ in made)])))
        parts.append(painted(transform(path, matrix), PAPER) if filled else "")
        parts.append(line(transform(path, matrix), INK, 0.12))
        parts += [line(transform(one, matrix), colour, 0.2) for one, colour in made]
        words = case.split()
        half = (len(words) + 1) // 2 if len(case) > 22 else len(words)
        parts.append(word(cell % columns * WIDE + 11, cell // columns * HIGH + 21, " ".join(words[:half]), 1.5))
        parts.append(word(cell % columns * WIDE + 11, cell // columns * HIGH + 22.8, " ".join(words[half:]), 1.5))
    rows = -(-len(cases) // columns)
    save(name, title, (0, 0, columns * WIDE, rows * HIGH), *parts)


def joins() -> None:
    """One bent line with every join and end."""
    bent = Path.from_points(np.array([[0.0, 0.0], [9.0, 1.0], [2.0, 5.0], [9.0, 9.0]]), closed=False)
    parts = []
    for row, join in enumerate(JOINS):
        for column, ends in enumerate(ENDS):
            moved = transform(bent, translation(4 + column * 17, 5 + row * 17))
            made = around(moved, 1.6, join, ends).path
            parts += [painted(made, "#bfd6d3"), line(made, SEA, 0.2), line(moved, INK, 0.2)]
            parts.append(word(8.5 + column * 17, 16.6 + row * 17, f"{join}, {ends}", 1.6))
    save("joins", "A bent line with every join and end", (0, 0, 55, 52), *parts)


def letter(name: str, x: float, y: float, size: float = 0.03) -> Path:
    from tests.fonts import glyph

    return transform(transform(glyph("serif", name), scaling(size)), translation(x, y))


def circle_of(centre: np.ndarray, radius: float, style: str) -> str:
    return f'<circle cx="{centre[0]:.3f}" cy="{centre[1]:.3f}" r="{radius:.3f}" {style}/>'


def narrow() -> None:
    """The narrowest places of letters and of the space between them."""
    word_ = union(letter("R", 2, 24), letter("a", 20.2, 24), letter("n", 34, 24)).path
    found = narrow_places(word_, 1.9)
    parts = [painted(word_, PAPER), line(word_, INK, 0.1)]
    for (p, q), inside, width in zip(found.points, found.inside, found.width, strict=True):
        colour = ROSE if inside else SEA
        middle, radius = (p + q) / 2, width / 2
        parts.append(
            f'<circle cx="{middle[0]:.3f}" cy="{middle[1]:.3f}" r="{radius:.3f}" fill="{colour}" opacity="0.3"/>'
        )
        parts.append(f'<path d="M{p[0]:.3f} {p[1]:.3f}L{q[0]:.3f} {q[1]:.3f}" stroke="{colour}" stroke-width="0.25"/>')
    save("narrow", "The narrowest places of letters and of the space between them", (0, 1, 54, 26), *parts)


def middles() -> None:
    """The axis of a letter, its middle line, the largest circle in it."""
    a, b = letter("A", 2, 24), letter("a", 30, 24, 0.042)
    axis = mirror_axes(a)[0]
    ends = axis.point + np.array([[-13.0], [13.0]]) * axis.direction
    parts = [painted(a, PAPER), line(a, INK, 0.1), line(Path.from_points(ends, closed=False), ROSE, 0.25)]
    parts.append(word(11, 26.6, f"mirrored within {axis.error_mm:.2f} mm", 1.6))
    made, circle = medial_axis(b, 0.1), largest_circle(b)
    parts += [painted(b, PAPER), line(b, INK, 0.1)]
    for k, m in made.edge:
        (x0, y0), (x1, y1) = made.points[k], made.points[m]
        parts.append(f'<path d="M{x0:.3f} {y0:.3f}L{x1:.3f} {y1:.3f}" stroke="{SEA}" stroke-width="0.25"/>')
    x, y = circle.centre
    parts.append(
        f'<circle cx="{x:.3f}" cy="{y:.3f}" r="{circle.radius:.3f}" fill="none" stroke="{STRAW}" stroke-width="0.3"/>'
    )
    parts += [dots(circle.centre[None], STRAW, 0.3), word(39, 26.6, "middle line and largest circle", 1.6)]
    save("middles", "A letter's axis; another's middle line and largest circle", (0, 2, 56, 26), *parts)


def drawn() -> None:
    table(
        "hard-shapes",
        "Shapes that offsets find hard, with their offsets",
        SHAPES,
        lambda path, d: offset(path, distance_mm=d).path,
        filled=True,
    )
    title = "Lines that offsets find hard, with theirs"
    table("hard-lines", title, LINES, lambda path, d: around(path, d).path, filled=False)
    joins()
    narrow()
    middles()
