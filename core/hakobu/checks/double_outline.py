"""double-outline: a thin line traced on both sides, so that the blade runs along it twice."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from ..geometry import Path
from ..geometry.offset import offset
from ..model import Conditions, Document, Edit, Finding, Level, Stroke
from ..model.units import as_mm
from .rule import LINES, Rows, Rule
from .tables.double_lines import EVEN, LONG, between, double_lines, is_even
from .tables.nesting import HOLE, NEITHER, OUTER
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import capitalised, name_of
from .tables.small_outlines import least_strips, widest_lines

#: What a design lies on is white, as paper is.
GROUND = "#ffffff"


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for each pair of outlines, the one in the other."""
    table = outline_table(document)
    rows = sorted(double_outlines(table, conditions), key=lambda row: -table.size[row[0]])
    return Rows(RULE, rows, lambda row: _finding(table, conditions, *row))


def double_outlines(table: OutlineTable, conditions: Conditions) -> list[tuple[int, int, float]]:
    """Pairs of outlines, the outer or the longer first, and how far they are apart."""
    key = "double", conditions.key
    if key not in table.kept:
        table.kept[key] = _rings(table, conditions) + double_lines(table, conditions)
    return table.kept[key]


def _rings(table: OutlineTable, conditions: Conditions) -> list[tuple[int, int, float]]:
    """Closed outlines of one piece, the one in the other; or of two that are bare lines."""
    about = np.maximum(table.nested.parent, 0)
    bare = ~table.filled & (table.nested.parent >= 0) & ~table.filled[about] & table.path.closed[about]
    around = np.where(table.nested.own >= 0, table.nested.own, np.where(bare, about, -1))
    inner = np.flatnonzero((around >= 0) & table.path.closed)
    outer = around[inner]
    apart = (np.abs(table.area[outer]) - np.abs(table.area[inner])) * 2 / (table.size[outer] + table.size[inner])
    holes = np.bincount(outer, minlength=len(table.owner))
    limit = widest_lines(table, conditions)
    near = np.abs(table.boxes[outer] - table.boxes[inner]).max(axis=1) <= EVEN[1] * apart
    # What lies in the hole of a ring is another matter.
    ring = (table.nested.role[outer] == OUTER) & (table.nested.role[inner] == HOLE) & table.filled[outer]
    likely = (holes[outer] == 1) & ((holes[inner] == 0) | ring) & near & (apart > 0)
    likely &= (apart < limit[inner]) & (table.size[inner] > LONG * apart)
    copies = {match.doubled for match in table.doubled(conditions.tolerance_mm)}
    return [
        (int(a), int(b), float(d))
        for a, b, d in zip(outer[likely], inner[likely], apart[likely], strict=True)
        if not copies & {int(a), int(b)} and is_even(table.path.outline(int(a)), table.path.outline(int(b)), float(d))
    ]


def _finding(table: OutlineTable, conditions: Conditions, outer: int, inner: int, apart: float) -> Finding:
    length = float(table.size[outer] + table.size[inner]) / 2
    thin = apart < least_strips(table, conditions)[outer]
    piece, (identity, first) = table.piece_of(outer), table.ref(outer)
    other, second = table.ref(inner)
    box = table.boxes[outer]
    return RULE.at(
        f"{capitalised(name_of(piece, 'a line'))} is drawn by both of its sides, {as_mm(round(apart, 3))}"
        f" apart: it would be cut twice, side by side, for {as_mm(round(length, 1))}.",
        [identity, other],
        table.path.ctrl[table.path.start[outer], 0],
        box,
        detail=str(first),
        level=RULE.level if thin else Level.NOTE,
        mendable=True,
        measure={
            "width_mm": round(apart, 4),
            "length_mm": round(length, 3),
            "outline": first + 1,
            "inner": second + 1,
        },
    )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """One line as wide as the two were apart: in the middle between them, or where the outer or the inner one is."""
    outer, inner = (int(finding.measure[name]) - 1 for name in ("outline", "inner"))
    refs = (finding.pieces[0], outer), (finding.pieces[-1], inner)
    table = outline_table(document)
    rows = [row for ref in refs if (row := table.row_of(*ref)) is not None]
    if len(rows) < len(refs):
        return None
    roles = table.nested.role[rows].tolist()
    piece, choice = document.by_id[refs[0][0]], finding.measure.get("choice", "middle")
    if piece.fill and NEITHER in roles:
        # The same is painted on both sides of one of them: without it nothing looks different.
        return Edit(finding.key, {refs[roles.index(NEITHER)]: None})
    width = float(finding.measure["width_mm"])
    one, other = map(table.path.outline, rows)
    kept = other if choice == "inner" else one
    if choice == "middle":
        kept = middle_of(one, width) if one.closed[0] else between(one, other, width)
    if kept is None:
        return None
    if not piece.fill:
        return Edit(finding.key, {refs[0]: kept, refs[1]: None})
    # Of what is painted between the two a line is left; of a gap the ground that shows there.
    line = {"fill": None, "stroke": Stroke(GROUND if roles[0] == HOLE else piece.fill.color, round(width, 3))}
    if len(piece.path) == 2:
        return Edit(finding.key, {refs[0]: kept, refs[1]: None}, pieces={piece.id: line})
    # Beside the other outlines of its piece one line would be a shape: it becomes a piece of its own.
    own = replace(piece, id=_free(document, f"{piece.id}/line-{outer + 1}"), path=kept, **line)
    return Edit(finding.key, {refs[0]: None, refs[1]: None}, added={piece.id: own})


def _free(document: Document, wanted: str) -> str:
    """An id that no piece has."""
    while wanted in document.by_id:
        wanted += "-"
    return wanted


def middle_of(outer: Path, width_mm: float) -> Path | None:
    """The line in the middle of a ring, from its outer side; None where it does not stay one line."""
    made = offset(outer, distance_mm=-width_mm / 2).path
    return made if len(made) == 1 else None


RULE = Rule(
    id="double-outline",
    about=LINES,
    level=Level.SPOILS,
    title="A line is drawn by both its sides",
    effect="The blade runs along it twice, side by side, and a thread is left between that no one can weed.",
    find=find,
    mend=mend,
    thresholds=(
        "nearer together than the material's least strip, evenly all along (0.5 to 1.6 times the average); up to 1 mm"
        " where no material is chosen or both are bare lines (common practice for drawn lines)",
        "at least 20 times as long as wide (common practice)",
        "of open lines those that have no further one beside them, as hatching has",
    ),
    choices=(("middle", "in the middle"), ("outer", "the outer one"), ("inner", "the inner one")),
    version=4,
)
