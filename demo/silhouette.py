"""The heron's silhouette as lines, to be filled with reeds; and two lines of its wing on a layer that is scored.

Truth, for the tests: WIDTH and HEIGHT of the silhouette before it is sized.
"""

from __future__ import annotations

from heron import BODY

#: The silhouette's box on the page, in mm: it lies at 14, 30.5.
WIDTH, HEIGHT = 98.0, 122.5


def draw() -> str:
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="126mm" height="168mm" viewBox="0 0 126 168">
<title>Heron among reeds</title>
<g id="bird" fill="#26272b">
<title>Bird</title>
<path id="heron" d="{BODY}"/>
</g>
<g id="wing" fill="none" stroke="#8a5a2b" stroke-width="0.3" data-treatment="score">
<title>Wing</title>
<path d="M66 92C78 93 88 99 95 108"/>
<path d="M64 101C73 104 81 108 89 113"/>
</g>
</svg>
"""
