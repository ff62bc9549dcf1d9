"""colour: a layer for each colour, whose pieces share their borders or lie under the next one's edge."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...errors import CannotDo
from ...model.lab import to_lab
from ..colour.labels import Labelled, labelled
from ..colour.palette import MOST_COLOURS, Palette, find_palette
from ..colour.planar_map import Area, areas_of
from ..options import CLEAR_ALPHA, FoundLayer, FoundPiece, TraceOptions, TraceResult, View, hex_color, without
from ..outlines import thresholding

#: A colour along so much of the picture's rim is its background.
RIM_SHARE = 0.5
#: So far within the rim, as a share of the shorter side, lies what may be the paper instead: if it is this much lighter
#: in CIELAB.
INNER_SHARE, LIGHTER = 0.03, 20.0


@dataclass(frozen=True)
class Parted:
    """A picture's areas but its background's, of a palette; how many bits were too small; how far lines lie off;
    what was chosen for what was not given; and whether there was a background."""

    areas: list[Area]
    palette: Palette
    specks: int
    mean_mm: float
    max_mm: float
    chosen: dict[str, float]
    has_ground: bool


def parted_by_colour(view: View, asked: TraceOptions) -> Parted:
    if asked.colours is not None and not 2 <= asked.colours <= MOST_COLOURS:
        raise CannotDo(f"Colours are parted into 2 to {MOST_COLOURS}; {asked.colours} is not.")
    rgb = view.over_white
    palette = view.memoize(("palette", asked.colours), lambda: find_palette(rgb, asked.colours))
    if len(palette.rgb) < 2:
        raise CannotDo("This picture is one even colour: there is no border in it to find. Bring in another one.")
    smallest = asked.smallest_mm2 if asked.smallest_mm2 is not None else least_area(view)
    smooth = asked.smoothness_mm if asked.smoothness_mm is not None else thresholding.SMOOTH_PX * view.pixel_mm
    colours, smallest_px = np.ascontiguousarray(palette.rgb * 255.0), smallest / view.pixel_mm**2
    seen = view.memoize(
        ("labelled", asked.colours, smallest_px),
        lambda: labelled(rgb, colours, palette.noise, smallest_px),
    )
    made = areas_of(seen, palette.noise, view.matrix, smooth)
    ground = background_of(view, seen, to_lab(palette.rgb)[:, 0]) if asked.background else -1
    kept = _kept_areas(view, seen, asked)
    areas = [area for area in made.areas if area.label != ground or area.number in kept]
    if not areas:
        raise CannotDo("All of this picture is background: keep the background, or take more colours.")
    chosen = {"colours": len(palette.rgb), "smoothness_mm": smooth, "smallest_mm2": smallest}
    return Parted(areas, palette, seen.gone, made.mean_mm, made.max_mm, chosen, ground >= 0)


def find(view: View, asked: TraceOptions) -> TraceResult:
    parted = parted_by_colour(view, asked)
    layers, pieces = _laid(view, parted.areas, parted.palette)
    pieces = without(pieces, view, asked)
    whole = f" of {len(parted.palette.rgb)}" if parted.has_ground else ""
    return TraceResult(
        tuple(layers),
        tuple(pieces),
        parted.specks,
        parted.mean_mm,
        parted.max_mm,
        parted.chosen,
        f"Traced by colour, {len(layers)}{whole}",
    )


def least_area(view: View) -> float:
    """The smallest bit that is kept where nothing is asked, in mm2."""
    return thresholding.smallest_bit(view.rgba.shape[0] * view.rgba.shape[1], view.pixel_mm)


def background_of(view: View, seen: Labelled, lightness: np.ndarray) -> int:
    """The label of the background: where the picture is clear, or along its rim; -1 where there is none. Within a dark
    rim, as scanners leave it, the paper is. lightness (K,): of each colour, in CIELAB."""
    labels = seen.labels
    if view.has_clear_background:
        clear = view.rgba[..., 3] < CLEAR_ALPHA
        return int(np.bincount(labels[clear]).argmax())
    rim = _ring(labels, 0)
    inner = _ring(labels, int(INNER_SHARE * min(labels.shape)))
    lighter = inner >= 0 and rim >= 0 and lightness[inner] > lightness[rim] + LIGHTER
    return inner if lighter else rim


def _ring(labels: np.ndarray, depth: int) -> int:
    """The label of most pixels so far from the picture's edge, -1 where none has enough of them."""
    own = labels[depth : len(labels) - depth, depth : labels.shape[1] - depth]
    count = np.bincount(np.concatenate([own[0], own[-1], own[:, 0], own[:, -1]]))
    return int(count.argmax()) if count.max() >= RIM_SHARE * count.sum() else -1


def _kept_areas(view: View, seen: Labelled, asked: TraceOptions) -> set[int]:
    """The numbers of the regions that lie at places to be kept."""
    if not asked.kept:
        return set()
    number = seen.components.numbers()
    height, width = number.shape
    return {int(number[y, x]) for x, y in view.own(asked.kept) if 0 <= x < width and 0 <= y < height}


def _laid(view: View, areas: list[Area], palette: Palette) -> tuple[list[FoundLayer], list[FoundPiece]]:
    """A layer for each colour that is there, the one with most area lowest."""
    labels = np.array([area.label for area in areas])
    pixels = np.bincount(labels, [area.pixels for area in areas], len(palette.rgb))
    order = [int(k) for k in np.argsort(-pixels, kind="stable") if pixels[k]]
    layers = [
        FoundLayer(hex_color(palette.rgb[k] * 255), f"Colour {i + 1}", hex_color(palette.rgb[k] * 255))
        for i, k in enumerate(order)
    ]
    pieces = [
        FoundPiece(view.key(area.seed), area.path, layers[place].key)
        for place, k in enumerate(order)
        for area in areas
        if area.label == k
    ]
    return layers, pieces
