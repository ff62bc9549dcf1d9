"""PDF out: one page of the document's own size; outlines as they are, arcs as curves that cannot be told from them."""

from __future__ import annotations

import io
from collections.abc import Sequence

from ...geometry import CUBIC, Path
from ...geometry.affine import arcs_to_cubics
from ...model import Document, Picture, Piece
from ..format import WriteOptions, Written

#: Points in a millimetre: a point is 1/72 inch.
POINTS = 72 / 25.4
#: The line that shows an outline without any paint of its own, in mm.
HAIRLINE_MM = 0.1
CAPS, JOINS = {"butt": 0, "round": 1, "square": 2}, {"miter": 0, "round": 1, "bevel": 2}


def write(document: Document, options: WriteOptions) -> Written:
    """All pieces that are not left out, in paint order, on one page."""
    lost = any(p.sha256 not in options.pictures for p in document.pictures_in_use())
    notes = ("a picture is not written: its pixels are not at hand",) if lost else ()
    return Written(write_pages([document], options), notes)


def write_pages(documents: Sequence[Document], options: WriteOptions) -> bytes:
    """A page for each document, of its own size."""
    from reportlab.pdfgen.canvas import Canvas  # takes its time to load

    out = io.BytesIO()
    page = Canvas(out, invariant=1, pageCompression=1)
    page.setTitle(options.title or "Drawing")
    page.setCreator("Hakobu")
    for document in documents:
        width, height = document.frame
        page.setPageSize((max(width, 0.1) * POINTS, max(height, 0.1) * POINTS))
        # Millimetres from the top left, y down, as the document has them.
        page.transform(POINTS, 0, 0, -POINTS, 0, height * POINTS)
        for picture in document.pictures_in_use():
            if picture.sha256 in options.pictures:
                _print(page, picture, options.pictures[picture.sha256])
        for piece in document.pieces_in_use():
            _draw(page, piece, document.layer_by_id[piece.layer].color)
        page.showPage()
    page.save()
    return out.getvalue()


def _print(page, picture: Picture, data: bytes) -> None:
    """A picture, whose rows a PDF draws from the bottom up."""
    from reportlab.lib.utils import ImageReader

    width, height = picture.size_px
    page.saveState()
    page.transform(*picture.matrix)
    page.transform(1, 0, 0, -1, 0, height)
    page.drawImage(ImageReader(io.BytesIO(data)), 0, 0, width, height, mask="auto")
    page.restoreState()


def _draw(page, piece: Piece, color: str) -> None:
    fill, stroke = piece.fill, piece.stroke
    page.saveState()
    if fill:
        page.setFillColor(_color(fill.color), alpha=fill.opacity * piece.opacity)
    if stroke:
        page.setStrokeColor(_color(stroke.color), alpha=stroke.opacity * piece.opacity)
        page.setLineWidth(stroke.width_mm)
        page.setLineCap(CAPS[stroke.cap])
        page.setLineJoin(JOINS[stroke.join])
        page.setMiterLimit(stroke.miter_limit)
        if stroke.dashes:
            page.setDash(list(stroke.dashes), stroke.dash_offset)
    elif not fill:
        page.setStrokeColor(_color(color))
        page.setLineWidth(HAIRLINE_MM)
    rule = 0 if piece.fill_rule == "evenodd" else 1
    page.drawPath(_path(page, piece.path), stroke=int(bool(stroke or not fill)), fill=int(bool(fill)), fillMode=rule)
    page.restoreState()


def _path(page, path: Path):
    made, path = page.beginPath(), arcs_to_cubics(path)
    points, kinds = path.ctrl.reshape(-1, 8).tolist(), path.kind.tolist()
    for k in range(len(path)):
        first, last = int(path.start[k]), int(path.start[k + 1])
        made.moveTo(*points[first][:2])
        for i in range(first, last):
            if kinds[i] == CUBIC:
                made.curveTo(*points[i][2:])
            else:
                made.lineTo(*points[i][6:])
        if path.closed[k]:
            made.close()
    return made


def _color(color: str):
    from reportlab.lib.colors import HexColor

    return HexColor(color)
