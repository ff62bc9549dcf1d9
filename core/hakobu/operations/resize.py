"""resize: the whole design and its page at another size: typed, fitted, or by the true size of a hole or a strip."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any

import numpy as np

from ..errors import BadRequest, CannotDo
from ..geometry import Path, box_of
from ..geometry.containment import largest_factor
from ..geometry.features import Feature, best_factor, best_factors, size_after
from ..model import Document
from ..model import declare as declaring
from ..model.declare import MOST_MM, choice, data, flag, length, line, number, point, text
from ..model.dimension import Dimension
from ..model.features import KINDS, LENGTHS, ONE_PLACE, TWO_PLACES, feature_at, settled_places
from ..model.report import report_of
from ..model.scaling import scaled, stretched
from ..model.targets import TARGETS, outline_of, target_from
from ..model.units import as_mm, parse_length, size_text
from ..model.words import number_of
from .kept_holes import with_holes
from .operation import Context, Operation, Outcome
from .page import centred

FEATURES = (("", "nothing"), *((kind, KINDS[kind].words) for kind in LENGTHS))
ASKED = "Give one of them: a width, a height or both, a factor, a target, an area, a length, or a feature."


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
    clear_mm: float = length(
        0.0, label="room all round", help="that stays between the design and the box or the target", group="more"
    )
    target: Mapping[str, Any] | None = data(
        None, label="target", help="what it goes onto: {name, width_mm, height_mm, shape, ...}, off: [x, y]"
    )
    area_mm2: float | None = declaring.area(
        None, label="area", help="of material that pieces cover in the end", low=0.01, group="more"
    )
    line_mm: float | None = length(None, label="line", help="the length of all cuts in the end", low=0.1, group="more")
    feature: str = choice("", label="by", help="what is measured", choices=FEATURES, group="more")
    at: tuple[float, float] | None = point(
        None, label="at", help="where it is", when=("feature", ONE_PLACE), group="more"
    )
    ends: tuple[float, float, float, float] | None = line(
        None, label="between", help="the nodes nearest to these places", when=("feature", TWO_PLACES), group="more"
    )
    to_mm: float | None = length(
        None, label="is truly", help="its true size", low=0.01, when=("feature", LENGTHS), group="more"
    )
    others: Mapping[str, Any] | None = data(
        None, label="other features", help='{"features": [{"feature": "hole", "at": [x, y], "to_mm": 4}, ...]}'
    )
    holes_mm: float | None = length(
        None, label="round holes stay up to", help="rivet and hanging holes of no more keep their size", group="more"
    )
    lines: bool = flag(False, label="strokes stay", help="they keep their breadth", group="more")
    reason: str = text("", label="reason", help="why, for the log: for instance that units were mistaken", group="")
    said: str = text("", label="said", help="the effect on the whole design, where later steps keep numbers", group="")


def run(document: Document, parameters: Resize, context: Context) -> Outcome:
    """Scales about the page's top left. A page that a person has set stays, with the design on it. Several features
    give the best factor in between, and what remains of each."""
    width, height = document.extent_mm
    notes, statistics = [], {}
    across = down = 1.0
    wanted = wanted_features(document, parameters)
    measured = [(dimension, found, size) for dimension, found, size in wanted if size is not None]
    if len(measured) < len(wanted):
        raise BadRequest("A feature needs its true size.")
    if measured:
        across, down = factors_by_features(measured, parameters.stretch)
        notes, statistics = remainders(measured, (across, down))
    else:
        across, down = factors_for(document, parameters, width, height)
    made = scaled(document, across) if across == down else stretched(document, across, down)
    if parameters.lines:
        kept = {piece.id: piece.stroke for piece in document.pieces}
        made = replace(made, pieces=tuple(replace(p, stroke=kept[p.id]) if p.stroke else p for p in made.pieces))
    if parameters.holes_mm:
        made, held = with_holes(document, made, parameters.holes_mm)
        notes.append(f"{number_of(held, 'round hole')} stayed as {'it was' if held == 1 else 'they were'}")
        statistics["holes_kept"] = held
    notes.insert(0, f"{size_text(width, height)} became {size_text(width * across, height * down)}")
    by_height = parameters.height_mm is not None and parameters.width_mm is None
    size = f"{as_mm(height * down)} high" if by_height else f"{as_mm(width * across)} wide"
    if made.page and made.page.fixed:
        made = centred(made, made.page)
    plain = not (parameters.lines or parameters.holes_mm) and document.box is not None
    moved = (across, 0.0, 0.0, down, *_off(document, made, across, down)) if plain else None
    title = parameters.reason or f"Sized to {size}"
    notes = [parameters.said] if parameters.said else notes
    statistics = {"factor": across, **({"factor_down": down} if down != across else {}), **statistics}
    return Outcome(replace(made, sized=_typed(parameters)), title, "; ".join(notes), statistics, moved=moved)


def _off(before: Document, after: Document, across: float, down: float) -> tuple[float, float]:
    """How far the design was moved besides, onto its page."""
    was, now = box_of(before.whole_path), box_of(after.whole_path)
    return now[0] - across * was[0], now[1] - down * was[1]


def _typed(parameters: Resize) -> tuple[str, float] | None:
    if parameters.width_mm is not None:
        return None if parameters.height_mm is not None else ("width", parameters.width_mm)
    return None if parameters.height_mm is None else ("height", parameters.height_mm)


def factors_for(document: Document, parameters: Resize, width: float, height: float) -> tuple[float, float]:
    """How many times larger it becomes, across and down."""
    room = 2 * parameters.clear_mm
    sides = [(parameters.width_mm, width), (parameters.height_mm, height)]
    by_side = [(wanted - room, whole) for wanted, whole in sides if wanted is not None]
    aims = [v for v in (parameters.factor, parameters.target, parameters.area_mm2, parameters.line_mm) if v is not None]
    if bool(by_side) + len(aims) != 1:
        raise BadRequest(ASKED)
    if parameters.factor is not None:
        return parameters.factor, parameters.factor
    if parameters.target is not None:
        factor = _in_target(document, parameters.target, parameters.clear_mm)
        return factor, factor
    if aims:
        factor = _by_amount(document, parameters)
        return factor, factor
    if any(wanted <= 0 for wanted, _ in by_side):
        raise CannotDo("So much room all round leaves nothing for the design: type less.")
    if any(whole <= 0 for _, whole in by_side):
        raise CannotDo("This design has no extent in that direction, so it cannot be sized by it; use the other one.")
    factors = [wanted / whole for wanted, whole in by_side]
    if len(factors) == 2 and parameters.stretch:
        return factors[0], factors[1]
    return min(factors), min(factors)


def _in_target(document: Document, values: Mapping[str, Any], clear_mm: float) -> float:
    """As large as fits in a target; the design lies in its middle, or off it by `off`."""
    target, off = target_from(values)
    if document.box is None:
        raise CannotDo("There is nothing here yet that could be fitted to a target.")
    lines = Path.concatenate(piece.path for piece in document.pieces_in_use())
    factor = largest_factor(lines, outline_of(target), clear_mm, off)
    if factor is None:
        raise CannotDo(f"With {as_mm(clear_mm)} all round there is no room in {target.name}: type less.")
    return factor


def _by_amount(document: Document, parameters: Resize) -> float:
    """By the area of all pieces, which grows as the square, or by the length of all lines."""
    report = report_of(document)
    if parameters.area_mm2 is not None:
        if not report.area_mm2:
            raise CannotDo("This design covers no area by which it could be sized.")
        return float(np.sqrt(parameters.area_mm2 / report.area_mm2))
    if not report.length_mm:
        raise CannotDo("There is no line here by which it could be sized.")
    assert parameters.line_mm is not None, "an amount is an area or a length"
    return parameters.line_mm / report.length_mm


def wanted_features(document: Document, parameters: Any) -> list[tuple[Dimension, Feature, float | None]]:
    """The features that are named by `feature`, `at` or `ends`, `to_mm` and `others`: where each is found again, what
    it measures, and its true size where that is given. Raises BadRequest and CannotDo."""
    asked = []
    if parameters.feature:
        at = parameters.ends if KINDS[parameters.feature].places == 2 else parameters.at
        asked.append({"feature": parameters.feature, "at": at, "to_mm": parameters.to_mm})
    others = (parameters.others or {}).get("features", [])
    if not isinstance(others, list) or len(others) > MOST_FEATURES:
        raise BadRequest(f'"others" must list no more than {MOST_FEATURES} features.')
    return [_one(document, each, k) for k, each in enumerate([*asked, *others])]


#: So many features are fitted at once.
MOST_FEATURES = 50


def _one(document: Document, asked: Any, number: int) -> tuple[Dimension, Feature, float | None]:
    try:
        kind = asked["feature"]
        wanted = None if asked.get("to_mm") is None else float(asked["to_mm"])
        values = [float(value) for value in asked["at"]]
    except (TypeError, KeyError, ValueError, AttributeError):
        raise BadRequest("A feature needs its kind, where it is, and its true size.") from None
    fits = kind in LENGTHS and len(values) == 2 * KINDS[kind].places and np.isfinite(values).all()
    if not fits or (wanted is not None and not 0 < wanted < MOST_MM):
        raise BadRequest(f"A feature is one of {', '.join(LENGTHS)}, at a place, with a size above 0.")
    places = list(zip(values[::2], values[1::2], strict=True))
    found, pieces = feature_at(document, kind, places)
    return Dimension(f"feature {number}", kind, settled_places(kind, found), pieces), found, wanted


def factors_by_features(measured: Sequence[tuple[Dimension, Feature, float]], stretch: bool) -> tuple[float, float]:
    """The factors across and down with the least squares of what remains of all true sizes."""
    features = [feature for _, feature, _ in measured]
    wanted = np.array([size for *_, size in measured])
    if stretch and len(measured) > 1:
        return best_factors(features, wanted)
    factor = best_factor(np.array([feature.size for feature in features]), wanted)
    return factor, factor


def remainders(
    measured: Sequence[tuple[Dimension, Feature, float]], factors: tuple[float, float]
) -> tuple[list[str], dict[str, float]]:
    """What each feature became and by how much it misses its true size: sentences, and lengths in mm."""
    notes, statistics = [], {}
    for k, (_, feature, size) in enumerate(measured):
        now = size_after(feature, factors)
        rest = now - size
        left = f", {as_mm(abs(rest))} too {'large' if rest > 0 else 'small'}" if abs(rest) > 5e-4 else ""
        notes.append(f"{feature.about} {as_mm(feature.size)} became {as_mm(now)}{left}")
        statistics[f"rest_{k + 1}_mm"] = float(rest)
    return notes, statistics


def of_feature(typed: str) -> dict[str, Any]:
    """hole:120,40, or distance:10,10,50,10."""
    kind, _, at = typed.partition(":")
    kind, places = kind.strip(), [parse_length(part) for part in at.split(",") if part.strip()]
    if kind not in LENGTHS or len(places) != 2 * KINDS[kind].places:
        raise BadRequest(f'"{typed}" is no feature: type its kind and where it is, such as hole:120,40.')
    return {"feature": kind, ("ends" if len(places) == 4 else "at"): places}


def of_box(typed: str) -> dict[str, float]:
    """WxH, to be fitted into."""
    from .shape import of_size

    size = of_size(typed)
    if len(size) < 2:
        raise BadRequest(f'"{typed}" is not a box: type a width and a height, such as 140x95mm.')
    return size


def of_target(typed: str) -> dict[str, Any]:
    """A target that ships."""
    found = next((target for target in TARGETS if target.id == typed.strip()), None)
    if found is None:
        raise BadRequest(f'"{typed}" is not a target; there are {", ".join(target.id for target in TARGETS)}.')
    return {"target": {name: value for name, value in asdict(found).items() if name != "id"}}


OPERATION = Operation(
    id="resize",
    version=3,
    station="size",
    title="Set the size",
    parameters=Resize,
    run=run,
    sentence="Make it {width_mm} wide, or {height_mm} high, or {factor} times as large",
    spellings={
        "feature": ("what is measured and where, as hole:120,40", of_feature),
        "to": ("its true size", lambda typed: {"to_mm": parse_length(typed)}),
        "fit": ("a box that it fits into, as 140x95mm", of_box),
        "target": ("a target that ships, by its id", of_target),
    },
)
