"""Strokes that cut on past their start, seen as the closed outlines that they cut."""

from __future__ import annotations

import numpy as np

from ..geometry import Path, flatten

#: A stroke closes where it comes back within this of where its outline began, in mm: twice a machine's step.
NEAR_MM = 0.05
#: Strokes are looked at in chords this near to them, in mm.
CHORD_MM = 0.002


def closed_again(strokes: Path, lead_mm: float = 0.0) -> Path:
    """The strokes, of which those that come back to where they began are closed there, without what lies before and
    behind; open ones stay. lead_mm: how far before its outline a stroke may begin."""
    made: list[Path] = []
    chords = flatten(strokes, CHORD_MM)
    for k, stroke in enumerate(strokes.outlines()):
        if stroke.closed[0]:
            made.append(stroke)
            continue
        points = chords.outline(k)
        ring = next((found for lead in {0.0, lead_mm / 2, lead_mm} if (found := _ring(points, lead)) is not None), None)
        made.append(stroke if ring is None else Path.from_points(ring, closed=True))
    return Path.concatenate(made)


def _ring(points: np.ndarray, lead: float) -> np.ndarray | None:
    """The part of a line from so far along it to where it comes back there; None where it does not."""
    step = np.hypot(*np.diff(points, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(step)])
    if along[-1] <= 4 * NEAR_MM + lead:
        return None
    first = int(np.searchsorted(along, lead + 1e-9))
    share = (lead - along[first - 1]) / max(step[first - 1], 1e-12) if first else 0.0
    begin = points[first - 1] + share * (points[first] - points[first - 1]) if first else points[0]
    # Back means behind half of the way at least.
    a, b = points[:-1], points[1:]
    late = np.flatnonzero(along[1:] > lead + (along[-1] - lead) / 2)
    way = b[late] - a[late]
    part = np.clip(((begin - a[late]) * way).sum(axis=1) / np.maximum((way**2).sum(axis=1), 1e-18), 0, 1)
    apart = np.hypot(*(a[late] + part[:, None] * way - begin).T)
    near = np.flatnonzero(apart < NEAR_MM)
    if not len(near):
        return None
    # The first time that it is back, and of that the nearest place.
    at = near[: 1 + int(np.argmax(np.append(np.diff(near) > 1, True)))]
    last = int(late[at[int(apart[at].argmin())]])
    return np.vstack([begin[None], points[max(first, 1) : last + 1]])
