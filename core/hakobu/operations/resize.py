"""resize: the whole design and its page at another size: typed, fitted, or by the true size of a hole or a strip."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..errors import BadRequest, CannotDo
from ..geometry import Path, bounds, features, transform, translation
from ..geometry.boolean import union
from ..geometry.features import Feature, best_factor
from ..model import Document, Piece
from ..model import declare as declaring
from ..model.declare import MOST_MM, choice, data, flag, length, line, number, point, text
from ..model.report import report_of
from ..model.scaling import scaled, stretched
from ..model.shapes import has_inside, operand_of
from ..model.units import as_mm, parse_length, size_text
from ..model.words import number_of
from .operation import Context, Operation, Outcome
from .page import centred

FEATURES = (("", "nothing"), ("hole", "a hole or a slot"), ("strip", "a strip or a gap"), ("distance", "two nodes"))
MEASURED = ("hole", "strip", "distance")
ASKED = "Give a width, a height or a factor: one of them, the others follow in proportion."


@dataclass(frozen=True)
class Resize:
    width_mm: float | None = length(
        None, label="width", help="the width of all outlines", low=0.1, instead_of=("height_mm", "factor")
    )
    height_mm: float | None = length(
        None, label="height", help="the height of all outlines", low=0.1, instead_of=("width_mm", "factor")
    )
    factor: float | None = number(
        None,
        label="factor",
        help="times the present size",
        unit="times",
        low=0.0001,
        high=10000,
        instead_of=("width_mm", "height_mm"),
    )
    stretch: bool = flag(
        False,
        label="not in proportion",
        help="width and height are both met; else the design fits in",
        group="more",
    )
    area_mm2: float | None = declaring.area(
        None, label="area", help="of material that pieces cover in the end", low=0.01, group="more"
    )
    line_mm: float | None = length(None, label="line", help="the length of all cuts in the end", low=0.1, group="more")
    feature: str = choice("", label="by", help="what is measured", choices=FEATURES, group="more")
    at: tuple[float, float] | None = point(
        None, label="at", help="where it is", when=("feature", ("hole", "strip")), group="more"
    )
    ends: tuple[float, float, float, float] | None = line(
        None, label="between", help="the nodes nearest to these places", when=("feature", ("distance",)), group="more"
    )
    to_mm: float | None = length(
        None, label="is truly", help="its true size", low=0.01, when=("feature", MEASURED), group="more"
    )
    others: Mapping[str, Any] | None = data(
        None, label="other features", help='{"features": [{"feature": "hole", "at": [x, y], "to_mm": 4}, ...]}'
    )
    holes_mm: float | None = length(
        None, label="round holes stay up to", help="rivet and hanging holes of no more keep their size", group="more"
    )
    lines: bool = flag(False, label="strokes stay", help="they keep their breadth", group="more")
    reason: str = text("", label="reason", help="why, for the log: for instance that units were mistaken", group="")


def run(document: Document, parameters: Resize, context: Context) -> Outcome:
    """Scales about the page's top left. A page that a person has set stays, with the design on it. Several features
    give the best factor in between, and what remains of each."""
    width, height = document.extent_mm
    notes, figures = [], {}
    across = down = 1.0
    measured = _measured(document, parameters)
    if measured:
        across = down = _by_features(measured, notes, figures)
    else:
        across, down = _factors(document, parameters, width, height)
    made = scaled(document, across) if across == down else stretched(document, across, down)
    if parameters.lines:
        kept = {piece.id: piece.stroke for piece in document.pieces}
        made = replace(made, pieces=tuple(replace(p, stroke=kept[p.id]) if p.stroke else p for p in made.pieces))
    if parameters.holes_mm:
        made, held = _with_holes(document, made, parameters.holes_mm)
        notes.append(f"{number_of(held, 'round hole')} stayed as {'it was' if held == 1 else 'they were'}")
        figures["holes_kept"] = held
    notes.insert(0, f"{size_text(width, height)} became {size_text(width * across, height * down)}")
    by_height = parameters.height_mm is not None and parameters.width_mm is None
    size = f"{as_mm(height * down)} high" if by_height else f"{as_mm(width * across)} wide"
    if made.page and made.page.fixed:
        made = centred(made, made.page)
    title = parameters.reason or f"Sized to {size}"
    figures = {"factor": across, **({"factor_down": down} if down != across else {}), **figures}
    return Outcome(replace(made, sized=_typed(parameters)), title, "; ".join(notes), figures)


def _typed(parameters: Resize) -> tuple[str, float] | None:
    if parameters.width_mm is not None:
        return None if parameters.height_mm is not None else ("width", parameters.width_mm)
    return None if parameters.height_mm is None else ("height", parameters.height_mm)


def _factors(document: Document, parameters: Resize, width: float, height: float) -> tuple[float, float]:
    """How many times larger it becomes, across and down."""
    sides = [(parameters.width_mm, width), (parameters.height_mm, height)]
    by_side = [(wanted, whole) for wanted, whole in sides if wanted is not None]
    aims = [v for v in (parameters.factor, parameters.area_mm2, parameters.line_mm) if v is not None]
    if bool(by_side) + len(aims) != 1:
        raise BadRequest(ASKED)
    if parameters.factor is not None:
        return parameters.factor, parameters.factor
    if aims:
        factor = _by_amount(document, parameters)
        return factor, factor
    if any(whole <= 0 for _, whole in by_side):
        raise CannotDo("This design has no extent in that direction, so it cannot be sized by it; use the other one.")
    factors = [wanted / whole for wanted, whole in by_side]
    if len(factors) == 2 and parameters.stretch:
        return factors[0], factors[1]
    return min(factors), min(factors)


def _by_amount(document: Document, parameters: Resize) -> float:
    """By the area of all pieces, which grows as the square, or by the length of all lines."""
    report = report_of(document)
    if parameters.area_mm2 is not None:
        if not report.area_mm2:
            raise CannotDo("This design covers no area by which it could be sized.")
        return float(np.sqrt(parameters.area_mm2 / report.area_mm2))
    if not report.length_mm:
        raise CannotDo("There is no line here by which it could be sized.")
    return parameters.line_mm / report.length_mm


def _measured(document: Document, parameters: Resize) -> list[tuple[Feature, float]]:
    """The features that are named, with their true sizes. Raises BadRequest and CannotDo."""
    asked = []
    if parameters.feature:
        at = parameters.ends if parameters.feature == "distance" else parameters.at
        asked.append({"feature": parameters.feature, "at": at, "to_mm": parameters.to_mm})
    others = (parameters.others or {}).get("features", [])
    if not isinstance(others, list) or len(others) > MOST_FEATURES:
        raise BadRequest(f'"others" must list no more than {MOST_FEATURES} features.')
    whole = _whole(document) if asked or others else None
    return [_one(whole, each) for each in [*asked, *others]]


#: So many features are fitted at once.
MOST_FEATURES = 50


def _one(whole: Path, asked: Any) -> tuple[Feature, float]:
    try:
        kind, wanted = asked["feature"], float(asked["to_mm"])
        places = [float(value) for value in asked["at"]]
    except (TypeError, KeyError, ValueError):
        raise BadRequest("A feature needs its kind, where it is, and its true size.") from None
    if kind not in FIND or len(places) != (4 if kind == "distance" else 2) or not 0 < wanted < MOST_MM:
        raise BadRequest(f"A feature is one of {', '.join(FIND)}, at a place, with a size above 0.")
    return _found(whole, kind, places), wanted


#: What is not found where it was looked for.
NOT_THERE = {"hole": "hole or slot", "strip": "other side", "distance": "second node"}


def feature_of(document: Document, kind: str, places: Sequence[float]) -> Feature:
    """What is measured of a design at a place. Raises CannotDo where it is not there."""
    return _found(_whole(document), kind, places)


def _found(whole: Path, kind: str, places: Sequence[float]) -> Feature:
    found = FIND[kind](whole, list(places))
    if found is None:
        raise CannotDo(f"There is no {NOT_THERE[kind]} there to measure: point at another place.")
    return found


def _whole(document: Document) -> Path:
    shapes = [piece for piece in document.pieces_followed() if has_inside(piece)]
    if not shapes:
        raise CannotDo("There is no closed shape here to measure.")
    return union(*map(operand_of, shapes)).path


FIND: dict[str, Callable[[Path, list[float]], Feature | None]] = {
    "hole": lambda path, places: features.hole_at(path, (places[0], places[1])),
    "strip": lambda path, places: features.strip_at(path, (places[0], places[1])),
    "distance": lambda path, places: features.distance_between(path, tuple(places[:2]), tuple(places[2:])),
}


def _by_features(measured: list[tuple[Feature, float]], notes: list[str], figures: dict[str, float]) -> float:
    sizes = np.array([feature.size_mm for feature, _ in measured])
    wanted = np.array([size for _, size in measured])
    factor = best_factor(sizes, wanted)
    for k, (feature, size) in enumerate(measured):
        rest = feature.size_mm * factor - size
        left = f", {as_mm(abs(rest))} too {'large' if rest > 0 else 'small'}" if abs(rest) > 5e-4 else ""
        notes.append(f"{feature.about} {as_mm(feature.size_mm)} became {as_mm(feature.size_mm * factor)}{left}")
        figures[f"rest_{k + 1}_mm"] = float(rest)
    return factor


def _with_holes(before: Document, after: Document, up_to_mm: float) -> tuple[Document, int]:
    """Round holes at the size they had, about their new middles; and how many."""
    held, paths = 0, {}
    for piece in before.pieces_followed():
        if not has_inside(piece):
            continue
        own = _holes_of(piece, up_to_mm)
        if own:
            held += len(own)
            paths[piece.id] = _held(piece.path, after.by_id[piece.id].path, own)
    return after.with_paths(paths), held


def _holes_of(piece: Piece, up_to_mm: float) -> list[int]:
    """The outlines of a piece that are round holes: of its own, or, of one that is a circle only, the piece."""
    path = union(operand_of(piece)).path
    holes = [bounds(path.take([row])) for row in features.round_holes(path, up_to_mm)]
    if not holes:
        return []
    boxes = [bounds(piece.path.take([k])) for k in range(len(piece.path))]
    return [k for k, box in enumerate(boxes) if any(np.allclose(box, hole, atol=1e-6) for hole in holes)]


def _held(before: Path, after: Path, rows: list[int]) -> Path:
    parts = []
    for k in range(len(after)):
        outline = after.take([k])
        if k in rows:
            was, now = (np.array(bounds(p.take([k]))).reshape(2, 2).mean(axis=0) for p in (before, after))
            outline = transform(before.take([k]), translation(*(now - was)))
        parts.append(outline)
    return Path.concatenate(parts)


def of_feature(typed: str) -> dict[str, Any]:
    """hole:120,40, or distance:10,10,50,10."""
    kind, _, at = typed.partition(":")
    places = [parse_length(part) for part in at.split(",") if part.strip()]
    if kind.strip() not in FIND or len(places) != (4 if kind.strip() == "distance" else 2):
        raise BadRequest(f'"{typed}" is no feature: type its kind and where it is, such as hole:120,40.')
    return {"feature": kind.strip(), ("ends" if kind.strip() == "distance" else "at"): places}


def of_box(typed: str) -> dict[str, float]:
    """WxH, to be fitted into."""
    from .shape import of_size

    size = of_size(typed)
    if len(size) < 2:
        raise BadRequest(f'"{typed}" is not a box: type a width and a height, such as 140x95mm.')
    return size


OPERATION = Operation(
    id="resize",
    version=3,
    station="intake",
    title="Set the size",
    parameters=Resize,
    run=run,
    sentence="Make it {width_mm} wide, or {height_mm} high, or {factor} times as large",
    spellings={
        "feature": ("what is measured and where, as hole:120,40", of_feature),
        "to": ("its true size", lambda typed: {"to_mm": parse_length(typed)}),
        "fit": ("a box that it fits into, as 140x95mm", of_box),
    },
)
