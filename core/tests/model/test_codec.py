"""Documents through both codecs and back, to the bit."""

import json
import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hakobu.errors import UnreadableFile
from hakobu.geometry import Path
from hakobu.model import Fill, Group, Picture, Stroke, Treatment, codec

from ..shapes import blob, circle, document

coordinates = st.floats(allow_nan=False, allow_infinity=False, width=64, min_value=-1e9, max_value=1e9)


def rich():
    """A document with something in every field."""
    made = document(
        blob(), circle(1 / 3, 0.1, 1e-3), fill_rule="evenodd", name='A "name" <&> ünd 漢', opacity=0.3,
        stroke=Stroke("#b4673e", 0.1 + 0.2, 0.5, "round", "bevel", 7.0, (1 / 3, 2.0), 0.7),
    )  # fmt: skip
    extra = replace(made.layers[0], id="other", treatment=Treatment.SCORE, material="black-card")
    picture = Picture("t:/p", "ab" * 32, (30, 20), (0.1, 0.0, 0.0, 0.1, 1 / 7, 2.0), "layer")
    group = Group("t:/g", "both", ("t:/0", "t:/1"))
    return replace(made, layers=(*made.layers, extra), pictures=(picture,), groups=(group,))


class Exact(unittest.TestCase):
    def test_by_manifest_and_blobs(self):
        manifest, paths = codec.to_manifest(rich())
        stored = {key: codec.path_to_bytes(path) for key, path in paths.items()}
        back = codec.from_manifest(json.loads(json.dumps(manifest)), lambda key: codec.path_from_bytes(stored[key]))
        self.assertEqual(back, rich())

    def test_by_one_text(self):
        self.assertEqual(codec.from_json(codec.to_json(rich())), rich())

    def test_a_change_names_only_what_changed(self):
        before = set(codec.to_manifest(rich())[1])
        after = set(codec.to_manifest(rich().with_paths({"t:/0": circle()}))[1])
        self.assertEqual(len(after - before), 1)

    @settings(max_examples=150, deadline=None)
    @given(st.lists(st.tuples(coordinates, coordinates), min_size=2, max_size=12), st.booleans())
    def test_any_floats_come_back_bit_by_bit(self, points, closed):
        path = Path.from_points(points, closed)
        for back in (
            codec.path_from_bytes(codec.path_to_bytes(path)),
            codec.from_json(codec.to_json(document(path))).pieces[0].path,
        ):
            np.testing.assert_array_equal(back.ctrl, path.ctrl)
            np.testing.assert_array_equal(back.closed, path.closed)


class Damaged(unittest.TestCase):
    def test_bytes_that_are_no_path(self):
        data = codec.path_to_bytes(blob())
        for bad in (b"", data[:-1], data + b"x", b"XXXX" + data[4:], data[:4] + b"\xff" * 8 + data[12:]):
            with self.assertRaises(UnreadableFile):
                codec.path_from_bytes(bad)

    def test_texts_that_are_no_document(self):
        for bad in (
            "",
            "{}",
            "[1]",
            '{"version": 99, "paths": {}}',
            codec.to_json(rich()).replace("evenodd", "evenodd")[:-2],
        ):
            with self.assertRaises(UnreadableFile):
                codec.from_json(bad)

    def test_another_version_is_named(self):
        with self.assertRaisesRegex(UnreadableFile, "another version"):
            codec.from_json(codec.to_json(rich()).replace('"version": 1', '"version": 2'))


class Shapes(unittest.TestCase):
    def test_a_fill_is_kept_apart_from_none(self):
        self.assertIsNone(codec.from_json(codec.to_json(document(circle(), fill=None))).pieces[0].fill)
        self.assertEqual(codec.from_json(codec.to_json(document(circle()))).pieces[0].fill, Fill("#1b2a4e"))
