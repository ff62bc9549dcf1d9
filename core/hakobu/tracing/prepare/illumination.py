"""Light that falls unevenly on a sheet: told by a smooth surface over its paper, and taken out square by square.

A pixel is what the sheet reflects times the light on it, so dividing by the light puts paper and ink right alike; a
threshold on the result is one that follows the light (adaptive).
"""

from __future__ import annotations

import numpy as np

#: The picture is looked at in about so many squares along its longer side; paper is the light end of each.
SQUARES, PAPER_QUANTILE = 48, 0.85
#: The surface is a polynomial of this degree; squares darker than it by more than this share hold no paper.
DEGREE, INK_SHARE, ROUNDS = 4, 0.06, 12
#: Light is uneven where it differs over the sheet by more than this share of its most (common practice).
UNEVEN = 0.15
#: No place is lit less than this share of the best.
LEAST_LIGHT = 0.08
#: So light squares are surely paper; a square beside paper is that as well where it is no darker than by this share. A
#: shadow's edge is wider than a few squares.
LIGHTEST, STEP_SHARE = 0.75, 0.85
#: Between paper light is levelled so often, and in the end smoothed over so many squares.
SMOOTH_ROUNDS, SMOOTH_SQUARES = 400, 0.8


def light_of(grey: np.ndarray) -> np.ndarray:
    """The light on each square of a picture (H, W) float32, (R, C): a surface of the whole picture's proportions."""
    values = _squares(grey)
    rows, columns = (np.linspace(-1, 1, n) if n > 1 else np.zeros(1) for n in values.shape)
    terms = _terms(*np.meshgrid(rows, columns, indexing="ij"))
    flat = values.ravel()
    paper = flat >= np.quantile(flat, 0.4)
    for _ in range(ROUNDS):
        few = terms[:, : _count_for(int(np.count_nonzero(paper)))]
        surface = few @ np.linalg.lstsq(few[paper], flat[paper], rcond=None)[0]
        again = flat > surface * (1 - INK_SHARE)
        if np.array_equal(again, paper) or np.count_nonzero(again) < 6:
            break
        paper = again
    surface = surface.reshape(values.shape)
    return np.clip(surface, LEAST_LIGHT * surface.max(), None)


def unevenness(grey: np.ndarray) -> float:
    """By which share of its most the light differs over the sheet, from 0 to 1."""
    light = light_of(grey)
    return float(1 - light.min() / light.max())


def flat_field_corrected(rgb: np.ndarray) -> np.ndarray:
    """The picture rgb (H, W, 3) uint8 as it would look in the best of its light everywhere."""
    import cv2

    grey = rgb.astype(np.float32).mean(axis=2) / 255
    light = paper_light(_squares(grey)).astype(np.float32)
    gain = cv2.resize(light.max() / light, grey.shape[::-1], interpolation=cv2.INTER_CUBIC)
    return np.clip(rgb * gain[..., None] + 0.5, 0, 255).astype(np.uint8)


def paper_light(squares: np.ndarray) -> np.ndarray:
    """The light on each square (R, C), from the light ends of all: light changes little from a square to the next, ink
    much. From the lightest squares on those are paper that are hardly darker than one beside them; between them light
    is as smooth as can be (harmonic)."""
    from scipy.ndimage import distance_transform_edt, gaussian_filter, uniform_filter

    paper = squares >= np.quantile(squares, LIGHTEST)
    while True:
        beside = _lightest_beside(np.where(paper, squares, 0.0))
        more = paper | ((beside > 0) & (squares >= STEP_SHARE * beside))
        if np.array_equal(more, paper):
            break
        paper = more
    nearest = np.asarray(distance_transform_edt(~paper, return_distances=False, return_indices=True))
    light = squares[nearest[0], nearest[1]]
    for _ in range(SMOOTH_ROUNDS if not paper.all() else 0):
        light = np.where(paper, squares, uniform_filter(light, 3, mode="nearest"))
    light = gaussian_filter(light, SMOOTH_SQUARES, mode="nearest")
    return np.clip(light, LEAST_LIGHT * light.max(), None)


def _lightest_beside(values: np.ndarray) -> np.ndarray:
    """The lightest of the four squares beside each."""
    wide = np.pad(values, 1)
    return np.maximum.reduce([wide[:-2, 1:-1], wide[2:, 1:-1], wide[1:-1, :-2], wide[1:-1, 2:]])


def _squares(grey: np.ndarray) -> np.ndarray:
    """The light end of each square's pixels."""
    height, width = grey.shape
    side = max(max(height, width) // SQUARES, 1)
    rows, columns = max(height // side, 1), max(width // side, 1)
    side_y, side_x = height // rows, width // columns
    # A few pixels of each square tell as much as all of them.
    step_y, step_x = max(side_y // 8, 1), max(side_x // 8, 1)
    cut = grey[: rows * side_y, : columns * side_x].reshape(rows, side_y, columns, side_x)[:, ::step_y, :, ::step_x]
    return np.quantile(cut.transpose(0, 2, 1, 3).reshape(rows, columns, -1), PAPER_QUANTILE, axis=2)


def _terms(y: np.ndarray, x: np.ndarray) -> np.ndarray:
    """The products of powers of x and y, those of low degree first, (N, T)."""
    powers = [(d - k, k) for d in range(DEGREE + 1) for k in range(d + 1)]
    return np.stack([(x**i * y**k).ravel() for i, k in powers], axis=1)


def _count_for(squares: int) -> int:
    """How many terms so many squares can tell: whole degrees only."""
    degree = DEGREE
    while degree > 0 and squares < 4 * (degree + 1) * (degree + 2) // 2:
        degree -= 1
    return (degree + 1) * (degree + 2) // 2
