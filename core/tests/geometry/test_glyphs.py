"""Every glyph of two whole fonts united with a shifted copy of itself. The usual run takes every twenty-fourth."""

from hakobu.geometry import Path, signed_areas, transform, translation
from hakobu.geometry.boolean import intersection, union
from hakobu.geometry.measure import lengths

from .. import LONG
from ..fonts import FONTS, glyph, glyph_area, glyph_names
from .sound import Case, off_its_span, size

EVERY = 1 if LONG else 24
PARTS = 4


class Glyphs(Case):
    def judged(self, font: str, which: str) -> bool:
        shape = glyph(font, which)
        if not shape.segment_count:
            return False
        self.assertAlmostEqual(float(signed_areas(shape).sum()), glyph_area(font, which), delta=1e-6 * 1000**2)
        copy = transform(shape, translation(37.0, 21.0))
        alone, united, common = size(union(shape)), union(shape, copy), intersection(shape, copy)
        self.assertAlmostEqual(2 * alone, size(united) + size(common), delta=1e-6 * max(alone, 1.0))
        whole = Path.concatenate([shape, copy])
        off = max(float(off_its_span(made, whole).max(initial=0)) for made in (united, common))
        # A font's units are taken as millimetres: a thousand of them, with rounding to match.
        self.assertLess(off, 1e-9 * max(float(lengths(whole).max()) / 1000, 1.0))
        return True


def _part(font: str, part: int):
    def test(self: Glyphs) -> None:
        names = glyph_names(font)[::EVERY]
        done = 0
        for which in names[part::PARTS]:
            with self.subTest(glyph=which):
                done += self.judged(font, which)
        self.assertGreater(done, len(names) // PARTS // 2)

    return test


for _font in FONTS:
    for _number in range(PARTS):
        setattr(Glyphs, f"test_{_font}_part_{_number}_of_{PARTS}", _part(_font, _number))
