"""duplicate-line: a line that lies on another one of its layer and would be cut twice.

Copies count whatever their direction, their start or their nodes, within the tolerance. Of two equals the same one
stays whatever the order of pieces: closed before open, filled before bare, fewer nodes before more, then by geometry.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level, Piece
from ..model.finding import finding_key
from ..model.units import as_mm
from .rule import LINES, Rows, Rule
from .tables.coincidence import Match
from .tables.duplicate_stacks import Stack, stacks_of
from .tables.duplicate_stacks import is_safe as is_safe_stack
from .tables.outlines import OutlineTable, Ref, outline_table
from .tables.overlap_runs import covered_share, pairs_by_outline
from .tables.paint_change import fill_change, line_change

#: Below this two lines are one for every machine, and the message says "exactly".
EXACTLY_MM = 0.005
#: Of so many pieces of a stack a finding names each.
MOST_NAMED = 50
#: A line lies wholly on others where so much of each of its segments does.
WHOLLY = 0.999


def find(document: Document, conditions: Conditions) -> Rows:
    """One finding for each outline, or each whole piece, that doubles another of its layer; one for many exact copies
    in one place."""
    table = outline_table(document)
    seen: Counter[str] = Counter()

    def finding(part: list[Match] | Stack) -> Finding:
        if isinstance(part, Stack):
            return _stack_finding(document, table, part, conditions)
        return _finding(document, table, part, conditions, seen)

    return Rows(RULE, [*stacks_of(table), *_doubled(document, table, conditions)], finding)


def _doubled(document: Document, table: OutlineTable, conditions: Conditions) -> Iterator[list[Match]]:
    """What each finding is about: all matches of a piece that wholly doubles another one, or one match."""
    if len(table.owner) < 2:
        return
    matches = table.doubled(conditions.tolerance_mm)
    matches = [*matches, *covered_by_others(table, {match.doubled for match in matches})]
    by_piece: dict[str, list] = defaultdict(list)
    for match in matches:
        by_piece[table.refs[match.doubled][0]].append(match)
    for piece_id, found in by_piece.items():
        piece = document.by_id[piece_id]
        partners = {table.refs[match.kept][0] for match in found}
        whole = len(found) == len(piece.path) and len(partners) == 1 and partners != {piece_id}
        yield from [found] if whole else [[match] for match in found]


def covered_by_others(table: OutlineTable, gone: set[int]) -> list[Match]:
    """Open bare outlines that lie wholly on others which stay, split otherwise; the lower in rank stays. gone: those
    that go already."""
    key = "covered", frozenset(gone)
    if key not in table.kept:
        table.kept[key] = _covered_by_others(table, gone)
    return table.kept[key]


def _covered_by_others(table: OutlineTable, gone: set[int]) -> list[Match]:
    path, shared = table.path, table.shared
    share = covered_share(path, shared)
    whole = np.minimum.reduceat(share, path.start[:-1]) > WHOLLY if path.segment_count else np.zeros(0)
    rows = [k for k in np.flatnonzero(whole & ~path.closed & ~table.filled).tolist() if k not in gone]
    if not rows:
        return []
    found, gone = [], set(gone)
    sides = pairs_by_outline(shared)
    for k in sorted(rows, key=lambda k: -table.rank[k]):
        pairs = np.array([n for n in sides[k] if not gone & set(shared.outline[n].tolist())], np.int64)
        pairs = pairs[shared.outline[pairs, 0] != shared.outline[pairs, 1]]
        own = slice(path.start[k], path.start[k + 1])
        if not len(pairs) or covered_share(path, shared.take(pairs))[own].min() <= WHOLLY:
            continue
        best = pairs[np.argmax(shared.length[pairs])]
        partner = next(o for o in shared.outline[best].tolist() if o != k)
        gone.add(k)
        found.append(Match(k, partner, 0.0, tuple(path.ctrl[path.start[k], 0].tolist())))
    return found


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """Takes the doubled outlines away; the ones they lie on must still be there."""
    if "stack" in finding.measure:
        return _stack_edit(document, finding)
    doubled = _refs(str(finding.measure["outlines"]), finding.pieces[0])
    kept = _refs(str(finding.measure["kept_outlines"]), finding.pieces[-1])
    for piece, outline in (*doubled, *kept):
        if piece not in document.by_id or outline >= len(document.by_id[piece].path):
            return None
    return Edit(finding.key, dict.fromkeys(doubled), frozenset(kept) | _lying_under(document, doubled))


def _lying_under(document: Document, doubled: list[Ref]) -> frozenset[Ref]:
    """All outlines that lie on those that go."""
    table = outline_table(document)
    gone = {row for ref in doubled if (row := table.row_of(*ref)) is not None}
    touching = set().union(*(table.touched_by.get(row, ()) for row in gone)) - gone
    return frozenset(table.ref(row) for row in touching)


def _refs(numbers: str, piece: str) -> list[Ref]:
    return [(piece, int(number) - 1) for number in numbers.split(",")]


def _finding(
    document: Document, table: OutlineTable, matches: list, conditions: Conditions, seen: Counter[str]
) -> Finding:
    doubled = [table.refs[m.doubled] for m in matches]
    kept = [table.refs[m.kept] for m in matches]
    piece = document.by_id[doubled[0][0]]
    rows = [m.doubled for m in matches]
    farthest = max(matches, key=lambda m: m.distance_mm)
    total, apart = float(table.size[rows].sum()), farthest.distance_mm
    pieces = tuple(dict.fromkeys((doubled[0][0], kept[0][0])))
    place = tuple(round(v, 4) for v in farthest.place)
    numbers = ",".join(str(k + 1) for _, k in doubled)
    # Several copies of one line start in one place: they are told apart by their order.
    key = finding_key(RULE.id, pieces, place)
    seen[key] += 1
    key = key if seen[key] == 1 else f"{key}-{seen[key]}"
    return Finding(
        RULE.id,
        key,
        RULE.level,
        _message(piece, total, apart),
        pieces,
        place,
        {
            "length_mm": round(total, 3),
            "distance_mm": round(apart, 4),
            "outlines": numbers,
            "kept_outlines": ",".join(str(k + 1) for _, k in kept),
        },
        mendable=True,
        safe=_is_safe(table, document, doubled, kept, total, conditions),
        title=_title(piece),
        effect=RULE.effect,
        extent=tuple(np.concatenate([table.boxes[rows, :2].min(axis=0), table.boxes[rows, 2:].max(axis=0)]).tolist()),
    )


def _stack_finding(document: Document, table: OutlineTable, stack: Stack, conditions: Conditions) -> Finding:
    piece, rows = table.piece_of(stack.kept[0]), stack.kept
    total, copies = float(table.size[rows].sum()), len(stack) // len(rows)
    extent = np.concatenate([table.boxes[rows, :2].min(axis=0), table.boxes[rows, 2:].max(axis=0)])
    where = f' in "{piece.name}"' if piece.name else ""
    line = f"a line of {as_mm(total)}" if total > 0 else "a point"
    return RULE.at(
        f"{copies:,} more copies of {line}{where} lie exactly in one place: it would be cut as often.",
        [piece.id, *stack.gone][:MOST_NAMED],
        tuple(table.path.ctrl[table.path.start[rows[0]], 0].tolist()),
        extent=tuple(extent.tolist()),
        detail=f"stack {' '.join(str(table.ref(k)) for k in rows)}",
        mendable=True,
        safe=is_safe_stack(table, stack, document.by_id, conditions),
        title=f"A line is cut {copies:,} times more",
        measure={"stack": f"{table.ref(rows[0])[0]}#{table.ref(rows[0])[1] + 1}", "copies": copies},
    )


def _stack_edit(document: Document, finding: Finding) -> Edit | None:
    """Takes the copies away that were told together."""
    table = outline_table(document)
    piece, _, number = str(finding.measure["stack"]).rpartition("#")
    row = table.row_of(piece, int(number) - 1)
    stack = next((s for s in stacks_of(table) if s.kept[0] == row), None)
    if stack is None:
        return None
    return Edit(finding.key, dict.fromkeys(stack.refs()), frozenset(table.ref(k) for k in stack.kept))


def _title(piece: Piece) -> str:
    return f"{piece.name} is cut twice" if piece.name else RULE.title


def _message(piece: Piece, total: float, apart: float) -> str:
    where = f'in "{piece.name}" ' if piece.name else ""
    if apart <= EXACTLY_MM:
        return f"A line of {as_mm(total)} {where}lies exactly on another one and would be cut twice."
    return (
        f"A line of {as_mm(total)} {where}runs beside another one, at most {as_mm(apart)} away: it would be cut twice."
    )


def _is_safe(
    table: OutlineTable, document: Document, doubled: list[Ref], kept: list[Ref], total: float, conditions: Conditions
) -> bool:
    """Whether what is seen changes by no more than the tolerance times the length of the line taken away."""
    piece, partner = document.by_id[doubled[0][0]], document.by_id[kept[0][0]]
    if any(ref[0] != partner.id for ref in kept):
        return False
    same_fill = (piece.fill, piece.fill_rule, len(piece.path)) == (partner.fill, partner.fill_rule, len(partner.path))
    if same_fill and len({k for _, k in kept}) == len(piece.path) == len(doubled):
        # Copy and original paint the same but for the strip between their outlines, which is within the tolerance.
        return line_change(piece, partner, total) <= conditions.tolerance_mm * total
    allowed = conditions.tolerance_mm * total
    if line_change(piece, partner, total) > allowed:
        return False
    kinds = ([table.kind_of(*ref) for ref in refs] for refs in (doubled, kept))
    exactly = next(kinds) == next(kinds) and table.winds_plainly(piece.id)
    return fill_change(piece, partner, {k for _, k in doubled}, exactly, table.kept) <= allowed


RULE = Rule(
    id="duplicate-line",
    about=LINES,
    level=Level.SPOILS,
    title="A line is cut twice",
    effect="The blade goes over it again: it frays the edge, tears thin material and cuts into what lies below.",
    find=find,
    mend=mend,
    version=2,
    thresholds=(
        "copies within the tolerance, 0.25 mm where nothing else is said; small shapes within 5 % of their size",
    ),
)
