"""The walk through an SVG tree: transforms and styles handed down, references followed, shapes drawn."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass, replace

import numpy as np

from ...geometry import PathBuilder, compose, translation
from ...geometry.build import Built
from ...model.errors import TooMuch
from ...model.notices import DAMAGED, EXTERNAL, LIVE_TEXT, NOT_UNDERSTOOD, TAKEN_PLAINLY, Notice
from ..format import ReadOptions
from .appearance import Looks, looks_of
from .shapes import SHAPES, Viewport, draw
from .style import INHERITED, StyleSheet, resolve
from .values import fit_view_box, parse_transform, parse_view_box, user_units
from .xml_tree import Node

#: Drawn only where something refers to them, or not drawings at all.
NOT_DRAWN = {"defs", "symbol", "clipPath", "mask", "marker", "pattern", "linearGradient", "radialGradient", "filter"}
NOT_DRAWN |= {
    "title",
    "desc",
    "metadata",
    "style",
    "view",
    "cursor",
    "font",
    "font-face",
    "color-profile",
    "solidcolor",
}
#: Moving or programmed parts: the drawing is taken as it stands.
LIVELY = {"animate", "animateTransform", "animateMotion", "animateColor", "set", "script", "discard"}
_MARKERS = "Arrow heads or markers on lines are left out"
#: Properties that change the picture in ways that are not followed.
UNFOLLOWED = (
    ("clip-path", NOT_UNDERSTOOD, "A clipping is not followed: lines outside it are still there"),
    ("mask", NOT_UNDERSTOOD, "A mask is not followed: lines behind it are still there"),
    ("filter", TAKEN_PLAINLY, "A filter effect is left out"),
    ("marker", NOT_UNDERSTOOD, _MARKERS),
    ("marker-start", NOT_UNDERSTOOD, _MARKERS),
    ("marker-mid", NOT_UNDERSTOOD, _MARKERS),
    ("marker-end", NOT_UNDERSTOOD, _MARKERS),
)
#: A pen stretched by less than this looks round.
EVEN_STRETCH = 1.01
CONTAINERS = {"g", "a", "svg", "switch"}


@dataclass(frozen=True)
class State:
    """What is handed down: matrix to mm, properties, opacity so far, visibility, viewport, place in file and groups."""

    matrix: np.ndarray
    style: dict[str, str]
    viewport: Viewport
    opacity: float = 1.0
    hidden: bool = False
    anchor: str = ""
    groups: tuple[str, ...] = ()
    uses: tuple[int, ...] = ()


@dataclass(frozen=True)
class Drawn:
    """A shape: its outlines in its own units, the matrix that takes them to mm, its looks, and where it stands."""

    anchor: str
    built: Built
    matrix: np.ndarray
    line: int
    looks: Looks
    name: str
    hidden: bool
    groups: tuple[str, ...]


class Walk:
    def __init__(self, options: ReadOptions, sheet: StyleSheet, by_id: dict[str, Node]) -> None:
        self.options, self.sheet, self.by_id = options, sheet, by_id
        self.drawn: list[Drawn] = []
        self.group_names: dict[str, tuple[str, bool, str | None, dict]] = {}
        self.notices: list = []
        self._counted: Counter[tuple[Notice, str]] = Counter()
        self._lines: dict[tuple[Notice, str], int] = {}
        self._copies = 0
        self._segments = 0
        self._root_scale = 1.0

    # -- what is said about the file ---------------------------------------------------------------------------------
    def say(self, notice: Notice, what: str, line: int) -> None:
        """Remembers something to be said once, with the number of times and the first line."""
        self._counted[notice, what] += 1
        self._lines.setdefault((notice, what), line)

    def findings(self):
        for (notice, what), count in self._counted.items():
            line = self._lines[notice, what]
            times = f"{count} times, first in line {line}" if count > 1 else f"in line {line}"
            yield notice.at(f"{what} ({times}).", what, count=count, line=line)
        for selector in dict.fromkeys(self.sheet.not_understood):
            yield TAKEN_PLAINLY.at(f'The style rule for "{selector}" was not followed.', selector)
        yield from self.notices

    # -- the walk ----------------------------------------------------------------------------------------------------
    def root(self, node: Node, matrix: np.ndarray, viewport: Viewport) -> None:
        self._root_scale = _scale(matrix)
        # A transform on the outermost element is the page's, which is laid out without it.
        attributes = {name: value for name, value in node.attributes.items() if name != "transform"}
        root = replace(node, attributes=attributes)
        self._children(node, self._styled(root, State(matrix, dict(INHERITED), viewport), ""))

    def _children(self, node: Node, state: State) -> None:
        seen: Counter[str] = Counter()
        for child in node.children:
            seen[child.tag] += 1
            self._element(child, state, f"{state.anchor}/{child.tag}[{seen[child.tag]}]")

    def _element(self, node: Node, state: State, anchor: str) -> None:
        tag = node.tag
        if tag in NOT_DRAWN or ":" in tag:
            return
        if tag in LIVELY:
            what = "A script is left out" if tag == "script" else "A moving part is taken as it stands"
            return self.say(TAKEN_PLAINLY, what, node.line)
        state = self._styled(node, state, anchor)
        if tag in SHAPES:
            self._shape(node, state)
        elif tag in CONTAINERS:
            self._container(node, state)
        elif tag == "use":
            self._use(node, state)
        elif tag == "text":
            words = " ".join(_all_text(node).split())[:40]
            self.say(LIVE_TEXT, f'"{words}" is text, not outlines', node.line)
        elif tag == "image":
            self._image(node)
        else:
            self.say(NOT_UNDERSTOOD, f"<{tag[:30]}> is not known here", node.line)

    def _styled(self, node: Node, state: State, anchor: str) -> State:
        """What is handed down to an element and its children; what is not followed is said."""
        inherited = {name: state.style[name] for name in INHERITED}
        style = resolve(node.tag, node.attributes, inherited, self.sheet)
        matrix, opacity = state.matrix, state.opacity
        if len(style) > len(INHERITED):
            matrix = self._moved(style, matrix, node)
            opacity *= min(max(user_units(style.get("opacity"), 1.0, 1.0), 0.0), 1.0)
            self._say_unfollowed(style, node)
        hidden = state.hidden or style.get("display") == "none"
        return State(matrix, style, state.viewport, opacity, hidden, anchor, state.groups, state.uses)

    def _moved(self, style: dict[str, str], matrix: np.ndarray, node: Node) -> np.ndarray:
        text = style.get("transform", "none")
        if text == "none":
            return matrix
        part = parse_transform(text)
        if part is None:
            self.say(DAMAGED, f'A transform cannot be read: "{text[:40]}"', node.line)
            return matrix
        return compose(matrix, part)

    def _say_unfollowed(self, style: dict[str, str], node: Node) -> None:
        for name, notice, what in UNFOLLOWED:
            if style.get(name, "none") != "none":
                self.say(notice, what, node.line)

    def _container(self, node: Node, state: State) -> None:
        if node.tag == "svg":
            state = self._nested(node, state)
        title = next((child.text.strip() for child in node.children if child.tag == "title"), "")
        name = title or node.attributes.get("id", "")
        self.group_names[state.anchor] = (name, bool(title), state.style.get("color"), node.attributes)
        state = replace(state, groups=(*state.groups, state.anchor))
        if node.tag == "switch":
            conditions = ("requiredExtensions", "requiredFeatures", "systemLanguage")
            plain = [
                c for c in node.children if c.tag not in NOT_DRAWN and not any(k in c.attributes for k in conditions)
            ]
            if plain:
                self._element(plain[0], state, f"{state.anchor}/{plain[0].tag}[1]")
            return
        self._children(node, state)

    def _nested(self, node: Node, state: State) -> State:
        a, viewport = node.attributes, state.viewport
        width = user_units(a.get("width"), viewport.width, viewport.width)
        height = user_units(a.get("height"), viewport.height, viewport.height)
        x, y = user_units(a.get("x"), viewport.width), user_units(a.get("y"), viewport.height)
        matrix = compose(state.matrix, translation(x, y))
        view_box = parse_view_box(a.get("viewBox"))
        if view_box and width > 0 and height > 0:
            matrix = compose(matrix, fit_view_box(view_box, width, height, a.get("preserveAspectRatio")))
            return replace(state, matrix=matrix, viewport=Viewport(*view_box[2:]))
        return replace(state, matrix=matrix, viewport=Viewport(width, height))

    def _use(self, node: Node, state: State) -> None:
        reference = node.attributes.get("href", "")
        if not reference.startswith("#"):
            return self.say(EXTERNAL, f'A copy is taken from "{reference[:60]}"', node.line)
        target = self.by_id.get(reference[1:])
        if target is None:
            return self.say(DAMAGED, f'A copy refers to "{reference[:40]}", which is not in the file', node.line)
        if id(target) in state.uses or len(state.uses) > 40:
            return self.say(DAMAGED, f'A copy of "{reference[:40]}" contains itself', node.line)
        self._copies += 1
        if self._copies > self.options.budget.copies:
            raise TooMuch(
                f"It repeats its parts more than {self.options.budget.copies:,} times: such a file is not read."
            )
        x = user_units(node.attributes.get("x"), state.viewport.width)
        y = user_units(node.attributes.get("y"), state.viewport.height)
        matrix = compose(state.matrix, translation(x, y))
        anchor = f"{state.anchor}/{target.tag}[1]"
        state = replace(state, matrix=matrix, uses=(*state.uses, id(target)))
        if target.tag == "symbol":
            size = {k: v for k, v in node.attributes.items() if k in ("width", "height")}
            state = self._styled(target, state, anchor)
            attributes = {"width": "100%", "height": "100%", **target.attributes, **size}
            self._children(target, self._nested(replace(target, attributes=attributes), state))
        else:
            self._element(target, state, anchor)

    def _image(self, node: Node) -> None:
        reference = node.attributes.get("href", "")
        if reference.startswith("data:"):
            self.say(NOT_UNDERSTOOD, "A picture inside the drawing is not taken in yet", node.line)
        else:
            self.say(EXTERNAL, f'A picture lies in "{reference[:60]}"', node.line)

    def _shape(self, node: Node, state: State) -> None:
        builder = PathBuilder(_scale(state.matrix))
        wrong = draw(node, builder, state.viewport)
        if wrong:
            self.say(DAMAGED, f"A {node.tag} is drawn only up to its fault: {wrong}", node.line)
        built = builder.built()
        if not built.rows:
            return
        self._segments += len(built.rows)
        if self._segments > self.options.budget.segments:
            most = self.options.budget.segments
            raise TooMuch(f"It holds more than {most:,} curves, the most that are read; split it.")
        looks, said = looks_of(state.style, state.opacity, _scale(state.matrix), self._root_scale, self.by_id)
        if looks.stroke and _stretch(state.matrix) > EVEN_STRETCH:
            said.append("A line is broader one way than the other; it is taken as evenly broad")
        for what in said:
            self.say(TAKEN_PLAINLY, what, node.line)
        hidden = state.hidden or state.style["visibility"] != "visible"
        title = next((child.text.strip() for child in node.children if child.tag == "title"), "")
        name = title or node.attributes.get("id", "")
        drawn = Drawn(state.anchor, built, state.matrix, node.line, looks, name, hidden, state.groups)
        self.drawn.append(drawn)


def _scale(matrix: np.ndarray) -> float:
    """The mean scale of a matrix: what it does to stroke widths."""
    (a, c, _), (b, d, _) = matrix.tolist()
    return abs(a * d - b * c) ** 0.5 or 1e-12


def _stretch(matrix: np.ndarray) -> float:
    """How much more a matrix enlarges in one direction than in another, as a ratio."""
    (a, c, _), (b, d, _) = matrix.tolist()
    size, turn = math.hypot(a + d, b - c), math.hypot(a - d, b + c)
    return (size + turn) / max(abs(size - turn), 1e-12)


def _all_text(node: Node) -> str:
    return node.text + " ".join(_all_text(child) for child in node.children)
