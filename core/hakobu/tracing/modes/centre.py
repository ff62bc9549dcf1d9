"""centre: the middle of drawn lines as single lines; what is wider than lines are, by its outline."""

from __future__ import annotations

from ...geometry.recover import recover
from ..options import FoundLayer, FoundPiece, TraceOptions, TraceResult, View, without
from ..skeleton import centre_lines
from ..skeleton.solid_areas import parted
from .dark import INK, chosen_values, resolve_options, seen_grey

#: What lies no farther off than this lies on it.
SAME_MM = 0.002


def find(view: View, asked: TraceOptions) -> TraceResult:
    values = resolve_options(view, asked)
    seen = seen_grey(view, asked)
    grey, fat = seen, None
    if asked.widest_mm is not None:
        grey, fat = parted(seen, values.threshold, asked.widest_mm / view.pixel_mm)
    layers, pieces = [FoundLayer("lines", "Middle of lines", INK, lines=True)], []
    made = centre_lines.trace(grey, view.matrix, values.threshold, values.smoothness_mm, values.smallest_mm2)
    # A line that goes straight on through a meeting needs no node there.
    pieces += [FoundPiece(view.key(d.seed), recover(d.path, SAME_MM), "lines") for d in made.drawings]
    specks = made.specks
    if fat is not None:
        from ..outlines import thresholding

        traced = thresholding.trace(fat, view.matrix, values.threshold, values.smoothness_mm, values.smallest_mm2)
        layers.insert(0, FoundLayer("areas", "Areas", INK))
        pieces = [FoundPiece(f"a:{view.key(r.seed)}", r.path, "areas") for r in traced.regions] + pieces
        specks += traced.specks
    widths = [float(w) for d in made.drawings for w in d.width_mm]
    statistics = chosen_values(values) | {"line_width_mm": sorted(widths)[len(widths) // 2]}
    return TraceResult(
        tuple(layers),
        tuple(without(pieces, view, asked)),
        specks,
        made.mean_mm,
        made.max_mm,
        statistics,
        f"Traced down the middle of lines, {100 * values.threshold:.0f} %",
    )
