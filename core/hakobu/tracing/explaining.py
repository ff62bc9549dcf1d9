"""Borders of a compressed picture, moved to where they explain its blocks best.

What compression leaves out shows as waves along borders, and moves what is summed up pixel by pixel. So the picture is
drawn anew from its borders; what moving each node and handle changes in the coefficients that were kept is set against
what they differ by, each counted as exactly as its step tells, and all are moved at once (least squares).
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..geometry import Path, transform
from ..geometry.affine import similarity_sign
from .compression import SIDE, Plane, blocks_of, padded, pixels_of, reduced, transformed
from .handles import Chords, Handles, chords_of, handles_of, moved
from .labels import Labelled

#: How far nodes and handles may be off (one standard deviation), and how far they are moved, in pixels.
OFF_PX, FARTHEST_PX = 0.2, 1.0
#: What a coefficient is off by (one standard deviation) for its step, and at least: pixels are whole numbers.
PER_STEP, LEAST_OFF = 12**-0.5, 1.5
#: What the palette's colours are off by, of 255.
COLOUR_OFF = 1.5
#: A block that is off by more than so many times what it may be counts less.
UNEXPLAINED = 2.0
#: More short parts of borders than this are those of a photo, and would take seconds.
MOST_CHORDS = 400_000
#: Within this of a rim, in pixels, a node is on it.
AT_RIM = 1e-6


def explained(path: Path, about: np.ndarray, ends: np.ndarray, seen: Labelled, matrix: tuple) -> Path:
    """The path with its nodes and handles moved. about (C, 6): the labels on the right and left of each of its
    outlines; ends (C, 2): as for handles_of; matrix takes pixels to what the path is measured in. The same where
    pixels are not square, and where there are so many borders that it is no drawing of flat colours."""
    a, b, c, d, e, f = matrix
    turn = np.array([[a, b], [c, d]])
    back = np.linalg.inv(turn)
    if not similarity_sign(back):
        return path
    inverse = np.column_stack([back.T, -(np.array([e, f]) @ back)])
    outside = np.vstack([seen.kept.colours, np.zeros(3)])
    steps = np.ascontiguousarray(outside[about[:, 1]] - outside[about[:, 0]])
    own = transform(path, inverse)
    handles = handles_of(own, ends)
    chords, places, start = chords_of(own, handles)
    if len(chords.middle) > MOST_CHORDS:
        return path
    free = _free(own, handles, about, seen.labels.shape)
    move = _solved(chords, steps, _drawn(places, start, steps, seen.labels.shape), seen, free)
    return moved(path, handles, np.clip(move, -FARTHEST_PX, FARTHEST_PX), turn)


def _free(path: Path, handles: Handles, about: np.ndarray, shape: tuple[int, int]) -> np.ndarray:
    """Which of what moves a path may: what lies on the picture's rim stays there."""
    height, width = shape
    free = np.ones((handles.count, 2), bool)
    for k in range(2):
        at = path.ctrl[:, 3 * k]
        for axis, size in enumerate((width, height)):
            rim = (np.abs(at[:, axis]) < AT_RIM) | (np.abs(at[:, axis] - size) < AT_RIM)
            free[handles.node[rim, k], axis] = False
    outer = (about[:, :2] < 0).any(axis=1)[path.outline_of]
    return np.concatenate([free.ravel(), np.repeat(~outer, 2)])


def _drawn(places: np.ndarray, start: np.ndarray, steps: np.ndarray, shape: tuple[int, int]) -> np.ndarray:
    from .kernels.drawing import draw

    picture = np.zeros((shape[0], shape[1] + 1, 3), np.float32)
    draw(places, start, steps, picture)
    return picture[:, :-1]


@dataclass(frozen=True)
class _Asked:
    """What the blocks of a plane ask for: begin (B+1,): the changes of each; unknown (M,), which of all unknowns each
    is of, and what one of it changes (M, K); differ (B, K): what is to be explained."""

    begin: np.ndarray
    unknown: np.ndarray
    changes: np.ndarray
    differ: np.ndarray

    def left(self, found: np.ndarray) -> np.ndarray:
        """What each block's coefficients are off by once the unknowns are these, on average (B,): one, where all is
        explained."""
        told = np.add.reduceat(self.changes * found[self.unknown, None].astype(np.float32), self.begin[:-1])
        return np.sqrt(((self.differ - told) ** 2).mean(axis=1))

    def weighed(self, weight: np.ndarray) -> _Asked:
        own = np.repeat(weight, np.diff(self.begin))[:, None]
        return replace(self, changes=self.changes * own, differ=self.differ * weight[:, None])


def _solved(chords: Chords, steps: np.ndarray, drawn: np.ndarray, seen: Labelled, free: np.ndarray) -> np.ndarray:
    """How far each of what moves the path goes (N,), from what all planes ask for; what the colours of the labels are
    off by in each plane is found with it. What stays unexplained, as dust on a border, then counts less."""
    count = len(seen.kept.colours)
    prior = np.concatenate([np.full(len(free), OFF_PX**-2), np.full(3 * count, COLOUR_OFF**-2)])
    asked = [
        _asked(chords, plane, steps[:, k], drawn[..., k], seen, free, len(free) + k * count)
        for k, plane in enumerate(seen.kept.planes)
        if np.isfinite(plane.step).any()
    ]
    asked = [plane for plane in asked if len(plane.differ)]
    found = _least_squares(asked, prior)
    weighed = [plane.weighed(_weight(plane.left(found))) for plane in asked]
    return _least_squares(weighed, prior)[: len(free)]


def _weight(off: np.ndarray) -> np.ndarray:
    return np.minimum(1, UNEXPLAINED / np.maximum(off, 1e-9)).astype(np.float32)


def _least_squares(asked: list[_Asked], prior: np.ndarray) -> np.ndarray:
    from scipy.sparse import coo_array, diags_array
    from scipy.sparse.linalg import spsolve

    from .kernels.normal import normal_equations

    together, wanted = diags_array(prior), np.zeros(len(prior))
    for plane in asked:
        rows, columns, values = normal_equations(plane.begin, plane.unknown, plane.changes, plane.differ, wanted)
        together = together + coo_array((values, (rows, columns)), (len(prior), len(prior)))
    return spsolve(together.tocsc(), wanted)


def _asked(
    chords: Chords, plane: Plane, steps: np.ndarray, drawn: np.ndarray, seen: Labelled, free: np.ndarray, first: int
) -> _Asked:
    """first: the unknown that is the first label's colour in this plane."""
    origin, scale = seen.kept.origin, plane.scale
    mover, block, image = footprints(chords, plane, steps, free, origin)
    used, row = np.unique(block, return_inverse=True)
    label, where, area = _areas(padded(seen.labels, scale, origin), scale, used, len(seen.kept.colours))
    differ = blocks_of(plane.pixels, 1, used) - blocks_of(padded(drawn, scale, origin), scale, used)
    every = np.concatenate([row, where])
    order = np.argsort(every, kind="stable")
    return _Asked(
        np.concatenate([[0], np.cumsum(np.bincount(every, minlength=len(used)))]),
        np.concatenate([mover, first + label])[order],
        _weighted(np.concatenate([image, area])[order], plane),
        _weighted(differ, plane),
    )


def _weighted(blocks: np.ndarray, plane: Plane) -> np.ndarray:
    """The coefficients (B, K) of blocks whose steps are known, in what each may be off by."""
    known = np.flatnonzero(np.isfinite(plane.step))
    off = np.hypot(plane.step[known] * PER_STEP, LEAST_OFF)
    return np.ascontiguousarray(transformed(blocks)[:, known] / off, np.float32)


def _areas(labels: np.ndarray, scale: int, used: np.ndarray, count: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Which labels are in which of the blocks that are used (M,), and how much of their pixels they cover (M, 8, 8)."""
    own = pixels_of(labels, scale, used).reshape(len(used), -1)
    there = [np.flatnonzero((own == label).any(axis=1)) for label in range(count)]
    label, where = np.repeat(np.arange(count), [len(at) for at in there]), np.concatenate(there)
    side = SIDE * scale
    return label, where, reduced((own[where] == label[:, None]).reshape(-1, side, side), scale)


def footprints(chords: Chords, plane: Plane, steps: np.ndarray, free: np.ndarray, origin: tuple[int, int]) -> tuple:
    """What each mover, moved by a pixel, changes in the blocks of a plane: mover and block (M,), and the changes
    (M, 8, 8). steps (C,): what the plane changes by across each border."""
    across = plane.pixels.shape[1] // SIDE
    blocks = across * (plane.pixels.shape[0] // SIDE)
    inset = np.array(origin) % (SIDE * plane.scale)
    x, y = ((chords.middle + inset) / plane.scale).astype(int).T
    x, y = np.clip(x, 0, plane.pixels.shape[1] - 1), np.clip(y, 0, plane.pixels.shape[0] - 1)
    size = chords.by * (chords.long * steps[chords.border] / plane.scale**2)[:, None]
    counts = free[chords.mover] & (size != 0)
    key = (chords.mover * blocks + (y // SIDE * across + x // SIDE)[:, None])[counts]
    pixel = np.broadcast_to((y % SIDE * SIDE + x % SIDE)[:, None], counts.shape)[counts]
    both, index = np.unique(key, return_inverse=True)
    image = np.bincount(index * SIDE * SIDE + pixel, size[counts], len(both) * SIDE * SIDE)
    return both // blocks, both % blocks, image.reshape(-1, SIDE, SIDE)
