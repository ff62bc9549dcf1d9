"""Strokes with arcs: AA about a centre, where the grid lets it run true."""

from __future__ import annotations

import numpy as np

from ...geometry import ARC, Path, flatten
from ...geometry.arcs import centre_and_radius
from ...geometry.path import segments_of

#: An arc whose rounded centre carries it off by more, in steps, is written as chords.
OFF_STEPS = 0.5


def round_stroke(path: Path, first: int, last: int, steps: int, chord_mm: float) -> str:
    """Segments first to last of a path as one stroke, in plotter steps."""
    at = np.round(path.ctrl[first, 0] * steps).astype(np.int64)
    text = [f"PU{at[0]},{at[1]};PD"]
    begun = True
    for k in range(first, last):
        arc = _arc(path, k, at, steps, chord_mm) if path.kind[k] == ARC else ""
        points = flatten(segments_of(path, np.array([k])), chord_mm).points[1:]
        grid = np.round((points[-1:] if arc else points) * steps).astype(np.int64)
        if arc:
            text.append(f";{arc}PD" if begun else f"{arc}PD")
        elif not begun:
            text.append("PD")
        text.append(",".join(map(str, grid.ravel().tolist())) + ";")
        at, begun = grid[-1], False
    return "".join(text)


def _arc(path: Path, k: int, at: np.ndarray, steps: int, chord_mm: float) -> str:
    """AA of an arc from where the pen is; nothing where it would not run true."""
    a, b, bulge = path.ctrl[k, :1, :], path.ctrl[k, 3:, :], path.bulge[k : k + 1]
    centre, radius = centre_and_radius(a, b, bulge)
    about = np.round(centre[0] * steps).astype(np.int64)
    arm = np.hypot(*(at - about))
    turn = 4 * np.arctan(bulge[0])
    if arm < 1:
        return ""
    # The farthest of the places on it, from the true arc.
    angle = np.arctan2(*(at - about)[::-1]) + np.linspace(0, turn, 9)
    run = about + arm * np.column_stack([np.cos(angle), np.sin(angle)])
    off = np.abs(np.hypot(*(run - centre[0] * steps).T) - radius[0] * steps)
    if off.max() > OFF_STEPS:
        return ""
    fine = np.degrees(2 * np.arccos(max(1 - chord_mm / radius[0], -1.0)))
    return f"AA{about[0]},{about[1]},{np.degrees(turn):.4f},{max(min(fine, 180.0), 0.5):.2f};"
