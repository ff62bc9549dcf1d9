"""open-along: shapes parted along a straight line, and the halves moved apart, with room for a word between them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..errors import CannotDo
from ..geometry import Path, box_of, compose, flatten, scaling, transform, translation
from ..geometry.halves import Line, halves, halves_left_open, lines_parted
from ..model import Document, Piece
from ..model.declare import angle, choice, length, point
from ..model.shapes import has_inside, operand_of
from ..model.step import ON
from ..model.units import as_mm
from ..model.words import number_of
from .making import Made, pieces_of, with_made
from .operation import Context, Operation, Outcome, Role
from .place import about

#: The role of what is set in the gap.
IN = "in"
EDGES = (("closed", "closed"), ("open", "left open"))
FITS = (("gap", "the gap grows to fit it"), ("piece", "it is sized to the gap"))
#: A gap of more than this share of the height distorts a letter (common practice).
WIDE_SHARE = 0.25


@dataclass(frozen=True)
class OpenAlong:
    gap_mm: float = length(18.0, label="gap", help="how far the halves come apart", handle="apart")
    angle: float = angle(0.0, label="angle", help="of the line: 0 runs across, 90 down", handle="turn")
    at: tuple[float, float] | None = point(
        None, label="through", help="a point of the line; without it, the middle", handle="middle"
    )
    edges: str = choice("closed", label="cut edges", help="what the halves get along the line", choices=EDGES)
    fit: str = choice("gap", label="what is set in the gap", help="what gives way", choices=FITS, group="more")
    clearance_mm: float = length(2.0, label="clearance", help="from it to both halves", group="more")


def run(document: Document, parameters: OpenAlong, context: Context) -> Outcome:
    """What the line does not meet goes with its side. What is set in the gap stands in its middle."""
    pieces = context.pieces(document)
    inner = context.pieces(document, IN)
    pieces = [piece for piece in pieces if piece not in inner]
    if not pieces:
        raise CannotDo("Pick what is opened, beside what is set in the gap.")
    line = line_through(pieces, parameters.at, parameters.angle)
    gap, factor = _gap(inner, parameters, line)
    made: dict[str, list[Piece]] = {}
    paths: dict[str, Path] = {}
    for piece in pieces:
        parts = _parted(piece, line, parameters.edges)
        if len(parts) > 1:
            moved = [Made(_moved(path, line, side * gap / 2), (piece,)) for side, path in parts]
            made[piece.id] = pieces_of(context.key, moved)
        else:
            side, _ = parts[0]
            paths[piece.id] = _moved(piece.path, line, side * gap / 2)
    if not made:
        raise CannotDo("The line meets none of these pieces: move it over them, or turn it.")
    paths |= {p.id: transform(p.path, _into(inner, line, factor)) for p in inner}
    after = with_made(document, made, made).with_paths(paths)
    off = line.off(flatten(Path.concatenate(document.by_id[key].path for key in made), 1e-3).points)
    share = gap / max(float(np.ptp(off)), 1e-9)
    count = sum(map(len, made.values()))
    notes = [number_of(count, "piece"), f"{100 * share:.0f} % taller across the line"]
    if share >= WIDE_SHARE:
        notes.append("so wide a gap distorts a letter: up to a quarter of its height is common")
    statistics = {"pieces": count, "gap_mm": gap, "taller": share}
    return Outcome(after, f"Opened by {as_mm(gap)}", "; ".join(notes), statistics)


def line_through(pieces: Sequence[Piece], at: tuple[float, float] | None, degrees: float) -> Line:
    left, top, right, bottom = box_of(Path.concatenate(piece.path for piece in pieces))
    return Line(at or ((left + right) / 2, (top + bottom) / 2), math.radians(degrees))


def _parted(piece: Piece, line: Line, edges: str) -> list[tuple[int, Path]]:
    """The parts of a piece by their sides, -1 and 1; the whole where the line does not meet it."""
    off = line.off(flatten(piece.path, 1e-3).points)
    if off.min() >= -1e-9 or off.max() <= 1e-9:
        return [(1 if off.max() > 1e-9 else -1, piece.path)]
    if not has_inside(piece):
        parts = lines_parted(piece.path, line)
    elif edges == "open":
        parts = halves_left_open(operand_of(piece), line)
    else:
        parts = halves(operand_of(piece), line)
    kept = [(side, path) for side, path in zip((-1, 1), parts, strict=True) if len(path)]
    # What covers nothing goes with the side of its middle.
    return kept or [(1 if off.mean() > 0 else -1, piece.path)]


def _moved(path: Path, line: Line, by: float) -> Path:
    return transform(path, translation(*(line.across * by)))


def _gap(inner: Sequence[Piece], parameters: OpenAlong, line: Line) -> tuple[float, float]:
    """How wide the gap is, and by how much what is set in it is sized."""
    if not inner:
        return parameters.gap_mm, 1.0
    off = line.off(flatten(Path.concatenate(p.path for p in inner), 1e-3).points)
    high, room = float(np.ptp(off)), parameters.gap_mm - 2 * parameters.clearance_mm
    if parameters.fit == "gap":
        return high + 2 * parameters.clearance_mm, 1.0
    if room <= 0:
        raise CannotDo(
            f"A gap of {as_mm(parameters.gap_mm)} has no room with {as_mm(parameters.clearance_mm)} on both sides: "
            "take a wider gap, or less clearance."
        )
    return parameters.gap_mm, room / high


def _into(inner: Sequence[Piece], line: Line, factor: float) -> np.ndarray:
    """The matrix that brings what is set in the gap to its middle, at its size."""
    points = flatten(Path.concatenate(p.path for p in inner), 1e-3).points - line.point
    own = points @ np.column_stack([line.way, line.across])
    along, off = (own.min(axis=0) + own.max(axis=0)) / 2
    middle = np.array(line.point) + line.way * along + line.across * off
    by = np.array(line.point) - middle
    return compose(translation(*by), about(scaling(factor), (float(middle[0]), float(middle[1]))))


OPERATION = Operation(
    id="open-along",
    version=1,
    station="build",
    title="Open along a line",
    parameters=OpenAlong,
    run=run,
    sizes=("gap_mm", "clearance_mm"),
    sentence="Open by {gap_mm} along a line at {angle} through {at}, cut edges {edges}",
    roles=(
        Role(ON, "what is opened", everything=True),
        Role(IN, "what is set in the gap", least=0),
    ),
)
