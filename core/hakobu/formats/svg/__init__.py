"""SVG: read as drawn, written plainly. Source: the W3C's SVG 2 and SVG 1.1 recommendations."""

from __future__ import annotations

import re

from ..format import Format, later

_ROOT = re.compile(rb"<(?:\w+:)?svg[\s>/]")


def _looks_like(data: bytes) -> bool:
    if data[:2] == b"\x1f\x8b":
        return True
    head = data[:65536]
    if head[:2] in (b"\xff\xfe", b"\xfe\xff"):
        head = head.decode("utf-16", "replace").encode()
    # Long comments and entity lists can push the root far down.
    return bool(_ROOT.search(head)) or (head.lstrip().startswith((b"<?xml", b"<!")) and bool(_ROOT.search(data)))


FORMAT = Format(
    id="svg",
    name="SVG",
    suffixes=(".svg", ".svgz"),
    media_type="image/svg+xml",
    looks_like=_looks_like,
    read=later(f"{__name__}.reader", "read"),
    write=later(f"{__name__}.writer", "write"),
)
