"""out-of-reach: a design larger than the machine can get to."""

from __future__ import annotations

from collections.abc import Iterator

from ..model import Conditions, Document, Finding, Level
from ..model.units import size_text
from .rule import DOCUMENT, Rule
from .tables.outlines import followed_box


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding where it does not fit, turned by a quarter or not."""
    machine = conditions.machine
    box = followed_box(document) if machine else None
    if machine is None or box is None:
        return
    size = sorted((box[2] - box[0], box[3] - box[1]))
    reach = sorted((machine.reach_width_mm, machine.reach_height_mm))
    if size[0] > reach[0] or size[1] > reach[1]:
        yield RULE.at(
            f"The design is {size_text(box[2] - box[0], box[3] - box[1])}; the {machine.name} reaches"
            f" {size_text(machine.reach_width_mm, machine.reach_height_mm)}.",
            extent=box,
            detail=machine.id,
            measure={"width_mm": round(box[2] - box[0], 3), "height_mm": round(box[3] - box[1], 3)},
        )


RULE = Rule(
    id="out-of-reach",
    about=DOCUMENT,
    level=Level.STOPS,
    title="Out of the machine's reach",
    effect="The machine stops at its end, or leaves out what it cannot get to.",
    find=find,
    thresholds=("the reach of the machine that is chosen",),
)
