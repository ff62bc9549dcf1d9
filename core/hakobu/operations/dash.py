"""dash: lines as a tool is to run along them: scored whole, perforated, or dashed."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..errors import CannotDo, TooMuch
from ..geometry.offset.stroke import dashed
from ..model import Document, Piece, Stroke, Treatment
from ..model.declare import choice, length
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted
from .grown import own_layer, with_layer
from .operation import Context, Operation, Outcome, Role
from .shape import LINE_MM

WAYS = (("score", "scored"), ("perforation", "perforated"), ("dashes", "drawn in dashes"))
BROKEN = ("perforation", "dashes")
TREATMENT = {"score": Treatment.SCORE, "perforation": Treatment.CUT, "dashes": Treatment.DRAW}
#: Colours of layers that lines come to, by what is done to them.
COLORS = {"score": "#a8462e", "perforation": "#7a4fa0", "dashes": "#2f6f6a"}


@dataclass(frozen=True)
class Dash:
    way: str = choice("perforation", label="how", help="what the tool does", choices=WAYS)
    cut_mm: float = length(
        3.0, label="cut", help="how long each cut or dash is", low=0.05, step=0.1, when=("way", BROKEN)
    )
    gap_mm: float = length(1.0, label="gap", help="how much stays between", low=0.05, step=0.1, when=("way", BROKEN))


def run(document: Document, parameters: Dash, context: Context) -> Outcome:
    """The lines come to a layer of their own, each beginning with a cut."""
    changes: dict[str, Piece] = {}
    after, count = document, 0
    for piece in context.pieces(document):
        own = document.layer_by_id[piece.layer]
        layer = own_layer(
            after, f"{context.key}:layer", f"{own.name}, {dict(WAYS)[parameters.way]}", own, COLORS[parameters.way]
        )
        layer = replace(layer, treatment=TREATMENT[parameters.way])
        after = with_layer(after, layer, own.id, above=True)
        path = dashes_of(piece.path, parameters.cut_mm, parameters.gap_mm) if parameters.way in BROKEN else piece.path
        count += len(path)
        changes[piece.id] = replace(
            piece, path=path, layer=layer.id, fill=None, stroke=Stroke(layer.color, LINE_MM), fill_rule="nonzero"
        )
    after = replace(after, pieces=tuple(changes.get(piece.id, piece) for piece in after.pieces))
    title = f"{counted(len(changes), 'line').capitalize()} {dict(WAYS)[parameters.way]}"
    broken = parameters.way in BROKEN
    note = f"{count:,} cuts of {as_mm(parameters.cut_mm)}, {as_mm(parameters.gap_mm)} between" if broken else ""
    return Outcome(after, title, note, {"lines": len(changes), "dashes": count})


def dashes_of(path, cut_mm: float, gap_mm: float):
    """The dashes of lines. Raises TooMuch where there would be too many."""
    try:
        made, _ = dashed(path, (cut_mm, gap_mm))
    except ValueError as error:
        raise TooMuch("That would be more than 100,000 dashes: take longer ones.") from error
    if not len(made):
        raise CannotDo("These lines are too short for a dash: take shorter ones.")
    return made


OPERATION = Operation(
    id="dash",
    version=1,
    station="build",
    title="Score or perforate",
    parameters=Dash,
    run=run,
    sizes=("cut_mm", "gap_mm"),
    sentence="Have the lines {way}[, cuts of {cut_mm} with {gap_mm} between]",
    roles=(Role(ON, "the lines"),),
)
