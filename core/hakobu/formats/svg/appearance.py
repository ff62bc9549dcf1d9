"""Fill and stroke of an SVG element as plain paint."""

from __future__ import annotations

from dataclasses import dataclass

from ...model import Fill, Stroke
from .style import color_of
from .values import Viewport, user_units
from .xml_tree import Node


@dataclass(frozen=True)
class Looks:
    fill: Fill | None
    stroke: Stroke | None
    fill_rule: str
    opacity: float

    @property
    def invisible(self) -> bool:
        return self.opacity == 0 or not (self.fill or self.stroke)


def looks_of(
    style: dict[str, str], opacity: float, scale: float, root_scale: float, by_id: dict[str, Node], viewport: Viewport
) -> tuple[Looks, list[str]]:
    """The looks, and in phrases what was simplified."""
    said: list[str] = []
    fill = _paint(style, "fill", by_id, said)
    line = _paint(style, "stroke", by_id, said)
    stroke = None
    if line:
        if style.get("vector-effect") == "non-scaling-stroke":
            scale = root_scale
        width = viewport.any_way(style["stroke-width"], 1.0) * scale
        lengths = [viewport.any_way(word, -1.0) for word in style["stroke-dasharray"].replace(",", " ").split()]
        dashes = tuple(n * scale for n in lengths) if style["stroke-dasharray"] != "none" else ()
        # An odd number of dashes is run through twice (SVG 2, section 13.5.6).
        dashes = dashes * 2 if len(dashes) % 2 else dashes
        if any(d < 0 for d in dashes) or not any(dashes):
            dashes = ()
        stroke = Stroke(
            line[0],
            width,
            line[1],
            style["stroke-linecap"] if style["stroke-linecap"] in ("round", "square") else "butt",
            style["stroke-linejoin"] if style["stroke-linejoin"] in ("round", "bevel") else "miter",
            max(user_units(style["stroke-miterlimit"], 1.0, 4.0), 1.0),
            dashes,
            viewport.any_way(style["stroke-dashoffset"]) * scale,
        )
        stroke = stroke if width > 0 else None
    rule = "evenodd" if style["fill-rule"] == "evenodd" else "nonzero"
    return Looks(Fill(*fill) if fill else None, stroke, rule, opacity), said


def _paint(style: dict[str, str], name: str, by_id: dict[str, Node], said: list[str]) -> tuple[str, float] | None:
    """Colour and opacity of a paint, or None for none, for nothing to see, and for what is no paint."""
    value = style[name].strip()
    found = None
    if value.startswith("url("):
        reference, _, fallback = value[4:].partition(")")
        target = by_id.get(reference.strip("\"' ").removeprefix("#"))
        said.append(f"A {target.tag if target else 'paint'} is taken as one plain colour")
        found = _first_stop(target, by_id, style) or color_of(fallback.strip(), style["color"]) or ("#808080", 1.0)
    elif value != "none":
        found = color_of(value, style["color"])
        if found is None:
            said.append(f'The colour "{value[:30]}" is not known')
            found = ("#000000", 1.0)
    if found is None:
        return None
    opacity = found[1] * min(max(user_units(style[f"{name}-opacity"], 1.0, 1.0), 0.0), 1.0)
    return (found[0], opacity) if opacity > 0 else None


def _first_stop(node: Node | None, by_id: dict[str, Node], style: dict[str, str], depth: int = 8):
    """The colour of a gradient's first stop, through references to other gradients."""
    if node is None or depth == 0:
        return None
    for child in node.children:
        if child.tag == "stop":
            declared = dict(part.split(":", 1) for part in child.attributes.get("style", "").split(";") if ":" in part)
            color = {k.strip(): v for k, v in declared.items()}.get("stop-color", child.attributes.get("stop-color"))
            return color_of((color or "black").strip(), style["color"])
    return _first_stop(by_id.get(node.attributes.get("href", "").removeprefix("#")), by_id, style, depth - 1)
