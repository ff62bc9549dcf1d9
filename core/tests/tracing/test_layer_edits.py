"""What was found, sorted: colours joined, left out and given, pieces moved, hollows filled, single ones left out; and
the true size and thin places of what is left."""

import unittest

import numpy as np

from hakobu.errors import BadRequest, CannotDo
from hakobu.formats import by_id
from hakobu.geometry import Path, bounds, signed_areas
from hakobu.tracing import TraceOptions, TraceResult, find
from hakobu.tracing.scale.placement import Placing, place_result
from hakobu.tracing.scale.reference import parse_reference
from hakobu.tracing.scale.reference_sheet import reference_sheet

from .test_modes import BLACK, BLUE, KETTLE, MM, RED, size_of, view

#: Two fields that share a border, and one by itself.
FLAG = view(
    (slice(40, 100), slice(40, 120), RED),
    (slice(40, 100), slice(120, 200), BLUE),
    (slice(140, 180), slice(40, 80), BLACK),
)
RED_HEX, BLUE_HEX, BLACK_HEX = ("#{:02x}{:02x}{:02x}".format(*c) for c in (RED, BLUE, BLACK))


CORNERS = np.array([[0, 0], [1, 0], [1, 1], [0, 1]])


def flag(**asked) -> TraceResult:
    return find(FLAG, "colour", TraceOptions(**asked))


def colours(found: TraceResult) -> set[str]:
    return {layer.color for layer in found.layers}


class Sorted(unittest.TestCase):
    def test_two_colours_become_one_piece_where_they_share_a_border(self):
        plain, joined = flag(), flag(joined=(f"{RED_HEX} {BLUE_HEX}",))
        self.assertEqual((len(plain.pieces), len(joined.pieces)), (3, 2))
        self.assertEqual(colours(joined), {BLUE_HEX, BLACK_HEX})
        whole = max(joined.pieces, key=lambda piece: size_of(piece.path))
        self.assertAlmostEqual(size_of(whole.path), 160 * 60 * MM * MM, delta=0.01)
        self.assertEqual(len(whole.path), 1)

    def test_a_colour_is_left_out_or_made_of_another(self):
        self.assertEqual(colours(flag(left_out=(RED_HEX,))), {BLUE_HEX, BLACK_HEX})
        given = flag(given=(f"{RED_HEX} #B4673E",))
        self.assertEqual(colours(given), {"#b4673e", BLUE_HEX, BLACK_HEX})
        layer = next(layer for layer in given.layers if layer.color == "#b4673e")
        self.assertEqual(layer.base, RED_HEX)

    def test_a_colour_that_is_gone_is_told_not_passed_over(self):
        self.assertIn("no layer of colour #00ff00", " ".join(flag(left_out=("#00ff00",)).notes))

    def test_a_piece_goes_to_another_colour_and_joins_what_it_touches_there(self):
        elsewhere = flag(moved=("60,160 #1f3c88",))
        self.assertEqual(colours(elsewhere), {RED_HEX, BLUE_HEX, "#1f3c88"})
        beside = flag(moved=(f"60,60 {BLUE_HEX}",))
        self.assertEqual(colours(beside), {BLUE_HEX, BLACK_HEX})
        self.assertEqual(len(beside.pieces), 2)

    def test_wishes_that_cannot_be_read_are_refused(self):
        with self.assertRaisesRegex(BadRequest, "is no colour"):
            find(FLAG, "dark", TraceOptions(colour="blue"))
        for wish in ({"joined": ("#123456",)}, {"moved": ("here #123456",)}, {"given": ("red blue",)}):
            with self.subTest(wish), self.assertRaises(BadRequest):
                flag(**wish)

    def test_pieces_go_on_under_what_lies_higher_only(self):
        made = flag(underlap_mm=0.5)
        sizes = {piece.layer: size_of(piece.path) for piece in made.pieces}
        low, high = (layer.key for layer in made.layers if layer.key in (RED_HEX, BLUE_HEX))
        self.assertAlmostEqual(sizes[low], 80 * 60 * MM * MM + 0.5 * 60 * MM, delta=0.02)
        self.assertAlmostEqual(sizes[high], 80 * 60 * MM * MM, delta=0.01)

    def test_a_hollow_is_filled_and_a_piece_left_out_by_a_place(self):
        frame = find(KETTLE, "dark", TraceOptions(threshold=0.2))
        filled = find(KETTLE, "dark", TraceOptions(threshold=0.2, kept=((220, 100),)))
        self.assertEqual(len(frame.pieces[0].path) - len(filled.pieces[0].path), 1)
        self.assertAlmostEqual(
            size_of(filled.pieces[0].path) - size_of(frame.pieces[0].path), 40 * 80 * MM * MM, delta=0.02
        )
        self.assertEqual(len(flag(dropped=((60, 160),)).pieces), 2)

    def test_lines_of_a_colour_are_pointed_at(self):
        found = find(FLAG, "dark", TraceOptions(colour=BLUE_HEX))
        self.assertEqual(len(found.pieces), 1)
        np.testing.assert_allclose(bounds(found.pieces[0].path), [12, 4, 20, 10], atol=0.02)


def dark(v, asked):
    return find(v, "dark", asked)


class Placed(unittest.TestCase):
    def test_a_typed_size_is_met_to_the_last_digit_and_mm_mean_what_they_say(self):
        for asked in ({"width_mm": 90.0}, {"height_mm": 30.0}):
            with self.subTest(asked):
                found = place_result(FLAG, dark, TraceOptions(smallest_mm2=0.5), Placing(**asked))
                left, top, right, bottom = bounds(Path.concatenate(piece.path for piece in found.pieces))
                size = right - left if "width_mm" in asked else bottom - top
                self.assertAlmostEqual(size, next(iter(asked.values())), places=9)
                self.assertEqual(found.chosen["smallest_mm2"], 0.5)
                # The picture lies under its lines.
                a, _, _, _, e, _ = found.matrix
                self.assertAlmostEqual(a * 40 + e, left, delta=0.05)

    def test_two_points_and_their_distance_tell_the_scale(self):
        bar = view((slice(40, 100), slice(40, 200), BLACK))
        found = place_result(bar, dark, TraceOptions(), Placing(ends=((40, 50), (120, 50)), apart_mm=40.0))
        left, _, right, _ = bounds(Path.concatenate(piece.path for piece in found.pieces))
        self.assertAlmostEqual(right - left, 80.0, delta=0.05)
        with self.assertRaisesRegex(CannotDo, "as good as one"):
            place_result(FLAG, dark, TraceOptions(), Placing(ends=((40, 50), (40, 50)), apart_mm=40.0))
        with self.assertRaisesRegex(BadRequest, "both points"):
            place_result(FLAG, dark, TraceOptions(), Placing(apart_mm=40.0))

    def test_a_mirrored_picture_lies_under_its_mirrored_lines(self):
        found = place_result(FLAG, dark, TraceOptions(), Placing(mirrored=True))
        a, _, _, _, e, _ = found.matrix
        small = min(found.pieces, key=lambda piece: size_of(piece.path))
        left, _, right, _ = bounds(small.path)
        np.testing.assert_allclose(sorted((a * 40 + e, a * 80 + e)), (left, right), atol=0.02)


class Sheet(unittest.TestCase):
    def test_holds_the_shape_at_its_size_with_white_about_it(self):
        for text, size, area in (
            ("square:60mm", (60, 60), 3600.0),
            ("rectangle:60x40mm", (60, 40), 2400.0),
            ("circle:2in", (50.8, 50.8), np.pi * 25.4**2),
        ):
            with self.subTest(text):
                sheet = reference_sheet(parse_reference(text))
                left, top, right, bottom = bounds(sheet.pieces[0].path)
                np.testing.assert_allclose((right - left, bottom - top), size, atol=1e-9)
                self.assertAlmostEqual(abs(float(signed_areas(sheet.pieces[0].path).sum())), area, places=6)
                self.assertTrue(left >= 10 and sheet.page.width_mm - right >= 10)
                self.assertTrue(by_id("pdf").write(sheet, _options()).data.startswith(b"%PDF"))


def _options():
    from hakobu.formats import WriteOptions

    return WriteOptions(title="Reference")
