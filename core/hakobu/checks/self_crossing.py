"""self-crossing: an outline that runs across itself, as a bow-tie or a small loop."""

from __future__ import annotations

from collections.abc import Iterator

from ..model import Document, Finding, Level
from ..model.finding import finding_key
from .outline_table import outline_table
from .rule import Rule, Tolerance


def find(document: Document, tolerance: Tolerance) -> Iterator[Finding]:
    """One finding for each outline, at its first crossing. Open lines without a fill may cross: so they are drawn."""
    table = outline_table(document)
    for k, _, places in table.crossed(same=True):
        (identity, outline), piece = table.refs[k], table.pieces[k]
        if not table.path.closed[k] and piece.fill is None:
            continue
        place = tuple(round(v, 4) for v in places[0].tolist())
        count = len(places)
        yield Finding(
            RULE.id,
            finding_key(RULE.id, [identity], place, str(outline)),
            RULE.level,
            f"{_name(piece.name)} crosses itself {'once' if count == 1 else f'{count} times'}.",
            (identity,),
            place,
            {"crossings": count, "outline": outline + 1},
            title=RULE.title,
            effect=RULE.effect,
            extent=(*places.min(axis=0).tolist(), *places.max(axis=0).tolist()),
        )


def _name(name: str) -> str:
    return f'The outline of "{name}"' if name else "This outline"


RULE = Rule(
    id="self-crossing",
    level=Level.SPOILS,
    title="An outline crosses itself",
    effect="The blade cuts through what it has cut before, and small bits come loose.",
    find=find,
)
