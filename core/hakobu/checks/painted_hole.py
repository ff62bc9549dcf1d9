"""painted-hole: a shape in the colour of the ground that lies on another one, which looks like a hole and is none."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry.boolean import NotCombined, Operand, difference
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.lab import is_white
from .background_rectangle import backgrounds
from .rule import SHAPES, Rows, Rule
from .tables.hidden_pieces import is_lined
from .tables.nesting import OUTER
from .tables.outlines import OutlineTable, outline_table
from .tables.piece_names import name_of


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for all such shapes on one shape."""
    table = outline_table(document)
    groups: dict[int, list[tuple[int, list[int]]]] = {}
    for n, under in painted_holes(document, table).items():
        groups.setdefault(under[0], []).append((n, under))

    def finding(on: int) -> Finding:
        tops, about = [n for n, _ in groups[on]], table.pieces[on]
        through = dict.fromkeys(m for _, below in groups[on] for m in _one_a_layer(table, below))
        hidden = all(_one_a_layer(table, below) == below for _, below in groups[on])
        boxes = table.piece_boxes[tops]
        return RULE.at(
            _message(len(tops), name_of(about, "another shape")),
            [*(table.pieces[n].id for n in tops), about.id],
            table.path.ctrl[table.path.start[table.first[tops[0]]], 0],
            (*boxes[:, :2].min(axis=0), *boxes[:, 2:].max(axis=0)),
            mendable=True,
            # What lies deeper on the same sheet shows in the hole.
            safe=hidden,
            measure={"holes": len(tops), "under": " ".join(map(str, through))},
        )

    return Rows(RULE, sorted(groups, key=lambda on: -len(groups[on])), finding)


def _message(count: int, where: str) -> str:
    if count == 1:
        return f"A shape in the ground's colour lies on {where} and looks like a hole: it would be cut as a loose part."
    shapes = f"{count} shapes in the ground's colour lie on {where} and look like holes"
    return f"{shapes}: each would be cut as a loose part."


def painted_holes(document: Document, table: OutlineTable) -> dict[int, list[int]]:
    """Numbers of the pieces that are cut and look like holes: of the colour of the ground, opaque, without a line; each
    with the pieces that it lies on wholly and would go through, the uppermost first. A piece of a layer with a material
    of its own is meant to be cut from that."""
    if "painted holes" not in table.kept:
        table.kept["painted holes"] = _painted_holes(document, table)
    return table.kept["painted holes"]


def _painted_holes(document: Document, table: OutlineTable) -> dict[int, list[int]]:
    pages = {piece.id for piece, _ in backgrounds(document)}
    grounds = {piece.fill.color for piece in document.pieces if piece.id in pages and piece.fill}

    def is_ground(piece) -> bool:
        return piece.fill is not None and (piece.fill.color in grounds or is_white(piece.fill.color))

    own_material = {layer.id for layer in table.layers if layer.material}
    cut = table.cut[table.first[:-1]] if len(table.pieces) else np.zeros(0, bool)
    like = [cut[n] and table.opaque[n] and p.id not in pages for n, p in enumerate(table.pieces)]
    ground = [
        like[n] and is_ground(p) and not is_lined(p) and p.layer not in own_material for n, p in enumerate(table.pieces)
    ]
    if not any(ground) or sum(ground) == sum(like):
        return {}
    found = {}
    for n in np.flatnonzero(ground).tolist():
        under: list[int] = []
        for m in sorted((m for m in _lies_on(table, n) if m < n and like[m]), reverse=True):
            if ground[m]:
                break
            under.append(m)
        if under:
            found[n] = under
    return found


def _one_a_layer(table: OutlineTable, under: list[int]) -> list[int]:
    """The uppermost piece of each layer: one hole is cut into each sheet."""
    layers: dict[str, int] = {}
    for m in under:
        layers.setdefault(table.pieces[m].layer, m)
    return list(layers.values())


def _lies_on(table: OutlineTable, n: int) -> set[int]:
    """The pieces that one lies on wholly: inside what they paint, whatever layers they are on."""
    rows = [k for k in range(table.first[n], table.first[n + 1]) if table.nested.own[k] < 0]
    return set.intersection(*(_about(table, k) - {n} for k in rows))


def _about(table: OutlineTable, outline: int) -> set[int]:
    """The pieces in whose paint an outline lies."""
    nearest: dict[int, int] = {}
    at = table.parent_of_all[outline]
    while at >= 0:
        nearest.setdefault(int(table.owner[at]), int(table.nested.role[at]))
        at = table.parent_of_all[at]
    return {m for m, role in nearest.items() if role == OUTER}


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """They become holes of what they lie on, one in each layer."""
    table = outline_table(document)
    tops = finding.pieces[:-1]
    under = [int(word) for word in str(finding.measure["under"]).split()]
    if not set(tops) <= set(document.by_id) or max(under) >= len(table.pieces):
        return None
    lies_on = painted_holes(document, table)
    numbers = [table.number_of[piece] for piece in tops if piece in table.number_of]
    if len(numbers) < len(tops):
        return None
    changes = {table.ref(k): None for n in numbers for k in table.outlines_of(table.pieces[n].id)}
    for m in under:
        holes = [table.pieces[n] for n in numbers if m in _one_a_layer(table, lies_on.get(n, []))]
        rest = _cut_through(table, m, holes)
        if rest is None:
            return None
        first, *others = table.outlines_of(table.pieces[m].id)
        changes |= {table.ref(first): rest, **{table.ref(k): None for k in others}}
    return Edit(finding.key, changes)


def _cut_through(table: OutlineTable, m: int, holes: list):
    """The path of a piece less some others; None where they cannot be told apart or nothing is left."""
    whole = table.pieces[m]
    try:
        rest = difference(Operand(whole.path, whole.fill_rule), *(Operand(p.path, p.fill_rule) for p in holes)).path
    except NotCombined:
        return None
    return rest if len(rest) else None


RULE = Rule(
    id="painted-hole",
    about=SHAPES,
    level=Level.SPOILS,
    title="A hole that is only painted",
    effect="The shape under it is cut without the hole, and what should be the hole is cut as a loose piece.",
    find=find,
    mend=mend,
    thresholds=("the ground's colour: white, lighter than 97 in L* (common practice), or that of the background",),
    uncovers=("thin-strip", "thin-gap", "sliver", "leftover-hollow", "drop-out", "not-one", "speck"),
)
