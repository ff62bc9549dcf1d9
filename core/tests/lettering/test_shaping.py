"""Letters in a row: against HarfBuzz's own answers for two whole open fonts, and the bidirectional algorithm."""

import unittest

import uharfbuzz as harfbuzz

from hakobu.lettering.face import EM_MM
from hakobu.lettering.faces import face_of
from hakobu.lettering.runs import levels_of, runs_of
from hakobu.lettering.setting import set_line

from ..fonts import font
from .faces import data_of, face

TEXTS = (
    "AVATAR To. Wave",
    "office affluent fjord",
    "1234567890 1/2",
    "KETTLE & Co.",
    "Ünder Ærø ñandú",
    "e\u0301a\u0308",
)
#: Letters of Hebrew for those that the tables of UAX #9 write as capitals.
HEBREW = {chr(ord("A") + k): chr(0x5D0 + k) for k in range(26)}


def hebrew(text: str) -> str:
    return "".join(HEBREW.get(letter, letter) for letter in text)


def shown(text: str) -> str:
    """A text as it stands on the page, from left to right."""
    text = hebrew(text)
    order = []
    for run in runs_of(text):
        order += range(run.start, run.end)[:: -1 if run.backwards else 1]
    back = {letter: sign for sign, letter in HEBREW.items()}
    return "".join(back.get(text[k], text[k]) for k in order)


class HarfBuzz(unittest.TestCase):
    def test_glyphs_and_places_are_those_of_harfbuzz(self):
        for name in ("sans", "serif"):
            shaper = harfbuzz.Font(harfbuzz.Face(data_of(name)))
            unit = EM_MM / font(name)["head"].unitsPerEm
            for text in TEXTS:
                for features in ({}, {"kern": False}, {"liga": False}):
                    buffer = harfbuzz.Buffer()
                    buffer.add_str(text)
                    buffer.guess_segment_properties()
                    harfbuzz.shape(shaper, buffer, features)
                    wanted = [(i.codepoint, i.cluster) for i in buffer.glyph_infos]
                    made = face(name).shape(text, features)
                    self.assertEqual([(g.index, g.cluster) for g in made], wanted, (name, text, features))
                    for glyph, at in zip(made, buffer.glyph_positions, strict=True):
                        self.assertAlmostEqual(glyph.advance, at.x_advance * unit, places=9)
                        self.assertAlmostEqual(glyph.x, at.x_offset * unit, places=9)

    def test_every_advance_is_the_fonts_own(self):
        for name in ("sans", "serif"):
            unit = EM_MM / font(name)["head"].unitsPerEm
            advances = font(name)["hmtx"]
            marks = font(name)["GDEF"].table.GlyphClassDef.classDefs
            for code, glyph in font(name).getBestCmap().items():
                if marks.get(glyph) == 3 or code < 0x20 or not 0x20 < code < 0x250:
                    continue
                made = face(name).shape(chr(code), {"kern": False, "locl": False})
                if len(made) == 1 and made[0].index == font(name).getGlyphID(glyph):
                    self.assertAlmostEqual(made[0].advance, advances[glyph][0] * unit, places=9, msg=glyph)

    def test_kerning_and_ligatures_can_be_left_out(self):
        made = face_of("pacifico")
        wide = sum(glyph.advance for glyph in made.shape("To", {"kern": False}))
        self.assertLess(sum(glyph.advance for glyph in made.shape("To", {})), wide)
        self.assertEqual([len(made.shape("kettle", {"liga": on})) for on in (True, False)], [5, 6])

    def test_letters_that_are_one_and_marks_are_one_letter_of_the_line(self):
        line = set_line(face_of("pacifico"), "kettle")
        self.assertEqual([letter.text for letter in line.letters], ["k", "e", "tt", "l", "e"])
        self.assertEqual([letter.nth for letter in line.letters], [1, 1, 1, 1, 2])
        (marked,) = set_line(face("sans"), "x\u0323").letters
        self.assertEqual(marked.text, "x\u0323")


class Bidi(unittest.TestCase):
    def test_examples_of_the_bidirectional_algorithm(self):
        """Capitals stand for letters that run from right to left, as in the tables of UAX #9; lines and levels by its
        rules L1 and L2, worked out by hand."""
        table = (
            ("car means CAR.", "00000000001110", "car means RAC."),
            ("CAR MEANS car.", "11111111112221", ".car SNAEM RAC"),
            ("CAR 12 x", "11112212", "x 12 RAC"),
            ("abc DEF  ", "000011100", "abc FED  "),
            ("ABC def GHI", "11112221111", "IHG def CBA"),
        )
        for text, levels, line in table:
            with self.subTest(text):
                self.assertEqual("".join(map(str, levels_of(hebrew(text)))), levels)
                self.assertEqual(shown(text), line)

    def test_a_name_of_both_kinds_stands_in_reading_order(self):
        line = set_line(face_of("secular"), "שלום Moth")
        self.assertEqual("".join(letter.text for letter in line.inked), "Mothםולש")

    def test_arabic_letters_join(self):
        joined = face_of("lalezar").shape("بب", {})
        alone = face_of("lalezar").shape("ب", {})
        self.assertNotIn(alone[0].index, [glyph.index for glyph in joined])
