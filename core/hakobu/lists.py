"""The lists of materials, machines, purposes, targets, stock and settings: as they ship, and as a person has made
them."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import MISSING, asdict, dataclass, fields
from typing import Any

from . import formats
from .errors import BadRequest
from .machines import PROFILES
from .model import Document, Layer, Machine, Material, Purpose
from .model.declare import declared, ranges_of
from .model.machines import MOST_WORDS
from .model.materials import MATERIALS, MOST_NAME
from .model.purposes import PURPOSES
from .model.settings import SETTINGS, Setting
from .model.stock import STOCK, StockSheet
from .model.targets import MOST_OUTLINE, TARGETS, Target, outline_of
from .sheets.stock import outline_from
from .toolpaths import Plan

#: What each kind is called where one of it is spoken of.
ONE = {
    "materials": "material",
    "machines": "machine",
    "purposes": "purpose",
    "targets": "target",
    "stock": "sheet",
    "settings": "setting",
}
#: A list of more is no list to choose from.
MOST = 200
MOST_SAYS = 200
_CLASSES: Mapping[str, type] = {
    "materials": Material,
    "machines": Machine,
    "purposes": Purpose,
    "targets": Target,
    "stock": StockSheet,
    "settings": Setting,
}
#: What a number may be, from and to, for each kind, as it is declared; what is wider is a slip of the keyboard.
RANGES: Mapping[str, Mapping[str, tuple[float, float]]] = {
    "materials": ranges_of(Material),
    "machines": ranges_of(Machine),
    "purposes": {},
    "targets": ranges_of(Target),
    "stock": ranges_of(StockSheet),
    "settings": ranges_of(Setting),
}
#: What a person may set otherwise of a job's material, and between which values.
MATERIAL_LIMITS = {name: RANGES["materials"][name] for name in ("least_strip_mm", "least_gap_mm", "least_piece_mm2")}
_NAMED_NOTHING = PURPOSES[0]


@dataclass(frozen=True)
class Lists:
    """What can be chosen from. Of purposes the first says nothing, and always is there."""

    materials: tuple[Material, ...] = MATERIALS
    machines: tuple[Machine, ...] = PROFILES
    purposes: tuple[Purpose, ...] = PURPOSES
    targets: tuple[Target, ...] = TARGETS
    stock: tuple[StockSheet, ...] = STOCK
    settings: tuple[Setting, ...] = SETTINGS

    def material(self, identity: str) -> Material:
        return _named("materials", self.materials, identity)

    def machine(self, identity: str) -> Machine:
        return _named("machines", self.machines, identity)

    def purpose(self, identity: str) -> Purpose:
        return _named("purposes", self.purposes, identity)

    def target(self, identity: str) -> Target:
        return _named("targets", self.targets, identity)

    def plan(
        self, document: Document, machine: Machine | None, material_of: Callable[[Layer], str | None], **more
    ) -> Plan:
        """How a document is worked with a machine: each layer as its material is set for it. more: of the plan."""
        more = {"first": document.work_order, "starts": document.starts, "tabs": document.tabs, **more}
        if machine is None:
            return Plan(**more)
        found = {layer.id: self.setting_for(machine, material_of(layer)) for layer in document.layers}
        return Plan(machine, {layer: setting.of(machine) for layer, setting in found.items() if setting}, **more)

    def setting_for(self, machine: Machine, material: str | None) -> Setting | None:
        """What is set for a machine and a material, by its id: the first of the list."""
        ours = (each for each in self.settings if each.machine == machine.id and each.material == material)
        return next(ours, None)

    @property
    def own_materials(self) -> dict[str, Material]:
        """The materials that are not as they ship, by their ids."""
        return {material.id: material for material in self.materials if material not in MATERIALS}

    def to_json(self) -> dict[str, Any]:
        return {kind: [asdict(entry) for entry in getattr(self, kind)] for kind in _CLASSES}

    @staticmethod
    def from_json(data: Any) -> Lists:
        """Lists that are not named are as they ship. Raises BadRequest, naming what does not fit and where."""
        if not isinstance(data, Mapping):
            raise BadRequest(f"Lists are given by their names: {', '.join(_CLASSES)}.")
        for kind in data:
            if kind not in _CLASSES:
                raise BadRequest(f'"{kind}" is not a list; there are {", ".join(_CLASSES)}.')
        return Lists(**{kind: _entries(kind, rows) for kind, rows in data.items()})


def _named(kind: str, entries: Sequence, identity: str):
    for entry in entries:
        if entry.id == identity:
            return entry
    known = ", ".join(entry.id for entry in entries if entry.id) or "none: the list is empty"
    raise BadRequest(f'"{identity}" is not a {ONE[kind]} that is known here: use one of {known}.')


def _entries(kind: str, rows: Any) -> tuple:
    if not isinstance(rows, list) or len(rows) > MOST:
        raise BadRequest(f"The list of {kind} has to be a list of {MOST} at most.")
    made = [_entry(kind, row) for row in rows]
    if kind == "targets":
        for target in made:
            # An outline that makes no shape is refused now, not where it is drawn.
            outline_of(target)
    if kind == "stock":
        for sheet in made:
            if sheet.outline:
                outline_from(sheet.outline)
    if kind == "purposes":
        made = [_NAMED_NOTHING, *(entry for entry in made if entry.id)]
    for what in ("id", "name"):
        seen: set[str] = set()
        for entry in made:
            value = getattr(entry, what).casefold()
            if value in seen:
                raise BadRequest(f'There are two {kind} with the {what} "{getattr(entry, what)}"; rename one of them.')
            seen.add(value)
    return tuple(made)


def _entry(kind: str, row: Any):
    if not isinstance(row, Mapping):
        raise BadRequest(f"Each of the {kind} is given by its values.")
    of, name = _CLASSES[kind], str(row.get("name", ""))
    known = {field.name: field for field in fields(of)}
    for key in row:
        if key not in known:
            raise BadRequest(f'"{key}" is nothing that a {ONE[kind]} has; it has {", ".join(known)}.')
    for key, field in known.items():
        if field.default is MISSING and key not in row:
            raise BadRequest(f'The {ONE[kind]} "{name}" has no {_words(key)}.')
    return of(**{key: _value(kind, name, key, value, known[key].type) for key, value in row.items()})


def _value(kind: str, name: str, key: str, value: Any, type_: Any) -> Any:
    of = f'Of the {ONE[kind]} "{name}"'
    if key in RANGES[kind]:
        if value is None and "None" in type_:
            return None
        low, high = RANGES[kind][key]
        if isinstance(value, bool) or not isinstance(value, int | float) or not low <= value <= high:
            raise BadRequest(f"{of} the {_words(key)} lies between {low:g} and {high:g}, not at {value}.")
        if type_.startswith("int") and value != int(value):
            raise BadRequest(f"{of} the {_words(key)} is a whole number, not {value}.")
        return int(value) if type_.startswith("int") else float(value)
    if type_ == "bool":
        if not isinstance(value, bool):
            raise BadRequest(f"{of} {_words(key)} is either so or not.")
        return value
    if not isinstance(value, str) or not _fits(kind, key, value):
        wanted = f"it is {_one_of(_choices(kind, key))}" if _choices(kind, key) else _WANTED[key]
        raise BadRequest(f"{of} the {_words(key)} cannot be {value!r}: {wanted}.")
    return value.strip()


def _one_of(values: Iterable[str]) -> str:
    *others, last = (value or "nothing" for value in values)
    return f"{', '.join(others)} or {last}" if others else last


def _choices(kind: str, key: str) -> tuple[str, ...]:
    return _CHOICES.get(kind, {}).get(key, ())


#: What is chosen from, of each kind, by the name of the value.
_CHOICES: Mapping[str, Mapping[str, tuple[str, ...]]] = {
    kind: {name: tuple(v for v, _ in d.choices) for name, (d, _) in declared(of).items() if d.choices}
    for kind, of in _CLASSES.items()
    if kind != "purposes"
}
_MOST_TEXT = {"says": MOST_SAYS, "outline": MOST_OUTLINE, "address": MOST_SAYS}
_MOST_TEXT |= {"words_before": MOST_WORDS, "words_after": MOST_WORDS}
_WANTED = {
    "id": "small letters, digits and dashes, 40 at most",
    "name": f"it has from 1 to {MOST_NAME} letters",
    "says": f"it has {MOST_SAYS} letters at most",
    "color": "a colour is # and six hexadecimal digits",
    "material": "it is the id of a material",
    "machine": "it is the id of a machine",
    "format": "it is the id of a format that can be written",
    "outline": f"it is SVG path data of {MOST_OUTLINE:,} letters at most",
    "words_before": f"they have {MOST_WORDS} letters at most",
    "address": "it has 200 letters at most",
    "words_after": f"they have {MOST_WORDS} letters at most",
}


def _fits(kind: str, key: str, value: str) -> bool:
    if key == "id":
        # Of purposes the first has none.
        return bool(re.fullmatch(r"[a-z0-9][a-z0-9-]{0,39}", value)) or (kind == "purposes" and not value)
    if key == "color":
        return bool(re.fullmatch(r"#[0-9a-fA-F]{6}", value))
    if key == "format":
        return any(f.id == value and f.write is not None for f in formats.FORMATS)
    if choices := _choices(kind, key):
        return value in choices
    if key in ("material", "machine"):
        return (not value and kind == "stock") or bool(re.fullmatch(r"[a-z0-9][a-z0-9-]{0,39}", value))
    if key in _MOST_TEXT:
        return len(value) <= _MOST_TEXT[key]
    return bool(value.strip()) and len(value) <= MOST_NAME


def _words(key: str) -> str:
    """The name of a value as it is spoken of, without its unit."""
    return re.sub(r"_(mm2|mm_s2|mm_s|mm|deg|percent|g|s)$", "", key).replace("_", " ")
