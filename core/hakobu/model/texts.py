"""Text that a file holds as text: what is needed to set it anew as outlines."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

#: So many letters of a text are kept.
MOST_LETTERS = 1000


@dataclass(frozen=True)
class FoundText:
    """A text as a file places it. at: the place that it is anchored to, in mm on the page; anchor: what of it lies
    there: "start", "centre" or "end" of its first baseline. size_mm: of the em, or where `by` is "capitals" of its
    capitals. turn: in degrees, clockwise. family: the face that it asks for. width_mm: how wide the file says it is; 0
    where it says nothing."""

    text: str
    at: tuple[float, float]
    size_mm: float
    by: str = "em"
    anchor: str = "start"
    turn: float = 0.0
    family: str = ""
    width_mm: float = 0.0

    def moved(self, matrix: np.ndarray) -> FoundText:
        """The text under a matrix (2, 3); one that mirrors turns y down and leaves the letters upright."""
        x, y = matrix[:, :2] @ self.at + matrix[:, 2]
        angle = np.radians(self.turn)
        along = matrix[:, :2] @ (np.cos(angle), np.sin(angle))
        scale = float(np.hypot(*along))
        return replace(
            self,
            at=(float(x), float(y)),
            size_mm=self.size_mm * scale,
            width_mm=self.width_mm * scale,
            turn=float(np.degrees(np.arctan2(along[1], along[0]))),
        )

    def is_sound(self) -> bool:
        """Whether it lies and measures anything."""
        return bool(np.isfinite([*self.at, self.size_mm, self.turn]).all()) and self.size_mm > 0

    def measure(self) -> dict[str, Any]:
        """As a finding tells it."""
        return {
            "text": self.text[:MOST_LETTERS],
            "x": self.at[0],
            "y": self.at[1],
            "size_mm": self.size_mm,
            "by": self.by,
            "anchor": self.anchor,
            "turn": self.turn,
            "family": self.family,
            "text_width_mm": self.width_mm,
        }
