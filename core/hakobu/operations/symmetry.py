"""symmetry: a design made symmetric from one half, mirrored in a line, or from one sector, turned about a centre."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, area, box_of, transform
from ..geometry.boolean import Operand, union
from ..geometry.halves import Line, halves
from ..geometry.symmetrize import roughness, sector_of, step_of, turned_copies
from ..geometry.symmetry import mirror_axes
from ..model import Document, Piece
from ..model import declare as declaring
from ..model.declare import angle, axis, choice, count, point
from ..model.ids import made_id
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .bits import without_bits
from .operation import Context, Operation, Outcome, Role, by_pieces

KINDS = (("mirrored", "mirrored in a line"), ("turned", "turned about a centre"))
HALVES = (("smoother", "the smoother half"), ("first", "the left or upper half"), ("second", "the right or lower half"))
MIRRORED, TURNED = ("mirrored",), ("turned",)
#: A part of so small a share of the area is none.
NOTHING_SHARE = 1e-9


@dataclass(frozen=True)
class Symmetry:
    kind: str = choice("mirrored", label="how", help="how the design repeats itself", choices=KINDS)
    half: str = choice("smoother", label="from", help="the half that stays", choices=HALVES, when=("kind", MIRRORED))
    axis: tuple[float, float, float, float] | None = axis(
        None,
        label="line",
        help="the line of the mirror, from and to; without it, the best one is found",
        when=("kind", MIRRORED),
        handle="ends",
    )
    candidate: int = count(
        1, label="found line", help="of the lines that are found, the best first", low=1, high=12,
        when=("kind", MIRRORED), group="more",
    )  # fmt: skip
    times: int = count(6, label="times", help="how many sectors there are", low=2, high=36, when=("kind", TURNED))
    start: float | None = angle(
        None,
        label="from",
        help="where the sector that stays begins; without it, the smoothest is taken",
        when=("kind", TURNED),
    )
    centre: tuple[float, float] | None = point(
        None, label="centre", help="without it, the middle of the shape", when=("kind", TURNED), handle="middle"
    )
    bits_mm2: float | None = declaring.area(None, label="bits below", help="smaller holes and parts are dropped")


def run(document: Document, parameters: Symmetry, context: Context) -> Outcome:
    """What lies on one side only is copied to the other; what the line parts is welded there."""
    pieces = [piece for piece in context.pieces(document) if has_inside(piece)]
    if not pieces:
        raise CannotDo("Lines that do not close have no halves: pick closed shapes.")
    whole = union(*map(operand_of, pieces)).path
    if not len(whole):
        raise CannotDo("These pieces enclose nothing: pick others.")
    plan = (_mirrored if parameters.kind == "mirrored" else _turned)(whole, parameters)
    changes: dict[str, Path | None] = {}
    copies: dict[str, list[Piece]] = {}
    holes = parts = 0
    for piece in pieces:
        path, others = plan.of(operand_of(piece))
        path, dropped = without_bits(path, parameters.bits_mm2)
        holes, parts = holes + dropped.holes, parts + dropped.parts
        changes[piece.id] = path if len(path) else None
        copies[piece.id] = [
            replace(piece, id=made_id(context.key, [piece.id], k), path=other, fill_rule="nonzero")
            for k, other in enumerate(others)
        ]
    if not any(path is not None for path in changes.values()):
        raise CannotDo(plan.nothing)
    after = document.with_paths(changes)
    placed = []
    for piece in after.pieces:
        placed.append(replace(piece, fill_rule="nonzero") if changes.get(piece.id) is not None else piece)
        placed += copies.get(piece.id, ()) if changes.get(piece.id) is not None else ()
    notes = [plan.note]
    if holes or parts:
        notes.append(f"{number_of(holes, 'hole')} and {number_of(parts, 'part')} below the size dropped")
    statistics = {"pieces": len(pieces), "holes_dropped": holes, "parts_dropped": parts, **plan.statistics}
    return Outcome(replace(after, pieces=tuple(placed)), plan.title, "; ".join(notes), statistics)


@dataclass(frozen=True)
class _Plan:
    """of: what a shape becomes, and the copies of it that lie apart; what is said; what to do where nothing is left."""

    of: Callable[[Operand], tuple[Path, list[Path]]]
    title: str
    note: str
    statistics: dict[str, float]
    nothing: str


def _mirrored(whole: Path, parameters: Symmetry) -> _Plan:
    line, score = _line(whole, parameters)
    parts = halves(Operand(whole), line)
    if not all(map(len, parts)):
        raise CannotDo("All of it lies on one side of the line: move the line over it.")
    # Left and up come first, whichever way the line was drawn.
    first = -1 if line.across @ (1.0, 0.001) > 0 or (abs(line.across[0]) < 1e-9 and line.across[1] > 0) else 1
    step = step_of(whole)
    rough = {side: roughness(part, step) for side, part in zip((-1, 1), parts, strict=True)}
    side = {"first": first, "second": -first, "smoother": min(rough, key=rough.__getitem__)}[parameters.half]
    share = rough[side] / max(rough[-side], 1e-12)

    def of(shape: Operand) -> tuple[Path, list[Path]]:
        parts = halves(shape, line)
        kept, other = parts[(side + 1) // 2], parts[(1 - side) // 2]
        image = transform(kept, line.mirror)
        if area(other) <= NOTHING_SHARE * max(area(kept), NOTHING_SHARE):
            return kept, [image] if len(kept) else []
        return union(kept, image).path if len(kept) else kept, []

    name = ("the left or upper half", "the right or lower half")[0 if side == first else 1]
    note = f"from {name}"
    if score is not None:
        note += f", line found: halves differ by {as_mm(round(score, 2))} at most"
    statistics = {"rough_share": share, **({"differ_mm": score} if score is not None else {})}
    return _Plan(
        of, "Mirrored from one half", note, statistics, "The line leaves nothing on that side: take the other."
    )


def _line(whole: Path, parameters: Symmetry) -> tuple[Line, float | None]:
    if parameters.axis is not None:
        x0, y0, x1, y1 = parameters.axis
        if math.hypot(x1 - x0, y1 - y0) < 1e-6:
            raise CannotDo("The two points of the line lie on each other: take them farther apart.")
        return Line((x0, y0), math.atan2(y1 - y0, x1 - x0)), None
    found = mirror_axes(whole)
    if len(found) < parameters.candidate:
        raise CannotDo(f"Only {number_of(len(found), 'line')} could be found: type the line's ends, or another number.")
    best = found[parameters.candidate - 1]
    angle = math.atan2(best.direction[1], best.direction[0])
    return Line((float(best.point[0]), float(best.point[1])), angle), float(best.error_mm)


def _turned(whole: Path, parameters: Symmetry) -> _Plan:
    left, top, right, bottom = box_of(whole)
    centre = parameters.centre or ((left + right) / 2, (top + bottom) / 2)
    times, start = parameters.times, math.radians(parameters.start or 0.0)
    if parameters.start is None:
        start = _smoothest(whole, centre, times)

    def of(shape: Operand) -> tuple[Path, list[Path]]:
        part = sector_of(shape, centre, start, times)
        if not len(part):
            return part, []
        images = turned_copies(part, centre, times)
        if abs(area(part) - area(union(shape).path)) <= NOTHING_SHARE * area(part):
            return part, images[1:]
        return union(*images).path, []

    title = f"Turned {times} times about a centre"
    note = f"from the sector at {math.degrees(start):.0f} degrees"
    return _Plan(of, title, note, {"times": times}, "Nothing lies in that sector: begin it elsewhere.")


def _smoothest(whole: Path, centre: tuple[float, float], times: int) -> float:
    """Where the smoothest of the equal sectors that are not empty begins, from the top on."""
    step = step_of(whole)
    starts = -math.pi / 2 - math.pi / times + np.arange(times) * 2 * math.pi / times
    parts = [sector_of(Operand(whole), centre, start, times) for start in starts]
    rough = [roughness(part, step) if len(part) else math.inf for part in parts]
    return float(starts[int(np.argmin(rough))])


OPERATION = Operation(
    id="symmetry",
    version=1,
    station="build",
    title="Make symmetric",
    parameters=Symmetry,
    run=run,
    cost=by_pieces,
    sentence="Make it symmetric, {kind}[, from {half}][, {times} times][, from {start} about {centre}]"
    "[, line {axis}]; drop bits below {bits_mm2}",
    roles=(Role(ON, "what is made symmetric", everything=True),),
)
