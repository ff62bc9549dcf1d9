"""What a way of tracing is asked, and what it answers: the same for all of them."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from ..geometry import Path
from .grey import luma_over_white

#: What counts as the picture's own transparency.
CLEAR_ALPHA = 128
#: A picture has a transparent background where so much of it is clear.
CLEAR_SHARE = 0.005


@dataclass(frozen=True)
class View:
    """A picture rgba (H, W, 4) uint8 with straight alpha, and the matrix (a, b, c, d, e, f) that takes its pixels to
    millimetres."""

    rgba: np.ndarray
    matrix: tuple[float, ...]

    @cached_property
    def grey(self) -> np.ndarray:
        """How dark it looks on white, (H, W) float32 from 0 (black) to 1."""
        return np.ascontiguousarray(luma_over_white(self.rgba))

    @cached_property
    def over_white(self) -> np.ndarray:
        """Colours as they look on white, (H, W, 3) uint8."""
        if not self.has_alpha:
            return np.ascontiguousarray(self.rgba[..., :3])
        alpha = self.rgba[..., 3:].astype(np.float32) / 255
        return np.ascontiguousarray((self.rgba[..., :3] * alpha + 255 * (1 - alpha) + 0.5).astype(np.uint8))

    @cached_property
    def has_alpha(self) -> bool:
        return bool(self.rgba[..., 3].min(initial=255) < 255)

    @cached_property
    def has_clear_background(self) -> bool:
        """Whether a good part of it is transparent."""
        return self.has_alpha and float((self.rgba[..., 3] < CLEAR_ALPHA).mean()) >= CLEAR_SHARE

    @property
    def pixel_mm(self) -> float:
        """The side of a square as large as a pixel."""
        a, b, c, d, _, _ = self.matrix
        return abs(a * d - b * c) ** 0.5

    def to_mm(self, points: np.ndarray) -> np.ndarray:
        a, b, c, d, e, f = self.matrix
        return points @ np.array([[a, b], [c, d]]) + (e, f)


@dataclass(frozen=True)
class Asked:
    """How lines are to be found; each way takes what it knows. Lengths in mm, areas in mm2, None for what the picture
    proposes.

    dropped, kept: places x, y in pixels: what lies there goes, or stays although it is small or background.
    """

    threshold: float | None = None
    smoothness_mm: float | None = None
    smallest_mm2: float | None = None
    colours: int | None = None
    shades: int = 3
    with_darker: bool = False
    background: bool = True
    tolerance: float = 0.1
    holes: bool = False
    distance_mm: float = 0.0
    underlap_mm: float = 0.0
    widest_mm: float | None = None
    on_top: bool = False
    dropped: tuple[tuple[int, int], ...] = ()
    kept: tuple[tuple[int, int], ...] = ()


@dataclass(frozen=True)
class FoundLayer:
    """key: what it is in this way of tracing; color #rrggbb; lines: whether its pieces are single lines, not shapes."""

    key: str
    name: str
    color: str
    lines: bool = False


@dataclass(frozen=True)
class FoundPiece:
    """key: stays the same while what it is of is there; layer: a layer's key."""

    key: str
    path: Path
    layer: str


@dataclass(frozen=True)
class Found:
    """Layers, the lowest first, and pieces in the order they lie; how many bits were too small; how far lines lie from
    the picture's edges, on average and at most; what was chosen for what was not given; and plain words on it.

    with_picture: whether the picture stays, to be printed, together with its line.
    """

    layers: tuple[FoundLayer, ...]
    pieces: tuple[FoundPiece, ...]
    specks: int = 0
    mean_mm: float = 0.0
    max_mm: float = 0.0
    chosen: dict[str, float] = field(default_factory=dict)
    title: str = ""
    notes: tuple[str, ...] = ()
    with_picture: bool = False


def without(pieces: list[FoundPiece], view: View, asked: Asked) -> list[FoundPiece]:
    """The pieces but those that lie at places that are dropped: of several there, the smallest."""
    from ..geometry import bounds
    from ..geometry.places import Places

    gone = set()
    for place in asked.dropped:
        at = view.to_mm(np.array([place], float) + 0.5)
        inside = []
        for piece in pieces:
            left, top, right, bottom = bounds(piece.path)
            if left <= at[0, 0] <= right and top <= at[0, 1] <= bottom and Places(piece.path).contains(at)[0]:
                inside.append(((right - left) * (bottom - top), piece.key))
        if inside:
            gone.add(min(inside)[1])
    return [piece for piece in pieces if piece.key not in gone]


def hex_color(rgb) -> str:
    """sRGB from 0 to 255 as #rrggbb."""
    return "#" + "".join(f"{round(float(v)):02x}" for v in rgb)
