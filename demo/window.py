"""A window with a branch across it, in card.

Truth, for the tests: frame and opening are two loose rounded rectangles, so that the opening vanishes when the branch
is welded to the frame.
"""

from __future__ import annotations


def draw() -> str:
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="150mm" height="110mm" viewBox="0 0 150 110">
<title>Window with a branch</title>
<g id="window" fill="#26272b">
<title>Window</title>
<path id="frame" d="{_rounded(10, 10, 130, 90, 8)}"/>
<path id="opening" d="{_rounded(20, 20, 110, 70, 5)}"/>
<path id="branch" d="M14 78C40 70 60 66 84 48C100 36 118 32 137 34L136 40C118 38 104 42 90 53C66 72 44 77 16 86Z"/>
</g>
</svg>
"""


def _rounded(x: float, y: float, width: float, height: float, r: float) -> str:
    return (
        f"M{x + r:g} {y:g}H{x + width - r:g}A{r:g} {r:g} 0 0 1 {x + width:g} {y + r:g}V{y + height - r:g}"
        f"A{r:g} {r:g} 0 0 1 {x + width - r:g} {y + height:g}H{x + r:g}A{r:g} {r:g} 0 0 1 {x:g} {y + height - r:g}"
        f"V{y + r:g}A{r:g} {r:g} 0 0 1 {x + r:g} {y:g}Z"
    )
