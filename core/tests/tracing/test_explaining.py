"""Borders of compressed pictures moved to where they explain them: what is drawn, what moves what, and what is won."""

import unittest
from contextlib import nullcontext
from dataclasses import replace
from unittest import mock

import numpy as np
from scipy import ndimage

from hakobu.geometry import LINE, Path, PathBuilder, area, flatten, transform, translation
from hakobu.model.errors import CannotDo
from hakobu.tracing import View, by_dark, find
from hakobu.tracing.asking import Asked
from hakobu.tracing.handles import chords_of, handles_of, moved
from hakobu.tracing.kernels.drawing import draw
from hakobu.tracing.planar import areas_of

from ..pictures import distances, rendered, truth
from .test_dark import BODIES
from .test_softness import PIXELS, SIDE, eight, off_borders, scene, seen, through_jpeg

ALONE = np.array([[-1, -1]])


def rounded_wedge(handle: tuple[float, float] = (38.0, 12.0)) -> Path:
    """A line, a smooth run of two curves, and an arc back."""
    build = PathBuilder()
    build.move_to((6.2, 5.1))
    build.line_to((30.4, 8.3))
    build.cubic_to(handle, (40.1, 20.0), (36.3, 27.7))
    build.cubic_to((32.5, 35.4), (24.0, 38.0), (16.2, 34.9))
    build.bulge_to(0.35, (6.2, 5.1))
    build.close()
    return build.path()


def disc(x: float, y: float, radius: float) -> Path:
    build = PathBuilder()
    build.circle(x, y, radius)
    return build.path()


def drawn(path: Path, side: int) -> np.ndarray:
    """What a path covers of each pixel; with its sign, as it runs round."""
    lines = flatten(path, 0.00005, 0.5)
    picture = np.zeros((side, side + 1, 1), np.float32)
    draw(np.ascontiguousarray(lines.points), lines.start, np.ones((len(path), 1)), picture)
    return picture[:, :-1, 0]


class Drawing(unittest.TestCase):
    def test_covers_what_lies_within(self):
        for path in (disc(20.3, 18.7, 11.2), rounded_wedge()):
            self.assertAlmostEqual(abs(float(drawn(path, 44).sum(dtype=float))), abs(area(path)), delta=0.01)

    def test_a_pixel_is_as_dark_as_it_is_covered(self):
        x, y, radius, samples = 20.3, 18.7, 11.2, 64
        at = (np.arange(40 * samples) + 0.5) / samples
        within = np.hypot(at[None, :] - x, at[:, None] - y) < radius
        expected = within.reshape(40, samples, 40, samples).mean(axis=(1, 3))
        np.testing.assert_allclose(np.abs(drawn(disc(x, y, radius), 40)), expected, atol=0.01)

    def test_what_lies_beyond_the_picture_still_counts_right_of_it(self):
        picture = np.abs(drawn(disc(0.0, 10.0, 6.5), 20))
        self.assertAlmostEqual(float(picture.sum(dtype=float)), np.pi * 6.5**2 / 2, delta=0.01)
        picture = np.abs(drawn(disc(20.0, 10.0, 6.5), 20))
        self.assertAlmostEqual(float(picture.sum(dtype=float)), np.pi * 6.5**2 / 2, delta=0.01)


class Handles(unittest.TestCase):
    def test_each_changes_the_picture_as_its_chords_say(self):
        path, little = rounded_wedge(), 1e-3
        handles = handles_of(path, ALONE)
        chords, _, _ = chords_of(path, handles)
        for mover in range(handles.size):
            move = np.zeros(handles.size)
            move[mover] = little
            there, back = (drawn(moved(path, handles, way * move, np.eye(2)), 48).sum(dtype=float) for way in (1, -1))
            told = (chords.by * chords.long[:, None])[chords.mover == mover].sum()
            self.assertAlmostEqual((there - back) / (2 * little), told, delta=0.2, msg=str(mover))

    def test_what_was_smooth_stays_smooth_and_what_met_meets(self):
        path = rounded_wedge((37.66, 9.26))
        handles = handles_of(path, ALONE)
        move = np.random.default_rng(4).normal(0, 0.3, handles.size)
        ctrl = moved(path, handles, move, np.eye(2)).ctrl
        for k in (0, 1):
            before, after = ctrl[k, 3] - ctrl[k, 2], ctrl[k + 1, 1] - ctrl[k + 1, 0]
            sine = (before[0] * after[1] - before[1] * after[0]) / np.hypot(*before) / np.hypot(*after)
            self.assertAlmostEqual(sine, 0.0, places=3)
        np.testing.assert_array_equal(ctrl[:, 3], np.roll(ctrl[:, 0], -1, axis=0))


def off_by(areas, matrix=PIXELS) -> float:
    """How far borders lie from those that were drawn, in pixels, on average."""
    pixel, back = np.hypot(*matrix[:2]), np.linalg.inv(np.array(matrix[:4]).reshape(2, 2))
    found = np.concatenate([flatten(one.path, 0.001 * pixel, 0.25 * pixel).points for one in areas])
    points = (found - matrix[4:]) @ back
    return off_borders(points[((points > 1) & (points < SIDE - 1)).all(axis=1)]).mean()


def traced(found, noise: float, matrix=PIXELS):
    return areas_of(found, noise, matrix, 0.2 * np.hypot(*matrix[:2])).areas


class ThroughJpeg(unittest.TestCase):
    def test_borders_come_nearer_to_where_they_were_drawn(self):
        for quality, matrix in ((30, PIXELS), (60, PIXELS), (80, PIXELS), (30, (0.06, 0.08, -0.08, 0.06, 3.0, -2.0))):
            found, noise = seen(through_jpeg(scene(), quality, 2))
            self.assertIsNotNone(found.kept)
            before, after = (off_by(traced(own, noise, matrix), matrix) for own in (replace(found, kept=None), found))
            self.assertLess(after, 0.85 * before, (quality, matrix))

    def test_dust_and_uneven_light_do_not_draw_them_away(self):
        random = np.random.default_rng(8)
        dusty, shaded = scene(), scene() * (1 - 0.1 * np.linspace(0, 1, SIDE)[None, :, None])
        for x, y in random.integers(2, SIDE - 5, (50, 2)):
            dusty[y : y + 3, x : x + 2] = 20
        for spoilt in (dusty, shaded):
            found, noise = seen(through_jpeg(spoilt, 50, 2))
            self.assertIsNotNone(found.kept)
            before, after = (off_by(traced(own, noise)) for own in (replace(found, kept=None), found))
            self.assertLess(after, before)

    def test_what_is_not_compressed_or_has_oblong_pixels_stays(self):
        self.assertIsNone(seen(eight(scene()))[0].kept)
        found, noise = seen(through_jpeg(scene(), 30, 2))
        oblong = (0.1, 0.0, 0.0, 0.12, 0.0, 0.0)
        for one, two in zip(
            traced(found, noise, oblong), traced(replace(found, kept=None), noise, oblong), strict=True
        ):
            np.testing.assert_array_equal(one.path.ctrl, two.path.ctrl)

    def test_areas_still_fill_the_picture(self):
        found, noise = seen(through_jpeg(scene(), 30, 2))
        areas = traced(found, noise)
        self.assertAlmostEqual(sum(abs(area(one.path)) for one in areas), SIDE**2, delta=1e-6 * SIDE**2)


#: A scanner's ink and paper, and as coloured ones.
GREYS = np.array([[26.0] * 3, [235.0] * 3])
TINTED = np.array([[30.0, 60.0, 150.0], [250.0, 238.0, 205.0]])


def scan(body: str, colours: np.ndarray = GREYS, quality: int = 30, blur: float = 0.5) -> np.ndarray:
    """A picture (400, 400, 4) of a drawing in two colours, blurred, with noise, through JPEG."""
    share = ndimage.gaussian_filter(rendered(body), blur)[..., None]
    noise = np.random.default_rng(6).normal(0, 4, share.shape)
    rgb = through_jpeg(colours[0] + (colours[1] - colours[0]) * share + noise, quality, 2)
    return np.ascontiguousarray(np.dstack([rgb, np.full(rgb.shape[:2], 255, np.uint8)]))


def dark_and_plain(view: View, threshold: float | None = None) -> tuple[Path, Path]:
    """Outlines as they are found, and as they would be if nobody looked for what compression kept."""
    made = []
    for look in (True, False):
        with nullcontext() if look else mock.patch.object(by_dark, "compressed", lambda _: None):
            found = find(replace(view, at_hand={}), "dark", Asked(threshold, 0.2, 12.0))
        made.append(Path.concatenate(piece.path for piece in found.pieces))
    return made[0], made[1]


class InkThroughJpeg(unittest.TestCase):
    def test_lines_lie_at_half_the_distance_from_those_that_were_drawn(self):
        for colours in (GREYS, TINTED):
            off = np.zeros(2)
            for body in ("star", "letter", "leaf", "tilted square"):
                both = dark_and_plain(View(scan(BODIES[body], colours), PIXELS))
                off += [distances(truth(BODIES[body]), own).mean() for own in both]
            self.assertLess(off[0], 0.55 * off[1])

    def test_circles_stay_circles_and_straight_sides_straight(self):
        circle, plain = dark_and_plain(View(scan(BODIES["circle"]), PIXELS))
        self.assertTrue(circle.is_circle.all() and plain.is_circle.all())
        self.assertFalse(np.array_equal(circle.ctrl, plain.ctrl))
        self.assertTrue((dark_and_plain(View(scan(BODIES["star"]), PIXELS))[0].kind == LINE).all())

    def test_a_part_of_a_picture_is_explained_by_the_blocks_of_the_whole(self):
        whole = scan(BODIES["letter"])
        part = np.ascontiguousarray(whole[13:, 21:])
        within = transform(truth(BODIES["letter"]), translation(-21, -13))
        known = [distances(within, own).mean() for own in dark_and_plain(View(part, PIXELS, (21, 13)))]
        self.assertLess(known[0], 0.67 * known[1])
        one, other = dark_and_plain(View(part, PIXELS, (22, 13)))
        np.testing.assert_array_equal(one.ctrl, other.ctrl)

    def test_what_is_clear_or_large_or_told_by_a_colour_is_left(self):
        rgba = scan(BODIES["leaf"])
        self.assertIsNotNone(by_dark.compressed(View(rgba, PIXELS)))
        clear = rgba.copy()
        clear[0, 0, 3] = 0
        self.assertIsNone(by_dark.compressed(View(clear, PIXELS)))
        with mock.patch.object(by_dark, "MOST_PX", 100):
            self.assertIsNone(by_dark.compressed(View(rgba, PIXELS)))

    def test_a_little_ink_in_a_large_picture_is_explained_too(self):
        """Between the pixels that are looked at."""
        body = '<rect x="100.3" y="100.4" width="5.1" height="5.2" transform="rotate(20 103 103)"/>'
        view = View(scan(body, quality=80), PIXELS)
        one, plain = dark_and_plain(view, 0.5)
        self.assertEqual(len(one), 1)
        self.assertFalse(np.array_equal(one.ctrl, plain.ctrl))
        self.assertLess(distances(truth(body), one).mean(), 0.2)
        # A mark amidst the paper's grain finds hundreds of bits, which nothing is to be drawn from; in the middle of it
        # all edges are rough.
        many, grain = dark_and_plain(view, 0.91)
        self.assertGreater(len(many), 300)
        np.testing.assert_array_equal(many.ctrl, grain.ctrl)
        with self.assertRaisesRegex(CannotDo, "noise or a texture"):
            dark_and_plain(view, 0.92)

    def test_what_is_no_drawing_of_two_colours_stays(self):
        """Waves of grey, whose threshold is no border of anything."""
        y, x = np.mgrid[:400, :400]
        grey = 128 + 60 * np.sin(x / 9.0) * np.sin(y / 11.0) + 50 * np.sin((x + 2 * y) / 70.0)
        rgb = through_jpeg(np.dstack([grey] * 3), 50, 2)
        rgba = np.ascontiguousarray(np.dstack([rgb, np.full(rgb.shape[:2], 255, np.uint8)]))
        self.assertIsNotNone(by_dark.compressed(View(rgba, PIXELS)))
        one, other = dark_and_plain(View(rgba, PIXELS))
        np.testing.assert_array_equal(one.ctrl, other.ctrl)


if __name__ == "__main__":
    unittest.main()
