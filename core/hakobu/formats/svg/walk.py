"""The walk through an SVG tree: transforms and styles handed down, references followed, shapes drawn."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from ...errors import TooMuch
from ...geometry import PathBuilder, compose, translation
from ...model import Fill, Finding, Treatment
from ...model.notices import DAMAGED, EXTERNAL, LIVE_TEXT, NOT_UNDERSTOOD, TAKEN_PLAINLY, Notice
from ...model.texts import FoundText
from ..format import ReadOptions
from .appearance import Looks, looks_of
from .images import Embedded, embedded
from .markers import draw_markers
from .shapes import SHAPES, draw
from .state import Clip, Drawn, State, scale_of
from .style import FONT_WORDS, GEOMETRY, INHERITED, StyleSheet, reference_of, resolve
from .transforms import origin_of, parse_transform
from .values import Viewport, fit_view_box, parse_view_box, user_units
from .xml_tree import Node

#: Drawn only where something refers to them, or not drawings at all.
NOT_DRAWN = {"defs", "symbol", "clipPath", "mask", "marker", "pattern", "linearGradient", "radialGradient", "filter"}
NOT_DRAWN |= {"title", "desc", "metadata", "style", "view", "cursor", "font", "font-face", "color-profile"}
NOT_DRAWN |= {"solidcolor", "solidColor", "hatch", "meshgradient"}
#: Moving or programmed parts: the drawing is taken as it stands.
LIVELY = {"animate", "animateTransform", "animateMotion", "animateColor", "set", "script", "discard"}
CONTAINERS = {"g", "a", "svg", "switch"}
#: The language that a `switch` is read in.
LANGUAGE = "en"
#: References within references, at most.
DEEPEST = 40


class Walk:
    def __init__(self, options: ReadOptions, sheet: StyleSheet, by_id: dict[str, Node]) -> None:
        self.options, self.sheet, self.by_id = options, sheet, by_id
        self.drawn: list[Drawn] = []
        self.pictures: list[Embedded] = []
        self.group_names: dict[str, tuple[str, bool, str | None, dict]] = {}
        self.notices: list[Finding] = []
        self._counted: Counter[tuple[Notice, str]] = Counter()
        self._lines: dict[tuple[Notice, str], int] = {}
        self._copies = self._segments = 0
        self._root_scale = 1.0
        #: Whether shapes are areas that clip: then their rule is `clip-rule`, and paint does not matter.
        self.clipping = False

    # -- what is said about the file ---------------------------------------------------------------------------------
    def say(self, notice: Notice, what: str, line: int) -> None:
        """Remembers something to be said once, with the number of times and the first line."""
        self._counted[notice, what] += 1
        self._lines.setdefault((notice, what), line)

    def findings(self) -> Iterator[Finding]:
        for (notice, what), count in self._counted.items():
            line = self._lines[notice, what]
            times = f"{count} times, first in line {line}" if count > 1 else f"in line {line}"
            yield notice.at(f"{what} ({times}).", what, count=count, line=line)
        for selector in dict.fromkeys(self.sheet.not_understood):
            yield TAKEN_PLAINLY.at(f'The style rule for "{selector}" was not followed.', selector)
        for name in dict.fromkeys(self.sheet.outside):
            yield EXTERNAL.at(f'A style sheet lies in "{name}".', name)
        yield from self.notices

    # -- the walk ----------------------------------------------------------------------------------------------------
    def root(self, node: Node, matrix: np.ndarray, viewport: Viewport) -> None:
        self._root_scale = scale_of(matrix)
        # A transform on the outermost element is the page's, which is laid out without it.
        attributes = {name: value for name, value in node.attributes.items() if name != "transform"}
        root = replace(node, attributes=attributes)
        self.children(node, self.styled(root, State(matrix, dict(INHERITED), viewport), ""))

    def children(self, node: Node, state: State) -> None:
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
        state = self.styled(node, state, anchor)
        placed = {name: state.style[name] for name in GEOMETRY if name in state.style}
        if placed:
            node = replace(node, attributes={**node.attributes, **placed})
        if tag in SHAPES:
            self._shape(node, state)
        elif tag in CONTAINERS:
            self._container(node, state)
        elif tag == "use":
            self._use(node, state)
        elif tag == "text":
            self._text(node, state)
        elif tag == "image":
            self._image(node, state)
        else:
            self.say(NOT_UNDERSTOOD, f"<{tag[:30]}> is not known here", node.line)

    def styled(self, node: Node, state: State, anchor: str) -> State:
        """What is handed down to an element and its children; what is not followed is said."""
        inherited = {name: state.style[name] for name in INHERITED}
        style = resolve(node, inherited, self.sheet)
        matrix, opacity, viewport, clips = state.matrix, state.opacity, state.viewport, state.clips
        if style["font-size"] != inherited["font-size"]:
            viewport = replace(viewport, font=self._font(style["font-size"], viewport.font))
            style["font-size"] = f"{viewport.font}px"
        if len(style) > len(INHERITED):
            matrix = self._moved(style, matrix, viewport, node)
            opacity *= _share(style.get("opacity"))
            clips = self._clipped(style, clips, matrix, node, anchor)
            self._say_unfollowed(style, node)
        hidden = state.hidden or style.get("display") == "none"
        return State(matrix, style, viewport, opacity, hidden, anchor, state.groups, state.uses, clips)

    def _font(self, text: str, outer: float) -> float:
        if text in FONT_WORDS:
            return FONT_WORDS[text]
        size = user_units(text, outer, None, outer)
        return size if size is not None and size > 0 else outer

    def _moved(self, style: dict[str, str], matrix: np.ndarray, viewport: Viewport, node: Node) -> np.ndarray:
        text = style.get("transform", "none")
        if text in ("none", ""):
            return matrix
        part = parse_transform(text, viewport)
        origin = origin_of(style.get("transform-origin", ""), viewport)
        if part is None or origin is None:
            self.say(DAMAGED, f'A transform cannot be read: "{text[:40]}"', node.line)
            return matrix
        if style.get("transform-box", "view-box") not in ("view-box", "border-box"):
            self.say(TAKEN_PLAINLY, "A transform about a shape's own box is taken about the page's", node.line)
        x, y = origin
        return compose(matrix, compose(translation(x, y), compose(part, translation(-x, -y))))

    def _clipped(self, style, clips, matrix, node: Node, anchor: str) -> tuple[Clip, ...]:
        value = style.get("clip-path", "none")
        if value == "none":
            return clips
        target = self.by_id.get(reference_of(value) or "")
        if target is None or target.tag != "clipPath":
            known = value.startswith("url(")
            what = (
                "A clipping refers to something that is not there" if known else "A clipping by a CSS shape is left out"
            )
            self.say(DAMAGED if known else NOT_UNDERSTOOD, what, node.line)
            return clips
        return (*clips, Clip(target, matrix, anchor))

    def _say_unfollowed(self, style: dict[str, str], node: Node) -> None:
        if style.get("mask", "none") != "none":
            self.say(NOT_UNDERSTOOD, "A mask is not followed: lines behind it are still there", node.line)
        if style.get("filter", "none") != "none":
            self.say(TAKEN_PLAINLY, "A filter effect is left out", node.line)

    # -- containers and references -----------------------------------------------------------------------------------
    def _container(self, node: Node, state: State) -> None:
        if node.tag == "svg":
            state = self.nested(node, state)
        title = next((child.text.strip() for child in node.children if child.tag == "title"), "")
        noted, layer = _noted(node.attributes)
        name = title or noted or node.attributes.get("id", "")
        self.group_names[state.anchor] = (name, bool(title) or layer, state.style.get("color"), node.attributes)
        state = replace(state, groups=(*state.groups, state.anchor))
        if node.tag == "switch":
            first = next((child for child in node.children if child.tag not in NOT_DRAWN and _applies(child)), None)
            if first is not None:
                self._element(first, state, f"{state.anchor}/{first.tag}[1]")
            return
        self.children(node, state)

    def nested(self, node: Node, state: State) -> State:
        """The state inside a viewport of its own."""
        a, viewport = node.attributes, state.viewport
        width = viewport.across(_given(a.get("width")), viewport.width)
        height = viewport.down(_given(a.get("height")), viewport.height)
        x, y = viewport.across(a.get("x")), viewport.down(a.get("y"))
        matrix = compose(state.matrix, translation(x, y))
        clips = state.clips
        if state.style.get("overflow", "hidden") not in ("visible", "auto"):
            window = Node("rect", {"width": f"{width}", "height": f"{height}"}, node.line)
            clips = (*clips, Clip(Node("clipPath", {}, node.line, children=[window]), matrix, ""))
        view_box = parse_view_box(a.get("viewBox"))
        if view_box and width > 0 and height > 0:
            matrix = compose(matrix, fit_view_box(view_box, width, height, a.get("preserveAspectRatio")))
            width, height = view_box[2:]
        return replace(state, matrix=matrix, viewport=Viewport(width, height, viewport.font), clips=clips)

    def _use(self, node: Node, state: State) -> None:
        reference = node.attributes.get("href", "").strip()
        if not reference.startswith("#"):
            return self.say(EXTERNAL, f'A copy is taken from "{reference[:60]}"', node.line)
        target = self.by_id.get(reference[1:])
        if target is None:
            return self.say(DAMAGED, f'A copy refers to "{reference[:40]}", which is not in the file', node.line)
        if not self.enters(target, state):
            return self.say(DAMAGED, f'A copy of "{reference[:40]}" contains itself', node.line)
        a = node.attributes
        x, y = state.viewport.across(a.get("x")), state.viewport.down(a.get("y"))
        anchor = f"{state.anchor}/{target.tag}[1]"
        state = replace(state, matrix=compose(state.matrix, translation(x, y)), uses=(*state.uses, target.number))
        if target.tag in ("symbol", "svg"):
            # Its own size, unless the reference states another (SVG 2, section 5.6.2).
            size = {k: v for k, v in a.items() if k in ("width", "height")}
            target = replace(target, attributes={"width": "100%", "height": "100%", **target.attributes, **size})
        if target.tag == "symbol":
            self.children(target, self.nested(target, self.styled(target, state, anchor)))
        else:
            self._element(target, state, anchor)
        return None

    def enters(self, target: Node, state: State) -> bool:
        """Whether a reference may be followed: not into itself. Raises TooMuch where there are too many."""
        if target.number in state.uses or len(state.uses) > DEEPEST:
            return False
        self._copies += 1
        if self._copies > self.options.budget.copies:
            most = self.options.budget.copies
            raise TooMuch(f"It repeats its parts more than {most:,} times: such a file is not read.")
        return True

    # -- text and pictures -------------------------------------------------------------------------------------------
    def _text(self, node: Node, state: State) -> None:
        whole = " ".join(_all_text(node).split())
        words = whole[:40]
        if not words or state.hidden:
            return
        family = state.style["font-family"].split(",")[0].strip("\"' ")
        size = state.viewport.font * scale_of(state.matrix)
        x, y = state.viewport.across(node.attributes.get("x")), state.viewport.down(node.attributes.get("y"))
        place = state.matrix[:, :2] @ (x, y) + state.matrix[:, 2]
        font = f" in {family}," if family else ""
        where = f"{place[0]:.1f}, {place[1]:.1f} mm from the top left"
        message = f'"{words}" is text, not outlines:{font} {size:.1f} mm high, at {where} (line {node.line}).'
        at = tuple(float(v) for v in place) if np.isfinite(place).all() else None
        stated = user_units(node.attributes.get("textLength"), 0.0, None)
        found = FoundText(
            whole, (x, y), state.viewport.font, anchor=_ANCHORS.get(state.style["text-anchor"], "start"),
            family=family, width_mm=stated or 0.0,
        ).moved(state.matrix)  # fmt: skip
        told = found.measure() if found.is_sound() else {}
        self.notices.append(LIVE_TEXT.at(message, f"{state.anchor} {words}", place=at, line=node.line, **told))

    def _image(self, node: Node, state: State) -> None:
        reference = node.attributes.get("href", "").strip()
        if not reference.startswith("data:"):
            return self.say(EXTERNAL, f'A picture lies in "{reference[:60]}"', node.line)
        found = embedded(node, state.matrix, state.viewport, self.options.budget)
        if isinstance(found, str):
            return self.say(NOT_UNDERSTOOD, found, node.line)
        if not state.hidden:
            self.pictures.append(replace(found, anchor=state.anchor, printed_on=self._printed_on(state)))
        return None

    def _printed_on(self, state: State) -> str | None:
        """The name of the group that says that what is in it is printed, as we write it."""
        for anchor in reversed(state.groups):
            name, _, _, attributes = self.group_names[anchor]
            if attributes.get("data-treatment") == Treatment.PRINT.value:
                return name
        return None

    # -- shapes ------------------------------------------------------------------------------------------------------
    def _shape(self, node: Node, state: State) -> None:
        builder = PathBuilder(scale_of(state.matrix))
        wrong = draw(node, builder, state.viewport)
        if wrong:
            self.say(DAMAGED, f"A {node.tag} is drawn only up to its fault: {wrong}", node.line)
        built = builder.built()
        if not built.kinds:
            return
        self._segments += len(built.kinds)
        if self._segments > self.options.budget.segments:
            most = self.options.budget.segments
            raise TooMuch(f"It holds more than {most:,} curves, the most that are read; split it.")
        scale = scale_of(state.matrix)
        looks, said = looks_of(state.style, state.opacity, scale, self._root_scale, self.by_id, state.viewport)
        if self.clipping:
            looks, said = Looks(Fill("#000000"), None, state.style["clip-rule"], 1.0), []
        hidden = state.hidden or state.style["visibility"] != "visible"
        title = next((child.text.strip() for child in node.children if child.tag == "title"), "")
        name = title or _noted(node.attributes)[0] or node.attributes.get("id", "")
        drawn = Drawn(state.anchor, built, state.matrix, node.line, looks, name, hidden, state.groups, state.clips)
        if looks.stroke and drawn.stretched and self.options.strokes == "lines":
            taken = "the area that it covers" if drawn.stretched_broadly else "evenly broad"
            said.append(f"A line is broader one way than the other; it is taken as {taken}")
        for what in said:
            self.say(TAKEN_PLAINLY, what, node.line)
        self.drawn.append(drawn)
        if node.tag not in ("rect", "circle", "ellipse"):
            draw_markers(self, node, built, state)


#: text-anchor (SVG 2, 11.10), in the words of a text.
_ANCHORS = {"middle": "centre", "end": "end"}


def _share(text: str | None) -> float:
    """An opacity from 0 to 1; a percentage is one as well."""
    return min(max(user_units(text, 1.0, 1.0), 0.0), 1.0)


def _given(text: str | None) -> str | None:
    return None if text == "auto" else text


def _applies(node: Node) -> bool:
    """Whether a child of a `switch` is for us: in our language, and asking for nothing beyond the standard."""
    if node.attributes.get("requiredExtensions", "").strip():
        return False
    languages = node.attributes.get("systemLanguage")
    if languages is None:
        return True
    return any(word.strip().lower().split("-")[0] == LANGUAGE for word in languages.split(","))


def _noted(attributes: dict[str, str]) -> tuple[str, bool]:
    """A name that an editor notes in attributes of its own, and whether it says that the group is a layer."""
    name, layer = attributes.get("data-name", ""), False
    for key, value in attributes.items():
        prefix, colon, word = key.partition(":")
        if colon and prefix not in ("xml", "xmlns", "xlink"):
            if word == "label":
                name = value
            layer = layer or (word == "groupmode" and value == "layer")
    return name.strip(), layer


def _all_text(node: Node) -> str:
    return node.text + " ".join(_all_text(child) for child in node.children)
