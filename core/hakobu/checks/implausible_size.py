"""implausible-size: a design so small or so large that its unit was most likely taken wrongly."""

from __future__ import annotations

from collections.abc import Iterator

from ..model import Conditions, Document, Finding, Level
from ..model.likely import LARGEST_MM, SMALLEST_MM
from ..model.units import in_words, size_text
from .rule import DOCUMENT, Rule
from .tables.outlines import followed_box


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for the whole."""
    box = followed_box(document)
    if box is None:
        return
    width, height = box[2] - box[0], box[3] - box[1]
    if 0 < max(width, height) < SMALLEST_MM or max(width, height) > LARGEST_MM:
        yield RULE.at(
            f"The design is {size_text(width, height)}, {in_words(width, height)}: is that meant?",
            extent=box,
            measure={"width_mm": round(width, 3), "height_mm": round(height, 3)},
        )


RULE = Rule(
    id="implausible-size",
    about=DOCUMENT,
    level=Level.NOTE,
    title="The size can hardly be meant",
    effect="It would be cut at this size, and the material be lost.",
    find=find,
    thresholds=(f"smaller than {SMALLEST_MM:g} mm or larger than {LARGEST_MM:g} mm (common practice)",),
)
