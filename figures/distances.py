"""What lies at a distance: offsets beside pyclipr's on chords at 5e-4 mm, and thin places beside a Voronoi diagram."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pyclipr
from shapes import apart_from, circles, letters, noisy_curves, ring

from hakobu.geometry import Path, fit, flatten, transform, translation
from hakobu.geometry.boolean import difference, union
from hakobu.geometry.narrow import thin_places
from hakobu.geometry.offset import offset
from hakobu.geometry.proximity.places import Places

CHORD_MM, SCALE = 5e-4, 10_000_000
#: How far results are from the truth, at most: of glyphs, and of traced outlines.
WITHIN_MM, TRACED_MM = 0.003, 0.0035
#: Places along the outlines for the diagram: so far apart, its widths are off by a quarter of that times its share of
#: the width, 0.0016 mm where it is 0.1 mm.
PLACES_MM = 0.025


def clipped(chords: list[np.ndarray], distance_mm: float) -> list[np.ndarray]:
    """The same by polygons, with round joins within the chords' own distance."""
    work = pyclipr.ClipperOffset()
    work.scaleFactor = SCALE
    work.arcTolerance = CHORD_MM * SCALE
    work.addPaths(chords, pyclipr.JoinType.Round, pyclipr.EndType.Polygon)
    return [np.asarray(ring)[:, :2] for ring in work.execute(distance_mm)]


def rings_of(path: Path) -> list[np.ndarray]:
    chords = flatten(path, CHORD_MM)
    return [chords.outline(k)[:-1] for k in range(len(chords))]


def distances() -> Iterator:
    crowd, text, traced = (
        Path.concatenate(circles(200, 100.0, 10.0)),
        Path.concatenate(letters(300)),
        noisy_curves(10_000, 0.004),
    )
    holed = difference(traced, transform(Path.concatenate(circles(500, 140.0, 1.5)), translation(-70, -70))).path
    cases = [("union of 200 circles", crowd, (1.0, 6.35, -1.0, -6.35), WITHIN_MM)]
    cases += [("300 glyphs", text, (1.0, -1.0, 6.35), WITHIN_MM)]
    cases += [("10,000 traced cubics", traced, (1.0, -1.0, 6.35, -6.35), TRACED_MM)]
    cases += [("the same less 500 holes", holed, (1.0, -1.0, 6.35, -6.35), TRACED_MM)]
    for name, path, steps, within in cases:
        # What grows is united by growing; what is to shrink is united before, for both.
        whole = union(path).path
        for d in steps:
            source = path if d > 0 else whole
            rings = rings_of(source)
            last: list[list[np.ndarray]] = []

            def ours(source=source, d=d, within=within):
                offset(source, distance_mm=d, within_mm=within)

            def theirs(rings=rings, d=d, last=last):
                last[:] = [clipped(rings, d)]

            yield f"{name} by {d:g} mm", ours, theirs, "pyclipr: chords of 5e-4 mm"
            yield said(name, source, last[0], d, within)
    yield from thin()


def said(name: str, path: Path, theirs: list[np.ndarray], d: float, within: float) -> str:
    """Nodes, and how far all points of the result are from the distance, of ours and of theirs fitted."""
    made = offset(path, distance_mm=d, within_mm=within)
    kinds = np.bincount(made.path.kind, minlength=3)
    theirs = [ring for ring in theirs if len(ring) > 3]
    fitted = 0
    if theirs:
        start = np.concatenate([[0], np.cumsum([len(ring) for ring in theirs])])
        corner = np.concatenate([corners_of(ring) for ring in theirs])
        closed = np.ones(len(theirs), bool)
        fitted = fit(np.concatenate(theirs), start, closed, corner, within - CHORD_MM).path.segment_count
    # A full circle is two arcs and counts as one node.
    nodes = f"{int(made.path.node_counts.sum()):,} nodes ({kinds[0]:,} lines, {kinds[2]:,} arcs)"
    return (
        f"{name} by {d:g} mm: {nodes}, off the distance by {off(union(path).path, made.path, d):.4f} mm at most; the "
        f"polygons have {sum(map(len, theirs)):,} vertices, fitted {fitted:,} nodes."
    )


def corners_of(points: np.ndarray, least: float = 0.2) -> np.ndarray:
    step = np.diff(np.vstack([points[-1:], points, points[:1]]), axis=0)
    a, b = step[:-1], step[1:]
    return np.abs(np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], (a * b).sum(axis=1))) > least


def off(source: Path, made: Path, d: float) -> float:
    if not made.segment_count:
        return 0.0
    points = flatten(made, 1e-4, longest_mm=0.1).points
    return float(np.abs(Places(source).nearest(points).distance - abs(d)).max())


def thin() -> Iterator:
    """All places thinner than 2 mm of shapes of about 5,000 nodes."""
    lettering = union(*letters(270)).path
    for name, path in (("a ring", ring(2500, 50.0, 1.5)), ("lettering", lettering), ("lace", apart_from(70.0, 620))):
        what = f"thin places of {name}, {path.segment_count:,} nodes"
        yield (
            what,
            lambda p=path: thin_places(p, below_mm=2.0),
            lambda p=path: by_voronoi(p),
            f"scipy: Voronoi of places {PLACES_MM} mm apart",
        )
        found = thin_places(path, below_mm=2.0)
        least = found.width.min()
        fits = f"where a circle of {wide(path, found):.4f} fits"
        yield f"{name.capitalize()}: {len(found)} places, the thinnest {least:.4f} mm, {fits}."


def by_voronoi(path: Path) -> None:
    from scipy.spatial import Voronoi

    chords = flatten(path, CHORD_MM, longest_mm=PLACES_MM)
    own = np.ones(len(chords.points), bool)
    own[chords.start[1:] - 1] = False
    Voronoi(chords.points[own])


def wide(path: Path, found) -> float:
    """The circle that fits where a shape is thinnest, by the distance of its middle from the outlines."""
    return 2 * float(Places(path).nearest(found.points[:1].mean(axis=1)).distance[0])
