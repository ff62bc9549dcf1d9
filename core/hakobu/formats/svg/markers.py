"""Where markers stand on a shape and which way they look. Source: SVG 2, section 13.7.4."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ...geometry.build import Built
from ...geometry.path import ARC


def vertices(built: Built) -> Iterator[tuple[str, float, float, float]]:
    """("start", "mid" or "end", x, y, angle in radians) of each vertex of all outlines, in order."""
    ends = [*built.starts[1:], len(built.rows)]
    total = sum(last - first + 1 for first, last in zip(built.starts, ends, strict=True))
    number = 0
    for k, (first, last) in enumerate(zip(built.starts, ends, strict=True)):
        directions = [_directions(built, i) for i in range(first, last)]
        closed = built.closed[k]
        for i in range(last - first + 1):
            before = directions[i - 1][1] if i > 0 or closed else None
            after = directions[i % (last - first)][0] if i < last - first or closed else None
            row = built.rows[first + min(i, last - first - 1)]
            x, y = row[:2] if i < last - first else row[6:]
            which = "start" if number == 0 else "end" if number == total - 1 else "mid"
            number += 1
            yield which, x, y, _between(before, after)


def _directions(built: Built, i: int) -> tuple[tuple[float, float], tuple[float, float]]:
    x0, y0, x1, y1, x2, y2, x3, y3 = built.rows[i]
    if built.kinds[i] == ARC:
        half = 2 * math.atan(built.bulges[i])
        dx, dy = x3 - x0, y3 - y0
        c, s = math.cos(half), math.sin(half)
        return (dx * c + dy * s, dy * c - dx * s), (dx * c - dy * s, dy * c + dx * s)
    points = [(x0, y0), (x1, y1), (x2, y2), (x3, y3)]
    first = next((_step(points[0], p) for p in points[1:] if p != points[0]), (0.0, 0.0))
    last = next((_step(p, points[3]) for p in points[2::-1] if p != points[3]), (0.0, 0.0))
    return first, last


def _step(a: tuple[float, float], b: tuple[float, float]) -> tuple[float, float]:
    return b[0] - a[0], b[1] - a[1]


def _between(before: tuple[float, float] | None, after: tuple[float, float] | None) -> float:
    """Half way from the direction in to the direction out."""
    if before is None or after is None:
        dx, dy = after or before or (1.0, 0.0)
        return math.atan2(dy, dx)
    first = math.atan2(before[1], before[0])
    turn = math.atan2(before[0] * after[1] - before[1] * after[0], before[0] * after[0] + before[1] * after[1])
    return first + turn / 2
