"""Bands along outlines with any joins and ends, united by the booleans: what is not simply at a distance."""

from __future__ import annotations

import numpy as np

from ..boolean import difference, union
from ..path import ARC, LINE, Path, line_controls
from .parts import Parts
from .round import Traced, joined

#: As the kernel `bands` numbers them.
JOINS = ("round", "mitre", "bevel")
ENDS = ("round", "flat", "square")
#: Bulges below this are straight here, as in the kernels.
FLAT_BULGE = 1e-7


def banded(parts: Parts, distance_mm: float, side: str, join: str, limit: float, ends: str) -> Traced:
    """All that lies in the bands of outlines: "out", shapes and what is about them; "in", shapes without what is along
    their outlines; "both", what is along them. Raises NotCombined as the booleans do."""
    from ..kernels.bands import band_loops

    left, right = side != "in", side != "out"
    plain = parts.plain
    rows, mark, start = band_loops(
        parts.table, plain, parts.start, parts.closed, distance_mm, left, right, JOINS.index(join), limit,
        ENDS.index(ends),
    )  # fmt: skip
    path = path_of(rows, start)
    if side == "in":
        own = path_of(rows_of(parts.table), parts.start)
        made = difference(own, Path.concatenate([own, path]))
        part = np.concatenate([np.arange(len(parts.table)), np.arange(len(parts.table)), mark[:, 0]])
        drawn = np.concatenate([plain, plain, mark[:, 1] > 0])
    else:
        made = union(path)
        part, drawn = mark[:, 0], mark[:, 1] > 0
    return retraced(made, part, drawn)


def retraced(made, part: np.ndarray, plain: np.ndarray) -> Traced:
    """A combined path of lines and arcs as rows, by what each of its sources is."""
    from ..kernels.elements import elements_of
    from ..proximity.chord_grid import curve_table

    kinds, geometry = curve_table(made.path)
    table, owner, begin, _ = elements_of(kinds, geometry, made.path.ctrl, made.path.bulge, 1e-6)
    order, start = np.arange(len(table)), begin[made.path.start]
    source = made.source[owner]
    return joined(table, part[source], plain[source], order, start, 0, made.off_mm)


def rows_of(table: np.ndarray) -> np.ndarray:
    """Both ends and the bulge of each line or arc (E, 5)."""
    return np.column_stack([table[:, :4], np.tan(table[:, 8] / 4)])


def path_of(rows: np.ndarray, start: np.ndarray) -> Path:
    """Closed outlines of lines and arcs, by both ends and the bulge of each (N, 5)."""
    filled = np.concatenate([[True], np.diff(start) > 0])
    bulge = np.where(np.abs(rows[:, 4]) < FLAT_BULGE, 0.0, np.clip(rows[:, 4], -1, 1))
    kind = np.where(bulge == 0, LINE, ARC)
    closed = np.ones(int(filled.sum()) - 1, bool)
    return Path(line_controls(rows[:, 0:2], rows[:, 2:4]), kind, bulge, start[filled], closed)
