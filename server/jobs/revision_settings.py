"""What a revision holds beside its steps."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from hakobu.errors import BadRequest
from hakobu.lists import MATERIAL_LIMITS
from library.lists import refuse_unknown

#: What can be set beside the steps, and of each layer and piece. Hidden, locked and mark are for the eye and the hand:
#: they change nothing of what is made; what does is a step.
SETTINGS = (
    "lists",
    "material",
    "limits",
    "machine",
    "purpose",
    "target",
    "target_off",
    "layers",
    "pieces",
    "set_aside",
    "why_aside",
)
OF_LAYERS = {"hidden", "locked"}
OF_PIECES = {"name", "hidden", "locked", "mark", "one"}


def checked_settings(values: Mapping[str, Any], before: Mapping[str, Any] | None = None) -> dict[str, Any]:
    """Settings as they are kept, those before with new values. Raises BadRequest for what does not exist."""
    settings = {**(before or {}), **{key: values[key] for key in SETTINGS if key in values}}
    refuse_unknown(settings)
    for name, value in (settings.get("limits") or {}).items():
        low, high = MATERIAL_LIMITS[name]
        if not low <= value <= high:
            raise BadRequest(f"What a material bears lies between {low:g} and {high:g}, not at {value:g}.")
    for layer in settings.get("layers", {}).values():
        if not set(layer) <= OF_LAYERS:
            raise BadRequest(f"Beside the steps these can be set of a layer: {', '.join(sorted(OF_LAYERS))}.")
    for piece in settings.get("pieces", {}).values():
        if not set(piece) <= OF_PIECES:
            raise BadRequest(f"Of a piece these can be set: {', '.join(sorted(OF_PIECES))}.")
    return settings
