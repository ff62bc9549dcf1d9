"""DXF, the exchange format of drawing programs. Source: the DXF reference for AutoCAD R12, 2000 and 2018."""

from __future__ import annotations

import logging

from ..format import Format, later

#: The first is what is written where nothing else is asked for.
RELEASES = ("R2000", "R12", "R2004", "R2007", "R2010", "R2013", "R2018")
BINARY = b"AutoCAD Binary DXF"

# Whatever is worth saying of a file is said as a finding.
logging.getLogger("ezdxf").setLevel(logging.ERROR)


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
    read=later(f"{__name__}.reader", "read"),
    write=later(f"{__name__}.writer", "write"),
    releases=RELEASES,
)
