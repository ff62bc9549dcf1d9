"""The walk through a drawing's entities and blocks: what each draws, on which layer and in which colour."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from ...errors import TooMuch
from ...geometry import IDENTITY, PathBuilder, compose
from ...geometry.build import Built
from ...model.notices import DAMAGED, EXTERNAL, LIVE_TEXT, MOVED, NOT_UNDERSTOOD, TAKEN_PLAINLY, Notice
from ...model.texts import FoundText
from ..budget import Budget
from .entities import DRAW, FILLED, PLANAR
from .texts import found_text

#: Maximum number of texts reported individually.
MOST_TEXTS = 200
TEXTS = {"TEXT", "MTEXT", "ATTRIB", "ARC_ALIGNED_TEXT", "RTEXT"}
#: Notes on a drawing, which nobody cuts.
ANNOTATIONS = {
    "DIMENSION": "Dimensions",
    "LEADER": "Leaders",
    "MULTILEADER": "Leaders",
    "MLEADER": "Leaders",
    "TOLERANCE": "Tolerance frames",
    "ACAD_TABLE": "Tables",
    "ATTDEF": "Templates for text",
    "VIEWPORT": "Views of a sheet",
    "WIPEOUT": "Covers over other lines",
    "GEODATA": "Places on a map",
    "LIGHT": "Lights",
    "SUN": "Lights",
    "SEQEND": "",
}
#: Those that have lines, which can be taken in.
WITH_LINES = {"DIMENSION", "LEADER", "MULTILEADER", "MLEADER", "TOLERANCE", "ACAD_TABLE"}
ELSEWHERE = {"IMAGE", "PDFUNDERLAY", "DWFUNDERLAY", "DGNUNDERLAY", "OLE2FRAME", "OLEFRAME"}
BY_BLOCK, BY_LAYER = 0, 256


@dataclass(frozen=True)
class Drawn:
    """What one entity draws: its outlines in its own units, the matrix to mm with y up, layer, colour (#rrggbb), handle
    (with those of the blocks it came by), whether it is an area, and whether the file hides it."""

    built: Built
    matrix: np.ndarray
    layer: str
    color: str
    handle: str
    filled: bool
    hidden: bool


@dataclass(frozen=True)
class State:
    """What a block hands down: matrix to mm, layer and colour of the reference, handles, whether it is hidden."""

    matrix: np.ndarray
    layer: str = ""
    color: str = ""
    handle: str = ""
    hidden: bool = False
    blocks: tuple[str, ...] = ()


class Walk:
    def __init__(self, drawing, scale: float, budget: Budget, notes: bool) -> None:
        self.drawing, self.scale, self.budget, self.notes = drawing, scale, budget, notes
        self.layers = {layer.dxf.name.lower(): layer for layer in drawing.layers}
        self._said: Counter[tuple[Notice, str]] = Counter()
        #: Text entities: message, handle, position in mm, y up.
        self.texts: list[tuple[str, str, FoundText]] = []
        self._first: dict[tuple[Notice, str], str] = {}
        self._segments = self._copies = 0
        self.left_out: Counter[str] = Counter()

    # -- what is said about the file ---------------------------------------------------------------------------------
    def say(self, notice: Notice, what: str, handle: str = "") -> None:
        self._said[notice, what] += 1
        self._first.setdefault((notice, what), handle)

    def say_moved(self, far: np.ndarray) -> None:
        """That the drawing was moved to the page from so far off its origin (2,), in mm."""
        if far.any():
            across, up = (f"{abs(value) / 1e6:,.0f} km" for value in far)
            way = "right" if far[0] > 0 else "left"
            self.say(MOVED, f"It lies {across} {way} of its origin and {up} {'above' if far[1] > 0 else 'below'} it")

    def text_findings(self, to_page: np.ndarray) -> Iterator:
        """Each text where it lies on the page; to_page: the matrix that leads there."""
        for said, handle, found in self.texts:
            placed = found.moved(to_page)
            yield LIVE_TEXT.at(f"{said}.", f"{handle} {said}", place=placed.at, handle=handle, **placed.measure())

    def findings(self) -> Iterator:
        for (notice, what), count in self._said.items():
            times = f" ({count:,} times)" if count > 1 else ""
            yield notice.at(f"{what}{times}.", what, count=count, handle=self._first[notice, what])

    # -- the walk ----------------------------------------------------------------------------------------------------
    def all(self, entities) -> Iterator[Drawn]:
        """All that a layout draws. Its entities are given up one by one: of a large file they take the most room."""
        matrix = np.array([[self.scale, 0.0, 0.0], [0.0, self.scale, 0.0]])
        for entity in entities:
            yield from self._entity(entity, State(matrix))
            entity.destroy()

    def _entity(self, entity, state: State) -> Iterator[Drawn]:
        kind = entity.dxftype()
        handle = entity.dxf.handle or ""
        if kind in DRAW:
            yield from self._drawn(entity, kind, state, handle)
        elif kind == "INSERT":
            yield from self._insert(entity, state)
        elif kind in TEXTS:
            self._text(entity, handle, state)
        elif kind == "MLINE" or (self.notes and kind in WITH_LINES):
            for part in entity.virtual_entities():
                yield from self._entity(part, replace(state, handle=f"{state.handle}{handle}."))
        elif kind in ANNOTATIONS:
            if ANNOTATIONS[kind]:
                self.left_out[ANNOTATIONS[kind].lower()] += 1
                self.say(TAKEN_PLAINLY, f"{ANNOTATIONS[kind]} are left out: they are not lines to cut", handle)
        elif kind in ELSEWHERE:
            self.say(EXTERNAL, "A picture or page from another file is placed here", handle)
        else:
            self.say(NOT_UNDERSTOOD, f"{kind[:30]} is not understood", handle)

    def _drawn(self, entity, kind: str, state: State, handle: str) -> Iterator[Drawn]:
        builder = PathBuilder(self.scale)
        try:
            wrong = DRAW[kind](entity, builder, self.scale)
            built = builder.built()
        except (ValueError, OverflowError, ZeroDivisionError, IndexError, AttributeError) as error:
            return self.say(DAMAGED, f"{kind} cannot be drawn: {error}"[:120], handle)
        if wrong:
            mesh = wrong == "a mesh in space"
            self.say(NOT_UNDERSTOOD if mesh else DAMAGED, f"{kind}: {wrong}", handle)
        if not built.kinds:
            return None
        self._segments += len(built.kinds)
        if self._segments > self.budget.segments:
            raise TooMuch(f"It holds more than {self.budget.segments:,} curves, the most that are read; split it.")
        if _value(entity, "thickness", 0.0):
            self.say(TAKEN_PLAINLY, "A thickness into space is left out", handle)
        if kind == "HATCH" and not entity.dxf.solid_fill:
            self.say(TAKEN_PLAINLY, "Of a hatch its outlines are taken, not the lines of its pattern", handle)
        matrix = compose(state.matrix, _plane(entity)) if kind in PLANAR else state.matrix
        layer = self._layer_of(entity, state)
        hidden = state.hidden or bool(_value(entity, "invisible", 0)) or self._is_off(layer)
        color = self._color_of(entity, layer, state)
        yield Drawn(built, matrix, layer, color, state.handle + handle, kind in FILLED, hidden)

    def _insert(self, entity, state: State) -> Iterator[Drawn]:
        name, handle = entity.dxf.name, entity.dxf.handle or ""
        for attribute in entity.attribs:
            self._text(attribute, handle, state)
        block = self.drawing.blocks.get(name)
        if block is None:
            self.left_out["blocks"] += 1
            return self.say(DAMAGED, f'A block "{name[:40]}" is not in the file', handle)
        if block.block.dxf.flags & 4:
            self.left_out["blocks"] += 1
            return self.say(EXTERNAL, f'A block lies in another file: "{block.block.dxf.get("xref_path", name)[:60]}"')
        if name in state.blocks or len(state.blocks) > 40:
            return self.say(DAMAGED, f'A block "{name[:40]}" contains itself', handle)
        self._copies += max(entity.mcount, 1)
        if self._copies > self.budget.copies:
            raise TooMuch(f"It repeats its blocks more than {self.budget.copies:,} times: such a file is not read.")
        layer = self._layer_of(entity, state)
        color = self._color_of(entity, layer, state)
        hidden = state.hidden or bool(_value(entity, "invisible", 0)) or self._is_off(layer)
        copies = entity.multi_insert() if entity.mcount > 1 else [entity]
        for number, copy in enumerate(copies):
            place = handle if entity.mcount <= 1 else f"{handle}-{number}"
            inner = State(
                compose(state.matrix, _flat(copy.matrix44())),
                layer,
                color,
                f"{state.handle}{place}.",
                hidden,
                (*state.blocks, name),
            )
            for part in block:
                yield from self._entity(part, inner)

    def _text(self, entity, handle: str, state: State) -> None:
        whole = entity.plain_text() if hasattr(entity, "plain_text") else entity.dxf.get("text", "")
        words = " ".join(whole.split())[:40]
        style = _value(entity, "style", "") or ""
        font = self.drawing.styles.get(style).dxf.font if style in self.drawing.styles else ""
        font = f", in {font}" if font else ""
        if not words:
            return
        found = found_text(entity, whole.strip(), font.removeprefix(", in ")).moved(state.matrix)
        said = f'"{words}" is text, not outlines{font}'
        if found.is_sound() and len(self.texts) < MOST_TEXTS:
            self.texts.append((said, handle, found))
        else:
            self.say(LIVE_TEXT, said, handle)

    # -- layers and colours ------------------------------------------------------------------------------------------
    def _layer_of(self, entity, state: State) -> str:
        """Layer 0 inside a block stands for the layer of its reference."""
        name = entity.dxf.get("layer", "0")
        return state.layer if name == "0" and state.layer else name

    def _is_off(self, name: str) -> bool:
        layer = self.layers.get(name.lower())
        return layer is not None and (layer.is_off() or layer.is_frozen())

    def _color_of(self, entity, layer: str, state: State) -> str:
        rgb = entity.rgb
        if rgb is not None:
            return "#{:02x}{:02x}{:02x}".format(*rgb)
        index = entity.dxf.get("color", BY_LAYER)
        if index == BY_BLOCK and state.color:
            return state.color
        if index in (BY_BLOCK, BY_LAYER):
            found = self.layers.get(layer.lower())
            if found is None:
                return "#000000"
            if found.rgb is not None:
                return "#{:02x}{:02x}{:02x}".format(*found.rgb)
            index = found.color
        return color_of_index(index)


def color_of_index(index: int) -> str:
    """The colour of an index; 7 is black on white."""
    from ezdxf.colors import aci2rgb

    index = abs(index)
    if index == 7 or not 1 <= index <= 255:
        return "#000000"
    return "#{:02x}{:02x}{:02x}".format(*aci2rgb(index))


def _value(entity, name: str, default):
    """An attribute that not every kind of entity has."""
    return entity.dxf.get(name, default) if entity.dxf.hasattr(name) else default


def _flat(matrix44) -> np.ndarray:
    """A matrix in space as one in the plane; ezdxf multiplies rows from the left."""
    m = matrix44.get_row(0), matrix44.get_row(1), matrix44.get_row(3)
    return np.array([[m[0][0], m[1][0], m[2][0]], [m[0][1], m[1][1], m[2][1]]])


def _plane(entity) -> np.ndarray:
    """The matrix from an entity's own plane to the drawing's, seen from above."""
    normal = _value(entity, "extrusion", None)
    if normal is None or (normal.x == 0 and normal.y == 0 and normal.z > 0):
        return IDENTITY
    ocs = entity.ocs()
    elevation = _elevation(entity)
    x, y, z = ocs.ux, ocs.uy, ocs.uz
    return np.array([[x.x, y.x, z.x * elevation], [x.y, y.y, z.y * elevation]])


def _elevation(entity) -> float:
    found = _value(entity, "elevation", 0.0)
    for name in ("center", "vtx0"):
        if entity.dxf.hasattr(name):
            return entity.dxf.get(name).z
    return found if isinstance(found, float | int) else found.z
