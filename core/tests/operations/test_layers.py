"""Layers merged, split and put in order, and pieces moved among them: nothing else changes."""

import unittest
from dataclasses import replace

from hakobu import pipeline
from hakobu.model import Document, Layer, Page, Piece, Step
from hakobu.model.paint import Fill, Stroke

from ..shapes import circle

LAYERS = (Layer("a", "Card", "#111111"), Layer("b", "Paper", "#eeeeee"), Layer("c", "Film", "#3355aa"))
PIECES = (
    Piece("p1", circle(0, 0, 3), "a", "Wing", fill=Fill("#111111")),
    Piece("p2", circle(10, 0, 3), "a", "Beak", fill=Fill("#cc2200")),
    Piece("p3", circle(20, 0, 3), "b", "Moon", fill=Fill("#eeeeee", 0.5)),
    Piece("p4", circle(30, 0, 3), "a", stroke=Stroke("#cc2200", 0.3)),
)
DOCUMENT = Document(Page(100, 100), LAYERS, PIECES)


def run(operation: str, document: Document = DOCUMENT, **parameters):
    step = pipeline.with_selection(document, Step("k", operation, 1, parameters))
    return pipeline.run_step(document, step)


class Layers(unittest.TestCase):
    def test_pieces_go_to_another_layer_and_take_its_colour(self):
        made = run("to-layer", pieces=["p1", "p4"], layer="c")
        moved = made.document.by_id
        self.assertEqual([moved[p].layer for p in ("p1", "p2", "p3", "p4")], ["c", "a", "b", "c"])
        self.assertEqual((moved["p1"].fill.color, moved["p4"].stroke.color), ("#3355aa", "#3355aa"))
        self.assertEqual(made.outcome.title, "2 pieces moved to Film")
        self.assertIs(moved["p2"], DOCUMENT.by_id["p2"])
        self.assertEqual(run("to-layer", pieces=["p1"], layer="b").outcome.title, "Wing moved to Paper")

    def test_a_new_layer_is_made_for_them(self):
        made = run("to-layer", pieces=["p3"], name="Foil", color="#ffcc00").document
        self.assertEqual((made.layers[-1].name, made.by_id["p3"].fill), ("Foil", Fill("#ffcc00", 0.5)))
        self.assertIn("what a new one is called", run("to-layer", pieces=["p3"]).stopped)

    def test_a_piece_that_is_gone_stops_the_step_and_is_repaired_by_those_still_there(self):
        step = pipeline.with_selection(DOCUMENT, Step("k", "to-layer", 1, {"pieces": ["p1", "p2"], "layer": "c"}))
        smaller = replace(DOCUMENT, pieces=PIECES[1:])
        self.assertIn("no longer there", pipeline.run_step(smaller, step).stopped)
        mended = pipeline.run_step(smaller, pipeline.repaired(smaller, step))
        self.assertEqual((mended.stopped, mended.document.by_id["p2"].layer), ("", "c"))

    def test_layers_are_merged_into_the_first(self):
        made = run("merge-layers", layers=["b", "a"])
        self.assertEqual([layer.id for layer in made.document.layers], ["b", "c"])
        self.assertEqual({piece.layer for piece in made.document.pieces}, {"b"})
        self.assertEqual([p.fill for p in made.document.pieces], [p.fill for p in PIECES], "paint is as it was")
        self.assertEqual(made.outcome.title, "Card merged into Paper")
        self.assertIn("no longer there", run("merge-layers", layers=["b", "x"]).stopped)

    def test_a_layer_is_split_by_colour(self):
        made = run("split-by-colour", layer="a").document
        self.assertEqual(
            [(layer.name, layer.color) for layer in made.layers][:2],
            [("Card", "#111111"), ("Card, red #cc2200", "#cc2200")],
        )
        self.assertEqual(made.by_id["p2"].layer, made.by_id["p4"].layer)
        self.assertEqual(made.by_id["p1"].layer, "a")
        self.assertIn("one colour only", run("split-by-colour", layer="b").stopped)

    def test_layers_and_pieces_are_put_in_order(self):
        made = run("arrange", layers=["c", "a"]).document
        self.assertEqual([layer.id for layer in made.layers], ["c", "a", "b"])
        self.assertEqual([p.id for p in run("arrange", pieces=["p2"]).document.pieces], ["p1", "p3", "p4", "p2"])
        self.assertEqual(
            [p.id for p in run("arrange", pieces=["p4", "p3"], to="back").document.pieces], ["p3", "p4", "p1", "p2"]
        )
        self.assertIn("front", run("arrange", pieces=["p2"], to="left").stopped)
