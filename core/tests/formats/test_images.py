"""Pictures in: size, resolution, orientation, alpha, depth. Sources: PNG (W3C), JFIF (ECMA TR/98), Exif 2.32."""

import io
import struct
import unittest
import zlib

import numpy as np
from PIL import Image

from hakobu import formats
from hakobu.errors import TooMuch, UnreadableFile
from hakobu.formats import ReadOptions
from hakobu.formats.budget import Budget
from hakobu.formats.image.decode import decode, shown
from hakobu.formats.limited import decode_picture, shown_picture
from hakobu.model import Treatment
from hakobu.model.document import px_per_inch

RED = (200, 30, 40)


def saved(kind: str, image: Image.Image | None = None, **options) -> bytes:
    out = io.BytesIO()
    (image or Image.new("RGB", (60, 40), RED)).save(out, kind, **options)
    return out.getvalue()


def exif(**tags) -> Image.Exif:
    made = Image.Exif()
    for tag, value in tags.items():
        made[int(tag[1:])] = value
    return made


def read(data: bytes):
    return formats.recognise("", data).read(data, ReadOptions(key="k"))


def png_chunk(name: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))


class Resolution(unittest.TestCase):
    def test_comes_from_where_the_file_states_it(self):
        no_jfif = {"exif": exif(_282=600.0, _283=600.0, _296=2)}
        for name, data, expected in (
            ("PNG, pixels a metre", saved("PNG", dpi=(300, 300)), 300.0),
            ("JPEG, JFIF", saved("JPEG", dpi=(200, 200)), 200.0),
            ("JPEG, Exif", without_density(saved("JPEG", **no_jfif)), 600.0),
            (
                "JPEG, Exif in centimetres",
                without_density(saved("JPEG", exif=exif(_282=100.0, _283=100.0, _296=3))),
                254.0,
            ),
            ("TIFF", saved("TIFF", dpi=(300, 300)), 300.0),
            ("TIFF, centimetres", saved("TIFF", resolution=100, resolution_unit=3), 254.0),
            ("BMP", saved("BMP", dpi=(300, 300)), 300.0),
            ("WebP, Exif", saved("WEBP", exif=exif(_282=400.0, _283=400.0, _296=2)), 400.0),
        ):
            with self.subTest(name):
                result = read(data)
                self.assertAlmostEqual(px_per_inch(result.document.pictures[0]), expected, 1)
                self.assertAlmostEqual(result.document.page.width_mm, 60 * 25.4 / expected, 2)
                self.assertEqual(result.findings, ())

    def test_what_is_not_stated_is_taken_and_said(self):
        for data in (saved("PNG"), saved("JPEG"), saved("PNG", dpi=(1, 1)), saved("GIF"), saved("WEBP")):
            result = read(data)
            self.assertEqual(px_per_inch(result.document.pictures[0]), 96.0)
            self.assertEqual([f.rule for f in result.findings], ["no-unit"])
            self.assertIn("96 pixels an inch", result.findings[0].message)

    def test_pixels_that_are_not_square_keep_both_sizes(self):
        page = read(saved("PNG", dpi=(200, 100))).document.page
        self.assertAlmostEqual(page.width_mm, 60 * 25.4 / 200, 2)
        self.assertAlmostEqual(page.height_mm, 40 * 25.4 / 100, 2)


class Pixels(unittest.TestCase):
    def test_a_picture_lies_on_its_page_and_is_left_out_of_the_cut(self):
        document = read(saved("PNG", dpi=(254, 254))).document
        picture = document.pictures[0]
        self.assertEqual((picture.id, picture.size_px, document.pieces), ("k:picture", (60, 40), ()))
        self.assertEqual(document.layers[0].treatment, Treatment.LEAVE_OUT)
        self.assertAlmostEqual(document.page.height_mm, 4.0, 3)

    def test_every_kind_of_file_gives_its_pixels(self):
        clear = Image.new("RGBA", (8, 6), (*RED, 100))
        clear.putpixel((2, 1), (0, 0, 255, 255))
        for kind, image in (
            ("TIFF", clear),
            ("TIFF", clear.convert("CMYK")),
            ("TIFF", clear.convert("1")),
            ("GIF", clear.convert("RGB").convert("P")),
            ("WEBP", clear),
            ("BMP", clear.convert("RGB")),
            ("BMP", clear.convert("1")),
        ):
            with self.subTest(kind, mode=image.mode):
                options = {"lossless": True, "exact": True} if kind == "WEBP" else {}
                array = decode(saved(kind, image, **options), Budget())
                np.testing.assert_array_equal(array, np.asarray(image.convert("RGBA")))

    def test_numbers_and_deep_channels_of_tiff(self):
        ramp = np.linspace(0, 1, 48, dtype=np.float32).reshape(6, 8)
        for scale in (1.0, 37.0):
            grey = decode(saved("TIFF", Image.fromarray(ramp * scale)), Budget())[..., 0]
            self.assertLessEqual(np.abs(grey - 255 * ramp).max(), 0.51)
        deep = Image.fromarray((65535 * ramp).astype(np.uint16))
        self.assertLessEqual(np.abs(decode(saved("TIFF", deep), Budget())[..., 0] - 255 * ramp).max(), 0.51)
        self.assertIn("upper 8", read(saved("TIFF", deep, dpi=(99, 99))).findings[0].message)

    def test_lab_is_read_as_colour(self):
        # L*a*b* of sRGB red under D50, rounded: 54, 81, 70 (computed from CIE 15 by Bradford's adaptation).
        lab = Image.new("LAB", (4, 4), (round(54.3 * 2.55), 81 + 128, 70 + 128))
        array = decode(saved("TIFF", lab), Budget())
        self.assertLess(np.abs(array[0, 0, :3].astype(int) - (255, 0, 0)).max(), 8)

    def test_of_several_pages_the_first(self):
        pages = [Image.new("RGB", (8, 6), color) for color in (RED, (0, 0, 255))]
        for kind in ("TIFF", "GIF", "WEBP"):
            data = saved(kind, pages[0], save_all=True, append_images=pages[1:])
            with self.subTest(kind):
                self.assertLess(np.abs(decode(data, Budget())[0, 0, :3].astype(int) - RED).max(), 9)
                self.assertTrue(any("holds 2 pictures" in f.message for f in read(data).findings))

    def test_every_kind_becomes_rgba(self):
        plain = Image.new("RGB", (8, 6), RED)
        clear = Image.new("RGBA", (8, 6), (*RED, 100))
        for name, image in (
            ("RGB", plain),
            ("RGBA", clear),
            ("grey", plain.convert("L")),
            ("grey with alpha", clear.convert("LA")),
            ("palette", plain.convert("P")),
            ("one bit", plain.convert("1")),
        ):
            with self.subTest(name):
                array = decode(saved("PNG", image), Budget())
                self.assertEqual((array.shape, array.dtype), ((6, 8, 4), np.uint8))
                np.testing.assert_array_equal(array, np.asarray(image.convert("RGBA")))

    def test_sixteen_bits_keep_the_upper_eight(self):
        deep = Image.fromarray(np.array([[0, 257 * 100, 65535]], np.uint16))
        data = saved("PNG", deep)
        self.assertEqual(decode(data, Budget())[0, :, 0].tolist(), [0, 100, 255])
        self.assertIn("16 bits", read(data).findings[0].message)

    def test_print_colours_are_turned_and_said(self):
        data = saved("JPEG", Image.new("CMYK", (16, 16), (0, 255, 255, 0)), dpi=(300, 300))
        red, green, blue, _ = decode(data, Budget())[8, 8].tolist()
        self.assertTrue(red > 200 and green < 60 and blue < 60)
        self.assertEqual([f.rule for f in read(data).findings], ["taken-plainly"])

    def test_lying_pictures_stand_up(self):
        image = Image.new("RGB", (30, 10), "white")
        image.paste("black", (0, 0, 5, 5))
        data = saved("JPEG", image, exif=exif(_274=6), dpi=(100, 200), quality=100)
        document = read(data).document
        self.assertEqual(document.pictures[0].size_px, (10, 30))
        self.assertAlmostEqual(document.page.width_mm, 10 * 25.4 / 200, 3)
        array = decode(data, Budget())
        # Turned by a quarter to the right: what was at the top left is at the top right.
        self.assertTrue(array[2, 7, 0] < 60 and array[2, 1, 0] > 200)

    def test_the_browser_gets_new_bytes(self):
        data, kind = shown(saved("JPEG", exif=exif(_270="a secret place"), quality=95), Budget(), 30)
        self.assertEqual((kind, Image.open(io.BytesIO(data)).size), ("image/jpeg", (30, 20)))
        self.assertNotIn(b"secret", data)
        data, kind = shown(saved("PNG", Image.new("RGBA", (8, 6), (0, 0, 0, 0))), Budget(), 30)
        self.assertEqual((kind, Image.open(io.BytesIO(data)).mode), ("image/png", "RGBA"))


class BadPictures(unittest.TestCase):
    def test_each_is_refused_with_a_sentence(self):
        header = struct.pack(">IIBBBBB", 40_000, 25_000, 8, 0, 0, 0, 0)
        huge = (
            b"\x89PNG\r\n\x1a\n"
            + png_chunk(b"IHDR", header)
            + png_chunk(b"IDAT", zlib.compress(b""))
            + png_chunk(b"IEND", b"")
        )
        whole = saved("PNG", Image.effect_noise((80, 80), 50))
        photo = saved("JPEG", Image.effect_noise((80, 80), 50))
        broken = bytearray(whole)
        broken[60] ^= 0xFF
        for name, file, data, kind, words in (
            ("10^9 pixels", "a.png", huge, TooMuch, "80 million"),
            ("cut off PNG", "a.png", whole[: len(whole) // 2], UnreadableFile, "breaks off|damaged"),
            ("cut off JPEG", "a.jpg", photo[: len(photo) // 2], UnreadableFile, "breaks off|damaged"),
            ("a damaged byte", "a.png", bytes(broken), UnreadableFile, "damaged"),
            ("a head alone", "a.png", whole[:20], UnreadableFile, "damaged"),
        ):
            with self.subTest(name), self.assertRaisesRegex(kind, words):
                formats.read(file, data, ReadOptions())

    def test_a_wrong_suffix_is_seen_through(self):
        self.assertEqual(formats.recognise("a.jpg", saved("PNG")).id, "png")
        self.assertEqual(formats.recognise("a.svg", saved("JPEG")).id, "jpeg")

    def test_pictures_are_decoded_in_the_limited_child(self):
        data = saved("PNG", Image.effect_noise((50, 30), 60))
        np.testing.assert_array_equal(decode_picture("a.png", data), decode(data, Budget()))
        self.assertEqual(shown_picture("a.png", data, 20)[1], "image/jpeg")
        with self.assertRaisesRegex(TooMuch, "a.png: The picture has"):
            decode_picture("a.png", data, Budget(pixels=1000))


def without_density(data: bytes) -> bytes:
    """A JPEG whose JFIF segment states an aspect only, no resolution."""
    at = data.find(b"JFIF\0")
    if at < 0:
        return data
    return data[: at + 7] + b"\0\0\1\0\1" + data[at + 12 :]
