"""near-colours: two layers whose colours differ only by a shade: one material, most likely, on two sheets."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

import numpy as np

from ..model import Conditions, Document, Edit, Finding, Level
from ..model.lab import color_lab
from .rule import DOCUMENT, Rule

#: Nearer than this in CIELAB (the difference of CIE 1976) two colours are one to most eyes (common practice).
SHADE = 6.0


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for each two layers of one treatment that have pieces."""
    count = {layer.id: 0 for layer in document.layers}
    for piece in document.pieces_followed():
        count[piece.layer] += 1
    used = [layer for layer in document.layers if count[layer.id]]
    lab = {layer.id: color_lab(layer.color) for layer in used}
    for first, second in combinations(used, 2):
        away = float(np.linalg.norm(lab[first.id] - lab[second.id]))
        # Of one colour layers are apart on purpose.
        if not 0 < away <= SHADE or first.treatment is not second.treatment or _said(first) != _said(second):
            continue
        small, large = sorted((first, second), key=lambda layer: (count[layer.id], layer.id))
        yield RULE.at(
            f'The colours of "{small.name}" and "{large.name}" differ only by a shade.',
            [piece.id for piece in document.pieces_followed() if piece.layer == small.id][:1],
            detail=f"{first.id} {second.id}",
            mendable=True,
            measure={"difference": round(away, 2), "layer": small.id, "to": large.id},
        )


def _said(layer) -> str:
    return layer.material or ""


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The pieces of the layer with fewer go to the other one."""
    layer, to = finding.measure["layer"], finding.measure["to"]
    if to not in document.layer_by_id:
        return None
    moved = {piece.id: {"layer": to} for piece in document.pieces if piece.layer == layer}
    return Edit(finding.key, pieces=moved) if moved else None


RULE = Rule(
    id="near-colours",
    about=DOCUMENT,
    level=Level.NOTE,
    title="Two colours nearly the same",
    effect="They are cut from two sheets, though they are most likely one material.",
    find=find,
    mend=mend,
    thresholds=("no more than 6 apart in CIELAB (common practice)",),
)
