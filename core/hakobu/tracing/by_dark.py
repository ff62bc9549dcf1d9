"""dark, as it is asked: everything darker than a threshold is ink."""

from __future__ import annotations

import numpy as np

from . import dark
from .asking import Asked, Found, FoundLayer, FoundPiece, View, filled, rgb_of, without
from .compression import brightness_kept
from .likeness import share_off

#: Of larger pictures nobody asks what compression kept: it would take seconds.
MOST_PX = 8_000_000
#: What traced ink looks like until its layer is given a material.
INK = "#1f1f1f"


def settled(view: View, asked: Asked) -> dark.Proposal:
    """What was given, and what the picture proposes in place of what was not."""
    proposed = view.once(
        ("proposed", view.pixel_mm, asked.colour, asked.tolerance),
        lambda: dark.propose(seen_grey(view, asked), view.pixel_mm),
    )
    given = (asked.threshold, asked.smoothness_mm, asked.smallest_mm2)
    own = (proposed.threshold, proposed.smoothness_mm, proposed.smallest_mm2)
    return dark.Proposal(*(b if a is None else a for a, b in zip(given, own, strict=True)))


def seen_grey(view: View, asked: Asked) -> np.ndarray:
    """How light the picture is, (H, W) float32; where a colour is pointed at, how far it is off that."""
    if asked.colour is None:
        return view.grey
    colour = rgb_of(asked.colour)
    return view.once(("off", asked.colour, asked.tolerance), lambda: share_off(view.colours, colour, asked.tolerance))


def compressed(view: View) -> dark.Compressed | None:
    """What compression kept of the picture's brightness, where that shows."""
    if view.has_alpha or view.grey.size > MOST_PX:
        return None
    kept = view.once("brightness kept", lambda: brightness_kept(view.rgba, view.origin))
    return None if kept is None else dark.Compressed(kept, view.origin)


def chosen(values: dark.Proposal) -> dict[str, float]:
    return {
        "threshold": values.threshold,
        "smoothness_mm": values.smoothness_mm,
        "smallest_mm2": values.smallest_mm2,
    }


def find(view: View, asked: Asked) -> Found:
    values = settled(view, asked)
    grey, always = seen_grey(view, asked), view.own(asked.kept)
    traced = dark.trace(
        view.grey_to_trace if grey is view.grey else grey,
        view.matrix,
        values.threshold,
        values.smoothness_mm,
        values.smallest_mm2,
        always,
        compressed(view) if asked.colour is None else None,
    )
    pieces = [FoundPiece(view.key(r.seed), filled(r.path, view, asked), "dark") for r in traced.regions]
    return Found(
        (FoundLayer("dark", "Traced", asked.colour or INK),),
        tuple(without(pieces, view, asked)),
        traced.specks,
        traced.mean_mm,
        traced.max_mm,
        chosen(values),
        f"Traced by darkness, {100 * values.threshold:.0f} %",
    )
