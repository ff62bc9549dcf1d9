"""The stencil moon for a lantern: a page without a unit, a face, and stars kept by the element that repeats one."""

from __future__ import annotations

import math

PAGE_PX = 480


def draw() -> str:
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="{PAGE_PX}" height="{PAGE_PX}" viewBox="0 0 {PAGE_PX} {PAGE_PX}">
<title>Stencil moon</title>
<defs><path id="star" d="{_star(22, 9)}"/></defs>
<g fill="none" stroke="#26272b" stroke-width="1">
<rect id="card" x="12" y="12" width="456" height="456" rx="18"/>
<path id="crescent" d="M214 78A164 164 0 1 0 394 318A138 138 0 1 1 214 78Z"/>
<path id="smile" d="M128 296C144 312 162 317 180 311C168 330 140 326 128 296Z"/>
<circle id="eye" cx="122" cy="232" r="11"/>
<circle id="eye-copy" cx="122" cy="232" r="11"/>
<use href="#star" x="318" y="118"/>
<use href="#star" transform="translate(398 176) rotate(18) scale(.7)"/>
<use href="#star" transform="translate(300 226) rotate(-12) scale(.55)"/>
<path id="hanger" d="M240 24a9 9 0 1 0 .001 0z"/>
</g>
</svg>
"""


def _star(outer: float, inner: float) -> str:
    points = []
    for i in range(10):
        radius, angle = (outer if i % 2 == 0 else inner), math.pi * i / 5 - math.pi / 2
        points.append(f"{radius * math.cos(angle):.3f} {radius * math.sin(angle):.3f}")
    return "M" + "L".join(points) + "Z"
