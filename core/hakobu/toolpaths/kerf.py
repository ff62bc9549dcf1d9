"""Kerf: each outline that is cut is run half the kerf out on its waste side, so that what is kept has its size."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..geometry import Path, signed_areas
from ..geometry.crossings import crossings
from ..geometry.measure import outline_bounds
from ..geometry.offset import offset
from ..geometry.offset.offsetting import Offset
from ..model import Finding, Treatment
from .notices import EATEN, NARROW
from .places import on_page, piece_ids
from .program import Program

#: How far a compensated curve may be from the true parallel, in mm: a tenth of a machine's step.
WITHIN_MM = 0.0025
#: Of crossings between neighbours so many are told.
MOST_TOLD = 50


def with_kerf(program: Program) -> tuple[Program, list[Finding]]:
    """The program with closed cuts half the kerf of their machines towards the waste, and what cannot be had so: an
    outline that the kerf eats, one that it parts, neighbours nearer than the kerf. Those that nothing is left of run as
    drawn. A pen takes nothing away."""
    kerf = program.value("cut_kerf_mm", 0.0) * program.treated(Treatment.CUT) * (program.side != 0)
    rows = np.flatnonzero(kerf > 0)
    if not len(rows):
        return program, []
    made: dict[int, Path] = {}
    # A knife turns at a corner, not along a small arc.
    knife = program.value("tool", "") == "knife"
    for distance, mitred in sorted(set(zip((kerf * program.side)[rows].tolist(), knife[rows].tolist(), strict=True))):
        own = rows[(kerf[rows] * program.side[rows] == distance) & (knife[rows] == mitred)]
        for batch in _apart(program.path, own, abs(distance)):
            made |= _offset(program.path, batch, distance / 2, "mitre" if mitred else "round")
    findings = list(_eaten(program, rows, kerf, made))
    paths, origin = [], []
    for run, outline in enumerate(program.path.outlines()):
        new = made.get(run)
        paths.append(outline if new is None else new)
        origin += [run] * len(paths[-1])
    compensated = program.with_paths(Path.concatenate(paths), np.array(origin))
    # What runs as drawn has no side on which there would be room.
    compensated.side[np.isin(origin, [run for run in rows.tolist() if run not in made])] = 0
    return compensated, [*findings, *_narrow(compensated, kerf[origin])]


def _apart(path: Path, rows: np.ndarray, kerf_mm: float) -> Iterator[np.ndarray]:
    """The runs in as few lots as is easy, in each of which boxes are more than a kerf apart: what is offset together
    would grow together."""
    box = outline_bounds(path)[rows] + np.array([-1, -1, 1, 1]) * kerf_mm
    order = np.argsort(-(box[:, 2] - box[:, 0]) * (box[:, 3] - box[:, 1]), kind="stable")
    lots: list[list[int]] = []
    held: list[_Grid] = []
    cell = float(np.median(np.maximum(box[:, 2] - box[:, 0], box[:, 3] - box[:, 1]))) + 1e-3
    for k in order.tolist():
        for lot, grid in zip(lots, held, strict=True):
            if grid.takes(box[k]):
                lot.append(k)
                break
        else:
            held.append(_Grid(cell))
            held[-1].takes(box[k])
            lots.append([k])
    for lot in lots:
        yield rows[np.sort(lot)]


class _Grid:
    """Boxes that lie apart, by the cells that they lie in; those of many cells by themselves."""

    MOST_CELLS = 64

    def __init__(self, cell: float) -> None:
        self.cell, self.cells, self.large = cell, {}, []

    def takes(self, box: np.ndarray) -> bool:
        """Takes a box if it meets none."""
        if any(_meet(box, other) for other in self.large):
            return False
        x0, y0, x1, y1 = np.floor(box / self.cell).astype(int).tolist()
        if (x1 - x0 + 1) * (y1 - y0 + 1) > self.MOST_CELLS:
            if any(_meet(box, other) for own in self.cells.values() for other in own):
                return False
            self.large.append(box)
            return True
        keys = [(x, y) for x in range(x0, x1 + 1) for y in range(y0, y1 + 1)]
        if any(_meet(box, other) for key in keys for other in self.cells.get(key, ())):
            return False
        for key in keys:
            self.cells.setdefault(key, []).append(box)
        return True


def _meet(a: np.ndarray, b: np.ndarray) -> bool:
    return bool(a[0] <= b[2] and b[0] <= a[2] and a[1] <= b[3] and b[1] <= a[3])


def _offset(path: Path, rows: np.ndarray, distance_mm: float, join: str) -> dict[int, Path]:
    """Of each run its outlines at a distance, that begin where it does and run as it does."""
    before = path.take(rows)
    found = offset(before, distance_mm=distance_mm, join=join, within_mm=WITHIN_MM)
    made: dict[int, list[Path]] = {}
    for n, outline in enumerate(found.path.outlines()):
        a, b = int(found.path.start[n]), int(found.path.start[n + 1])
        own = int(np.bincount(found.outline[a:b]).argmax())
        made.setdefault(own, []).append(_as_begun(outline, found, a, b, before, own))
    return {int(rows[own]): Path.concatenate(outlines) for own, outlines in made.items()}


def _as_begun(outline: Path, found: Offset, a: int, b: int, before: Path, own: int) -> Path:
    """An outline begun beside the first segment of the one that it comes from, and run the same way."""
    first = int(before.start[own])
    against = signed_areas(outline)[0] * signed_areas(before.outline(own))[0] < 0
    beside = np.where(found.source[a:b] < first, np.iinfo(np.int64).max, found.source[a:b])
    # Of the parts of the first segment the one before which another segment is, the way the outline ran.
    first_parts = beside == beside.min()
    other = np.roll(first_parts, -1 if against else 1)
    starts = np.flatnonzero(first_parts & ~other)
    start = int(starts[0]) if len(starts) else 0
    rows = np.roll(np.arange(b - a), -(start + against))
    turned = Path(outline.ctrl[rows], outline.kind[rows], outline.bulge[rows], [0, b - a], [True])
    return turned.reversed() if against else turned


def _eaten(program: Program, rows: np.ndarray, kerf: np.ndarray, made: dict[int, Path]) -> Iterator[Finding]:
    for run in rows.tolist():
        left = len(made.get(run, ()))
        if left == 1:
            continue
        hole = program.side[run] < 0
        place = on_page(program, run)
        what = "hole" if hole else "outline"
        if not left:
            said = f"A {what} is narrower than the kerf of {kerf[run]:g} mm: it is cut as drawn and comes out wider. "
            said += "Make it larger, or take a finer tool."
        else:
            said = f"A {what} has a part narrower than the kerf of {kerf[run]:g} mm, which parts it in {left}: "
            said += "widen it, or take a finer tool."
        yield EATEN.at(said, f"{run}", piece_ids(program, run), place, kerf_mm=float(kerf[run]), parts=left)


def _narrow(program: Program, kerf: np.ndarray) -> Iterator[Finding]:
    """Outlines that are cut into by a neighbour's kerf."""
    cut = np.flatnonzero(program.treated(Treatment.CUT) & program.path.closed)
    path = program.path.take(cut)
    found = crossings(path, np.zeros(len(path), np.int64))
    told: set[tuple[int, int]] = set()
    for (one, other), (x, y) in zip(found.outlines.tolist(), found.places.tolist(), strict=True):
        if one == other or (one, other) in told or len(told) >= MOST_TOLD:
            continue
        told.add((one, other))
        a, b = int(cut[one]), int(cut[other])
        ids = tuple(sorted({*piece_ids(program, a), *piece_ids(program, b)}))
        said = f"Two outlines are nearer than the kerf of {max(kerf[a], kerf[b]):g} mm: each is cut into by the other. "
        said += "Move them apart, or cut as designed."
        yield NARROW.at(said, f"{a} {b}", ids, (x, program.page_height_mm - y), kerf_mm=float(max(kerf[a], kerf[b])))
