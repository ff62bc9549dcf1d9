"""Will it hold together? The answer in a sentence, with the weakest place."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from ..geometry.narrow import narrowest_places
from ..model import Conditions, Document, Finding
from ..model.units import as_mm
from ..model.words import counted
from .tables.nesting import OUTER
from .tables.outlines import OutlineTable, outline_table

#: The thinnest place is looked for below the first of these widths, then below the next, in mm.
WIDTHS_MM = (2.0, 8.0)
#: Of more segments than this only what is too thin is known.
MOST_SEGMENTS = 20_000


@dataclass(frozen=True)
class Verdict:
    """sentence: the answer. holds: whether it does; None where nothing is cut. width_mm, place: the thinnest strip and
    where it is, where that is known."""

    sentence: str
    holds: bool | None
    width_mm: float | None = None
    place: tuple[float, float] | None = None


def verdict(document: Document, conditions: Conditions, findings: Iterable[Finding]) -> Verdict:
    """Of a document and what was found in it; findings that were set aside are not among these."""
    table = outline_table(conditions.settled(document))
    parts = int(((table.nested.role == OUTER) & table.cut).sum()) if len(table.owner) else 0
    if not len(table.owner):
        return Verdict("Nothing is cut here yet.", None)
    found = list(findings)
    loose = [f for f in found if f.rule in ("not-one", "drop-out")]
    if loose:
        what = "island falls out" if conditions.purpose.is_stencil else "part comes loose"
        many = "islands fall out" if conditions.purpose.is_stencil else "parts come loose"
        count = sum(int(f.measure.get("more", 1)) for f in loose)
        return Verdict(f"It will not hold together: {counted(count, what, many)}.", False, None, loose[0].place)
    painted = [f for f in found if f.rule == "painted-hole"]
    if painted:
        count = sum(int(f.measure.get("holes", f.measure.get("more", 1))) for f in painted)
        would = "that is only painted would be cut as a loose piece"
        them = "that are only painted would be cut as loose pieces"
        sentence = f"It will not come out as it looks: {counted(count, f'hole {would}', f'holes {them}')}."
        return Verdict(sentence, False, None, painted[0].place)
    crossing = [f for f in found if f.rule == "overlapping-shape" and f.level.rank]
    if crossing:
        return Verdict("It will not hold together: shapes are cut through each other.", False, None, crossing[0].place)
    open_ = [f for f in found if f.rule == "open-path" and f.level.rank]
    if open_:
        count = sum(f.count for f in open_)
        what = counted(count, "outline does", "outlines do")
        sentence = f"{what.capitalize()} not close: what it should part stays joined to the sheet."
        return Verdict(sentence, False, None, open_[0].place)
    thin = [f for f in found if f.rule == "thin-strip" and "width_mm" in f.measure]
    if thin:
        worst = min(thin, key=lambda f: f.measure["width_mm"])
        width = float(worst.measure["width_mm"])
        return Verdict(
            f"It hangs by a thread: {as_mm(round(width, 2))} at its thinnest, where"
            f" {as_mm(float(worst.measure['least_mm']))} are needed.",
            False,
            width,
            worst.place,
        )
    return _sound(table, parts, conditions)


def _sound(table: OutlineTable, parts: int, conditions: Conditions) -> Verdict:
    if not parts:
        return Verdict("No pieces come off: this design is only lines.", True)
    pieces = len(set(table.owner[table.cut].tolist()))
    what = "It stays in one piece" if parts == 1 else f"{parts:,} parts; each stays in one piece"
    if pieces != parts:
        what = f"{counted(pieces, 'piece').capitalize()} of {what}" if parts > 1 else what
    width, place = _thinnest(table)
    if width is None:
        return Verdict(f"{what}.", True)
    return Verdict(f"{what}; {as_mm(round(width, 2))} at the thinnest place.", True, width, place)


def _thinnest(table: OutlineTable) -> tuple[float | None, tuple[float, float] | None]:
    if table.path.segment_count > MOST_SEGMENTS:
        return None, None
    own = np.flatnonzero(table.cut & table.path.closed & ~table.crosses)
    for below in WIDTHS_MM if len(own) else ():
        best: tuple[float, tuple[float, float]] | None = None
        for layer in np.unique(table.group[own]).tolist():
            found = narrowest_places(table.path.take(own[table.group[own] == layer].tolist()), below)
            found = found.take(found.inside)
            if len(found) and (best is None or found.width[0] < best[0]):
                x, y = found.points[0].mean(axis=0)
                best = float(found.width[0]), (round(float(x), 4), round(float(y), 4))
        if best:
            return best
    return None, None
