"""SVG in: every visible and hidden outline as drawn, in millimetres from the page's top left."""

from __future__ import annotations

from collections.abc import Mapping

from ...errors import UnreadableFile
from ...geometry import scaling
from ...model import Document, Page
from ...model.notices import EXTERNAL, NO_UNIT
from ...model.units import MM_PER_UNIT, FileUnit
from ..format import ReadOptions, ReadResult
from .layering import arrange, placed
from .style import StyleSheet
from .values import Viewport, fit_view_box, parse_view_box, split_length, user_units
from .walk import Walk
from .xml_tree import Node, Tree, parse, unpack

#: What CSS gives a replaced element without a size (CSS 2.1, section 10.3.2).
DEFAULT_PX = (300.0, 150.0)
#: Ten kilometres: a page larger than that is a mistake.
MOST_MM = 1e7


def read(data: bytes, options: ReadOptions) -> ReadResult:
    """The drawing of an SVG or packed SVG file. Raises UnreadableFile or TooMuch."""
    tree = parse(unpack(data, options.budget), options.budget)
    sheet = StyleSheet()
    by_id: dict[str, Node] = {}
    _collect(tree, sheet, by_id)
    walk = Walk(options, sheet, by_id)
    px = MM_PER_UNIT[options.unit or "px"]
    page, unit, by_file = _page(tree.root, px, options)
    view_box = parse_view_box(tree.root.attributes.get("viewBox"))
    if view_box:
        aspect = tree.root.attributes.get("preserveAspectRatio")
        matrix = fit_view_box(view_box, page.width_mm, page.height_mm, aspect)
    else:
        px = MM_PER_UNIT["px"] if by_file else px
        matrix = scaling(px)
    viewport = Viewport(*(view_box[2:] if view_box else (page.width_mm / px, page.height_mm / px)))
    walk.root(tree.root, matrix, viewport)
    for name in tree.outside:
        walk.notices.append(EXTERNAL.at(f'The file refers to "{name[:60]}" outside itself.', name))
    if not unit.stated:
        walk.notices.append(_no_unit(page.width_mm / px, page.height_mm / px))
    layers, pieces, groups = arrange(walk)
    layers, pictures = placed(walk.pictures, layers, options.key)
    document = Document(page, layers, pieces, groups, pictures)
    return ReadResult(document, tuple(walk.findings()), {each.sha256: each.data for each in walk.pictures}, unit)


def _collect(tree: Tree, sheet: StyleSheet, by_id: dict[str, Node]) -> None:
    """Style sheets and ids of the whole file: both may stand behind their use."""
    stack = [tree.root]
    while stack:
        node = stack.pop()
        if node.tag == "style":
            sheet.add(node.text)
        identity = node.attributes.get("id")
        if identity:
            by_id.setdefault(identity, node)
        stack.extend(reversed(node.children))
    sheet.match(tree.root)


def _page(root: Node, px: float, options: ReadOptions) -> tuple[Page, FileUnit, bool]:
    """The page, its unit, and whether the file itself states that; px is what a number without a unit is in mm."""
    a: Mapping[str, str] = root.attributes
    view_box = parse_view_box(a.get("viewBox"))
    fallback = [side * px for side in (view_box[2:] if view_box else DEFAULT_PX)]
    parts = [split_length(a.get(name)) for name in ("width", "height")]
    given = [p is not None and p[1] != "%" and p[0] > 0 for p in parts]
    sizes = [_side(p, px) if ok and p else 0.0 for p, ok in zip(parts, given, strict=True)]
    if not any(given):
        sizes = fallback
    elif not all(given):
        # One side is given: the other follows the viewBox.
        known = 0 if given[0] else 1
        sizes[1 - known] = sizes[known] * fallback[1 - known] / fallback[known]
    if not all(0 < size < MOST_MM for size in sizes):
        raise UnreadableFile(f"Its size of {sizes[0]:g} x {sizes[1]:g} mm cannot be meant.")
    named = [p[1] for ok, p in zip(given, parts, strict=True) if ok and p and p[1] not in ("", "px")]
    page = Page(sizes[0], sizes[1])
    if not named:
        return page, FileUnit(options.unit or "px", px, options.unit is not None), False
    return page, FileUnit(named[0], MM_PER_UNIT.get(named[0], px), True), True


def _side(length: tuple[float, str], px: float) -> float:
    value, unit = length
    if unit in ("", "px"):
        return value * px
    return value * MM_PER_UNIT[unit] if unit in MM_PER_UNIT else user_units(f"{value}{unit}", 0.0) * px


def _no_unit(width: float, height: float):
    mm = MM_PER_UNIT["px"]
    return NO_UNIT.at(
        f"Its page is {width:g} x {height:g} without a unit, read as 96 to an inch: "
        f"{width * mm:.1f} x {height * mm:.1f} mm.",
        "size",
        width_px=width,
        height_px=height,
    )
