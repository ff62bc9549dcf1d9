"""What can be measured of a picture before it is traced: its colours, noise, blur, light, and what its ink is like."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace

import numpy as np

from ...model.lab import to_lab
from ..colour.palette import Palette, find_palette
from ..edges.greyscale import levels
from ..edges.otsu import otsu_threshold
from ..options import View
from ..prepare.illumination import UNEVEN, flat_field_corrected, unevenness
from ..skeleton import thinning

#: Pixels that are looked at, at most.
LOOKED_AT_PX = 600_000
#: Even pixels: those about which brightness differs by no more than so many times the noise, and by so much, of 255.
EVEN_NOISES, EVEN_LEAST = 4.0, 6.0
#: A pixel is of a colour where the mean about it is no farther off than so many times the noise, and than this.
OF_NOISES, OF_LEAST = 1.2, 5.0
#: Colours that lie farther from grey in CIELAB are colours.
COLOURED = 12.0
#: Letters of a word: so many of them at least, their heights and places across alike to these shares.
LETTERS, HEIGHTS_ALIKE, ROW_ALIKE = 3, 0.5, 0.35
#: Light is uneven where dark and light are better apart by this once it is evened.
EVENED_BETTER = 0.02
#: A shadow leaves so many even pixels off all colours.
SHADED = 0.1
#: Lines are of one width where they differ from the middle one by no more than this share, and this many pixels.
WIDTH_SHARE, WIDTH_PX = 0.3, 0.8
#: The rim that tells the ground: from this share of the shorter side to that.
RIM = (0.015, 0.05)


@dataclass(frozen=True)
class Looks:
    """parted: Otsu's share of the variance between dark and light, and the same once the light is evened; uneven: by
    which share the light differs; noise of 255; blur_px; blocks: how much larger the steps of brightness are at JPEG's
    blocks; colours_count; graded: the share of even pixels that are of no colour; bordered: the share of the borders
    of fields that ink lies along; lines_…: of its ink, the share that its lines cover, the share of lines that are of
    one width, and how many times as long as wide they are in all."""

    parted: float
    evened_parted: float
    uneven: float
    noise: float
    blur_px: float
    blocks: float
    colours_count: int
    is_coloured: bool
    graded: float
    bordered: float
    lettering: bool
    light_on_dark: bool
    lines_cover: float = 0.0
    lines_even: float = 0.0
    lines_long: float = 0.0
    line_width_mm: float = 0.0

    def statistics(self) -> dict[str, float]:
        return {name: float(value) for name, value in asdict(self).items()}


def looks_of(view: View) -> Looks:
    small, factor = _smaller(view)
    if float(np.ptp(small.grey)) < 1.5 / 255:
        return Looks(0.0, 0.0, 0.0, 0.0, 0.0, 1.0, 1, False, 0.0, 0.0, False, False)
    threshold, parted = _parted(small.grey)
    light_on_dark = _rim(small.grey) < threshold
    uneven = 0.0 if light_on_dark else unevenness(small.grey)
    evened_parted = parted
    if uneven >= UNEVEN:
        # Flat tones are drawn, not shadows; nor is what does not part dark from light better once it is evened.
        even = replace(small, rgba=np.dstack([flat_field_corrected(small.over_white), small.rgba[..., 3]]), cache={})
        better = _parted(even.grey)[1]
        if better >= parted + EVENED_BETTER and _graded(small, find_palette(small.over_white)) >= SHADED:
            small, evened_parted = even, better
            threshold = _parted(even.grey)[0]
        else:
            uneven = 0.0
    palette = find_palette(small.over_white)
    lab = to_lab(palette.rgb)
    ink = (small.grey < threshold) != light_on_dark
    cover, even_share, long, width = _lines(ink)
    return Looks(
        parted,
        evened_parted,
        uneven,
        palette.noise,
        _blur(view.grey, threshold),
        _blocks(view.grey),
        len(palette.rgb),
        bool((np.hypot(lab[:, 1], lab[:, 2]) > COLOURED).any()),
        _graded(small, palette),
        _bordered(small.over_white, palette) if len(palette.rgb) >= 3 else 0.0,
        _is_lettering(ink),
        light_on_dark,
        cover,
        even_share,
        long,
        width * factor * view.pixel_mm,
    )


def _smaller(view: View) -> tuple[View, float]:
    """The view with no more pixels than are looked at, and by how much its pixels are larger."""
    import cv2

    height, width = view.rgba.shape[:2]
    step = int(np.ceil((height * width / LOOKED_AT_PX) ** 0.5))
    if step <= 1:
        return view, 1.0
    size = max(width // step, 1), max(height // step, 1)
    return replace(view, rgba=cv2.resize(view.rgba, size, interpolation=cv2.INTER_AREA), cache={}), float(step)


def _parted(grey: np.ndarray) -> tuple[float, float]:
    """Otsu's threshold, and the share of the variance that lies between the two (Otsu 1979, eta)."""
    counts = levels(grey)
    try:
        threshold = otsu_threshold(counts)
    except ValueError:
        return 0.5, 0.0
    value, weight = np.arange(256) / 255, counts / counts.sum()
    below = value < threshold
    share = weight[below].sum()
    if not 0 < share < 1:
        return threshold, 0.0
    low, high = (weight * value)[below].sum() / share, (weight * value)[~below].sum() / (1 - share)
    whole = (weight * (value - (weight * value).sum()) ** 2).sum()
    return threshold, float(share * (1 - share) * (high - low) ** 2 / whole)


def _blur(grey: np.ndarray, threshold: float) -> float:
    """How wide edges are, in pixels: the standard deviation of the blur that makes them so. Out of the
    whole change over the steepest step, at places where the picture passes the threshold."""
    widths = []
    for rows in (grey, grey.T):
        some = rows[:: max(rows.shape[0] // 400, 1)]
        if some.shape[1] < 16:
            continue
        dark = some < threshold
        row, column = np.nonzero(dark[:, 7:-8] != dark[:, 8:-7])
        if not len(row):
            continue
        around = some[row[:, None], column[:, None] + np.arange(16)]
        whole = np.ptp(around, axis=1)
        steps = np.abs(np.diff(around, axis=1)).max(axis=1)
        clear = whole > 0.15
        widths.append(whole[clear] / np.maximum(steps[clear], 1e-6))
    widths = np.concatenate(widths) if widths else np.zeros(0)
    if len(widths) < 20:
        return 0.0
    # Edges that run across are the narrowest; a Gaussian edge of deviation s has a steepest step of 1 / (s sqrt(2 pi)).
    return float(max(np.quantile(widths, 0.3) / np.sqrt(2 * np.pi) - 0.1, 0.0))


def _blocks(grey: np.ndarray) -> float:
    """Steps of brightness between JPEG's blocks of eight pixels, by those within them; 1 where there are no blocks."""
    shares = []
    for rows in (grey, grey.T):
        if rows.shape[1] < 16:
            continue
        steps = np.abs(np.diff(rows[:: max(rows.shape[0] // 500, 1)], axis=1))
        # Where nothing is drawn: an edge is a step wherever it lies.
        steps = np.where(steps < 0.06, steps, 0.0)
        shares.append((steps[:, 7::8].mean() + 5e-4) / (steps.mean() + 5e-4))
    return float(np.mean(shares)) if shares else 1.0


def _graded(view: View, palette: Palette) -> float:
    """The share of even pixels that are of none of the palette's colours."""
    import cv2

    even = cv2.morphologyEx(view.grey_levels, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8))
    even = even < max(EVEN_NOISES * palette.noise, EVEN_LEAST)
    if not even.any():
        return 1.0
    mean = cv2.blur(view.over_white, (3, 3))[even].astype(np.int16)
    off = np.full(len(mean), 1000, np.int16)
    for colour in np.round(palette.rgb * 255).astype(np.int16):
        np.minimum(off, np.abs(mean - colour).max(axis=1), out=off)
    return float((off > max(OF_NOISES * palette.noise, OF_LEAST)).mean())


def _bordered(rgb: np.ndarray, palette: Palette) -> float:
    """The share of the borders of coloured fields that run along ink."""
    from ..colour.labels import labelled
    from ..modes.ink_fields import INK_LIGHTEST, INK_REACH

    lab = to_lab(palette.rgb)
    darkest = int(lab[:, 0].argmin())
    if lab[darkest, 0] > INK_LIGHTEST:
        return 0.0
    ink = np.linalg.norm(lab - lab[darkest], axis=1) < INK_REACH
    labels = labelled(rgb, np.ascontiguousarray(palette.rgb * 255.0), palette.noise, 12.0).labels
    counts = np.zeros((len(lab), len(lab)))
    for one, other in ((labels[:, 1:], labels[:, :-1]), (labels[1:], labels[:-1])):
        at = one != other
        np.add.at(counts, (one[at], other[at]), 1)
    counts = counts + counts.T
    fields = ~ink
    with_ink, between = counts[fields][:, ink].sum(), np.triu(counts[fields][:, fields]).sum()
    return float(with_ink / max(with_ink + between, 1)) if fields.sum() >= 2 else 0.0


def _is_lettering(ink: np.ndarray) -> bool:
    """Whether the ink is parts of like height in a row, as letters are."""
    import cv2

    width = ink.shape[1]
    _, _, stats, _ = cv2.connectedComponentsWithStats(ink.astype(np.uint8), connectivity=8)
    boxes = stats[1:]
    boxes = boxes[(boxes[:, cv2.CC_STAT_AREA] > 2e-4 * ink.size) & (boxes[:, cv2.CC_STAT_WIDTH] < 0.9 * width)]
    if not LETTERS <= len(boxes) <= 200:
        return False
    high, top = boxes[:, cv2.CC_STAT_HEIGHT], boxes[:, cv2.CC_STAT_TOP]
    tall = high > 0.4 * high.max()
    row = (top + high / 2)[tall]
    alike = np.std(high[tall]) <= HEIGHTS_ALIKE * np.mean(high[tall]) and np.std(row) <= ROW_ALIKE * np.mean(high[tall])
    return bool(alike and tall.sum() >= LETTERS and np.ptp(boxes[tall, cv2.CC_STAT_LEFT]) > 1.5 * np.mean(high[tall]))


def _lines(ink: np.ndarray) -> tuple[float, float, float, float]:
    """Of ink (H, W): the share that is lines by their length and width, the share of them that are of one width, how
    many times as long as wide they are in all, and that width in pixels."""
    import cv2

    thin = np.pad(ink.astype(np.uint8), 1)
    widths = cv2.distanceTransform(thin, cv2.DIST_L2, 5)
    thinning.thin(thin)
    own = 2 * widths[thin > 0]
    if len(own) < 10:
        return 0.0, 0.0, 0.0, 0.0
    middle = float(np.median(own))
    even = float((np.abs(own - middle) <= WIDTH_SHARE * middle + WIDTH_PX).mean())
    return len(own) * middle / max(int(ink.sum()), 1), even, len(own) / max(middle, 1.0), middle


def _rim(grey: np.ndarray) -> float:
    """How light the ground along the picture's rim is, without what a scanner's lid leaves at the very edge."""
    side = min(grey.shape)
    outer, inner = (max(int(share * side), 1) for share in RIM)
    if side < 4 * inner:
        return float(np.median(grey))
    cut = grey[outer:-outer, outer:-outer]
    deep = max(inner - outer, 1)
    sides = (cut[:deep], cut[-deep:], cut[:, :deep], cut[:, -deep:])
    return float(np.median(np.concatenate([part.ravel() for part in sides])))
