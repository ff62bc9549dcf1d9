"""A ladder that is let into the moth, of thin wood.

Truth, for the tests: RAILS and RUNGS; its two rails are 3 mm wide and 14 mm apart.
"""

from __future__ import annotations

LEFT, TOP, HIGH, RAIL, APART = 38.0, 4.0, 62.0, 3.0, 14.0
RUNGS = 5


def draw() -> str:
    rails = [_box(LEFT + side * (APART - RAIL), TOP, RAIL, HIGH) for side in (0, 1)]
    step = HIGH / (RUNGS + 1)
    rungs = [_box(LEFT + RAIL - 1, TOP + step * (k + 1) - 1.25, APART - 2 * RAIL + 2, 2.5) for k in range(RUNGS)]
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="70mm" viewBox="0 0 90 70">
<title>Ladder</title>
<g id="wood" fill="#c79a63" data-material="thin-wood">
<title>Wood</title>
<path id="ladder" d="{" ".join([*rails, *rungs])}"/>
</g>
</svg>
"""


def _box(x: float, y: float, width: float, height: float) -> str:
    return f"M{x:g} {y:g}H{x + width:g}V{y + height:g}H{x:g}Z"
