"""What lies about a place of a design, and what a file would bring in."""

from __future__ import annotations

import math
from dataclasses import asdict
from functools import lru_cache

from hakobu import pipeline
from hakobu.geometry import DRAWING_MM
from hakobu.model.nearest_lines import Nearby
from hakobu.model.statistics import statistics_of
from hakobu.model.units import in_words
from jobs.models import Blob
from jobs.store import load_document
from wire.drawing import sketch_of

#: A place that is meant to be on a line is off it by no more than chords are, twice.
ON_LINE_MM = 2 * DRAWING_MM


@lru_cache(maxsize=2)
def _nearby(document: str) -> Nearby:
    return Nearby(load_document(document))


def near(document: str, x: float, y: float) -> dict:
    found = _nearby(document).at(x, y)
    return {"line": asdict(found) if found else None}


def between(document: str, ends: list[list]) -> dict:
    """ends: of each x, y, and whether it is meant to be on a line."""
    nearby = _nearby(document)
    (ax, ay), (bx, by) = (nearby.onto(x, y, ON_LINE_MM) if on_line else (x, y) for x, y, on_line in ends)
    across, down = bx - ax, by - ay
    length = math.hypot(across, down)
    return {"first": [ax, ay], "last": [bx, by], "distance_mm": length, "across_mm": across, "down_mm": down}


@lru_cache(maxsize=64)
def look(sha256: str, name: str) -> dict:
    """Of a file that is kept by its hash."""
    read = pipeline.read(name, bytes(Blob.objects.get(pk=sha256).data))
    document, statistics = read.document, statistics_of(read.document)
    width, height = document.extent_mm
    return {
        "width_mm": width,
        "height_mm": height,
        "in_words": in_words(width, height),
        "pieces": statistics.pieces,
        "nodes": statistics.nodes,
        "layers": len(document.layers),
        "is_picture": bool(document.pictures) and not document.pieces,
        "said": [finding.message for finding in read.findings],
        "sketch": sketch_of(document) | {"pictures": []},
    }
