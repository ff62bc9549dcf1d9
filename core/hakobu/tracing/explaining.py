"""Borders of a compressed picture, moved to where they explain its blocks best.

What compression leaves out shows as waves along borders, and moves what is summed up pixel by pixel. So the picture is
drawn anew from its borders; what moving each node and handle changes in the coefficients that were kept is set against
what they differ by, each counted as exactly as its step tells, and all are moved at once (least squares; twice, since
they are not quite straight-lined: Gauss and Newton).
"""

from __future__ import annotations

import numpy as np

from ..geometry import Path, transform
from .compression import SIDE, Plane, reduced, tiles, transformed
from .handles import Chords, chords_of, handles_of, moved
from .labels import Labelled

#: How far nodes and handles may be off (one standard deviation), and how far they are moved, in pixels.
OFF_PX, FARTHEST_PX = 0.2, 1.0
#: What a coefficient is off by (one standard deviation) for its step, and at least: pixels are whole numbers.
PER_STEP, LEAST_OFF = 12**-0.5, 1.5
#: What the palette's colours are off by, of 255.
COLOUR_OFF = 1.5
TURNS = 2
#: Within this of a rim, in pixels, a node is on it.
AT_RIM = 1e-6


def explained(path: Path, about: np.ndarray, ends: np.ndarray, seen: Labelled, matrix: tuple) -> Path:
    """The path with its nodes and handles moved. about (C, 6): the labels on the right and left of each of its
    outlines; ends (C, 2): as for handles_of; matrix takes pixels to what the path is measured in."""
    a, b, c, d, e, f = matrix
    turn = np.array([[a, b], [c, d]])
    back = np.linalg.inv(turn)
    inverse = np.column_stack([back.T, -(np.array([e, f]) @ back)])
    outside = np.vstack([seen.kept.colours, np.zeros(3)])
    steps = np.ascontiguousarray(outside[about[:, 1]] - outside[about[:, 0]])
    total = 0.0
    now = path
    for _ in range(TURNS):
        own = transform(now, inverse)
        handles = handles_of(own, ends)
        chords, places, start = chords_of(own, handles)
        free = _free(own, handles, about, seen.labels.shape)
        left, right = _equations(chords, steps, _drawn(places, start, steps, seen.labels.shape), seen, free)
        right[: handles.size] -= OFF_PX**-2 * total
        move = _solved(left, right)[: handles.size]
        total = np.clip(total + move, -FARTHEST_PX, FARTHEST_PX) * free
        now = moved(path, handles_of(transform(path, inverse), ends), total, turn)
    return now


def _free(path: Path, handles, about: np.ndarray, shape: tuple[int, int]) -> np.ndarray:
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


def _equations(chords: Chords, steps: np.ndarray, drawn: np.ndarray, seen: Labelled, free: np.ndarray):
    """What moves with what (N, N), sparse, and what the differences ask for (N,), summed over all planes: of what
    moves the path, and then of the colours in each plane."""
    from scipy.sparse import csr_array, diags_array

    kept = seen.kept
    count = len(kept.colours)
    prior = np.concatenate([np.full(len(free), OFF_PX**-2), np.full(3 * count, COLOUR_OFF**-2)])
    left, right = diags_array(prior), np.zeros(len(prior))
    for k, plane in enumerate(kept.planes):
        known = np.flatnonzero(np.isfinite(plane.step.ravel()))
        if not len(known):
            continue
        off = np.hypot(plane.step.ravel()[known] * PER_STEP, LEAST_OFF)
        mover, block, image = footprints(chords, plane, steps[:, k], free, kept.origin)
        used, row = np.unique(block, return_inverse=True)
        rest = plane.pixels - reduced(drawn[..., k], plane.scale, kept.origin)
        values, rows, columns = [image], [row], [mover]
        for label in range(count):
            area = tiles(reduced(seen.labels == label, plane.scale, kept.origin))[used]
            there = np.flatnonzero(area.any(axis=(1, 2)))
            values.append(area[there])
            rows.append(there)
            columns.append(np.full(len(there), len(free) + k * count + label))
        value = transformed(np.concatenate(values)).reshape(-1, SIDE * SIDE)[:, known] / off
        row = np.concatenate(rows)[:, None] * len(known) + np.arange(len(known))
        column = np.repeat(np.concatenate(columns), len(known))
        matrix = csr_array((value.ravel(), (row.ravel(), column)), (len(used) * len(known), len(prior)))
        differ = transformed(tiles(rest)[used]).reshape(-1, SIDE * SIDE)[:, known] / off
        left = left + matrix.T @ matrix
        right += matrix.T @ differ.ravel()
    return left, right


def footprints(chords: Chords, plane: Plane, steps: np.ndarray, free: np.ndarray, origin: tuple[int, int]) -> tuple:
    """What each mover, moved by a pixel, changes in the blocks of a plane: mover and block (M,), and the changes
    (M, 8, 8). steps (C,): what the plane changes by across each border."""
    across = plane.pixels.shape[1] // SIDE
    blocks = across * (plane.pixels.shape[0] // SIDE)
    inset = np.array(origin) % (SIDE * plane.scale)
    x, y = ((chords.middle + inset) / plane.scale).astype(int).T
    x, y = np.clip(x, 0, plane.pixels.shape[1] - 1), np.clip(y, 0, plane.pixels.shape[0] - 1)
    size = chords.by * (chords.right * steps[chords.border] / plane.scale**2)[:, None]
    counts = free[chords.mover] & (size != 0)
    key = (chords.mover * blocks + (y // SIDE * across + x // SIDE)[:, None])[counts]
    pixel = np.broadcast_to((y % SIDE * SIDE + x % SIDE)[:, None], counts.shape)[counts]
    both, index = np.unique(key, return_inverse=True)
    image = np.bincount(index * SIDE * SIDE + pixel, size[counts], len(both) * SIDE * SIDE)
    return both // blocks, both % blocks, image.reshape(-1, SIDE, SIDE)


def _solved(left, right: np.ndarray) -> np.ndarray:
    from scipy.sparse.linalg import spsolve

    return spsolve(left.tocsc(), right)
