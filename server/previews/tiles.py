"""Each way of tracing as a small picture of this very picture."""

from __future__ import annotations

from typing import Any

from hakobu.errors import HakobuError
from hakobu.geometry import Path
from hakobu.geometry.path_text import path_data
from hakobu.operations.operation import parameters_from
from hakobu.operations.trace import OPERATION, found_in, prepared_for
from hakobu.tracing import MODES, View

from .pictures import PIXELS, Grey

#: The longer side of a small picture, in pixels.
SIDE = 240
#: What a small picture cannot be sent with: more outlines are a grey heap at its size.
MOST_OUTLINES = 1500


def tiles(grey: Grey, told: dict[str, Any]) -> dict[str, Any]:
    """told: by mode, what it is told. For each mode its layers, lowest first, as path data in pixels of the small
    picture; or why it finds nothing."""
    import cv2

    height, width = grey.rgba.shape[:2]
    factor = max(height, width) / SIDE
    size = max(round(width / factor), 1), max(round(height / factor), 1)
    small = View(cv2.resize(grey.colours(True), size, interpolation=cv2.INTER_AREA), PIXELS)
    made = {mode: _tile(small, mode, told.get(mode, {})) for mode, _, _ in MODES}
    return {"size": size, "tiles": made}


def _tile(small: View, mode: str, told: dict[str, Any]) -> dict[str, Any]:
    """Lengths that it is told are those of the picture, which a small one has no use for."""
    plain = {name: value for name, value in told.items() if not name.endswith(("_mm", "_mm2"))}
    try:
        parameters = parameters_from(OPERATION, {"mode": mode, "smallest_mm2": 4.0, **plain})
        found = found_in(prepared_for(small, parameters), parameters, ())
    except HakobuError as error:
        return {"layers": [], "sentence": error.sentence}
    layers = []
    for layer in found.layers:
        paths = [piece.path for piece in found.pieces if piece.layer == layer.key]
        path = Path.concatenate(paths)
        if len(path) > MOST_OUTLINES:
            path = path.take(range(MOST_OUTLINES))
        layers.append({"color": layer.color, "lines": layer.lines, "d": path_data(path, 1)})
    return {"layers": layers, "sentence": ""}
