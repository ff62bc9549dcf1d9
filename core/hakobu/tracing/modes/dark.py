"""dark, as it is asked: everything darker than a threshold is ink."""

from __future__ import annotations

import numpy as np

from ..colour.matting import share_off
from ..options import FoundLayer, FoundPiece, TraceOptions, TraceResult, View, filled, rgb_of, without
from ..outlines import thresholding

#: What traced ink looks like until its layer is given a material.
INK = "#1f1f1f"


def resolve_options(view: View, asked: TraceOptions) -> thresholding.Proposal:
    """What was given, and what the picture proposes in place of what was not."""
    proposed = view.memoize(
        ("proposed", view.pixel_mm, asked.colour, asked.tolerance),
        lambda: thresholding.propose(seen_grey(view, asked), view.pixel_mm),
    )
    given = (asked.threshold, asked.smoothness_mm, asked.smallest_mm2)
    own = (proposed.threshold, proposed.smoothness_mm, proposed.smallest_mm2)
    return thresholding.Proposal(*(b if a is None else a for a, b in zip(given, own, strict=True)))


def seen_grey(view: View, asked: TraceOptions) -> np.ndarray:
    """How light the picture is, (H, W) float32; where a colour is pointed at, how far it is off that."""
    if asked.colour is None:
        return view.grey
    colour = rgb_of(asked.colour)
    return view.memoize(
        ("off", asked.colour, asked.tolerance), lambda: share_off(view.colours, colour, asked.tolerance)
    )


def chosen_values(values: thresholding.Proposal) -> dict[str, float]:
    return {
        "threshold": values.threshold,
        "smoothness_mm": values.smoothness_mm,
        "smallest_mm2": values.smallest_mm2,
    }


def find(view: View, asked: TraceOptions) -> TraceResult:
    values = resolve_options(view, asked)
    grey, always = seen_grey(view, asked), view.own(asked.kept)
    traced = thresholding.trace(
        view.grey_to_trace if grey is view.grey else grey,
        view.matrix,
        values.threshold,
        values.smoothness_mm,
        values.smallest_mm2,
        always,
    )
    pieces = [FoundPiece(view.key(r.seed), filled(r.path, view, asked), "dark") for r in traced.regions]
    return TraceResult(
        (FoundLayer("dark", "Traced", asked.colour or INK),),
        tuple(without(pieces, view, asked)),
        traced.specks,
        traced.mean_mm,
        traced.max_mm,
        chosen_values(values),
        f"Traced by darkness, {100 * values.threshold:.0f} %",
    )
