"""Painted area of an open icon set, read and written again, drawn by resvg beside the files as they came.

Source: OpenMoji (CC BY-SA 4.0), from the npm registry.
"""

import unittest
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.machines.proof import compare

from .. import LONG
from .coverage import overlap

ICONS = Path(__file__).parents[3] / "web" / "node_modules" / "openmoji" / "color" / "svg"
SVG, HPGL = by_id("svg"), by_id("hpgl")
#: A stride through the sorted names that meets every kind: faces, people, flags, signs.
STRIDE, LEAST = (13, 300) if LONG else (123, 33)
#: The one thing of theirs that plain strokes cannot say; a file that has it is told so, and not counted here.
STRETCHED = "taken as evenly broad"


class EvenIcons(unittest.TestCase):
    """Every other icon: with the class below, two processes share the work."""

    HALF = 0

    @classmethod
    def setUpClass(cls):
        cls.files = sorted(ICONS.glob("*.svg"))[::STRIDE][cls.HALF :: 2]
        cls.read = {f.stem: SVG.read(f.read_bytes(), ReadOptions()) for f in cls.files}
        cls.said = {name: [f.message for f in made.findings] for name, made in cls.read.items()}

    def test_coverage_of_what_is_written(self):
        def one(file: Path) -> tuple[float, str]:
            written = SVG.write(self.read[file.stem].document, WriteOptions()).data.decode()
            return overlap(file.read_text(), written), file.stem

        even = [f for f in self.files if not any(STRETCHED in text for text in self.said[f.stem])]
        self.assertGreaterEqual(len(even), LEAST / 2)
        with ThreadPoolExecutor(2) as pool:
            found = sorted(pool.map(one, even))
        self.assertGreaterEqual(found[0][0], 0.999, found[:5])

    def test_nothing_in_them_is_beyond_us(self):
        known = ("without a unit", "clipped away or without any paint", "broader one way")
        said = {text for texts in self.said.values() for text in texts if not any(k in text for k in known)}
        self.assertEqual(said, set())

    def test_machine_files_hold_them(self):
        for name, made in self.read.items():
            design = made.document
            data = HPGL.write(design, WriteOptions()).data
            back = HPGL.read(data, ReadOptions(page_height_mm=design.frame[1])).document
            proof = compare(back, design, HPGL.precision_mm)
            self.assertTrue(proof.holds, (name, proof))


class OddIcons(EvenIcons):
    HALF = 1
