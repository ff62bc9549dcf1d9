"""DXF in, against ezdxf's own paths of the same entities. Source: the DXF reference, "ENTITIES" and "HEADER"."""

import io
import math
import unittest

import ezdxf
import numpy as np
from ezdxf.math import Matrix44
from scipy.spatial import KDTree

from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.geometry import ARC, CUBIC, LINE, Path, SegmentIndex, flatten
from hakobu.geometry.measure import signed_areas
from hakobu.model import Treatment
from hakobu.model.units import FileUnit

from ..shapes import circle, document, square

DXF = by_id("dxf")


def read(drawing, **options):
    out = io.StringIO()
    drawing.write(out)
    return DXF.read(out.getvalue().encode("utf-8", "surrogateescape"), ReadOptions(**options))


def new(release: str = "R2010", units: int = 4):
    return ezdxf.new(release, units=units)


def kinds(result) -> list[list[int]]:
    return [piece.path.kind.tolist() for piece in result.document.pieces]


def by_ezdxf(entities) -> np.ndarray:
    """Points along all entities, blocks and polylines taken apart, by ezdxf alone."""
    found = []
    for entity in entities:
        kind = entity.dxftype()
        if kind == "INSERT":
            for copy in entity.multi_insert() if entity.mcount > 1 else [entity]:
                found.append(by_ezdxf(copy.virtual_entities()))
        elif kind in ("LWPOLYLINE", "POLYLINE"):
            found.append(by_ezdxf(entity.virtual_entities()))
        elif kind == "LINE":
            found.append([tuple(entity.dxf.start)[:2], tuple(entity.dxf.end)[:2]])
        elif kind == "SOLID":
            found.append([tuple(v)[:2] for v in entity.wcs_vertices()])
        elif kind != "HATCH":
            found.append([(v.x, v.y) for v in entity.flattening(1e-5)])
    return np.vstack(found)


class Entities(unittest.TestCase):
    def same(self, drawing, within: float = 5e-4) -> object:
        """Everything that ezdxf draws is there, and nothing else, up to a shift and the turn of y."""
        result = read(drawing)
        theirs = by_ezdxf(drawing.modelspace()) * (1, -1)
        theirs = theirs - theirs.min(axis=0)
        whole = Path.concatenate(piece.path for piece in result.document.pieces)
        own = flatten(whole, 1e-5)
        low = own.points.min(axis=0)
        off = SegmentIndex(own, 0.5).nearest(theirs + low)[0]
        self.assertLess(off.max(), within)
        back = flatten(whole, 0.01).points - low
        self.assertLess(KDTree(theirs).query(back)[0].max(), 0.5)
        return result

    def test_lines_arcs_circles(self):
        drawing = new()
        space = drawing.modelspace()
        space.add_line((0, 0), (30, 10))
        space.add_circle((10, 30), 5)
        space.add_arc((40, 20), 8, 30, 300)
        space.add_arc((70, 20), 8, 300, 30)
        result = self.same(drawing)
        self.assertEqual(sorted(kinds(result)), [[LINE], [ARC], [ARC, ARC], [ARC, ARC]])
        self.assertTrue(any(piece.path.is_circle[0] for piece in result.document.pieces))

    def test_bulges_of_every_size(self):
        drawing = new()
        for k, bulge in enumerate((0.0, 0.3, -0.3, 1.0, -1.0, 2.5, -4.0)):
            drawing.modelspace().add_lwpolyline([(20 * k, 0, bulge), (20 * k + 6, 2, 0)], format="xyb")
        self.same(drawing)

    def test_closed_polylines_close(self):
        drawing = new()
        space = drawing.modelspace()
        space.add_lwpolyline([(0, 0, 0), (20, 0, 0.5), (20, 20, 0), (0, 20, 0)], format="xyb", close=True)
        space.add_polyline2d([(40, 0, 0), (60, 0, -0.5), (60, 20, 0)], format="xyb", close=True)
        space.add_polyline3d([(80, 0, 5), (90, 10, 7), (100, 0, 1)])
        result = self.same(drawing)
        self.assertEqual([bool(p.path.closed[0]) for p in result.document.pieces], [True, True, False])

    def test_ellipses_whole_and_in_part(self):
        drawing = new()
        space = drawing.modelspace()
        space.add_ellipse((0, 0), (20, 5), 0.4)
        space.add_ellipse((60, 0), (10, -5), 0.6, start_param=0.5, end_param=4.0)
        space.add_ellipse((90, 0), (0, 8), 1.0, start_param=1.0, end_param=3.0)
        result = self.same(drawing)
        self.assertIn([ARC], kinds(result))

    def test_splines_without_weights_are_exact(self):
        drawing = new()
        space = drawing.modelspace()
        space.add_spline_control_frame([(0, 0), (10, 20), (20, -20), (30, 10), (45, 0), (50, 12)])
        space.add_open_spline([(0, 50), (10, 70), (20, 40), (30, 60)], degree=2)
        space.add_spline(fit_points=[(80, 0), (100, 5), (100, 30), (75, 28)])
        result = self.same(drawing)
        self.assertTrue(all(set(each) == {CUBIC} for each in kinds(result)))

    def test_rational_splines_and_high_degrees_are_within_their_distance(self):
        drawing = new()
        space = drawing.modelspace()
        weight = math.sqrt(0.5)
        quarter = space.add_spline(degree=2)
        quarter.control_points, quarter.knots = [(20, 0, 0), (20, 20, 0), (0, 20, 0)], [0, 0, 0, 1, 1, 1]
        quarter.weights = [1, weight, 1]
        space.add_open_spline([(0, 40), (10, 90), (20, 20), (30, 70), (40, 30), (50, 60), (60, 40)], degree=5)
        result = self.same(drawing)
        arc = min(result.document.pieces, key=lambda piece: np.ptp(piece.path.ctrl[..., 1]))
        points = flatten(arc.path, 1e-4).points
        centre = points.min(axis=0)[0], points.max(axis=0)[1]
        self.assertLess(np.abs(np.hypot(*(points - centre).T) - 20).max(), 4e-4)

    def test_the_other_side_mirrors(self):
        drawing = new()
        space = drawing.modelspace()
        attributes = {"extrusion": (0, 0, -1)}
        space.add_arc((10, 0), 5, 10, 120, dxfattribs=attributes)
        space.add_lwpolyline([(30, 0, 0.4), (40, 5, 0), (45, 20, 0)], format="xyb", dxfattribs=attributes)
        space.add_circle((-60, 10), 4, dxfattribs=attributes)
        self.same(drawing)

    def test_blocks_nested_scaled_mirrored_and_in_rows(self):
        drawing = new()
        inner = drawing.blocks.new("INNER", base_point=(1, 2))
        inner.add_arc((5, 5), 4, 0, 200)
        inner.add_line((0, 0), (9, 3))
        outer = drawing.blocks.new("OUTER")
        outer.add_blockref("INNER", (3, 4), dxfattribs={"rotation": 30, "xscale": 2, "yscale": 2})
        outer.add_circle((0, 0), 2)
        space = drawing.modelspace()
        space.add_blockref("OUTER", (0, 0))
        space.add_blockref("OUTER", (60, 0), dxfattribs={"xscale": -1, "rotation": 15})
        space.add_blockref("INNER", (0, 60), dxfattribs={"xscale": 3, "yscale": 0.5})
        rows = {"row_count": 2, "column_count": 3, "row_spacing": 30, "column_spacing": 20, "rotation": 10}
        space.add_blockref("INNER", (80, 60), dxfattribs=rows)
        result = self.same(drawing)
        self.assertEqual(len({piece.id for piece in result.document.pieces}), len(result.document.pieces))

    def test_areas_have_their_outlines(self):
        drawing = new()
        space = drawing.modelspace()
        hatch = space.add_hatch(color=3)
        hatch.paths.add_polyline_path([(0, 0, 0), (30, 0, 0.5), (30, 20, 0), (0, 20, 0)], is_closed=True)
        hole = hatch.paths.add_edge_path()
        hole.add_arc((10, 10), 4, 0, 360)
        edges = hatch.paths.add_edge_path()
        edges.add_line((20, 5), (25, 5))
        edges.add_line((25, 5), (25, 12))
        edges.add_ellipse((22.5, 12), (2.5, 0), 0.5, 0, 180)
        edges.add_line((20, 12), (20, 5))
        space.add_solid([(50, 0), (60, 0), (50, 10), (60, 10)])
        result = read(drawing)
        first, second = result.document.pieces
        self.assertEqual((len(first.path), first.fill_rule, first.fill.color), (3, "evenodd", "#00ff00"))
        self.assertTrue(first.path.closed.all() and second.path.closed.all())
        # A segment of bulge 0.5 over a chord of 20; a circle; a rectangle with half an ellipse on it.
        radius, angle = 20 * 1.25 / 2, 4 * math.atan(0.5)
        areas = [600 + radius**2 / 2 * (angle - math.sin(angle)), math.pi * 16, 5 * 7 + math.pi * 2.5 * 1.25 / 2]
        for area, known in zip(np.abs(signed_areas(first.path)), areas, strict=True):
            self.assertAlmostEqual(area, known, places=3)
        self.assertAlmostEqual(abs(signed_areas(second.path)[0]), 100.0)

    def test_an_exploded_outline_is_one_outline(self):
        drawing = new()
        space = drawing.modelspace()
        for a, b in (((0, 0), (20, 0)), ((20, 10), (20, 0)), ((0, 10), (0, 0))):
            space.add_line(a, b)
        space.add_arc((10, 10), 10, 0, 180)
        space.add_circle((10, 5), 2)
        result = self.same(drawing)
        (piece,) = result.document.pieces
        self.assertEqual((len(piece.path), piece.path.closed.tolist()), (2, [True, True]))


class Meaning(unittest.TestCase):
    def test_units(self):
        for units, factor in ((1, 25.4), (2, 304.8), (4, 1.0), (5, 10.0), (6, 1000.0)):
            drawing = new(units=units)
            drawing.modelspace().add_circle((3, 3), 2)
            result = read(drawing)
            self.assertAlmostEqual(result.document.size_mm[0], 4 * factor, places=6)
            self.assertEqual(result.findings, ())

    def test_a_file_without_a_unit_says_both_sizes(self):
        drawing = new(units=0)
        drawing.modelspace().add_circle((3, 3), 2)
        (finding,) = read(drawing).findings
        self.assertEqual(finding.rule, "no-unit")
        self.assertIn("4.0 x 4.0 mm", finding.message)
        self.assertIn("102 x 102 mm", finding.message)
        inches = read(drawing, unit="in")
        self.assertAlmostEqual(inches.document.size_mm[0], 4 * 25.4)
        self.assertEqual(inches.findings, ())

    def test_what_no_header_says_is_not_said(self):
        bare = "0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\n0\n10\n3\n20\n2\n40\n1.5\n0\nENDSEC\n0\nEOF\n"
        english = "0\nSECTION\n2\nHEADER\n9\n$MEASUREMENT\n70\n0\n0\nENDSEC\n" + bare
        for text, words in ((bare, "says no unit"), (english, "not metric")):
            result = DXF.read(text.encode(), ReadOptions())
            self.assertIn(words, result.findings[0].message)
            self.assertEqual((result.unit.name, result.unit.stated), ("mm", False))
            self.assertEqual((result.document.page, result.document.box), (None, (0.0, 0.0, 3.0, 3.0)))
            self.assertEqual(DXF.read(text.encode(), ReadOptions(unit="in")).unit, FileUnit("in", 25.4, True))

    def test_layers_colours_and_treatments(self):
        drawing = new()
        drawing.layers.add("Rim - score", color=1)
        drawing.layers.add("PLATE", color=5)
        drawing.layers.add("Gone", color=2).off()
        drawing.layers.add("Cold", color=2).freeze()
        space = drawing.modelspace()
        for k, layer in enumerate(("Rim - score", "PLATE", "Gone", "Cold")):
            space.add_circle((10 * k, 0), 2, dxfattribs={"layer": layer})
        space.add_circle((10, 20), 2, dxfattribs={"layer": "PLATE", "true_color": 0x123456})
        result = read(drawing).document
        told = {layer.name: (layer.color, layer.treatment) for layer in result.layers}
        self.assertEqual(told["Rim"], ("#ff0000", Treatment.SCORE))
        self.assertEqual(told["PLATE, Blue #0000ff"], ("#0000ff", Treatment.CUT))
        self.assertEqual(told["PLATE, Dark blue #123456"], ("#123456", Treatment.CUT))
        self.assertEqual(told["Gone (hidden in the file)"][1], Treatment.LEAVE_OUT)
        self.assertEqual(told["Cold (hidden in the file)"][1], Treatment.LEAVE_OUT)

    def test_layer_0_and_colour_by_block_are_those_of_the_reference(self):
        drawing = new()
        drawing.layers.add("PLATE", color=5)
        block = drawing.blocks.new("B")
        block.add_circle((0, 0), 2, dxfattribs={"layer": "0", "color": 0})
        drawing.modelspace().add_blockref("B", (0, 0), dxfattribs={"layer": "PLATE", "color": 1})
        (layer,) = read(drawing).document.layers
        self.assertEqual((layer.name, layer.color), ("PLATE", "#ff0000"))

    def test_what_is_no_line_is_said(self):
        drawing = new()
        space = drawing.modelspace()
        space.add_text("KETTLE", dxfattribs={"style": "Standard"})
        space.add_mtext("two\nlines")
        space.add_mesh()
        space.add_linear_dim(base=(0, 5), p1=(0, 0), p2=(10, 0)).render()
        space.add_xline((0, 0), (1, 1))
        found = {finding.rule: finding.message for finding in read(drawing).findings}
        self.assertEqual(set(found), {"live-text", "not-understood", "taken-plainly"})

    def test_a_block_that_holds_itself_ends(self):
        drawing = new()
        block = drawing.blocks.new("A")
        block.add_circle((0, 0), 1)
        block.add_blockref("A", (1, 1))
        drawing.modelspace().add_blockref("A", (0, 0))
        result = read(drawing)
        self.assertEqual(len(result.document.pieces), 1)
        self.assertEqual(result.findings[0].rule, "damaged")

    def test_damaged_files_are_put_right_where_they_can_be(self):
        drawing = new("R2000")
        for k in range(4):
            drawing.modelspace().add_circle((10 * k, 0), 2)
        out = io.StringIO()
        drawing.write(out)
        text = out.getvalue()
        broken = text.replace("ENDSEC\n  0\nEOF", "EOF")
        result = DXF.read(broken.encode(), ReadOptions())
        self.assertEqual(len(result.document.pieces), 4)

    def test_the_encoding_is_the_one_stated(self):
        drawing = new("R2000")
        drawing.encoding = "cp1252"
        drawing.layers.add("Käfig", color=3)
        drawing.modelspace().add_circle((0, 0), 2, dxfattribs={"layer": "Käfig"})
        out = io.StringIO()
        drawing.write(out)
        result = DXF.read(out.getvalue().encode("cp1252"), ReadOptions())
        self.assertEqual(result.document.layers[0].name, "Käfig")

    def test_binary_files(self):
        drawing = new()
        drawing.modelspace().add_circle((0, 0), 2)
        out = io.BytesIO()
        drawing.write(out, fmt="bin")
        result = DXF.read(out.getvalue(), ReadOptions())
        self.assertAlmostEqual(result.document.size_mm[0], 4.0)


class BothWays(unittest.TestCase):
    def test_pieces_stay_apart_and_together(self):
        design = document(
            Path.concatenate([square(0, 0, 100), square(60, 20, 20).reversed()]), square(10, 10, 20), circle(70, 30, 5)
        )
        for release, pieces in (("R2000", 3), ("R2010", 3), ("R12", 2)):
            data = DXF.write(design, WriteOptions(release=release)).data
            result = DXF.read(data, ReadOptions())
            self.assertEqual(len(result.document.pieces), pieces, release)
            self.assertEqual(result.document.page, design.page)
            self.assertEqual(result.findings, ())

    def test_mirrors_and_turns_of_blocks_are_those_of_ezdxf(self):
        drawing = new()
        block = drawing.blocks.new("B")
        block.add_lwpolyline([(0, 0, 0.5), (10, 0, 0), (10, 5, 0)], format="xyb")
        reference = drawing.modelspace().add_blockref("B", (5, 5))
        reference.transform(Matrix44.scale(-1, 2, 1) @ Matrix44.z_rotate(0.3))
        Entities().same(drawing)


class FarOut(unittest.TestCase):
    """Drawings of buildings and land lie in the coordinates of a survey, hundreds of kilometres from the origin."""

    def plan(self, *, stray: bool = False):
        drawing = new(units=6)
        space = drawing.modelspace()
        east, north = 4_468_220.5, 5_332_410.25
        space.add_lwpolyline([(east, north), (east + 12, north), (east + 12, north + 8), (east, north + 8)], close=True)
        space.add_circle((east + 3, north + 4), 1.5)
        if stray:
            space.add_line((0, 0), (1, 1))
        return drawing

    def test_it_is_moved_to_the_page_at_its_size(self):
        result = read(self.plan())
        self.assertEqual([len(piece.path) for piece in result.document.pieces], [2])
        np.testing.assert_allclose(result.document.box, (0, 0, 12_000, 8_000), atol=1e-3)
        (said,) = [f for f in result.findings if f.rule == "moved-to-page"]
        self.assertIn("4,468 km right of its origin and 5,332 km above it", said.message)

    def test_only_what_is_far_from_the_rest_is_left_out(self):
        result = read(self.plan(stray=True))
        self.assertEqual([len(piece.path) for piece in result.document.pieces], [2])
        self.assertIn("farther out than ten kilometres", " ".join(f.message for f in result.findings))
        near = new()
        near.modelspace().add_circle((0, 0), 5)
        near.modelspace().add_circle((9, 9), 5)
        near.modelspace().add_line((1e9, 0), (1e9, 5))
        self.assertEqual(len(read(near).document.pieces), 2)


class Notes(unittest.TestCase):
    """Dimensions and their like are left out, counted, and taken in where that is asked."""

    def setUp(self):
        self.drawing = new()
        space = self.drawing.modelspace()
        space.add_circle((0, 0), 20)
        for y in (30, 40):
            space.add_linear_dim(base=(0, y), p1=(-20, 0), p2=(20, 0)).render()
        space.add_leader([(0, 0), (10, 10), (20, 10)])

    def test_they_are_counted(self):
        result = read(self.drawing)
        self.assertEqual((dict(result.left_out), len(result.document.pieces)), ({"dimensions": 2, "leaders": 1}, 1))

    def test_their_lines_are_taken_in(self):
        result = read(self.drawing, notes=True)
        self.assertEqual(dict(result.left_out), {})
        self.assertGreater(len(result.document.pieces), 6)
        self.assertGreaterEqual(result.document.size_mm[1], 59)
