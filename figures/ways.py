"""The pictures in docs/tracing.md: the demo's kettle traced in every way: .venv/bin/python figures/ways.py"""

from __future__ import annotations

import numpy as np
from drawing import PALE, line, painted, save

from hakobu import pipeline
from hakobu.geometry import Path, bounds
from hakobu.tracing import TraceOptions, TraceResult, View, find
from hakobu.tracing.options import FoundLayer

#: Pixels of the demo's picture are this large on the page of the document, in mm.
MM = 25.4 / 300 * 0.45
KETTLE = "demo/files/kettle.png"
#: file, way, what it is told, and what the picture shows.
WAYS = (
    ("way-dark", "dark", TraceOptions(threshold=0.2), "The kettle's ink by darkness"),
    ("way-shades", "shades", TraceOptions(shades=4), "The kettle in four shades, each alone"),
    ("way-colour", "colour", TraceOptions(), "The kettle by colour, the background and its hollow gone"),
    ("way-outside", "outside", TraceOptions(distance_mm=1.0), "A line round the kettle, a millimetre out"),
    ("way-centre", "centre", TraceOptions(threshold=0.2), "The middle of the kettle's ink"),
    (
        "way-ink-fields",
        "ink-fields",
        TraceOptions(underlap_mm=0.35),
        "The kettle's ink, and its fields that go on under it",
    ),
)


def kettle() -> View:
    with open(KETTLE, "rb") as file:
        pixels = pipeline.picture("kettle.png", file.read())
    return View(np.ascontiguousarray(pixels), (MM, 0.0, 0.0, MM, 0.0, 0.0))


def drawn(found: TraceResult) -> tuple[list[str], tuple[float, float, float, float]]:
    """Each layer in its colour with its lines; and the box of all."""
    parts = []
    for layer in found.layers:
        own = [piece.path for piece in found.pieces if piece.layer == layer.key]
        parts.append(_layer(Path.concatenate(own), layer))
    left, top, right, bottom = bounds(Path.concatenate(piece.path for piece in found.pieces))
    return parts, (left - 2, top - 2, right - left + 4, bottom - top + 4)


def _layer(path: Path, layer: FoundLayer) -> str:
    if layer.lines:
        return line(path, "#1b2a4e", 0.25)
    return painted(path, layer.color) + line(path, PALE, 0.12)


def main() -> None:
    view = kettle()
    for name, way, asked, title in WAYS:
        found = find(view, way, asked)
        parts, box = drawn(found)
        if way == "outside":
            # The picture itself, as its darkness tells it.
            parts = _layers_of(view) + [line(piece.path, "#b23a55", 0.3) for piece in found.pieces]
        save(name, title, box, *parts)


def _layers_of(view: View) -> list[str]:
    return drawn(find(view, "colour", TraceOptions()))[0]


if __name__ == "__main__":
    main()
