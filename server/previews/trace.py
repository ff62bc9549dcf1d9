"""What a trace would give, worked out at once and kept nowhere."""

from __future__ import annotations

import json
import struct
from typing import Any

import numpy as np

from hakobu.geometry import DRAWING_MM, Path, flatten, length
from hakobu.model.document import Picture
from hakobu.operations.operation import parameters_from
from hakobu.operations.trace import OPERATION, found_in, pixel_mm
from hakobu.tracing import Found, View, dark
from hakobu.tracing.grey import levels

from .newest import NEWEST
from .pictures import Grey

#: Levels of the small chart behind the slider.
CHART_LEVELS = 64


def proposal(grey: Grey, picture: Picture) -> dict[str, Any]:
    """What the picture suggests, and how its pixels spread from dark to light."""
    found = dark.propose(grey.whole, pixel_mm(picture))
    counts = np.sqrt(levels(grey.coarse).reshape(CHART_LEVELS, -1).sum(axis=1))
    return {
        "threshold": found.threshold,
        "smoothness_mm": found.smoothness_mm,
        "smallest_mm2": found.smallest_mm2,
        "levels": (counts / counts.max()).round(4).tolist(),
    }


def preview(grey: Grey, picture: Picture, values: dict[str, Any]) -> bytes:
    """The outlines as chords. Raises Superseded where a newer request of the same tab has come, and CannotDo.

    The answer: the length of a JSON head (little-endian uint32), the head, spaces up to a multiple of four, x, y pairs
    in mm as float32, and the first point of each outline and of none as uint32. Closed outlines come back to their
    first point; where the head says that there are lines, some do not.
    """
    tab, number = values["tab"], values["number"]
    NEWEST.check(tab, number)
    coarse = values["coarse"] and grey.halvings > 0
    factor = 2.0**grey.halvings if coarse else 1.0
    a, b, c, d, e, f = picture.matrix
    matrix = (a * factor, b * factor, c * factor, d * factor, e, f)
    smoothness = max(values["smoothness_mm"], dark.SMOOTH_PX * pixel_mm(picture) * factor if coarse else 0.0)
    pixels = grey.coarse if coarse else grey.whole
    if values.get("mode", "dark") == "dark" and not values.get("options"):
        traced = dark.trace(pixels, matrix, values["threshold"], smoothness, values["smallest_mm2"])
        paths = [region.path for region in traced.regions]
    else:
        traced = _found(grey, picture, coarse, matrix, values | {"smoothness_mm": smoothness})
        paths = [piece.path for piece in traced.pieces]
    NEWEST.check(tab, number)
    path = Path.concatenate(paths)
    chords = flatten(path, 2 * DRAWING_MM)
    NEWEST.check(tab, number)
    head = {
        "number": number,
        "coarse": coarse,
        "pieces": len(paths),
        "lines": bool(len(path)) and not path.closed.all(),
        "nodes": int(path.node_counts.sum()),
        "line_mm": length(path),
        "specks": traced.specks,
        "mean_mm": traced.mean_mm,
        "max_mm": traced.max_mm,
        "points": len(chords.points),
        "outlines": len(chords),
    }
    text = json.dumps(head).encode()
    text += b" " * (-len(text) % 4)
    return b"".join(
        (
            struct.pack("<I", len(text)),
            text,
            chords.points.astype("<f4").tobytes(),
            chords.start.astype("<u4").tobytes(),
        )
    )


def _found(grey: Grey, picture: Picture, coarse: bool, matrix: tuple[float, ...], values: dict[str, Any]) -> Found:
    """What a way of tracing finds, as its step would with the same parameters."""
    given = {name: values[name] for name in ("mode", "threshold", "smoothness_mm", "smallest_mm2")}
    parameters = parameters_from(OPERATION, given | values.get("options", {}))
    view = View(grey.colours(coarse), matrix)
    return found_in(view, parameters, ())
