"""pattern: shapes filled with lines, dots, hexagons, waves, or any pieces, repeated or as they lie."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..errors import CannotDo
from ..geometry import Path, area, signed_areas
from ..geometry.boolean import cut_lines, difference, union
from ..geometry.nesting import shapes_of
from ..geometry.offset import offset
from ..model import Document, Piece, Stroke, Treatment
from ..model.declare import angle, choice, count, flag, length, number, point
from ..model.declare import area as an_area
from ..model.ids import made_id
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .filling import Filling, cells_in, filling_of, lines_of
from .grown import backing_color, on_layer, own_layer, with_layer
from .making import with_made, with_shapes
from .operation import Context, Operation, Outcome, Role, SourceCost, by_pieces
from .shape import LINE_MM

#: The role of the pieces that a shape is filled with.
WITH = "with"
KINDS = (
    ("lines", "lines"),
    ("crossed", "crossed lines"),
    ("waves", "waves"),
    ("dots", "dots"),
    ("hexagons", "hexagons"),
    ("repeated", "other pieces, repeated"),
    ("over", "other pieces, all over it"),
    ("once", "other pieces, as they lie"),
)
#: With these the pieces are picked.
GIVEN = ("repeated", "over", "once")
USES = (
    ("openings", "cut out of it"),
    ("stays", "left standing"),
    ("pieces", "laid on it as pieces"),
    ("lines", "as lines to score"),
)
BANDS, LATTICE = ("lines", "crossed", "waves"), ("lines", "crossed", "waves", "dots", "hexagons", "repeated")


@dataclass(frozen=True)
class Pattern:
    kind: str = choice("hexagons", label="with", help="what fills it", choices=KINDS)
    use: str = choice("openings", label="use", help="what the pattern becomes", choices=USES)
    spacing_mm: float = length(
        6.0, label="spacing", help="from one to the next", low=0.2, step=0.5, when=("kind", LATTICE)
    )
    width_mm: float = length(
        1.5,
        label="width",
        help="of a line or a dot; between hexagons, of what stays",
        low=0.05,
        step=0.1,
        when=("kind", ("lines", "crossed", "waves", "dots", "hexagons")),
    )
    rim_mm: float = length(3.0, label="rim", help="that stays all round", low=0.0, step=0.5, handle="out")
    angle: float = angle(0.0, label="angle", help="of the rows", when=("kind", LATTICE))
    swing_mm: float = length(2.0, label="swing", help="of waves to both sides", when=("kind", ("waves",)), group="more")
    shift: tuple[float, float] = point(
        (0.0, 0.0),
        label="shifted by",
        help="along the rows and across",
        when=("kind", LATTICE),
        group="more",
        is_vector=True,
    )
    jitter: float = number(
        0.0,
        label="scattered",
        help="how far figures stand off their rows, as a share of the spacing",
        low=0.0,
        high=1.0,
        step=0.1,
        when=("kind", ("dots", "hexagons", "repeated")),
        group="more",
    )
    seed: int = count(
        1, label="scattered as", help="another number scatters otherwise", low=1, high=9999,
        when=("kind", ("dots", "hexagons", "repeated")), group="more",
    )  # fmt: skip
    least_mm2: float | None = an_area(
        None, label="parts below", help="smaller parts are left out; without it, what the material bears", group="more"
    )
    one: bool = flag(
        True, label="in one piece", help="what would come loose is left out", when=("use", ("openings", "stays"))
    )


@dataclass(frozen=True)
class _Made:
    """What became of one shape: its path, what lies on it, and how many parts there are and were left out."""

    path: Path | None
    laid: Path | None
    parts: int
    small: int = 0
    loose: int = 0


def run(document: Document, parameters: Pattern, context: Context) -> Outcome:
    """Clipped to each shape; parts that are too small are left out and counted."""
    motif = context.pieces(document, WITH)
    pieces = [p for p in context.pieces(document) if has_inside(p) and p not in motif]
    given = parameters.kind in GIVEN
    if given and not motif:
        picked, motif = pieces, [p for p in document.pieces_followed() if p not in pieces and has_inside(p)]
        pieces = picked if motif else []
    if not pieces or (given and not motif):
        raise CannotDo("Pick the shape that is filled; and what it is filled with, where that is other pieces.")
    fill = filling_of(parameters, motif)
    changes: dict[str, Path] = {}
    laid: dict[str, list[Piece]] = {}
    after = document
    made = []
    for nth, piece in enumerate(pieces):
        context.progress(nth / len(pieces), "Filling")
        one = _filled(document, piece, parameters, fill, context)
        made.append(one)
        if one.path is not None:
            changes[piece.id] = one.path
        if one.laid is not None and len(one.laid):
            after, laid[piece.id] = _laid(after, piece, one.laid, parameters, context)
    parts = sum(one.parts for one in made)
    if not parts:
        raise CannotDo("No part of the pattern has room in it: take a smaller spacing, or a narrower rim.")
    after = with_shapes(after, changes)
    after = with_made(after, laid, (), above=True)
    if parameters.kind in ("once", "over"):
        after = after.with_paths({piece.id: None for piece in motif})
    return _told(after, parameters, pieces, made, parts)


def _filled(document: Document, piece: Piece, parameters: Pattern, fill: Filling, context: Context) -> _Made:
    shape = union(operand_of(piece)).path
    inner = offset(shape, distance_mm=-parameters.rim_mm).path if parameters.rim_mm else shape
    if not len(inner):
        raise CannotDo(f"A rim of {as_mm(parameters.rim_mm)} swallows {piece.name or 'a shape'}: take a narrower one.")
    if parameters.use == "lines":
        lines = lines_of(parameters, inner)
        cut = cut_lines(lines, inner).path
        return _Made(None, cut, len(cut))
    material = context.conditions.material_of(document.layer_by_id[piece.layer])
    least = material.least_piece_mm2 if parameters.least_mm2 is None else parameters.least_mm2
    cells, whole = cells_in(fill, inner)
    cells, small = _large_enough(cells, least)
    whole, fewer = _large_enough(whole, least)
    small += fewer
    if parameters.use == "pieces":
        path = Path.concatenate([whole, cells])
        return _Made(None, path, len(shapes_of(path)), small)
    if parameters.use == "openings":
        path = _opened(shape, cells, whole, parameters.rim_mm > 0)
        path, loose = _held(path) if parameters.one else (path, 0)
        return _Made(path, None, len(cells) + len(whole), small, loose)
    rim = difference(shape, inner).path if parameters.rim_mm else Path.concatenate([])
    path = union(rim, cells, whole).path if len(rim) else union(cells, whole).path
    path, loose = _held(path) if parameters.one else (path, 0)
    return _Made(path, None, len(shapes_of(path)), small, loose)


def _large_enough(path: Path, least_mm2: float) -> tuple[Path, int]:
    shapes = shapes_of(path)
    sizes = signed_areas(path)
    kept = [rows for rows in shapes if float(sizes[rows].sum()) >= least_mm2]
    return path.take([row for rows in kept for row in rows]), len(shapes) - len(kept)


def _opened(shape: Path, cells: Path, whole: Path, clear: bool) -> Path:
    """A shape without cells. clear: none of them comes to its edge, so that they are its holes as they are."""
    if clear:
        return Path.concatenate([shape, cells.reversed(), whole.reversed()])
    return Path.concatenate([difference(shape, cells).path, whole.reversed()])


def _held(path: Path) -> tuple[Path, int]:
    """The largest of the parts of a path, and how many others there are."""
    shapes = shapes_of(path)
    if len(shapes) < 2:
        return path, 0
    sizes = signed_areas(path)
    best = max(shapes, key=lambda rows: float(sizes[rows].sum()))
    return path.take(sorted(best)), len(shapes) - 1


def _laid(document: Document, piece: Piece, path: Path, parameters: Pattern, context: Context):
    own = document.layer_by_id[piece.layer]
    layer = own_layer(document, f"{context.key}:layer", f"{own.name}, pattern", own, backing_color(own))
    identity = made_id(context.key, [piece.id], 0)
    if parameters.use == "lines":
        layer = replace(layer, treatment=Treatment.SCORE)
        made = Piece(identity, path, layer.id, "Pattern", stroke=Stroke(layer.color, LINE_MM))
    else:
        made = on_layer(piece, layer, identity, path, "Pattern")
    return with_layer(document, layer, own.id, above=True), [made]


def _told(after: Document, parameters: Pattern, pieces: Sequence[Piece], made: Sequence[_Made], parts: int) -> Outcome:
    small, loose = sum(one.small for one in made), sum(one.loose for one in made)
    covered = sum(area(after.by_id[p.id].path) for p in pieces if p.id in after.by_id)
    notes = [number_of(parts, "line" if parameters.use == "lines" else "part")]
    if small:
        notes.append(f"{number_of(small, 'part')} too small, left out")
    if loose:
        notes.append(f"{number_of(loose, 'part')} would come loose, left out")
    if parameters.one and parameters.use in ("openings", "stays"):
        notes.append("in one piece" if len(pieces) == 1 else "each in one piece")
    title = f"Filled with {dict(KINDS)[parameters.kind].split(',')[0]}"
    statistics = {"parts": parts, "small": small, "loose": loose, "area_mm2": float(covered)}
    return Outcome(after, title, "; ".join(notes), statistics)


def cost(document: Document, parameters: Pattern, source: SourceCost) -> float:
    if parameters.kind in ("once", "over"):
        return by_pieces(document, parameters, source)
    width, height = document.frame
    return by_pieces(document, parameters, source) + 5e-5 * width * height / parameters.spacing_mm**2


OPERATION = Operation(
    id="pattern",
    version=1,
    station="build",
    title="Fill with a pattern",
    parameters=Pattern,
    run=run,
    sizes=("spacing_mm", "width_mm", "rim_mm", "swing_mm"),
    cost=cost,
    sentence="Fill it with {kind}[, {spacing_mm} apart][, {width_mm} wide][, at {angle}], {use}; "
    "a rim of {rim_mm} stays",
    roles=(
        Role(ON, "the shape that is filled", everything=True),
        Role(WITH, "what it is filled with", least=0, when=("kind", GIVEN)),
    ),
)
