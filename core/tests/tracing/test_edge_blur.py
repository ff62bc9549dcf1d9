"""How soft steps are: known blurs found again, and colour of less resolution told from blur."""

import io
import unittest

import numpy as np
from PIL import Image
from scipy import ndimage

from hakobu.geometry import flatten
from hakobu.tracing.colour.labels import labelled
from hakobu.tracing.colour.palette import find_palette
from hakobu.tracing.colour.planar_map import areas_of
from hakobu.tracing.outlines.edge_blur import Softness, softness

from ..pictures import SAMPLES

SIDE = 240
COLOURS = np.array([[28, 52, 120], [214, 60, 44], [250, 214, 90], [40, 150, 96]], float)
PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
#: A disc and two straight borders: the middle and radius, and a point and the direction across of each.
DISC = (120.3, 118.6, 61.4)
BORDERS = ((120.3, 118.6, 0.96, 0.28), (120.3, 118.6, -0.34, 0.94))


def scene() -> np.ndarray:
    """(H, W, 3), from 0 to 255: four quarters, and a disc that swaps them."""
    at = (np.arange(SIDE * SAMPLES) + 0.5) / SAMPLES
    x, y = np.meshgrid(at, at)
    sides = [(x - px) * ux + (y - py) * uy > 0 for px, py, ux, uy in BORDERS]
    inside = np.hypot(x - DISC[0], y - DISC[1]) < DISC[2]
    which = (sides[0] * 2 + sides[1] * 1) ^ (3 * inside)
    return COLOURS[which].reshape(SIDE, SAMPLES, SIDE, SAMPLES, 3).mean(axis=(1, 3))


def eight(picture: np.ndarray) -> np.ndarray:
    return np.ascontiguousarray(picture.round().clip(0, 255).astype(np.uint8))


def through_jpeg(picture: np.ndarray, quality: int, subsampling: int) -> np.ndarray:
    out = io.BytesIO()
    Image.fromarray(eight(picture)).save(out, "JPEG", quality=quality, subsampling=subsampling)
    return np.ascontiguousarray(Image.open(out))


def seen(rgb: np.ndarray):
    palette = find_palette(rgb)
    return labelled(rgb, np.ascontiguousarray(palette.rgb * 255.0), palette.noise, 12.0), palette.noise


def off_borders(points: np.ndarray) -> np.ndarray:
    """How far points lie from the nearest of the scene's borders."""
    x, y = points.T
    off = [abs((x - px) * ux + (y - py) * uy) / np.hypot(ux, uy) for px, py, ux, uy in BORDERS]
    return np.min([*off, abs(np.hypot(x - DISC[0], y - DISC[1]) - DISC[2])], axis=0)


class Steps(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.plain = scene()

    def test_known_blurs_are_found_again(self):
        for blur in (0.7, 1.0, 1.2, 1.6, 2.0):
            spoilt = ndimage.gaussian_filter(self.plain, (blur, blur, 0), mode="nearest")
            found = seen(eight(spoilt))[0].softness
            self.assertAlmostEqual(found.blur, blur, delta=0.12 * blur)
            self.assertFalse(found.gentle_colour, blur)

    def test_colour_of_half_the_resolution_is_told(self):
        # ISO/IEC 10918-1: components may be sampled at half the resolution; Pillow's 2 is 4:2:0 and its 0 is 4:4:4.
        for quality in (30, 60, 90):
            self.assertTrue(seen(through_jpeg(self.plain, quality, 2))[0].softness.gentle_colour, quality)
        self.assertFalse(seen(through_jpeg(self.plain, 90, 0))[0].softness.gentle_colour)
        self.assertFalse(seen(eight(self.plain))[0].softness.gentle_colour)

    def test_a_picture_with_no_step_says_nothing(self):
        labels, picture = np.zeros((40, 40), np.uint8), np.zeros((40, 40, 3), np.uint8)
        self.assertEqual(softness(picture, labels, np.zeros((1, 3))), Softness())
        self.assertEqual(softness(picture[:, :5], labels[:, :5].copy(), np.zeros((1, 3))), Softness())


class BordersThroughJpeg(unittest.TestCase):
    def test_lie_where_they_were_drawn(self):
        plain = scene()
        for quality, mean in ((30, 0.1), (75, 0.1), (95, 0.07)):
            found, noise = seen(through_jpeg(plain, quality, 2))
            areas = areas_of(found, noise, PIXELS, 0.2).areas
            self.assertEqual(len(areas), 8)
            points = np.concatenate([flatten(area.path, 0.001, 0.25).points for area in areas])
            inner = ((points > 1) & (points < SIDE - 1)).all(axis=1)
            off = off_borders(points[inner])
            self.assertLess(off.mean(), mean, quality)


class FringesThroughJpeg(unittest.TestCase):
    def test_that_hang_on_an_area_of_their_colour_go_and_its_points_stay(self):
        """A disc on a ground as light as it: half of both is about the colour of a wedge that reaches the disc."""
        at = (np.arange(SIDE * SAMPLES) + 0.5) / SAMPLES
        x, y = np.meshgrid(at, at)
        colours = np.array([[44, 140, 96], [19, 139, 232], [8, 153, 162], [4, 25, 31]], float)
        inside = np.hypot(x - 90, y - 120) < 62
        wedge = (np.abs(y - 120) < (x - 90) * 0.35) & ~inside
        bar = (x > 20) & (x < 220) & (y > 10) & (y < 40)
        which = np.where(inside, 1, np.where(wedge, 2, np.where(bar, 3, 0)))
        picture = colours[which].reshape(SIDE, SAMPLES, SIDE, SAMPLES, 3).mean(axis=(1, 3))
        middle = which[SAMPLES // 2 :: SAMPLES, SAMPLES // 2 :: SAMPLES] == 2
        for quality in (30, 50):
            found, _ = seen(through_jpeg(picture, quality, 2))
            third = found.labels == found.labels[120, 220]
            self.assertLess(np.count_nonzero(third & ~middle), 150)
            self.assertGreater(np.count_nonzero(third & middle), 0.98 * np.count_nonzero(middle))


class LinesThroughJpeg(unittest.TestCase):
    def test_thin_lines_of_a_colour_stay(self):
        picture = np.empty((160, 160, 3))
        picture[:] = (244, 236, 216)
        # A field of the lines' colour, for it to be known; and lines of three pixels at a slant.
        picture[10:50, 10:50] = (176, 42, 42)
        rows = np.arange(20, 140)
        columns = np.round(70 + (rows - 20) / 8).astype(int)
        for k in range(3):
            picture[rows, columns + k] = picture[rows, columns + 30 + k] = (176, 42, 42)
        for quality, most in ((30, 0.7), (75, 0.9)):
            found, _ = seen(through_jpeg(picture, quality, 2))
            line = found.labels[30, 30]
            for shift in (1, 31):
                self.assertGreater((found.labels[rows[3:-3], columns[3:-3] + shift] == line).mean(), most, quality)


class Spikes(unittest.TestCase):
    def test_points_that_stick_out_or_go_back_are_left_out_and_corners_stay(self):
        from hakobu.tracing.corners.kernels.chain_ends import without_spikes

        steps = np.arange(12.0)
        corner = np.vstack([np.column_stack([steps, 0 * steps]), np.column_stack([0 * steps + 11, steps + 1])])
        np.testing.assert_array_equal(without_spikes(corner), corner)
        spoilt = np.insert(corner, 6, (5.4, 2.6), axis=0)
        spoilt = np.insert(spoilt, 18, (10.9, 3.0), axis=0)
        kept = without_spikes(spoilt)
        self.assertNotIn((5.4, 2.6), [tuple(p) for p in kept])
        self.assertTrue((np.diff(kept[-10:, 1]) > 0).all())

    def test_ends_that_were_moved_aside_are_left_out(self):
        from hakobu.tracing.corners.kernels.chain_ends import without_stray_ends

        line = np.column_stack([np.arange(1.0, 30), np.full(29, 0.02)])
        moved = line.copy()
        moved[1], moved[27] = (2.0, 1.4), (28.5, -1.2)
        kept = without_stray_ends(moved, 0.0, 0.0, 30.0, 0.0, 5.0, 0.1)
        np.testing.assert_array_equal(kept, np.delete(line, [1, 27], axis=0))
        np.testing.assert_array_equal(without_stray_ends(line, 0.0, 0.0, 30.0, 0.0, 5.0, 0.1), line)

    def test_a_speck_that_is_all_spikes_stays_a_ring(self):
        from hakobu.tracing.corners.kernels.chain_ends import with_nodes, without_spikes

        ring = np.array([[0.0, 0.0], [0.1, 2.0], [1.5, 1.0], [0.2, -0.4]])
        self.assertLess(len(without_spikes(ring)), 3)
        points, start, _ = with_nodes(
            np.zeros((1, 1), np.float32), ring, np.array([0, 4]), np.array([[0, 1]]), np.array([[-1, -1]]),
            np.zeros((0, 2)), np.array([0.4]), np.array([0.05]),
        )  # fmt: skip
        np.testing.assert_array_equal(start, [0, 4])
        np.testing.assert_array_equal(points, ring)
