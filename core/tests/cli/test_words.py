"""`hakobu words` and `hakobu faces`."""

import json

from hakobu import formats
from hakobu.geometry import Path, bounds

from ..lettering.faces import as_woff2, built
from .test_commands import Case


class Words(Case):
    def made(self, *words, name: str = "out.svg"):
        file = self.folder / name
        result = self.hakobu("words", *words[:1], file, *words[1:])
        said = result.stderr.decode()
        self.assertEqual(result.returncode, 0, said)
        document = formats.read(file.name, file.read_bytes()).document
        return said, document, bounds(Path.concatenate(p.path for p in document.pieces))

    def test_a_word_in_a_face_at_a_height_of_capitals_welded(self):
        said, document, box = self.made(
            "KETTLE", "--face", "Anton", "--capitals", "40mm", "--weld", "closed", "--overlap", "0.4"
        )
        self.assertIn('"KETTLE" set in Anton', said)
        self.assertAlmostEqual(box[3] - box[1], 40.0, delta=0.01)
        self.assertEqual(len(document.pieces), 1)

    def test_sizes_are_typed_as_they_come(self):
        for typed, high in ((("--capitals", "72pt"), 25.4), (("--capitals", "1in"), 25.4), (("--whole", "3cm"), 30.0)):
            _, _, box = self.made("H", *typed)
            self.assertAlmostEqual(box[3] - box[1], high, delta=0.01, msg=typed)
        _, _, box = self.made("Moth", "--width", "120mm")
        self.assertAlmostEqual(box[2] - box[0], 120.0, delta=0.01)
        self.assertIn("Give one size", self.refused("H", "--capitals", "1in", "--em", "2in"))

    def refused(self, text, *words) -> str:
        result = self.hakobu("words", text, self.folder / "no.svg", *words)
        self.assertEqual(result.returncode, 2)
        self.assertNotIn(b"Traceback", result.stderr)
        self.assertFalse((self.folder / "no.svg").exists())
        return result.stderr.decode()

    def test_names_of_a_list_and_of_a_column(self):
        plain, table = self.folder / "names.txt", self.folder / "names.csv"
        plain.write_text("Ada\n\nBo\n")
        table.write_text('\ufeffseat,"name, of the guest"\n1,"Ada, the elder"\n2,Bo\n')
        _, document, _ = self.made(str(plain), "--list", "--weld", "closed")
        self.assertEqual([p.name for p in document.pieces], ["Ada", "Bo"])
        said, _, _ = self.made(str(table), "--list", "name, of the guest")
        self.assertIn("Ada, the elder Bo", said)
        table.write_text("1,Ada\n2,Bo\n")
        said, _, _ = self.made(str(table), "--list", "2")
        self.assertIn('"Ada Bo"', said)
        table.write_text("seat,name\n1,Ada\n")
        self.assertIn('no column "age"; it has seat', self.refused(str(table), "--list", "age"))

    def test_a_face_from_a_file_and_a_broken_one(self):
        file = self.folder / "own.woff2"
        file.write_bytes(as_woff2(built()))
        said, _, _ = self.made("Hx", "--face", str(file))
        self.assertIn("Made for tests", said)
        file.write_bytes(as_woff2(built())[:100])
        self.assertIn("own.woff2: this font is broken", self.refused("Hx", "--face", str(file)))

    def test_bad_words_are_one_sentence(self):
        self.assertIn("nothing to set", self.refused(""))
        self.assertIn("no face that is known", self.refused("H", "--face", "teapot"))

    def test_faces_are_listed_and_judged_by_words(self):
        rows = json.loads(self.done("faces", "--json"))
        self.assertGreaterEqual(sum(not row["single_line"] for row in rows), 12)
        judged = {
            row["id"]: row for row in json.loads(self.done("faces", "--text", "Kettle", "--capitals", "40mm", "--json"))
        }
        self.assertEqual(judged["pacifico"]["pieces"], 1)
        self.assertGreater(judged["archivo-black"]["thinnest_mm"], judged["dancing-script"]["thinnest_mm"])
        self.assertIn("Pacifico", self.done("faces"))
