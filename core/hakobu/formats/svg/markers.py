"""Markers: where they stand on a shape, which way they look, and what they draw. Source: SVG 2, section 13.7."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np

from ...geometry import compose, translation
from ...geometry.build import Built
from ...geometry.path import ARC
from ...model.notices import DAMAGED
from .state import State
from .style import INHERITED, reference_of
from .values import fit_view_box, parse_view_box, user_units
from .xml_tree import Node

if TYPE_CHECKING:
    from .walk import Walk


def vertices(built: Built) -> Iterator[tuple[str, float, float, float]]:
    """("start", "mid" or "end", x, y, angle in radians) of each vertex of all outlines, in order."""
    ends = [*built.starts[1:], len(built.kinds)]
    total = sum(last - first + 1 for first, last in zip(built.starts, ends, strict=True))
    number = 0
    for k, (first, last) in enumerate(zip(built.starts, ends, strict=True)):
        directions = [_directions(built, i) for i in range(first, last)]
        closed = built.closed[k]
        for i in range(last - first + 1):
            before = directions[i - 1][1] if i > 0 or closed else None
            after = directions[i % (last - first)][0] if i < last - first or closed else None
            row = built.row(first + min(i, last - first - 1))
            x, y = row[:2] if i < last - first else row[6:]
            which = "start" if number == 0 else "end" if number == total - 1 else "mid"
            number += 1
            yield which, x, y, _between(before, after)


def _directions(built: Built, i: int) -> tuple[tuple[float, float], tuple[float, float]]:
    x0, y0, x1, y1, x2, y2, x3, y3 = built.row(i)
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


def draw_markers(walk: Walk, node: Node, built: Built, state: State) -> None:
    """Arrow heads and the like, each drawn as what it is made of (SVG 2, section 13.7)."""
    names = {which: state.style[f"marker-{which}"] for which in ("start", "mid", "end")}
    if all(name == "none" for name in names.values()) or state.hidden:
        return
    width = state.viewport.any_way(state.style["stroke-width"], 1.0)
    for number, (which, x, y, angle) in enumerate(vertices(built)):
        target = walk.by_id.get(reference_of(names[which]) or "")
        if target is None or target.tag != "marker":
            if names[which] != "none":
                walk.say(DAMAGED, "A marker refers to something that is not there", node.line)
            continue
        if not walk.enters(target, state):
            return walk.say(DAMAGED, "A marker contains itself", node.line)
        a = target.attributes
        scale = 1.0 if a.get("markerUnits") == "userSpaceOnUse" else width
        turn = _turn(a.get("orient", "0"), angle, which)
        own = walk.styled(target, replace(state, style=dict(INHERITED)), f"{state.anchor}/marker[{number + 1}]")
        placed = compose(state.matrix, _turned_about(x, y, turn, scale))
        inner = replace(own, matrix=placed, uses=(*state.uses, target.number), opacity=state.opacity)
        walk.children(target, _in_marker(walk, target, inner))
    return None


def _in_marker(walk: Walk, target: Node, state: State) -> State:
    a = target.attributes
    width, height = user_units(a.get("markerWidth"), 0.0, 3.0), user_units(a.get("markerHeight"), 0.0, 3.0)
    sized = replace(target, attributes={**a, "x": "0", "y": "0", "width": f"{width}", "height": f"{height}"})
    view_box = parse_view_box(a.get("viewBox"))
    fit = fit_view_box(view_box, width, height, a.get("preserveAspectRatio")) if view_box else None
    reference = np.array([user_units(a.get("refX"), width), user_units(a.get("refY"), height)])
    if fit is not None:
        reference = fit[:, :2] @ reference + fit[:, 2]
    moved = compose(state.matrix, translation(*(-reference)))
    return walk.nested(sized, replace(state, matrix=moved))


def _turn(orient: str, angle: float, which: str) -> float:
    """The angle of a marker in radians."""
    if orient.startswith("auto"):
        return angle + (math.pi if orient == "auto-start-reverse" and which == "start" else 0.0)
    degrees = orient.removesuffix("deg").strip()
    try:
        return math.radians(float(degrees))
    except ValueError:
        return 0.0


def _turned_about(x: float, y: float, turn: float, scale: float) -> np.ndarray:
    c, s = scale * math.cos(turn), scale * math.sin(turn)
    return np.array([[c, -s, x], [s, c, y]])
