"""DXF out: millimetres, y up; a layer for each layer, whose name tells its treatment; a group for each piece.

Curves stay what they are: circles CIRCLE, runs of lines and arcs one LWPOLYLINE with bulges, runs of cubics one SPLINE
of degree 3 whose knots have multiplicity 3 at each joint, which is the same curve exactly. Release R12 knows neither
splines nor groups: there curves become arcs within a distance, in polylines with bulges.
"""

from __future__ import annotations

import io
import re
from collections.abc import Iterator

import numpy as np

from ...errors import BadRequest
from ...geometry import ARC, CUBIC, Path
from ...geometry.arcs import centre_and_radius
from ...geometry.recover import as_arcs
from ...model import Document, Layer
from ..format import WriteOptions, Written
from ..treatment_words import telling
from . import RELEASES, load_library
from .grouping import PIECE
from .loading import IN_MM

#: $INSUNITS of millimetres.
MILLIMETRES = 4
#: Releases whose text is in a code page, and those whose colours are an index only.
CODE_PAGED, INDEXED = ("R12", "R2000", "R2004"), ("R12", "R2000")
#: How far R12's arcs may be from curves, in mm.
ARCS_WITHIN_MM = 0.001
#: Characters that a layer's name cannot hold; and R12's layer names hold only these (DXF reference, "LAYER").
_NOT_IN_NAMES = re.compile(r'[<>/\\":;?*|=`,\x00-\x1f]')
_NOT_IN_R12 = re.compile(r"[^A-Z0-9$_-]+")
R12_LONGEST, LONGEST = 31, 200


def write(document: Document, options: WriteOptions) -> Written:
    """All pieces of all layers that are used; entities of a piece follow one another."""
    load_library()
    from ezdxf._options import options as drawing_options
    from ezdxf.filemanagement import new

    release = options.release or RELEASES[0]
    if release not in RELEASES:
        raise BadRequest(f"DXF can be written as {', '.join(RELEASES)}, not as {release}.")
    old = release == "R12"
    # Neither the hour nor a new identity goes in: the same design gives the same file.
    drawing_options.write_fixed_meta_data_for_testing = True
    # R12 has no variable for the unit: there a comment says it.
    drawing = new(release)
    if not old:
        drawing.units = MILLIMETRES
    _set_limits(drawing, document)
    used = {piece.layer for piece in document.pieces_in_use()}
    layers = [layer for layer in document.layers if layer.id in used]
    names = _layer_names(layers, old)
    for layer in layers:
        made = drawing.layers.add(names[layer.id], color=_nearest_index(layer.color))
        if release not in INDEXED:
            made.rgb = tuple(int(layer.color[i : i + 2], 16) for i in (1, 3, 5))  # pyright: ignore[reportAttributeAccessIssue]
    space, height = drawing.modelspace(), document.frame[1]
    entities: dict[str, list] = {}
    for piece in document.pieces_in_use():
        path = as_arcs(piece.path, ARCS_WITHIN_MM) if old else piece.path
        drawer = Drawer(space, height, {"layer": names[piece.layer]}, options.precision_mm, old)
        for outline in path.outlines():
            drawer.add(outline)
        entities[piece.id] = drawer.made
    if not old:
        _add_groups(drawing, document, entities)
    out = io.StringIO()
    drawing.write(out)
    text = (IN_MM if old else "") + out.getvalue()
    encoding = "cp1252" if release in CODE_PAGED else "utf-8"
    return Written(text.encode(encoding, "dxfreplace"), tuple(_notes(document, layers, names, old)))


def _notes(document: Document, layers: list[Layer], names: dict[str, str], old: bool) -> Iterator[str]:
    for layer in layers:
        yield f"layer {names[layer.id]}: {layer.treatment.value}"
    if any(piece.fill or piece.stroke for piece in document.pieces_in_use()):
        yield "fills and line widths are not written: a cutter follows the lines"
    if old:
        yield f"R12 knows no curves and no groups: curves are arcs within {ARCS_WITHIN_MM:g} mm"
    if document.pictures:
        yield "pictures are not written"


def _set_limits(drawing, document: Document) -> None:
    """The page as the drawing's limits."""
    width, height = document.frame
    drawing.header["$LIMMIN"], drawing.header["$LIMMAX"] = (0.0, 0.0), (width, height)
    drawing.modelspace().reset_limits((0.0, 0.0), (width, height))


def _add_groups(drawing, document: Document, entities: dict[str, list]) -> None:
    for number, piece in enumerate(document.pieces_in_use(), 1):
        made = entities[piece.id]
        if made:
            group = drawing.groups.new(f"{PIECE}{number}", description=piece.name)
            group.extend(made)
    inside = {group.id: group.members for group in document.groups}

    def all_of(identity: str) -> list:
        if identity in inside:
            return [entity for member in inside[identity] for entity in all_of(member)]
        return entities.get(identity, [])

    for number, group in enumerate(document.groups, 1):
        made = all_of(group.id)
        if made:
            drawing.groups.new(f"GROUP_{number}", description=group.name).extend(made)


def _layer_names(layers: list[Layer], old: bool) -> dict[str, str]:
    """Names that DXF can hold, each once whatever its case."""
    names: dict[str, str] = {}
    taken = {"0", "defpoints"}
    for layer in layers:
        told = telling(layer)
        if old:
            plain = _NOT_IN_R12.sub("_", told.upper().replace(" - ", "_")).strip("_") or "LAYER"
        else:
            plain = _NOT_IN_NAMES.sub("_", told).strip() or "Layer"
        longest, joint = (R12_LONGEST, "_") if old else (LONGEST, " ")
        name, number = plain[:longest], 2
        while name.lower() in taken:
            tail = f"{joint}{number}"
            name, number = plain[: longest - len(tail)] + tail, number + 1
        taken.add(name.lower())
        names[layer.id] = name
    return names


def _nearest_index(color: str) -> int:
    """The index of the AutoCAD colour that comes nearest."""
    from ezdxf.colors import DXF_DEFAULT_COLORS, int2rgb

    wanted = np.array([int(color[i : i + 2], 16) for i in (1, 3, 5)])
    known = np.array([int2rgb(value) for value in DXF_DEFAULT_COLORS[1:256]])
    return int(((known - wanted) ** 2).sum(axis=1).argmin()) + 1


class Drawer:
    """Adds the entities of one piece to a drawing; made: all that were added."""

    def __init__(self, space, height: float, attributes: dict, precision_mm: float, old: bool) -> None:
        self.space, self.height, self.attributes, self.old = space, height, attributes, old
        self.decimals = max(3, round(-np.log10(precision_mm)))
        self.made: list = []

    def add(self, outline: Path) -> None:
        """One outline, as few entities as its kinds of segment allow."""
        ctrl = np.round(outline.ctrl * (1, -1) + (0, self.height), self.decimals)
        if outline.is_circle[0]:
            centre = (ctrl[0, 0] + ctrl[0, 3]) / 2
            radius = float(np.hypot(*(ctrl[0, 0] - centre)))
            self._keep(self.space.add_circle(centre.tolist(), radius, self.attributes))
            return
        if outline.segment_count == 1 and (ctrl[0] == ctrl[0, 0]).all():
            self._keep(self.space.add_point(ctrl[0, 0].tolist(), self.attributes))
            return
        cubic = outline.kind == CUBIC
        for a, b in _runs(cubic, bool(outline.closed[0])):
            rows = np.arange(a, b) % outline.segment_count
            whole = bool(outline.closed[0]) and len(rows) == outline.segment_count
            if cubic[rows[0]]:
                self._spline(ctrl[rows], whole)
            elif len(rows) == 1 and outline.bulge[rows[0]] == 0:
                self._keep(self.space.add_line(ctrl[rows[0], 0].tolist(), ctrl[rows[0], 3].tolist(), self.attributes))
            elif len(rows) == 1 and not whole and outline.kind[rows[0]] == ARC:
                self._arc(ctrl[rows[0]], -float(outline.bulge[rows[0]]))
            else:
                self._polyline(ctrl[rows], -outline.bulge[rows], whole)

    def _keep(self, entity) -> None:
        self.made.append(entity)

    def _spline(self, ctrl: np.ndarray, closed: bool) -> None:
        count = len(ctrl)
        points = np.vstack([ctrl[:1, 0], ctrl[:, 1:].reshape(-1, 2)])
        spline = self.space.add_spline(degree=3, dxfattribs=self.attributes)
        spline.control_points = [(x, y, 0.0) for x, y in points.tolist()]
        spline.knots = [0.0, *np.repeat(np.arange(count + 1), 3).astype(float).tolist(), float(count)]
        if closed:
            spline.dxf.flags = spline.dxf.flags | spline.CLOSED
        self._keep(spline)

    def _arc(self, ctrl: np.ndarray, bulge: float) -> None:
        """An ARC always runs counter-clockwise."""
        centre, radius = centre_and_radius(ctrl[None, 0], ctrl[None, 3], np.array([bulge]))
        begin, end = (float(np.degrees(np.arctan2(*(p - centre[0])[::-1]))) for p in (ctrl[0], ctrl[3]))
        if bulge < 0:
            begin, end = end, begin
        self._keep(self.space.add_arc(centre[0].tolist(), float(radius[0]), begin, end, dxfattribs=self.attributes))

    def _polyline(self, ctrl: np.ndarray, bulge: np.ndarray, closed: bool) -> None:
        points = np.column_stack([ctrl[:, 0], bulge]).tolist()
        if not closed:
            points.append([*ctrl[-1, 3].tolist(), 0.0])
        add = self.space.add_polyline2d if self.old else self.space.add_lwpolyline
        self._keep(add(points, format="xyb", close=closed, dxfattribs=self.attributes))


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
