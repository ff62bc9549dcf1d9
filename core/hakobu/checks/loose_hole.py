"""loose-hole: an outline inside another one that is not its hole: it vanishes when something is welded to them."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry import Path, signed_areas
from ..model import Conditions, Document, Edit, Finding, Level
from .background_rectangle import backgrounds
from .double_outline import double_outlines
from .painted_hole import painted_holes
from .rule import SHAPES, Rows, Rule
from .stray_node import is_stray
from .tables.nesting import NEITHER, OUTER
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import capitalised, name_of


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for all that lies in one outline and is not its hole."""
    table = outline_table(document)
    rows, about = loose_holes(table, conditions)
    # What lies on a background is to be left when that goes.
    pages = [n for piece, _ in backgrounds(document) if (n := table.number_of.get(piece.id)) is not None]
    rows = rows[~np.isin(table.owner[about[rows]], pages)]
    # What lies on a painted hole lies in it, once that is one.
    painted = list(painted_holes(document, table))
    if painted:
        rows = rows[~np.isin(table.owner[table.parent_of_all[rows]], painted)]
    order = rows[np.lexsort((table.rank[rows], about[rows]))]
    groups = np.split(order, np.flatnonzero(np.diff(about[order])) + 1) if len(order) else []
    groups.sort(key=lambda group: -float(np.abs(table.area[group]).max()))
    return Rows(RULE, groups, lambda group: _finding(table, group.tolist(), int(about[group[0]])))


def loose_holes(table: OutlineTable, conditions: Conditions) -> tuple[np.ndarray, np.ndarray]:
    """The outlines that are no holes but should be (N,), and what each outline lies in (K,). Of outlines in the same
    one that cross each other only the largest is a hole: the others lie across it."""
    rows, about = _loose(table, conditions)
    area = np.abs(table.area)
    # The inner side of a line that is drawn by both its sides is told of as that.
    sides = {inner for _, inner, _ in double_outlines(table, conditions)}
    inside = set(rows.tolist()) - sides
    for a, b, _ in table.crossed(same=False):
        # What runs across the rim of a hole that is there lies over it.
        inside -= {k for k, other in ((a, b), (b, a)) if k in inside and table.owner[other] == table.owner[about[k]]}
        if a in inside and b in inside and about[a] == about[b]:
            inside.discard(a if area[a] < area[b] else b)
    return np.array([k for k in rows.tolist() if k in inside], np.int64), about


def _loose(table: OutlineTable, conditions: Conditions) -> tuple[np.ndarray, np.ndarray]:
    """The outlines that are no holes but should be (N,), and what each outline lies in (K,)."""
    nested = table.nested
    copies = np.zeros(len(table.owner), bool)
    copies[[match.doubled for match in table.doubled(conditions.tolerance_mm)]] = True
    inside = (nested.parent >= 0) & table.path.closed & ~copies & table.cut & ~is_stray(table)
    about = np.maximum(nested.parent, 0)
    filled_through = inside & (nested.own >= 0) & (nested.role == NEITHER) & table.filled
    loose = inside & (nested.own < 0) & (table.owner[about] != table.owner) & ~copies[about]
    # A filled piece on one that is filled too, and not hidden under it; or two bare lines, by turns.
    on_top = table.owner > table.owner[about]
    filled = loose & table.filled & table.filled[about] & (nested.role[about] == OUTER) & on_top
    bare = loose & ~table.filled & ~table.filled[about] & (_depth(nested.parent) % 2 == 1)
    return np.flatnonzero(filled_through | filled | bare), np.where(nested.own >= 0, nested.own, nested.parent)


def _depth(parent: np.ndarray) -> np.ndarray:
    depth, rows, at = np.zeros(len(parent), np.int64), np.flatnonzero(parent >= 0), parent[parent >= 0]
    while len(rows):
        depth[rows] += 1
        further = parent[at]
        rows, at = rows[further >= 0], further[further >= 0]
    return depth


def _finding(table: OutlineTable, rows: list[int], outer: int) -> Finding:
    about = table.piece_of(outer)
    pieces = list(dict.fromkeys(table.piece_of(k).id for k in rows))
    first, bare = table.piece_of(rows[0]), not table.filled[rows].any()
    inner = capitalised(name_of(first, "an outline")) if len(rows) == 1 else f"{len(rows)} outlines"
    nested = bare and not table.crosses[[*rows, outer]].any()
    what = "lies" if len(rows) == 1 else "lie"
    where = name_of(about, "another one")
    return RULE.at(
        f"{inner} {what} inside {where} and {'is not its hole' if len(rows) == 1 else 'are not its holes'}.",
        [*pieces, about.id],
        table.path.ctrl[table.path.start[rows[0]], 0],
        (*table.boxes[rows, :2].min(axis=0), *table.boxes[rows, 2:].max(axis=0)),
        detail=f"{table.ref(outer)[1]}",
        # Of bare lines nested in each other both are cut as drawn; only welding would lose one.
        level=Level.NOTE if nested else RULE.level,
        mendable=True,
        safe=bare and not nested and all(_alike(table.piece_of(k), about) for k in rows),
        measure={"outlines": " ".join(map(str, rows)), "about": outer, "holes": len(rows)},
    )


def _alike(piece, about) -> bool:
    return piece.stroke == about.stroke and piece.opacity == about.opacity


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """They become holes: within one path they run the other way, other pieces' outlines go into the outer piece."""
    table = outline_table(document)
    outer = int(finding.measure["about"])
    rows = [int(word) for word in str(finding.measure["outlines"]).split()]
    if max(*rows, outer) >= len(table.owner) or {table.piece_of(k).id for k in [*rows, outer]} != set(finding.pieces):
        return None
    rim = table.path.outline(outer)
    way, parts, changes = _way(rim), [rim], {}
    for k in rows:
        if table.owner[k] == table.owner[outer]:
            changes[table.ref(k)] = table.path.outline(k).reversed()
        elif table.ref(k) not in changes:
            whole = table.outlines_of(table.piece_of(k).id)
            own = table.path.take(whole)
            parts.append(own.reversed() if _way(table.path.outline(k)) == way else own)
            changes |= {table.ref(n): None for n in whole}
    if len(parts) > 1:
        return Edit(finding.key, {**changes, table.ref(outer): Path.concatenate(parts)})
    return Edit(finding.key, changes, frozenset([table.ref(outer)]))


def _way(path: Path) -> bool:
    return bool(signed_areas(path)[0] > 0)


RULE = Rule(
    id="loose-hole",
    about=SHAPES,
    level=Level.SPOILS,
    title="A hole that is a loose shape",
    effect="It is cut, but it counts as a shape of its own: welded to anything, it fills up and is gone.",
    find=find,
    mend=mend,
)
