"""Lines as the browser draws them where they stand in JSON: chords, packed as float32."""

from __future__ import annotations

import base64

import numpy as np

from hakobu.geometry import DRAWING_MM, Path, flatten


def packed(array: np.ndarray, kind: str) -> str:
    return base64.b64encode(np.ascontiguousarray(array, dtype=kind).tobytes()).decode("ascii")


def lines_of(path: Path, tolerance_mm: float = DRAWING_MM) -> dict:
    """The chords of a path: x, y pairs, where each outline starts among them, and which are closed."""
    chords = flatten(path, tolerance_mm)
    return {
        "points": packed(chords.points, "<f4"),
        "start": chords.start.tolist(),
        "closed": chords.closed.tolist(),
    }
