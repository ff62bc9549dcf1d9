"""SVG out: plain, at true size, with presentation attributes and nothing else."""

from __future__ import annotations

import math
from itertools import groupby
from xml.sax.saxutils import escape

import numpy as np

from ...geometry import ARC, CUBIC, Path
from ...geometry.arcs import points_on_arcs
from ...geometry.tolerances import STRAIGHT_BULGE
from ...model import Document, Layer, Piece, Treatment
from ..format import WriteOptions, Written

#: Decimals of a millimetre: a hundred times finer than any machine's step.
DECIMALS = 5
#: The line that shows a followed outline without any paint of its own.
HAIRLINE_MM = 0.1
#: The bulge of an arc of 140 degrees: up to there rounding moves an arc's middle by a few of its own units only.
NEARLY_HALF = 0.7


def write(document: Document, options: WriteOptions) -> Written:
    """A page in millimetres; a titled group for each run of pieces on one layer, in paint order."""
    left, top, width, height = _frame(document)
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{_n(width)}mm" height="{_n(height)}mm" '
        f'viewBox="{_n(left)} {_n(top)} {_n(width)} {_n(height)}">'
    )
    out = ['<?xml version="1.0" encoding="UTF-8"?>', head]
    if options.title:
        out.append(_title(options.title))
    parent = {member: group.id for group in document.groups for member in group.members}
    names = {group.id: group.name for group in document.groups}
    for layer_id, run in groupby(document.pieces, key=lambda piece: piece.layer):
        layer = document.layer_by_id[layer_id]
        out.append(_layer_start(layer))
        _write_run(out, list(run), parent, names, layer)
        out.append("</g>")
    out.append("</svg>")
    lost = [p for p in document.pictures if document.layer_by_id[p.layer].treatment is not Treatment.LEAVE_OUT]
    notes = ("pictures are not written yet",) if lost else ()
    return Written(("\n".join(out) + "\n").encode(), notes)


def _frame(document: Document) -> tuple[float, float, float, float]:
    if document.page:
        return 0.0, 0.0, document.page.width_mm, document.page.height_mm
    if document.box is None:
        return 0.0, 0.0, 1.0, 1.0
    left, top, right, bottom = document.box
    return left, top, max(right - left, 1e-3), max(bottom - top, 1e-3)


def _layer_start(layer: Layer) -> str:
    extra = "" if layer.treatment is Treatment.CUT else f' data-treatment="{layer.treatment.value}"'
    if layer.treatment is Treatment.LEAVE_OUT:
        extra += ' display="none"'
    return f'<g color="{layer.color}"{extra}>\n{_title(layer.name)}'


def _write_run(out: list[str], run: list[Piece], parent: dict, names: dict, layer: Layer) -> None:
    """The pieces of a run, each group that stays together within it as a group of its own."""
    open_groups: list[str] = []
    for piece in run:
        chain: list[str] = []
        at = parent.get(piece.id)
        while at is not None:
            chain.insert(0, at)
            at = parent.get(at)
        same = 0
        while same < min(len(chain), len(open_groups)) and chain[same] == open_groups[same]:
            same += 1
        out.extend("</g>" for _ in open_groups[same:])
        out.extend(f"<g>{_title(names[g])}" for g in chain[same:])
        open_groups = chain
        out.append(_piece(piece, layer))
    out.extend("</g>" for _ in open_groups)


def _title(name: str) -> str:
    return f"<title>{escape(name)}</title>" if name else ""


def _piece(piece: Piece, layer: Layer) -> str:
    fill, stroke = piece.fill, piece.stroke
    attributes = [f'd="{path_data(piece.path)}"', f'fill="{fill.color if fill else "none"}"']
    if fill and fill.opacity != 1:
        attributes.append(f'fill-opacity="{_n(fill.opacity)}"')
    if fill and piece.fill_rule == "evenodd":
        attributes.append('fill-rule="evenodd"')
    if stroke:
        attributes += _stroke(stroke)
    elif not fill and layer.treatment.follows_lines:
        attributes += [f'stroke="{layer.color}"', f'stroke-width="{HAIRLINE_MM}"']
    if piece.opacity != 1:
        attributes.append(f'opacity="{_n(piece.opacity)}"')
    if piece.name:
        return f"<path {' '.join(attributes)}>{_title(piece.name)}</path>"
    return f"<path {' '.join(attributes)}/>"


def _stroke(stroke) -> list[str]:
    found = [f'stroke="{stroke.color}"', f'stroke-width="{_n(stroke.width_mm)}"']
    if stroke.opacity != 1:
        found.append(f'stroke-opacity="{_n(stroke.opacity)}"')
    if stroke.cap != "butt":
        found.append(f'stroke-linecap="{stroke.cap}"')
    if stroke.join != "miter":
        found.append(f'stroke-linejoin="{stroke.join}"')
    elif stroke.miter_limit != 4:
        found.append(f'stroke-miterlimit="{_n(stroke.miter_limit)}"')
    if stroke.dashes:
        found.append(f'stroke-dasharray="{" ".join(map(_n, stroke.dashes))}"')
        if stroke.dash_offset:
            found.append(f'stroke-dashoffset="{_n(stroke.dash_offset)}"')
    return found


def path_data(path: Path) -> str:
    """SVG path data of all outlines; arcs stay arcs."""
    points = np.round(path.ctrl, DECIMALS).reshape(-1, 8).tolist()
    parts: list[str] = []
    for k in range(len(path)):
        first, end = int(path.start[k]), int(path.start[k + 1])
        closed = bool(path.closed[k])
        parts.append(f"M{_n(points[first][0])} {_n(points[first][1])}")
        for i in range(first, end):
            row = points[i]
            if path.kind[i] == CUBIC:
                parts.append("C" + " ".join(map(_n, row[2:])))
            elif path.kind[i] == ARC and abs(path.bulge[i]) >= STRAIGHT_BULGE:
                parts.append(_arc(path.ctrl[i, 0], path.ctrl[i, 3], float(path.bulge[i])))
            elif not (closed and i == end - 1 and i > first):
                # The line back to the start is what Z draws, unless it is all there is.
                parts.append(f"L{_n(row[6])} {_n(row[7])}")
        if closed:
            parts.append("Z")
    return "".join(parts)


def _arc(first: np.ndarray, last: np.ndarray, bulge: float) -> str:
    """One arc command, or two. The nearer an arc is to half a circle, the more a rounded radius or end moves its
    middle. Exactly half a circle gets a radius a hair too small, which every reader must enlarge until it just reaches
    (SVG 2, appendix B.2.5); what is nearly half is written in two."""
    radius = float(np.hypot(*(last - first))) * (1 + bulge**2) / (4 * abs(bulge))
    if abs(bulge) == 1:
        radius = math.floor(radius * 10**DECIMALS - 1) / 10**DECIMALS
    elif abs(bulge) > NEARLY_HALF:
        half = math.tan(math.atan(bulge) / 2)
        middle = points_on_arcs(first[None], last[None], np.array([bulge]), np.array([0.5]))[0]
        return _arc(first, middle, half) + _arc(middle, last, half)
    x, y = np.round(last, DECIMALS)
    size = _n(max(radius, 10.0**-DECIMALS))
    return f"A{size} {size} 0 0 {1 if bulge > 0 else 0} {_n(x)} {_n(y)}"


def _n(value: float) -> str:
    """A number with as few digits as hold it to a hundred-thousandth."""
    text = f"{value:.{DECIMALS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
