"""What remains after weeding, beside areas that shapely works out from the design, and by known drawings."""

import unittest
from pathlib import Path as FilePath

import numpy as np
from shapely import unary_union
from shapely.geometry import Polygon

from hakobu import pipeline
from hakobu.geometry import Path, flatten, signed_areas
from hakobu.geometry.boolean import Operand
from hakobu.machines.weeding import place_in, weeded
from hakobu.model import Document, Layer, Page, Piece
from hakobu.model.paint import Fill

from ..shapes import circle

DEMO = FilePath(__file__).parents[3] / "demo" / "files"
DESIGNS = ("van-title.svg", "stencil-moon.svg", "lantern-frame.svg", "lamp-plate.dxf")


def square(x: float, y: float, side: float) -> Path:
    corners = np.array([[0, 0], [side, 0], [side, side], [0, side]], float) + np.array([x, y])
    return Path.from_points(corners, closed=True)


def scattered(seed: int) -> Document:
    """Rings, some of them with an island, and discs that overlap others, anywhere on a sheet."""
    random, pieces = np.random.default_rng(seed), []
    for number in range(25):
        x, y = random.uniform(20, 180, 2)
        radius = random.uniform(4, 18)
        outlines = [circle(x, y, radius)]
        outlines += [circle(x, y, radius * 0.6).reversed()] * (number % 2)
        outlines += [circle(x, y, radius * 0.2)] * (number % 4 == 1)
        pieces.append(Piece(f"p{number}", Path.concatenate(outlines), "only", fill=Fill("#1b2a4e")))
    return Document(Page(200, 200), (Layer("only", "Only", "#1b2a4e"),), tuple(pieces))


def polygon(path: Path, rule: str):
    """The painted shape of a path by shapely: the rings combined by the rule."""
    chords = flatten(path, 1e-3)
    rings = [Polygon(chords.outline(k)).buffer(0) for k in range(len(chords)) if len(chords.outline(k)) > 3]
    if rule == "nonzero":
        # Holes run the other way; what stands in a hole runs the first way again.
        turned = sorted(zip(rings, np.sign(signed_areas(path)), strict=True), key=lambda pair: -pair[0].area)
        whole = Polygon()
        for ring, way in turned:
            whole = whole.union(ring) if way == turned[0][1] else whole.difference(ring)
        return whole
    whole = Polygon()
    for ring in rings:
        whole = whole.symmetric_difference(ring)
    return whole


class Known(unittest.TestCase):
    def test_a_ring_stays_and_its_hole_is_taken_away(self):
        ring = Path.concatenate([circle(0, 0, 10), circle(0, 0, 4).reversed()])
        made = weeded(ring, [Operand(ring)])
        self.assertEqual((len(made.remaining), made.waste, made.open_lines), (1, 1, 0))
        self.assertAlmostEqual(made.area_mm2, np.pi * (100 - 16), 6)

    def test_what_stands_in_a_hole_is_loose(self):
        shape = Path.concatenate([circle(0, 0, 10), circle(0, 0, 6).reversed(), circle(0, 0, 2)])
        made = weeded(shape, [Operand(shape)])
        self.assertEqual([face.loose for face in made.remaining].count(True), 1)
        loose = next(face for face in made.remaining if face.loose)
        self.assertAlmostEqual(loose.area_mm2, np.pi * 4, 6)

    def test_shapes_side_by_side_come_apart_along_the_line_they_share(self):
        shapes = [square(0, 0, 5), square(5, 0, 5)]
        made = weeded(Path.concatenate(shapes), [Operand(shape) for shape in shapes])
        self.assertEqual([round(face.area_mm2, 6) for face in made.remaining], [25, 25])

    def test_a_line_cut_twice_in_opposite_ways_still_parts(self):
        shape = square(0, 0, 5)
        made = weeded(Path.concatenate([shape, shape.reversed()]), [Operand(shape)])
        self.assertAlmostEqual(made.area_mm2, 25, 6)

    def test_without_its_outer_stroke_nothing_stays(self):
        ring = Path.concatenate([circle(0, 0, 10), circle(0, 0, 4).reversed()])
        made = weeded(circle(0, 0, 4), [Operand(ring)])
        self.assertEqual((len(made.remaining), made.waste), (0, 1))

    def test_a_stroke_that_does_not_close_parts_nothing_and_is_counted(self):
        gap = Path.from_points(np.array([[0, 0], [5, 0], [5, 5], [0, 5]], float), closed=False)
        made = weeded(gap, [Operand(square(0, 0, 5))])
        self.assertEqual((len(made.remaining), made.open_lines), (0, 1))

    def test_places_lie_inside(self):
        ring = Path.concatenate([circle(0, 0, 10), circle(0, 0, 9.5).reversed()])
        distance = np.hypot(*place_in(ring))
        self.assertTrue(9.5 < distance < 10)


class BesideShapely(unittest.TestCase):
    """Machine files are true to 0.025 mm, so areas differ by that along the lines at most."""

    def check(self, document):
        for made in pipeline.weed(document, "hpgl"):
            pieces = [p for p in document.pieces if p.layer == made.layer.id and p.path.closed.all()]
            if made.weeded.open_lines or not pieces:
                continue
            true = unary_union([polygon(p.path, p.fill_rule) for p in pieces]).area
            length = sum(np.hypot(*np.diff(flatten(p.path, 1e-3).points, axis=0).T).sum() for p in pieces)
            self.assertLess(abs(made.weeded.area_mm2 - true), 0.018 * length + 1e-3, made.layer.name)
            yield made

    def test_ten_documents(self):
        documents = [pipeline.read(name, (DEMO / name).read_bytes()).document for name in DESIGNS]
        documents += [scattered(seed) for seed in range(6)]
        looked_at = [list(self.check(document)) for document in documents]
        self.assertGreaterEqual(sum(map(bool, looked_at)), 9, "one has a line that does not close")
