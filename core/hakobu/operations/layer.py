"""layer: what a layer is called and made of, its colour, its treatment, and whether it is drawn from the back."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

from ..errors import BadRequest, CannotDo
from ..model import Document, Layer, Treatment
from ..model.declare import choice, colour, flag, text
from ..model.declare import layer as a_layer
from ..model.lab import is_white
from ..model.materials import material_of
from ..model.step import ON
from .operation import Context, Operation, Outcome, Role, at_once
from .to_layer import in_colour

#: What the machine does with a layer, for the log.
DONE = {
    Treatment.CUT: "is cut",
    Treatment.SCORE: "is scored",
    Treatment.DRAW: "is drawn",
    Treatment.PRINT: "is printed",
    Treatment.LEAVE_OUT: "is left out",
}


@dataclass(frozen=True)
class SetLayer:
    layer: str = a_layer("", label="layer", help="the layer, by its id; without it, those of what is picked")
    name: str | None = text(None, label="name", help="what it is called")
    color: str | None = colour(None, label="colour", help="the colour of its material, as #rrggbb")
    treatment: str | None = choice(
        None, label="treatment", help="what the machine does with it", choices=[(t.value, DONE[t]) for t in Treatment]
    )
    material: str | None = text(
        None, label="material", help="what it is made of, by the material's id; empty for the job's own"
    )
    mirrored: bool | None = flag(None, label="mirrored", help="whether it is drawn as seen from the back")


def run(document: Document, parameters: SetLayer, context: Context) -> Outcome:
    """Only what is given changes. What is cut, scored or drawn takes the colour of its material, but for white pieces
    among others: they stand for holes."""
    chosen = {parameters.layer} if parameters.layer else {piece.layer for piece in context.pieces(document)}
    named = [layer for layer in document.layers if layer.id in chosen]
    if not named:
        raise CannotDo("The layer that was to be changed is no longer there; choose another one.")
    values = _values(parameters)
    if not values:
        raise BadRequest("Say what is to change of the layer: its name, colour, treatment, material or mirroring.")
    fresh = {layer.id: replace(layer, **values) for layer in named}
    made = replace(document, layers=tuple(fresh.get(layer.id, layer) for layer in document.layers))
    for layer in fresh.values():
        if parameters.color is not None and layer.treatment is not Treatment.PRINT:
            made = _in_its_colour(made, layer)
    names = " and ".join(layer.name for layer in named)
    return Outcome(made, f"{names} {', '.join(_said(fresh[named[0].id], values))}", "", {})


def _values(parameters: SetLayer) -> dict:
    """What is given, as a layer has it. Raises BadRequest for what no layer can have."""
    given = {f.name: getattr(parameters, f.name) for f in fields(parameters) if f.name != "layer"}
    values = {name: value for name, value in given.items() if value is not None}
    if "name" in values:
        values["name"] = values["name"].strip()[:80]
        if not values["name"]:
            raise BadRequest("A layer needs a name.")
    if "treatment" in values:
        values["treatment"] = Treatment(values["treatment"])
    if "material" in values:
        values["material"] = values["material"] or None
    return values


def _in_its_colour(document: Document, layer: Layer) -> Document:
    own = [piece for piece in document.pieces if piece.layer == layer.id]
    white = {piece.id for piece in own if piece.fill and is_white(piece.fill.color)}
    kept = white if len(white) < len(own) else set()
    pieces = (in_colour(p, layer) if p.layer == layer.id and p.id not in kept else p for p in document.pieces)
    return replace(document, pieces=tuple(pieces))


def _said(layer: Layer, values: dict) -> list[str]:
    said = {
        "name": lambda: f"is now called {layer.name}",
        "color": lambda: f"is {layer.color}",
        "treatment": lambda: DONE[layer.treatment],
        "material": lambda: f"is of {_material(layer)}",
        "mirrored": lambda: "is mirrored" if layer.mirrored else "is no longer mirrored",
    }
    return [said[name]() for name in values]


def _material(layer: Layer) -> str:
    if layer.material is None:
        return "the job's material"
    material = material_of(layer.material)
    return material.name if material else "a material of its own"


OPERATION = Operation(
    id="layer",
    version=1,
    station="intake",
    title="Set a layer",
    parameters=SetLayer,
    run=run,
    sentence="{layer} {treatment}",
    roles=(Role(ON, "what lies on the layer", least=0),),
    cost=at_once,
)
