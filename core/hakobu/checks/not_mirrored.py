"""not-mirrored: a layer of a material that is cut from its back, drawn as it is seen from the front."""

from __future__ import annotations

from collections.abc import Iterator

from ..geometry import Path, bounds, compose, scaling, transform, translation
from ..model import Conditions, Document, Edit, Finding, Level, Treatment
from .rule import DOCUMENT, Rule


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for each layer."""
    # A sheet that is cut from its back is mirrored as it is written.
    by_sheet = {layer for sheet in document.sheets if sheet.mirrored for layer in sheet.layers}
    for layer in document.layers:
        material = conditions.named_material(layer)
        pieces = [piece for piece in document.pieces if piece.layer == layer.id]
        if material is None or not material.cut_from_back or layer.mirrored or not pieces:
            continue
        if layer.treatment is not Treatment.CUT or layer.id in by_sheet:
            continue
        box = bounds(Path.concatenate(piece.path for piece in pieces))
        yield RULE.at(
            f'"{layer.name}" is {material.name}, which is cut from its back, and is not mirrored.',
            extent=box,
            detail=layer.id,
            mendable=not any(picture.layer == layer.id for picture in document.pictures),
            measure={"layer": layer.id},
        )


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The layer is mirrored about the middle of the design, so that all layers still lie on each other."""
    layer = str(finding.measure["layer"])
    box = document.box
    pieces = [piece for piece in document.pieces if piece.layer == layer]
    if box is None or not pieces:
        return None
    middle = (box[0] + box[2]) / 2
    flip = compose(translation(2 * middle, 0.0), scaling(-1.0, 1.0))
    changes = {}
    for piece in pieces:
        made = transform(piece.path, flip)
        changes |= {(piece.id, k): outline for k, outline in enumerate(made.outlines())}
    return Edit(finding.key, changes, layers={layer: {"mirrored": True}})


RULE = Rule(
    id="not-mirrored",
    about=DOCUMENT,
    level=Level.SPOILS,
    title="Not mirrored",
    effect="What is cut from the back comes out the wrong way round.",
    find=find,
    mend=mend,
)
