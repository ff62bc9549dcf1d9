"""The middle of drawn lines, against the axes that they were drawn along."""

import io
import unittest

import numpy as np
from PIL import Image
from scipy import ndimage
from scipy.spatial import KDTree

from hakobu.errors import CannotDo
from hakobu.formats import ReadOptions
from hakobu.formats.svg import FORMAT as SVG
from hakobu.geometry import Path, flatten, length
from hakobu.tracing.corners.kernels.line_ends import end_by_profile
from hakobu.tracing.skeleton import thinning
from hakobu.tracing.skeleton.centre_lines import Middles, trace

from ..pictures import rendered

PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def stroke(d: str, width: float, cap: str = "butt") -> str:
    return f'<path fill="none" stroke="#000" stroke-width="{width}" stroke-linecap="{cap}" d="{d}"/>'


def middles(body: str, noise: float = 0.0) -> Path:
    grey = rendered(body, 200)
    grey = grey + np.random.default_rng(1).normal(0, noise, grey.shape).astype(np.float32)
    made = trace(np.ascontiguousarray(grey, np.float32), PIXELS, 0.5, 0.15, 12.0)
    return Path.concatenate(drawing.path for drawing in made.drawings)


def scanned(grey: np.ndarray, seed: int) -> np.ndarray:
    """Blurred, with noise, and through JPEG of quality 30."""
    noise = np.random.default_rng(seed).normal(0, 4 / 255, grey.shape)
    spoilt = 0.1 + 0.82 * ndimage.gaussian_filter(grey, 0.5) + noise
    stream = io.BytesIO()
    Image.fromarray(np.clip(spoilt * 255 + 0.5, 0, 255).astype(np.uint8)).save(stream, "JPEG", quality=30)
    return np.ascontiguousarray(np.asarray(Image.open(stream)), np.float32) / 255


def noisy(grey: np.ndarray, seed: int) -> np.ndarray:
    return np.ascontiguousarray(grey + np.random.default_rng(seed).normal(0, 0.03, grey.shape), np.float32)


def axis(d: str) -> np.ndarray:
    """Points every quarter of a pixel or so along a path of SVG."""
    drawing = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">'
        f'<path fill="none" stroke="#000" d="{d}"/></svg>'
    )
    document = SVG.read(drawing.encode(), ReadOptions())
    return flatten(Path.concatenate(piece.path for piece in document.document.pieces), 0.001, 0.25).points


def brushed(points: np.ndarray, width: np.ndarray) -> str:
    """A stroke along points (N, 2) as wide as is said at each (N,)."""
    along = np.gradient(points, axis=0)
    side = np.column_stack([-along[:, 1], along[:, 0]]) / np.hypot(*along.T)[:, None] * width[:, None] / 2
    outline = np.vstack([points + side, (points - side)[::-1]])
    return '<path d="M' + "L".join(f"{x:.3f} {y:.3f}" for x, y in outline) + 'Z"/>'


def clean_middles(grey: np.ndarray) -> Middles:
    return trace(np.ascontiguousarray(grey, np.float32), PIXELS, 0.5, 0.1, 12.0)


def farthest(known: np.ndarray, made: Middles) -> float:
    """How far points of an axis and what was traced lie apart at most, both ways."""
    traced = flatten(Path.concatenate(drawing.path for drawing in made.drawings), 0.001, 0.25).points
    return float(max(KDTree(known).query(traced)[0].max(), KDTree(traced).query(known)[0].max()))


def noisy_middles(body: str, seed: int) -> Path:
    made = trace(scanned(rendered(body, 200), seed), PIXELS, 0.5, 0.2, 12.0)
    return Path.concatenate(drawing.path for drawing in made.drawings)


def off(path: Path, *places: tuple[float, float]) -> float:
    nodes = np.vstack([path.ctrl[:, 0], path.ctrl[:, 3]])
    return max(float(np.hypot(*(nodes - place).T).min()) for place in places)


class OfLines(unittest.TestCase):
    def test_a_line_is_one_line_from_end_to_end(self):
        for width in (3, 5, 8, 15):
            for cap in ("butt", "round"):
                with self.subTest(width=width, cap=cap):
                    path = middles(stroke("M30 40L170 120", width, cap))
                    self.assertEqual((len(path), path.segment_count), (1, 1))
                    self.assertLess(off(path, (30, 40), (170, 120)), 0.35)

    def test_lines_meet_in_one_place(self):
        for name, d, meet, outlines in (
            ("T", "M20 50L180 70M95 59.375L80 180", (95, 59.375), 2),
            ("X", "M20 30L180 170M30 170L170 40", (102.787, 102.439), 2),
            ("Y", "M100 100L100 20M100 100L170 170M100 100L30 160", (100, 100), 3),
        ):
            for width in (5, 8, 11):
                with self.subTest(name, width=width):
                    path = middles(stroke(d, width))
                    self.assertEqual(len(path), outlines)
                    self.assertLess(off(path, meet), 0.2)

    def test_an_end_is_where_the_ink_ends_though_the_line_swells_before_it(self):
        """By a sixth for nine pixels, as much ink as a line would have that goes on for one more."""
        body = stroke("M40 100.3H160", 5.0) + stroke("M143 100.3H152", 6.0)
        self.assertLess(off(middles(body), (40, 100.3), (160, 100.3)), 0.15)

    def test_thin_lines_end_bend_and_meet_where_they_do_though_scanned(self):
        """Compression leaves waves along lines of three pixels: a long straight way to a place tells where it is."""
        drawn = {
            "M20 50L180 70M95 59.375L80 180": ((20, 50), (180, 70), (80, 180), (95, 59.375)),
            "M30 30L120 40L140 160": ((30, 30), (120, 40), (140, 160)),
        }
        found = [
            [off(noisy_middles(stroke(d, 3), seed), place) for place in places]
            for d, places in drawn.items()
            for seed in range(1, 7)
        ]
        each = np.concatenate(found)
        self.assertLess(each.max(), 0.35)
        self.assertLess(each.mean(), 0.08)

    def test_the_fit_of_an_end_settles_on_it_from_half_a_pixel_off(self):
        """On average over many noises to a hundredth of a pixel, whichever way the line runs."""
        for way in (0.0, 0.5, 1.1):
            u = np.array([np.cos(way), np.sin(way)])
            x, y = np.array([60.0, 60.0]) + 60 * u
            clean = ndimage.gaussian_filter(rendered(stroke(f"M60 60L{x} {y}", 5), 200), 0.5)
            for start in (59.5, 60.5):
                with self.subTest(way=way, start=start):
                    found = [
                        end_by_profile(noisy(clean, seed), 60.0, 60.0, *u, 5.0, start, 0.5, 0.0, 1.0) - 60
                        for seed in range(30)
                    ]
                    self.assertLess(abs(np.mean(found)), 0.02)
                    self.assertLess(np.abs(found).max(), 0.15)

    def test_a_line_that_ends_in_a_blot_goes_to_its_far_side(self):
        """However much ink there is beside it."""
        for radius in (3, 6, 9):
            body = stroke("M40 100.3H150", 4.0) + f'<circle cx="150" cy="100.3" r="{radius}"/>'
            self.assertLess(off(middles(body), (40, 100.3), (150 + radius, 100.3)), 0.1)

    def test_lines_as_wide_as_they_bend_tightly_keep_their_middle_to_their_ends(self):
        """Arcs of a radius from 1.2 times the line's width on, round a hairpin and through an S, clean and scanned."""
        for width in (8, 12, 16):
            for times in (1.2, 1.7, 2.5):
                r = width * times
                for name, d in (
                    ("hairpin", f"M{100 - r} 180V{20 + r}A{r} {r} 0 0 1 {100 + r} {20 + r}V180"),
                    ("S", f"M20.3 100.2A{r} {r} 0 0 1 {20.3 + 2 * r} 100.2A{r} {r} 0 0 0 {20.3 + 4 * r} 100.2"),
                ):
                    with self.subTest(name, width=width, radius=r):
                        known, grey = axis(d), rendered(stroke(d, width), 200)
                        self.assertLess(farthest(known, clean_middles(grey)), 0.75)
                        seen = trace(scanned(grey, width), PIXELS, 0.5, 0.2, 12.0)
                        self.assertLess(farthest(known, seen), 1.2)

    def test_lines_of_a_brush_keep_their_middle_to_their_ends(self):
        """Strokes that taper, swell once or twice, by up to half a pixel of width for each pixel along."""
        t = np.linspace(0, 1, 800)
        ways = {
            "straight": np.column_stack([30 + 140 * t, 40 + 90 * t]),
            "wave": np.column_stack([30 + 140 * t, 100 + 36 * np.sin(2 * np.pi * t)]),
            "arc": 100 + 60 * np.column_stack([np.cos(3.6 * t + 0.3), np.sin(3.6 * t + 0.3)]),
        }
        pens = {"tapers": t, "swells once": np.sin(np.pi * t), "swells twice": 0.5 - 0.5 * np.cos(4 * np.pi * t)}
        for way, points in ways.items():
            for pen, share in pens.items():
                for least, most in ((3, 8), (4, 16)):
                    with self.subTest(way, pen=pen, least=least, most=most):
                        grey = rendered(brushed(points, least + (most - least) * share), 200)
                        self.assertLess(farthest(points, clean_middles(grey)), 1.1)
                        seen = trace(scanned(grey, 3), PIXELS, 0.5, 0.2, 12.0)
                        self.assertLess(farthest(points, seen), 2.0)

    def test_fields_of_other_colours_beside_a_line_do_not_move_it(self):
        """A line between white and a third of the way to black, aslant and bent, as ink round a coloured field."""
        d = "M30 30C60 90 60 130 40 175"
        beside = rendered(f'<path d="{d}H0V30Z"/>', 200)
        grey = np.minimum(rendered(stroke(d, 12), 200), 1 - 0.33 * (1 - beside))
        made = trace(np.ascontiguousarray(grey, np.float32), PIXELS, 0.3, 0.1, 12.0)
        traced = flatten(Path.concatenate(drawing.path for drawing in made.drawings), 0.001, 0.25).points
        inner = traced[(traced[:, 1] > 45) & (traced[:, 1] < 160)]
        self.assertLess(KDTree(axis(d)).query(inner)[0].max(), 0.2)

    def test_a_line_that_leaves_the_picture_goes_to_its_rim(self):
        for d in ("M40 40L230 150", "M40 40L210 190"):
            with self.subTest(d):
                path = middles(stroke(d, 12))
                ends = np.vstack([path.ctrl[:, 0], path.ctrl[:, 3]])
                self.assertLess((200 - ends).min(), 1.5)

    def test_a_bend_stays_sharp(self):
        for width in (5, 8, 11):
            path = middles(stroke("M30 30L120 40L140 160", width))
            self.assertEqual(len(path), 1)
            self.assertLess(off(path, (120, 40)), 0.2)

    def test_a_ring_goes_round_once(self):
        path = middles(stroke("M100 30A70 70 0 1 1 99.9 30Z", 8))
        self.assertTrue(path.closed.all())
        self.assertAlmostEqual(length(path), 2 * np.pi * 70, delta=0.5)

    def test_a_lattice_is_drawn_once(self):
        path = middles(stroke("".join(f"M{20 + 40 * i} 20V180M20 {20 + 40 * i}H180" for i in range(5)), 5))
        self.assertAlmostEqual(length(path), 10 * 160 + 5 * 5 - 25, delta=30)

    def test_the_width_is_kept(self):
        grey = rendered(stroke("M30 40L170 120", 7), 200)
        made = trace(grey, (0.1, 0, 0, 0.1, 0, 0), 0.5, 0.02, 0.1)
        self.assertAlmostEqual(float(made.drawings[0].width_mm[0]), 0.7, delta=0.02)

    def test_grain_leaves_the_middle_alone(self):
        path = middles(stroke("M30 40L170 120", 8), 0.03)
        points = path.ctrl.reshape(-1, 2)
        u = np.array([140, 80]) / np.hypot(140, 80)
        over = (points - (30, 40)) @ np.array([-u[1], u[0]])
        self.assertLess(np.abs(over).max(), 0.4)

    def test_scanned_and_compressed_lines_end_bend_and_meet_where_they_do(self):
        for name, d, places in (
            ("line", "M30 40L170 120", ((30, 40), (170, 120))),
            ("bend", "M30 30L120 40L140 160", ((30, 30), (120, 40), (140, 160))),
            ("T", "M20 50L180 70M95 59.375L80 180", ((95, 59.375), (20, 50), (180, 70), (80, 180))),
            ("Y", "M100 100L100 20M100 100L170 170M100 100L30 160", ((100, 100), (100, 20), (170, 170), (30, 160))),
        ):
            for width in (8, 11, 15):
                with self.subTest(name, width=width):
                    grey = scanned(rendered(stroke(d, width), 200), width)
                    made = trace(grey, PIXELS, 0.5, 0.2, 12.0)
                    path = Path.concatenate(drawing.path for drawing in made.drawings)
                    self.assertLess(off(path, *places), 0.2)

    def test_nothing_dark_is_said(self):
        with self.assertRaisesRegex(CannotDo, "nothing is darker"):
            trace(np.ones((40, 40), np.float32), PIXELS, 0.5, 0.2, 1.0)

    def test_nothing_but_specks_is_said(self):
        grey = np.ones((40, 40), np.float32)
        grey[10:12, 10:12] = grey[30, 30] = 0.0
        with self.assertRaisesRegex(CannotDo, "all 2 bits .* specks"):
            trace(grey, PIXELS, 0.5, 0.2, 12.0)

    def test_ink_that_is_no_line_is_said_to_be_none(self):
        """Whose skeleton is a dot, or so short that all of it is spurs."""
        y, x = np.mgrid[:80, :80] - 40
        for size in range(4, 40):
            plus = (np.maximum(abs(x), abs(y)) <= size / 2) & (np.minimum(abs(x), abs(y)) <= size / 6)
            for shape in (x * x + y * y <= size * size / 4, np.maximum(abs(x), abs(y)) <= size / 2, plus):
                grey = np.where(shape, 0.0, 1.0).astype(np.float32)
                try:
                    self.assertTrue(trace(grey, PIXELS, 0.5, 0.2, 1.0).drawings)
                except CannotDo as none:
                    self.assertIn("as wide as it is long", str(none))


class Thinning(unittest.TestCase):
    def test_keeps_what_hangs_together_and_leaves_lines_of_one_pixel(self):
        for seed in range(6):
            soft = ndimage.gaussian_filter(np.random.default_rng(seed).random((120, 120)), 3)
            ink = (soft > np.median(soft)).astype(np.uint8)
            ink[[0, -1]] = ink[:, [0, -1]] = 0
            label, _count = ndimage.label(ink, np.ones((3, 3)))
            big = np.isin(label, np.flatnonzero(np.bincount(label.ravel())[1:] > 12) + 1)
            ink = big.astype(np.uint8)
            before = ndimage.label(ink, np.ones((3, 3)))[1]
            thinning.thin(ink)
            self.assertEqual(ndimage.label(ink, np.ones((3, 3)))[1], before)
            whole = ndimage.uniform_filter(ink.astype(float), 3, mode="constant") > 0.99
            self.assertFalse(whole.any())

    def test_a_line_that_winds_is_followed_to_its_end(self):
        ink = np.zeros((60, 60), np.uint8)
        for turn, row in enumerate(range(2, 54, 4)):
            ink[row, 3:57] = 1
            if row < 50:
                ink[row + 1 : row + 4, 57 if turn % 2 == 0 else 2] = 1
        rows, _, start, ends, nodes = thinning.branches(ink)
        self.assertEqual((len(start) - 1, nodes, ends.tolist()), (1, 0, [[-1, -1]]))
        self.assertEqual(len(rows), np.count_nonzero(ink))


class SharpBends(unittest.TestCase):
    """Where both sides of a bend run into one before they meet, the line goes on through its corner all the same."""

    def test_a_zigzag_is_one_line_through_its_corners(self):
        corners = [(16 + 28 * i, 30 if i % 2 else 170) for i in range(7)]
        drawn = "M" + " L".join(f"{x} {y}" for x, y in corners)
        for width in (4, 6, 9):
            for join in ("miter", "round", "bevel"):
                with self.subTest(width=width, join=join):
                    look = f'stroke-linejoin="{join}" stroke-miterlimit="20"'
                    grey = rendered(stroke(drawn, width).replace("/>", f" {look}/>"), 200)
                    (drawing,) = trace(grey, PIXELS, 0.5, 0.15, 12.0).drawings
                    self.assertEqual((len(drawing.path), drawing.path.segment_count), (1, len(corners) - 1))
                    places = np.vstack([drawing.path.ctrl[:, 0], drawing.path.ctrl[-1:, 3]])
                    off = KDTree(places).query(np.array(corners[1:-1], float))[0]
                    self.assertLess(off.max(), 0.6)

    def test_a_fork_with_a_stem_keeps_its_stem(self):
        grey = rendered(stroke("M60 20L100 110L140 20M100 110V190", 5), 200)
        (drawing,) = trace(grey, PIXELS, 0.5, 0.15, 12.0).drawings
        ends = drawing.path.ctrl[:, [0, 3]].reshape(-1, 2)
        self.assertLess(KDTree(ends).query([100.0, 190.0])[0], 1.0)


class Junctions(unittest.TestCase):
    def test_lines_through_jpeg_cross_without_gaps(self):
        """Where two lines cross, each goes on through it: the only free ends are those that were drawn."""
        for seed in (1, 2):
            random = np.random.default_rng(seed)
            ends = [(10, y + random.uniform(-8, 8), 190, y + random.uniform(-8, 8)) for y in (60, 130)]
            ends += [(x + random.uniform(-12, 12), 10, x + random.uniform(-12, 12), 190) for x in (60, 140)]
            body = "".join(stroke(f"M{a:.2f} {b:.2f}L{c:.2f} {d:.2f}", 4) for a, b, c, d in ends)
            made = trace(scanned(rendered(body, 200), seed), PIXELS, 0.5, 0.2, 12.0)
            path = Path.concatenate(drawing.path for drawing in made.drawings)
            self.assertEqual(len(path), 4)
            free = np.vstack([path.ctrl[path.start[:-1], 0], path.ctrl[path.start[1:] - 1, 3]])
            drawn = np.array(ends).reshape(-1, 2)
            self.assertLess(KDTree(drawn).query(free)[0].max(), 1.5)
