"""DXF out: AutoCAD 2000, millimetres, y up; a layer for each layer.

Curves stay what they are: circles CIRCLE, runs of lines and arcs one LWPOLYLINE with bulges, runs of cubics one SPLINE
of degree 3 whose knots have multiplicity 3 at each joint, which is the same curve exactly.
"""

from __future__ import annotations

import io
import re
from collections.abc import Iterator

import numpy as np

from ...geometry import CUBIC, Path
from ...geometry.arcs import centre_and_radius
from ...model import Document
from ..format import WriteOptions, Written

#: $INSUNITS of millimetres.
MILLIMETRES = 4
#: Characters that a layer's name cannot hold.
_NOT_IN_NAMES = re.compile(r'[<>/\\":;?*|=`,\x00-\x1f]')


def write(document: Document, options: WriteOptions) -> Written:
    """All pieces of all layers that are used; entities of a piece follow one another."""
    import ezdxf  # takes its time to load

    # Neither the hour nor a new identity goes in: the same design gives the same file.
    ezdxf.options.write_fixed_meta_data_for_testing = True
    drawing = ezdxf.new("R2000", units=MILLIMETRES)
    names = _layer_names(document)
    used = {piece.layer for piece in document.pieces_in_use()}
    layers = [layer for layer in document.layers if layer.id in used]
    for layer in layers:
        drawing.layers.add(names[layer.id], color=_nearest_index(layer.color))
    space, height = drawing.modelspace(), document.frame[1]
    for piece in document.pieces_in_use():
        for outline in piece.path.outlines():
            _add(space, outline, height, {"layer": names[piece.layer]})
    out = io.StringIO()
    drawing.write(out)
    notes = [f"layer {names[layer.id]}: {layer.treatment.value}" for layer in layers]
    if any(piece.fill or piece.stroke for piece in document.pieces_in_use()):
        notes.append("fills and line widths are not written: a cutter follows the lines")
    return Written(out.getvalue().encode("utf-8"), tuple(notes))


def _layer_names(document: Document) -> dict[str, str]:
    """Names that DXF can hold, each once whatever its case."""
    names: dict[str, str] = {}
    taken = {"0", "defpoints"}
    for layer in document.layers:
        plain = _NOT_IN_NAMES.sub("_", layer.name).strip()[:200] or "Layer"
        name, number = plain, 2
        while name.lower() in taken:
            name, number = f"{plain} {number}", number + 1
        taken.add(name.lower())
        names[layer.id] = name
    return names


def _nearest_index(color: str) -> int:
    """The index of the AutoCAD colour that comes nearest."""
    from ezdxf.colors import DXF_DEFAULT_COLORS, int2rgb

    wanted = np.array([int(color[i : i + 2], 16) for i in (1, 3, 5)])
    known = np.array([int2rgb(value) for value in DXF_DEFAULT_COLORS[1:256]])
    return int(((known - wanted) ** 2).sum(axis=1).argmin()) + 1


def _add(space, outline: Path, height: float, attributes: dict) -> None:
    """One outline, as few entities as its kinds of segment allow."""
    ctrl = outline.ctrl * (1, -1) + (0, height)
    if outline.is_circle[0]:
        centre = (ctrl[0, 0] + ctrl[0, 3]) / 2
        space.add_circle(centre.tolist(), float(np.hypot(*(ctrl[0, 0] - centre))), attributes)
        return
    if outline.segment_count == 1 and (ctrl[0] == ctrl[0, 0]).all():
        space.add_point(ctrl[0, 0].tolist(), attributes)
        return
    cubic = outline.kind == CUBIC
    for a, b in _runs(cubic, bool(outline.closed[0])):
        rows = np.arange(a, b) % outline.segment_count
        whole = bool(outline.closed[0]) and len(rows) == outline.segment_count
        if cubic[rows[0]]:
            _add_spline(space, ctrl[rows], attributes)
        elif len(rows) == 1 and outline.bulge[rows[0]] == 0:
            space.add_line(ctrl[rows[0], 0].tolist(), ctrl[rows[0], 3].tolist(), attributes)
        elif len(rows) == 1 and not whole:
            _add_arc(space, outline, ctrl, int(rows[0]), height, attributes)
        else:
            _add_polyline(space, ctrl[rows], -outline.bulge[rows], whole, attributes)


def _runs(cubic: np.ndarray, closed: bool) -> Iterator[tuple[int, int]]:
    """Spans of segments of one sort; on a closed outline a span may pass its start."""
    count = len(cubic)
    breaks = [i for i in range(1, count) if cubic[i] != cubic[i - 1]]
    if not breaks:
        yield 0, count
        return
    if closed and cubic[0] == cubic[-1]:
        edges = [*breaks, breaks[0] + count]
    else:
        edges = [0, *breaks, count]
    yield from zip(edges[:-1], edges[1:], strict=True)


def _add_spline(space, ctrl: np.ndarray, attributes: dict) -> None:
    count = len(ctrl)
    points = np.vstack([ctrl[:1, 0], ctrl[:, 1:].reshape(-1, 2)])
    knots = [0.0, *np.repeat(np.arange(count + 1), 3).astype(float).tolist(), float(count)]
    spline = space.add_spline(degree=3, dxfattribs=attributes)
    spline.control_points = [(x, y, 0.0) for x, y in points.tolist()]
    spline.knots = knots


def _add_arc(space, outline: Path, ctrl: np.ndarray, k: int, height: float, attributes: dict) -> None:
    first, last = outline.ctrl[k : k + 1, 0], outline.ctrl[k : k + 1, 3]
    centre, radius = centre_and_radius(first, last, outline.bulge[k : k + 1])
    middle = centre[0] * (1, -1) + (0, height)
    begin, end = (float(np.degrees(np.arctan2(*(p - middle)[::-1]))) for p in (ctrl[k, 0], ctrl[k, 3]))
    # With y up, what turned from +x towards +y now turns the other way; an ARC always runs counter-clockwise.
    if outline.bulge[k] > 0:
        begin, end = end, begin
    space.add_arc(middle.tolist(), float(radius[0]), begin, end, dxfattribs=attributes)


def _add_polyline(space, ctrl: np.ndarray, bulge: np.ndarray, closed: bool, attributes: dict) -> None:
    points = np.column_stack([ctrl[:, 0], bulge]).tolist()
    if not closed:
        points.append([*ctrl[-1, 3].tolist(), 0.0])
    space.add_lwpolyline(points, format="xyb", close=closed, dxfattribs=attributes)
