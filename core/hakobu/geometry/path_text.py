"""Outlines as SVG path data, with absolute coordinates rounded to so many decimals of a millimetre."""

from __future__ import annotations

import math

import numpy as np

from .path import ARC, CUBIC, Path
from .tolerances import STRAIGHT_BULGE

#: Decimals of a millimetre where nothing else is asked for.
DECIMALS = 5
#: The bulge of an arc of 140 degrees: up to there rounding moves an arc's middle by a few of its own units only.
NEARLY_HALF = 0.7


def number(value: float, decimals: int) -> str:
    """A number with as few digits as hold it to so many decimals."""
    text = f"{value:.{decimals}f}"
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return "0" if text in ("-0", "") else text


def path_data(path: Path, decimals: int = DECIMALS) -> str:
    """The path data of all outlines; arcs stay arcs."""
    # Adding nothing turns -0 into 0.
    points = (np.round(path.ctrl, decimals) + 0.0).reshape(-1, 8)
    # Twelve digits hold ten metres to the tenth of a nanometre; what needs an exponent is written the slow way.
    small = points[points != 0]
    plain = not len(small) or (np.abs(small).min() >= 1e-4 and np.abs(small).max() < 10 ** (11 - decimals))
    curve = "C%.12g %.12g %.12g %.12g %.12g %.12g"
    parts: list[str] = []
    rows, kinds, bulges = points.tolist(), path.kind.tolist(), path.bulge.tolist()
    starts, closings = path.start.tolist(), path.closed.tolist()
    for k, closed in enumerate(closings):
        first, end = starts[k], starts[k + 1]
        parts.append(f"M{number(rows[first][0], decimals)} {number(rows[first][1], decimals)}")
        for i in range(first, end):
            row = rows[i]
            if kinds[i] == CUBIC:
                parts.append(curve % tuple(row[2:]) if plain else "C" + " ".join(number(v, decimals) for v in row[2:]))
            elif kinds[i] == ARC and abs(bulges[i]) >= STRAIGHT_BULGE:
                parts.append(_arc(path.ctrl[i, 0], path.ctrl[i, 3], bulges[i], decimals))
            elif not (closed and i == end - 1 and i > first):
                # The line back to the start is what Z draws, unless it is all there is.
                parts.append(f"L{number(row[6], decimals)} {number(row[7], decimals)}")
        if closed:
            parts.append("Z")
    return "".join(parts)


def _arc(first: np.ndarray, last: np.ndarray, bulge: float, decimals: int) -> str:
    """One arc command, or two. The nearer an arc is to half a circle, the more a rounded radius or end moves its
    middle. Exactly half a circle gets a radius a hair too small, which every reader must enlarge until it just reaches
    (SVG 2, appendix B.2.5); what is nearly half is written in two."""
    radius = float(np.hypot(*(last - first))) * (1 + bulge**2) / (4 * abs(bulge))
    if abs(bulge) == 1:
        radius = math.floor(radius * 10**decimals - 1) / 10**decimals
    elif abs(bulge) > NEARLY_HALF:
        half = math.tan(math.atan(bulge) / 2)
        along = last - first
        middle = (first + last) / 2 + np.array([along[1], -along[0]]) * bulge / 2
        return _arc(first, middle, half, decimals) + _arc(middle, last, half, decimals)
    x, y = np.round(last, decimals).tolist()
    size = number(max(radius, 10.0**-decimals), decimals)
    return f"A{size} {size} 0 0 {1 if bulge > 0 else 0} {number(x, decimals)} {number(y, decimals)}"
