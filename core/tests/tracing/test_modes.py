"""All ways of tracing by their one request, on pictures whose pieces are known."""

import unittest

import numpy as np
from scipy import ndimage

from hakobu.errors import BadRequest, CannotDo
from hakobu.geometry import Path, bounds, signed_areas
from hakobu.tracing import MODES, TraceOptions, View, check_mode, find
from hakobu.tracing.outlines import thresholding
from hakobu.tracing.scale.placement import Placing, place_result
from hakobu.tracing.scale.reference import parse_reference, scaled_by

MM = 0.1
MATRIX = (MM, 0.0, 0.0, MM, 0.0, 0.0)
RED, BLUE, BLACK, WHITE = (200, 40, 40), (40, 90, 200), (20, 20, 20), (255, 255, 255)


def view(*marks: tuple[slice, slice, tuple], size: tuple[int, int] = (200, 300), clear: bool = False) -> View:
    rgba = np.full((*size, 4), 255, np.uint8)
    if clear:
        rgba[..., 3] = 0
    for rows, columns, colour in marks:
        rgba[rows, columns, :3] = colour
        rgba[rows, columns, 3] = 255
    return View(rgba, MATRIX)


FRAME = (slice(40, 160), slice(40, 260), BLACK)
#: Two fields of colour and a hollow of the paper in a frame of ink.
KETTLE = view(
    FRAME,
    (slice(60, 140), slice(60, 110), RED),
    (slice(60, 140), slice(130, 180), BLUE),
    (slice(60, 140), slice(200, 240), WHITE),
)
AREA = MM * MM


def size_of(path: Path) -> float:
    return float(signed_areas(path).sum())


class Modes(unittest.TestCase):
    def test_each_finds_something_in_one_picture_and_says_what_it_chose(self):
        for mode, _, _ in MODES:
            with self.subTest(mode):
                found = find(KETTLE, mode, TraceOptions())
                self.assertTrue(found.pieces and found.title and found.chosen)
                keys = {layer.key for layer in found.layers}
                self.assertTrue(all(piece.layer in keys for piece in found.pieces))
                self.assertEqual(len({piece.key for piece in found.pieces}), len(found.pieces))

    def test_other_words_are_known_and_unknown_ones_refused(self):
        self.assertEqual(check_mode("alpha"), "outside")
        with self.assertRaisesRegex(BadRequest, "ink-fields"):
            check_mode("nonsense")

    def test_colour_clears_the_background_and_its_hollows(self):
        found = find(KETTLE, "colour", TraceOptions())
        self.assertEqual(len(found.layers), 3)
        self.assertEqual(len(find(KETTLE, "colour", TraceOptions(background=False)).layers), 4)
        ink = next(p for p in found.pieces if size_of(p.path) > 60)
        self.assertEqual(len(ink.path), 4)
        self.assertAlmostEqual(size_of(ink.path), AREA * (120 * 220 - 80 * (50 + 50 + 40)), delta=0.5)

    def test_within_the_dark_rim_of_a_scan_the_paper_is_the_background(self):
        paper, heron = (225, 222, 215), (slice(60, 140), slice(90, 200), BLACK)
        scan = view((slice(0, 200), slice(0, 300), BLACK), (slice(3, 197), slice(2, 298), paper), heron)
        found = find(scan, "colour", TraceOptions())
        self.assertEqual([layer.color for layer in found.layers], ["#141414"])
        self.assertIn(8800, [round(size_of(piece.path) / AREA) for piece in found.pieces])

    def test_a_place_that_is_kept_stays_and_one_that_is_dropped_goes(self):
        kept = find(KETTLE, "colour", TraceOptions(kept=((220, 100),)))
        self.assertEqual(len(kept.pieces), len(find(KETTLE, "colour", TraceOptions()).pieces) + 1)
        dropped = find(KETTLE, "colour", TraceOptions(dropped=((80, 100),)))
        self.assertEqual(len(dropped.pieces), 2)
        speck = view((slice(20, 90), slice(20, 90), BLACK), (slice(150, 153), slice(150, 153), BLACK))
        self.assertEqual(len(find(speck, "dark", TraceOptions()).pieces), 1)
        self.assertEqual(len(find(speck, "dark", TraceOptions(kept=((151, 151),))).pieces), 2)

    def test_underlap_goes_under_what_lies_higher_only(self):
        plain, under = (find(KETTLE, "ink-fields", TraceOptions(underlap_mm=u)) for u in (0.0, 0.5))
        for one, other in zip(plain.pieces, under.pieces, strict=True):
            grown = 0.0 if one.layer == "ink" else 2 * 0.5 * (5 + 8) + np.pi * 0.25
            self.assertAlmostEqual(size_of(other.path) - size_of(one.path), grown, delta=0.2)

    def test_ink_and_fields_has_the_ink_as_one_piece(self):
        found = find(KETTLE, "ink-fields", TraceOptions())
        self.assertEqual([p.layer for p in found.pieces].count("ink"), 1)
        self.assertEqual(len(found.pieces), 3)
        solid = find(KETTLE, "ink-fields", TraceOptions(on_top=True)).pieces[0]
        self.assertAlmostEqual(size_of(solid.path), AREA * 120 * 220, delta=0.5)

    def test_shades_alone_share_borders_and_with_the_darker_lie_within(self):
        picture = view(
            (slice(20, 180), slice(20, 280), (180,) * 3),
            (slice(60, 140), slice(60, 240), (100,) * 3),
            (slice(80, 120), slice(100, 200), (10,) * 3),
        )
        alone = find(picture, "shades", TraceOptions(shades=4))
        nested = find(picture, "shades", TraceOptions(shades=4, with_darker=True))
        wholes = [AREA * a for a in (160 * 260, 80 * 180, 40 * 100)]
        self.assertEqual(sorted(round(size_of(p.path)) for p in nested.pieces), sorted(round(a) for a in wholes))
        bands = [wholes[0] - wholes[1], wholes[1] - wholes[2], wholes[2]]
        for own, band in zip(sorted(size_of(p.path) for p in alone.pieces), sorted(bands), strict=True):
            self.assertAlmostEqual(own, band, delta=1.0)
        with self.assertRaisesRegex(CannotDo, "2 to 12"):
            find(picture, "shades", TraceOptions(shades=13))

    def test_outside_goes_by_transparency_at_a_distance_and_keeps_the_picture(self):
        picture = view((slice(50, 150), slice(100, 200), RED), (slice(80, 120), slice(130, 170), WHITE), clear=True)
        found = find(picture, "outside", TraceOptions(distance_mm=1.0))
        self.assertTrue(found.with_picture)
        left, _top, right, _bottom = bounds(found.pieces[0].path)
        self.assertAlmostEqual(right - left, 12.0, delta=0.05)
        self.assertEqual(len(found.pieces[0].path), 1)
        near = view((slice(50, 90), slice(50, 90), RED), (slice(50, 90), slice(100, 140), RED), clear=True)
        self.assertEqual(len(find(near, "outside", TraceOptions()).pieces), 2)
        self.assertEqual(len(find(near, "outside", TraceOptions(distance_mm=1.0)).pieces), 1)

    def test_fat_areas_keep_their_outline(self):
        picture = view((slice(98, 104), slice(20, 180), BLACK), (slice(60, 140), slice(180, 260), BLACK))
        found = find(picture, "centre", TraceOptions(widest_mm=2.0))
        self.assertEqual([layer.key for layer in found.layers], ["areas", "lines"])
        lines = [p for p in found.pieces if p.layer == "lines"]
        self.assertEqual((len(lines), lines[0].path.closed.any()), (1, False))


class BadPictures(unittest.TestCase):
    def test_each_is_answered_in_a_sentence(self):
        even = view(size=(60, 60))
        for mode, _, _ in MODES:
            with self.subTest(mode), self.assertRaises(CannotDo) as caught:
                find(even, mode, TraceOptions())
            self.assertTrue(str(caught.exception).endswith("."))
        noise = np.random.default_rng(1).integers(0, 256, (1000, 1000, 4)).astype(np.uint8)
        noise[..., 3] = 255
        for mode in ("dark", "centre", "outside", "shades"):
            with self.subTest(mode), self.assertRaisesRegex(CannotDo, "that is noise.*Raise the smallest bit"):
                find(View(noise, MATRIX), mode, TraceOptions(smallest_mm2=0.01))

    def test_texture_is_refused_and_lines_as_close_are_traced(self):
        random = np.random.default_rng(2)
        for blur in (0.0, 0.7, 1.5):
            texture = ndimage.gaussian_filter(random.random((900, 900)), blur)
            texture = np.clip((texture - 0.5) / texture.std() * 0.15 + 0.5, 0, 1).astype(np.float32)
            for mark in (0.4, 0.5):
                with self.subTest(blur=blur, mark=mark), self.assertRaisesRegex(CannotDo, "noise or a texture.*Calm"):
                    thresholding.trace(texture, MATRIX, mark, 0.02, 0.3)
        y, x = np.mgrid[:900, :900]
        hatch = 0.5 + 0.4 * np.sin(2 * np.pi * (x + 0.3 * y) / 6) + random.normal(0, 0.02, (900, 900))
        regions = thresholding.trace(hatch.clip(0, 1).astype(np.float32), MATRIX, 0.5, 0.02, 0.3).regions
        self.assertGreater(len(regions), 150)

    def test_what_lies_in_a_closed_hole_has_no_line_of_its_own(self):
        ring = view(FRAME, (slice(60, 140), slice(60, 240), WHITE), (slice(90, 110), slice(120, 180), RED))
        self.assertEqual(len(find(ring, "outside", TraceOptions()).pieces), 1)
        self.assertEqual(len(find(ring, "outside", TraceOptions(holes=True)).pieces), 2)

    def test_thin_pictures_and_half_clear_ones_do_not_fail(self):
        for size in ((1, 80), (80, 1), (2, 2), (3, 90)):
            picture = view((slice(0, 1), slice(0, 1), BLACK), size=size)
            for mode, _, _ in MODES:
                with self.subTest(mode, size=size):
                    try:
                        find(picture, mode, TraceOptions(smallest_mm2=0.0))
                    except CannotDo as error:
                        self.assertTrue(str(error))
        half = KETTLE.rgba.copy()
        half[..., 3] = 128
        self.assertTrue(find(View(half, MATRIX), "colour", TraceOptions()).pieces)


class Reference(unittest.TestCase):
    def picture(self, angle: float) -> View:
        import io

        import resvg_py
        from PIL import Image

        svg = (
            '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400" viewBox="0 0 600 400"><rect width="600" '
            f'height="400" fill="#fff"/><g transform="rotate({angle} 300 200)"><rect x="80" y="80" width="240" '
            'height="240"/><rect x="400" y="100" width="100" height="200"/></g></svg>'
        )
        image = Image.open(io.BytesIO(bytes(resvg_py.svg_to_bytes(svg_string=svg, zoom=4)))).convert("RGBA")
        return View(np.ascontiguousarray(image.resize((600, 400), Image.Resampling.BOX)), MATRIX)

    def test_gives_scale_and_tilt_and_is_dropped(self):
        for angle in (-7.0, 0.0, 3.5):
            with self.subTest(angle):
                made = scaled_by(self.picture(angle), parse_reference("square:60mm"))
                self.assertAlmostEqual(made.view.pixel_mm, 0.25, delta=0.25 * 2e-4)
                self.assertAlmostEqual(float(np.degrees(made.turned)), angle, delta=0.01)
                found = place_result(
                    self.picture(angle),
                    lambda v, asked: find(v, "dark", asked),
                    TraceOptions(),
                    Placing(reference="square:60mm"),
                )
                self.assertEqual(len(found.pieces), 1)
                left, top, right, bottom = bounds(found.pieces[0].path)
                self.assertAlmostEqual(right - left, 25.0, delta=0.02)
                self.assertAlmostEqual(bottom - top, 50.0, delta=0.02)

    def test_of_a_blurred_and_grainy_square_is_as_exact(self):
        """Eight pictures, each with a tilt and grain of its own: no side is told by a few points of it."""
        tilt, size = [], []
        for seed in range(8):
            random = np.random.default_rng(seed)
            angle = random.uniform(-8, 8)
            grey = self.picture(angle).rgba[..., 0] * (0.8 / 255) + 0.1
            grey = ndimage.gaussian_filter(grey, 0.6) + random.normal(0, 4 / 255, grey.shape)
            eight = (grey.clip(0, 1) * 255).round().astype(np.uint8)
            rgba = np.dstack([eight, eight, eight, np.full_like(eight, 255)])
            made = scaled_by(View(np.ascontiguousarray(rgba), MATRIX), parse_reference("square:60mm"))
            tilt.append(abs(float(np.degrees(made.turned)) - angle))
            size.append(abs(made.view.pixel_mm / 0.25 - 1))
        self.assertLess(np.mean(tilt), 0.003)
        self.assertLess(np.mean(size), 1e-4)

    def test_that_is_not_there_is_said(self):
        with self.assertRaisesRegex(CannotDo, "no square to be found"):
            scaled_by(view((slice(0, 90), slice(50, 140), BLACK)), parse_reference("square:60mm"))
        with self.assertRaisesRegex(CannotDo, "no circle to be found"):
            scaled_by(KETTLE, parse_reference("circle:50mm"))
        for text in ("square", "triangle:3mm", "rectangle:5mm"):
            with self.subTest(text), self.assertRaises(BadRequest):
                parse_reference(text)

    def test_is_read_with_its_units(self):
        self.assertEqual(parse_reference("rectangle:60x40mm").width_mm, 60.0)
        self.assertAlmostEqual(parse_reference("circle:2in").width_mm, 50.8)

    def test_mirrored_and_within(self):
        def dark(v, asked):
            return find(v, "dark", asked)

        plain, turned = (place_result(KETTLE, dark, TraceOptions(), Placing(mirrored=m)) for m in (False, True))
        self.assertEqual(bounds(plain.pieces[0].path), bounds(turned.pieces[0].path))
        self.assertAlmostEqual(size_of(plain.pieces[0].path), size_of(turned.pieces[0].path), 6)
        half = Path.from_points(np.array([[0, 0], [15, 0], [15, 20], [0, 20]], float), True)
        inside = place_result(KETTLE, dark, TraceOptions(), Placing(within=(half,)))
        self.assertAlmostEqual(bounds(inside.pieces[0].path)[2], 15.0, 6)
        # Where it lies beside, it is laid onto the middle.
        away = Path.from_points(np.array([[90, 90], [95, 90], [95, 95], [90, 95]], float), True)
        laid = place_result(KETTLE, dark, TraceOptions(), Placing(within=(away,)))
        left, top, right, bottom = bounds(Path.concatenate(piece.path for piece in laid.pieces))
        self.assertTrue(left >= 90 and top >= 90 and right <= 95 and bottom <= 95)
        self.assertIn("laid onto the middle", " ".join(laid.notes))
        hollow = Path.from_points(np.array([[21, 7], [23, 7], [23, 13], [21, 13]], float), True)
        with self.assertRaisesRegex(CannotDo, "Nothing of what was found"):
            place_result(
                KETTLE,
                lambda v, asked: find(v, "dark", TraceOptions(threshold=0.9)),
                TraceOptions(),
                Placing(within=(hollow,)),
            )
