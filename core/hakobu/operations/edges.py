"""edges: the edges of shapes as lines, open between their corners, or lines as shapes of a width."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Path
from ..geometry.boolean import union
from ..geometry.corners import corners_of
from ..geometry.offset import around
from ..model import Document, Fill, Piece, Stroke
from ..model.declare import choice, flag, length
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import counted, number_of
from .making import Made, pieces_of, with_made
from .operation import Context, Operation, Outcome, Role, by_pieces
from .shape import LINE_MM

WAYS = (("lines", "lines, one from corner to corner"), ("outline", "closed lines"), ("width", "shapes of a width"))
ENDS = (("round", "round"), ("flat", "flat"), ("square", "square"))


@dataclass(frozen=True)
class Edges:
    way: str = choice("width", label="become", help="what edges or lines become", choices=WAYS)
    width_mm: float = length(
        2.0, label="width", help="how wide a line becomes", low=0.02, step=0.1, when=("way", ("width",))
    )
    ends: str = choice("round", label="ends", help="of open lines", choices=ENDS, when=("way", ("width",)))
    keep: bool = flag(False, label="the shape stays", help="as well", when=("way", ("lines", "outline")), group="more")


def run(document: Document, parameters: Edges, context: Context) -> Outcome:
    """Lines that are given a width are united, each piece by itself."""
    made: dict[str, list[Piece]] = {}
    gone: set[str] = set()
    for piece in context.pieces(document):
        paths = _paths(piece, parameters)
        parts = pieces_of(context.key, [Made(path, (piece,)) for path in paths if len(path)])
        color = document.layer_by_id[piece.layer].color
        looks = (
            {"fill": Fill(color), "stroke": None}
            if parameters.way == "width"
            else {"fill": None, "stroke": Stroke(color, LINE_MM)}
        )
        made[piece.id] = [replace(part, **looks) for part in parts]
        if not parameters.keep or parameters.way == "width":
            gone.add(piece.id)
    count = sum(map(len, made.values()))
    if not count:
        raise CannotDo("There is no edge here.")
    after = with_made(document, made, gone, above=True)
    what = counted(len(made), "piece").capitalize()
    if parameters.way == "width":
        return Outcome(after, f"{what}: lines {as_mm(parameters.width_mm)} wide", "", {"pieces": count})
    return Outcome(after, f"{what}: edges as lines", number_of(count, "line"), {"pieces": count})


def _paths(piece: Piece, parameters: Edges) -> list[Path]:
    if parameters.way == "width":
        return [around(piece.path, parameters.width_mm / 2, ends=parameters.ends).path]
    path = union(operand_of(piece)).path if has_inside(piece) else piece.path
    if parameters.way == "outline":
        return [path.take([k]) for k in range(len(path))]
    return [part for outline in path.outlines() for part in _between_corners(outline)]


def _between_corners(outline: Path) -> list[Path]:
    found = corners_of(outline)
    cuts = np.unique(found.after)
    size = outline.segment_count
    if not len(cuts):
        return [outline]
    if outline.closed[0]:
        rows = np.roll(np.arange(size), -int(cuts[0]))
        starts = (cuts - cuts[0]).tolist()
    else:
        rows, starts = np.arange(size), [0, *cuts.tolist()]
    parts = []
    for a, b in zip(starts, [*starts[1:], size], strict=True):
        own = rows[a:b]
        parts.append(Path(outline.ctrl[own], outline.kind[own], outline.bulge[own], [0, len(own)], [False]))
    return parts


OPERATION = Operation(
    id="edges",
    version=1,
    station="build",
    title="Edges and lines",
    parameters=Edges,
    run=run,
    sizes=("width_mm",),
    cost=by_pieces,
    sentence="Edges and lines become {way}[ {width_mm} wide, ends {ends}]",
    roles=(Role(ON, "the shapes or lines"),),
)
