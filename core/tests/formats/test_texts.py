"""Text that a file holds as text: where it stands, how large, and which way it runs."""

import io
import unittest

import ezdxf
from ezdxf.enums import TextEntityAlignment as At

from hakobu import formats

SVG = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 {w} {h}">{body}</svg>'


def told(name: str, data: bytes) -> list[dict]:
    return [dict(f.measure) for f in formats.read(name, data).findings if f.rule == "live-text"]


class Svg(unittest.TestCase):
    def one(self, body: str, w: float = 100, h: float = 60) -> dict:
        (found,) = told("t.svg", SVG.format(w=w, h=h, body=body).encode())
        return found

    def test_place_size_anchor_direction_and_face(self):
        found = self.one(
            '<text x="50" y="30" font-size="12" font-family="Anton, serif" text-anchor="middle" textLength="40" '
            'transform="rotate(10 50 30)">KETTLE <tspan>&amp; Co</tspan></text>'
        )
        self.assertEqual(
            (found["text"], found["family"], found["anchor"], found["by"]), ("KETTLE & Co", "Anton", "centre", "em")
        )
        for name, value in (("x", 50), ("y", 30), ("size_mm", 12), ("turn", 10), ("text_width_mm", 40)):
            self.assertAlmostEqual(found[name], value, places=9)

    def test_units_and_groups_scale_it(self):
        found = self.one(
            '<g transform="translate(10 0) scale(2)"><text x="5" y="10" font-size="6">a</text></g>', 200, 120
        )
        self.assertEqual((found["x"], found["y"], found["size_mm"]), (10.0, 10.0, 6.0))
        self.assertEqual((found["anchor"], found["text_width_mm"]), ("start", 0.0))

    def test_a_long_text_is_kept_whole(self):
        self.assertEqual(self.one(f"<text>{'word ' * 30}</text>")["text"], ("word " * 30).strip())


class Dxf(unittest.TestCase):
    """The drawing is 100 by 50 mm, its lower left at the origin; on the page y runs down from its top."""

    def told(self, add) -> dict:
        drawing = ezdxf.new("R2010")
        drawing.header["$INSUNITS"] = 4
        space = drawing.modelspace()
        space.reset_limits((0, 0), (100, 50))
        space.add_lwpolyline([(0, 0), (100, 0), (100, 50), (0, 50)], close=True)
        add(space)
        text = io.StringIO()
        drawing.write(text)
        (found,) = told("t.dxf", text.getvalue().encode())
        return found

    def test_a_text_stands_where_its_baseline_starts(self):
        found = self.told(lambda s: s.add_text("HERON", height=8, rotation=30).set_placement((20, 10)))
        self.assertEqual(
            (found["text"], found["by"], found["anchor"], found["size_mm"]), ("HERON", "capitals", "start", 8.0)
        )
        for name, value in (("x", 20), ("y", 40), ("turn", -30)):
            self.assertAlmostEqual(found[name], value, places=9)

    def test_alignment_is_told_by_the_baseline(self):
        for align, anchor, y in (
            (At.CENTER, "centre", 25.0),
            (At.RIGHT, "end", 25.0),
            (At.MIDDLE_CENTER, "centre", 28.0),
            (At.TOP_LEFT, "start", 31.0),
        ):
            found = self.told(lambda s, align=align: s.add_text("H", height=6).set_placement((50, 25), align=align))
            self.assertEqual(found["anchor"], anchor)
            self.assertAlmostEqual(found["y"], y, places=9, msg=align)

    def test_a_text_between_two_points_says_how_wide_it_is(self):
        found = self.told(lambda s: s.add_text("H", height=6).set_placement((10, 5), (40, 45), align=At.FIT))
        self.assertAlmostEqual(found["text_width_mm"], 50.0, places=9)
        self.assertAlmostEqual(found["turn"], -53.13010235415598, places=9)

    def test_lines_of_an_mtext_hang_from_its_point_or_stand_on_it(self):
        for point, y in ((1, 15.0), (8, 10 - 5 * 5 / 3)):
            more = {"char_height": 5, "insert": (50, 40), "attachment_point": point}
            found = self.told(lambda s, more=more: s.add_mtext("two\nlines", dxfattribs=more))
            self.assertEqual(found["text"], "two\nlines")
            self.assertAlmostEqual(found["y"], y, places=9)

    def test_a_text_in_a_block_goes_where_the_block_is_placed(self):
        def add(space):
            block = space.doc.blocks.new("SIGN")
            block.add_text("IN", height=3).set_placement((1, 1))
            space.add_blockref("SIGN", (10, 20), dxfattribs={"xscale": 2, "yscale": 2})

        found = self.told(add)
        self.assertEqual((found["x"], found["y"], found["size_mm"]), (12.0, 28.0, 6.0))
