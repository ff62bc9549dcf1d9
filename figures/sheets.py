"""Packing: the demo's pieces in ten seconds beside each library alone, and two thousand rectangles."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from sheet_drag import sheet_drag

from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import box_of, flatten, primitives
from hakobu.sheets.distance import nearest_pairs, nearest_to_rim
from hakobu.sheets.items import Item
from hakobu.sheets.packing import Packed, Wish, pack
from hakobu.sheets.packing.pack import laid
from hakobu.sheets.packing.shapes import Shape, shape_of

FILES = Path(__file__).resolve().parents[1] / "demo" / "files"
NAMES = ("van-title.svg", "capital-h.svg", "tree-bought.svg", "stencil-moon.svg", "letter-bought.svg")
#: Pieces, the room between them, the stock's width in mm, and the seconds that each way has.
COUNT, APART_MM, HIGH_MM, SECONDS = 300, 2.0, 600.0, 10.0
BOXES = 2000


def sheets() -> Iterator[str]:
    shapes = _pieces()
    covered = sum(shape.area_mm2 for shape in shapes)
    stock = primitives.rectangle(0, 0, 4 * covered / HIGH_MM, HIGH_MM)
    begun = time.perf_counter()
    made = pack(stock, shapes, Wish(APART_MM, "quarter", seconds=SECONDS))
    took = time.perf_counter() - begun
    length = made.used * box_of(stock)[2]
    alone, quick = _spyrrow(shapes), pack(stock, shapes, Wish(APART_MM, "quarter"))
    boxes = _rectpack([np.ptp(flatten(s.path, 0.1).points, axis=0) for s in shapes], box_of(stock)[2], HIGH_MM)
    yield (
        f"{COUNT} pieces of the demo, {APART_MM:g} mm apart, {HIGH_MM:g} mm high: {length:.0f} mm in {took:.1f} s;"
        f" spyrrow alone, {SECONDS:g} s: {alone:.0f} mm; rectpack alone, of their boxes: {boxes:.0f} mm;"
        f" the quick way {quick.used * box_of(stock)[2]:.0f} mm; no less than {covered / HIGH_MM:.0f} mm by their area."
    )
    yield _proven(made, shapes, stock)
    yield _rectangles()
    yield from sheet_drag(shapes)


def _pieces() -> list[Shape]:
    """Pieces of the demo, brought to 10 to 60 mm."""
    random, found = np.random.default_rng(11), []
    for name in NAMES:
        document = by_id("svg").read((FILES / name).read_bytes(), ReadOptions()).document
        found += [piece for piece in document.pieces_followed() if piece.path.closed.all()]
    shapes = [shape_of(Item(piece.id, (piece,))) for piece in found]
    shapes = [s for s in shapes if 5 <= max(np.ptp(s.path.ctrl.reshape(-1, 2), axis=0)) <= 150]
    return [shapes[k] for k in random.integers(0, len(shapes), COUNT)]


def _proven(made: Packed, shapes: list[Shape], stock) -> str:
    paths = [laid(s, place) for s, place in zip(shapes, made.places, strict=True) if place]
    near = min(pair.mm for pair in nearest_pairs(paths, APART_MM + 3))
    rim = min(each.mm for each in nearest_to_rim(paths, stock))
    found = f"{len(paths)} of {COUNT} placed"
    return f"{found}; the nearest two are {near:.3f} mm apart ({APART_MM:g} asked), the rim {rim:.3f} mm."


def _spyrrow(shapes: list[Shape]) -> float:
    """The length that spyrrow takes by itself, with chords within 0.1 mm and the distance grown by twice that."""
    import spyrrow

    items = []
    for n, shape in enumerate(shapes):
        points = shape.polygon()
        items.append(spyrrow.Item(str(n), [tuple(p) for p in points.tolist()], 1, [0.0, 90.0, 180.0, 270.0]))
    settings = spyrrow.StripPackingConfig(min_items_separation=APART_MM, total_computation_time=int(SECONDS), seed=1)
    return spyrrow.StripPackingInstance("", HIGH_MM, items).solve(settings).width


def _rectpack(sizes: list[np.ndarray], width: float, height: float) -> float:
    import rectpack

    packer = rectpack.newPacker(rotation=True)
    for n, (w, h) in enumerate(sizes):
        packer.add_rect(float(w) + APART_MM, float(h) + APART_MM, n)
    packer.add_bin(height + APART_MM, width + APART_MM)
    packer.pack()
    return max(y + h for _, _, y, _, h, _ in packer.rect_list()) - APART_MM


def _rectangles() -> str:
    random = np.random.default_rng(5)
    sizes = random.uniform(5, 40, (BOXES, 2)).round(1)
    shapes = [Shape(primitives.rectangle(-w / 2, -h / 2, w, h), str(n)) for n, (w, h) in enumerate(sizes.tolist())]
    side = float(np.sqrt(sizes.prod(axis=1).sum()) * 0.95)
    begun = time.perf_counter()
    made = pack(primitives.rectangle(0, 0, side, side), shapes, Wish(1.0, "quarter"))
    took = time.perf_counter() - begun
    ours = sum(s.area_mm2 for s, place in zip(shapes, made.places, strict=True) if place) / side**2
    import rectpack

    packer = rectpack.newPacker(rotation=True)
    for n, (w, h) in enumerate(sizes.tolist()):
        packer.add_rect(w + 1.0, h + 1.0, n)
    packer.add_bin(side + 1.0, side + 1.0)
    begun = time.perf_counter()
    packer.pack()
    alone = time.perf_counter() - begun
    theirs = sum(float(sizes[rid].prod()) for *_, rid in packer.rect_list()) / side**2
    return (
        f"{BOXES:,} rectangles on a sheet for nine tenths of them: {100 * ours:.1f} % of it covered in {took:.1f} s;"
        f" rectpack alone {100 * theirs:.1f} % in {alone:.1f} s."
    )
