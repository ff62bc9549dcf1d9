"""Packing: nothing nearer than asked, nothing lost, and as close as the libraries alone would lay it."""

from __future__ import annotations

import time
import unittest

import numpy as np
import rectpack
import shapely

from hakobu.geometry import Path, flatten, primitives
from hakobu.geometry.boolean import union
from hakobu.geometry.offset import offset
from hakobu.model import Document, Fill, Layer, Piece
from hakobu.sheets.distance import nearest_pairs, nearest_to_rim
from hakobu.sheets.items import Item
from hakobu.sheets.packing import Packed, Wish, pack
from hakobu.sheets.packing.pack import laid
from hakobu.sheets.packing.shapes import Shape, shape_of
from hakobu.sheets.stock import outline_from
from tests.shapes import circle, square
from tests.sheets.test_placing import laid as sheets_of


def shape(path: Path) -> Shape:
    return shape_of(Item("x", (Piece("x", path, "l", fill=Fill("#000000")),)))


def some_shapes(count: int) -> list[Shape]:
    """Stars, rings and discs of several sizes."""
    made = []
    for n in range(count):
        size = 12.0 + 5 * (n % 4)
        ring = Path.concatenate([circle(0, 0, size / 2), circle(0, 0, size / 4).reversed()])
        made.append(shape([primitives.star(0, 0, size, None, 5, 0.5), ring, square(0, 0, size)][n % 3]))
    return made


class Proven(unittest.TestCase):
    def hold(self, packed: Packed, shapes, usable: Path, spacing: float) -> None:
        """Nothing nearer to another than the spacing, nor beyond the rim, by exact distances and by shapely's."""
        paths = [laid(s, place) for s, place in zip(shapes, packed.places, strict=True) if place]
        self.assertEqual(nearest_pairs(paths, spacing - 0.01), [])
        self.assertGreaterEqual(min(near.mm for near in nearest_to_rim(paths, usable)), -0.01)
        polygons = [shapely.Polygon(flatten(p.outline(0), 1e-3).points) for p in paths]
        tree = shapely.STRtree(polygons)
        pairs = tree.query(polygons, predicate="dwithin", distance=spacing - 0.02)
        inside = shapely.Polygon(flatten(usable, 1e-3).points).buffer(0.02)
        self.assertTrue(all(inside.contains(polygon) for polygon in polygons))
        if not any(len(p) > 1 for p in paths):
            self.assertEqual(int((pairs[0] != pairs[1]).sum()), 0)

    def test_on_a_rectangle(self):
        shapes = some_shapes(24)
        usable = primitives.rectangle(5, 5, 190, 130)
        packed = pack(usable, shapes, Wish(2.0, "quarter"))
        self.assertNotIn(None, packed.places)
        self.hold(packed, shapes, usable, 2.0)

    def test_a_search_is_never_worse_than_the_quick_way(self):
        shapes = some_shapes(24)
        usable = primitives.rectangle(0, 0, 200, 100)
        quick = pack(usable, shapes, Wish(1.5, "quarter"))
        searched = pack(usable, shapes, Wish(1.5, "quarter", seconds=2.0))
        self.assertLessEqual(searched.used, quick.used)
        self.hold(searched, shapes, usable, 1.5)

    def test_a_search_ends_when_what_is_there_is_enough_and_never_tells_of_worse(self):
        shapes = some_shapes(24)
        usable = primitives.rectangle(0, 0, 200, 100)
        told: list[float] = []

        def enough(share: float, used: float, places) -> bool:
            if places is not None:
                told.append(used)
            return len(told) > 4

        begun = time.monotonic()
        packed = pack(usable, shapes, Wish(1.5, "quarter", seconds=60.0), enough)
        self.assertLess(time.monotonic() - begun, 30.0)
        self.assertEqual(told, sorted(told, reverse=True))
        self.assertLessEqual(packed.used, told[0])
        self.hold(packed, shapes, usable, 1.5)

    def test_an_offcut_of_an_odd_outline_is_filled_without_touching_its_rim(self):
        rim = outline_from("M0 30C0 0 60 0 90 10L160 0L150 90C120 120 60 70 40 110L10 100Z")
        usable = offset(rim, distance_mm=-4.0).path
        shapes = [shape(circle(0, 0, 5 + n % 3)) for n in range(30)]
        packed = pack(usable, shapes, Wish(1.0, "fixed"))
        put = [place for place in packed.places if place]
        self.assertGreater(len(put), 20)
        self.hold(packed, shapes, usable, 1.0)
        paths = [laid(s, place) for s, place in zip(shapes, packed.places, strict=True) if place]
        self.assertGreaterEqual(min(near.mm for near in nearest_to_rim(paths, rim)), 4.0 - 0.01)

    def test_small_parts_lie_in_holes_of_others_where_that_is_wanted(self):
        ring = Path.concatenate([circle(0, 0, 40), circle(0, 0, 30).reversed()])
        shapes = [shape(ring), *(shape(square(0, 0, 12)) for _ in range(5))]
        usable = primitives.rectangle(0, 0, 84, 84)
        without, within = (pack(usable, shapes, Wish(2.0, "fixed", in_holes=holes)) for holes in (False, True))
        self.assertGreater(sum(p is None for p in without.places), sum(p is None for p in within.places))
        self.hold(within, shapes, usable, 2.0)

    def test_the_grain_is_kept(self):
        shapes = [shape(primitives.star(0, 0, 20, 30, 5, 0.5)) for _ in range(6)]
        usable = primitives.rectangle(0, 0, 100, 70)
        for turns, allowed in (("fixed", {0.0}), ("half", {0.0, 180.0})):
            packed = pack(usable, shapes, Wish(2.0, turns))
            self.assertLessEqual({place[2] for place in packed.places if place}, allowed)

    def test_what_finds_no_room_is_left_out_and_all_else_is_there(self):
        shapes = [shape(square(0, 0, 40)), shape(primitives.star(0, 0, 90, None, 5, 0.5)), shape(square(0, 0, 20))]
        packed = pack(primitives.rectangle(0, 0, 70, 45), shapes, Wish(2.0, "quarter"))
        self.assertEqual([place is None for place in packed.places], [False, True, False])


class BestKnown(unittest.TestCase):
    #: Radii of the largest n equal circles in a square of side 1: the best that are known (from memory).
    RADII = ((4, 0.25), (9, 1 / 6), (13, 0.133994), (20, 0.111382), (30, 0.091671))

    def test_circles_come_near_the_best_known_and_never_beyond(self):
        for count, radius in self.RADII:
            # A little smaller, so that what fits only just is not asked for.
            one = shape(circle(0, 0, 98.5 * radius))
            packed = pack(primitives.rectangle(0, 0, 100, 100), [one] * (count + 2), Wish(0.0, "fixed"))
            put = sum(place is not None for place in packed.places)
            self.assertLessEqual(put, count)
            self.assertGreaterEqual(put, 0.8 * count)


class Boxes(unittest.TestCase):
    def test_as_full_as_the_library_alone(self):
        """rectpack by itself, with its default algorithm, on the same rectangles."""
        random = np.random.default_rng(3)
        sizes = random.uniform(5, 30, (300, 2)).round(1)
        shapes = [shape(primitives.rectangle(0, 0, w, h)) for w, h in sizes.tolist()]
        packed = pack(primitives.rectangle(0, 0, 280, 280), shapes, Wish(1.0, "quarter"))
        ours = sum(s.area_mm2 for s, place in zip(shapes, packed.places, strict=True) if place)
        packer = rectpack.newPacker(rotation=True)
        for n, (w, h) in enumerate(sizes.tolist()):
            packer.add_rect(w + 1.0, h + 1.0, n)
        packer.add_bin(281.0, 281.0)
        packer.pack()
        alone = sum(float(sizes[rid].prod()) for *_, rid in packer.rect_list())
        self.assertGreaterEqual(ours, alone - 1e-6)
        put = [laid(s, place) for s, place in zip(shapes, packed.places, strict=True) if place]
        self.assertEqual(nearest_pairs(put, 0.99), [])

    def test_one_that_fills_the_stock_to_its_rim(self):
        usable = primitives.rectangle(5, 5, 60, 40)
        disk = shape(union(circle(0, 0, 20), primitives.rectangle(-30, -5, 60, 10)).path)
        packed = pack(usable, [disk, disk], Wish(2.0, "quarter"))
        self.assertEqual(packed.places[0], (35.0, 25.0, 0.0))
        self.assertIsNone(packed.places[1])
        upright = primitives.rectangle(5, 5, 40, 60)
        self.assertEqual(pack(upright, [disk], Wish(2.0, "quarter")).places[0][2], 90.0)
        self.assertIsNone(pack(upright, [disk], Wish(2.0, "fixed")).places[0])

    def test_two_that_only_just_fit(self):
        shapes = [shape(square(0, 0, 49)), shape(square(0, 0, 49))]
        packed = pack(primitives.rectangle(0, 0, 100, 49), shapes, Wish(2.0, "fixed"))
        self.assertNotIn(None, packed.places)


class Copies(unittest.TestCase):
    def document(self, *paths: Path) -> Document:
        pieces = tuple(Piece(f"p{n}", path, "l") for n, path in enumerate(paths))
        return Document(layers=(Layer("l", "L", "#000000"),), pieces=pieces)

    def test_by_number(self):
        made = sheets_of(self.document(circle(0, 0, 10)), arrange="packed", copies=7)
        self.assertEqual([p.copy for p in made.sheets[0].placements], [1, 2, 3, 4, 5, 6, 7])

    def test_as_many_as_fit(self):
        """Squares of 30 mm, 2 mm apart, on 98 x 66 mm less 1 mm all round: three rows of two."""
        made = sheets_of(
            self.document(square(0, 0, 30)),
            arrange="packed", fill=True, width_mm=98.0, height_mm=66.0, margin_mm=1.0,
        )  # fmt: skip
        self.assertEqual(len(made.sheets[0].placements), 6)

    def test_what_found_no_room_is_said(self):
        made = sheets_of(
            self.document(square(0, 0, 30)), arrange="packed", copies=9, width_mm=98.0, height_mm=66.0, margin_mm=1.0
        )
        self.assertEqual(len(made.sheets[0].placements), 6)
