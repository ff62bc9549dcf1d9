"""Outlines that are small for a layer's material, and what goes when one is taken away."""

from __future__ import annotations

import numpy as np

from ...model import Conditions, Edit, Finding
from ...model.conditions import ANY_MATERIAL
from ..rule import Rows, Rule
from .outlines import OutlineTable
from .piece_names import within


def least_areas(table: OutlineTable, conditions: Conditions) -> np.ndarray:
    """The least area of a part that holds, for each outline (K,), in mm2."""
    least = np.array([conditions.material_of(layer).least_piece_mm2 for layer in table.layers])
    return least[table.group] if len(table.group) else np.zeros(0)


def least_strips(table: OutlineTable, conditions: Conditions) -> np.ndarray:
    """The least width of a strip, for each outline (K,), in mm."""
    least = np.array([conditions.material_of(layer).least_strip_mm for layer in table.layers])
    return least[table.group] if len(table.group) else np.zeros(0)


#: As wide as this a line may be drawn that is meant to be one (common practice: a fine liner's is 0.1 to 0.8 mm).
DRAWN_LINE_MM = 1.0


def widest_lines(table: OutlineTable, conditions: Conditions) -> np.ndarray:
    """How far apart two outlines may be that are the sides of one line, for each outline (K,), in mm. Where it is known
    what the material bears, a filled strip that it bears is meant."""
    named = np.array([conditions.named_material(layer) is not None for layer in table.layers], bool)
    least = least_strips(table, conditions)
    meant = named[table.group] & table.filled if len(least) else np.zeros(0, bool)
    return np.where(meant, least, np.maximum(least, DRAWN_LINE_MM))


def net_areas(table: OutlineTable) -> np.ndarray:
    """What each outline encloses without what the next ones of its piece in it do (K,)."""
    area, own = np.abs(table.area), table.nested.own
    inner = own >= 0
    return area - np.bincount(own[inner], area[inner], minlength=len(area))


def goes_unseen(area_mm2: float, length_mm: float, conditions: Conditions) -> bool:
    """Whether taking away so much is a safe mend, and no material could have held it."""
    return area_mm2 <= conditions.tolerance_mm * length_mm and area_mm2 <= ANY_MATERIAL.least_piece_mm2


def small_ones(rule: Rule, table: OutlineTable, rows: np.ndarray, conditions: Conditions, what: str) -> Rows:
    """A finding for each of some outlines that are too small, the smallest first."""
    area = net_areas(table)

    def finding(k: int) -> Finding:
        (identity, outline), size = table.ref(k), float(area[k])
        left, top = table.boxes[k, :2]
        return rule.at(
            f"{what} of {size:.2g} mm2 lies {within(table.piece_of(k))}at {left:.1f}, {top:.1f} mm.",
            [identity],
            table.boxes[k].reshape(2, 2).mean(axis=0),
            table.boxes[k],
            detail=str(outline),
            mendable=True,
            safe=goes_unseen(size, float(table.size[k]), conditions),
            measure={"area_mm2": round(size, 4), "outline": outline + 1},
        )

    return Rows(rule, rows[np.argsort(area[rows], kind="stable")].tolist(), finding)


def taken_away(table: OutlineTable, finding: Finding) -> Edit | None:
    """The edit that takes an outline away, with all of its piece that lies in it."""
    row = table.row_of(finding.pieces[0], int(finding.measure["outline"]) - 1)
    if row is None:
        return None
    gone = [row]
    # Holes and islands in it, whatever their order.
    for outer in gone:
        gone.extend(table.inner_of.get(outer, ()))
    return Edit(finding.key, {table.ref(n): None for n in gone})
