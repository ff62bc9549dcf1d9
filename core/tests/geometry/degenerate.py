"""Degenerate cases by name, with their right answers: how, shapes, area in mm2, outlines, and bounds of their own."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from hakobu.geometry import Path, PathBuilder, rotation, transform
from hakobu.geometry.boolean import Operand

from ..shapes import begun_at, blob, circle, square
from .curves import four_cubic_circle, polygon, regular, split_at, total_area


class Bounds(NamedTuple):
    """digits: decimal places of the area in mm2. exact: no node is moved, which is false where nodes that nearly meet
    become one. factors: the sizes at which the case still means the same."""

    digits: int = 5
    exact: bool = True
    factors: tuple[float, ...] = (1.0, 40.0, 0.05)


#: Nodes that nearly meet become one.
NEAR = Bounds(exact=False)
#: Smaller, it would be less than a node wide; a sliver has its area to fewer digits.
THIN = Bounds(factors=(1.0, 40.0))
SLIM = Bounds(digits=3, factors=(1.0, 40.0))
#: Larger, a millionth would be more than a node.
TINY = Bounds(factors=(1.0,))
FAR = Bounds(factors=(1.0, 0.05))


def half_disc(turn: float = 0.0) -> Path:
    """Radius 5 about the origin, the half with y > 0, turned."""
    builder = PathBuilder()
    builder.move_to((5.0, 0.0))
    builder.bulge_to(1.0, (-5.0, 0.0))
    builder.close()
    return transform(builder.path(), rotation(turn))


def closed_cubic(*points) -> Path:
    builder = PathBuilder()
    builder.move_to(points[0])
    builder.cubic_to(*points[1:])
    builder.close()
    return builder.path()


def star(radius: float = 10.0) -> Path:
    """Five points, drawn in one go."""
    return Path.from_points(regular(5, radius).ctrl[[0, 2, 4, 1, 3], 0], closed=True)


def box(x: float, y: float, width: float, height: float) -> Path:
    return polygon((x, y), (x + width, y), (x + width, y + height), (x, y + height))


INNER = 10 * math.cos(math.radians(72)) / math.cos(math.radians(36))
STAR = 5 * 10 * INNER * math.sin(math.radians(36))
PENTAGON = 2.5 * INNER**2 * math.sin(math.radians(72))
#: y dx = 30 t (1 - t) 30 (1 - 2t)^2 dt from 0 to 1.
CUSP, CUSP_AREA = closed_cubic((0.0, 0.0), (10.0, 10.0), (0.0, 10.0), (10.0, 0.0)), 30.0
LOOP = closed_cubic((0.0, 0.0), (30.0, 20.0), (-20.0, 20.0), (10.0, 0.0))
FOUR = four_cubic_circle(0, 0, 10)
BLOB = blob().outline(0)


def _loop_areas() -> tuple[float, float]:
    """Of the cubic's loop and of the rest, by integrating y dx of its polynomials between its crossing's parameters."""
    t = np.polynomial.Polynomial([0, 1])
    x, y = 90 * t * (1 - t) ** 2 - 60 * t**2 * (1 - t) + 10 * t**3, 60 * t * (1 - t)
    # x(t) = x(1 - t) = 5 where the curve, alike on both sides of x = 5, crosses itself.
    crossing = min(r.real for r in (x - 5).roots() if 1e-6 < r.real < 0.5 - 1e-6)
    whole = (y * x.deriv()).integ()
    inner = whole(1 - crossing) - whole(crossing)
    return abs(inner), abs(whole(1) - whole(0) - inner)


LOOP_AREA, LOOP_REST = _loop_areas()
ACROSS, DOWN = polygon((0, 4), (10, 4), (10, 6), (0, 6)), polygon((4, 0), (6, 0), (6, 10), (4, 10))
SPIKED = polygon((0, 0), (10, 0), (10, 10), (5, 10), (5, 20), (5, 10), (0, 10))
RING, TURNED = circle(0, 0, 3), transform(circle(0, 0, 3), rotation(0.7))
SQUARE, DISC = square(0, 0, 10), circle(5, 5, 5)
KISSING = (circle(0, 0, 5), circle(10, 0, 5), circle(5, 5 * math.sqrt(3), 5))
TRIANGLE = (circle(0, 0, 10), circle(10, 0, 10), circle(5, 5 * math.sqrt(3), 10))
#: Name, how, shapes, area, outlines.
NAMED = (
    ("the same square united", "union", (SQUARE, SQUARE), 100.0, 1),
    ("the same square taken away", "difference", (SQUARE, SQUARE), 0.0, 0),
    ("the same square reversed, taken away", "difference", (SQUARE, SQUARE.reversed()), 0.0, 0),
    ("the same square begun elsewhere", "xor", (SQUARE, begun_at(SQUARE, 2)), 0.0, 0),
    ("the same square cut with itself", "intersection", (SQUARE, SQUARE), 100.0, 1),
    ("sixty copies", "union", tuple(begun_at(SQUARE, i % 4) for i in range(60)), 100.0, 1),
    ("squares that share a side", "union", (SQUARE, square(10, 0, 10)), 200.0, 1),
    ("squares that share part of a side", "union", (SQUARE, square(10, 3, 10)), 200.0, 1),
    ("what squares that share a side have in common", "intersection", (SQUARE, square(10, 0, 10)), 0.0, 0),
    ("squares that share a corner", "union", (SQUARE, square(10, 10, 10)), 200.0, 2),
    ("a smaller square in the corner", "difference", (SQUARE, square(0, 0, 4)), 84.0, 1),
    ("a square along one side", "difference", (SQUARE, square(3, 0, 4)), 84.0, 1),
    ("a hole", "difference", (SQUARE, square(3, 3, 4)), 84.0, 2),
    ("a hole that touches the side", "difference", (SQUARE, polygon((0, 5), (4, 3), (4, 7))), 92.0, 1),
    ("an inscribed circle", "difference", (SQUARE, DISC), 100 - 25 * math.pi, 4),
    ("an inscribed circle united", "union", (SQUARE, DISC), 100.0, 1),
    ("circles tangent outside", "union", (circle(0, 0, 5), circle(10, 0, 5)), 50 * math.pi, 2),
    ("circles tangent inside, taken away", "difference", (circle(0, 0, 10), circle(5, 0, 5)), 75 * math.pi, 1),
    ("circles tangent inside, united", "union", (circle(0, 0, 10), circle(5, 0, 5)), 100 * math.pi, 1),
    ("one circle on itself", "union", (circle(1, 2, 3), circle(1, 2, 3)), 9 * math.pi, 1),
    (
        "one circle on itself, turned",
        "difference",
        (circle(0, 0, 3), transform(circle(0, 0, 3), rotation(0.7))),
        0.0,
        0,
    ),
    ("a ring", "difference", (circle(0, 0, 10), circle(0, 0, 4)), 84 * math.pi, 2),
    ("a bow-tie", "union", (polygon((0, 0), (10, 10), (10, 0), (0, 10)),), 50.0, 2),
    ("nothing with something", "union", (Path.concatenate([]), SQUARE), 100.0, 1),
    ("something without nothing", "difference", (SQUARE, Path.concatenate([])), 100.0, 1),
    ("far apart", "union", (SQUARE, square(100, 100, 10)), 200.0, 2),
    ("far apart, in common", "intersection", (SQUARE, square(100, 100, 10)), 0.0, 0),
    ("a line of no area", "union", (SQUARE, polygon((2, 2), (8, 8))), 100.0, 1),
    (
        "a spike on a square",
        "union",
        (polygon((0, 0), (10, 0), (10, 10), (5, 10), (5, 20), (5, 10), (0, 10)),),
        100.0,
        1,
    ),
    (
        "a sliver beside",
        "union",
        (SQUARE, polygon((10, 0), (10.001, 0), (10.001, 10), (10, 10))),
        100.01,
        1,
        SLIM,
    ),
    (
        "shifted by less than a node",
        "difference",
        (SQUARE, square(1e-9, 0, 10)),
        0.0,
        0,
        THIN,
    ),
    ("three that meet in a point", "union", (SQUARE, square(-10, 0, 10), square(0, -10, 10)), 300.0, 1),
    ("a frame and its filling", "union", (SQUARE, polygon((2, 2), (8, 2), (8, 8), (2, 8))), 100.0, 1),
    ("a square and its reverse in one path", "union", (Path.concatenate([SQUARE, SQUARE.reversed()]),), 0.0, 0),
    ("a lone node", "union", (Path.from_points(np.array([[1.0, 1.0]]), False),), 0.0, 0),
    ("a lone node and a square", "union", (Path.from_points(np.array([[1.0, 1.0]]), False), SQUARE), 100.0, 1),
    ("a bare line", "union", (Path.from_points(np.array([[1.0, 1.0], [5.0, 5.0]]), False),), 0.0, 0),
    ("crossing bars", "union", (ACROSS, DOWN), 36.0, 1),
    ("a grid of bars", "intersection", (ACROSS, DOWN), 4.0, 1),
    ("shifted by a millionth", "difference", (SQUARE, square(0, 1e-6, 10)), 0.0, 0, TINY),
    (
        "shifted by a thousandth",
        "difference",
        (SQUARE, square(1e-3, 0, 10)),
        0.01,
        1,
        THIN,
    ),
    ("shifted by a hundredth", "xor", (SQUARE, square(0.01, 0, 10)), 0.2, 2, THIN),
    (
        "cut through by a hairline",
        "difference",
        (SQUARE, box(-1, 5, 12, 1e-3)),
        99.99,
        2,
        THIN,
    ),
    ("a cusp", "union", (CUSP,), CUSP_AREA, 1),
    ("a cusp on itself", "xor", (CUSP, CUSP), 0.0, 0),
    ("a cusp over its own tip", "union", (CUSP, box(4, 5, 2, 5)), None, 1),
    ("the loop of a cubic", "union", (LOOP,), LOOP_AREA + LOOP_REST, 2),
    ("the loop of a cubic, even-odd", "union", (Operand(LOOP, "evenodd"),), LOOP_AREA + LOOP_REST, 2),
    ("the loop of a cubic on itself", "difference", (LOOP, begun_at(LOOP, 1)), 0.0, 0),
    ("a figure eight, even-odd", "union", (Operand(polygon((0, 0), (10, 10), (10, 0), (0, 10)), "evenodd"),), 50.0, 2),
    ("a star", "union", (star(),), STAR, 1),
    ("a star, even-odd", "union", (Operand(star(), "evenodd"),), STAR - PENTAGON, 5),
    ("a star on its reverse", "intersection", (star(), star().reversed()), STAR, 1),
    ("half a disc on the whole", "union", (circle(0, 0, 5), half_disc()), 25 * math.pi, 1),
    ("half a disc of the whole", "intersection", (circle(0, 0, 5), half_disc(0.7)), 12.5 * math.pi, 1),
    ("halves that share a quarter", "intersection", (half_disc(), half_disc(math.pi / 2)), 6.25 * math.pi, 1),
    ("halves that make a disc", "union", (half_disc(), half_disc(math.pi)), 25 * math.pi, 1),
    ("a round hole that touches the side", "difference", (SQUARE, circle(2, 5, 2)), 100 - 4 * math.pi, 1),
    ("zero-length segments", "union", (polygon((0, 0), (0, 0), (10, 0), (10, 10), (10, 10), (0, 10)),), 100.0, 1),
    ("nodes in line", "union", (polygon((0, 0), (4, 0), (7, 0), (10, 0), (10, 10), (0, 10)), SQUARE), 100.0, 1),
    ("a shape of no width on a side", "union", (SQUARE, polygon((0, 0), (10, 0), (10, 0), (0, 0))), 100.0, 1),
    ("a spike inwards", "union", (polygon((0, 0), (5, 0), (5, 5), (5, 0), (10, 0), (10, 10), (0, 10)),), 100.0, 1),
    ("one circle on its reverse", "union", (circle(0, 0, 5), circle(0, 0, 5).reversed()), 25 * math.pi, 1),
    ("circles about one centre", "union", (circle(0, 0, 5), circle(0, 0, 4), circle(0, 0, 3)), 25 * math.pi, 1),
    ("three circles that touch each other", "union", (*KISSING,), 75 * math.pi, 3),
    ("what three circles have in common", "intersection", (*TRIANGLE,), (math.pi - math.sqrt(3)) * 50, 1),
    (
        "four bars round a hole",
        "union",
        (box(0, 0, 10, 2), box(8, 0, 2, 10), box(0, 8, 10, 2), box(0, 0, 2, 10)),
        64.0,
        2,
    ),
    ("a corner on a side", "union", (SQUARE, polygon((10, 5), (15, 0), (15, 10))), 125.0, 2),
    ("twenty strips side by side", "union", tuple(box(k, 0, 1, 5) for k in range(20)), 100.0, 1),
    ("a board of squares", "union", tuple(square(i, j, 1) for i in range(5) for j in range(5)), 25.0, 1),
    (
        "every other square of a board",
        "union",
        tuple(square(i, j, 1) for i in range(4) for j in range(i % 2, 4, 2)),
        8.0,
        8,
    ),
    ("holes that share a corner", "difference", (SQUARE, square(2, 2, 3), square(5, 5, 3)), 82.0, 2),
    ("three of the same", "xor", (SQUARE, SQUARE, begun_at(SQUARE, 1)), 100.0, 1),
    ("four of the same", "xor", (SQUARE, SQUARE.reversed(), SQUARE, begun_at(SQUARE, 3)), 0.0, 0),
    ("curves split elsewhere", "xor", (BLOB, split_at(begun_at(BLOB, 1), 0.3)), 0.0, 0),
    ("curves split elsewhere, reversed", "union", (BLOB, split_at(BLOB.reversed(), 0.71)), total_area(BLOB), 1),
    ("sixty copies of curves", "union", tuple(begun_at(FOUR, i % 4) for i in range(60)), total_area(FOUR), 1),
    ("sixty copies of curves, taken away", "difference", tuple(begun_at(FOUR, i % 4) for i in range(60)), 0.0, 0),
    ("a polygon in its circle", "difference", (circle(0, 0, 10), regular(6)), 100 * math.pi - 150 * math.sqrt(3), 6),
    (
        "a million millimetres off",
        "union",
        (square(1e6, 1e6, 10), square(1e6 + 5, 1e6 + 5, 10)),
        175.0,
        1,
        FAR,
    ),
    (
        "circles a million millimetres off",
        "difference",
        (circle(1e6, 0, 10), circle(1e6, 0, 10)),
        0.0,
        0,
        FAR,
    ),
)

#: Too small to be made smaller still.
SMALL = (
    ("squares a thousandth wide", "union", (square(0, 0, 1e-3), square(5e-4, 5e-4, 1e-3)), 1.75e-6, 1),
    ("circles a thousandth wide", "union", (circle(0, 0, 1e-3), circle(5e-4, 0, 1e-3)), None, 1),
    (
        "a hair less than a node, in common",
        "intersection",
        (square(0, 0, 10), square(10 - 1e-5, 0, 10)),
        0.0,
        0,
        NEAR,
    ),
    (
        "a hair more than a node, in common",
        "intersection",
        (square(0, 0, 10), square(10 - 4e-5, 0, 10)),
        4e-4,
        1,
        NEAR,
    ),
    (
        "a hair less than a node, between",
        "union",
        (square(0, 0, 10), square(10 + 1e-5, 0, 10)),
        200.0001,
        1,
        NEAR,
    ),
    (
        "a hair more than a node, between",
        "union",
        (square(0, 0, 10), square(10 + 4e-5, 0, 10)),
        200.0,
        2,
        NEAR,
    ),
)
