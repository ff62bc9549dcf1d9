"""DXF, the exchange format of drawing programs. Source: the DXF reference for AutoCAD R12, 2000 and 2018."""

from __future__ import annotations

from ..format import Format
from .loading import BINARY
from .reader import read
from .writer import RELEASES, write


def _looks_like(data: bytes) -> bool:
    if data.startswith(BINARY):
        return True
    head = data[:8192].lstrip()
    return head[:1] in b"09" and b"SECTION" in head


FORMAT = Format(
    id="dxf",
    name="DXF",
    suffixes=(".dxf",),
    media_type="image/vnd.dxf",
    looks_like=_looks_like,
    read=read,
    write=write,
    releases=RELEASES,
)
