"""Fonts that people bring: made plain in a child with limits, and refused with a sentence where they are broken."""

import io
import unittest
from unittest import mock

from fontTools.ttLib import TTFont

from hakobu.errors import TooMuch, UnreadableFile
from hakobu.formats import font as reading
from hakobu.formats.font import KEPT, plain_font
from hakobu.formats.limited import read_face
from hakobu.lettering.outline_face import OutlineFace
from hakobu.lettering.words import embedding_words

from .faces import as_collection, as_woff2, built, containing_itself, data_of, without


class Plain(unittest.TestCase):
    def test_every_kind_of_file_gives_the_same_letters(self):
        data = built()
        wanted = OutlineFace(data).outline(1)
        for name, file in (("ttf", data), ("woff2", as_woff2(data)), ("ttc", as_collection(data, data_of("serif")))):
            with self.subTest(name):
                self.assertEqual(OutlineFace(read_face(f"face.{name}", file).data).outline(1), wanted)
        cff = read_face("face.otf", data_of("sans"))
        self.assertEqual(OutlineFace(cff.data).outline(50), OutlineFace(data_of("sans")).outline(50))

    def test_only_tables_that_letters_need_are_kept(self):
        plain = TTFont(io.BytesIO(plain_font(data_of("serif"))))
        self.assertLessEqual(set(plain.keys()) - {"GlyphOrder"}, KEPT)
        self.assertIn("GPOS", plain)

    def test_the_same_font_has_the_same_name_for_ever(self):
        data = built()
        names = {read_face("a.ttf", data).sha256, read_face("b.ttf", data).sha256}
        self.assertEqual(len(names), 1)

    def test_what_a_maker_allows_is_said_in_words(self):
        self.assertEqual(embedding_words(0), "")
        self.assertIn("ask before you sell", embedding_words(0x0002))
        self.assertIn("seen and printed", embedding_words(0x0004))
        self.assertEqual(OutlineFace(built(bits=0x0002)).told.embedding, embedding_words(0x0002))


class Broken(unittest.TestCase):
    def test_each_is_refused_with_a_sentence(self):
        data = built()
        for name, file, said in (
            ("no font", b"GIF89a" + bytes(60), "no font file"),
            ("empty", b"", "no font file"),
            ("cut off", data[: len(data) // 2], "broken|lacks"),
            ("head only", data[:12], "broken|no outlines"),
            ("garbage", b"\0\1\0\0" + bytes(range(256)) * 8, "broken|no outlines"),
            ("no cmap", without("cmap"), "lacks its table cmap"),
            ("no outlines", without("glyf"), "no outlines"),
            ("broken woff2", as_woff2(data)[:200], "broken"),
        ):
            with self.subTest(name), self.assertRaisesRegex(UnreadableFile, said):
                read_face(f"{name}.ttf", file)

    def test_letters_that_are_pictures_are_said_to_be_so(self):
        font = TTFont(io.BytesIO(without("glyf")))
        from fontTools.ttLib import newTable

        font["CBDT"] = newTable("CBDT")
        font["CBDT"].compile = lambda _: b"\0\3\0\0"
        out = io.BytesIO()
        font.save(out)
        with self.assertRaisesRegex(UnreadableFile, "pictures of letters"):
            plain_font(out.getvalue())

    def test_a_font_that_is_too_large_is_refused(self):
        with mock.patch.object(reading, "MOST_BYTES", 100), self.assertRaisesRegex(TooMuch, "are the most"):
            plain_font(built())
        with mock.patch.object(reading, "MOST_PLAIN", 100), self.assertRaisesRegex(TooMuch, "unpacks to"):
            plain_font(as_woff2(built()))

    def test_a_letter_that_contains_itself_is_found_when_it_is_set(self):
        plain = read_face("self.ttf", containing_itself()).data
        with self.assertRaisesRegex(TooMuch, "letter"):
            OutlineFace(plain).outline(1)
