"""Whole open fonts and a whole open set of icons through check and mend: what is painted stays.

The letters are those of two fonts (SIL Open Font License), the icons Material Design Icons (Apache 2.0), drawn at the
size of a hand. A usual run takes some of each; the long one takes them all. The share in common is measured by scan
lines (`painted_area`), not by what the mends themselves are worked out with.
"""

import unittest

from hakobu.checks.applier import mend_where
from hakobu.geometry import Path, bounds, scaling, transform
from hakobu.geometry.scanline_area import painted_area
from hakobu.model import Conditions, Document

from .. import LONG
from ..fonts import glyph, glyph_names
from ..shapes import document
from ..sound_designs import every_icon

#: What is asked of each, before and after.
IN_COMMON = 0.9995
LINES_MM = 0.001


def in_common(made: Document) -> float:
    """The area painted both before and after all safe mends, as a share of that painted by either."""
    done = mend_where(made, lambda finding: finding.safe, Conditions()).document
    before, after = ([(p.path, p.fill_rule) for p in each.pieces if p.fill] for each in (made, done))
    box = bounds(Path.concatenate(path for path, _ in before))
    first, second, either = (painted_area(paths, box, LINES_MM) for paths in (before, after, before + after))
    return (first + second - either) / either


class WholeSets(unittest.TestCase):
    def test_every_letter_of_two_fonts(self):
        for font in ("sans", "serif"):
            for name in glyph_names(font)[:: 1 if LONG else 24]:
                path = transform(glyph(font, name), scaling(0.04))
                if path.segment_count:
                    self.assertGreater(in_common(document(path)), IN_COMMON, f"{name} of {font}")

    def test_every_icon(self):
        for n, (name, made) in enumerate(every_icon()):
            if LONG or n % 60 == 0:
                self.assertGreater(in_common(made()), IN_COMMON, name)
