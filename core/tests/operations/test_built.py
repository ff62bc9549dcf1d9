"""Opened, symmetric, interlocked, let in, bridged, joined, set onto bars: beside closed forms and shapely."""

import math
import unittest

import numpy as np
import shapely

from hakobu.geometry import Path, area, bounds, flatten, signed_areas, transform
from hakobu.geometry.boolean import difference, union
from hakobu.geometry.halves import Line, gap_between
from hakobu.geometry.narrow import thin_places, tight_gaps
from hakobu.geometry.nesting import shapes_of
from hakobu.geometry.primitives import rectangle, star
from hakobu.model import Conditions, Document, Fill, Page, Piece, Treatment
from hakobu.model.materials import material_of
from hakobu.operations import operation_of, parameters_from
from hakobu.operations.operation import Context

from ..shapes import circle, square
from .building import DESIGN, LAYERS, RING, take, took
from .test_build import box, covered, polygons


def of(*paths: Path, layer: str = "front") -> Document:
    """A document of shapes, p0 the lowest."""
    pieces = tuple(Piece(f"s:p{k}", path, layer, f"p{k}", fill=Fill("#112233")) for k, path in enumerate(paths))
    return Document(Page(400, 400), LAYERS, pieces)


def run_with(operation: str, document: Document, conditions: Conditions, chosen: dict, **values):
    """Run where something depends on what the design is held against."""
    kind = operation_of(operation)
    return kind.run(document, parameters_from(kind, values), Context("k", chosen, conditions))


class Opened(unittest.TestCase):
    def test_halves_move_strictly_across_the_line_and_areas_stay(self):
        for degrees in (0.0, 30.0, 90.0, 137.0):
            with self.subTest(degrees):
                made = took("open-along", ("s:p0",), of(RING), gap_mm=7.0, angle=degrees).document
                self.assertEqual(len(made.pieces), 2)
                self.assertAlmostEqual(sum(map(covered, made.pieces)), area(RING), delta=1e-6 * area(RING))
                line = Line((20.0, 20.0), math.radians(degrees))
                for piece in made.pieces:
                    middle = line.off(piece.path.ctrl[:, 0]).mean()
                    back = piece.path.ctrl[:, 0] - line.across * math.copysign(3.5, middle)
                    own = np.abs(np.hypot(*(back[:, None] - RING.ctrl[None, :, 0]).transpose(2, 0, 1))).min(axis=1)
                    on_line = np.abs(line.off(back)) < 1e-9
                    self.assertLess(own[~on_line].max(initial=0.0), 1e-9, "nodes lie where they lay, along the line")

    def test_edges_may_stay_open_and_holes_on_one_side_stay_whole(self):
        shape = Path.concatenate([square(0, 0, 40), circle(10, 10, 4).reversed()])
        made = took("open-along", ("s:p0",), of(shape), gap_mm=5.0, edges="open").document
        self.assertEqual(sorted(p.path.closed.tolist() for p in made.pieces), [[False], [False, True]])

    def test_a_gap_fits_what_is_set_in_it_or_that_fits_the_gap(self):
        design = of(square(0, 0, 100), box(200, 0, 230, 10))
        fitted = took("open-along", ("s:p0",), design, clearance_mm=2.0, **{"in": ("s:p1",)}).document
        upper, lower, inner = (bounds(p.path) for p in fitted.pieces)
        np.testing.assert_allclose((lower[1] - upper[3], inner[1] - upper[3], lower[1] - inner[3]), (14, 2, 2))
        sized = took("open-along", ("s:p0",), design, gap_mm=24.0, fit="piece", **{"in": ("s:p1",)}).document
        self.assertAlmostEqual(bounds(sized.by_id["s:p1"].path)[3] - bounds(sized.by_id["s:p1"].path)[1], 20.0)
        narrow = take("open-along", ("s:p0",), design, gap_mm=3.0, fit="piece", **{"in": ("s:p1",)})
        self.assertRegex(narrow.stopped, "wider gap")

    def test_what_the_line_misses_goes_with_its_side_and_a_line_beside_all_is_refused(self):
        made = took("open-along", ("s:p0", "s:p1"), of(square(0, 0, 40), square(0, 50, 4)), gap_mm=6.0, at=[0, 20])
        self.assertEqual(bounds(made.document.by_id["s:p1"].path), (0, 53, 4, 57))
        self.assertRegex(take("open-along", ("s:p0",), of(RING), at=[0.0, 90.0]).stopped, "move it over them")

    def test_a_wide_gap_is_warned_of(self):
        self.assertIn("distorts", took("open-along", ("s:p0",), of(RING), gap_mm=10.0).outcome.note)
        self.assertNotIn("distorts", took("open-along", ("s:p0",), of(RING), gap_mm=9.0).outcome.note)

    def test_the_gap_between_two_pieces_is_the_widest_strip(self):
        gap = gap_between(square(0, 0, 10), square(0, 17, 10))
        self.assertAlmostEqual(gap.high, 7.0)
        self.assertEqual((gap.wide, *np.round(gap.line.point, 9)), (10.0, 5.0, 13.5))
        self.assertIsNone(gap_between(square(0, 0, 10), square(5, 5, 10)))


class Symmetric(unittest.TestCase):
    def lopsided(self) -> Path:
        return union(star(50, 50, 60, 50, 7, 0.5), circle(30, 40, 18), rectangle(48, 20, 30, 20)).path

    def test_both_halves_are_mirror_images_of_one(self):
        shape = self.lopsided()
        for half in ("first", "second", "smoother"):
            made = took("symmetry", ("s:p0",), of(shape), axis=[50.0, 0.0, 50.0, 100.0], half=half).document
            whole = polygons(made.pieces[0].path)
            mirrored = shapely.transform(whole, lambda p: p * (-1, 1) + (100, 0))
            self.assertLess(whole.symmetric_difference(mirrored).area, 2e-3)
            self.assertEqual(len(shapes_of(made.pieces[0].path)), 1, "welded, without a seam")

    def test_the_line_is_found_and_its_score_said(self):
        shape = Path.concatenate([star(50, 50, 60, None, 5, 0.4), circle(50, 40, 2).reversed()])
        made = took("symmetry", ("s:p0",), of(transform(shape, Line((50, 50), 0.3).mirror)))
        self.assertLess(made.outcome.statistics["differ_mm"], 0.01)
        self.assertAlmostEqual(covered(made.document.pieces[0]), area(shape), delta=0.05)

    def test_the_smoother_half_is_proposed(self):
        rough = np.column_stack([np.linspace(50, 90, 60), 20 + np.arange(60) % 2 * 1.5])
        outline = np.vstack([[(10, 20)], rough, [(90, 80), (10, 80)]])
        made = took("symmetry", ("s:p0",), of(Path.from_points(outline, closed=True)), axis=[50.0, 0.0, 50.0, 9.0])
        self.assertIn("left or upper", made.outcome.note)

    def test_what_lies_on_one_side_is_copied_to_the_other(self):
        made = took("symmetry", ("s:p0", "s:p1"), of(square(0, 0, 40), square(4, 4, 6)), axis=[20.0, 0.0, 20.0, 9.0])
        boxes = sorted(tuple(np.round(bounds(p.path), 6)) for p in made.document.pieces[1:])
        self.assertEqual(boxes, [(4, 4, 10, 10), (30, 4, 36, 10)])

    def test_a_sector_is_turned_about_the_centre(self):
        for times in (2, 3, 6, 36):
            made = took("symmetry", ("s:p0",), of(self.lopsided()), kind="turned", times=times, centre=[50.0, 50.0])
            whole = polygons(made.document.pieces[0].path)
            turned = shapely.affinity.rotate(whole, 360 / times, origin=(50, 50))
            self.assertLess(whole.symmetric_difference(turned).area, 5e-3)

    def test_bits_are_dropped_and_counted(self):
        shape = Path.concatenate([square(0, 0, 40), circle(8, 8, 0.5).reversed(), circle(8, 20, 3).reversed()])
        made = took("symmetry", ("s:p0",), of(shape), axis=[20.0, 0.0, 20.0, 9.0], half="first", bits_mm2=1.0)
        self.assertEqual(made.outcome.statistics["holes_dropped"], 2)
        self.assertEqual(int((signed_areas(made.document.pieces[0].path) < 0).sum()), 2)

    def test_an_axis_beside_the_shape_is_refused(self):
        self.assertRegex(take("symmetry", ("s:p0",), of(RING), axis=[90.0, 0.0, 90.0, 9.0]).stopped, "one side")


class Interlocked(unittest.TestCase):
    def rings(self) -> Document:
        ring = Path.concatenate([circle(40, 50, 20), circle(40, 50, 15).reversed()])
        other = Path.concatenate([circle(65, 50, 20), circle(65, 50, 15).reversed()])
        return of(ring, other)

    def test_the_gap_is_even_wherever_they_cross(self):
        """The distance field by shapely, at places all along both edges."""
        for rim in (0.0, 1.5):
            made = took("interlock", ("s:p0", "s:p1"), self.rings(), gap_mm=0.4, rim_mm=rim)
            self.assertEqual(made.outcome.statistics["crossings"], 2)
            sides = [
                union(*(p.path for p in made.document.pieces if p.name in (f"p{k}", f"p{k}, rim"))).path for k in (0, 1)
            ]
            one, other = (polygons(path) for path in sides)
            self.assertAlmostEqual(one.distance(other), 0.4, delta=0.01)
            edge = shapely.get_coordinates(shapely.segmentize(one.boundary, 0.05))
            away = shapely.distance(shapely.points(edge), other)
            near = away[away < 0.6]
            # Where they cross, one edge runs along the other: at the gap, and nowhere nearer.
            self.assertGreater((np.abs(near - 0.4) < 0.01).sum(), 100)
            self.assertGreater(near.min(), 0.39)

    def test_they_lie_over_each_other_by_turns_or_as_picked(self):
        def under(**more) -> list[int]:
            made = took("interlock", ("s:p0", "s:p1"), self.rings(), rim_mm=0.0, **more)
            whole = [polygons(made.document.by_id[f"s:p{k}"].path) for k in (0, 1)]
            return [next(k for k in (0, 1) if not whole[k].contains(shapely.Point(s.at))) for s in made.outcome.spots]

        self.assertEqual(under(), [0, 1])
        self.assertEqual(under(over="topmost"), [0, 0])
        spots = took("interlock", ("s:p0", "s:p1"), self.rings(), rim_mm=0.0).outcome.spots
        self.assertEqual(under(turned=[spots[0].id]), [1, 1])

    def test_pieces_apart_are_refused(self):
        self.assertRegex(take("interlock", ("s:p0", "s:p1"), of(square(0, 0, 9), square(50, 0, 9))).stopped, "overlap")


class LetIn(unittest.TestCase):
    def test_the_clearance_is_even_all_round(self):
        inner = star(50, 50, 40, None, 5, 0.4)
        made = took("let-in", ("s:p1",), of(square(0, 0, 100), inner), clearance_mm=0.8).document
        left = polygons(made.by_id["s:p0"].path)
        opening = shapely.Polygon(left.interiors[0])
        edge = shapely.get_coordinates(shapely.segmentize(opening.boundary, 0.1))
        away = shapely.distance(shapely.points(edge), polygons(inner))
        self.assertLess(np.abs(away - 0.8).max(), 0.01)

    def test_what_is_cut_out_and_what_stays_add_up(self):
        design = of(square(0, 0, 100), circle(50, 50, 20))
        made = took("let-in", ("s:p1",), design, clearance_mm=1.0, cut_out="keep").document
        inlay = next(p for p in made.pieces if p.name == "Inlay")
        self.assertAlmostEqual(covered(made.by_id["s:p0"]) + covered(inlay), 10_000.0, delta=0.01)
        under = took("let-in", ("s:p1",), design, clearance_mm=1.0, cut_out="keep", under_mm=0.5).document
        inlay = next(p for p in under.pieces if p.name == "Inlay")
        self.assertAlmostEqual(covered(inlay), math.pi * 21.5**2, delta=0.1)

    def test_slivers_are_dropped_and_the_clearance_is_the_materials(self):
        # A strip of 2 mm would stay beside it: felt bears 3 mm.
        design = of(square(0, 0, 50), box(2, -1, 30, 51), layer="back")
        felt = Conditions(material=material_of("felt"))
        made = run_with("let-in", design, felt, {"on": ("s:p1",)})
        self.assertEqual((made.statistics["clearance_mm"], made.statistics["dropped"]), (1.0, 1))
        self.assertEqual(np.round(bounds(made.document.by_id["s:p0"].path), 6).tolist(), [31, 0, 50, 50])

    def test_it_is_centred_where_it_lay_beside(self):
        made = took("let-in", ("s:p1",), of(square(0, 0, 60), circle(100, 9, 8)), clearance_mm=0.5)
        self.assertIn("in the middle", made.outcome.note)
        np.testing.assert_allclose(bounds(made.document.by_id["s:p1"].path), (22, 22, 38, 38))

    def test_a_clearance_that_eats_the_piece_is_refused(self):
        self.assertRegex(
            take("let-in", ("s:p1",), of(square(0, 0, 20), circle(10, 10, 8)), clearance_mm=20.0).stopped, "smaller"
        )


class Captions(unittest.TestCase):
    def test_three_layers_fit_with_the_clearance(self):
        made = took("caption", ("s:p0",), of(RING), distance_mm=5.0, clearance_mm=0.3).document
        word = polygons(made.by_id["s:p0"].path)
        backing, inlay = (polygons(next(p for p in made.pieces if p.name == n).path) for n in ("Backing", "Inlays"))
        self.assertAlmostEqual(word.distance(backing), 0.3, delta=0.01)
        self.assertAlmostEqual(word.distance(inlay), 0.3, delta=0.01)
        self.assertAlmostEqual(inlay.area, math.pi * 9.7**2, delta=0.05)
        self.assertEqual(len({p.layer for p in made.pieces}), 3)


class Bridged(unittest.TestCase):
    def test_bridges_hang_the_island_on_the_sheet(self):
        """An opening of 40 mm whose island of 20 mm is held by two bridges of 2 mm: they take that from the ring."""
        made = took("bridge", ("s:p0",), of(RING), width_mm=2.0, number=2)
        self.assertEqual(len(shapes_of(made.document.pieces[0].path)), 2)
        taken = polygons(RING).area - polygons(made.document.pieces[0].path).area
        # A strip of 2 mm from the circle of 10 mm to the edge 20 mm off its middle, on both sides.
        self.assertAlmostEqual(taken, 2 * (40 - math.sqrt(99) - 100 * math.asin(0.1)), delta=1e-3)
        fewer = took("bridge", ("s:p0",), of(RING), without=[made.outcome.spots[0].id])
        self.assertEqual(fewer.outcome.statistics["bridges"], 1)
        by_hand = took("bridge", ("s:p0",), of(RING), number=0, by_hand=[[39.0, 21.0]])
        self.assertEqual(by_hand.outcome.statistics["bridges"], 1)
        self.assertRegex(take("bridge", ("s:p0",), of(square(0, 0, 9))).stopped, "No hole")

    def test_loose_parts_hang_on_the_nearest(self):
        shapes = (square(0, 0, 20), square(0, -8, 4), square(40, 0, 20), square(40, 25, 4))
        made = took("join", None, of(*shapes), width_mm=1.0)
        (piece,) = made.document.pieces
        self.assertEqual(len(shapes_of(piece.path)), 1)
        # The shortest tree: 4, 5 and 20 mm long, 1 mm wide.
        self.assertAlmostEqual(covered(piece), 832 + 4 + 5 + 20, delta=1e-6)
        near = took("join", None, of(*shapes), width_mm=1.0, within_mm=6.0)
        self.assertEqual(len(near.document.pieces), 2)
        to = took("join", ("s:p1",), of(*shapes[:3]), width_mm=1.0, to=("s:p2",)).document
        self.assertEqual(len(to.pieces), 2, "what was not picked stays")
        flowing = took("join", None, of(*shapes[:2]), width_mm=2.0, way="flowing").document
        self.assertGreater(covered(flowing.pieces[0]), 416 + 8 + 0.5, "corners beside the strip are filled")
        self.assertRegex(take("join", ("s:p0",), of(square(0, 0, 9))).stopped, "hangs together already")

    def test_pieces_hang_from_a_frame_and_its_opening_stays(self):
        frame = difference(square(0, 0, 100), square(10, 10, 80)).path
        made = took("stand", None, of(frame, square(30, 50, 10), circle(60, 60, 5)), side="up", sink_mm=0.5)
        (piece,) = made.document.pieces
        # Each alone: 10 mm of the square less what sinks in, and the circle less its segment.
        segment = 25 * math.acos(4.5 / 5) - 4.5 * math.sqrt(25 - 4.5**2)
        # The circle meets the bar by its chords, within 0.001 mm of it, along 4.4 mm.
        self.assertAlmostEqual(covered(piece), 3600 + 95 + 25 * math.pi - segment, delta=0.005)
        self.assertEqual(len(shapes_of(piece.path)), 1)
        low = took("stand", ("s:p1",), of(frame, square(30, 50, 10)), onto=("s:p0",), weld=False).document
        self.assertAlmostEqual(bounds(low.by_id["s:p1"].path)[3], 90.5, places=6)
        # A dot goes with its letter, and hangs on it by a strip.
        letter = of(frame, box(40, 50, 45, 70), box(40, 42, 45, 47))
        dotted = took("stand", None, letter, side="up", sink_mm=0.5, strip_mm=2.0).document.pieces[0]
        self.assertAlmostEqual(covered(dotted), 3600 + 100 + 25 - 2.5 + 3 * 2.0, places=6)
        away = take("stand", ("s:p1",), of(square(0, 0, 10), square(30, 50, 10)), onto=("s:p0",), side="up")
        self.assertRegex(away.stopped, "Nothing lies there")


class Thickened(unittest.TestCase):
    def test_nothing_is_thinner_than_asked(self):
        bell = union(square(0, 0, 10), square(30, 0, 10), box(5, 4.8, 35, 5.2)).path
        made = took("thicken", None, of(bell), width_mm=1.0).document.pieces[0]
        self.assertEqual(len(thin_places(made.path, below_mm=0.995)), 0)
        self.assertAlmostEqual(covered(made), 200 + 20 * 1.0, delta=0.2)

    def test_beside_an_independent_medial_axis(self):
        """The middle line and its distances by scikit-image, at 0.02 mm a pixel."""
        from skimage.draw import polygon2mask
        from skimage.morphology import medial_axis

        wave = np.column_stack([np.linspace(0, 30, 60), 4 + np.sin(np.linspace(0, 9, 60))])
        strip = np.vstack([wave, wave[::-1] + np.array([0, 0.5])])
        shape = union(Path.from_points(strip, closed=True), square(-6, 0, 8), square(28, 0, 8)).path
        made = took("thicken", None, of(shape), width_mm=1.2).document.pieces[0].path
        pixel = 0.02
        left, top, right, bottom = bounds(made)
        chords = flatten(made, 1e-3).outline(0)
        mask = polygon2mask(
            (int((bottom - top) / pixel) + 3, int((right - left) / pixel) + 3),
            (chords[:, ::-1] - (top, left)) / pixel + 1,
        )
        line, away = medial_axis(mask, return_distance=True)
        rows, columns = np.nonzero(line)
        x = left + columns * pixel
        strip_part = (x > 4) & (x < 26) & (np.abs(rows * pixel + top - 4 - np.sin(x * 0.3)) < 0.4)
        width = 2 * away[rows, columns][strip_part] * pixel
        self.assertGreater(width.min(), 1.2 - 3 * pixel)

    def test_gaps_widen_on_both_sides(self):
        made = took("thicken", None, of(square(0, 0, 10), square(10.2, 0, 10)), where="gaps", width_mm=0.6).document
        whole = union(*(p.path for p in made.pieces)).path
        self.assertEqual(len(tight_gaps(whole, below_mm=0.595)), 0)
        self.assertAlmostEqual(sum(map(covered, made.pieces)), 196.0, delta=0.2)

    def test_all_over_corners_stay_pointed(self):
        made = took("thicken", None, of(square(10, 10, 10)), where="all", by_mm=1.0).document.pieces[0]
        self.assertAlmostEqual(covered(made), 144.0, places=6)
        self.assertRegex(take("thicken", None, of(square(0, 0, 3)), where="all", by_mm=-2.0).stopped, "Nothing would")


class Corners(unittest.TestCase):
    def test_areas_of_rounded_and_cut_corners_are_those_of_closed_forms(self):
        """A corner of a right angle loses (1 - pi / 4) r^2, or d^2 / 2."""
        made = took("corners", None, of(square(0, 0, 20)), size_mm=3.0).document.pieces[0]
        self.assertAlmostEqual(covered(made), 400 - (4 - math.pi) * 9, places=9)
        cut = took("corners", None, of(square(0, 0, 20)), size_mm=3.0, way="cut").document.pieces[0]
        self.assertAlmostEqual(covered(cut), 400 - 18, places=9)

    def test_a_rolling_ball_between_a_line_and_an_arc(self):
        """Half a disc of radius 10: a ball of radius 2 in its corner touches both, its centre 8 from the disc's and 2
        from the line; worked out by hand."""
        half = difference(circle(0, 0, 10), box(-11, 0, 11, 11)).path
        made = took("corners", None, of(half), size_mm=2.0).document.pieces[0].path
        centre = (math.sqrt(64 - 4), -2.0)
        touching = {(round(centre[0], 6), 0.0), tuple(np.round(np.array(centre) * 10 / 8, 6))}
        nodes = {tuple(np.round(p, 6) + 0.0) for p in made.ctrl[:, 0]}
        self.assertLessEqual(touching, nodes)

    def test_inner_and_outer_and_single_corners(self):
        shape = difference(square(0, 0, 20), square(12, 12, 8)).path
        self.assertEqual(took("corners", None, of(shape), size_mm=1.0, which="inner").outcome.statistics["corners"], 1)
        outer = took("corners", None, of(shape), size_mm=1.0, which="outer")
        self.assertEqual(outer.outcome.statistics["corners"], 5)
        spots = outer.outcome.spots
        fewer = took("corners", None, of(shape), size_mm=1.0, which="outer", without=[spots[0].id, spots[1].id])
        self.assertEqual(fewer.outcome.statistics["corners"], 3)

    def test_where_there_is_no_room_it_is_less_and_said(self):
        made = took("corners", None, of(square(0, 0, 4)), size_mm=9.0)
        self.assertEqual(made.outcome.statistics["smaller"], 4)
        self.assertRegex(take("corners", None, of(circle(9, 9, 5))).stopped, "no such corner")

    def test_smoothing_stays_within_the_distance_and_keeps_corners(self):
        rng = np.random.default_rng(3)
        top = np.column_stack([np.linspace(0, 60, 200), rng.uniform(-0.1, 0.1, 200)])
        outline = np.vstack([top, [(60, 40), (0, 40)]])
        shape = Path.from_points(outline, closed=True)
        made = took("smooth", None, of(shape), within_mm=0.3).document.pieces[0].path
        self.assertLess(shapely.hausdorff_distance(polygons(made), polygons(shape), densify=0.01), 0.31)
        self.assertLess(made.segment_count, 40)
        for corner in ((60, 40), (0, 40)):
            self.assertLess(np.hypot(*(made.ctrl[:, 0] - corner).T).min(), 1e-6)


class Lines(unittest.TestCase):
    def test_perforations_add_up(self):
        made = took("dash", ("s:line",), cut_mm=3.0, gap_mm=1.0)
        piece = made.document.by_id["s:line"]
        self.assertEqual((len(piece.path), made.document.treatment_of(piece)), (10, Treatment.CUT))
        scored = took("dash", ("s:line",), way="score").document
        self.assertEqual(scored.treatment_of(scored.by_id["s:line"]), Treatment.SCORE)
        self.assertRegex(take("dash", ("s:p0",), of(square(0, 0, 20_000)), cut_mm=0.05, gap_mm=0.05).stopped, "100,000")

    def test_a_fold_lies_on_the_shape_only(self):
        made = took("fold", ("s:ring",))
        self.assertAlmostEqual(made.outcome.statistics["length_mm"], 20.0)
        self.assertRegex(take("fold", ("s:ring",), ends=[0.0, 90.0, 40.0, 90.0]).stopped, "misses")

    def test_edges_become_lines_and_lines_shapes(self):
        lines = took("edges", ("s:a",), way="lines").document
        self.assertEqual(sum(p.id.startswith("k:") for p in lines.pieces), 4)
        wide = took("edges", ("s:a",), width_mm=2.0).document
        made = next(p for p in wide.pieces if p.id.startswith("k:"))
        self.assertAlmostEqual(covered(made), 80 * 2 - 4 + math.pi, delta=0.01)
        self.assertIs(wide.by_id["s:ring"], DESIGN.by_id["s:ring"])
