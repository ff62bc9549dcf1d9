"""Borders of a compressed picture, moved to where they explain its blocks best.

What compression leaves out shows as waves along borders, and moves what is summed up pixel by pixel. So the picture is
drawn anew from its borders; what moving each node and handle changes in the coefficients that were kept is set against
what they differ by, each counted as exactly as its step tells, and all are moved at once (least squares).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from ..geometry import Path, transform
from ..geometry.affine import similarity_sign
from .bevels import Sharp, Shown, areas_of, bevelled, sharp_corners
from .compression import SIDE, Kept, Plane, blocks_of, cosines, padded, pixels_of, reduced
from .handles import Chords, Handles, chords_of, handles_of, moved

if TYPE_CHECKING:
    from scipy.sparse import csc_array

#: How far nodes and handles may be off (one standard deviation), and how far they are moved, in pixels.
OFF_PX, FARTHEST_PX = 0.2, 1.0
#: What a coefficient is off by (one standard deviation) for its step, and at least: pixels are whole numbers.
PER_STEP, LEAST_OFF = 12**-0.5, 1.5
#: What the palette's colours are off by, of 255.
COLOUR_OFF = 1.5
#: A block that is off by more than so many times what it may be counts less.
UNEXPLAINED = 2.0
#: Where half of all blocks stay off by more than so many times what they may, it is no drawing of flat colours.
UNLIKE = 2.2
#: More short parts of borders than this are those of a photo, and would take seconds.
MOST_CHORDS = 400_000
#: What moves borders meets within blocks: where more pairs do, they are grain, and would take half a minute.
MOST_PAIRS = 3_000_000
#: Within this of a rim, in pixels, a node is on it.
AT_RIM = 1e-6


def explained(
    path: Path,
    ends: np.ndarray,
    steps: np.ndarray,
    fixed: np.ndarray,
    labels: np.ndarray,
    kept: Kept,
    matrix: tuple,
    bevels: bool = False,
) -> Path:
    """The path with its nodes and handles moved. ends (C, 2): as for handles_of; steps (C, P): what each plane changes
    by from the right of each outline to its left; fixed (C,): outlines that keep their shape; labels (H, W): which of
    the kept colours each pixel is of; matrix takes pixels to what the path is measured in; bevels: whether sharp
    corners are cut off where the blocks show it. The same where pixels are not square, and where it is no drawing of
    flat colours: there are very many borders, very many in a block, or most blocks stay unexplained."""
    a, b, c, d, e, f = matrix
    turn = np.array([[a, b], [c, d]])
    back = np.linalg.inv(turn)
    if not similarity_sign(back):
        return path
    inverse = np.column_stack([back.T, -(np.array([e, f]) @ back)])
    own = transform(path, inverse)
    handles = handles_of(own, ends)
    chords, places, start = chords_of(own, handles)
    if len(chords.middle) > MOST_CHORDS:
        return path
    steps = np.ascontiguousarray(steps, np.float64)
    drawn = _drawn(places, start, steps, labels.shape, kept)
    corners = sharp_corners(own) if bevels else None
    move, deep = _solved(chords, steps, drawn, labels, kept, _free(own, handles, fixed, labels.shape), corners)
    if move is None:
        return path
    path = moved(path, handles, np.clip(move, -FARTHEST_PX, FARTHEST_PX), turn)
    return path if deep is None else bevelled(path, corners, deep * abs(np.linalg.det(turn)) ** 0.5)


def _free(path: Path, handles: Handles, fixed: np.ndarray, shape: tuple[int, int]) -> np.ndarray:
    """Which of what moves a path may: what lies on the picture's rim stays there."""
    height, width = shape
    free = np.ones((handles.count, 2), bool)
    for k in range(2):
        at = path.ctrl[:, 3 * k]
        for axis, size in enumerate((width, height)):
            rim = (np.abs(at[:, axis]) < AT_RIM) | (np.abs(at[:, axis] - size) < AT_RIM)
            free[handles.node[rim, k], axis] = False
    inner = ~fixed[path.outline_of]
    turns = np.zeros(handles.tangents, bool)
    turns[handles.tangent[inner[:, None] & (handles.tangent >= 0)]] = True
    return np.concatenate([free.ravel(), np.repeat(inner, 2), turns])


def _drawn(places: np.ndarray, start: np.ndarray, steps: np.ndarray, shape: tuple[int, int], kept: Kept) -> np.ndarray:
    from .kernels.drawing import draw

    picture = np.zeros((shape[0], shape[1] + 1, steps.shape[1]), np.float32)
    draw(places, start, steps, picture)
    picture = np.ascontiguousarray(picture[:, :-1])
    picture += kept.beneath.astype(np.float32)
    if kept.blur:
        import cv2

        picture = cv2.GaussianBlur(picture, (0, 0), kept.blur, borderType=cv2.BORDER_REPLICATE)
    return picture.reshape(*shape, -1)


@dataclass(frozen=True)
class _Asked:
    """What the blocks of a plane ask for: block (B,): their numbers; begin (B+1,): the changes of each; unknown (M,),
    which of all unknowns each is of, and what one of it changes (M, K); differ (B, K): what is to be explained; weight
    (B,): how much each counts."""

    block: np.ndarray
    begin: np.ndarray
    unknown: np.ndarray
    changes: np.ndarray
    differ: np.ndarray
    weight: np.ndarray

    @property
    def pairs(self) -> int:
        """How many pairs of unknowns have a block in common, counted in each."""
        return int((np.diff(self.begin) ** 2).sum())

    def left(self, found: np.ndarray) -> np.ndarray:
        """What each block's coefficients are off by once the unknowns are these, on average (B,): one, where all is
        explained."""
        from .kernels.footprints import left_over

        return left_over(self.begin, self.unknown, self.changes, self.differ, found.astype(np.float32))

    def weighed(self, weight: np.ndarray) -> _Asked:
        own = np.repeat(weight, np.diff(self.begin))[:, None]
        return replace(self, changes=self.changes * own, differ=self.differ * weight[:, None], weight=weight)


def _solved(
    chords: Chords,
    steps: np.ndarray,
    drawn: np.ndarray,
    labels: np.ndarray,
    kept: Kept,
    free: np.ndarray,
    corners: Sharp | None,
) -> tuple[np.ndarray | None, np.ndarray | None]:
    """How far each of what moves the path goes (N,), from what all planes ask for; what the colours of the labels are
    off by in each plane is found with it. What stays unexplained, as dust on a border, then counts less; None where
    most does, and where it would take too long. And how deep corners are cut off (K,), in pixels."""
    count = len(kept.colours)
    prior = np.concatenate([np.full(len(free), OFF_PX**-2), np.full(len(kept.planes) * count, COLOUR_OFF**-2)])
    every = {
        k: _asked(chords, plane, steps[:, k], drawn[..., k], labels, kept, free, len(free) + k * count)
        for k, plane in enumerate(kept.planes)
        if np.isfinite(plane.step).any()
    }
    planes = [k for k, plane in every.items() if len(plane.differ)]
    asked = [every[k] for k in planes]
    if sum(plane.pairs for plane in asked) > MOST_PAIRS:
        return None, None
    found, together = _least_squares(asked, prior)
    left = [plane.left(found) for plane in asked]
    level = max(float(np.median(np.concatenate(left))), 1.0) if left else 1.0
    if level > UNLIKE:
        return None, None
    if any((own > UNEXPLAINED).any() for own in left):
        asked = [plane.weighed(_weight(own)) for plane, own in zip(asked, left, strict=True)]
        found, together = _least_squares(asked, prior)
    if corners is None or not asked or not len(corners.segment):
        return found[: len(free)], None
    shown = [
        _shown(corners, kept.planes[k], steps[:, k], kept, plane, found) for k, plane in zip(planes, asked, strict=True)
    ]
    area, change = areas_of([_of_all(each) for each in zip(*shown, strict=True)], together, len(free), level)
    return (found + change)[: len(free)], corners.deep(area)


def _shown(
    corners: Sharp, plane: Plane, steps: np.ndarray, kept: Kept, asked: _Asked, found: np.ndarray
) -> list[Shown]:
    """What a plane's blocks show of each corner's bevel, once the unknowns are found."""
    corner, block, image = footprints(corners.chords(), plane, steps, np.ones(len(corners.segment), bool), kept.origin)
    known, weight = _known(plane)
    every = _weighed(image, known, weight, kept.blur / plane.scale)
    shown = [Shown(0.0, 0.0, np.zeros(0, np.int64), np.zeros(0))] * len(corners.segment)
    for k, number, bevel in zip(corner, block, every, strict=True):
        row = int(np.searchsorted(asked.block, number))
        if row == len(asked.block) or asked.block[row] != number:
            continue
        rows = slice(asked.begin[row], asked.begin[row + 1])
        unknown, changes = asked.unknown[rows], asked.changes[rows]
        bevel = bevel * asked.weight[row]
        off = asked.differ[row] - found[unknown] @ changes
        shown[k] = Shown(float(bevel @ off), float(bevel @ bevel), unknown, changes @ bevel)
    return shown


def _of_all(shown: tuple[Shown, ...]) -> Shown:
    """What several planes show of one corner."""
    unknown, by = (np.concatenate([getattr(each, name) for each in shown]) for name in ("unknown", "by"))
    return Shown(sum(each.explains for each in shown), sum(each.whole for each in shown), unknown, by)


def _weight(off: np.ndarray) -> np.ndarray:
    return np.minimum(1, UNEXPLAINED / np.maximum(off, 1e-9)).astype(np.float32)


def _least_squares(asked: list[_Asked], prior: np.ndarray) -> tuple[np.ndarray, csc_array]:
    """All unknowns, and the normal equations' matrix that they are found by."""
    from scipy.sparse import coo_array, diags_array
    from scipy.sparse.linalg import splu

    from .kernels.normal import normal_equations

    together, wanted = diags_array(prior), np.zeros(len(prior))
    for plane in asked:
        rows, columns, values = normal_equations(plane.begin, plane.unknown, plane.changes, plane.differ, wanted)
        together = together + coo_array((values, (rows, columns)), (len(prior), len(prior)))
    together = together.tocsc()
    # What the prior adds makes it positive definite: it is ordered as what it is, symmetric, and needs no pivots.
    found = splu(together, "MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options={"SymmetricMode": True}).solve(wanted)
    return found, together


def _asked(
    chords: Chords,
    plane: Plane,
    steps: np.ndarray,
    drawn: np.ndarray,
    labels: np.ndarray,
    kept: Kept,
    free: np.ndarray,
    first: int,
) -> _Asked:
    """first: the unknown that is the first label's colour in this plane."""
    origin, scale = kept.origin, plane.scale
    mover, block, image = footprints(chords, plane, steps, free, origin)
    used, row = np.unique(block, return_inverse=True)
    label, where, area = _areas(padded(labels, scale, origin), scale, used, len(kept.colours))
    differ = blocks_of(plane.pixels, 1, used) - blocks_of(padded(drawn, scale, origin), scale, used)
    every = np.concatenate([row, where])
    order = np.argsort(every, kind="stable")
    known, weight = _known(plane)
    changes = [_weighed(image, known, weight, kept.blur / scale), _weighed(area, known, weight)]
    return _Asked(
        used,
        np.concatenate([[0], np.cumsum(np.bincount(every, minlength=len(used)))]),
        np.concatenate([mover, first + label])[order],
        np.concatenate(changes)[order],
        _weighed(differ, known, weight),
        np.ones(len(used), np.float32),
    )


def _known(plane: Plane) -> tuple[np.ndarray, np.ndarray]:
    """The coefficients of a plane whose steps are known, and what each counts: by what it may be off."""
    known = np.flatnonzero(np.isfinite(plane.step))
    return known, 1 / np.hypot(plane.step[known] * PER_STEP, LEAST_OFF)


def _weighed(blocks: np.ndarray, known: np.ndarray, weight: np.ndarray, blur_px: float = 0.0) -> np.ndarray:
    """The coefficients (B, K) of blocks whose steps are known, in what each may be off by; of blocks that are blurred
    before, if they are to be."""
    return blocks.reshape(len(blocks), -1) @ np.ascontiguousarray(cosines(blur_px)[:, known] * weight, np.float32)


def _areas(labels: np.ndarray, scale: int, used: np.ndarray, count: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Which labels are in which of the blocks that are used (M,), and how much of their pixels they cover (M, 8, 8)."""
    own = pixels_of(labels, scale, used).reshape(len(used), -1)
    there = [np.flatnonzero((own == label).any(axis=1)) for label in range(count)]
    label, where = np.repeat(np.arange(count), [len(at) for at in there]), np.concatenate(there)
    side = SIDE * scale
    return label, where, reduced((own[where] == label[:, None]).reshape(-1, side, side), scale)


def footprints(chords: Chords, plane: Plane, steps: np.ndarray, free: np.ndarray, origin: tuple[int, int]) -> tuple:
    """What each mover, moved by a pixel, changes in the blocks of a plane: mover and block (M,), and the changes
    (M, 64). steps (C,): what the plane changes by across each border."""
    from .kernels.footprints import footprint_sums

    down, across = (size // SIDE for size in plane.pixels.shape)
    x, y = (float(own % (SIDE * plane.scale)) for own in origin)
    change = chords.long * steps[chords.border] / plane.scale**2
    return footprint_sums(chords.middle, change, chords.mover, chords.by, free, across, down, float(plane.scale), x, y)
