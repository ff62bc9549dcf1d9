"""What an operation is: the kind of step a person can take."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Protocol

import numpy as np

from ..errors import CannotDo
from ..formats import ReadResult
from ..model import Conditions, Document, Finding, Piece
from ..model.declare import form_of
from ..model.step import ON
from ..model.validate import validated

if TYPE_CHECKING:
    from ..model.features import DrawnDimension

#: Seconds that reading a source takes, by its hash.
SourceCost = Callable[[str], float]
#: Seconds for each segment of the document, where an operation says nothing else.
PER_SEGMENT = 25e-6
#: The same for each piece that is worked on by itself.
PER_PIECE = 4e-4


class Progress(Protocol):
    """Told how far a piece of work is: the share from 0 to 1, what is being done, and what is there so far of work that
    gets better with time, as plain data. It may raise, to stop the work; True when what is there is enough."""

    def __call__(self, share: float, stage: str, so_far: Mapping[str, Any] | None = None, /) -> bool: ...


def silent(share: float, stage: str, so_far: Mapping[str, Any] | None = None) -> bool:
    """Progress that nobody follows."""
    return False


@dataclass(frozen=True)
class Context:
    """What a step is handed beside the document and its parameters. key: the step's. chosen: the pieces of each role,
    in paint order. conditions: what the design is held against. source: the reader of sources, (sha256, unit, key,
    notes) -> what was read; picture: the decoder of pictures, sha256 -> (H, W, 4) uint8; font: the bytes of a face that
    was brought, by its sha256; progress: whom to tell how far it is."""

    key: str
    chosen: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    conditions: Conditions = field(default_factory=Conditions)
    source: Callable[[str, str | None, str, bool], ReadResult] | None = None
    picture: Callable[[str], np.ndarray] | None = None
    font: Callable[[str], bytes] | None = None
    progress: Progress = silent

    def pieces(self, document: Document, role: str = ON) -> list[Piece]:
        """The pieces of a role, the lowest first."""
        return [document.by_id[identity] for identity in self.chosen.get(role, ())]


@dataclass(frozen=True)
class Spot:
    """A place on the work that a step can be told more about: a letter, a crossing. at: x, y in mm; turn: of its own
    axes, in degrees clockwise; size: how far it reaches along them, in mm, from its middle to both sides and up."""

    id: str
    at: tuple[float, float]
    turn: float = 0.0
    size: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class Outcome:
    """The document after a step. title: what was done, for the log. note: its effect. findings: of what was read.
    spots: where on the work a hand may take hold of parts of the step. marks: what it measured, to be drawn while it is
    set up. moved:
    (a, b, c, d, e, f), where all that the step did is to move the whole document so."""

    document: Document
    title: str
    note: str = ""
    statistics: Mapping[str, float | int | str] = field(default_factory=dict)
    findings: tuple[Finding, ...] = ()
    spots: tuple[Spot, ...] = ()
    marks: tuple[DrawnDimension, ...] = ()
    moved: tuple[float, float, float, float, float, float] | None = None


@dataclass(frozen=True)
class Role:
    """What pieces are to a step. label: what a person is asked for. least: fewer make no sense. everything: without a
    choice all pieces in use are meant; else none, and where `least` is above 0 the step cannot be done. when: a
    parameter and the values of it with which the role has a meaning."""

    id: str
    label: str
    least: int = 1
    everything: bool = False
    when: tuple[str, tuple[str, ...]] | None = None


def by_segments(document: Document, parameters: Any, source: SourceCost) -> float:
    """Seconds by the size of the document."""
    return PER_SEGMENT * sum(piece.path.segment_count for piece in document.pieces)


def by_pieces(document: Document, parameters: Any, source: SourceCost) -> float:
    """Seconds where each piece is worked on by itself."""
    return PER_PIECE * len(document.pieces) + by_segments(document, parameters, source)


def times_by_pieces(times: float) -> Callable[[Document, Any, SourceCost], float]:
    """For what takes so many times as long as most of what is done to a piece."""
    return lambda document, parameters, source: times * by_pieces(document, parameters, source)


def at_once(document: Document, parameters: Any, source: SourceCost) -> float:
    """For what only rearranges."""
    return 0.0


@dataclass(frozen=True)
class Operation:
    """id and version are permanent: a new version is a new result. station: where in the route the step hangs.
    parameters: a frozen dataclass of declarations (model/declare.py). sentence: what the step does, with its parameters
    in braces; what stands in brackets is said only where its parameter has a meaning. roles: the pieces that it is for.

    upgrade(version, values): the values of an older version as this one takes them. cost(document, parameters, source):
    seconds, roughly. picks(document, parameters): the pieces that a step is about, where its parameters say so.
    sizes: the lengths that may keep their values when the design is sized. scale(values, factor, off): the parameters
    that are plain data, for a design so many times as large and moved.
    repair(document, parameters, ids): the parameters for what is still there. reads_conditions: whether the result
    depends on what the design is held against. spellings: other options of the command line, each with its help and
    what gives the values of what was typed. quick: values that a preview takes in place of those that are typed, where
    these only make it better with time."""

    id: str
    version: int
    station: str
    title: str
    parameters: type
    run: Callable[[Document, Any, Context], Outcome]
    sentence: str = ""
    roles: tuple[Role, ...] = ()
    upgrade: Callable[[int, dict[str, Any]], dict[str, Any]] | None = None
    cost: Callable[[Document, Any, SourceCost], float] = by_segments
    picks: Callable[[Document, Any], tuple[str, ...]] | None = None
    repair: Callable[[Document, Any, tuple[str, ...]], Any] | None = None
    sizes: tuple[str, ...] = ()
    scale: Callable[[dict[str, Any], float, tuple[float, float]], dict[str, Any]] | None = None
    reads_conditions: bool = False
    quick: Mapping[str, Any] = field(default_factory=dict)
    spellings: Mapping[str, tuple[str, Callable[[str], dict[str, Any]]]] = field(default_factory=dict)


def without_pieces(version: int, values: dict[str, Any]) -> dict[str, Any]:
    """For operations whose first version named its pieces among its parameters: they stand in the selection as well."""
    if version < 2:
        values.pop("pieces", None)
    return values


def parameters_from(operation: Operation, values: Mapping[str, Any], version: int | None = None) -> Any:
    """The parameters of plain data, of that version of the operation. Raises BadRequest, naming the field, where they
    do not fit, and CannotDo for a version that is not known yet."""
    if version is not None and version > operation.version:
        raise CannotDo(f'"{operation.title}" was made by a newer Hakobu than this one: bring this one up to date.')
    return validated(operation.parameters, upgraded(operation, values, version), operation.id)


def upgraded(operation: Operation, values: Mapping[str, Any], version: int | None) -> dict[str, Any]:
    """The values of a version of the operation as this one takes them."""
    if operation.upgrade is None or version is None or version >= operation.version:
        return dict(values)
    return operation.upgrade(version, dict(values))


def schema_of(operation: Operation) -> list[dict[str, Any]]:
    """The parameters of an operation as plain data, for forms and options."""
    return form_of(operation.parameters)
