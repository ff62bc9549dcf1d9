"""dark, as it is asked: everything darker than a threshold is ink."""

from __future__ import annotations

from . import dark
from .asking import Asked, Found, FoundLayer, FoundPiece, View, without

#: What traced ink looks like until its layer is given a material.
INK = "#1f1f1f"


def settled(view: View, asked: Asked) -> dark.Proposal:
    """What was given, and what the picture proposes in place of what was not."""
    proposed = dark.propose(view.grey, view.pixel_mm)
    given = (asked.threshold, asked.smoothness_mm, asked.smallest_mm2)
    own = (proposed.threshold, proposed.smoothness_mm, proposed.smallest_mm2)
    return dark.Proposal(*(b if a is None else a for a, b in zip(given, own, strict=True)))


def chosen(values: dark.Proposal) -> dict[str, float]:
    return {
        "threshold": values.threshold,
        "smoothness_mm": values.smoothness_mm,
        "smallest_mm2": values.smallest_mm2,
    }


def find(view: View, asked: Asked) -> Found:
    values = settled(view, asked)
    traced = dark.trace(view.grey, view.matrix, values.threshold, values.smoothness_mm, values.smallest_mm2, asked.kept)
    pieces = [FoundPiece(f"{x},{y}", region.path, "dark") for region in traced.regions for x, y in (region.seed,)]
    return Found(
        (FoundLayer("dark", "Traced", INK),),
        tuple(without(pieces, view, asked)),
        traced.specks,
        traced.mean_mm,
        traced.max_mm,
        chosen(values),
        f"Traced by darkness, {100 * values.threshold:.0f} %",
    )
