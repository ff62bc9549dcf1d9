"""trace: the lines of a picture become pieces."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from typing import TYPE_CHECKING, Any

import numpy as np

from ..errors import CannotDo
from ..model import Document, Fill, Group, Layer, Picture, Piece, Stroke, Treatment
from ..model.declare import angle, area, choice, count, flag, length, listed, number, pieces, pixels, text
from ..model.declare import colour as colour_
from ..model.ids import piece_id
from ..model.pages import close_round, grown
from .operation import Context, Operation, Outcome, SourceCost

if TYPE_CHECKING:
    from ..geometry import Path
    from ..tracing.options import FoundLayer, FoundPiece, TraceOptions, TraceResult, View
    from ..tracing.prepare.preparation import Preparing

PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
#: How far the page ends from what was found in a photo.
MARGIN_MM = 5.0
#: How wide single lines are shown until they have a tool.
LINE_MM = 0.3


@dataclass(frozen=True)
class Trace:
    picture: str = text("", label="picture", help="the picture's id; not needed where there is only one", group="")
    mode: str = text("dark", label="way", help="how lines are found")
    threshold: float | None = number(
        None,
        label="darkness",
        help="a pixel is ink when it is darker than this; without it, chosen from the picture",
        low=0.0,
        high=1.0,
        step=0.01,
    )
    smoothness_mm: float | None = length(
        None,
        label="smoothness",
        help="how far a line may leave the edge to be smooth; corners stay",
        low=0.001,
        high=50.0,
        step=0.05,
    )
    smallest_mm2: float | None = area(
        None, label="smallest bit", help="the smallest bit that is kept, ink or hollow", high=1e6
    )
    colours: int | None = count(
        None, label="colours", help="into how many colours; without it, as many as there are", low=2, high=24
    )
    shades: int = count(3, label="shades", help="into how many steps of brightness", low=2, high=12)
    with_darker: bool = flag(False, label="with darker", help="each shade with all that is darker, rather than alone")
    background: bool = flag(
        True, label="clear the background", help="clear the background, and every hollow of its colour"
    )
    tolerance: float = number(
        0.1,
        label="tolerance",
        help="how far a colour may be from the background's and still be it",
        low=0.0,
        high=1.0,
        step=0.01,
    )
    holes: bool = flag(False, label="holes", help="round the outside: holes too")
    distance_mm: float = length(
        0.0, label="distance", help="round the outside: how far out the line runs", low=-100.0, high=100.0
    )
    underlap_mm: float = length(0.0, label="underlap", help="how far a piece goes on under what lies on it", high=50.0)
    widest_mm: float | None = length(
        None, label="widest line", help="what is wider than this is no line and keeps its outline", low=0.05, high=500.0
    )
    lines: str = choice(
        "draw",
        label="lines",
        help="middle of lines: what a tool does along them",
        choices=(("draw", "are drawn"), ("cut", "are cut")),
    )
    on_top: bool = flag(False, label="laid on", help="ink and fields: one silhouette with the fields laid on it")
    reference: str | None = text(
        None,
        label="reference",
        help="a dark shape of known size that lies in the picture, as square:60mm, rectangle:60x40mm, circle:50mm",
    )
    mirrored: bool = flag(False, label="mirrored", help="the thing lay face down: what is found is mirrored")
    within: tuple[str, ...] = pieces((), label="within", help="pieces that lines are found within only", group="")
    dropped: tuple[tuple[int, int], ...] = pixels(
        label="dropped", help="pixels x, y of the picture: what lies there goes"
    )
    kept: tuple[tuple[int, int], ...] = pixels(
        label="kept", help="pixels x, y of the picture: what lies there stays, though small, background or a hollow"
    )
    colour: str | None = colour_(
        None, label="colour", help="as #1f3c88: what is of this colour is ink, whatever is darker"
    )
    joined: tuple[str, ...] = listed(
        label="joined", help='two colours each, as "#c0392b #b03a2e": the first becomes the second', most=1000
    )
    left_out: tuple[str, ...] = listed(label="left out", help="colours that are left out", most=1000)
    given: tuple[str, ...] = listed(
        label="given",
        help='two colours each, as "#c0392b #b4673e": what is of the first is made of the second',
        most=1000,
    )
    moved: tuple[str, ...] = listed(
        label="moved",
        help='a pixel and a colour each, as "120,80 #c0392b": the piece there goes to that colour',
        most=1000,
    )
    inside: tuple[tuple[int, int], ...] = pixels(label="inside", help="pixels x, y inside the subject of a photo")
    beyond: tuple[tuple[int, int], ...] = pixels(label="beyond", help="pixels x, y beyond the subject of a photo")
    crop: tuple[tuple[int, int], ...] = pixels(
        label="crop", help="two corners, in pixels, of the part that is looked at", most=2
    )
    turned_degrees: float = angle(
        0.0, label="turned", help="by how much the picture is turned clockwise", low=-180.0, high=180.0
    )
    inverted: bool = flag(False, label="inverted", help="dark becomes light")
    calmed: bool = flag(False, label="calmed", help="noise and the ringing of compression are smoothed, corners stay")
    even_light: bool = flag(False, label="even light", help="light that falls unevenly is taken out")
    ends: tuple[tuple[int, int], ...] = pixels(label="ends", help="two pixels whose distance is known", most=2)
    apart_mm: float | None = length(None, label="apart", help="how far these are apart", low=0.01, high=1e5)
    width_mm: float | None = length(None, label="width", help="how wide what is found is to be", low=0.1, high=1e5)
    height_mm: float | None = length(None, label="height", help="how high what is found is to be", low=0.1, high=1e5)


def run(document: Document, parameters: Trace, context: Context) -> Outcome:
    """Adds the layers and pieces that are found in a picture. Ids are made of pixels of the picture, so they stay when
    the threshold moves."""
    from ..tracing import View

    picture = picture_of(document, parameters.picture)
    context.progress(0.05, "Reading the picture")
    assert context.picture is not None, "tracing needs the pictures of a job"
    view = over(prepared_for(View(context.picture(picture.sha256), PIXELS), parameters), picture.matrix)
    shapes = shapes_within(document, parameters)
    context.progress(0.3, "Finding lines")
    found = found_in(view, parameters, shapes)
    context.progress(0.9, "Making pieces")
    made = with_found(document, picture, found, context.key, Treatment(parameters.lines))
    made = on_its_page(made, document, picture.id, found)
    return Outcome(replace(made, sized=_typed(parameters)), found.title, note_of(found), statistics_of(found))


def on_its_page(made: Document, before: Document, picture: str, found: TraceResult) -> Document:
    """What was made, on a page that holds it: the picture's, as large as that is now, or close round what was found in
    a picture that does not lie flat under it. A page with other pieces on it only grows."""
    if before.pieces:
        return grown(made)
    flat = found.plane is None
    pictures = [each for each in made.pictures if flat or each.id != picture]
    return close_round(made, pictures, 0.0 if flat else MARGIN_MM)


def _typed(parameters: Trace) -> tuple[str, float] | None:
    if parameters.width_mm is not None and parameters.height_mm is None:
        return "width", parameters.width_mm
    return (
        ("height", parameters.height_mm) if parameters.height_mm is not None and parameters.width_mm is None else None
    )


def shapes_within(document: Document, parameters: Trace) -> list[Path]:
    """The outlines that lines are found within only. Raises CannotDo where one is gone."""
    shapes = [document.by_id[identity].path for identity in parameters.within if identity in document.by_id]
    if len(shapes) < len(parameters.within):
        raise CannotDo("A piece that lines were to be found within is no longer there: choose it again.")
    return shapes


def found_in(view: View, parameters: Trace, shapes: Sequence[Path]) -> TraceResult:
    """What a step finds in a view that is prepared, within shapes where there are any."""
    from ..tracing import find
    from ..tracing.scale.placement import Placing, place_result

    asked = trace_options(parameters)
    how = replace(_of(Placing, parameters), within=shapes)
    return place_result(view, lambda own, wish: find(own, parameters.mode, wish), asked, how)


def prepared_for(view: View, parameters: Trace) -> View:
    """The picture as the step looks at it."""
    from ..tracing.prepare.preparation import prepared

    return prepared(view, preparing_of(parameters))


def over(view: View, matrix: tuple[float, ...]) -> View:
    """A view in pixels of the whole picture, laid where a matrix takes those."""
    a, b, c, d, e, f = matrix
    g, h, i, k, m, n = view.matrix
    both = (a * g + c * h, b * g + d * h, a * i + c * k, b * i + d * k, a * m + c * n + e, b * m + d * n + f)
    return replace(view, matrix=both)


def trace_options(parameters: Trace) -> TraceOptions:
    from ..tracing import TraceOptions

    return _of(TraceOptions, parameters)


def preparing_of(parameters: Trace) -> Preparing:
    from ..tracing.prepare.preparation import Preparing

    return _of(Preparing, parameters)


def _of(kind: type, parameters: Trace) -> Any:
    """What the step's parameters say of such a kind of wish."""
    return kind(**{field.name: getattr(parameters, field.name) for field in fields(kind)})


def with_found(
    document: Document, picture: Picture, found: TraceResult, key: str, lines: Treatment = Treatment.DRAW
) -> Document:
    """The document with what was found in one of its pictures. lines: what is done along single lines."""
    layers = tuple(
        Layer(
            piece_id(key, layer.key),
            layer.name,
            layer.color,
            lines if layer.lines else Treatment.CUT,
        )
        for layer in found.layers
    )
    look = {layer.key: layer for layer in found.layers}
    pieces = tuple(_piece(piece, look[piece.layer], key) for piece in found.pieces)
    made = replace(document, layers=(*document.layers, *layers), pieces=(*document.pieces, *pieces))
    if found.matrix and found.plane is None and not np.allclose(found.matrix, picture.matrix, rtol=1e-9, atol=1e-9):
        # The picture lies under its lines.
        moved = replace(picture, matrix=found.matrix)
        made = replace(made, pictures=tuple(moved if other is picture else other for other in made.pictures))
    if not found.with_picture:
        return made
    # The picture is printed, and stays with its line.
    group = Group(piece_id(key, "print"), "Print with its line", (picture.id, *(piece.id for piece in pieces)))
    printed = tuple(
        replace(layer, treatment=Treatment.PRINT, name="Print") if layer.id == picture.layer else layer
        for layer in made.layers
    )
    return replace(made, layers=printed, groups=(*made.groups, group))


def _piece(piece: FoundPiece, layer: FoundLayer, key: str) -> Piece:
    identity = piece_id(key, piece.key if piece.key not in ("ink",) else "ink-piece")
    if layer.lines:
        return Piece(identity, piece.path, piece_id(key, layer.key), stroke=Stroke(layer.color, LINE_MM))
    return Piece(identity, piece.path, piece_id(key, layer.key), fill=Fill(layer.color))


def document_of(found: TraceResult) -> Document:
    """What was found by itself, each piece by its own key."""
    alone = replace(found, matrix=None, with_picture=False)
    made = with_found(Document(), Picture("", "", (0, 0), PIXELS, ""), alone, "")
    pieces = tuple(replace(piece, id=each.key) for piece, each in zip(made.pieces, found.pieces, strict=True))
    return replace(made, pieces=pieces)


def note_of(found: TraceResult) -> str:
    count = len(found.pieces)
    note = f"{count:,} {'piece' if count == 1 else 'pieces'}"
    if len(found.layers) > 1:
        note += f" on {len(found.layers)} layers"
    if found.specks:
        note += f", {found.specks:,} {'speck' if found.specks == 1 else 'specks'} left out"
    return "; ".join((note, *found.notes))


def statistics_of(found: TraceResult) -> dict[str, float]:
    statistics = {"pieces": len(found.pieces), "specks": found.specks, **found.chosen}
    return statistics | {"mean_mm": found.mean_mm, "max_mm": found.max_mm}


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


#: Seconds for each million pixels.
PER_MEGAPIXEL = 0.25


def cost(document: Document, parameters: Trace, source: SourceCost) -> float:
    return sum(p.size_px[0] * p.size_px[1] for p in document.pictures) / 1e6 * PER_MEGAPIXEL


OPERATION = Operation(
    id="trace",
    version=2,
    station="trace",
    title="Trace",
    parameters=Trace,
    run=run,
    sizes=("underlap_mm", "distance_mm"),
    sentence="Trace in the way {mode}",
    cost=cost,
)
