"""DXF: written so that everything opens it. Source: the DXF reference for AutoCAD 2000 (AC1015)."""

from __future__ import annotations

from ..format import Format
from .writer import write


def _looks_like(data: bytes) -> bool:
    head = data[:4096].lstrip()
    return head.startswith(b"AutoCAD Binary DXF") or (head[:1] in b"09" and b"SECTION" in head)


FORMAT = Format(
    id="dxf",
    name="DXF",
    suffixes=(".dxf",),
    media_type="image/vnd.dxf",
    looks_like=_looks_like,
    write=write,
)
