"""SVG's basic shapes as outlines. Source: SVG 2, chapter 10, whose order of drawing is kept."""

from __future__ import annotations

from ...geometry import PathBuilder, path_data
from .values import Viewport, numbers, split_length
from .xml_tree import Node


def draw(node: Node, builder: PathBuilder, viewport: Viewport) -> str | None:
    """Draws the shape of an element; returns what was wrong with it, if anything."""
    return SHAPES[node.tag](node, builder, viewport)


def _path(node: Node, builder: PathBuilder, viewport: Viewport) -> str | None:
    data = node.attributes.get("d", "").strip()
    return path_data.draw(data, builder) if data and data != "none" else None


def _rect(node: Node, builder: PathBuilder, viewport: Viewport) -> str | None:
    a = node.attributes
    x, y = viewport.across(a.get("x")), viewport.down(a.get("y"))
    width, height = viewport.across(a.get("width")), viewport.down(a.get("height"))
    if width < 0 or height < 0:
        return "its width or height is below nothing"
    if not width or not height:
        return None
    rx = viewport.across(a.get("rx")) if split_length(a.get("rx")) else None
    ry = viewport.down(a.get("ry")) if split_length(a.get("ry")) else None
    rx, ry = (rx if rx is not None else ry or 0.0), (ry if ry is not None else rx or 0.0)
    rx, ry = min(max(rx, 0.0), width / 2), min(max(ry, 0.0), height / 2)
    right, bottom = x + width, y + height
    if not rx or not ry:
        builder.move_to((x, y))
        for point in ((right, y), (right, bottom), (x, bottom)):
            builder.line_to(point)
    else:
        _rounded(builder, (x, y, right, bottom), rx, ry)
    builder.close()
    return None


def _rounded(builder: PathBuilder, box: tuple[float, float, float, float], rx: float, ry: float) -> None:
    left, top, right, bottom = box
    builder.move_to((left + rx, top))
    sides = (
        ((right - rx, top), (right, top + ry)),
        ((right, bottom - ry), (right - rx, bottom)),
        ((left + rx, bottom), (left, bottom - ry)),
        ((left, top + ry), (left + rx, top)),
    )
    for straight, corner in sides:
        if straight != builder.position:
            builder.line_to(straight)
        builder.elliptical_arc_to(rx, ry, 0.0, False, True, corner)


def _circle(node: Node, builder: PathBuilder, viewport: Viewport) -> str | None:
    a = node.attributes
    radius = viewport.any_way(a.get("r"))
    return _round(builder, a, viewport, radius, radius)


def _ellipse(node: Node, builder: PathBuilder, viewport: Viewport) -> str | None:
    a = node.attributes
    rx, ry = viewport.across(a.get("rx"), -1.0), viewport.down(a.get("ry"), -1.0)
    # One radius that is not given follows the other (SVG 2, section 10.4).
    rx, ry = (ry if a.get("rx") in (None, "auto") else rx), (rx if a.get("ry") in (None, "auto") else ry)
    return _round(builder, a, viewport, max(rx, 0.0) if rx != ry else rx, ry)


def _round(builder: PathBuilder, a: dict, viewport: Viewport, rx: float, ry: float) -> str | None:
    x, y = viewport.across(a.get("cx")), viewport.down(a.get("cy"))
    if rx < 0 or ry < 0:
        return "its radius is below nothing"
    if not rx or not ry:
        return None
    if rx == ry:
        builder.circle(x, y, rx)
        return None
    builder.move_to((x + rx, y))
    for point in ((x, y + ry), (x - rx, y), (x, y - ry), (x + rx, y)):
        builder.elliptical_arc_to(rx, ry, 0.0, False, True, point)
    builder.close()
    return None


def _line(node: Node, builder: PathBuilder, viewport: Viewport) -> str | None:
    a = node.attributes
    builder.move_to((viewport.across(a.get("x1")), viewport.down(a.get("y1"))))
    builder.line_to((viewport.across(a.get("x2")), viewport.down(a.get("y2"))))
    return None


def _poly(node: Node, builder: PathBuilder, viewport: Viewport) -> str | None:
    values = numbers(node.attributes.get("points", ""))
    points = list(zip(values[::2], values[1::2], strict=False))
    if points:
        builder.move_to(points[0])
        for point in points[1:]:
            builder.line_to(point)
        if node.tag == "polygon":
            builder.close()
    return "it has an odd number of coordinates" if len(values) % 2 else None


SHAPES = {
    "path": _path,
    "rect": _rect,
    "circle": _circle,
    "ellipse": _ellipse,
    "line": _line,
    "polyline": _poly,
    "polygon": _poly,
}
