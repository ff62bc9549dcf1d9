"""A capital H for the prop crate, in one compound path: slab serifs, a lozenge and two dots through each stem.

Truth, for the tests: 110 mm wide and 100 high, its top left at 15, 20; HOLES, none of which the middle line meets.
"""

from __future__ import annotations

#: Of one stem, from its left edge: across, down, and half its width and height; a dot where both are the same.
HOLES = ((11.0, 26.0, 4.0, 8.0), (11.0, 40.0, 1.6, 1.6), (11.0, 60.0, 1.6, 1.6), (11.0, 74.0, 4.0, 8.0))
STEMS = (20.0, 98.0)
H = (
    "M15 20H47V29C44 29 42 31 42 34V63C52 59 60 66 70 66C80 66 88 59 98 63V34C98 31 96 29 93 29V20H125V29"
    "C122 29 120 31 120 34V106C120 109 122 111 125 111V120H93V111C96 111 98 109 98 106V77C88 73 80 80 70 80"
    "C60 80 52 73 42 77V106C42 109 44 111 47 111V120H15V111C18 111 20 109 20 106V34C20 31 18 29 15 29Z"
)


def draw() -> str:
    holes = " ".join(_hole(left + x, 20 + y, rx, ry) for left in STEMS for x, y, rx, ry in HOLES)
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="140mm" height="140mm" viewBox="0 0 140 140">
<title>Capital for the prop crate</title>
<g id="crate" fill="#26272b">
<title>Crate</title>
<path id="H" fill-rule="evenodd" d="{H} {holes}"/>
</g>
</svg>
"""


def _hole(x: float, y: float, rx: float, ry: float) -> str:
    if rx == ry:
        return f"M{x - rx:g} {y:g}A{rx:g} {rx:g} 0 0 0 {x + rx:g} {y:g}A{rx:g} {rx:g} 0 0 0 {x - rx:g} {y:g}Z"
    return f"M{x:g} {y - ry:g}L{x - rx:g} {y:g}L{x:g} {y + ry:g}L{x + rx:g} {y:g}Z"
