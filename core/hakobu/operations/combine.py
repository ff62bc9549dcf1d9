"""combine: pieces made one, cut out of each other, kept where they overlap, or parted along all their outlines."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..geometry import Path, signed_areas
from ..model import Document, Piece
from ..model.declare import choice, flag
from ..model.shapes import has_inside
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted
from .combining import WAYS, WITH, Remade
from .making import with_made
from .operation import Context, Operation, Outcome, Role, by_pieces

MODES = (
    ("weld", "made one"),
    ("cut-away", "cut out of each other"),
    ("overlap", "kept where they overlap"),
    ("divide", "parted along all outlines"),
    ("through", "cut through all layers"),
)
CUTTING = ("cut-away", "through")
LOOSE = (("holes", "become holes"), ("welded", "are welded in"))


@dataclass(frozen=True)
class Combine:
    mode: str = choice("weld", label="how", help="what is made of the pieces", choices=MODES)
    keep_cutter: bool = flag(
        False, label="keep what cuts", help="what cuts stays as a piece", group="more", when=("mode", CUTTING)
    )
    lowest_cuts: bool = flag(
        False,
        label="the lowest cuts",
        help="where nothing is picked to cut, the lowest piece cuts in place of the topmost",
        group="more",
        when=("mode", ("cut-away",)),
    )
    loose: str = choice(
        "holes",
        label="loose outlines inside",
        help="what lies loose inside another piece becomes its hole first, or is welded in and vanishes",
        choices=LOOSE,
        group="more",
        when=("mode", ("weld",)),
    )


def run(document: Document, parameters: Combine, context: Context) -> Outcome:
    """Treatment, colour, name, layer and group are the lowest piece's. Pieces that are not changed stay as they are."""
    result = WAYS[parameters.mode](document, parameters, context)
    after = with_made(document, result.made, result.gone)
    made = [piece for pieces in result.made.values() for piece in pieces]
    notes = [result.note, _open_note(context.pieces(document))]
    if result.off_mm:
        notes.append(f"where curves came too near each other, lines within {as_mm(result.off_mm)} took their place")
    holes = signed_areas(Path.concatenate(piece.path for piece in made)) < 0
    statistics = {"pieces": len(made), "holes": int(holes.sum())}
    return Outcome(after, _title(parameters, context, result), "; ".join(filter(None, notes)), statistics)


def _open_note(pieces: Sequence[Piece]) -> str:
    lines = sum(not has_inside(piece) for piece in pieces)
    if not lines:
        return ""
    said = "line that does not close stayed as it was" if lines == 1 else "lines that do not close stayed as they were"
    return f"{lines:,} {said}"


def _title(parameters: Combine, context: Context, result: Remade) -> str:
    many = counted(len(context.chosen.get(ON, ())), "piece").capitalize()
    if parameters.mode == "weld":
        return f"{many} made {'one' if result.count == 1 else result.count}"
    if parameters.mode == "overlap":
        return "Kept where pieces overlap"
    if parameters.mode == "divide":
        return f"{many} parted into {result.count}"
    cut = counted(len(result.made), "piece").capitalize()
    return f"{cut} cut{' through all layers' if parameters.mode == 'through' else ''}"


OPERATION = Operation(
    id="combine",
    version=1,
    station="build",
    title="Combine",
    parameters=Combine,
    run=run,
    cost=by_pieces,
    sentence="The pieces are {mode}",
    roles=(
        Role(ON, "the pieces to combine", everything=True),
        Role(WITH, "what cuts", least=0, when=("mode", ("cut-away", "overlap", "through"))),
    ),
)
