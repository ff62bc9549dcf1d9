"""What is made: areas beside shapely on chords, offsets beside pyclipr, all else beside closed forms."""

import math
import unittest
from dataclasses import replace

import numpy as np
import shapely
from pyclipr import ClipperOffset, EndType, JoinType

from hakobu.geometry import Path, area, bounds, flatten, length, signed_areas
from hakobu.geometry.boolean import union
from hakobu.geometry.primitives import rectangle
from hakobu.model import Document, Fill, Page, Piece
from hakobu.model.report import report_of
from hakobu.model.shapes import operand_of

from ..shapes import circle, document, square
from .building import DESIGN, take, took

#: Chords are so near to the curves, and areas on them so near to the exact ones.
FINE_MM, WITHIN_MM2 = 1e-5, 0.001
#: Two discs of radius 10 whose centres are 12 apart, and what they have in common (a lens, in closed form).
DISCS = document(circle(20, 20, 10), circle(32, 20, 10))
LENS = 2 * 100 * math.acos(0.6) - 6 * math.sqrt(4 * 100 - 144)
DISC = 100 * math.pi


def box(left: float, top: float, right: float, bottom: float) -> Path:
    return rectangle(left, top, right - left, bottom - top)


def covered(piece: Piece) -> float:
    return area(union(operand_of(piece)).path)


def polygons(path: Path) -> shapely.Geometry:
    """The region of a path, by turns of its outlines."""
    chords = flatten(path, FINE_MM)
    rings = [shapely.Polygon(chords.outline(k)) for k in range(len(chords))]
    region = rings[0]
    for ring in rings[1:]:
        region = region.symmetric_difference(ring)
    return region


class Combined(unittest.TestCase):
    def areas(self, mode: str, design: Document = DISCS, **more) -> list[float]:
        result = took("combine", [piece.id for piece in design.pieces], design, mode=mode, **more)
        return sorted(covered(piece) for piece in result.document.pieces)

    def test_areas_of_two_discs_are_those_of_the_lens(self):
        for mode, expected in (
            ("weld", [2 * DISC - LENS]),
            ("cut-away", [DISC - LENS]),
            ("overlap", [LENS]),
            ("divide", [LENS, DISC - LENS, DISC - LENS]),
        ):
            with self.subTest(mode):
                np.testing.assert_allclose(self.areas(mode), sorted(expected), atol=1e-9)

    def test_curves_stay_curves_and_shapely_agrees(self):
        ellipse = took(
            "shape", None, Document(), kind="ellipse", width_mm=60.0, height_mm=24.0, at=[40.0, 30.0]
        ).document
        star = took("shape", None, ellipse, kind="star", width_mm=50.0, at=[55.0, 32.0]).document
        star = replace(star, pieces=tuple(replace(p, id=f"s:{n}") for n, p in enumerate(star.pieces)))
        one, other = (polygons(piece.path) for piece in star.pieces)
        for mode, expected in (("weld", one | other), ("cut-away", one - other), ("overlap", one & other)):
            with self.subTest(mode):
                after = took("combine", "everything", star, mode=mode).document
                total = sum(covered(piece) for piece in after.pieces)
                self.assertAlmostEqual(total, expected.area, delta=WITHIN_MM2)
                self.assertIn(1, set(np.concatenate([piece.path.kind for piece in after.pieces]).tolist()))

    def test_inclusion_and_exclusion_of_three(self):
        three = document(circle(20, 20, 10), circle(30, 20, 10), circle(25, 28, 10))
        ids = [piece.id for piece in three.pieces]
        pairs = [
            self.areas("overlap", replace(three, pieces=tuple(three.by_id[i] for i in pair)))[0]
            for pair in (ids[:2], ids[1:], ids[::2])
        ]
        common = self.areas("overlap", three)[0]
        self.assertAlmostEqual(self.areas("weld", three)[0], 3 * DISC - sum(pairs) + common, 9)
        self.assertAlmostEqual(sum(self.areas("divide", three)), 3 * DISC - sum(pairs) + common, 9)

    def test_pieces_that_do_not_meet_stay_pieces_and_lines_stay_lines(self):
        design = document(square(0, 0, 10), square(5, 0, 10), square(50, 0, 10))
        result = took("combine", "everything", design)
        self.assertEqual(len(result.document.pieces), 2)
        self.assertIs(result.document.by_id["t:/2"], design.by_id["t:/2"])
        self.assertEqual(result.outcome.title, "3 pieces made 2")
        self.assertIn("meet nowhere", take("combine", ["t:/0", "t:/2"], design).stopped)
        line = Piece("l", Path.from_points(np.array([(0.0, 5.0), (60.0, 5.0)]), closed=False), "layer")
        with_line = replace(design, pieces=(*design.pieces, line))
        result = took("combine", "everything", with_line)
        self.assertIs(result.document.by_id["l"], line)
        self.assertIn("1 line that does not close", result.outcome.note)

    def test_the_looks_layer_name_and_group_are_the_lowest_pieces(self):
        after = took("combine", ["s:ring", "s:a"]).document
        (made,) = (piece for piece in after.pieces if piece.id.startswith("k:"))
        self.assertEqual((made.layer, made.name, made.fill), ("back", "Ring", Fill("#eeeeee")))
        self.assertEqual([group.members for group in after.groups], [("s:b",)])
        after = took("combine", ["s:a", "s:b"]).document
        (made,) = (piece for piece in after.pieces if piece.id.startswith("k:"))
        self.assertEqual([group.members for group in after.groups], [(made.id,)])

    def test_fill_rules_are_those_of_the_pieces(self):
        # SVG 2, 13.4: the same two squares, one in the other, run the same way.
        both = Path.concatenate([square(0, 0, 30), square(10, 10, 10)])
        for rule, expected in (("nonzero", 900.0), ("evenodd", 800.0)):
            design = document(both, square(25, 0, 10), fill_rule=rule)
            after = took("combine", "everything", design, loose="welded").document
            self.assertAlmostEqual(sum(covered(piece) for piece in after.pieces), expected + 100 - 50, 9)

    def test_a_loose_outline_inside_becomes_a_hole_first(self):
        frame = document(
            square(0, 0, 60),
            square(10, 10, 40),
            Path.from_points(np.array([(5.0, 28.0), (55.0, 28.0), (55.0, 32.0), (5.0, 32.0)]), True),
            fill=None,
        )
        result = took("combine", "everything", frame)
        self.assertEqual(len(result.document.pieces), 1)
        self.assertAlmostEqual(covered(result.document.pieces[0]), 3600 - 1600 + 40 * 4, 9)
        self.assertIn("became a hole", result.outcome.note)
        swallowed = took("combine", "everything", frame, loose="welded").document
        self.assertAlmostEqual(sum(covered(piece) for piece in swallowed.pieces), 3600, 9)

    def test_what_cuts_is_the_topmost_the_lowest_or_what_is_picked_for_it(self):
        design = document(square(0, 0, 20), square(10, 0, 20), square(25, 0, 20))
        after = took("combine", ["t:/0", "t:/1"], design, mode="cut-away").document
        self.assertEqual([round(covered(p), 6) for p in after.pieces], [200, 400])
        after = took("combine", ["t:/0", "t:/1"], design, mode="cut-away", lowest_cuts=True).document
        self.assertEqual([bounds(p.path)[0] for p in after.pieces], [20, 25])
        result = took("combine", ["t:/0", "t:/2"], design, mode="cut-away", keep_cutter=True, **{"with": ["t:/1"]})
        self.assertEqual([round(covered(p), 6) for p in result.document.pieces], [200, 400, 300])
        through = took("combine", ["t:/1"], design, mode="through").document
        self.assertEqual([round(covered(p), 6) for p in through.pieces], [200, 300])
        self.assertIn("lies on none", take("combine", ["t:/0", "t:/2"], design, mode="cut-away").stopped)

    def test_a_piece_that_falls_apart_becomes_several(self):
        design = document(
            square(0, 0, 30), Path.from_points(np.array([(-5.0, 10.0), (35.0, 10.0), (35.0, 20.0), (-5.0, 20.0)]), True)
        )
        after = took("combine", "everything", design, mode="cut-away").document
        self.assertEqual([covered(p) for p in after.pieces], [300, 300])

    def test_shapes_that_cannot_be_combined_stop_in_a_sentence(self):
        random = np.random.default_rng(1)
        wild = document(*(Path.from_points(random.uniform(0, 100, (700, 2)), True) for _ in range(2)))
        self.assertIn("too often", take("combine", "everything", wild).stopped)


class Apart(unittest.TestCase):
    def test_into_pieces_with_their_holes_into_outlines_and_back(self):
        both = document(Path.concatenate([square(0, 0, 30), square(10, 10, 10).reversed(), square(50, 0, 10)]))
        pieces = took("take-apart", "everything", both).document.pieces
        self.assertEqual([(len(p.path), covered(p)) for p in pieces], [(2, 800), (1, 100)])
        outlines = took("take-apart", "everything", both, into="outlines").document
        self.assertEqual([covered(p) for p in outlines.pieces], [900, 100, 100])
        again = took("put-together", "everything", outlines).document
        self.assertEqual([covered(p) for p in again.pieces], [900])
        self.assertIn("nothing to take apart", take("take-apart", "everything", document(square())).stopped)


class Grown(unittest.TestCase):
    def test_a_squares_backing_in_closed_form(self):
        for join, corner in (("round", 9 * math.pi), ("mitre", 36.0), ("bevel", 18.0)):
            after = took("backing", "everything", document(square(50, 30, 20)), distance_mm=3.0, join=join).document
            self.assertAlmostEqual(covered(after.pieces[0]), 400 + 4 * 20 * 3 + corner, 6, join)
            self.assertEqual([layer.name for layer in after.layers], ["Layer, backing", "Layer"])
        after = took("backing", "everything", document(square(50, 30, 20)), distance_mm=-3.0).document
        self.assertAlmostEqual(covered(after.pieces[0]), 14 * 14, 6)

    def test_beside_pyclipr(self):
        star = took("shape", None, Document(), kind="star", width_mm=80.0, at=[60.0, 50.0]).document
        scale = 10_000
        clipper = ClipperOffset()
        clipper.scaleFactor = scale
        clipper.addPaths([flatten(star.pieces[0].path, FINE_MM).outline(0)[:-1]], JoinType.Round, EndType.Polygon)
        clipper.arcTolerance = 1e-4 * scale
        expected = sum(abs(shapely.Polygon(ring).area) for ring in clipper.execute(2.5))
        made = took("backing", "everything", star, distance_mm=2.5).document.pieces[0]
        self.assertAlmostEqual(covered(made), expected, delta=0.02)

    def test_hollows_are_filled_kept_or_filled_below_a_size(self):
        holes = document(
            Path.concatenate([square(0, 0, 60), square(10, 10, 20).reversed(), square(40, 40, 10).reversed()])
        )
        for hollows, left in (("fill", 0), ("keep", 2), ("100mm2", 1), ("1cm2", 1), ("5mm2", 2)):
            made = took("backing", "everything", holes, distance_mm=1.0, hollows=hollows).document.pieces[0]
            self.assertEqual(len(made.path) - 1, left, hollows)

    def test_a_rim_is_what_lies_between_and_follows_hollows_that_stay(self):
        ring = DESIGN.by_id["s:ring"]
        after = took("rim", ["s:ring"], distance_mm=2.0).document
        made = next(piece for piece in after.pieces if piece.layer == "k:layer")
        outside, inside = 4 * 40 * 2 + 4 * math.pi, math.pi * (100 - 64)
        self.assertAlmostEqual(covered(made), outside + inside, 6)
        made = took("rim", ["s:ring"], distance_mm=2.0, hollows="fill").document.pieces[0]
        self.assertAlmostEqual(covered(made), outside, 6)
        made = took("rim", ["s:ring"], distance_mm=-2.0, hollows="fill").document.pieces[0]
        self.assertAlmostEqual(covered(made), 1600 - 36 * 36, 6)
        self.assertIs(after.by_id["s:ring"], ring)

    def test_together_or_each_and_several_at_growing_distances(self):
        design = document(square(20, 20, 20), square(60, 20, 20))
        one = took("backing", "everything", design, distance_mm=12.0).document
        self.assertEqual((len(one.pieces), len(one.pieces[0].path)), (3, 1))
        each = took("backing", "everything", design, distance_mm=12.0, each=True).document
        self.assertEqual(len(each.pieces), 4)
        steps = took("backing", "t:/0" and ["t:/0"], design, distance_mm=2.0, steps=3, join="mitre").document
        self.assertEqual([round(covered(p)) for p in steps.pieces], [32 * 32, 28 * 28, 24 * 24, 400, 400])

    def test_it_follows_what_it_is_made_of_and_has_a_layer_with_its_material(self):
        result = took("backing", ["s:a"], distance_mm=1.0, layer="Base", colour="#aabbcc", material="felt")
        layer = result.document.layers[1]
        self.assertEqual((layer.name, layer.color, layer.material), ("Base", "#aabbcc", "felt"))
        made = next(piece for piece in result.document.pieces if piece.layer == layer.id)
        self.assertEqual((made.name, made.fill.color), ("Left, backing", "#aabbcc"))
        again = took("backing", ["s:b"], result.document, distance_mm=1.0, layer="Base")
        self.assertEqual(len(again.document.layers), len(result.document.layers))


class Hollow(unittest.TestCase):
    def test_all_those_below_a_size_and_those_that_are_kept(self):
        island = [square(0, 0, 60), square(5, 5, 30).reversed(), square(15, 15, 10), circle(50, 50, 3).reversed()]
        design = document(Path.concatenate(island))
        for parameters, expected in (
            ({}, 3600),
            ({"below_mm2": 100.0}, 3600 - 900 + 100),
            ({"narrower_mm": 7.0}, 3600 - 900 + 100),
            ({"below_mm2": 100.0, "action": "keep"}, 3600 - 9 * math.pi),
        ):
            after = took("holes", "everything", design, **parameters).document
            self.assertAlmostEqual(covered(after.pieces[0]), expected, 9, parameters)
        self.assertIn("no such hole", take("holes", "everything", design, below_mm2=1.0).stopped)


class Simplified(unittest.TestCase):
    def test_needless_nodes_go_and_no_line_moves_farther_than_is_typed(self):
        around = np.linspace(0, 2 * math.pi, 400, endpoint=False)
        dense = document(Path.from_points(np.column_stack([np.cos(around), np.sin(around)]) * 20 + 50, True))
        result = took("simplify", "everything", dense, within_mm=0.01)
        made = result.document.pieces[0].path
        self.assertTrue(made.is_circle.all())
        self.assertLessEqual(result.outcome.statistics["off_mm"], 0.01)
        away = shapely.hausdorff_distance(polygons(made), polygons(dense.pieces[0].path), densify=0.01)
        self.assertLessEqual(away, 0.01)
        self.assertIn("no node too many", take("simplify", "everything", result.document, within_mm=0.01).stopped)


class Placed(unittest.TestCase):
    def test_moved_turned_and_mirrored_about_the_middle(self):
        design = document(Path.from_points(np.array([(10.0, 10.0), (40.0, 10.0), (40.0, 20.0)]), True))
        for parameters, expected in (
            ({"move": [5.0, -2.0]}, (15, 8, 45, 18)),
            ({"turn": 90.0}, (20, 0, 30, 30)),
            ({"mirror": "x"}, (10, 10, 40, 20)),
            ({"mirror": "y", "move": [1.0, 1.0]}, (11, 11, 41, 21)),
        ):
            after = took("place", "everything", design, **parameters).document
            np.testing.assert_allclose(bounds(after.pieces[0].path), expected, atol=1e-9)
            self.assertAlmostEqual(abs(area(after.pieces[0].path)), 150, 9)

    def test_a_copy_lies_above_and_a_group_is_copied_as_one(self):
        after = took("place", ["s:a", "s:b"], move=[0.0, 30.0], copy=True).document
        self.assertEqual(len(after.pieces), len(DESIGN.pieces) + 2)
        pair, copied = after.groups
        self.assertEqual((pair.members, len(copied.members)), (("s:a", "s:b"), 2))
        self.assertNotEqual(pair.id, copied.id)

    def test_lined_up_by_arithmetic(self):
        design = document(square(10, 10, 10), square(40, 25, 20), square(90, 50, 4))
        ids = "everything"
        lefts = lambda made: [round(bounds(p.path)[0], 9) for p in made.pieces]  # noqa: E731
        for parameters, expected in (
            ({"x": "left"}, [10, 10, 10]),
            ({"x": "right"}, [84, 74, 90]),
            ({"x": "centre"}, [47, 42, 50]),
            ({"x": "centre", "to": "page"}, [95, 90, 98]),
            ({"x": "left", "to": "t:/1"}, [40, 40, 40]),
            # 84 mm less 34 of pieces, in two gaps.
            ({"x": "spread"}, [10, 45, 90]),
        ):
            self.assertEqual(lefts(took("align", ids, design, **parameters).document), expected, parameters)
        by_area = document(Path.from_points(np.array([(0.0, 0.0), (30.0, 0.0), (0.0, 30.0)]), True), square(50, 0, 10))
        after = took("align", ["t:/0"], by_area, x="centre", to="t:/1", by="area").document
        self.assertAlmostEqual(bounds(after.pieces[0].path)[0], 45.0, 9)
        self.assertIn("lie so already", take("align", ["t:/0"], design, x="left").stopped)

    def test_copies_in_rows_and_round_a_centre(self):
        rows = took("copies", "everything", document(square(0, 0, 10)), columns=3, rows=2, gap_mm=5.0).document
        self.assertEqual(
            [bounds(p.path)[:2] for p in rows.pieces], [(0, 0), (15, 0), (30, 0), (0, 15), (15, 15), (30, 15)]
        )
        ring = took("copies", "everything", document(circle(100, 20, 5)), how="around", count=4).document
        middles = [((b[0] + b[2]) / 2, (b[1] + b[3]) / 2) for b in (bounds(p.path) for p in ring.pieces)]
        np.testing.assert_allclose(middles, [(100, 20), (130, 50), (100, 80), (70, 50)], atol=1e-9)
        upright = took(
            "copies", "everything", document(square(95, 15, 10)), how="around", count=3, upright=True
        ).document
        self.assertTrue(all(np.isclose(bounds(p.path)[2] - bounds(p.path)[0], 10) for p in upright.pieces))


class Figures(unittest.TestCase):
    def made(self, **parameters) -> Piece:
        return took("shape", None, Document(Page(200, 100)), **parameters).document.pieces[0]

    def test_areas_and_sizes_in_closed_form(self):
        hexagon, wide = 3 * math.sqrt(3) / 2, {"kind": "rectangle", "width_mm": 60.0, "height_mm": 40.0}
        for parameters, size, expected in (
            ({"kind": "rectangle", "width_mm": 60.0, "height_mm": 40.0}, (60, 40), 2400),
            (
                {"kind": "rectangle", "width_mm": 60.0, "height_mm": 40.0, "corner_mm": 5.0},
                (60, 40),
                2400 - 25 * (4 - math.pi),
            ),
            (
                {"kind": "rectangle", "width_mm": 60.0, "height_mm": 40.0, "corner_mm": 90.0},
                (60, 40),
                800 + 400 * math.pi,
            ),
            ({"kind": "circle", "width_mm": 30.0}, (30, 30), 225 * math.pi),
            ({"kind": "ring", "width_mm": 30.0, "rim_mm": 5.0}, (30, 30), 125 * math.pi),
            ({**wide, "kind": "frame", "rim_mm": 10.0}, (60, 40), 2400 - 800),
            ({"kind": "polygon", "width_mm": math.sqrt(3) * 10, "corners": 6}, (math.sqrt(3) * 10, 20), 100 * hexagon),
        ):
            piece = self.made(**parameters)
            left, top, right, bottom = bounds(piece.path)
            np.testing.assert_allclose((right - left, bottom - top), size, atol=1e-9)
            np.testing.assert_allclose(((left + right) / 2, (top + bottom) / 2), (100, 50), atol=1e-9)
            self.assertAlmostEqual(covered(piece), expected, 6, parameters)
        # An ellipse is of cubics: they are within 0.03 percent of it.
        self.assertAlmostEqual(
            covered(self.made(kind="ellipse", width_mm=60.0, height_mm=40.0)), 600 * math.pi, delta=0.6
        )

    def test_a_star_a_line_and_one_that_is_turned(self):
        star = self.made(kind="star", width_mm=40.0, points=5, inner=0.4)
        self.assertEqual(star.path.segment_count, 10)
        line = self.made(kind="line", width_mm=40.0)
        self.assertEqual((length(line.path), line.fill), (40.0, None))
        turned = self.made(kind="rectangle", width_mm=60.0, height_mm=20.0, turn=90.0)
        np.testing.assert_allclose(bounds(turned.path), (90, 20, 110, 80), atol=1e-9)
        first = took("shape", None, Document(), kind="circle", width_mm=20.0, at=[30.0, 30.0]).document
        self.assertEqual((first.page.width_mm, first.layers[0].name), (45.0, "Figures"))


class Reported(unittest.TestCase):
    def test_before_and_after_in_figures(self):
        report = report_of(document(square(0, 0, 20), square(23, 0, 20))).as_json()
        self.assertEqual((report["pieces"], report["area_mm2"], report["size_mm"]), (2, 800, [43, 20]))
        self.assertEqual((report["smallest_gap_mm"], report["narrowest_mm"]), (3, None))
        thin = report_of(document(box(0, 0, 30, 2)))
        self.assertAlmostEqual(thin.narrowest_mm, 2.0, 6)
        self.assertEqual(report_of(Document()).as_json()["area_mm2"], 0)

    def test_signed_areas_of_all_that_is_made_are_plain(self):
        for operation in ("backing", "rim", "combine"):
            for piece in took(operation, ["s:ring", "s:a"]).document.pieces:
                if piece.id.startswith("k:"):
                    self.assertAlmostEqual(float(signed_areas(piece.path).sum()), covered(piece), 6)
