"""What compression kept, told from pixels alone: against the tables of the very file."""

import io
import unittest

import numpy as np
from PIL import Image
from scipy.fft import dctn

from hakobu.tracing.compression import cosines, padded, planes_of, reduced, sharpened

from .test_softness import SIDE, eight, scene, through_jpeg

#: sRGB to brightness and two differences of colour (JFIF 1.02, ITU-T T.871).
PARTED = np.array([[0.299, 0.587, 0.114], [-0.168736, -0.331264, 0.5], [0.5, -0.418688, -0.081312]])


def planes(rgb: np.ndarray, halved: bool = True, origin: tuple[int, int] = (0, 0)):
    cut = ((rgb == 0) | (rgb == 255)).any(axis=2)
    return planes_of((rgb @ PARTED.T).astype(np.float32), cut, halved, origin)


def tables(quality: int, subsampling: int) -> list[np.ndarray]:
    """The steps of brightness and of colour that Pillow's file names, row by row."""
    out = io.BytesIO()
    Image.fromarray(eight(scene())).save(out, "JPEG", quality=quality, subsampling=subsampling)
    found = Image.open(out).quantization
    return [np.array(found[k], float) for k in (0, 1)]


class Steps(unittest.TestCase):
    def test_are_those_of_the_files_tables(self):
        plain = scene()
        for quality, subsampling in ((30, 2), (60, 2), (75, 2), (30, 0)):
            found = planes(through_jpeg(plain, quality, subsampling), subsampling == 2)
            for k, plane in enumerate(found):
                known = np.isfinite(plane.step)
                self.assertGreaterEqual(np.count_nonzero(known), 6, (quality, k))
                off = np.abs(plane.step - tables(quality, subsampling)[min(k, 1)])[known]
                # A step may be taken for the next whole number where no coefficient is more than one of it.
                self.assertLessEqual(off.max(), 1, (quality, k))
                self.assertGreater(np.mean(off == 0), 0.6, (quality, k))

    def test_are_not_seen_in_what_was_never_compressed(self):
        plain = scene()
        noisy = plain + np.random.default_rng(3).normal(0, 6, plain.shape)
        for picture in (plain, noisy, np.full_like(plain, 90)):
            self.assertEqual(planes(eight(picture)), [])

    def test_are_seen_in_a_part_whose_place_is_known(self):
        rgb = through_jpeg(scene(), 30, 2)[5:, 11:]
        self.assertEqual(planes(rgb), [])
        found = planes(rgb, origin=(11, 5))
        self.assertEqual(len(found), 3)
        self.assertEqual(found[0].step[1], tables(30, 2)[0][1])


class Blocks(unittest.TestCase):
    def test_coefficients_are_the_cosine_transforms(self):
        blocks = np.random.default_rng(5).uniform(0, 255, (40, 8, 8)).astype(np.float32)
        expected = dctn(blocks.astype(float), axes=(1, 2), norm="ortho").reshape(-1, 64)
        np.testing.assert_allclose(blocks.reshape(-1, 64) @ cosines(), expected, atol=2e-3)

    def test_begin_where_those_of_the_whole_do(self):
        whole = np.arange(SIDE * SIDE, dtype=np.float32).reshape(SIDE, SIDE)
        part = padded(whole[9:, 21:], 2, (21, 9))
        np.testing.assert_array_equal(part[9:, 5:], whole[9:, 21:][: len(part) - 9])
        self.assertEqual((part.shape[0] % 16, part.shape[1] % 16), (0, 0))


class Colour(unittest.TestCase):
    def test_is_what_it_was_before_it_was_enlarged(self):
        """Enlarged by a quarter of the pixel beyond, along rows and columns, as libjpeg's documentation has it."""
        kept = np.random.default_rng(6).uniform(-90, 90, (24, 32))
        large = kept
        for _ in range(2):
            beyond = np.pad(large, ((1, 1), (0, 0)), mode="edge")
            above, below = 0.75 * large + 0.25 * beyond[:-2], 0.75 * large + 0.25 * beyond[2:]
            large = np.stack([above, below], axis=1).reshape(-1, large.shape[1]).T
        np.testing.assert_allclose(sharpened(reduced(large[None], 2)[0]), kept, atol=1e-3)


if __name__ == "__main__":
    unittest.main()
