"""Packing on a rectangle by a search (spyrrow): what is used of its length gets shorter while there is time."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable, Sequence

import numpy as np

from ...geometry import Box
from .raster import Place
from .shapes import TURNS, Shape

#: The number that the search draws its chances from: the same each time.
SEED = 7
#: Seconds between two looks at how far the search is.
LOOK_S = 0.2
#: So many threads search, whatever the machine has: what a piece of work may take is reckoned in their seconds.
THREADS = 2


def pack_strip(
    box: Box,
    shapes: Sequence[Shape],
    spacing_mm: float,
    turns: str,
    seconds: float,
    told: Callable[[float, list[Place | None]], bool] = lambda share, places: False,
) -> list[Place | None]:
    """A place for each shape in a box, from its left on; None for what would lie beyond its right end. told(the share
    of the length that the best packing so far takes, its places): True when that is enough; it may raise. Either way
    the search goes on in its thread until its time is over, heard by nobody."""
    import spyrrow

    begun = time.monotonic()
    # The search keeps the same distance from the rim, which may be touched: so the rim is moved out by that.
    left, top, bottom = box[0] - spacing_mm, box[1] - spacing_mm, box[3] + spacing_mm
    polygons = {shape.key: shape.polygon() for shape in shapes}
    allowed = None if turns == "free" else list(TURNS[turns])
    items = [
        spyrrow.Item(str(n), [tuple(point) for point in polygons[shape.key].tolist()], 1, allowed)
        for n, shape in enumerate(shapes)
    ]
    instance = spyrrow.StripPackingInstance("", bottom - top, items)
    left_s = max(int(seconds - (time.monotonic() - begun)), 1)
    settings = spyrrow.StripPackingConfig(
        min_items_separation=spacing_mm or None, total_computation_time=left_s, seed=SEED, num_workers=THREADS
    )
    found: list = []
    queue, report = spyrrow.ProgressQueue(), spyrrow.ReportType
    thread = threading.Thread(target=lambda: found.append(instance.solve(settings, queue)), daemon=True)
    thread.start()
    best = None
    places: list[Place | None] = [None] * len(shapes)

    def placed(solution) -> list[Place | None]:
        rows: list[Place | None] = [None] * len(shapes)
        for item in solution.placed_items:
            n = int(item.id)
            x, y = item.translation
            reach = _right_of(polygons[shapes[n].key], item.rotation) + x
            if reach <= box[2] - left + 1e-6:
                rows[n] = left + x, top + y, float(item.rotation)
        return rows

    while thread.is_alive():
        before = best
        for kind, solution in queue.drain():
            # Others overlap: the search goes by way of them.
            if kind not in (report.ExplFeas, report.CmprFeas, report.Final):
                continue
            best = solution if best is None or solution.width < best.width else best
        if best is not before:
            places = placed(best)
        if told((best.width - 2 * spacing_mm) / (box[2] - box[0]) if best else 1.0, places):
            return places
        thread.join(LOOK_S)
    return placed(found[0]) if found else places


def _right_of(points: np.ndarray, degrees: float) -> float:
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return float((points[:, 0] * c - points[:, 1] * s).max())
