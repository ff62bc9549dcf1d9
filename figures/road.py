"""The first figures: read, check, write and prove the demo's files and a design of 10,000 segments.

The libraries beside them do the nearest raw step, not the same work: svgelements parses shapes without findings,
limits or layers; shapely compares every outline with its neighbours without direction, fill or safety.
"""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path

import faults
import numpy as np
import shapely
from svgelements import SVG

from hakobu import checks, formats
from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.geometry import Path as Outlines
from hakobu.geometry import flatten
from hakobu.machines.proof import compare, followed_path
from hakobu.model import Document, Fill, Layer, Page, Piece

FILES = sorted((Path(__file__).resolve().parents[1] / "demo" / "files").glob("*.svg"))
svg, hpgl = by_id("svg"), by_id("hpgl")
Figure = tuple[str, Callable[[], object], Callable[[], object] | None, str]


def large() -> Document:
    """2,000 five-pointed outlines of 5 segments; every tenth stands twice."""
    random = np.random.default_rng(1)
    layer = Layer("l", "L", "#000000")
    angle = np.linspace(0, 2 * np.pi, 5, endpoint=False)
    star = 4 * np.stack([np.cos(angle), np.sin(angle)], axis=1)
    places = [np.array([10.0 * (i % 50), 10.0 * (i // 50)]) for i in range(1820)]
    shapes = [star * random.uniform(0.6, 1) + place for place in places]
    shapes += [shapes[10 * i][::-1] for i in range(180)]
    pieces = tuple(
        Piece(f"f:/{i}", Outlines.from_points(points, True), "l", fill=Fill("#000000"))
        for i, points in enumerate(shapes)
    )
    return Document(Page(510, 420), (layer,), pieces)


def designs() -> Iterator[tuple[str, bytes, Document]]:
    for file in FILES:
        data = file.read_bytes()
        yield file.name, data, svg.read(data, ReadOptions()).document
    made = large()
    assert followed_path(made).segment_count == 10_000
    yield "10,000 segments, 2,000 outlines", svg.write(made, WriteOptions()).data, made


def read() -> Iterator[Figure]:
    for name, data, _ in designs():
        parse = lambda data=data: list(SVG.parse(io.BytesIO(data)).elements())  # noqa: E731
        yield f"read {name}", lambda data=data: svg.read(data, ReadOptions()), parse, "svgelements parses"
        yield f"read {name}, in its limited process", lambda n=name, d=data: formats.read(n, d), None, ""


def check() -> Iterator[Figure]:
    for name, _, made in designs():
        # A new document each time: what the rules share is at hand for one and the same only.
        work = lambda made=made: checks.check(replace(made))  # noqa: E731
        yield f"check {name}, all rules", work, _overlaps(made), "shapely: near equal, STRtree"
    yield from faults.faults()


def _overlaps(made: Document) -> Callable[[], object]:
    path = followed_path(made)
    chords = flatten(path, 0.01)
    lines = [chords.outline(k) for k in range(len(path))]

    def work():
        shapes = shapely.linestrings(
            np.concatenate(lines), indices=np.repeat(np.arange(len(lines)), [len(x) for x in lines])
        )
        tree = shapely.STRtree(shapes)
        a, b = tree.query(shapes, predicate="dwithin", distance=0.25)
        pair = a < b
        return shapely.hausdorff_distance(shapes[a[pair]], shapes[b[pair]]) <= 0.25

    return work


def write() -> Iterator[Figure]:
    for name, _, made in designs():
        yield f"write {name} as SVG", lambda made=made: svg.write(made, WriteOptions()), None, ""
        yield f"write {name} as HP-GL", lambda made=made: hpgl.write(made, WriteOptions()), None, ""


def proof() -> Iterator[Figure]:
    for name, _, made in designs():
        data = hpgl.write(made, WriteOptions()).data
        back = hpgl.read(data, ReadOptions(page_height_mm=made.frame[1])).document
        a, b = _lines(made), _lines(back)
        yield (
            f"compare {name} with its machine file",
            lambda back=back, made=made: compare(back, made, 0.025),
            lambda a=a, b=b: shapely.hausdorff_distance(a, b),
            "shapely: Hausdorff at vertices only",
        )


def _lines(made: Document):
    chords = flatten(followed_path(made), 1e-3)
    return shapely.MultiLineString([chords.outline(k) for k in range(len(chords))])
