"""SVG out: plain, at true size, with presentation attributes and nothing else.

A piece is one element with its holes, a circle or a straight line one of its own kind, so that whatever opens the file
takes it apart as a person expects.
"""

from __future__ import annotations

import base64
import html
import math
from collections.abc import Mapping
from itertools import groupby

import numpy as np

from ...geometry import LINE, Path
from ...geometry.path_text import number, path_data
from ...model import Document, Layer, Picture, Piece, Stroke, Treatment
from ..format import WriteOptions, Written

#: Decimals that coordinates are never rounded to less than.
LEAST_DECIMALS = 3
#: Decimals of shares, such as opacities.
SHARE_DECIMALS = 5
#: Decimals of the matrix of a picture that lies askew: its pixels are thousands.
PLACE_DECIMALS = 9
#: The line that shows a followed outline without any paint of its own.
HAIRLINE_MM = 0.1


def write(document: Document, options: WriteOptions) -> Written:
    """A page in millimetres; printed pictures lowest; a titled group for each run of pieces on one layer, in paint
    order."""
    writer = _Writer(document, max(LEAST_DECIMALS, round(-math.log10(options.precision_mm))), options.pictures)
    writer.write(options.title)
    lost = any(p.sha256 not in options.pictures for p in document.pictures_in_use())
    notes = ("a picture is not written: its pixels are not at hand",) if lost else ()
    return Written(("\n".join(writer.out) + "\n").encode(), notes)


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


def _title(name: str) -> str:
    return f"<title>{html.escape(name, quote=False)}</title>" if name else ""


class _Writer:
    def __init__(self, document: Document, decimals: int, pictures: Mapping[str, bytes]) -> None:
        self.document, self.decimals, self.pictures = document, decimals, pictures
        self.out: list[str] = []

    def n(self, value: float) -> str:
        return number(value, self.decimals)

    def write(self, title: str) -> None:
        left, top, width, height = (self.n(v) for v in _frame(self.document))
        self.out.append('<?xml version="1.0" encoding="UTF-8"?>')
        printed = [p for p in self.document.pictures_in_use() if p.sha256 in self.pictures]
        # Most programs know an image's address only by the older name.
        links = ' xmlns:xlink="http://www.w3.org/1999/xlink"' if printed else ""
        self.out.append(
            f'<svg xmlns="http://www.w3.org/2000/svg"{links} width="{width}mm" height="{height}mm" '
            f'viewBox="{left} {top} {width} {height}">'
        )
        if title:
            self.out.append(_title(title))
        for layer_id, run in groupby(printed, key=lambda picture: picture.layer):
            self.out.append(_layer_start(self.document.layer_by_id[layer_id]))
            self.out.extend(map(self._image, run))
            self.out.append("</g>")
        for layer_id, run in groupby(self.document.pieces, key=lambda piece: piece.layer):
            layer = self.document.layer_by_id[layer_id]
            self.out.append(_layer_start(layer))
            self._run(list(run), layer)
            self.out.append("</g>")
        self.out.append("</svg>")

    def _image(self, picture: Picture) -> str:
        data = self.pictures[picture.sha256]
        kind = "png" if data.startswith(b"\x89PNG") else "jpeg"
        width, height = picture.size_px
        a, b, c, d, e, f = picture.matrix
        if b == c == 0 and a > 0 and d > 0:
            place = f'x="{self.n(e)}" y="{self.n(f)}" width="{self.n(a * width)}" height="{self.n(d * height)}"'
        else:
            matrix = " ".join(number(value, PLACE_DECIMALS) for value in picture.matrix)
            place = f'width="{width}" height="{height}" transform="matrix({matrix})"'
        link = f"data:image/{kind};base64,{base64.b64encode(data).decode()}"
        return f'<image {place} preserveAspectRatio="none" xlink:href="{link}"/>'

    def _run(self, run: list[Piece], layer: Layer) -> None:
        """The pieces of a run, each group that stays together within it as a group of its own."""
        parent = {member: group.id for group in self.document.groups for member in group.members}
        names = {group.id: group.name for group in self.document.groups}
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
            self.out.extend("</g>" for _ in open_groups[same:])
            self.out.extend(f"<g>{_title(names[g])}" for g in chain[same:])
            open_groups = chain
            self.out.append(self._piece(piece, layer))
        self.out.extend("</g>" for _ in open_groups)

    def _piece(self, piece: Piece, layer: Layer) -> str:
        tag, attributes = self._shape(piece.path)
        attributes = [attributes, *self._paint(piece, layer)]
        if piece.name:
            return f"<{tag} {' '.join(attributes)}>{_title(piece.name)}</{tag}>"
        return f"<{tag} {' '.join(attributes)}/>"

    def _shape(self, path: Path) -> tuple[str, str]:
        """The element that a path is, and its geometry."""
        if len(path) == 1 and path.is_circle[0]:
            centre = (path.ctrl[0, 0] + path.ctrl[0, 3]) / 2
            radius = float(np.hypot(*(path.ctrl[0, 0] - centre)))
            return "circle", f'cx="{self.n(centre[0])}" cy="{self.n(centre[1])}" r="{self.n(radius)}"'
        if path.segment_count == 1 and path.kind[0] == LINE and not path.closed[0]:
            (x0, y0), (x1, y1) = path.ctrl[0, [0, 3]].tolist()
            return "line", f'x1="{self.n(x0)}" y1="{self.n(y0)}" x2="{self.n(x1)}" y2="{self.n(y1)}"'
        return "path", f'd="{path_data(path, self.decimals)}"'

    def _paint(self, piece: Piece, layer: Layer) -> list[str]:
        fill, stroke = piece.fill, piece.stroke
        found = [f'fill="{fill.color if fill else "none"}"']
        if fill and fill.opacity != 1:
            found.append(f'fill-opacity="{number(fill.opacity, SHARE_DECIMALS)}"')
        if fill and piece.fill_rule == "evenodd":
            found.append('fill-rule="evenodd"')
        if stroke:
            found += self._stroke(stroke)
        elif not fill and layer.treatment.follows_lines:
            found += [f'stroke="{layer.color}"', f'stroke-width="{HAIRLINE_MM}"']
        if piece.opacity != 1:
            found.append(f'opacity="{number(piece.opacity, SHARE_DECIMALS)}"')
        return found

    def _stroke(self, stroke: Stroke) -> list[str]:
        found = [f'stroke="{stroke.color}"', f'stroke-width="{self.n(stroke.width_mm)}"']
        if stroke.opacity != 1:
            found.append(f'stroke-opacity="{number(stroke.opacity, SHARE_DECIMALS)}"')
        if stroke.cap != "butt":
            found.append(f'stroke-linecap="{stroke.cap}"')
        if stroke.join != "miter":
            found.append(f'stroke-linejoin="{stroke.join}"')
        elif stroke.miter_limit != 4:
            found.append(f'stroke-miterlimit="{number(stroke.miter_limit, SHARE_DECIMALS)}"')
        if stroke.dashes:
            found.append(f'stroke-dasharray="{" ".join(map(self.n, stroke.dashes))}"')
            if stroke.dash_offset:
                found.append(f'stroke-dashoffset="{self.n(stroke.dash_offset)}"')
        return found
