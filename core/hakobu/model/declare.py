"""Parameters with types: what a value is, in what unit, between which limits, and how a form asks for it.

A declaration is a field of a frozen dataclass. From it come the checks of a value (validate.py), JSON Schema, the form,
the options of the command line, and a recipe's JSON.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import MISSING, Field, dataclass, field, fields
from typing import Any

#: So many things may be listed, and letters be in a word, where nothing else is said.
MOST_LISTED, MOST_LETTERS = 20_000, 1000
#: A length, in mm, and an area, in mm2, where nothing else is said.
MOST_MM, MOST_MM2 = 20_000.0, 1e8


@dataclass(frozen=True)
class Declared:
    """kind: one of those below. label: what a control is called. step: what an arrow key adds. choices: each value with
    its words. group: "sentence", or "more" for what is rarely changed, or "" for what no form asks for. when: another
    parameter and the values of it with which this one has a meaning. handle: how it is dragged on the work, one of
    HANDLES. lines: a text that may have several lines. instead_of: parameters that are let go of when this one is
    set. is_vector: a point that says how far, not where. by_press: a place or a line that a
    press on the work sets, before there is anything to see."""

    kind: str
    label: str
    help: str
    unit: str = ""
    low: float | None = None
    high: float | None = None
    step: float | None = None
    choices: tuple[tuple[str, str], ...] = ()
    most: int = MOST_LISTED
    group: str = "sentence"
    when: tuple[str, tuple[str, ...]] | None = None
    handle: str = ""
    lines: bool = False
    instead_of: tuple[str, ...] = ()
    is_vector: bool = False
    by_press: bool = False


#: out: a distance from the edge of what is picked; width, height: about the place of what is made; place: a point,
#: without which it is the page's middle, and middle: that of what is picked; by: a way from that middle; turn: an angle
#: about it; apart: a distance across the middle, at that angle; ends: the two ends of a line.
HANDLES = ("", "out", "width", "height", "place", "middle", "by", "turn", "apart", "ends")


def _field(default: Any, kind: str, label: str, help: str, **more: Any) -> Any:
    return field(default=default, metadata={"declared": Declared(kind, label, help, **more)})


def length(default: Any = MISSING, *, label: str, help: str, low: float = 0.0, high: float = MOST_MM, **more: Any):
    """In mm."""
    return _field(default, "length", label, help, unit="mm", low=low, high=high, **{"step": 0.5, **more})


def area(default: Any = MISSING, *, label: str, help: str, low: float = 0.0, high: float = MOST_MM2, **more: Any):
    """In mm2."""
    return _field(default, "area", label, help, unit="mm2", low=low, high=high, **{"step": 1.0, **more})


def angle(default: Any = MISSING, *, label: str, help: str, low: float = -360.0, high: float = 360.0, **more: Any):
    """In degrees, clockwise on the page."""
    return _field(default, "angle", label, help, unit="degrees", low=low, high=high, **{"step": 1.0, **more})


def number(default: Any = MISSING, *, label: str, help: str, low: float, high: float, **more: Any):
    return _field(default, "number", label, help, low=low, high=high, **more)


def count(default: Any = MISSING, *, label: str, help: str, low: int, high: int, **more: Any):
    return _field(default, "count", label, help, low=low, high=high, step=1, **more)


def flag(default: Any = False, *, label: str, help: str, **more: Any):
    return _field(default, "flag", label, help, **more)


def choice(default: Any = MISSING, *, label: str, help: str, choices: Sequence[tuple[str, str]], **more: Any):
    return _field(default, "choice", label, help, choices=tuple(choices), **more)


def text(default: Any = MISSING, *, label: str, help: str, most: int = MOST_LETTERS, **more: Any):
    return _field(default, "text", label, help, most=most, **more)


def colour(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """#rrggbb."""
    return _field(default, "colour", label, help, **more)


def layer(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """A layer, by its id."""
    return _field(default, "layer", label, help, **more)


def layers(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """Layers, by their ids."""
    return _field(default, "layers", label, help, **more)


def piece(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """A piece, by its id."""
    return _field(default, "piece", label, help, **more)


def pieces(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """Pieces, by their ids."""
    return _field(default, "pieces", label, help, **more)


def point(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """x, y in mm."""
    return _field(default, "point", label, help, unit="mm", **more)


def line(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """From x, y to x, y in mm."""
    return _field(default, "line", label, help, unit="mm", **more)


def axis(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """A straight line through x, y and x, y in mm, without ends."""
    return _field(default, "axis", label, help, unit="mm", **more)


def font(default: Any = MISSING, *, label: str, help: str, **more: Any):
    """A face, by its id."""
    return _field(default, "font", label, help, **more)


def pixels(default: Any = (), *, label: str, help: str, most: int = 1000, **more: Any):
    """Pixels x, y of a picture."""
    return _field(default, "pixels", label, help, most=most, **{"group": "", **more})


def listed(default: Any = (), *, label: str, help: str, most: int = MOST_LISTED, **more: Any):
    """Words."""
    return _field(default, "words", label, help, most=most, **{"group": "", **more})


def spots(default: Any = (), *, label: str, help: str, most: int = 1000, **more: Any):
    """Spots on the work that are picked, by their ids: what they mean, the step says."""
    return _field(default, "spots", label, help, most=most, **{"group": "", **more})


def places(default: Any = MISSING, *, label: str, help: str, most: int = 1000, **more: Any):
    """Places x, y in mm, in their order: they are set on the work."""
    return _field(default, "places", label, help, unit="mm", most=most, **{"group": "", **more})


def data(default: Any = None, *, label: str, help: str, **more: Any):
    """Names and values."""
    return _field(default, "data", label, help, **{"group": "", **more})


def declared(of: type) -> dict[str, tuple[Declared, Field]]:
    """The declarations of a dataclass, by the names of its fields."""
    return {f.name: (f.metadata["declared"], f) for f in fields(of)}


def ranges_of(of: type) -> dict[str, tuple[float, float]]:
    """Between which values the figures of a dataclass lie, by their names."""
    return {name: (d.low, d.high) for name, (d, _) in declared(of).items() if d.low is not None and d.high is not None}


def is_required(f: Field) -> bool:
    return f.default is MISSING


def when_of(when: tuple[str, tuple[str, ...]] | None) -> dict[str, Any] | None:
    """A condition on another parameter as plain data."""
    return {"name": when[0], "values": list(when[1])} if when else None


def form_of(of: type) -> list[dict[str, Any]]:
    """The declarations of a dataclass as plain data, for forms and options."""
    return [
        {
            "name": name,
            "kind": d.kind,
            "label": d.label,
            "help": d.help,
            "unit": d.unit,
            "default": None if is_required(f) else f.default,
            "required": is_required(f),
            "optional": f.default is None,
            "low": d.low,
            "high": d.high,
            "step": d.step,
            "choices": [{"value": value, "words": words} for value, words in d.choices],
            "most": d.most,
            "group": d.group,
            "handle": d.handle,
            "lines": d.lines,
            "instead_of": list(d.instead_of),
            "by_press": d.by_press,
            "when": when_of(d.when),
        }
        for name, (d, f) in declared(of).items()
    ]
