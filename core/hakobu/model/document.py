"""The document: the state of a design after a step."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cached_property
from typing import NamedTuple

from ..geometry import Box, Path, bounds
from .dimension import Dimension
from .paint import Fill, Stroke
from .sheet import Sheet
from .units import MM_PER_INCH


class Treatment(StrEnum):
    """What the machine does with a layer."""

    CUT = "cut"
    SCORE = "score"
    DRAW = "draw"
    PRINT = "print"
    LEAVE_OUT = "leave-out"

    @property
    def follows_lines(self) -> bool:
        """Whether a tool runs along the outlines."""
        return self in (Treatment.CUT, Treatment.SCORE, Treatment.DRAW)


@dataclass(frozen=True, slots=True)
class Layer:
    """What is made of one material or by one tool. color is the material's, #rrggbb; material an id or None. mirrored:
    whether it is drawn as seen from the back."""

    id: str
    name: str
    color: str
    treatment: Treatment = Treatment.CUT
    material: str | None = None
    mirrored: bool = False


@dataclass(frozen=True)
class Piece:
    """A path that is picked, named and moved as one. fill_rule is nonzero or evenodd."""

    id: str
    path: Path
    layer: str
    name: str = ""
    fill_rule: str = "nonzero"
    fill: Fill | None = None
    stroke: Stroke | None = None
    opacity: float = 1.0


@dataclass(frozen=True, slots=True)
class Group:
    """Pieces, pictures and groups kept together as placed, by their ids."""

    id: str
    name: str
    members: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture by the hash of its bytes; matrix (a, b, c, d, e, f) takes its pixels to millimetres."""

    id: str
    sha256: str
    size_px: tuple[int, int]
    matrix: tuple[float, float, float, float, float, float]
    layer: str


def px_per_inch(picture: Picture) -> float:
    """The resolution at which a picture lies in the document, across."""
    a, b, *_ = picture.matrix
    return round(MM_PER_INCH / (a * a + b * b) ** 0.5, 4)


@dataclass(frozen=True, slots=True)
class Page:
    """fixed: a person has set it, so it does not follow what lies on it. roll: only its width is set; it is as long as
    what lies on it."""

    width_mm: float
    height_mm: float
    fixed: bool = False
    roll: bool = False


class OutlinePlace(NamedTuple):
    """A place on an outline: of a piece, by its id, which outline, and at which share of its length."""

    piece: str
    outline: int
    share: float


@dataclass(frozen=True)
class Document:
    """Millimetres, y down, from the page's top left. pieces stand in paint order, the lowest first. sized: the width
    or height that a person typed, as ("width", 200.0). dimensions: what is measured, and follows each step. sheets:
    where pieces lie on the material that they are cut from. work_order: pieces that the tools do first, by their ids.
    starts, tabs: where a person wants outlines to be begun, and to be held by tabs.

    Immutable: a change makes a new document that shares all that did not change.
    """

    page: Page | None = None
    layers: tuple[Layer, ...] = ()
    pieces: tuple[Piece, ...] = ()
    groups: tuple[Group, ...] = ()
    pictures: tuple[Picture, ...] = ()
    sized: tuple[str, float] | None = None
    dimensions: tuple[Dimension, ...] = ()
    sheets: tuple[Sheet, ...] = ()
    work_order: tuple[str, ...] = ()
    starts: tuple[OutlinePlace, ...] = ()
    tabs: tuple[OutlinePlace, ...] = ()

    @cached_property
    def by_id(self) -> Mapping[str, Piece]:
        return {piece.id: piece for piece in self.pieces}

    @cached_property
    def layer_by_id(self) -> Mapping[str, Layer]:
        return {layer.id: layer for layer in self.layers}

    @cached_property
    def whole_path(self) -> Path:
        """All outlines that are not left out, as one path."""
        return Path.concatenate(piece.path for piece in self.pieces_in_use())

    @cached_property
    def box(self) -> Box | None:
        """(left, top, right, bottom) of all outlines that are not left out, without stroke widths."""
        return bounds(self.whole_path)

    @cached_property
    def size_mm(self) -> tuple[float, float]:
        if self.box is None:
            return 0.0, 0.0
        left, top, right, bottom = self.box
        return right - left, bottom - top

    @cached_property
    def extent_mm(self) -> tuple[float, float]:
        """What is sized: the box of all outlines, or of the page where there is nothing but a picture yet."""
        return self.size_mm if self.box is not None or not self.pictures else self.frame

    @cached_property
    def frame(self) -> tuple[float, float]:
        """The width and height that machine files are turned at: the page, or where there is none the far corner; of
        nothing at all a millimetre, since no file may have a size of zero."""
        if self.page:
            return self.page.width_mm, self.page.height_mm
        return (self.box[2], self.box[3]) if self.box else (1.0, 1.0)

    @cached_property
    def outermost_group_of(self) -> Mapping[str, str]:
        """For each piece, picture and group that lies in groups, the outermost of these."""
        holder = {member: group.id for group in self.groups for member in group.members}
        found: dict[str, str] = {}
        for member in holder:
            top = member
            while top in holder:
                top = holder[top]
            found[member] = top
        return found

    def treatment_of(self, piece: Piece) -> Treatment:
        return self.layer_by_id[piece.layer].treatment

    def pieces_in_use(self) -> tuple[Piece, ...]:
        """All pieces but those on layers that are left out."""
        return tuple(p for p in self.pieces if self.treatment_of(p) is not Treatment.LEAVE_OUT)

    def pictures_in_use(self) -> tuple[Picture, ...]:
        """All pictures but those on layers that are left out: what is printed."""
        return tuple(p for p in self.pictures if self.layer_by_id[p.layer].treatment is not Treatment.LEAVE_OUT)

    def pieces_followed(self) -> tuple[Piece, ...]:
        """The pieces whose outlines a tool follows: cut, scored or drawn."""
        return self._followed

    @cached_property
    def lines_followed(self) -> Path:
        """The outlines of all these pieces, one after the other."""
        return Path.concatenate(piece.path for piece in self._followed)

    @cached_property
    def _followed(self) -> tuple[Piece, ...]:
        layers = {layer.id for layer in self.layers if layer.treatment.follows_lines}
        return tuple(p for p in self.pieces if p.layer in layers)

    def with_paths(self, changes: Mapping[str, Path | None]) -> Document:
        """The document with new paths for some pieces; a piece whose path is None or empty is gone."""
        changes = {key: path for key, path in changes.items() if key in self.by_id}
        if not changes:
            return self
        gone = {key for key, path in changes.items() if path is None or not len(path)}
        pieces = tuple(
            replace(piece, path=changes[piece.id]) if piece.id in changes else piece
            for piece in self.pieces
            if piece.id not in gone
        )
        return replace(self, pieces=pieces, groups=_without(self.groups, gone))

    def with_pieces(self, added: Mapping[str, Piece]) -> Document:
        """The document with new pieces, each over the one of that id, in its groups."""
        if not added:
            return self
        pieces = (one for piece in self.pieces for one in (piece, added.get(piece.id)) if one)
        groups = (
            replace(group, members=tuple(one for m in group.members for one in (m, m in added and added[m].id) if one))
            for group in self.groups
        )
        return replace(self, pieces=tuple(pieces), groups=tuple(groups))

    def with_layers(self, settings: Mapping[str, Mapping[str, str]]) -> Document:
        """The document with a name, color, treatment or material set anew for some layers."""
        if not settings:
            return self
        layers = tuple(_set_layer(layer, settings.get(layer.id, {})) for layer in self.layers)
        return replace(self, layers=layers)

    def with_names(self, names: Mapping[str, str]) -> Document:
        """The document with new names for some pieces."""
        if not names:
            return self
        pieces = (replace(p, name=names[p.id]) if p.id in names else p for p in self.pieces)
        return replace(self, pieces=tuple(pieces))


#: What can be set anew of a layer.
SETTABLE = ("name", "color", "treatment", "material", "mirrored")


def _set_layer(layer: Layer, values: Mapping[str, str]) -> Layer:
    values = {key: value for key, value in values.items() if key in SETTABLE}
    if "treatment" in values:
        values["treatment"] = Treatment(values["treatment"])
    return replace(layer, **values)


def _without(groups: Iterable[Group], gone: set[str]) -> tuple[Group, ...]:
    """Groups without members that are gone, and without the groups that this leaves empty."""
    gone = set(gone)
    kept: list[Group] = []
    # Inner groups come before the groups that hold them.
    for group in groups:
        members = tuple(member for member in group.members if member not in gone)
        if members:
            kept.append(replace(group, members=members))
        else:
            gone.add(group.id)
    return tuple(kept)
