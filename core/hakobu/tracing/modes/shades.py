"""shades: a layer for each step of brightness, alone or with all that is darker."""

from __future__ import annotations

import numpy as np

from ...errors import CannotDo
from ..colour.labels import Labelled
from ..colour.planar_map import areas_of
from ..edges.greyscale import levels
from ..options import FoundLayer, FoundPiece, TraceOptions, TraceResult, View, hex_color, without
from ..outlines import thresholding
from .colour import least_area

FEWEST, MOST = 2, 12


def find(view: View, asked: TraceOptions) -> TraceResult:
    if not FEWEST <= asked.shades <= MOST:
        raise CannotDo(f"Brightness is parted into {FEWEST} to {MOST} shades; {asked.shades} is not.")
    marks, middles = steps(levels(view.grey), asked.shades)
    smallest = asked.smallest_mm2 if asked.smallest_mm2 is not None else least_area(view)
    smooth = asked.smoothness_mm if asked.smoothness_mm is not None else thresholding.SMOOTH_PX * view.pixel_mm
    chosen = {"shades": len(middles), "smoothness_mm": smooth, "smallest_mm2": smallest}
    if asked.with_darker:
        return _nested(view, asked, marks, middles, smooth, smallest, chosen)
    seen, gone = _banded(view.grey_levels, marks, middles, smallest / view.pixel_mm**2)
    made = areas_of(seen, 0.0, view.matrix, smooth)
    layers = _layers(middles, len(middles) - (1 if asked.background else 0))
    kept = {layer.key for layer in layers}
    pieces = [
        FoundPiece(view.key(area.seed), area.path, f"shade-{area.label}")
        for area in made.areas
        if f"shade-{area.label}" in kept
    ]
    return TraceResult(
        layers, tuple(without(pieces, view, asked)), gone, made.mean_mm, made.max_mm, chosen, _title(len(middles))
    )


def steps(counts: np.ndarray, shades: int) -> tuple[np.ndarray, np.ndarray]:
    """The marks between shades (S - 1,) and the shades themselves (S,), darkest first, from 0 to 1: those that part the
    pixels of 256 levels best (Lloyd 1982, begun at even shares). Raises CannotDo for a picture of fewer levels."""
    used = np.flatnonzero(counts)
    if len(used) < 2:
        raise CannotDo("This picture is one even colour: there are no shades in it to part. Bring in another one.")
    if len(used) < shades:
        raise CannotDo(f"There are only {len(used)} levels of brightness in this picture: take fewer shades.")
    value = np.arange(len(counts)) / (len(counts) - 1)
    middles = np.linspace(value[used[0]], value[used[-1]], 2 * shades + 1)[1::2]
    for _ in range(60):
        marks = (middles[1:] + middles[:-1]) / 2
        own = np.searchsorted(marks, value)
        weight = np.bincount(own, counts, shades)
        moved = np.where(weight > 0, np.bincount(own, counts * value, shades) / np.maximum(weight, 1), middles)
        if np.abs(moved - middles).max() < 1e-4:
            break
        middles = np.sort(moved)
    return (middles[1:] + middles[:-1]) / 2, middles


def _banded(levels: np.ndarray, marks: np.ndarray, middles: np.ndarray, smallest_px: float) -> tuple[Labelled, int]:
    from ..colour.labels import labelled

    eight = np.repeat(levels[..., None], 3, axis=2)
    colours = np.repeat(middles[:, None] * 255.0, 3, axis=1)
    seen = labelled(np.ascontiguousarray(eight), np.ascontiguousarray(colours), 0.0, smallest_px)
    return seen, seen.gone


def _nested(view, asked, marks, middles, smooth, smallest, chosen) -> TraceResult:
    """Each shade with all that is darker: the lightest lies lowest."""
    pieces, specks, mean, most = [], 0, [], 0.0
    layers = _layers(middles, len(marks))[::-1]
    for k in range(len(marks) - 1, -1, -1):
        traced = thresholding.trace(view.grey_to_trace, view.matrix, float(marks[k]), smooth, smallest)
        pieces += [FoundPiece(f"{k}:{view.key(r.seed)}", r.path, f"shade-{k}") for r in traced.regions]
        specks += traced.specks
        mean.append(traced.mean_mm)
        most = max(most, traced.max_mm)
    made = tuple(without(pieces, view, asked))
    return TraceResult(tuple(layers), made, specks, float(np.mean(mean)), most, chosen, _title(len(middles)))


def _layers(middles: np.ndarray, count: int) -> tuple[FoundLayer, ...]:
    return tuple(FoundLayer(f"shade-{k}", f"Shade {k + 1}", hex_color([255 * middles[k]] * 3)) for k in range(count))


def _title(count: int) -> str:
    return f"Traced by brightness, {count} shades"
