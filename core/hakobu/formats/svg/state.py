"""What is handed down on the walk through an SVG tree, and what it draws."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ...geometry.build import Built
from ...model.paint import BROAD_MM
from .appearance import Looks
from .values import Viewport
from .xml_tree import Node

#: A pen stretched by less than this looks round.
EVEN_STRETCH = 1.01


@dataclass(frozen=True)
class Clip:
    """A clipping: its element, the matrix of what it clips, and the place in the file of that."""

    node: Node
    matrix: np.ndarray
    anchor: str


@dataclass(frozen=True)
class State:
    """What is handed down: matrix to mm, properties, viewport, opacity so far, visibility, place in file, groups,
    references followed so far, and clippings."""

    matrix: np.ndarray
    style: dict[str, str]
    viewport: Viewport
    opacity: float = 1.0
    hidden: bool = False
    anchor: str = ""
    groups: tuple[str, ...] = ()
    uses: tuple[int, ...] = ()
    clips: tuple[Clip, ...] = ()


@dataclass(frozen=True)
class Drawn:
    """A shape: its outlines in its own units, the matrix that takes them to mm, its looks, and where it stands."""

    anchor: str
    built: Built
    matrix: np.ndarray
    line: int
    looks: Looks
    name: str
    hidden: bool
    groups: tuple[str, ...]
    clips: tuple[Clip, ...] = ()

    @property
    def stretched(self) -> bool:
        """Whether its pen would not look round."""
        return stretch_of(self.matrix) > EVEN_STRETCH

    @property
    def stretched_broadly(self) -> bool:
        """Whether it has a line that no pen of one width draws, and that is meant as an area."""
        return self.looks.stroke is not None and self.looks.stroke.width_mm > BROAD_MM and self.stretched


def scale_of(matrix: np.ndarray) -> float:
    """The mean scale of a matrix: what it does to stroke widths."""
    (a, c, _), (b, d, _) = matrix.tolist()
    return abs(a * d - b * c) ** 0.5 or 1e-12


def stretch_of(matrix: np.ndarray) -> float:
    """How much more a matrix enlarges in one direction than in another, as a ratio."""
    (a, c, _), (b, d, _) = matrix.tolist()
    size, turn = math.hypot(a + d, b - c), math.hypot(a - d, b + c)
    return (size + turn) / max(abs(size - turn), 1e-12)
