"""What a format is: how its bytes become a document, and a document its bytes."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from importlib import import_module

from ..model import Document, Finding
from ..model.units import FileUnit
from ..toolpaths import Plan, Program
from .budget import READING, Budget


def later(module: str, name: str) -> Callable:
    """A function of a module that is loaded when it is first called: most runs need one format of all."""

    def call(*values):
        return getattr(import_module(module), name)(*values)

    call.__module__, call.__name__ = module, name
    return call


@dataclass(frozen=True)
class ReadOptions:
    """key: the step's key that goes into the pieces' ids. unit: what a number means where the file states no unit.
    page_height_mm: where machine files turn y; without it they are turned at their own topmost line. strokes: "lines"
    keeps lines that have a width as lines, "outlines" makes them the areas that they cover. frame: six numbers, row by
    row, of the affine map from the sheet to the coordinates of the machine, where they are not the same. steps_per_mm:
    of a plotter that counts in others than usual. as_run: every stroke of a machine file is a
    piece of its own, in the order in which they run, also those that repeat others deeper. notes:
    what is written about a drawing, its dimensions, leaders and tables, is taken in as lines."""

    key: str = "file"
    unit: str | None = None
    page_height_mm: float | None = None
    strokes: str = "lines"
    notes: bool = False
    frame: tuple[float, ...] = ()
    steps_per_mm: int = 0
    as_run: bool = False
    budget: Budget = READING


@dataclass(frozen=True)
class ReadResult:
    """A document and what is to be said of it: what was not understood, and what was taken for granted. blobs: the
    bytes of pictures that the file carries inside itself, by their hashes. unit: what its numbers were taken for.
    left_out: what is written about the drawing and was left out, counted by its kind."""

    document: Document
    findings: tuple[Finding, ...] = ()
    blobs: Mapping[str, bytes] = field(default_factory=dict)
    unit: FileUnit | None = None
    left_out: Mapping[str, int] = field(default_factory=dict)


@dataclass(frozen=True)
class Written:
    """The bytes of a file, and in sentences what the format could not hold."""

    data: bytes
    notes: tuple[str, ...] = ()


@dataclass(frozen=True)
class WriteOptions:
    """chord_mm: how far a straight stroke may leave a curve, for formats that know no curves. precision_mm: what
    coordinates are rounded to, never more than a thousandth. release: of the format, where it has several. plan: how a
    machine works the design, for machine files. pictures: PNG or JPEG bytes of those that are printed, by their
    hashes."""

    chord_mm: float = 0.007
    title: str = ""
    precision_mm: float = 1e-5
    release: str | None = None
    plan: Plan = field(default_factory=Plan)
    pictures: Mapping[str, bytes] = field(default_factory=dict)


@dataclass(frozen=True)
class Format:
    """One line of the registry. looks_like: whether bytes could be this format, whatever the file is called.
    precision_mm: how far its lines may lie from the design's when all is well. releases: those that can be written.
    write_program: of what is a machine's own."""

    id: str
    name: str
    suffixes: tuple[str, ...]
    media_type: str
    looks_like: Callable[[bytes], bool]
    read: Callable[[bytes, ReadOptions], ReadResult] | None = None
    write: Callable[[Document, WriteOptions], Written] | None = None
    write_program: Callable[[Program, WriteOptions], Written] | None = None
    precision_mm: float = 0.01
    is_machine: bool = False
    releases: tuple[str, ...] = ()
