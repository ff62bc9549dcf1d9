"""The archive that is handed over: opened in a fresh folder its files are what their proofs say."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import unittest
import zipfile
from dataclasses import replace

import pypdfium2

from hakobu import pipeline
from hakobu.bundle import bundle, works_of
from hakobu.lists import Lists
from hakobu.model import Conditions, Document, Fill, Layer, Page, Piece, Step
from hakobu.operations import operation_of
from hakobu.sheets.placed import as_cut
from tests.shapes import circle, square

LISTS = Lists()
LAYERS = (Layer("a", "Black", "#26272b", material="black-card"), Layer("b", "Copper", "#b4673e", material="heat-vinyl"))
DESIGN = Document(
    Page(200.0, 120.0),
    LAYERS,
    (
        Piece("s", square(20, 20, 40), "a", "frame", fill=Fill("#26272b")),
        Piece("c", circle(120, 60, 20), "b", "moon", fill=Fill("#b4673e")),
    ),
)


def laid(machine: str = "laser-bed") -> Document:
    operation = operation_of("sheets")
    conditions = Conditions(machine=LISTS.machine(machine))
    return (
        pipeline.run_step(DESIGN, Step("s", operation.id, operation.version, {}), conditions=conditions).done().document
    )


def archive(document: Document, machine: str | None = "laser-bed") -> bytes:
    of = LISTS.machine(machine) if machine else None
    works = works_of(
        document,
        lambda sheet: of,
        lambda made, worked_by: LISTS.plan(made, worked_by, lambda layer: layer.material),
        lambda sheet: "card",
    )
    return bundle("Two sheets", document, works)


class Archive(unittest.TestCase):
    def opened(self, data: bytes) -> dict[str, bytes]:
        with zipfile.ZipFile(io.BytesIO(data)) as file:
            self.assertIsNone(file.testzip())
            return {name: file.read(name) for name in file.namelist()}

    def test_the_same_work_gives_the_same_bytes(self):
        document = laid()
        self.assertEqual(archive(document), archive(document))

    def test_its_files_are_what_their_proofs_say(self):
        document = laid()
        files = self.opened(archive(document))
        proofs = json.loads(files["proofs.json"])
        self.assertEqual(sorted(proofs), ["1-black.gcode", "2-copper.gcode"])
        for (name, said), sheet in zip(sorted(proofs.items()), document.sheets, strict=True):
            self.assertEqual(hashlib.sha256(files[name]).hexdigest(), said["sha256"])
            plan = LISTS.plan(as_cut(document, sheet), LISTS.machine("laser-bed"), lambda layer: layer.material)
            proven = pipeline.prove(name, files[name], as_cut(document, sheet), plan)
            self.assertTrue(proven.proof.holds and said["holds"])
            self.assertLess(said["compensation"]["kerf_off_mm"], 0.01)
        rows = list(csv.DictReader(io.StringIO(files["pieces.csv"].decode())))
        self.assertEqual(
            [(row["file"], row["shapes"]) for row in rows], [("1-black.gcode", "1"), ("2-copper.gcode", "1")]
        )
        # As the machine cuts it: 0.12 mm of kerf on card, as it is set.
        self.assertAlmostEqual(float(rows[0]["width_mm"]), 40.12, places=2)

    def test_the_cover_has_a_page_for_each_sheet_at_a4(self):
        files = self.opened(archive(laid()))
        pages = pypdfium2.PdfDocument(files["0-cover.pdf"])
        self.assertEqual(len(pages), 3)
        for page in pages:
            self.assertAlmostEqual(page.get_width() / 72 * 25.4, 210.0, places=2)
            self.assertAlmostEqual(page.get_height() / 72 * 25.4, 297.0, places=2)
        self.assertEqual(len(pypdfium2.PdfDocument(files["1-black-placing.pdf"])), 1)
        text = files["READ-ME.txt"].decode()
        for words in ("mirrored: cut from the back", "scale stays at 100 %", "kerf 0.12 mm", "1-black.gcode", "proven"):
            self.assertIn(words, text)

    def test_an_order_that_cuts_an_outside_first_is_not_called_another(self):
        nested = replace(DESIGN, pieces=(DESIGN.pieces[0], Piece("i", circle(40, 40, 8), "a", "inner")))
        for first, said in (((), True), (("s",), False)):
            text = self.opened(archive(replace(nested, work_order=first)))["READ-ME.txt"].decode()
            self.assertEqual("inside before outside" in text, said)
            self.assertEqual("cut after the outline that it lies in" in text, not said)

    def test_without_sheets_or_a_machine_it_is_the_design_itself(self):
        files = self.opened(archive(DESIGN))
        self.assertIn("design-cut.gcode", files)
        files = self.opened(archive(DESIGN, None))
        self.assertEqual(
            set(files) - {"0-cover.pdf", "READ-ME.txt", "pieces.csv", "proofs.json"}, {"design-cut.svg", "design.svg"}
        )
        self.assertTrue(json.loads(files["proofs.json"])["design-cut.svg"]["holds"])
