"""What is sound is left alone: no finding that stops or spoils, and nothing is changed by mending such findings.

Outside checks: shapely's `is_valid` (GEOS) against self-crossing, and its overlay against the length that is doubled.
"""

import unittest

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.checks import check, rule_of
from hakobu.checks.applier import mend_where
from hakobu.geometry import Path, bounds, length
from hakobu.geometry.scanline_area import painted_area
from hakobu.model import Conditions, Level

from ..fonts import glyph, glyph_names
from ..shapes import document
from ..sound_designs import sound_designs


class Sound(unittest.TestCase):
    def test_at_least_sixty_designs_have_nothing_to_mend(self):
        count = 0
        for name, made in sound_designs():
            with self.subTest(name):
                self.assertEqual([f.message for f in check(made) if f.level is not Level.NOTE], [])
                done = mend_where(made, lambda f: f.level is not Level.NOTE, Conditions())
                self.assertEqual((done.document, done.taken), (made, ()))
            count += 1
        self.assertGreaterEqual(count, 60)

    def test_whole_letters_keep_what_they_paint_through_all_safe_mends(self):
        from hakobu.geometry import scaling, transform

        for font, some in (("sans", []), ("serif", ["Psi", "Psi.sc"])):
            for name in [*some, *glyph_names(font)[40:400:12]]:
                path = transform(glyph(font, name), scaling(0.04))
                if not path.segment_count:
                    continue
                box = bounds(path)
                done = mend_where(document(path), lambda f: f.safe, Conditions()).document
                after = Path.concatenate(piece.path for piece in done.pieces)
                areas = [painted_area([(each, "nonzero")], box, 0.001) for each in (path, after)]
                self.assertAlmostEqual(areas[1] / areas[0], 1.0, delta=5e-4, msg=name)


class Outside(unittest.TestCase):
    def test_self_crossing_agrees_with_geos_on_a_thousand_random_polygons(self):
        random = np.random.default_rng(11)
        rule = rule_of("self-crossing")
        for _ in range(1000):
            points = random.uniform(0, 50, (int(random.integers(4, 9)), 2))
            crosses = not shapely.Polygon(points).is_valid
            found = check(document(Path.from_points(points, closed=True)), rules=[rule])
            self.assertEqual(bool(found), crosses)

    def test_the_doubled_length_is_that_of_geos(self):
        random = np.random.default_rng(12)
        rule = rule_of("overlapping-line")
        for _ in range(50):
            a, b = random.uniform(0, 80, (2, 2))
            share = np.sort(random.uniform(-0.5, 1.5, 2))
            first = np.array([a, b])
            second = a + share[:, None] * (b - a)
            expected = shapely.intersection(shapely.LineString(first), shapely.LineString(second).buffer(1e-9)).length
            made = document(Path.from_points(first, False), Path.from_points(second, False), fill=None)
            found = [f.measure["length_mm"] for f in check(made, rules=[rule, rule_of("duplicate-line")])]
            self.assertAlmostEqual(sum(found), expected if expected > 0.5 else 0.0, delta=0.01)


@st.composite
def designs(draw):
    """Polygons, open and closed, filled and bare, that may cross, touch, repeat and end anywhere."""
    coordinate = st.integers(0, 24).map(lambda n: n / 2)
    paths = []
    for _ in range(draw(st.integers(1, 4))):
        points = draw(st.lists(st.tuples(coordinate, coordinate), min_size=2, max_size=7))
        paths.append(Path.from_points(np.array(points, float), closed=draw(st.booleans()) and len(set(points)) > 2))
    return document(*paths, **({} if draw(st.booleans()) else {"fill": None}))


class Safe(unittest.TestCase):
    @settings(max_examples=150, deadline=None, derandomize=True)
    @given(designs())
    def test_safe_mends_never_raise_nor_add_length_nor_make_a_graver_fault(self, made):
        tolerance = Conditions().tolerance_mm
        before = {f.rule for f in check(made) if f.level is not Level.NOTE}
        done = mend_where(made, lambda f: f.safe, Conditions())
        closed = [f.measure for f in done.taken if f.rule == "open-path"]
        gaps = sum(m.get("gap_mm", 0.0) * m.get("lines", 1) for m in closed)
        lines = [length(Path.concatenate(p.path for p in each.pieces)) for each in (made, done.document)]
        self.assertLessEqual(lines[1], lines[0] + gaps + tolerance)
        after = {f.rule for f in check(done.document) if f.level is not Level.NOTE}
        self.assertLessEqual(after, before)
