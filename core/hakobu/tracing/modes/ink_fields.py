"""ink-fields: the ink as one piece, and every field of colour as a piece that lies under it or on it."""

from __future__ import annotations

import numpy as np

from ...errors import CannotDo
from ...geometry import Path, signed_areas
from ...model.lab import to_lab
from ..options import FoundLayer, FoundPiece, TraceOptions, TraceResult, View, hex_color, without
from .colour import parted_by_colour

#: Colours no farther than this from the darkest in CIELAB are ink too: it is never quite even (common practice).
INK_REACH = 14.0
#: Ink is no lighter than this.
INK_LIGHTEST = 55.0


def find(view: View, asked: TraceOptions) -> TraceResult:
    parted = parted_by_colour(view, asked)
    lab = to_lab(parted.palette.rgb)
    darkest = int(lab[:, 0].argmin())
    if lab[darkest, 0] > INK_LIGHTEST:
        raise CannotDo("There is no dark ink in this picture: trace it by colour instead.")
    inks = {k for k in range(len(lab)) if k == darkest or np.linalg.norm(lab[k] - lab[darkest]) < INK_REACH}
    ink = Path.concatenate(area.path for area in parted.areas if area.label in inks)
    fields = [area for area in parted.areas if area.label not in inks]
    if not len(ink) or not fields:
        raise CannotDo("The ink here encloses no field of a colour of its own: trace it by darkness instead.")
    used = {area.label for area in fields}
    order = [k for k in range(len(lab)) if k in used]
    keys = {k: hex_color(parted.palette.rgb[k] * 255) for k in order}
    layers = [FoundLayer(keys[k], f"Field {i + 1}", keys[k]) for i, k in enumerate(order)]
    pieces = [
        FoundPiece(
            view.key(a.seed),
            a.path,
            keys[a.label],
        )
        for a in fields
    ]
    pieces = without(pieces, view, asked)
    color = hex_color(parted.palette.rgb[darkest] * 255)
    ink_layer = FoundLayer("ink", "Ink", color)
    if asked.on_top:
        silhouette = _silhouette(ink, [area.path for area in fields])
        found_layers, found = (ink_layer, *layers), (FoundPiece("ink", silhouette, "ink"), *pieces)
    else:
        found_layers, found = (*layers, ink_layer), (*pieces, FoundPiece("ink", ink, "ink"))
    return TraceResult(
        found_layers,
        tuple(found),
        parted.specks,
        parted.mean_mm,
        parted.max_mm,
        parted.chosen | {"fields": len(pieces), "underlap_mm": asked.underlap_mm},
        f"Traced as ink and {len(pieces)} {'field' if len(pieces) == 1 else 'fields'}",
    )


def _silhouette(ink: Path, fields: list[Path]) -> Path:
    """Ink and fields in one, without what they enclose."""
    from ...geometry.boolean import union

    whole = union(ink, *fields).path
    return whole.take(np.flatnonzero(signed_areas(whole) > 0))
