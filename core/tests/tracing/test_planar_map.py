"""Maps of labels: every border once, no gap, no overlap."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from hakobu.geometry import signed_areas
from hakobu.tracing.colour.components import components
from hakobu.tracing.colour.labels import Labelled, labelled
from hakobu.tracing.colour.palette import find_palette
from hakobu.tracing.colour.planar_map import areas_of

from ..pictures import SAMPLES, drawing

PIXELS = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)
LABELS = (st.integers(0, 10_000), st.integers(1, 14), st.integers(1, 14), st.integers(1, 4))


def random_labels(seed: int, height: int, width: int, count: int) -> np.ndarray:
    return np.random.default_rng(seed).integers(0, count, (height, width)).astype(np.uint8)


class Borders(unittest.TestCase):
    @given(*LABELS)
    @settings(max_examples=150, deadline=None)
    def test_every_crack_is_in_one_chain_that_both_sides_use(self, seed, height, width, count):
        from hakobu.tracing.colour.kernels import planar_map

        labels = random_labels(seed, height, width, count)
        found = components(labels)
        runs = (found.begin, found.left, found.of)
        rows, columns, ways, start, about, loops, begin, _ = planar_map.borders(labels, *runs)
        padded = np.pad(labels.astype(int) + 1, 1)
        sides = np.count_nonzero(padded[1:] != padded[:-1]) + np.count_nonzero(padded[:, 1:] != padded[:, :-1])
        self.assertEqual(len(rows), sides)
        used = np.bincount(np.abs(loops), minlength=len(about) + 1)[1:]
        np.testing.assert_array_equal(used, np.where(about[:, 1] >= 0, 2, 1))
        for k in range(len(about)):
            for r, c, way in zip(*(a[start[k] : start[k + 1]] for a in (rows, columns, ways)), strict=True):
                self.assertEqual(labels[r, c], about[k, 0])
                # What lies to the left of a crack that runs east along its pixel, south, west, north.
                down, right = ((-1, 0), (0, 1), (1, 0), (0, -1))[way]
                self.assertEqual(padded[r + 1 + down, c + 1 + right] - 1, about[k, 1])
        for k in range(len(begin) - 1):
            own = loops[begin[k] : begin[k + 1]]
            ends = [about[abs(j) - 1, 2:].reshape(2, 2)[:: 1 if j > 0 else -1] for j in own]
            for one, other in zip(ends, ends[1:] + ends[:1], strict=True):
                np.testing.assert_array_equal(one[1], other[0])

    @given(*LABELS)
    @settings(max_examples=60, deadline=None)
    def test_components_are_scipys_joined_by_sides(self, seed, height, width, count):
        labels = random_labels(seed, height, width, count)
        whole = components(labels)
        area, label = whole.area, whole.label
        for value in range(count):
            expected, found = ndimage.label(labels == value)
            self.assertEqual(np.count_nonzero(label == value), found)
            self.assertEqual(sorted(area[label == value]), sorted(np.bincount(expected.ravel())[1:]))
        self.assertEqual(int(area.sum()), labels.size)
        np.testing.assert_array_equal(label[whole.numbers()], labels)


class Areas(unittest.TestCase):
    def rendered(self, body: str, size: int = 200) -> np.ndarray:
        import io

        import resvg_py
        from PIL import Image

        png = resvg_py.svg_to_bytes(svg_string=drawing(body, size), zoom=SAMPLES)
        fine = np.asarray(Image.open(io.BytesIO(bytes(png))).convert("RGB"), np.float32)
        return fine.reshape(size, SAMPLES, size, SAMPLES, 3).mean(axis=(1, 3)).round().astype(np.uint8)

    def test_fill_the_picture_and_meet_without_gap(self):
        rgb = self.rendered(
            '<rect x="30.4" y="40.7" width="80" height="100" fill="#d33"/>'
            '<path d="M110.4 40.7L180 60L170 150L110.4 140.7Z" fill="#36c"/>'
            '<circle cx="95" cy="90" r="25.3" fill="#fc3"/>'
        )
        palette = find_palette(rgb)
        self.assertEqual(len(palette.rgb), 4)
        seen = labelled(rgb, np.ascontiguousarray(palette.rgb * 255.0), palette.noise, 4.0)
        made = areas_of(seen, palette.noise, PIXELS, 0.1)
        self.assertEqual(len(made.areas), 4)
        self.assertAlmostEqual(sum(float(signed_areas(a.path).sum()) for a in made.areas), 200 * 200, 3)
        sizes = sorted(float(signed_areas(a.path).sum()) for a in made.areas)
        self.assertAlmostEqual(sizes[0], np.pi * 25.3**2, delta=3.0)
        # Every segment is one neighbour's too, run the other way, but along the picture's own edge.
        there = {c.tobytes() for a in made.areas for c in a.path.ctrl}
        for area in made.areas:
            for ctrl in area.path.ctrl:
                outer = ((np.abs(ctrl) < 1e-6) | (np.abs(ctrl - 200) < 1e-6)).all(axis=0).any()
                self.assertTrue(outer or np.ascontiguousarray(ctrl[::-1]).tobytes() in there)

    def test_where_three_meet_there_is_one_place(self):
        rgb = self.rendered(
            '<path d="M0 0H100.3V90.6H0Z" fill="#222"/><path d="M100.3 0H200V90.6H100.3Z" fill="#2a2"/>'
            '<path d="M0 90.6H200V200H0Z" fill="#e83"/>'
        )
        palette = find_palette(rgb)
        seen = labelled(rgb, np.ascontiguousarray(palette.rgb * 255.0), palette.noise, 4.0)
        made = areas_of(seen, palette.noise, PIXELS, 0.1)
        nodes = np.concatenate([a.path.ctrl[:, 0] for a in made.areas])
        self.assertLess(np.hypot(*(nodes - (100.3, 90.6)).T).min(), 0.05)

    def test_any_map_at_all_keeps_its_whole_area(self):
        for seed in range(20):
            labels = random_labels(seed, 23, 31, 4)
            colours = np.array([[0.0, 0, 0], [255, 0, 0], [0, 255, 0], [0, 0, 255]])
            seen = Labelled(labels, np.ascontiguousarray(colours[labels], np.float32), colours, 0)
            made = areas_of(seen, 0.0, PIXELS, 0.1)
            self.assertAlmostEqual(sum(float(signed_areas(a.path).sum()) for a in made.areas), 23 * 31, 3)
