"""Geometry on the curves themselves, beside a general library's nearest raw step on chords within 0.001 mm."""

from __future__ import annotations

import resource
import time
from collections.abc import Iterator

import numpy as np
import shapely
from shapes import blobs, circles, crossing_strokes, holes, letters, noisy_outline, stacked

from hakobu.geometry import Path, fit, flatten
from hakobu.geometry.boolean import difference, union, xor
from hakobu.geometry.intersect import meetings
from hakobu.geometry.measure import signed_areas
from hakobu.geometry.proximity.incidence import coinciding

CHORD_MM = 0.001
GEOS = "GEOS: chords within 0.001 mm"


def polygon(path: Path):
    """A path as a polygon of chords, by the even-odd rule."""
    chords = flatten(path, CHORD_MM)
    rings = [shapely.make_valid(shapely.Polygon(chords.outline(k))) for k in range(len(chords))]
    made = rings[0]
    for ring in rings[1:]:
        made = made.symmetric_difference(ring)
    return made


def apart(path: Path):
    """Outlines that do not meet, as polygons."""
    chords = flatten(path, CHORD_MM)
    return shapely.MultiPolygon([shapely.Polygon(chords.outline(k)) for k in range(len(chords))])


def geometry() -> Iterator:
    crowd, text = circles(200, 100.0, 10.0), letters(300)
    flat, words = [polygon(path) for path in crowd], [polygon(path) for path in text]
    yield "union of 200 overlapping circles", lambda: union(*crowd), lambda: shapely.union_all(flat), GEOS
    count = sum(path.segment_count for path in text)
    yield f"union of 300 glyphs ({count:,} segments)", lambda: union(*text), lambda: shapely.union_all(words), GEOS
    sheet, cut = blobs(1000, 10, 10.0), holes(500, 310.0, 2.0)
    whole, taken = apart(sheet), shapely.union_all(list(apart(cut).geoms))
    yield "10,000 cubics less 500 holes", lambda: difference(sheet, cut), lambda: whole.difference(taken), GEOS
    copies = stacked(60)
    pile = [polygon(path) for path in copies]
    yield "union of 60 copies with other starts", lambda: union(*copies), lambda: shapely.union_all(pile), GEOS
    yield from alike()
    yield from fitted()
    wide = Path.concatenate(circles(2000, 2000.0, 10.0, 2))
    yield "all meetings of 2,000 circles", lambda: meetings(wide), None, ""
    yield from sentences(crowd, text, sheet, cut, copies)


def alike() -> Iterator:
    """Segments that lie on each other among 100,000: a third of one half whole, a third in part, a third reversed.

    The tree looks for what comes within the tolerance, then asks how much of each lies within a band round the other.
    """
    path, lines = crossing_strokes(100_000)

    def by_tree():
        tree = shapely.STRtree(lines)
        a, b = tree.query(lines, predicate="dwithin", distance=1e-3)
        a, b = a[a < b], b[a < b]
        return shapely.length(shapely.intersection(shapely.buffer(lines[a], 1e-3), lines[b])) > 0.01

    yield "coinciding among 100,000 segments", lambda: coinciding(path, 1e-3), by_tree, "STRtree, dwithin, bands"
    found = coinciding(path, 1e-3)
    yield (
        f"Of 50,000 pairs that coincide {len(found.segment):,} were found, {int(found.whole.sum()):,} as wholes, "
        f"{int(found.against.sum()):,} reversed; by the tree {int(by_tree().sum()):,} (with lines that cross flatly)."
    )


def fitted() -> Iterator:
    points = noisy_outline(10_000, 0.004)
    arguments = (points, np.array([0, len(points)]), np.array([True]), np.zeros(len(points), bool), 0.02)
    yield "fit of 10,000 points within 0.02 mm", lambda: fit(*arguments), None, ""
    made = fit(*arguments)
    yield f"The fit has {made.path.segment_count} nodes and lies {made.max_mm:.4f} mm off at most."


def sentences(crowd, text, sheet, cut, copies) -> Iterator[str]:
    made = union(*crowd)
    yield f"The union of the 200 circles has {made.path.segment_count} arcs."
    for name, shapes, made in (
        ("glyphs", text, union(*text)),
        ("cubics less holes", [sheet, cut], difference(sheet, cut)),
    ):
        whole = Path.concatenate(shapes)
        surviving = len(np.unique(made.source[(made.span == (0, 1)).all(axis=1) | (made.span == (1, 0)).all(axis=1)]))
        crossings = len(meetings(whole).point)
        yield (
            f"The {name} come out with {made.path.segment_count:,} nodes, of {whole.segment_count:,} source nodes "
            f"({surviving:,} whole segments survive) and {crossings:,} meetings."
        )
    shape = copies[0]
    for name, other in (("another start", copies[1]), ("reversed", shape.reversed()), ("split elsewhere", copies[2])):
        areas = [float(signed_areas(f(shape, other).path).sum()) for f in (union, difference, xor)]
        own = float(signed_areas(shape).sum())
        yield (
            f"The same shape with {name}: union {abs(areas[0] - own):.1e} mm2 off, difference "
            f"{len(difference(shape, other).path)} outlines, exclusive-or {len(xor(shape, other).path)}."
        )
    yield growth()


def growth() -> str:
    """How the time of a union grows from ten thousand to a million segments, mostly apart."""
    spent = {}
    for count in (10_000, 100_000, 1_000_000):
        path = blobs(count // 10, 10, 10.0, seed=9, touching=0.02)
        begin = time.perf_counter()
        union(path)
        spent[count] = time.perf_counter() - begin
    counts, times = np.log(list(spent)), np.log(list(spent.values()))
    exponent = (times[-1] - times[0]) / (counts[-1] - counts[0])
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 2**20
    listed = ", ".join(f"{count:,} in {seconds:.2f} s" for count, seconds in spent.items())
    return f"Segments united, mostly apart: {listed}: an exponent of {exponent:.2f}; {memory:.1f} GiB at most."
