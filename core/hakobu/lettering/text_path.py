"""Text on pages that go along, and numbers on pieces, as outlines."""

from __future__ import annotations

from ..geometry import Path, box_of, transform, translation
from .baseline import Straight
from .face import EM_MM
from .faces import face_of
from .layout import Spacing, laid_out, set_at
from .setting import set_line

FACE, NUMBERS = "varela-round", "archivo-black"
#: For what a tool follows rather than fills.
SINGLE_LINE = "line-plain"


def text_path(words: str, at: tuple[float, float], capitals_mm: float, middle: bool = False, face_id: str = "") -> Path:
    """A line of text as outlines, from a place on its baseline, or in bold numbers with its middle there. What the face
    lacks is left out. face_id: another face."""
    face = face_of(face_id or (NUMBERS if middle else FACE))
    line = set_line(face, words)
    if not line.inked:
        return Path.concatenate([])
    made = set_at([line], capitals_mm * EM_MM / face.capitals, Spacing(), "centre")
    x = at[0] if middle else at[0] + made.width / 2
    return Path.concatenate(each.path for each in laid_out(made, Straight((x, at[1]))))


def number_path(number: int | str, at: tuple[float, float], capitals_mm: float) -> Path:
    """A number in single lines, the middle of its box at a place."""
    path = text_path(str(number), (0.0, 0.0), capitals_mm, face_id=SINGLE_LINE)
    left, top, right, bottom = box_of(path)
    return transform(path, translation(at[0] - (left + right) / 2, at[1] - (top + bottom) / 2))
