"""tab-places: where tabs hold what is cut, set by the person."""

from .outline_places import places_step

OPERATION = places_step("tab-places", "Places of tabs", "Hold outlines by tabs at these places", "tabs", "tab")
