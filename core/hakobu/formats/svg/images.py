"""Pictures that an SVG file carries inside itself. Source: SVG 2, section 12.3; data URLs, RFC 2397."""

from __future__ import annotations

import base64
import binascii
import hashlib
import re
from dataclasses import dataclass

import numpy as np

from ...errors import HakobuError
from ...geometry import compose, translation
from ..budget import Budget
from .values import Viewport, fit_view_box
from .xml_tree import Node


@dataclass(frozen=True)
class Embedded:
    """A picture: its bytes, their hash, its size in pixels, the matrix that takes pixels to mm, its place, and the name
    of the layer that it is printed on, where it is."""

    data: bytes
    sha256: str
    size_px: tuple[int, int]
    matrix: tuple[float, float, float, float, float, float]
    anchor: str = ""
    printed_on: str | None = None


def embedded(node: Node, matrix: np.ndarray, viewport: Viewport, budget: Budget) -> Embedded | str:
    """The picture of an `image` element, or a phrase on why there is none."""
    from ..image.decode import opened

    data = _bytes(node.attributes["href"])
    if not data:
        return "A picture inside the drawing cannot be unpacked"
    if data.lstrip()[:1] == b"<" or data[:2] == b"\x1f\x8b":
        return "A drawing inside the drawing is not taken in"
    try:
        image, turned = opened(data, budget)
    except HakobuError as error:
        return f"A picture inside the drawing cannot be read: {error.sentence}"
    width, height = image.size[::-1] if turned else image.size
    a = node.attributes
    x, y = viewport.across(a.get("x")), viewport.down(a.get("y"))
    across = viewport.across(a.get("width"), None)
    down = viewport.down(a.get("height"), None)
    if across is None:
        across = float(width) if down is None else down * width / height
    if down is None:
        down = across * height / width
    if across <= 0 or down <= 0:
        return "A picture inside the drawing has no size"
    fit = fit_view_box((0.0, 0.0, float(width), float(height)), across, down, a.get("preserveAspectRatio"))
    (p, r, e), (q, s, f) = compose(matrix, compose(translation(x, y), fit)).tolist()
    return Embedded(data, hashlib.sha256(data).hexdigest(), (width, height), (p, q, r, s, e, f))


def _bytes(url: str) -> bytes:
    head, _, body = url.partition(",")
    try:
        if head.rstrip().endswith(";base64"):
            return base64.b64decode(b"".join(_plain(body).split()))
        return _plain(body)
    except (binascii.Error, ValueError):
        return b""


def _plain(text: str) -> bytes:
    """The bytes of a text with %41 for A."""
    return re.sub(rb"%([0-9A-Fa-f]{2})", lambda match: bytes([int(match[1], 16)]), text.encode("latin-1", "replace"))
