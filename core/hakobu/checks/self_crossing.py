"""self-crossing: an outline that runs across itself, as a bow-tie or a small loop."""

from __future__ import annotations

from collections.abc import Iterator

from ..model import Conditions, Document, Edit, Finding, Level
from ..model.finding import finding_key
from .rule import LINES, Rule
from .tables.outlines import outline_table
from .tables.welding import can_be_welded, looks_the_same, welded


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for each outline, at its first crossing. Open lines without a fill may cross: so they are drawn."""
    table = outline_table(document)
    for k, _, places in table.crossed(same=True):
        (identity, outline), piece = table.ref(k), table.piece_of(k)
        if not table.path.closed[k] and piece.fill is None:
            continue
        place = tuple(round(v, 4) for v in places[0].tolist())
        count = len(places)
        mendable = bool(document.by_id[identity].path.closed.all())
        yield Finding(
            RULE.id,
            finding_key(RULE.id, [identity], place, str(outline)),
            RULE.level,
            f"{_name(piece.name)} crosses itself {'once' if count == 1 else f'{count} times'}.",
            (identity,),
            place,
            {"crossings": count, "outline": outline + 1},
            mendable=mendable,
            safe=can_be_welded(piece) and looks_the_same([piece]),
            title=RULE.title,
            effect=RULE.effect,
            extent=(*places.min(axis=0).tolist(), *places.max(axis=0).tolist()),
        )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The piece's outlines become those of the area that it paints."""
    piece = document.by_id.get(finding.pieces[0])
    return welded(finding, [piece]) if piece and piece.path.closed.all() else None


def _name(name: str) -> str:
    return f'The outline of "{name}"' if name else "This outline"


RULE = Rule(
    id="self-crossing",
    about=LINES,
    level=Level.SPOILS,
    title="An outline crosses itself",
    effect="The blade cuts through what it has cut before, and small bits come loose.",
    find=find,
    mend=mend,
    version=4,
)
