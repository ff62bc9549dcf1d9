"""What a way of tracing is asked, and what it answers: the same for all of them."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Any, TypeVar

import numpy as np

from ..errors import BadRequest
from ..geometry import Path, box_of
from ..model.pixels import white_on_clear
from .edges.downsampling import LARGE_PX
from .edges.greyscale import luma_over_white, to_levels, without_alpha

T = TypeVar("T")
#: What counts as the picture's own transparency.
CLEAR_ALPHA = 128
#: A picture has a transparent background where so much of it is clear.
CLEAR_SHARE = 0.005
#: How light the ground is that white art is seen on, of 255.
DARK_GROUND = 40
#: Answers of one kind that a view keeps.
MOST_CACHED = 2


@dataclass(frozen=True)
class View:
    """A picture rgba (H, W, 4) uint8 with straight alpha, and the matrix (a, b, c, d, e, f) that takes its pixels to
    millimetres. origin: where its first pixel lies in the picture that it is a part of. cache: what was found out of
    its pixels once and is asked again, as sliders move; the same for all views of the same pixels."""

    rgba: np.ndarray
    matrix: tuple[float, ...]
    origin: tuple[int, int] = (0, 0)
    cache: dict[Any, Any] = field(default_factory=dict, compare=False, repr=False)

    @property
    def grey(self) -> np.ndarray:
        """How dark it looks on white, (H, W) float32 from 0 (black) to 1."""
        return self.memoize("grey", lambda: np.ascontiguousarray(luma_over_white(self.rgba)))

    @property
    def grey_levels(self) -> np.ndarray:
        """The same as levels from 0 to 255, (H, W) uint8: what scans of grey are made of."""
        return self.memoize("grey levels", lambda: to_levels(self.grey))

    @property
    def grey_to_trace(self) -> np.ndarray:
        """Of a large picture the levels: most that is done with it is going through its pixels."""
        return self.grey_levels if self.grey.size > LARGE_PX else self.grey

    @property
    def over_white(self) -> np.ndarray:
        """Colours as they look on white, (H, W, 3) uint8; of white art on a clear ground, as they look on dark."""
        return self.memoize("over white", self._over_white)

    @property
    def colours(self) -> np.ndarray:
        """The same with more after them where nothing is clear, (H, W, 3 or 4) uint8: nothing is copied then."""
        return self.over_white if self.has_alpha else self.rgba

    def _over_white(self) -> np.ndarray:
        if not self.has_alpha:
            return without_alpha(self.rgba)
        alpha = self.rgba[..., 3:].astype(np.float32) / 255
        # White art stands out from a dark ground only; where that is clear, it is no part of it all the same.
        ground = DARK_GROUND if white_on_clear(self.rgba) else 255
        return np.ascontiguousarray((self.rgba[..., :3] * alpha + ground * (1 - alpha) + 0.5).astype(np.uint8))

    @property
    def has_alpha(self) -> bool:
        return self.memoize("has alpha", lambda: bool(self.rgba[..., 3].min(initial=255) < 255))

    @property
    def has_clear_background(self) -> bool:
        """Whether a good part of it is transparent."""
        return self.has_alpha and self.memoize(
            "clear", lambda: float((self.rgba[..., 3] < CLEAR_ALPHA).mean()) >= CLEAR_SHARE
        )

    @property
    def pixel_mm(self) -> float:
        """The side of a square as large as a pixel."""
        a, b, c, d, _, _ = self.matrix
        return abs(a * d - b * c) ** 0.5

    def key(self, seed: Iterable[int]) -> str:
        """The name of what grows from a pixel x, y: that pixel in the picture that this is a part of."""
        x, y = seed
        return f"{x + self.origin[0]},{y + self.origin[1]}"

    def own(self, places: Iterable[tuple[int, int]]) -> tuple[tuple[int, int], ...]:
        """Pixels x, y of the whole picture as pixels of this part of it."""
        left, top = self.origin
        return tuple((x - left, y - top) for x, y in places)

    def memoize(self, name: Any, find: Callable[[], T]) -> T:
        """What `find` finds out of this view, asked once for each name. Of names (kind, ...) only the last few of a
        kind are kept: sliders ask for many."""
        if name in self.cache:
            return self.cache[name]
        found = self.cache[name] = find()
        if isinstance(name, tuple):
            alike = [other for other in list(self.cache) if isinstance(other, tuple) and other[0] == name[0]]
            for other in alike[:-MOST_CACHED]:
                self.cache.pop(other, None)
        return found

    def to_mm(self, points: np.ndarray) -> np.ndarray:
        a, b, c, d, e, f = self.matrix
        return points @ np.array([[a, b], [c, d]]) + (e, f)


@dataclass(frozen=True)
class TraceOptions:
    """How lines are to be found; each way takes what it knows. Lengths in mm, areas in mm2, None for what the picture
    proposes.

    colour: #rrggbb, what is of it is ink, whatever is darker. dropped, kept: places x, y in pixels of the whole
    picture: what lies there goes, or stays although it is small or background, or a hollow. inside, beyond: marks on
    the subject of a photo and beyond it. joined, given: two colours, the first becoming one with the second, or made of
    it; left_out: colours; moved: a place "x,y" and the colour that its piece goes to.
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
    colour: str | None = None
    inside: tuple[tuple[int, int], ...] = ()
    beyond: tuple[tuple[int, int], ...] = ()
    joined: tuple[str, ...] = ()
    left_out: tuple[str, ...] = ()
    given: tuple[str, ...] = ()
    moved: tuple[str, ...] = ()


@dataclass(frozen=True)
class FoundLayer:
    """key: what it is in this way of tracing; color #rrggbb; lines: whether its pieces are single lines, not shapes;
    base: the colour it was found in, where it is made of another."""

    key: str
    name: str
    color: str
    lines: bool = False
    base: str = ""


@dataclass(frozen=True)
class FoundPiece:
    """key: stays the same while what it is of is there; layer: a layer's key."""

    key: str
    path: Path
    layer: str


@dataclass(frozen=True)
class TraceResult:
    """Layers, the lowest first, and pieces in the order they lie; how many bits were too small; how far lines lie from
    the picture's edges, on average and at most; what was chosen for what was not given; and plain words on it.

    with_picture: whether the picture stays, to be printed, together with its line. matrix: what takes the picture's
    pixels, by which places are named, to millimetres; plane: what takes those of the picture as it lies there, (3, 3),
    where it was seen at a slant and put right; view: the picture as it was looked at last.
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
    matrix: tuple[float, ...] | None = None
    plane: np.ndarray | None = None
    view: View | None = None


def at_place(pieces: list[FoundPiece], view: View, pixel: tuple[int, int]) -> int | None:
    """Which of the pieces a pixel x, y of the whole picture is of: the one that grows from it, else of those that it
    lies in the smallest."""
    from ..geometry.proximity.places import Places

    name = f"{pixel[0]},{pixel[1]}"
    for k, piece in enumerate(pieces):
        if piece.key.rpartition(":")[2] == name:
            return k
    at = view.to_mm(np.array([pixel], float) - view.origin + 0.5)
    inside = []
    for k, piece in enumerate(pieces):
        left, top, right, bottom = box_of(piece.path)
        if left <= at[0, 0] <= right and top <= at[0, 1] <= bottom and Places(piece.path).contains(at)[0]:
            inside.append(((right - left) * (bottom - top), k))
    return min(inside)[1] if inside else None


def without(pieces: list[FoundPiece], view: View, asked: TraceOptions) -> list[FoundPiece]:
    """The pieces but those at places that are dropped."""
    gone = {at_place(pieces, view, pixel) for pixel in asked.dropped}
    return [piece for k, piece in enumerate(pieces) if k not in gone]


def filled(path: Path, view: View, asked: TraceOptions) -> Path:
    """A piece without those of its hollows that are kept as part of it."""
    from ..geometry import signed_areas
    from ..geometry.proximity.places import Places

    if not asked.kept or not (holes := np.flatnonzero(signed_areas(path) < 0)).size:
        return path
    at = view.to_mm(np.array(asked.kept, float) - view.origin + 0.5)
    left, top, right, bottom = box_of(path)
    at = at[(at[:, 0] >= left) & (at[:, 0] <= right) & (at[:, 1] >= top) & (at[:, 1] <= bottom)]
    gone = [k for k in holes.tolist() if len(at) and Places(path.take([k]).reversed()).contains(at).any()]
    return path.take(np.setdiff1d(np.arange(len(path)), gone)) if gone else path


def rgb_of(colour: str) -> np.ndarray:
    """sRGB (3,) from 0 to 255 of #rrggbb. Raises BadRequest."""
    match = re.fullmatch(r"#?([0-9a-fA-F]{2})([0-9a-fA-F]{2})([0-9a-fA-F]{2})", colour)
    if not match:
        raise BadRequest(f'"{colour}" is no colour: write it as #c0392b.')
    return np.array([int(part, 16) for part in match.groups()], float)


def hex_color(rgb) -> str:
    """sRGB from 0 to 255 as #rrggbb."""
    return "#" + "".join(f"{round(float(v)):02x}" for v in rgb)
