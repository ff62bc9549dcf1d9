"""What CSS and presentation attributes say about an element. Sources: SVG 2, chapters 6 and 13; CSS 2.1, 6.4."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache

import tinycss2
from tinycss2.color3 import parse_color

INHERITED = {
    "fill": "black",
    "fill-opacity": "1",
    "fill-rule": "nonzero",
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
}
OWN = {"opacity", "display", "clip-path", "mask", "filter", "vector-effect", "transform"}
OWN |= {"marker", "marker-start", "marker-mid", "marker-end"}


@dataclass
class StyleSheet:
    """Rules by their simple selectors: (specificity, order, needed type, id and classes, declarations)."""

    rules: list[tuple] = field(default_factory=list)
    not_understood: list[str] = field(default_factory=list)

    def add(self, css: str) -> None:
        for rule in tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True):
            if rule.type != "qualified-rule":
                self.not_understood.append(f"@{rule.at_keyword}" if rule.type == "at-rule" else "a broken rule")
                continue
            declarations = _declarations(rule.content)
            for selector in tinycss2.serialize(rule.prelude).split(","):
                self._add_rule(selector.strip(), declarations)

    def _add_rule(self, selector: str, declarations: dict[str, str]) -> None:
        parts = _simple(selector)
        if parts is None:
            self.not_understood.append(selector[:60])
            return
        tag, identity, classes = parts
        weight = (bool(identity), len(classes), bool(tag))
        self.rules.append((weight, len(self.rules), tag, identity, classes, declarations))
        self.rules.sort(key=lambda rule: rule[:2])

    def matching(self, tag: str, attributes: dict[str, str]) -> dict[str, str]:
        found: dict[str, str] = {}
        if not self.rules:
            return found
        classes = set(attributes.get("class", "").split())
        for _, _, need_tag, identity, need_classes, declarations in self.rules:
            if need_tag in ("", tag) and identity in ("", attributes.get("id")) and need_classes <= classes:
                found.update(declarations)
        return found


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


def _declarations(content) -> dict[str, str]:
    found = tinycss2.parse_declaration_list(content, skip_comments=True, skip_whitespace=True)
    return {d.lower_name: tinycss2.serialize(d.value).strip() for d in found if d.type == "declaration"}


def resolve(tag: str, attributes: dict[str, str], inherited: dict[str, str], sheet: StyleSheet) -> dict[str, str]:
    """All properties of an element: attributes, then style sheets, then its style attribute, over what it inherits."""
    own = {k: v.strip() for k, v in attributes.items() if k in INHERITED or k in OWN}
    own.update(sheet.matching(tag, attributes))
    if "style" in attributes:
        own.update(_declarations(attributes["style"]))
    result = dict(inherited)
    for name, value in own.items():
        value = value.removesuffix("!important").strip()
        if value == "inherit":
            continue
        if value in ("initial", "unset"):
            value = INHERITED.get(name, "")
        if name == "color" or (name in INHERITED or name in OWN):
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
