"""Pictures: PNG and JPEG come in as a picture on the page at their stated size. Sources: the PNG specification (W3C),
JPEG File Interchange Format (ECMA TR/98), Exif 2.32 for orientation and resolution."""

from __future__ import annotations

from ..format import Format
from .reader import read

PNG = Format(
    id="png",
    name="PNG",
    suffixes=(".png",),
    media_type="image/png",
    looks_like=lambda data: data[:8] == b"\x89PNG\r\n\x1a\n",
    read=read,
)
JPEG = Format(
    id="jpeg",
    name="JPEG",
    suffixes=(".jpg", ".jpeg"),
    media_type="image/jpeg",
    looks_like=lambda data: data[:3] == b"\xff\xd8\xff",
    read=read,
)
