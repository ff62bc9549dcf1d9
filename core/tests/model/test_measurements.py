"""What is read off picked things, beside closed forms; and what lies near a place, beside all distances."""

import math
import unittest

import numpy as np

from hakobu.errors import NotThere
from hakobu.geometry import Path, flatten
from hakobu.model import Document, Layer, Page, Piece
from hakobu.model.measurements import Pick, reading_of
from hakobu.model.nearest_lines import Nearby
from hakobu.model.paint import Fill

from ..shapes import blob, circle


def document(**paths: Path) -> Document:
    pieces = tuple(Piece(name, path, "card", fill=Fill("#112233")) for name, path in paths.items())
    return Document(Page(100, 100), (Layer("card", "Card", "#112233"),), pieces)


RING = Path.concatenate([circle(20, 20, 10), circle(20, 21, 6).reversed()])


class Readings(unittest.TestCase):
    def test_a_ring_in_closed_form(self):
        found = reading_of(document(ring=RING), [Pick("ring")])
        np.testing.assert_allclose(found.box, (10, 10, 30, 30), atol=1e-9)
        self.assertAlmostEqual(found.length_mm, 2 * math.pi * 16, 9)
        self.assertAlmostEqual(found.area_mm2, math.pi * (100 - 36), 6)
        self.assertEqual((found.pieces, found.outlines, found.nodes), (1, 2, 2))
        self.assertIsNone(found.radius_mm, "a ring is no circle")
        # The hole is a millimetre off the middle: three are left below it.
        self.assertAlmostEqual(found.thin_mm, 3.0, 5)
        (ax, ay), (bx, by) = found.thin
        self.assertAlmostEqual(math.hypot(bx - ax, by - ay), 3.0, 5)

    def test_one_hole_is_a_circle_with_its_radius(self):
        found = reading_of(document(ring=RING), [Pick("ring", 1)])
        self.assertAlmostEqual(found.radius_mm, 6.0, 9)
        np.testing.assert_allclose(found.centre, (20, 21), atol=1e-9)
        self.assertAlmostEqual(found.area_mm2, math.pi * 36, 6)

    def test_a_circle_of_many_short_lines_is_one_too(self):
        lines = Path.from_points(flatten(circle(5, 5, 4), 0.002).points[:-1], closed=True)
        self.assertAlmostEqual(reading_of(document(hole=lines), [Pick("hole")]).radius_mm, 4.0, 2)
        self.assertIsNone(reading_of(document(hole=blob()), [Pick("hole")]).radius_mm)

    def test_several_things_together_cover_what_all_cover(self):
        pair = document(a=circle(10, 10, 5), b=circle(13, 10, 5))
        found = reading_of(pair, [Pick("a"), Pick("b")])
        both = 2 * 25 * math.acos(0.3) - 1.5 * math.sqrt(100 - 9)
        self.assertAlmostEqual(found.area_mm2, 2 * math.pi * 25 - both, 6)
        self.assertAlmostEqual(found.box[2] - found.box[0], 13.0, 9)

    def test_an_open_line_has_a_length_and_no_area(self):
        line = Path.from_points(np.array([[0, 0], [3, 4]], float), closed=False)
        found = reading_of(document(line=line), [Pick("line")])
        self.assertEqual((found.length_mm, found.area_mm2, found.thin_mm, found.nodes), (5.0, None, None, 2))

    def test_what_is_gone_is_said(self):
        for pick in (Pick("nobody"), Pick("ring", 2)):
            with self.assertRaisesRegex(NotThere, "no longer there"):
                reading_of(document(ring=RING), [pick])


class Near(unittest.TestCase):
    def test_the_next_line_beside_all_distances(self):
        random = np.random.default_rng(4)
        paths = {f"c{k}": circle(*random.uniform(5, 95, 2), random.uniform(1, 6)) for k in range(60)}
        made, dots = document(**paths), {name: flatten(p, 1e-6, longest_mm=0.02).points for name, p in paths.items()}
        nearby = Nearby(made)
        for x, y in random.uniform(0, 100, (25, 2)):
            found = nearby.at(x, y)
            away = {name: np.hypot(*(points - (x, y)).T).min() for name, points in dots.items()}
            self.assertAlmostEqual(found.distance_mm, min(away.values()), 3)
            self.assertEqual(found.piece, min(away, key=away.get))
            others = (np.hypot(*(points - found.point).T).min() for name, points in dots.items() if name != found.piece)
            self.assertAlmostEqual(found.next_mm, min(others), 3)

    def test_a_lone_line_has_no_next_one_and_an_empty_design_none(self):
        found = Nearby(document(one=circle(5, 5, 2))).at(5, 8)
        self.assertEqual((round(found.distance_mm, 9), found.next_mm), (1.0, None))
        self.assertIsNone(Nearby(Document()).at(1, 1))

    def test_places_near_a_line_go_onto_it(self):
        nearby = Nearby(document(one=circle(0, 0, 10)))
        self.assertAlmostEqual(math.hypot(*nearby.onto(7.07, 7.075, 0.02)), 10.0, 9)
        self.assertEqual(nearby.onto(3, 0, 0.02), (3, 0))
