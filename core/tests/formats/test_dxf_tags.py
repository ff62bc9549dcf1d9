"""Tags of ASCII DXF: the same as ezdxf's own loader gives, in whatever parts the text is taken."""

import io
import unittest
from unittest import mock

import ezdxf
from ezdxf.lldxf.const import DXFStructureError
from ezdxf.lldxf.tagger import ascii_tags_loader, tag_compiler

from hakobu.formats.dxf import tags


def drawing() -> str:
    made = ezdxf.new("R2010", units=4)
    space = made.modelspace()
    space.add_circle((5, 5), 3)
    space.add_spline([(0, 0), (5, 9), (9, 2), (14, 4)])
    space.add_lwpolyline([(0, 0, 0, 0, 0.5), (9, 0), (9, 9)], close=True)
    space.add_mtext("Lantern\nLane")
    made.header["$LASTSAVEDBY"] = "nobody"
    out = io.StringIO()
    made.write(out)
    return out.getvalue()


TEXT = drawing()


def ours(text: str) -> list:
    return [(tag.code, tag.value) for tag in tags.tags_of(text)]


def theirs(text: str) -> list:
    return [(tag.code, tag.value) for tag in tag_compiler(ascii_tags_loader(io.StringIO(text)))]


class Tags(unittest.TestCase):
    def test_are_those_of_ezdxf_in_parts_of_any_size(self):
        expected = theirs(TEXT)
        for part in (1, 7, 50, 1000, 1 << 20):
            with mock.patch.object(tags, "PART", part):
                self.assertEqual(ours(TEXT), expected, part)

    def test_odd_ones(self):
        for text in (
            "0\nLINE\n10\n1\n20\n2\n0\nEOF\n",
            "0\nLINE\n10\n1\n20\n2\n30\n3\n11\n1.5\n21\n2.5\n0\nEOF\n",
            "999\nmade by hand\n0\nLINE\n999\nin between\n10\n1\n999\nagain\n20\n2\n0\nEOF\n",
            "  0\nLINE  \n 70\n3.0\n0\nEOF\n",
            "0\nEOF\nwhatever\nfollows\nthe end\n",
            "0\nEOF",
            "0\nLINE\n5\nA1\n310\n00FF\n0\nEOF\n",
            "0\nLINE\n1\n\n0\nEOF\n",
            "",
        ):
            for part in (1, 1 << 20):
                with self.subTest(text=text, part=part), mock.patch.object(tags, "PART", part):
                    self.assertEqual(ours(text), theirs(text))

    def test_what_is_wrong_is_refused_with_its_line(self):
        for text, words in (
            ("0\nLINE\nten\n1\n20\n2\n0\nEOF\n", "group code at line 3"),
            ("0\nLINE\n10\none\n20\n2\n0\nEOF\n", 'value "one" near line: 4'),
            ("0\nLINE\n10\n1\n30\n2\n0\nEOF\n", "y coordinate near line: 3"),
            ("0\nLINE\n70\nmany\n0\nEOF\n", 'value "many"'),
        ):
            for part in (1, 1 << 20):
                with mock.patch.object(tags, "PART", part), self.assertRaisesRegex(DXFStructureError, words):
                    ours(text)
                with self.assertRaises(DXFStructureError):
                    theirs(text)
