"""A picture as a document: one picture on a page of its own physical size, on a layer that is left out of the cut."""

from __future__ import annotations

import hashlib

from ...model import Document, Finding, Layer, Page, Picture, Treatment
from ...model.ids import piece_id
from ...model.notices import NO_UNIT, TAKEN_PLAINLY, WHITE_ON_CLEAR
from ...model.pixels import white_on_clear
from ...model.units import MM_PER_INCH, PX_PER_INCH, FileUnit
from ..format import ReadOptions, ReadResult
from .decode import opened, pixels

#: Resolutions outside of this are slips of the pen of some program.
SENSIBLE = (10.0, 20_000.0)


def read(data: bytes, options: ReadOptions) -> ReadResult:
    """Decodes everything once, so that a damaged picture is noticed here and not at the first trace."""
    image, turned = opened(data, options.budget)
    array = pixels(image)
    height, width = array.shape[:2]
    across, down, stated = resolution(image)
    if turned:
        across, down = down, across
    size = width * MM_PER_INCH / across, height * MM_PER_INCH / down
    layer = Layer(piece_id(options.key, "picture-layer"), "Picture", "#fffdf7", Treatment.LEAVE_OUT)
    picture = Picture(
        piece_id(options.key, "picture"),
        hashlib.sha256(data).hexdigest(),
        (width, height),
        (MM_PER_INCH / across, 0.0, 0.0, MM_PER_INCH / down, 0.0, 0.0),
        layer.id,
    )
    findings = tuple(_said(image, data))
    if white_on_clear(array):
        findings += (WHITE_ON_CLEAR.at("What is drawn in it is white, on a clear ground.", "white", (picture.id,)),)
    if not stated:
        message = (
            f"This picture states no resolution: {PX_PER_INCH:g} pixels an inch were taken, which makes it "
            f"{size[0]:.0f} x {size[1]:.0f} mm."
        )
        findings += (NO_UNIT.at(message, "resolution"),)
    unit = FileUnit("pixel", MM_PER_INCH / across, stated)
    return ReadResult(Document(Page(*size), (layer,), pictures=(picture,)), findings, unit=unit)


def resolution(image) -> tuple[float, float, bool]:
    """Pixels an inch across and down, and whether the file says so (with JFIF
    density or Exif, PNG's pHYs, the tags of TIFF, or the header of BMP)."""
    stated = image.info.get("dpi")
    if image.format == "JPEG":
        unit, density = image.info.get("jfif_unit"), image.info.get("jfif_density")
        if unit in (1, 2) and density:
            stated = tuple(v * (1 if unit == 1 else 2.54) for v in density)
        else:
            # Pillow fills in 72 where Exif says nothing; what is not stated must not look stated.
            stated = _of_exif(image)
    elif not stated:
        stated = _of_exif(image)
    if stated and all(SENSIBLE[0] <= v <= SENSIBLE[1] for v in stated):
        return float(stated[0]), float(stated[1]), True
    return PX_PER_INCH, PX_PER_INCH, False


def _of_exif(image) -> tuple[float, ...] | None:
    """Tags 282, 283 and 296: resolution across and down, and whether an inch or a centimetre is meant."""
    exif = image.getexif()
    values = [exif.get(tag) for tag in (282, 283)]
    factor = 2.54 if exif.get(296) == 3 else 1.0
    try:
        return tuple(float(v) * factor for v in values) if all(values) else None
    except (TypeError, ZeroDivisionError):
        return None


def _said(image, data: bytes) -> list[Finding]:
    said = []
    if image.mode == "CMYK":
        said.append("Its colours are meant for print (CMYK); they were turned into screen colours plainly.")
    if image.mode.startswith("I") or (image.format == "PNG" and data[24:25] == b"\x10"):
        said.append("It has 16 bits a channel; the upper 8 are used.")
    elif image.format == "TIFF" and max(image.tag_v2.get(258, (8,))) > 8:
        said.append("It has more than 8 bits a channel; the upper 8 are used.")
    if getattr(image, "n_frames", 1) > 1:
        said.append(f"It holds {image.n_frames} pictures; the first is used.")
    return [TAKEN_PLAINLY.at(f"The picture: {text}", text) for text in said]
