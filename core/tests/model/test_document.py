import unittest
from dataclasses import FrozenInstanceError, replace

from hakobu.geometry import scaling, transform, translation
from hakobu.model import Document, Group, Layer, Page, Picture, Treatment
from hakobu.model.finding import finding_key
from hakobu.model.ids import anchor_of, fingerprint, new_key, piece_id, same_thing
from hakobu.model.materials import MATERIALS
from hakobu.model.statistics import statistics_of

from ..shapes import circle, document, square


class Documents(unittest.TestCase):
    def test_a_change_shares_what_did_not_change(self):
        before = document(square(), circle())
        after = before.with_paths({"t:/0": square(5)})
        self.assertIs(after.pieces[1], before.pieces[1])
        self.assertEqual(before.pieces[0].path, square())
        with self.assertRaises(FrozenInstanceError):
            after.page = None

    def test_pieces_without_outlines_are_gone_and_so_are_groups_without_pieces(self):
        inner, outer = Group("in", "", ("t:/0",)), Group("out", "", ("in", "t:/1"))
        before = replace(document(square(), circle()), groups=(inner, outer))
        after = before.with_paths({"t:/0": None})
        self.assertEqual([p.id for p in after.pieces], ["t:/1"])
        self.assertEqual([(g.id, g.members) for g in after.groups], [("out", ("t:/1",))])

    def test_what_is_left_out_counts_nowhere(self):
        out = document(square(0, 0, 30), treatment=Treatment.LEAVE_OUT)
        self.assertEqual((out.size_mm, out.pieces_in_use(), out.pieces_followed()), ((0, 0), (), ()))
        printed = document(square(0, 0, 30), treatment=Treatment.PRINT)
        self.assertEqual((printed.size_mm, printed.pieces_followed()), ((30, 30), ()))

    def test_layer_settings(self):
        after = document(square()).with_layers(
            {"layer": {"treatment": "score", "name": "Folds"}, "gone": {"name": "x"}}
        )
        self.assertEqual((after.layers[0].treatment, after.layers[0].name), (Treatment.SCORE, "Folds"))

    def test_machine_files_turn_at_the_page_or_the_far_corner(self):
        self.assertEqual(document(square()).frame, (200, 100))
        self.assertEqual(replace(document(square(5, 7)), page=None).frame, (15, 17))
        self.assertEqual(Document().frame, (1, 1))

    def test_figures(self):
        figures = statistics_of(document(square(), circle(50, 50, 10)))
        self.assertEqual((figures.pieces, figures.outlines, figures.nodes), (2, 2, 5))
        self.assertAlmostEqual(figures.line_mm, 40 + 62.83185, 4)

    def test_a_picture_without_lines_has_the_size_of_its_page(self):
        picture = Picture("t:/p", "ab" * 32, (300, 200), (0.1, 0.0, 0.0, 0.1, 0.0, 0.0), "layer")
        figures = statistics_of(Document(Page(30, 20), (Layer("layer", "Layer", "#000000"),), pictures=(picture,)))
        self.assertEqual((figures.pieces, figures.width_mm, figures.height_mm), (0, 30, 20))


class Ids(unittest.TestCase):
    def test_an_id_is_a_key_and_an_anchor(self):
        self.assertEqual(anchor_of(piece_id("k", "/g[1]/path[2]")), "/g[1]/path[2]")
        self.assertNotEqual(new_key(), new_key())

    def test_a_fingerprint_knows_its_piece_after_a_small_change_and_not_after_a_large_one(self):
        piece = document(square()).pieces[0]
        was = fingerprint(piece)
        for matrix, same in ((translation(1, 0), True), (translation(6, 0), False), (scaling(2), False)):
            self.assertEqual(same_thing(was, fingerprint(replace(piece, path=transform(piece.path, matrix)))), same)

    def test_a_findings_key_follows_rule_pieces_and_place_not_their_order(self):
        key = finding_key("r", ("a", "b"), (10.0, 20.0))
        self.assertEqual(key, finding_key("r", ("b", "a"), (10.3, 19.8)))
        self.assertEqual(len({key, finding_key("s", ("a", "b"), (10, 20)), finding_key("r", ("a",), (10, 20))}), 3)
        self.assertNotEqual(key, finding_key("r", ("a", "b"), (30.0, 20.0)))


class Shipped(unittest.TestCase):
    def test_two_materials_ship(self):
        self.assertEqual(len({m.id for m in MATERIALS}), len(MATERIALS))
        self.assertTrue(all(m.least_strip_mm > 0 and m.thickness_mm > 0 for m in MATERIALS))
