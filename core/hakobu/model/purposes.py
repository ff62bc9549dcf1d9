"""PURPOSES: what a design is for, where that decides what is a fault."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import BadRequest


@dataclass(frozen=True, slots=True)
class Purpose:
    """says: what follows for the parts, in a sentence. parts_hold: each layer must stay together in one. is_stencil:
    the shapes are openings, and what is left of the sheet must hold."""

    id: str
    name: str
    says: str
    parts_hold: bool = False
    is_stencil: bool = False


#: Which parts may come loose is common practice for each.
PURPOSES: tuple[Purpose, ...] = (
    Purpose("", "not set", "Loose parts are not looked at."),
    Purpose("one", "holds together", "Every layer must come off the sheet in one.", parts_hold=True),
    Purpose("liner", "lies on its liner", "Loose parts are held by the liner."),
    Purpose("stencil", "stencil", "The shapes are openings; what stands inside them must hold.", is_stencil=True),
)


def purpose_of(identity: str) -> Purpose:
    for purpose in PURPOSES:
        if purpose.id == identity:
            return purpose
    known = ", ".join(f'"{purpose.id}"' for purpose in PURPOSES if purpose.id)
    raise BadRequest(f'"{identity}" is not a purpose that is known here: use one of {known}.')
