"""The colours a picture is made of: peaks of its flat pixels in CIELAB. What lies between two colours at an edge is a
mixture of them and no colour of its own, so only pixels whose neighbours are alike are asked."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...geometry.parallel import parallel_map
from ...model.lab import to_lab, to_rgb
from ..order_statistics import quantile

#: Pixels that are looked at, at most; boxes along each side of sRGB that they are gathered in.
LOOKED_AT, BOXES = 250_000, 48
#: Of these, so many tell how much they differ; and so many are worth a thread of their own.
TOLD_BY, WORTH_PIXELS = 60_000, 50_000
#: How far a colour reaches about its peak in CIELAB: what looks the same side by side differs by 2 or 3 (common
#: practice).
REACH = 7.0
#: A colour of less than this share of the flat pixels is no colour but dirt; so are fewer pixels than this.
LEAST_SHARE, LEAST_PIXELS = 0.0012, 40
#: A small share that lies so near to a colour so many times as common is a shade of it; a smaller one between two is
#: their mixture.
SHADE_SHARE, SHADE_REACH, SHADE_TIMES, MIXTURE_SHARE = 0.03, 17.0, 6.0, 0.008
#: Pixels differ from flat neighbours by no more than so many times what most do, and by so much at least, of 255.
FLAT_NOISES, FLAT_LEAST = 4.0, 6.0
MOST_COLOURS, MOST_PEAKS = 24, 200
#: Lines on an even ground lie off its colour by so much in CIELAB at least; this share of their pixels, those that lie
#: off most, are theirs alone.
LINES_OFF, LINES_SHARE = 25.0, 0.2


#: Pictures with no more pixels are small: a colour of theirs may have no more pixels than this share of them.
SMALL_PX, LEAST_PART, LEAST_OF_SMALL = 10_000, 0.004, 4.0


@dataclass(frozen=True)
class Palette:
    """rgb (K, 3) from 0 to 1, the most common first; share (K,) of the flat pixels; noise: what pixels of one colour
    differ by, of 255."""

    rgb: np.ndarray
    share: np.ndarray
    noise: float


def find_palette(rgb: np.ndarray, count: int | None = None) -> Palette:
    """rgb (H, W, 3) uint8. count: how many colours, 2 to 24; without it, as many as there are."""
    lab, pixels, noise = _flat_boxes(rgb)
    colours, weights = _peaks(lab, pixels, REACH + 0.25 * noise)
    if count is None:
        least = min(max(LEAST_OF_SMALL, LEAST_PART * rgb.shape[0] * rgb.shape[1]), LEAST_PIXELS)
        colours, weights = _without_dirt(colours, weights, least)
    if len(colours) == 1:
        colours, weights = _with_lines(rgb, colours, weights)
    wanted = MOST_COLOURS if count is None else count
    while len(colours) > wanted:
        colours, weights = _nearest_joined(colours, weights)
    while count is not None and len(colours) < wanted:
        grown = _split(lab, pixels, colours, weights)
        if grown is None:
            break
        colours, weights = grown
    colours, weights = _merge_peaks(lab, pixels, colours)
    order = np.argsort(-weights, kind="stable")
    return Palette(to_rgb(colours[order]), weights[order] / max(weights.sum(), 1), noise)


def noise_of(rgb: np.ndarray) -> float:
    """What pixels of one colour differ by in a picture rgb (H, W, 3) uint8, of 255."""
    return _noise(_nines(rgb)[1])


def _nines(rgb: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Sums of 3 x 3 pixels (N, 3), and nine times how far any of them is off their mean (N,)."""
    from .kernels.flatness import flat_sums

    step = max(int(np.sqrt(rgb.shape[0] * rgb.shape[1] / LOOKED_AT)), 1)
    height, width = rgb.shape[:2]
    if min(height, width) >= 3 and height * width <= SMALL_PX:
        return _fours(rgb)
    if height < 3 or width < 3:
        every = rgb.reshape(-1, 3).astype(np.uint16) * 9
        return every, np.zeros(len(every), np.uint16)
    flat = np.ascontiguousarray(rgb).reshape(height, -1)
    rows = np.arange(1, height - 1, step)
    parts = parallel_map(
        lambda a, b: flat_sums(flat, step, rows[a], rows[b - 1] + 1), np.full(len(rows), width / step), WORTH_PIXELS
    )
    one, other = (np.concatenate([part[i] for part in parts]) for i in range(2))
    return one, other


def _fours(rgb: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The same of a small picture, which is flat over two by two pixels at best: their sums as if they were nine."""
    around = np.stack([rgb[:-1, :-1], rgb[:-1, 1:], rgb[1:, :-1], rgb[1:, 1:]]).reshape(4, -1, 3).astype(np.int64)
    sums = around.sum(axis=0) * 9 // 4
    spread = np.abs(9 * around - sums).max(axis=(0, 2))
    return sums.astype(np.uint16), spread.astype(np.uint16)


def _noise(spread: np.ndarray) -> float:
    return quantile(spread[:: max(len(spread) // TOLD_BY, 1)], 0.35) / 9


def _flat_boxes(rgb: np.ndarray) -> tuple[np.ndarray, np.ndarray, float]:
    """Where all of 3 x 3 pixels are alike, their means gathered in boxes of sRGB: mean colours in CIELAB (B, 3), how
    many each box holds (B,), and how much pixels differ there."""
    from .kernels.flatness import gathered

    sums, spread = _nines(rgb)
    noise = _noise(spread)
    most = 9 * max(FLAT_NOISES * noise, FLAT_LEAST)
    # Where hardly anything is flat, the flattest there is.
    if np.count_nonzero(spread <= most) < 100:
        most = quantile(spread, 0.2)
    count, whole = gathered(sums, spread, most, BOXES)
    used = np.flatnonzero(count)
    return to_lab(whole[used] / (9 * 255.0 * count[used, None])), count[used].astype(np.float64), noise


def _peaks(lab: np.ndarray, pixels: np.ndarray, reach: float) -> tuple[np.ndarray, np.ndarray]:
    """Colours and their pixels: the fullest box takes what lies within reach of it, then the next."""
    left = pixels.copy()
    colours, weights = [], []
    while left.max(initial=0) > 0 and len(colours) < MOST_PEAKS:
        centre = lab[left.argmax()]
        for _ in range(4):
            near = (np.linalg.norm(lab - centre, axis=1) <= reach) & (left > 0)
            moved = np.average(lab[near], axis=0, weights=left[near])
            if np.linalg.norm(moved - centre) < 0.05:
                break
            centre = moved
        near = (np.linalg.norm(lab - centre, axis=1) <= reach) & (left > 0)
        near[left.argmax()] = True
        colours.append(np.average(lab[near], axis=0, weights=left[near]))
        weights.append(left[near].sum())
        left[near] = 0
    return np.array(colours).reshape(-1, 3), np.array(weights)


def _without_dirt(colours: np.ndarray, weights: np.ndarray, least: float) -> tuple[np.ndarray, np.ndarray]:
    """Without what is too little to be a colour: next to nothing at all, a shade of a larger one that compression or
    noise has made, or a mixture of two at their edges."""
    whole = weights.sum()
    keep = (weights >= LEAST_SHARE * whole) & (weights >= min(least, weights.max()))
    rgb = to_rgb(colours)
    for k in np.argsort(weights):
        share = weights[k] / whole
        larger = np.flatnonzero(keep & (weights > SHADE_TIMES * weights[k]))
        if not keep[k] or share > SHADE_SHARE or not len(larger):
            continue
        if np.linalg.norm(colours[larger] - colours[k], axis=1).min() < SHADE_REACH or (
            share < MIXTURE_SHARE and _is_mixture(rgb[k], rgb[larger])
        ):
            keep[k] = False
    return colours[keep], weights[keep]


def _with_lines(rgb: np.ndarray, colours: np.ndarray, weights: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """An even ground's colour, and that of lines too thin to be flat anywhere: what lies farthest off the ground."""
    step = max(int(np.sqrt(rgb.shape[0] * rgb.shape[1] / LOOKED_AT)), 1)
    lab = to_lab(rgb[::step, ::step].reshape(-1, 3) / 255.0)
    off = np.linalg.norm(lab - colours[0], axis=1)
    line = off > LINES_OFF
    if np.count_nonzero(line) < LEAST_PIXELS:
        return colours, weights
    farthest = line & (off >= np.quantile(off[line], 1 - LINES_SHARE))
    return np.vstack([colours, lab[farthest].mean(axis=0)]), np.append(weights, np.count_nonzero(farthest))


def _is_mixture(colour: np.ndarray, others: np.ndarray) -> bool:
    """Whether a colour lies between two others, as at an edge of theirs."""
    a, b = others[:, None], others[None]
    along = b - a
    size = (along**2).sum(axis=2)
    t = ((colour - a) * along).sum(axis=2) / np.where(size > 0, size, 1)
    off = np.linalg.norm(a + t[..., None] * along - colour, axis=2)
    return bool(((t > 0.15) & (t < 0.85) & (off < 0.04) & (size > 0)).any())


def _nearest_joined(colours: np.ndarray, weights: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The two whose joining moves pixels least (Ward 1963) become one."""
    apart = ((colours[:, None] - colours[None]) ** 2).sum(axis=2)
    cost = apart * weights[:, None] * weights[None] / (weights[:, None] + weights[None])
    cost[np.arange(len(colours)), np.arange(len(colours))] = np.inf
    i, j = sorted(np.unravel_index(cost.argmin(), cost.shape))
    whole = weights[i] + weights[j]
    colours, weights = colours.copy(), weights.copy()
    colours[i] = (colours[i] * weights[i] + colours[j] * weights[j]) / whole
    weights[i] = whole
    return np.delete(colours, j, axis=0), np.delete(weights, j)


def _split(
    lab: np.ndarray, pixels: np.ndarray, colours: np.ndarray, weights: np.ndarray
) -> tuple[np.ndarray, np.ndarray] | None:
    """One colour more: where pixels lie farthest from their colours on the whole; None where all are met."""
    apart, own = _nearest(lab, colours)
    worst = int(np.bincount(own, apart**2 * pixels, len(colours)).argmax())
    mine, heavy = lab[own == worst], pixels[own == worst]
    if len(mine) < 2 or apart[own == worst].max() < 0.5:
        return None
    middle = np.average(mine, axis=0, weights=heavy)
    axis = np.linalg.svd((mine - middle) * np.sqrt(heavy)[:, None], full_matrices=False)[2][0]
    one = (mine - middle) @ axis < 0
    if one.all() or not one.any():
        return None
    halves = [np.average(mine[part], axis=0, weights=heavy[part]) for part in (one, ~one)]
    colours = np.vstack([np.delete(colours, worst, axis=0), *halves])
    return colours, np.append(np.delete(weights, worst), [heavy[one].sum(), heavy[~one].sum()])


def _merge_peaks(lab: np.ndarray, pixels: np.ndarray, colours: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Each colour moved to the middle of the pixels nearest to it (Lloyd 1982), of those near enough not to be dirt."""
    weights = np.zeros(len(colours))
    for _ in range(3):
        apart, own = _nearest(lab, colours)
        weights = np.bincount(own, pixels, len(colours))
        near = np.where(apart < REACH, pixels, 0.0)
        some = np.bincount(own, near, len(colours))
        moved = np.stack([np.bincount(own, near * lab[:, i], len(colours)) for i in range(3)], axis=1)
        colours = np.where(some[:, None] > 0, moved / np.maximum(some, 1)[:, None], colours)
    return colours, weights


def _nearest(lab: np.ndarray, colours: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    from scipy.spatial import KDTree

    apart, which = KDTree(colours).query(lab)
    return np.asarray(apart), np.asarray(which)
