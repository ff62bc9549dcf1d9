"""Machine files on the command line: compensated, reported, proven; profiles that contradict themselves are refused."""

from __future__ import annotations

import json
import re
import zipfile

import numpy as np

from .test_commands import FRAME, MOON, Case

KNIFE = {
    "id": "k",
    "name": "K",
    "reach_width_mm": 600,
    "reach_height_mm": 400,
    "format": "hpgl",
    "chord_mm": 0.007,
    "pens": 2,
    "tool": "knife",
    "blade_offset_mm": 0.3,
    "overcut_mm": 0.5,
    "speed_mm_s": 200,
    "force_g": 90,
}
LASER = {**KNIFE, "id": "l", "name": "L", "format": "gcode", "tool": "laser", "kerf_mm": 0.2, "blade_offset_mm": 0}
RECT = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="80mm" viewBox="0 0 100 80">'
    b'<path d="M10 10H60V50H10ZM20 20V40H40V20Z" fill="#222" fill-rule="evenodd"/></svg>'
)


class MachineFiles(Case):
    def setUp(self):
        super().setUp()
        self.design = self.folder / "design.svg"
        self.design.write_bytes(RECT)

    def lists(self, *machines: dict) -> list:
        path = self.folder / "lists.json"
        path.write_text(json.dumps({"machines": machines}))
        return ["--lists", path]

    def convert(self, name: str, machine: dict, *more, design=None) -> str:
        out = self.folder / name
        words = ["convert", design or self.design, out, "--machine", machine["id"], *self.lists(machine), *more]
        result = self.hakobu(*words)
        self.assertEqual(result.returncode, 0, result.stderr.decode())
        self.said = result.stderr.decode()
        return out.read_text()

    def test_kerf_is_in_the_file_and_as_designed_leaves_it_out(self):
        for more, side in (((), 50.2), (("--as-designed",), 50.0)):
            text = self.convert("a.gcode", LASER, *more)
            x = [float(v) for v in re.findall(r"X([-\d.]+)", text)]
            self.assertAlmostEqual(max(x) - min(x), side, places=3)
            self.assertIn("runs", self.said)
        # The hole is cut first, and is smaller.
        text = self.convert("a.gcode", LASER)
        block = text[text.index("G0 X") : text.index("M5", text.index("G0 X"))]
        x = [float(v) for v in re.findall(r"X([-\d.]+)", block)]
        self.assertAlmostEqual(max(x) - min(x), 19.8, places=3)

    def test_a_file_is_proven_with_its_machine_alone(self):
        for name, machine, design in (
            ("a.hpgl", KNIFE, MOON),
            ("a.gcode", LASER, FRAME),
            ("a.svg", LASER, self.design),
            ("a.dxf", LASER, MOON),
        ):
            self.convert(name, machine, design=design)
            words = ["proof", self.folder / name, "--against", design]
            data = json.loads(self.done(*words, "--machine", machine["id"], *self.lists(machine), "--json"))
            self.assertEqual((data["holds"], data["missing"], data["extra"]), (True, 0, 0))
            self.assertGreater(data["program"]["seconds"], 1)
            self.done(*words, code=1)

    def test_a_stroke_that_is_gone_fails_the_proof(self):
        for name, machine, end in (("a.hpgl", KNIFE, "\n"), ("a.gcode", LASER, "M5\n")):
            text = self.convert(name, machine)
            at = text.index("PU" if name == "a.hpgl" else "G0 X")
            (self.folder / name).write_text(text[:at] + text[text.index(end, at) + len(end) :])
            words = ["proof", self.folder / name, "--against", self.design, "--machine", machine["id"]]
            self.done(*words, *self.lists(machine), code=1)

    def test_passes_speeds_and_pens_arrive(self):
        text = self.convert("a.hpgl", {**KNIFE, "passes": 2})
        self.assertIn("SP1;VS20;FS90;", text)
        self.assertEqual(text.count("PU") - 1, 4)

    def test_the_order_can_be_that_of_the_design(self):
        first = {}
        for order in ("short", "as-drawn"):
            text = self.convert("a.gcode", LASER, "--order", order, "--as-designed")
            first[order] = re.search(r"G0 X([\d.]+)", text)[1]
        self.assertEqual(first, {"short": "20", "as-drawn": "10"})

    def test_all_that_is_handed_over_is_one_archive(self):
        out = self.folder / "all.zip"
        self.done("sheets", self.design, out, "--machine", "l", *self.lists(LASER))
        with zipfile.ZipFile(out) as archive:
            names = archive.namelist()
            proofs = json.loads(archive.read("proofs.json"))
        self.assertTrue({"0-cover.pdf", "READ-ME.txt", "design.svg", "pieces.csv"} <= set(names))
        self.assertEqual([proof["holds"] for proof in proofs.values()], [True])
        self.assertIn("leave --to", self.hakobu("sheets", self.design, out, "--to", "dxf").stderr.decode())

    def test_sheets_are_compensated_with_a_report(self):
        out = self.folder / "cut"
        text = self.done("sheets", self.design, out, "--machine", "l", *self.lists(LASER), "--json")
        (row,) = json.loads(text)["sheets"]
        self.assertEqual((row["proof"], row["program"]["runs"], row["program"]["findings"]), (True, 2, []))
        x = [float(v) for v in re.findall(r"X([-\d.]+)", next(out.iterdir()).read_text())]
        self.assertAlmostEqual(np.ptp(x), 50.2, places=3)

    def test_a_setting_for_the_material_holds(self):
        path = self.folder / "lists.json"
        setting = {"id": "s", "name": "S", "machine": "l", "material": "felt", "speed_mm_s": 11, "kerf_mm": 1.0}
        path.write_text(json.dumps({"machines": [LASER], "settings": [setting]}))
        words = ["--machine", "l", "--material", "felt", "--lists", path]
        self.done("sheets", self.design, self.folder / "cut", *words)
        text = next((self.folder / "cut").iterdir()).read_text()
        self.assertIn("F660", text)
        self.assertAlmostEqual(np.ptp([float(v) for v in re.findall(r"X([-\d.]+)", text)]), 51.0, places=3)

    def test_values_that_make_no_sense_are_refused_in_a_sentence(self):
        for value, said in (
            ({"kerf_mm": -0.1}, "kerf lies between"),
            ({"passes": 1.5}, "whole number"),
            ({"origin": "middle"}, "corner or centre"),
            ({"z_up_mm": -5}, "height, up"),
            ({"speed_mm_s": 900, "most_speed_mm_s": 500}, "900 mm/s"),
            ({"words_before": "G91"}, "G91"),
        ):
            machine = {**KNIFE, "format": "gcode", **value}
            words = ["convert", self.design, self.folder / "a.gcode", "--machine", "k", *self.lists(machine)]
            result = self.hakobu(*words)
            self.assertEqual(result.returncode, 2, value)
            self.assertIn(said, result.stderr.decode())
            self.assertEqual(result.stderr.decode().count("\n"), 1)
            self.assertFalse((self.folder / "a.gcode").exists())
