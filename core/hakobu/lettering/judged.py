"""What a face means for a word that is cut: how thin, how small its counters, what comes apart, what it lacks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from ..geometry import Path, bounds, signed_areas, transform, translation
from ..geometry.boolean import union
from ..geometry.inner import largest_circle
from ..geometry.narrow import narrowest_places
from ..geometry.nesting import shapes_of
from .face import EM_MM
from .faces import FontReader, face_of
from .setting import Line, set_line, spaced

#: Strokes thicker than this, in mm at the nominal size, are thick at any size.
THICK_MM = 30.0


@dataclass(frozen=True)
class Judged:
    """A word in a face at a size. thinnest_mm: its thinnest stroke; counter_mm: the circle that fits into its smallest
    counter; None where there is none, or it is a single-line face. pieces: how many come off the sheet, once letters
    that touch are welded. lacking: the letters that the face has not."""

    pieces: int
    thinnest_mm: float | None
    counter_mm: float | None
    lacking: tuple[str, ...]

    def as_json(self) -> dict[str, Any]:
        return asdict(self) | {"lacking": list(self.lacking)}


def judge_face(
    identity: str, text: str, capitals_mm: float, font: FontReader | None = None, axes: Mapping = {}
) -> Judged:
    """Raises what `face_of` raises."""
    face = face_of(identity, font, axes)
    lines = [set_line(face, line) for line in text.split("\n") if line.strip()]
    lacking = tuple(dict.fromkeys(sign for line in lines for sign in line.lacking))
    letters = [letter.path for line in lines for letter in line.inked]
    if face.single_line or not letters:
        return Judged(sum(len(path) for path in letters), None, None, lacking)
    scale = capitals_mm / face.capitals
    thin = min((_thinnest(path) for path in set(letters)), default=np.inf)
    counters = min((_counter(path) for path in set(letters)), default=np.inf)
    return Judged(
        sum(map(_pieces, lines)),
        float(thin * scale) if np.isfinite(thin) else None,
        float(counters * scale) if np.isfinite(counters) else None,
        lacking,
    )


def _pieces(line: Line) -> int:
    """How many shapes the letters of a line are, where those that touch are one."""
    if not line.inked:
        return 0
    places = spaced(line, EM_MM).x
    moved = [transform(each.path, translation(x, 0.0)) for each, x in zip(line.inked, places, strict=True)]
    boxes = np.array([bounds(path) for path in moved])
    alone = [not _meets(boxes, at) for at in range(len(moved))]
    count = sum(len(shapes_of(path)) for path, single in zip(moved, alone, strict=True) if single)
    together = [path for path, single in zip(moved, alone, strict=True) if not single]
    return count + (len(shapes_of(union(*together).path)) if together else 0)


def _meets(boxes: np.ndarray, at: int) -> bool:
    own = boxes[at]
    return bool(((boxes[:, :2] <= own[2:]) & (boxes[:, 2:] >= own[:2])).all(axis=1).sum() > 1)


@lru_cache(4000)
def _thinnest(path: Path) -> float:
    made = narrowest_places(path, THICK_MM)
    return float(made.width[made.inside].min(initial=np.inf))


@lru_cache(4000)
def _counter(path: Path) -> float:
    holes = [path.take([row]).reversed() for row in np.flatnonzero(signed_areas(path) < 0).tolist()]
    circles = [largest_circle(hole) for hole in holes]
    return min((2 * circle.radius for circle in circles if circle), default=np.inf)
