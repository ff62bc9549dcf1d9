"""trace: the lines of a picture become pieces."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..model import Document, Fill, Layer, Picture, Piece
from ..model.errors import CannotDo
from ..model.ids import piece_id
from ..tracing import check_mode
from .operation import Context, Operation, Outcome, parameter

#: What traced ink looks like until its layer is given a material.
INK = "#1f1f1f"


@dataclass(frozen=True)
class Trace:
    picture: str = parameter("", help="the picture's id; not needed where there is only one")
    mode: str = parameter("dark", help="how lines are found")
    threshold: float | None = parameter(
        None, help="a pixel is ink when it is darker than this; without it, chosen from the picture", low=0.0, high=1.0
    )
    smoothness_mm: float | None = parameter(
        None, help="how far a line may leave the edge to be smooth; corners stay", unit="mm", low=0.001, high=50.0
    )
    smallest_mm2: float | None = parameter(
        None, help="the smallest bit that is kept, ink or hollow", unit="mm2", low=0.0, high=1e6
    )


def run(document: Document, parameters: Trace, context: Context) -> Outcome:
    """Adds a layer with a piece for each dark region, the largest lowest. Ids are made of the region's darkest pixel,
    so they stay when the threshold moves."""
    from ..tracing import dark
    from ..tracing.grey import luma_over_white

    check_mode(parameters.mode)
    picture = picture_of(document, parameters.picture)
    context.progress(0.05, "Reading the picture")
    grey = luma_over_white(context.picture(picture.sha256))
    context.progress(0.5, "Finding lines")
    settled = settle(parameters, dark.propose(grey, pixel_mm(picture)))
    traced = dark.trace(grey, picture.matrix, settled.threshold, settled.smoothness_mm, settled.smallest_mm2)
    layer = Layer(piece_id(context.key, "dark"), "Traced", INK)
    pieces = tuple(
        Piece(piece_id(context.key, f"{x},{y}"), region.path, layer.id, fill=Fill(INK))
        for region in traced.regions
        for x, y in (region.seed,)
    )
    made = replace(document, layers=(*document.layers, layer), pieces=(*document.pieces, *pieces))
    count = len(pieces)
    note = f"{count:,} {'piece' if count == 1 else 'pieces'}"
    if traced.specks:
        note += f", {traced.specks:,} {'speck' if traced.specks == 1 else 'specks'} left out"
    figures = {
        "pieces": count,
        "specks": traced.specks,
        "threshold": settled.threshold,
        "smoothness_mm": settled.smoothness_mm,
        "smallest_mm2": settled.smallest_mm2,
        "mean_mm": traced.mean_mm,
        "max_mm": traced.max_mm,
    }
    return Outcome(made, f"Traced by darkness, {100 * settled.threshold:.0f} %", note, figures)


def picture_of(document: Document, identity: str) -> Picture:
    """The named picture, or the only one. Raises CannotDo."""
    found = [picture for picture in document.pictures if not identity or picture.id == identity]
    if not found:
        raise CannotDo("There is no picture here to trace; bring one in first.")
    if len(found) > 1:
        raise CannotDo(f"There are {len(found)} pictures here; say which one to trace.")
    return found[0]


def pixel_mm(picture: Picture) -> float:
    """The side of a square as large as one of the picture's pixels."""
    a, b, c, d, _, _ = picture.matrix
    return abs(a * d - b * c) ** 0.5


def settle(parameters: Trace, proposal) -> Trace:
    """The parameters with what the picture proposes in place of what was not given."""
    given = {name: getattr(parameters, name) for name in ("threshold", "smoothness_mm", "smallest_mm2")}
    values = {name: getattr(proposal, name) if value is None else value for name, value in given.items()}
    return replace(parameters, **values)


OPERATION = Operation("trace", 1, "trace", "Trace", Trace, run)
