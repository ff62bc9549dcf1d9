"""Letters made ready to be cut, against closed forms."""

import math
import unittest

from hakobu.geometry import Path, area, primitives, signed_areas
from hakobu.geometry.nesting import shapes_of
from hakobu.geometry.strips import bridged, filled, parts_joined
from hakobu.lettering.faces import face_of

#: A ring of 20 mm with a counter of 10.
RING = Path.concatenate([primitives.circle(0, 0, 20), primitives.circle(0, 0, 10).reversed()])
#: A stem of 4 by 20 with a dot of 4 above it, 3 mm away.
DOTTED = Path.concatenate([primitives.rectangle(-2, 0, 4, 20), primitives.rectangle(-2, -7, 4, 4)])


def letter(which: str, name: str = "archivo-black") -> Path:
    made = face_of(name)
    return made.outline(made.shape(which, {})[0].index)


class Counters(unittest.TestCase):
    def test_filled_letters_have_none(self):
        self.assertAlmostEqual(area(filled(RING)), math.pi * 400, delta=1e-6)
        self.assertFalse((signed_areas(filled(letter("B"))) < 0).any())

    def test_bridges_are_strips_of_their_width_through_the_stroke(self):
        for count in (1, 2, 3):
            made = bridged(RING, count, 2.0, 0.3)
            self.assertFalse((signed_areas(made) < 0).any())
            self.assertEqual(len(made), max(count, 1))
            # A strip of width w between radii r and R: the band of the disc of R less that of r.
            half = 1.0
            band = sum(
                sign * (half * math.sqrt(r * r - half * half) + r * r * math.asin(half / r))
                for sign, r in ((1, 20), (-1, 10))
            )
            self.assertAlmostEqual(area(made), math.pi * 300 - count * band, delta=1e-3)

    def test_every_letter_with_a_counter_holds_it_by_bridges(self):
        for which in "ABDOPQR04689abdegopq&@":
            for turn in (0.0, 0.7):
                made = bridged(letter(which), 2, 3.0, turn)
                self.assertFalse((signed_areas(made) < -1e-6).any(), (which, turn))

    def test_letters_without_counters_stay_as_they_are(self):
        self.assertEqual(bridged(letter("K"), 2, 3.0, 0.0), letter("K"))


class Dots(unittest.TestCase):
    def test_a_dot_is_joined_by_a_strip_of_its_width(self):
        made = parts_joined(DOTTED, 1.5)
        self.assertEqual(len(shapes_of(made)), 1)
        self.assertAlmostEqual(area(made), 4 * 20 + 4 * 4 + 3 * 1.5, places=6)

    def test_all_parts_of_a_letter_become_one(self):
        for name in ("archivo-black", "pacifico", "libre-baskerville"):
            for which in "ijäöü!?:;%=Åéñ":
                self.assertEqual(len(shapes_of(parts_joined(letter(which, name), 2.0))), 1, (name, which))

    def test_a_letter_of_one_part_stays_as_it_is(self):
        self.assertEqual(parts_joined(letter("o"), 2.0), letter("o"))
