"""A tree by the river, bought for the scenery: the worst file of the show.

Truth, for the tests, in black on one layer but for what is said: a ground in steps of a coarse picture; a trunk with
a spike, welded to nothing though two boughs and a leaf run across it; a moon drawn by both its sides; a roof in three
loose lines that overshoot; a door, a filled shape on the filled wall; a fence of which one rail lies on another for a
stretch; a leaf of which a twin lies 0.1 mm beside; nine specks; a broad line for the river; a white patch; a shape
hidden under the trunk; a star off the page; a bird that hangs by 0.2 mm; two leaves in a black not quite the same.
"""

from __future__ import annotations

import math
import random

WIDTH, HEIGHT = 200.0, 140.0
INK = "#26272b"
BIRD = (
    "M112 24C118 18 122 20 124.9 23.9L125.1 23.9C128 20 132 18 138 24"
    "C132 22 128 23 125.1 24.1L124.9 24.1C122 23 118 22 112 24Z"
)


def draw() -> str:
    specks = "\n".join(f'<circle cx="{x:.2f}" cy="{y:.2f}" r="{r:.2f}"/>' for x, y, r in _dust(9))
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="{WIDTH:g}mm" height="{HEIGHT:g}mm" viewBox="0 0 {WIDTH:g} {HEIGHT:g}">
<title>Tree by the river</title>
<g id="scenery" fill="{INK}">
<title>Scenery</title>
<path id="ground" d="{_ground()}"/>
<ellipse id="hidden" cx="62" cy="80" rx="3" ry="6"/>
<path id="trunk" d="M55 112C58 90 57 70 54 52L70 52C67 70 66 90 70 112L64 112L63.98 108L63.96 112Z"/>
<path id="bough-left" d="M58 62C46 58 38 50 32 40L38 37C44 46 52 52 62 55Z"/>
<path id="bough-right" d="M66 60C80 56 88 48 92 38L98 41C94 52 84 62 66 67Z"/>
{_leaf("leaf", 32, 32, 20)}
{_leaf("leaf-again", 32.1, 32, 20)}
{_leaf("leaf-high", 62, 34, -10)}
<path id="moon" fill-rule="evenodd" d="{_ring(166, 34, 16)}{_ring(166, 34, 15.7)}"/>
<path id="bird" d="{BIRD}"/>
<path id="wall" d="M132 76H164V110H132Z"/>
<path id="door" d="M144 88H152V109H144Z"/>
<path id="patch" fill="#ffffff" d="M176 60H188V70H176Z"/>
{specks}
<path id="star" d="M214 20L216 25L221 25L217 28L219 33L214 30L209 33L211 28L207 25L212 25Z"/>
</g>
<g id="lines" fill="none" stroke="{INK}" stroke-width="0.2">
<title>Lines</title>
<path id="roof-left" d="M129.85 76.15L148.12 57.88"/>
<path id="roof-right" d="M147.88 57.88L166.15 76.15"/>
<path id="eaves" d="M166.1 76L129.9 76"/>
<path id="rail" d="M86 100H124"/>
<path id="rail-again" d="M104 100H128"/>
</g>
<g id="river" fill="none" stroke="{INK}" stroke-width="3">
<title>River</title>
<path id="water" d="M12 134C40 128 60 138 92 132S150 128 188 134"/>
</g>
<g id="late" fill="#28292d">
<title>Late leaves</title>
{_leaf("late-one", 96, 30, 30)}
{_leaf("late-two", 108, 44, -40)}
</g>
</svg>
"""


def _ground() -> str:
    """From left to right in steps of 0.4 mm, as a coarse picture leaves a slope, and back along the bottom."""
    step = 0.4
    points, x, y = [], 10.0, 116.0
    while x < 190.0:
        points.append((x, y))
        x += step
        points.append((x, y))
        wanted = 116.0 + 3.5 * math.sin(x / 12)
        y += step if wanted > y + step / 2 else -step if wanted < y - step / 2 else 0.0
    line = "L".join(f"{x:.2f} {y:.2f}" for x, y in points)
    return f"M{line}L190 126L10 126Z"


def _ring(x: float, y: float, r: float) -> str:
    return f"M{x - r:g} {y:g}A{r:g} {r:g} 0 1 1 {x + r:g} {y:g}A{r:g} {r:g} 0 1 1 {x - r:g} {y:g}Z"


def _leaf(name: str, x: float, y: float, turn: float) -> str:
    """A leaf with its point to the right, about a place."""
    cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    at = [(-9, 0), (-5, -7), (4, -6), (10, 0), (4, 6), (-5, 7)]
    a, b, c, d, e, f = (f"{x + u * cos - v * sin:.3f} {y + u * sin + v * cos:.3f}" for u, v in at)
    return f'<path id="{name}" d="M{a}C{b} {c} {d}C{e} {f} {a}Z"/>'


def _dust(count: int) -> list[tuple[float, float, float]]:
    chance = random.Random(7)
    return [(chance.uniform(174, 194), chance.uniform(78, 108), chance.uniform(0.1, 0.26)) for _ in range(count)]
