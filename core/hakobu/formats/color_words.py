"""Colours in words, for layers that a file tells apart by colour only."""

from __future__ import annotations

import colorsys

#: Hues in degrees up to which each name reaches (common practice).
_HUES = ((15, "red"), (45, "orange"), (70, "yellow"), (165, "green"), (195, "teal"), (255, "blue"), (290, "violet"))
_HUES += ((335, "pink"), (361, "red"))


def color_words(color: str) -> str:
    """A name such as "Dark blue" for #rrggbb, with the code behind it, since two blues may be two layers."""
    red, green, blue = (int(color[i : i + 2], 16) / 255 for i in (1, 3, 5))
    hue, light, saturation = colorsys.rgb_to_hls(red, green, blue)
    if light < 0.08:
        name = "black"
    elif light > 0.97:
        name = "white"
    elif saturation < 0.12:
        name = "dark grey" if light < 0.4 else "light grey" if light > 0.75 else "grey"
    else:
        base = next(name for limit, name in _HUES if hue * 360 < limit)
        name = f"dark {base}" if light < 0.3 else f"light {base}" if light > 0.75 else base
    plain = color in ("#000000", "#ffffff")
    return name.capitalize() if plain else f"{name.capitalize()} {color}"
