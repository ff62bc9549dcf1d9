"""Each of the demo's pictures judged, traced as it is then proposed, and held against the drawing it was made from."""

import sys
import unittest
from pathlib import Path

import numpy as np

DEMO = Path(__file__).parent
sys.path.insert(0, str(DEMO))

import cast  # noqa: E402
import emblem  # noqa: E402
import lattice  # noqa: E402
import limb  # noqa: E402
import moth  # noqa: E402
import night  # noqa: E402
import sticker  # noqa: E402
import word_art  # noqa: E402
from test_pictures import distances, traced  # noqa: E402

from hakobu import pipeline  # noqa: E402
from hakobu.geometry import Path as Outlines  # noqa: E402
from hakobu.geometry import bounds, length, signed_areas  # noqa: E402
from hakobu.geometry.proximity.places import Places  # noqa: E402
from hakobu.tracing import View  # noqa: E402
from hakobu.tracing.judge.assessment import Judged, judge  # noqa: E402

#: File, what it is, the way that is proposed, and what that is told.
KNOWN = (
    ("programme-sticker.png", "art", "outside", {}),
    ("word-kettle.png", "lettering", "colour", {}),
    ("window-lattice.png", "lines", "centre", {}),
    ("emblem.png", "drawing", "shades", {"shades": 4}),
    ("first-night.png", "lettering", "dark", {}),
    ("puppet-limb.jpg", "scan", "dark", {"even_light": True}),
    ("cast-drawing.jpg", "lines", "centre", {}),
    ("reed-sketch.jpg", "scan", "dark", {}),
    ("reed-pattern.png", "drawing", "dark", {}),
    ("moth-scan.jpg", "scan", "dark", {}),
    ("kettle.png", "drawing", "ink-fields", {}),
    ("heron-scan.jpg", "scan", "dark", {}),
)


def judged(name: str) -> Judged:
    data = (DEMO / "files" / name).read_bytes()
    matrix = pipeline.read(name, data).document.pictures[0].matrix
    return judge(View(pipeline.picture(name, data), matrix))


def proposed(name: str, **more):
    """Traced the way that is proposed for it."""
    _, _, mode, told = next(known for known in KNOWN if known[0] == name)
    return traced(name, mode=mode, **{**told, **more})


def sizes(path: Outlines) -> tuple[float, float]:
    left, top, right, bottom = bounds(path)
    return right - left, bottom - top


class Proposed(unittest.TestCase):
    def test_each_picture_is_known_for_what_it_is(self):
        for name, kind, mode, told in KNOWN:
            with self.subTest(name):
                made = judged(name)
                self.assertEqual((made.kind, made.ways[0].mode, dict(made.ways[0].told)), (kind, mode, told))

    def test_what_spoils_lines_is_said(self):
        self.assertIn("Compression", judged("cast-drawing.jpg").warning)
        self.assertIn("smaller details are not in it", judged("puppet-limb.jpg").warning)
        self.assertEqual(judged("first-night.png").warning, "")


class Truth(unittest.TestCase):
    def test_the_sticker_gets_one_line_on_its_rim_and_keeps_its_print(self):
        made = proposed("programme-sticker.png").document
        self.assertEqual(len(made.pieces), 1)
        off = distances(made.pieces[0].path, sticker.OUTSIDE)
        self.assertLess(float(off.mean()), 0.1)
        self.assertEqual(len(made.groups), 1)

    def test_the_word_loses_its_ground_and_its_counters(self):
        made = proposed("word-kettle.png", given=["#b4673e #aa5500"], width_mm=180.0).document
        self.assertEqual(len(made.layers), 3)
        copper = next(layer for layer in made.layers if layer.color == "#aa5500")
        letters = Outlines.concatenate(p.path for p in made.pieces if p.layer == copper.id)
        every = Outlines.concatenate(p.path for p in made.pieces)
        self.assertAlmostEqual(sizes(every)[0], 180.0, delta=1e-6)
        known = sizes(word_art.COPPER)
        whole = known[0] + word_art.SHADOW_MM, known[1] + word_art.SHADOW_MM
        self.assertAlmostEqual(sizes(letters)[1] / sizes(every)[0], known[1] / whole[0], delta=2e-3)

    def test_the_lattice_is_single_lines_each_once(self):
        made = proposed("window-lattice.png").document
        whole = Outlines.concatenate(p.path for p in made.pieces)
        self.assertAlmostEqual(length(whole), lattice.LENGTH_MM, delta=0.005 * lattice.LENGTH_MM)
        self.assertLess(float(distances(whole, Outlines.concatenate(lattice.LINES)).max()), 1.5)

    def test_the_emblems_shades_lie_apart_with_its_slot_open(self):
        made = proposed("emblem.png").document
        self.assertEqual(len(made.layers), 4)
        light = max(made.layers[1:], key=lambda layer: layer.color)
        holes = Outlines.concatenate(p.path for p in made.pieces if p.layer == light.id)
        boxes = [sizes(holes.take([k])) for k in np.flatnonzero(signed_areas(holes) < 0)]
        slot = min(boxes, key=lambda box: box[0] * box[1])
        self.assertAlmostEqual(slot[0], emblem.SLOT_MM[0], delta=0.03)
        self.assertAlmostEqual(slot[1], emblem.SLOT_MM[1], delta=0.03)

    def test_every_hole_of_the_first_night_is_right_and_one_piece_goes_elsewhere(self):
        made = proposed("first-night.png", moved=["1047,366 #1f3c88"]).document
        areas = [signed_areas(p.path) for p in made.pieces]
        self.assertEqual(len(made.pieces), night.PIECES)
        self.assertEqual(sum(int((a < 0).sum()) for a in areas), night.HOLES)
        moved = [p for p in made.pieces if p.layer != made.pieces[0].layer]
        self.assertEqual(len(moved), 1)
        self.assertEqual(next(layer.color for layer in made.layers if layer.id == moved[0].layer), "#1f3c88")

    def test_the_limb_is_true_to_its_square_and_alone(self):
        made = proposed("puppet-limb.jpg", reference="square:60mm").document
        self.assertEqual(len(made.pieces), 1)
        path = made.pieces[0].path
        for side, known in zip(sizes(path), sizes(limb.LIMB), strict=True):
            self.assertAlmostEqual(side / known, 1.0, delta=0.002)
        holes = sorted(-a for a in signed_areas(path) if a < 0)
        for hole, (_, _, radius) in zip(holes, limb.RIVETS, strict=True):
            self.assertAlmostEqual(2 * (hole / np.pi) ** 0.5, 2 * radius, delta=0.05)

    def test_the_cast_is_the_middle_of_its_lines(self):
        made = proposed("cast-drawing.jpg", width_mm=250.0).document
        whole = Outlines.concatenate(p.path for p in made.pieces)
        self.assertAlmostEqual(sizes(whole)[0], 250.0, delta=1e-6)
        known = sum(length(line) for line in cast.LINES) * 250 / sizes(Outlines.concatenate(cast.LINES))[0]
        self.assertAlmostEqual(length(whole), known, delta=0.02 * known)

    def test_the_moths_pinholes_go_and_its_spots_stay(self):
        made = proposed("moth-scan.jpg", smallest_mm2=1.0).document
        wings = max(made.pieces, key=lambda p: abs(float(signed_areas(p.path).sum()))).path
        self.assertEqual(int((signed_areas(wings) < 0).sum()), len(moth.SPOTS))
        middles = np.array([(x, y) for x, y, _ in moth.PINHOLES])
        self.assertTrue(Places(wings).contains(middles).all())


if __name__ == "__main__":
    unittest.main()
