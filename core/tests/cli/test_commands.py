"""The command line as its contract says: words, exit codes, one sentence for every error."""

import json
import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from hakobu.model import codec
from hakobu.model.features import drawn_dimensions

from .here import here

ROOT = Path(__file__).parents[3]
KETTLE = ROOT / "demo" / "files" / "kettle.png"
TITLE, MOON, FRAME, TREE = (
    ROOT / "demo" / "files" / f"{n}.svg" for n in ("van-title", "stencil-moon", "lantern-frame", "tree-bought")
)


def hakobu(*words, stdin: bytes = b"") -> subprocess.CompletedProcess:
    command = [sys.executable, "-m", "hakobu", *map(str, words)]
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    return subprocess.run(command, input=stdin, capture_output=True, timeout=120, check=False, env=environment)


class Case(unittest.TestCase):
    #: In the process of the tests; checks of exit codes and errors run the program itself.
    hakobu = staticmethod(here)

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def done(self, *words, code: int = 0, **kw) -> str:
        result = self.hakobu(*words, **kw)
        self.assertEqual(result.returncode, code, result.stderr.decode())
        return result.stdout.decode()

    def found(self, *words, code: int) -> list[dict]:
        return json.loads(self.done("check", *words, "--json", code=code))["findings"]


class Check(Case):
    hakobu = staticmethod(hakobu)

    def test_json_has_the_contracts_words(self):
        data = json.loads(self.done("check", TITLE, "--json", code=1))
        self.assertEqual(set(data), {"file", "size_mm", "page_mm", "findings"})
        self.assertEqual((data["size_mm"], data["page_mm"]), ([396.8, 128.0], [420.0, 150.0]))
        words = {"id", "key", "level", "pieces", "place", "measure", "mendable", "safe", "message"}
        for finding in data["findings"]:
            self.assertEqual(set(finding), words)
            self.assertIn(finding["level"], ("stops", "spoils", "note"))

    def test_the_level_decides_the_exit_code(self):
        self.done("check", TITLE, code=1)
        self.done("check", TITLE, "--fail-on", "stops", code=0)
        self.done("check", TITLE, "--fail-on", "note", code=1)

    def test_what_cannot_be_read_is_two(self):
        self.done("check", self.folder / "none.svg", code=2)


class Many(Case):
    def test_many_files_are_checked_with_one_summary(self):
        words = ("--json", "--material", "black-card", "--purpose", "one")
        said = json.loads(self.done("check", TITLE, FRAME, *words, code=1))
        self.assertEqual([f["file"] for f in said["files"]], [str(TITLE), str(FRAME)])
        self.assertEqual(said["summary"]["files"], 2)
        self.assertGreater(said["summary"]["findings"]["drop-out"], 10)
        self.assertIn("will not hold together", said["files"][0]["verdict"])

    def test_one_that_cannot_be_read_does_not_stop_the_others(self):
        broken = self.folder / "broken.svg"
        broken.write_text("<svg")
        said = json.loads(self.done("check", broken, TITLE, "--json", code=2))
        self.assertEqual((said["summary"]["not_read"], "error" in said["files"][0]), (1, True))

    def test_many_files_are_mended_into_a_folder(self):
        out = self.folder / "mended"
        out.mkdir()
        self.done("mend", TITLE, FRAME, out)
        self.assertEqual(sorted(p.name for p in out.iterdir()), sorted([TITLE.name, FRAME.name]))
        self.assertEqual(self.found(out / TITLE.name, code=0)[0]["level"], "note")

    def test_a_way_that_is_none_is_refused_in_a_sentence(self):
        words = ("--only", "double-outline", "--choice", "sideways")
        result = self.hakobu("mend", TITLE, self.folder / "x.svg", *words)
        self.assertEqual(result.returncode, 2)
        self.assertIn("middle, outer, inner", result.stderr.decode())


class Mend(Case):
    def test_the_title_loses_every_doubled_line_and_nothing_else(self):
        out, again = self.folder / "out.svg", self.folder / "again.svg"
        self.done("mend", TITLE, out, "--only", "duplicate-line")
        before, after = (json.loads(self.done("info", f, "--json")) for f in (TITLE, out))
        left = sorted(f["id"] for f in self.found(out, code=1))
        self.assertEqual(left, ["hidden-thing", "open-path", "overlapping-shape", "stray-node"])
        self.assertEqual((before["pieces"] - after["pieces"], before["outlines"] - after["outlines"]), (3, 4))
        self.assertEqual(after["size_mm"], before["size_mm"])
        self.assertEqual(after["layers"][0]["pieces"], 21)
        # Every letter is still there, and none of the copies.
        text = out.read_text()
        for name in ("H-first-2", "E-first-2", "O-first-1", "L-second-1", "speck", "feather"):
            self.assertIn(f"<title>{name}</title>", text)
        self.assertNotIn("-copy", text)
        self.done("mend", out, again, "--only", "duplicate-line")
        self.assertEqual(again.read_bytes(), out.read_bytes())

    def test_all_that_is_safe_leaves_the_title_clean(self):
        out, again = self.folder / "out.svg", self.folder / "again.svg"
        self.done("mend", TITLE, out)
        self.assertEqual([f["id"] for f in self.found(out, code=0)], ["hidden-thing"])
        self.done("mend", out, again)
        self.assertEqual(again.read_bytes(), out.read_bytes())

    def test_its_machine_file_is_proven(self):
        mended, machine = self.folder / "m.svg", self.folder / "m.hpgl"
        self.done("mend", TITLE, mended)
        self.done("convert", mended, machine)
        proof = json.loads(self.done("proof", machine, "--against", mended, "--json"))
        self.assertEqual((proof["missing"], proof["extra"]), (0, 0))
        self.assertLessEqual(proof["max_deviation_mm"], 0.025)
        rows = machine.read_bytes().splitlines(keepends=True)
        machine.write_bytes(b"".join(rows[:8] + rows[9:]))
        proof = json.loads(self.done("proof", machine, "--against", mended, "--json", code=1))
        self.assertEqual((proof["missing"], proof["extra"], proof["holds"]), (1, 0, False))
        self.assertGreater(proof["max_deviation_mm"], 1)

    def test_the_tolerance_is_typed_with_its_unit(self):
        out = self.folder / "out.svg"
        for tolerance, left in (("0.002in", 1), ("0.1mm", 0)):
            self.done("mend", TITLE, out, "--only", "duplicate-line", "--tolerance", tolerance)
            self.assertEqual([f["id"] for f in self.found(out, code=1)].count("duplicate-line"), left)

    def test_the_frame_keeps_its_score_lines(self):
        out = self.folder / "out.svg"
        self.done("mend", FRAME, out)
        layers = json.loads(self.done("info", out, "--json"))["layers"]
        self.assertEqual([(x["treatment"], x["pieces"]) for x in layers], [("cut", 13), ("score", 4)])


class Convert(Case):
    def test_what_a_number_means(self):
        for unit, width in (("px", 120.65), ("mm", 456.0), ("in", 11582.4)):
            out = self.folder / f"{unit}.svg"
            self.done("convert", MOON, out, "--unit", unit)
            self.assertAlmostEqual(json.loads(self.done("info", out, "--json"))["size_mm"][0], width, 3)

    def test_through_standard_input_and_output(self):
        text = self.done("convert", "-", "-", "--to", "hpgl", stdin=TITLE.read_bytes())
        self.assertTrue(text.startswith("IN;PA;"))


class Trace(Case):
    def test_the_kettle_at_a_stated_width(self):
        out = self.folder / "kettle.svg"
        self.done("trace", KETTLE, out, "--mode", "dark", "--width", "100mm")
        data = json.loads(self.done("info", out, "--json"))
        self.assertAlmostEqual(data["size_mm"][0], 100.0, 3)
        machine = self.folder / "kettle.hpgl"
        self.done("convert", out, machine)
        proof = json.loads(self.done("proof", machine, "--against", out, "--json"))
        self.assertLessEqual(proof["max_deviation_mm"], 0.025)

    def test_the_threshold_is_what_is_darker(self):
        sizes = []
        for threshold in ("0.2", "0.8"):
            out = self.folder / "t.svg"
            self.done(
                "trace", KETTLE, out, "--mode", "dark", "--threshold", threshold, "--detail", "4", "--smooth", "0.1mm"
            )
            sizes.append(json.loads(self.done("info", out, "--json"))["outlines"])
        self.assertNotEqual(*sizes)

    def test_a_picture_is_told_from_a_design(self):
        data = json.loads(self.done("info", KETTLE, "--json"))
        self.assertEqual((data["pieces"], data["pictures"]), (0, [{"size_px": [1299, 1063], "px_per_inch": 299.9994}]))


class Do(Case):
    def design(self, name: str) -> dict:
        return json.loads((self.folder / name).read_text())

    def test_sizes_are_typed_fitted_and_taken_from_features(self):
        out = self.folder / "sized.svg"
        for options, expected in (
            (("--width", "2 1/4 in"), (57.15, 57.15)),
            (("--width", "180/2"), (90.0, 90.0)),
            (("--fit", "140x95mm", "--clear", "5mm"), (85.0, 85.0)),
            (("--target", "tile", "--clear", "5mm"), (140.0, 140.0)),
        ):
            with self.subTest(options):
                said = json.loads(self.done("do", "resize", MOON, out, *options, "--json"))
                self.assertEqual(said["after"]["size_mm"], list(expected))
        said = json.loads(self.done("do", "resize", MOON, out, "--feature", "circle:32,61", "--to", "12mm", "--json"))
        self.assertRegex(said["report"]["note"], "circle .* became 12 mm")

    def test_what_is_measured_is_kept_and_follows(self):
        one, two = self.folder / "one.json", self.folder / "two.json"
        self.done("do", "measure", MOON, one, "--kind", "distance", "--name", "Across")
        self.done("do", "resize", one, two, "--factor", "2")
        sizes = [drawn_dimensions(codec.from_json(path.read_text()))[0] for path in (one, two)]
        self.assertAlmostEqual(sizes[1].size, 2 * sizes[0].size, places=6)
        self.assertEqual(sizes[1].name, "Across")

    def test_a_step_on_a_file_with_its_report(self):
        out = self.folder / "backed.svg"
        said = json.loads(self.done("do", "backing", TITLE, out, "--distance", "1/8 in", "--join", "mitre", "--json"))
        self.assertEqual((said["operation"], said["before"]["pieces"], said["after"]["pieces"]), ("backing", 28, 29))
        self.assertEqual(set(said["before"]), {
            "pieces", "outlines", "nodes", "area_mm2", "length_mm", "size_mm", "narrowest_mm", "smallest_gap_mm",
        })  # fmt: skip
        self.assertIn("3.17 mm out", said["report"]["title"])
        self.assertTrue(all({"id", "level", "message"} <= set(finding) for finding in said["findings"]))
        self.assertIn(b"backing", out.read_bytes())

    def test_in_hakobus_own_json_for_what_a_query_means(self):
        one, two, three = (self.folder / f"{n}.json" for n in ("one", "two", "three"))
        self.done("do", "shape", MOON, one, "--kind", "frame", "--size", "60x40mm", "--rim", "5", "--at", "30,20")
        self.done("do", "place", one, two, "--on", "named Frame", "--move", "10,0", "--copy")
        self.done("do", "combine", two, three, "--on", "named Frame", "--mode", "weld")
        names = [piece["name"] for piece in self.design("three.json")["pieces"]]
        self.assertEqual(names.count("Frame"), 1)
        self.assertEqual([piece["name"] for piece in self.design("two.json")["pieces"]].count("Frame"), 2)
        self.done(
            "do", "layer", one, two, "--layer", self.design("one.json")["layers"][0]["name"], "--treatment", "score"
        )
        self.assertEqual(self.design("two.json")["layers"][0]["treatment"], "score")

    def test_a_shape_is_opened_filled_and_its_pages_written(self):
        one, two, page = self.folder / "one.json", self.folder / "two.json", self.folder / "page.pdf"
        self.done("do", "shape", MOON, one, "--kind", "rectangle", "--size", "60x40mm", "--at", "90,90")
        self.done("do", "open-along", one, two, "--on", "named Rectangle", "--gap", "6mm", "--angle", "90")
        names = [piece["name"] for piece in self.design("two.json")["pieces"]]
        self.assertEqual(names.count("Rectangle"), 2)
        self.done("do", "pattern", one, two, "--on", "named Rectangle", "--spacing", "5", "--rim", "2")
        self.done("do", "cut-along", one, two, "--on", "named Rectangle", "--line", "50,80 130,100")
        self.assertEqual([p["name"] for p in self.design("two.json")["pieces"]].count("Rectangle"), 2)
        self.done("assembly", two, page, "--title", "Moon")
        self.assertEqual(page.read_bytes()[:5], b"%PDF-")

    def test_figures_below_zero_and_what_the_contract_names(self):
        out = self.folder / "out.json"
        for words in (
            ("backing", "--distance", "-0.5mm"),
            ("place", "--move", "-5,-2.5mm", "--turn", "-30"),
            ("copies", "--around", "30,20", "--count", "3"),
            ("copies", "--rows", "2", "--columns", "2", "--gap", "-1"),
            ("holes", "--action", "drop", "--below", "5000mm2"),
            ("layer", "--on", "everything", "--treatment", "score", "--colour", "#aabbcc"),
            ("align", "--x", "left", "--to", "page", "--by", "area"),
            ("shape", "--kind", "circle", "--radius", "1/2in", "--at", "-5,0"),
            ("simplify", "--within", "0.05"),
        ):
            with self.subTest(words):
                self.done("do", words[0], TREE if words[0] == "simplify" else TITLE, out, *words[1:])

    def test_operations_are_listed_with_their_options(self):
        self.assertIn("combine: Combine", self.done("operations"))
        text = self.done("operations", "backing")
        self.assertIn("--distance (length): how far out; inwards where it is negative; -1000 to 1000 mm", text)
        told = json.loads(self.done("operations", "combine", "--json"))
        self.assertEqual([role["id"] for role in told["roles"]], ["on", "with"])
        self.assertEqual(told["parameters"][0]["option"], "--mode")
        self.assertIn("--hollows", self.done("do", "rim", "--help"))


class Errors(Case):
    hakobu = staticmethod(hakobu)

    """One sentence on standard error that says what, where and what to do; never a traceback."""

    def test_table(self):
        (self.folder / "empty.svg").write_bytes(b"")
        (self.folder / "cut.svg").write_bytes(TITLE.read_bytes()[:900])
        (self.folder / "pic.svg").write_bytes(b"hello there")
        (self.folder / "pic.json").write_bytes(b"hello there")
        for words, said in (
            (("check", self.folder / "empty.svg"), "empty.svg is empty"),
            (("check", self.folder / "cut.svg"), "ends in the middle"),
            (("info", self.folder / "pic.svg"), "something else"),
            (("convert", TITLE, self.folder / "x.xyz"), "which format to write"),
            (("convert", TITLE, "-"), "which format to write"),
            (("convert", TITLE, "/nowhere/x.svg"), "cannot be written"),
            (("convert", TITLE, self.folder / "x.svg", "--to", "nonsense"), "svg, dxf, hpgl"),
            (("mend", TITLE, self.folder / "x.svg", "--only", "nonsense"), "duplicate-line"),
            (("mend", TITLE, self.folder / "x.svg", "--tolerance", "wide"), "is not a length"),
            (("trace", TITLE, self.folder / "x.svg", "--mode", "dark"), "holds no picture"),
            (("trace", KETTLE, self.folder / "x.svg", "--mode", "nonsense"), "use one of dark"),
            (("trace", KETTLE, self.folder / "x.svg", "--mode", "dark", "--threshold", "0"), "Nothing in this picture"),
            (("trace", KETTLE, self.folder / "x.svg", "--mode", "dark", "--threshold", "2"), "between 0 and 1"),
            (("convert", KETTLE, self.folder / "x.svg"), "has no lines yet"),
            (("do", "melt", TITLE, self.folder / "x.svg"), "use one of bring-in"),
            (("do", "backing", TITLE, self.folder / "x.svg", "--distance", "wide"), "--distance"),
            (("do", "backing", TITLE, self.folder / "x.svg", "--distance", "5000"), "between -1000 and 1000 mm"),
            (("do", "remove", TITLE, self.folder / "x.svg"), "Pick a piece first"),
            (("do", "remove", TITLE, self.folder / "x.svg", "--on", "purple"), "no term of a query"),
            (("do", "remove", TITLE, self.folder / "x.svg", "--on", "named none"), "means no piece"),
            (("do", "combine", TITLE, self.folder / "x.nothing"), "which format to write"),
            (("do", "place", self.folder / "pic.json", self.folder / "x.svg", "--turn", "9"), "no document of Hakobu"),
            (("operations", "melt"), "use one of bring-in"),
            (("proof", TITLE, "--against", self.folder / "none.svg"), "cannot be opened"),
        ):
            with self.subTest(words):
                result = self.hakobu(*words)
                error = result.stderr.decode().strip()
                self.assertEqual(result.returncode, 2)
                self.assertIn(said, error)
                self.assertEqual((error.count("\n"), "Traceback" in error, result.stdout), (0, False, b""))
        self.assertFalse((self.folder / "x.svg").exists())

    def test_help_names_every_command(self):
        text = self.done("--help")
        for command in ("convert", "info", "check", "mend", "trace", "do", "operations", "proof", "figures"):
            self.assertIn(command, text)
