"""What CSS and presentation attributes say about an element. Sources: SVG 2, chapters 6 and 13; CSS Cascade 4, 6.4."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import lru_cache
from xml.etree import ElementTree

import tinycss2
from tinycss2.color3 import parse_color

from .xml_tree import Node

INHERITED = {
    "fill": "black",
    "fill-opacity": "1",
    "fill-rule": "nonzero",
    "clip-rule": "nonzero",
    "stroke": "none",
    "stroke-opacity": "1",
    "stroke-width": "1",
    "stroke-linecap": "butt",
    "stroke-linejoin": "miter",
    "stroke-miterlimit": "4",
    "stroke-dasharray": "none",
    "stroke-dashoffset": "0",
    "visibility": "visible",
    "color": "black",
    "font-size": "medium",
    "font-family": "",
    "text-anchor": "start",
    "marker-start": "none",
    "marker-mid": "none",
    "marker-end": "none",
}
OWN = {"opacity", "display", "clip-path", "mask", "filter", "vector-effect", "transform", "transform-origin"}
OWN |= {"transform-box", "overflow"}
#: Geometry that CSS may set as well as attributes (SVG 2, section 7).
GEOMETRY = {"x", "y", "width", "height", "rx", "ry", "cx", "cy", "r"}
#: Media that a drawing is shown in.
MEDIA = {"all", "screen", "print"}
#: At-rules that say nothing about shapes.
BESIDE = {"charset", "font-face", "namespace", "keyframes", "page"}


@dataclass(frozen=True)
class Declared:
    """Declarations of one rule: as they are, and those that are important."""

    plain: dict[str, str]
    important: dict[str, str]


@dataclass
class StyleSheet:
    """Rules by their simple selectors: (specificity, order, needed type, id and classes, declarations); and those of
    other selectors for each element that they match, by its number."""

    rules: list[tuple] = field(default_factory=list)
    not_understood: list[str] = field(default_factory=list)
    outside: list[str] = field(default_factory=list)
    _other: list[tuple] = field(default_factory=list)
    _matched: dict[int, list[tuple]] = field(default_factory=dict)
    _order: int = 0

    def add(self, css: str) -> None:
        for rule in tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True):
            self._add(rule)

    def _add(self, rule) -> None:
        if rule.type == "at-rule":
            self._add_at_rule(rule)
        elif rule.type == "qualified-rule":
            declared = declarations(rule.content)
            for selector in tinycss2.serialize(rule.prelude).split(","):
                self._add_rule(selector.strip(), declared)
        else:
            self.not_understood.append("a broken rule")

    def _add_at_rule(self, rule) -> None:
        word = rule.lower_at_keyword
        prelude = tinycss2.serialize(rule.prelude).strip().lower()
        if word == "media" and rule.content is not None:
            if not prelude or any(part.strip() in MEDIA for part in prelude.split(",")):
                for inner in tinycss2.parse_rule_list(rule.content, skip_comments=True, skip_whitespace=True):
                    self._add(inner)
        elif word == "import":
            self.outside.append(prelude.strip("\"'")[:60])
        elif word.removeprefix("-webkit-") not in BESIDE:
            self.not_understood.append(f"@{word}")

    def _add_rule(self, selector: str, declared: Declared) -> None:
        self._order += 1
        parts = _simple(selector)
        if parts is None:
            self._other.append((selector, self._order, declared))
            return
        tag, identity, classes = parts
        weight = (int(bool(identity)), len(classes), int(bool(tag)))
        self.rules.append((weight, self._order, tag, identity, classes, declared))

    def match(self, root: Node) -> None:
        """Finds out what selectors that look around them match; once all style sheets are in."""
        self.rules.sort(key=lambda rule: rule[:2])
        if not self._other:
            return
        import cssselect2

        matcher = cssselect2.Matcher()
        for selector, order, declared in self._other:
            try:
                for compiled in cssselect2.compile_selector_list(selector):
                    matcher.add_selector(compiled, (order, declared))
            except (cssselect2.SelectorError, ValueError):
                self.not_understood.append(selector[:60])
        numbers: dict = {}
        mirror = cssselect2.ElementWrapper.from_xml_root(_mirrored(root, numbers))
        for element in mirror.iter_subtree():
            found = [(weight, order, declared) for weight, _, _, (order, declared) in matcher.match(element)]
            if found:
                self._matched[numbers[element.etree_element]] = found

    def matching(self, node: Node) -> Iterator[Declared]:
        """The declarations for an element, the weakest first."""
        if not self.rules and not self._matched:
            return
        attributes, tag = node.attributes, node.tag
        classes = set(attributes.get("class", "").split())
        other = self._matched.get(node.number)
        found = (
            (weight, order, declared)
            for weight, order, need_tag, identity, need_classes, declared in self.rules
            if need_tag in ("", tag) and identity in ("", attributes.get("id")) and need_classes <= classes
        )
        if other:
            found = sorted([*found, *other], key=lambda rule: rule[:2])
        for _, _, declared in found:
            yield declared


def _mirrored(node: Node, numbers: dict) -> ElementTree.Element:
    """The tree as the matcher knows trees."""
    made = ElementTree.Element(node.tag, node.attributes)
    numbers[made] = node.number
    made.extend(_mirrored(child, numbers) for child in node.children)
    return made


def _simple(selector: str) -> tuple[str, str, frozenset[str]] | None:
    """Type, id and classes of a selector such as path.cut#a; None for combinators, attributes and pseudo-classes."""
    tag, identity, classes, mode, word = "", "", set(), "tag", ""
    for char in selector + ".":
        if char in ".#":
            if mode == "tag":
                tag = "" if word == "*" else word
            elif mode == "#":
                identity = word
            elif word:
                classes.add(word)
            mode, word = char, ""
        elif char.isalnum() or char in "-_*":
            word += char
        else:
            return None
    return tag, identity, frozenset(classes)


def declarations(content) -> Declared:
    found = tinycss2.parse_declaration_list(content, skip_comments=True, skip_whitespace=True)
    kept = [d for d in found if d.type == "declaration"]
    values = [(d.lower_name, tinycss2.serialize(d.value).strip(), d.important) for d in kept]
    return Declared(
        {name: value for name, value, important in values if not important},
        {name: value for name, value, important in values if important},
    )


@lru_cache(maxsize=2048)
def _of_attribute(text: str) -> Declared:
    return declarations(text)


def resolve(node: Node, inherited: dict[str, str], sheet: StyleSheet) -> dict[str, str]:
    """All properties of an element: attributes, then style sheets, then its style attribute, then what is important,
    over what it inherits."""
    attributes = node.attributes
    own = {k: v.strip() for k, v in attributes.items() if k in INHERITED or k in OWN}
    late: dict[str, str] = {}
    for declared in sheet.matching(node):
        own.update(declared.plain)
        late.update(declared.important)
    if "style" in attributes:
        declared = _of_attribute(attributes["style"])
        own.update(declared.plain)
        late.update(declared.important)
    own.update(late)
    if "marker" in own:
        own = {"marker-start": own["marker"], "marker-mid": own["marker"], "marker-end": own["marker"]} | own
    result = dict(inherited)
    for name, value in own.items():
        if value == "inherit":
            continue
        if value in ("initial", "unset"):
            value = INHERITED.get(name, "")
        if name in INHERITED or name in OWN or (name in GEOMETRY and name not in attributes):
            result[name] = value
    return result


@lru_cache(maxsize=4096)
def color_of(value: str, current: str) -> tuple[str, float] | None:
    """(#rrggbb, opacity) of a CSS colour, or None where it is not one (none, url(...), a mistake)."""
    if value.lower() == "currentcolor":
        value = current if current.lower() != "currentcolor" else "black"
    color = parse_color(value)
    if color is None or isinstance(color, str):
        return None
    red, green, blue = (max(0, min(255, round(channel * 255))) for channel in color[:3])
    return f"#{red:02x}{green:02x}{blue:02x}", float(color.alpha)


#: Sizes of fonts by their names (CSS Fonts 3, section 3.5).
FONT_WORDS = {"xx-small": 9.6, "x-small": 12.0, "small": 14.2, "medium": 16.0, "large": 19.2, "x-large": 24.0}
FONT_WORDS |= {"xx-large": 32.0}


def reference_of(value: str) -> str | None:
    """The id in url(#id)."""
    value = value.strip()
    if not value.startswith("url("):
        return None
    return value[4:].partition(")")[0].strip("\"' ").removeprefix("#")
