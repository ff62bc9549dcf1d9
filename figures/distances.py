"""What lies at a distance: offsets beside pyclipr's on chords at 5e-4 mm, and thin places beside a Voronoi diagram."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pyclipr
from shapes import apart_from, blob, circles, letters, noisy_curves, ring

from hakobu.geometry import Path, fit, flatten
from hakobu.geometry.boolean import difference, union
from hakobu.geometry.inner import medial_axis
from hakobu.geometry.narrow import thin_places
from hakobu.geometry.offset import offset
from hakobu.geometry.places import Places

CHORD_MM = 5e-4
#: How far the fit of what pyclipr gives may be from it, so that both are as far from the truth as ours.
FIT_MM = 0.0026


def clipped(chords: list[np.ndarray], distance_mm: float) -> list[np.ndarray]:
    """The same by polygons: round joins within the chords' own distance."""
    work = pyclipr.ClipperOffset()
    work.scaleFactor = 10_000_000
    work.arcTolerance = CHORD_MM * work.scaleFactor
    work.addPaths(chords, pyclipr.JoinType.Round, pyclipr.EndType.Polygon)
    return work.execute(distance_mm)


def rings_of(path: Path) -> list[np.ndarray]:
    chords = flatten(path, CHORD_MM)
    return [chords.outline(k)[:-1] for k in range(len(chords))]


def distances() -> Iterator:
    crowd, text, traced = (
        Path.concatenate(circles(200, 100.0, 10.0)),
        Path.concatenate(letters(300)),
        noisy_curves(10_000, 0.004),
    )
    random = np.random.default_rng(5)
    holed = difference(
        traced, Path.concatenate(blob(*random.uniform(-70, 70, 2), 1.5, 4, random) for _ in range(500))
    ).path
    cases = [("union of 200 circles", crowd, (1.0, 6.35, -1.0, -6.35)), ("300 glyphs", text, (1.0, -1.0, 6.35))]
    cases += [("10,000 traced cubics", traced, (1.0, -1.0, 6.35, -6.35))]
    cases += [("the same less 500 holes", holed, (1.0, -1.0, 6.35, -6.35))]
    for name, path, steps in cases:
        rings = rings_of(path)
        for d in steps:
            yield (
                f"{name} by {d:g} mm",
                lambda p=path, d=d: offset(p, distance_mm=d),
                lambda r=rings, d=d: clipped(r, d),
                ("pyclipr: chords of 5e-4 mm"),
            )
            yield said(name, path, rings, d)
    yield from thin()


def said(name: str, path: Path, rings: list[np.ndarray], d: float) -> str:
    """Nodes, and how far all points of the result are from the distance, of ours and of theirs fitted."""
    made = offset(path, distance_mm=d)
    united = union(path).path
    kinds = np.bincount(made.path.kind, minlength=3)
    theirs = [ring for ring in clipped(rings, d) if len(ring) > 3]
    fitted = 0
    if theirs:
        points = np.concatenate([np.asarray(ring)[:, :2] for ring in theirs])
        start = np.concatenate([[0], np.cumsum([len(ring) for ring in theirs])])
        corner = np.concatenate([corners_of(np.asarray(ring)[:, :2]) for ring in theirs])
        fitted = fit(points, start, np.ones(len(theirs), bool), corner, FIT_MM).path.segment_count
    return (
        f"{name} by {d:g} mm: {made.path.segment_count:,} nodes ({kinds[0]:,} lines, {kinds[2]:,} arcs), off the distance by "
        f"{off(united, made.path, d):.4f} mm at most; the polygons have {sum(map(len, theirs)):,} vertices, fitted {fitted:,} nodes."
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
            "scipy: Voronoi of places 0.05 mm apart",
        )
        found = thin_places(path, below_mm=2.0)
        wide = 2 * medial_axis(path, 0.05).radius
        yield f"{name.capitalize()}: {len(found)} places, the thinnest {found.width.min():.4f} mm; by the diagram {wide[wide > 0].min():.4f} mm."


def by_voronoi(path: Path) -> None:
    from scipy.spatial import Voronoi

    chords = flatten(path, CHORD_MM, longest_mm=0.05)
    own = np.ones(len(chords.points), bool)
    own[chords.start[1:] - 1] = False
    Voronoi(chords.points[own])
