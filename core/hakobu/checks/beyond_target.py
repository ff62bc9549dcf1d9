"""beyond-target: the design reaches beyond what it goes onto or into."""

from __future__ import annotations

from collections.abc import Iterable

from ..model import Conditions, Document, Finding, Level
from ..model.targets import clearance_of
from ..model.units import as_mm
from .rule import DOCUMENT, Rule

#: What reaches beyond by less lies on the rim, in mm.
BEYOND_MM = 0.01


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding, where the design reaches farthest beyond."""
    if conditions.target is None:
        return
    found = clearance_of(document, conditions.target, conditions.target_off)
    if found is not None and found.mm < -BEYOND_MM:
        target, by = conditions.target, -found.mm
        said = f"The design reaches {as_mm(by)} beyond {target.name}."
        yield RULE.at(said, place=found.ends[0], measure={"beyond_mm": round(by, 3)})


RULE = Rule(
    id="beyond-target",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="Beyond the target",
    effect="It does not fit onto what it is made for.",
    find=find,
)
