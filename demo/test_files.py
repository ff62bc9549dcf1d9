"""The demo's files are what its code draws, byte for byte, with the faults that were put in."""

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from hakobu.checks import check
from hakobu.checks.applier import mend_where
from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import bounds
from hakobu.model import Conditions, Treatment
from hakobu.model.materials import material_of
from hakobu.model.purposes import purpose_of

DEMO = Path(__file__).parent


def found(name: str) -> tuple[list[str], list[str]]:
    """The pieces whose lines are doubled, and the rules of what was said on reading."""
    made = by_id("svg").read((DEMO / "files" / name).read_bytes(), ReadOptions())
    found = [f for f in check(made.document) if f.rule == "duplicate-line"]
    doubled = [made.document.by_id[f.pieces[0]].name for f in found]
    return sorted(doubled), sorted(f.rule for f in made.findings)


class Files(unittest.TestCase):
    def test_drawn_again_they_are_the_same(self):
        with tempfile.TemporaryDirectory() as folder:
            subprocess.run([sys.executable, str(DEMO), folder], check=True)
            kept = {p.name: p.read_bytes() for p in (DEMO / "files").iterdir()}
            drawn = {p.name: p.read_bytes() for p in Path(folder).iterdir()}
        self.assertEqual(drawn, kept)

    def test_each_has_its_faults(self):
        copies = ["E-first-2-copy", "H-first-2-copy", "O-first-1-copy"]
        self.assertEqual(found("van-title.svg"), (copies, ["hidden-thing"]))
        self.assertEqual(found("stencil-moon.svg"), (["eye-copy"], ["no-unit"]))
        self.assertEqual(found("lantern-frame.svg"), (["", "", "edge-again"], []))

    def test_the_bought_tree_has_every_fault_that_it_was_given(self):
        made = by_id("svg").read((DEMO / "files" / "tree-bought.svg").read_bytes(), ReadOptions()).document
        kinds = {f.rule for f in check(made, Conditions(material=material_of("black-card")))}
        given = {
            "jagged-line",
            "spike",
            "overlapping-shape",
            "double-outline",
            "open-path",
            "loose-hole",
            "near-colours",
        }
        given |= {"overlapping-line", "duplicate-line", "speck", "stroke-only", "invisible-object", "outside-sheet"}
        self.assertLessEqual(given | {"thin-strip"}, kinds)

    def test_the_window_holds_in_one_once_its_opening_is_a_hole(self):
        made = by_id("svg").read((DEMO / "files" / "window-branch.svg").read_bytes(), ReadOptions()).document
        asked = Conditions(purpose=purpose_of("one"))
        self.assertIn("drop-out", {f.rule for f in check(made, asked)})
        done = mend_where(made, lambda f: f.rule in ("loose-hole", "overlapping-shape"), asked).document
        self.assertEqual((len(done.pieces), check(done, asked)), (1, ()))

    def test_the_plate_is_whole_in_inches_that_it_does_not_state(self):
        data = (DEMO / "files" / "lamp-plate.dxf").read_bytes()
        made = by_id("dxf").read(data, ReadOptions())
        self.assertEqual([f.rule for f in made.findings], ["no-unit"])
        plate, fold = by_id("dxf").read(data, ReadOptions(unit="in")).document.pieces
        self.assertEqual((len(plate.path), plate.path.closed.all(), len(fold.path)), (5, True, 1))
        left, top, right, bottom = bounds(plate.path)
        self.assertAlmostEqual(right - left, 6 * 25.4)
        self.assertAlmostEqual(bottom - top, 3.5 * 25.4)
        layers = [(layer.name, layer.treatment) for layer in made.document.layers]
        self.assertEqual(layers, [("RIM", Treatment.CUT), ("FOLD", Treatment.SCORE)])

    def test_the_title_is_open_by_a_hair_and_has_a_lone_node(self):
        made = by_id("svg").read((DEMO / "files" / "van-title.svg").read_bytes(), ReadOptions()).document
        named = {piece.name: piece.path for piece in made.pieces}
        letter = named["L-second-1"]
        gap = letter.ctrl[0, 0] - letter.ctrl[-1, 3]
        self.assertFalse(letter.closed[0])
        self.assertAlmostEqual(float((gap**2).sum() ** 0.5), 0.2, 3)
        self.assertEqual((named["speck"].segment_count, named["speck"].closed[0]), (1, False))
