"""The lamp's plate, drawn by a friend, in DXF: inches, but the file does not say so; its rim in loose lines and arcs.

Truth, for the tests: one plate of 6 x 3.5 inches with two rivet holes, a slot and a window; a fold on a layer to score;
the rim lies in eight parts, in no order.
"""

from __future__ import annotations

WIDTH, HEIGHT, CORNER = 6.0, 3.5, 0.5


def draw() -> str:
    w, h, r = WIDTH, HEIGHT, CORNER
    rim = [
        _line("RIM", r, 0, w - r, 0),
        _arc("RIM", w - r, h - r, r, 0, 90),
        _line("RIM", 0, h - r, 0, r),
        _arc("RIM", r, r, r, 180, 270),
        _line("RIM", w - r, h, r, h),
        _arc("RIM", w - r, r, r, 270, 360),
        _line("RIM", w, r, w, h - r),
        _arc("RIM", r, h - r, r, 90, 180),
    ]
    slot = [
        _line("RIM", 2.5, 2.9, 3.5, 2.9),
        _arc("RIM", 3.5, 3.0, 0.1, 270, 90),
        _line("RIM", 3.5, 3.1, 2.5, 3.1),
        _arc("RIM", 2.5, 3.0, 0.1, 90, 270),
    ]
    window = [_arc("RIM", 3.0, 0.8, 1.2, 0, 180), _line("RIM", 1.8, 0.8, 4.2, 0.8)]
    holes = [_entity("CIRCLE", "RIM", (10, x), (20, 0.5), (40, 0.125)) for x in (0.5, 5.5)]
    fold = [_line("FOLD - score", 0.4, 2.6, 5.6, 2.6)]
    return "\n".join(
        ["0", "SECTION", "2", "ENTITIES", *rim, *slot, *window, *holes, *fold, "0", "ENDSEC", "0", "EOF", ""]
    )


def _line(layer: str, x0: float, y0: float, x1: float, y1: float) -> str:
    return _entity("LINE", layer, (10, x0), (20, y0), (11, x1), (21, y1))


def _arc(layer: str, x: float, y: float, radius: float, first: float, last: float) -> str:
    return _entity("ARC", layer, (10, x), (20, y), (40, radius), (50, first), (51, last))


def _entity(kind: str, layer: str, *values: tuple[int, float]) -> str:
    return "\n".join(["0", kind, "8", layer, *(f"{code}\n{value:g}" for code, value in values)])
