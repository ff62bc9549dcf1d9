"""duplicate-line: a line that lies on another one of its layer and would be cut twice.

Copies count whatever their direction, their start or their nodes, within the tolerance. Of two equals the same one
stays whatever the order of pieces: closed before open, filled before bare, fewer nodes before more, then by geometry.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator

import numpy as np

from ..geometry import bounds
from ..geometry.painted import painted_area
from ..model import Conditions, Document, Edit, Finding, Level, Piece
from ..model.finding import finding_key
from ..model.units import as_mm
from .coincide import Match
from .outline_table import OutlineTable, Ref, outline_table
from .rule import LINES, Rule
from .runs import covered_share, pairs_by_outline

#: Below this two lines are one for every machine, and the message says "exactly".
EXACTLY_MM = 0.005
#: Whether what is painted changes by more than the tolerance is seen on so few scan lines.
COARSE_LINES = 512
#: A line lies wholly on others where so much of each of its segments does.
WHOLLY = 0.999


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for each outline, or each whole piece, that doubles another of its layer."""
    table = outline_table(document)
    if len(table.owner) < 2:
        return
    matches = table.doubled(conditions.tolerance_mm)
    matches = [*matches, *covered_by_others(table, {match.doubled for match in matches})]
    by_piece: dict[str, list] = defaultdict(list)
    for match in matches:
        by_piece[table.refs[match.doubled][0]].append(match)
    seen: Counter[str] = Counter()
    for piece_id, found in by_piece.items():
        piece = document.by_id[piece_id]
        partners = {table.refs[match.kept][0] for match in found}
        whole = len(found) == len(piece.path) and len(partners) == 1 and partners != {piece_id}
        for part in [found] if whole else [[match] for match in found]:
            yield _finding(document, table, part, conditions, seen)


def covered_by_others(table: OutlineTable, gone: set[int]) -> list[Match]:
    """Open bare outlines that lie wholly on others which stay, split otherwise; the lower in rank stays."""
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
    doubled = _refs(finding.measure["outlines"], finding.pieces[0])
    kept = _refs(finding.measure["kept_outlines"], finding.pieces[-1])
    for piece, outline in (*doubled, *kept):
        if piece not in document.by_id or outline >= len(document.by_id[piece].path):
            return None
    return Edit(finding.key, dict.fromkeys(doubled), frozenset(kept) | _lying_under(document, doubled))


def _lying_under(document: Document, doubled: list[Ref]) -> frozenset[Ref]:
    """All outlines that lie on those that go."""
    table = outline_table(document)
    number = {table.ref(k): k for piece, _ in doubled for k in table.outlines_of(piece)}
    gone = {number[ref] for ref in doubled if ref in number}
    touching = table.shared.outline[np.isin(table.shared.outline, list(gone)).any(axis=1)]
    return frozenset(table.ref(k) for k in np.unique(touching).tolist() if k not in gone)


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
        safe=_is_safe(document, doubled, kept, total, conditions),
        title=_title(piece),
        effect=RULE.effect,
        extent=tuple(np.concatenate([table.boxes[rows, :2].min(axis=0), table.boxes[rows, 2:].max(axis=0)]).tolist()),
    )


def _title(piece: Piece) -> str:
    return f"{piece.name} is cut twice" if piece.name else RULE.title


def _message(piece: Piece, total: float, apart: float) -> str:
    where = f'in "{piece.name}" ' if piece.name else ""
    if apart <= EXACTLY_MM:
        return f"A line of {as_mm(total)} {where}lies exactly on another one and would be cut twice."
    return (
        f"A line of {as_mm(total)} {where}runs beside another one, at most {as_mm(apart)} away: it would be cut twice."
    )


def _is_safe(document: Document, doubled: list[Ref], kept: list[Ref], total: float, conditions: Conditions) -> bool:
    """Whether what is seen changes by no more than the tolerance times the length of the line taken away."""
    piece, partner = document.by_id[doubled[0][0]], document.by_id[kept[0][0]]
    if any(ref[0] != partner.id for ref in kept):
        return False
    same_fill = (piece.fill, piece.fill_rule, len(piece.path)) == (partner.fill, partner.fill_rule, len(partner.path))
    if same_fill and len({k for _, k in kept}) == len(piece.path) == len(doubled):
        # Copy and original paint the same but for the strip between their outlines, which is within the tolerance.
        return _line_change(piece, partner, total) <= conditions.tolerance_mm * total
    allowed = conditions.tolerance_mm * total
    return _line_change(piece, partner, total) <= allowed and _fill_change(piece, partner, doubled) <= allowed


def _line_change(piece: Piece, partner: Piece, total: float) -> float:
    """The area of stroke that goes; under a stroke as wide and as opaque, none is seen to go."""
    if piece.stroke is None or piece.id == partner.id:
        return 0.0
    same = partner.stroke and (partner.stroke.color, partner.stroke.opacity) == (
        piece.stroke.color,
        piece.stroke.opacity,
    )
    if same and not partner.stroke.dashes:
        return max(piece.stroke.width_mm - partner.stroke.width_mm, 0.0) * total
    return piece.stroke.width_mm * total


def _fill_change(piece: Piece, partner: Piece, doubled: list[Ref]) -> float:
    """The area whose fill changes, where the two pieces share the paint of it; all of it where they do not."""
    if piece.fill is None:
        return 0.0
    gone = {k for _, k in doubled}
    rest = piece.path.take([k for k in range(len(piece.path)) if k not in gone])
    box = bounds(piece.path)
    chord = 0.005
    together = [(partner.path, partner.fill_rule)] if partner.id != piece.id and partner.fill == piece.fill else []
    before = painted_area([(piece.path, piece.fill_rule), *together], box, chord, COARSE_LINES)
    after = painted_area([(rest, piece.fill_rule), *together], box, chord, COARSE_LINES)
    return abs(before - after)


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
