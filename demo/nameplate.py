"""A frame of 5 x 7 inches, in which a name is to hang from the upper bar."""

from __future__ import annotations

WIDTH, HEIGHT, BAR = 177.8, 127.0, 10.0


def draw() -> str:
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="{WIDTH + 12:g}mm" height="{HEIGHT + 12:g}mm" \
viewBox="0 0 {WIDTH + 12:g} {HEIGHT + 12:g}">
<title>Frame for a name</title>
<g id="frame" fill="#26272b">
<title>Frame</title>
<path id="bars" fill-rule="evenodd" d="M6 6H{6 + WIDTH:g}V{6 + HEIGHT:g}H6Z \
M{6 + BAR:g} {6 + BAR:g}V{6 + HEIGHT - BAR:g}H{6 + WIDTH - BAR:g}V{6 + BAR:g}Z"/>
</g>
</svg>
"""
