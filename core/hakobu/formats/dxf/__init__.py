"""DXF, the exchange format of drawing programs. Source: the DXF reference for AutoCAD R12, 2000 and 2018."""

from __future__ import annotations

import logging
from threading import Lock

from ..format import Format, later

#: The first is what is written where nothing else is asked for.
RELEASES = ("R2000", "R12", "R2004", "R2007", "R2010", "R2013", "R2018")
BINARY = b"AutoCAD Binary DXF"

# Whatever is worth saying of a file is said as a finding.
logging.getLogger("ezdxf").setLevel(logging.ERROR)

_LOADING = Lock()


def load_library() -> None:
    """Loads ezdxf, which takes its time. Its modules import each other in a circle, so that two threads that load it at
    once would each find the other's half: one does, and the other waits."""
    with _LOADING:
        import ezdxf  # noqa: F401


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
