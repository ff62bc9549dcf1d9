"""What a trace would give, worked out at once and kept nowhere."""

from __future__ import annotations

import json
import struct
from dataclasses import replace
from typing import Any

import numpy as np

from hakobu.checks.tables.thinness import Thin, thinness
from hakobu.geometry import DRAWING_MM, Path, flatten, length
from hakobu.model import Conditions
from hakobu.model.conditions import ANY_MATERIAL
from hakobu.model.document import Document, Picture
from hakobu.operations.operation import parameters_from
from hakobu.operations.trace import (
    OPERATION,
    Trace,
    document_of,
    found_in,
    over,
    pixel_mm,
    preparing_of,
    shapes_within,
    trace_options,
)
from hakobu.tracing import View, propose_options
from hakobu.tracing.edges.greyscale import levels
from hakobu.tracing.judge.assessment import judge
from hakobu.tracing.outlines import thresholding
from hakobu.tracing.scale.levelling import level_degrees

from .newest import FOUND, NEWEST
from .pictures import PIXELS, Grey

#: Levels of the small chart behind the slider.
CHART_LEVELS = 64


def proposal(grey: Grey, picture: Picture) -> dict[str, Any]:
    """What the picture is and suggests, and how its pixels spread from dark to light."""
    judged = judge(View(grey.rgba, picture.matrix, cache={"grey": grey.whole}))
    counts = np.sqrt(levels(grey.coarse).reshape(CHART_LEVELS, -1).sum(axis=1))
    return {
        "kind": judged.kind,
        "sentence": judged.sentence,
        "warning": judged.warning,
        "always": dict(judged.always),
        "ways": [{"mode": way.mode, "told": dict(way.told), "words": way.words} for way in judged.ways],
        "level_degrees": level_degrees(View(grey.rgba, PIXELS, cache={"grey": grey.coarse})),
        "levels": (counts / counts.max()).round(4).tolist(),
    }


def preview(grey: Grey, picture: Picture, document: Document, values: dict[str, Any]) -> bytes:
    """The outlines as chords. Raises Superseded where a newer request of the same tab has come, and CannotDo.

    The answer: the length of a JSON head (little-endian uint32), the head, spaces up to a multiple of four, x, y pairs
    in mm as float32, and the first point of each outline and of none as uint32. Closed outlines come back to their
    first point. The head names the layers and the pieces: each piece's key, its layer's number, and how many outlines
    it has.
    """
    tab, number = values["tab"], values["number"]
    NEWEST.check(tab, number)
    coarse = values["coarse"] and grey.halvings > 0
    parameters, found = _found(grey, picture, document, coarse, values)
    NEWEST.check(tab, number)
    path = Path.concatenate([piece.path for piece in found.pieces])
    chords = flatten(path, 2 * DRAWING_MM)
    NEWEST.check(tab, number)
    own: dict[str, float] = {}
    if not coarse:
        # Without the view: whole pictures are kept elsewhere, within their bounds.
        FOUND.keep(tab, number, replace(found, view=None))
        own = propose_options(found.view, parameters.mode, trace_options(parameters)) if found.view else {}
    layers = {layer.key: k for k, layer in enumerate(found.layers)}
    head = {
        "number": number,
        "coarse": coarse,
        "title": found.title,
        "notes": found.notes,
        "chosen": found.chosen,
        "proposed": own,
        "layers": [
            {"name": one.name, "color": one.color, "base": one.base or one.color, "lines": one.lines}
            for one in found.layers
        ],
        "parts": [] if coarse else [[p.key, layers[p.layer], len(p.path)] for p in found.pieces],
        "layer_of": [layers[p.layer] for p in found.pieces for _ in range(len(p.path))],
        "matrix": found.matrix,
        "plane": None if found.plane is None else found.plane.ravel().tolist(),
        "pieces": len(found.pieces),
        "nodes": int(path.node_counts.sum()),
        "line_mm": length(path),
        "specks": found.specks,
        "mean_mm": found.mean_mm,
        "max_mm": found.max_mm,
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


def _found(grey: Grey, picture: Picture, document: Document, coarse: bool, values: dict[str, Any]):
    """The step's parameters, and what a way of tracing finds by them, as the step would."""
    given = {name: values[name] for name in ("mode", "threshold", "smoothness_mm", "smallest_mm2") if name in values}
    parameters = parameters_from(OPERATION, given | values.get("options", {}))
    view = grey.view(preparing_of(parameters), coarse)
    factor = grey.factor if coarse else 1
    if coarse:
        parameters = _coarser(parameters, factor, pixel_mm(picture))
    shapes = shapes_within(document, parameters)
    a, b, c, d, e, f = picture.matrix
    found = found_in(over(view, (a * factor, b * factor, c * factor, d * factor, e, f)), parameters, shapes)
    if not coarse or found.matrix is None:
        return parameters, found
    a, b, c, d, e, f = found.matrix
    return parameters, replace(found, matrix=(a / factor, b / factor, c / factor, d / factor, e, f))


def _coarser(parameters: Trace, factor: int, pixel: float) -> Trace:
    """The same for a picture whose pixels are so many times as large."""
    smooth = parameters.smoothness_mm
    if smooth is not None:
        smooth = max(smooth, thresholding.SMOOTH_PX * pixel * factor)
    places = {
        name: tuple((x // factor, y // factor) for x, y in getattr(parameters, name))
        for name in ("dropped", "kept", "inside", "beyond", "ends")
    }
    moved = tuple(_coarser_wish(wish, factor) for wish in parameters.moved)
    return replace(parameters, smoothness_mm=smooth, moved=moved, **places)


def _coarser_wish(wish: str, factor: int) -> str:
    place, _, colour = wish.partition(" ")
    x, _, y = place.partition(",")
    return f"{int(x) // factor},{int(y) // factor} {colour}" if x.isdigit() and y.isdigit() else wish


def measure(values: dict[str, Any]) -> dict[str, Any] | None:
    """Where the trace that was shown last is too thin for its material, as its check will find; None where it is no
    longer at hand."""
    found = FOUND.of(values["tab"], values["number"])
    if found is None:
        return None
    limits = {f"least_{name}": values[name] for name in ("strip_mm", "gap_mm", "piece_mm2")}
    made = thinness(document_of(found), Conditions(material=replace(ANY_MATERIAL, **limits)))
    return {
        "strip_count": made.strip_count,
        "gap_count": made.gap_count,
        "strips": [_thin(place) for place in made.strips],
        "gaps": [_thin(place) for place in made.gaps],
        "slivers": list(made.slivers),
    }


def _thin(place: Thin) -> list[float]:
    return [round(float(v), 3) for v in (*place.ends.ravel(), place.width_mm)]
