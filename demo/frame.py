"""The lantern's frame, in black card: windows, rivet holes, folding lines on a layer that is scored.

Truth, for the tests: the outer edge stands twice, the second as an open line from another corner; two rivet holes
stand twice.
"""

from __future__ import annotations

WIDTH, HEIGHT, SIDE = 260.0, 140.0, 60.0


def draw() -> str:
    windows = "\n".join(_window(5 + SIDE * i + 8, 18.0, SIDE - 16, 92.0) for i in range(4))
    holes = "\n".join(f'<circle cx="{5 + SIDE * i + 30:g}" cy="{y}" r="1.5"/>' for i in range(4) for y in (11.5, 122.5))
    folds = "\n".join(f'<line x1="{5 + SIDE * i:g}" y1="5" x2="{5 + SIDE * i:g}" y2="130"/>' for i in range(1, 5))
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="{WIDTH:g}mm" height="{HEIGHT:g}mm" viewBox="0 0 {WIDTH:g} {HEIGHT:g}">
<title>Frame of the lantern</title>
<g id="cuts" fill="none" stroke="#26272b" stroke-width="0.3">
<title>Cuts</title>
<path id="edge" d="M5 5H245L255 11V124L245 130H5Z"/>
<path id="edge-again" d="M245 130H5V5H245L255 11V124Z"/>
{windows}
{holes}
<circle cx="35" cy="11.5" r="1.5"/>
<circle cx="95" cy="122.5" r="1.5"/>
</g>
<g id="folds" fill="none" stroke="#8a5a2b" stroke-width="0.3" stroke-dasharray="4 2" data-treatment="score">
<title>Folds</title>
{folds}
</g>
</svg>
"""


def _window(x: float, y: float, width: float, height: float) -> str:
    arch = width / 2
    return (
        f'<path d="M{x:g} {y + arch:g}A{arch:g} {arch:g} 0 0 1 {x + width:g} {y + arch:g}'
        f"V{y + height - 4:g}Q{x + width:g} {y + height:g} {x + width - 4:g} {y + height:g}"
        f'H{x + 4:g}Q{x:g} {y + height:g} {x:g} {y + height - 4:g}Z"/>'
    )
