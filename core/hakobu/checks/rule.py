"""What a rule is: its metadata, how it finds, how it would mend."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..geometry import Box
from ..model import Conditions, Document, Edit, Finding, Level
from ..model.finding import finding_key

#: So many findings of a kind are listed one by one; of the rest it is only said how many they are.
LISTED = 1000
#: A filled outline of which a mend changes more than this share of its area is seen to change: such a mend is not safe.
SEEN_SHARE = 2e-4

#: Whether a kind is about lines, shapes or the whole document.
LINES, SHAPES, DOCUMENT = "lines", "shapes", "document"


@dataclass(frozen=True)
class Rule:
    """One kind of fault. id: permanent. title and effect: whole phrases, the second says what happens at the machine.
    thresholds: what decides, in words, each with where its value comes from. choices: the ways in which it can be
    mended, where there are several: id and label, the first is taken where nothing is said. uncovers: rules
    whose faults were there before the mend, but could not be told.

    find(document, conditions) yields findings and never changes anything. mend(document, finding, conditions) gives the
    edit that removes the finding, or None where it no longer holds; None where the rule has no mend.
    """

    id: str
    about: str
    level: Level
    title: str
    effect: str
    find: Callable[[Document, Conditions], Iterable[Finding]]
    mend: Callable[[Document, Finding, Conditions], Edit | None] | None = None
    version: int = 1
    thresholds: tuple[str, ...] = ()
    choices: tuple[tuple[str, str], ...] = ()
    uncovers: tuple[str, ...] = ()

    def at(
        self,
        message: str,
        pieces: Sequence[str] = (),
        place: tuple[float, float] | None = None,
        extent: Box | None = None,
        detail: str = "",
        level: Level | None = None,
        mendable: bool = False,
        safe: bool = False,
        title: str = "",
        measure: dict[str, Any] | None = None,
    ) -> Finding:
        """A finding of this kind. detail tells apart what lies in one place."""
        pieces = tuple(dict.fromkeys(pieces))
        place = None if place is None else (round(float(place[0]), 4), round(float(place[1]), 4))
        return Finding(
            self.id,
            finding_key(self.id, pieces, place, detail),
            level or self.level,
            message,
            pieces,
            place,
            {name: value.item() if isinstance(value, np.generic) else value for name, value in (measure or {}).items()},
            bool(mendable),
            bool(mendable and safe),
            title or self.title,
            self.effect,
            None if extent is None else _rounded(extent),
        )

    def rest(self, count: int, level: Level | None = None) -> Finding:
        """What stands for so many more findings than are listed."""
        return self.at(
            f"{count:,} more of these are not listed one by one.",
            level=level,
            detail="more",
            measure={"more": count},
        )


@dataclass(frozen=True)
class Rows:
    """Findings that are made one by one from rows, the worst first, so that of a million only those are made that are
    looked at. make gives None for a row that comes to nothing."""

    rule: Rule
    rows: Sequence
    make: Callable[[Any], Finding | None]

    def __iter__(self) -> Iterator[Finding]:
        return (found for found in map(self.make, self.rows) if found is not None)

    def listed(self) -> Iterator[Finding]:
        """The findings of the first thousand rows, and one that stands for the rest."""
        first = [found for found in map(self.make, self.rows[:LISTED]) if found is not None]
        yield from first
        if len(self.rows) > LISTED:
            level = max((found.level for found in first), key=lambda level: level.rank, default=None)
            yield self.rule.rest(len(self.rows) - LISTED, level)


def _rounded(box: Sequence[float]) -> Box:
    left, top, right, bottom = (round(float(side), 4) for side in box)
    return left, top, right, bottom
