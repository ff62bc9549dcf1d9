"""Layers merged, split and put in order, and pieces moved among them: nothing else changes."""

import unittest
from collections.abc import Sequence
from dataclasses import replace

from hakobu import pipeline
from hakobu.model import Document, Layer, Page, Piece, Step
from hakobu.model.paint import Fill, Stroke
from hakobu.model.step import ON, Selection
from hakobu.operations import operation_of

from ..shapes import circle

LAYERS = (Layer("a", "Card", "#111111"), Layer("b", "Paper", "#eeeeee"), Layer("c", "Film", "#3355aa"))
PIECES = (
    Piece("p1", circle(0, 0, 3), "a", "Wing", fill=Fill("#111111")),
    Piece("p2", circle(10, 0, 3), "a", "Beak", fill=Fill("#cc2200")),
    Piece("p3", circle(20, 0, 3), "b", "Moon", fill=Fill("#eeeeee", 0.5)),
    Piece("p4", circle(30, 0, 3), "a", stroke=Stroke("#cc2200", 0.3)),
)
DOCUMENT = Document(Page(100, 100), LAYERS, PIECES)


def step_on(document: Document, operation: str, pieces: Sequence[str], **parameters) -> Step:
    selection = {ON: Selection(dict.fromkeys(pieces))} if pieces else {}
    return pipeline.with_selection(
        document, Step("k", operation, operation_of(operation).version, parameters, selection)
    )


def run(operation: str, document: Document = DOCUMENT, pieces: tuple[str, ...] = (), **parameters):
    return pipeline.run_step(document, step_on(document, operation, pieces, **parameters))


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
        step = step_on(DOCUMENT, "to-layer", ["p1", "p2"], layer="c")
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


class Settings(unittest.TestCase):
    """What is set of a layer is a step, and later steps see it."""

    def test_only_what_is_given_changes(self):
        made = run("layer", layer="a", treatment="score", material="felt").document.layer_by_id["a"]
        self.assertEqual((made.treatment, made.material, made.name, made.color), ("score", "felt", "Card", "#111111"))
        self.assertEqual(
            run("layer", layer="a", treatment="score", name="Fold").outcome.title, "Card is now called Fold, is scored"
        )
        felt = run("layer", layer="a", material="felt").document
        self.assertIsNone(run("layer", felt, layer="a", material="").document.layer_by_id["a"].material)
        self.assertEqual(run("layer", layer="b", treatment="draw").document.pieces, PIECES)

    def test_pieces_take_the_colour_but_for_white_ones_among_others(self):
        white = Piece("hole", circle(0, 0, 1), "a", fill=Fill("#ffffff"))
        made = run("layer", replace(DOCUMENT, pieces=(*PIECES, white)), layer="a", color="#b5653c").document.by_id
        self.assertEqual(
            [made[p].fill.color for p in ("p1", "p2", "p3", "hole")], ["#b5653c", "#b5653c", "#eeeeee", "#ffffff"]
        )
        self.assertEqual(made["p4"].stroke.color, "#b5653c")
        printed = run("layer", layer="a", treatment="print", color="#b5653c").document
        self.assertEqual(printed.pieces, PIECES, "a print keeps its colours")

    def test_what_no_layer_can_have_is_refused(self):
        for values, word in (
            ({"layer": "x", "name": "X"}, "no longer there"),
            ({"layer": "a"}, "Say what"),
            ({"layer": "a", "name": "  "}, "needs a name"),
            ({"layer": "a", "color": "red"}, "#rrggbb"),
            ({"layer": "a", "treatment": "melt"}, "one of cut, score"),
            ({"layer": "a", "mirrored": "yes"}, "true or false"),
        ):
            self.assertIn(word, run("layer", **values).stopped)

    def test_later_steps_see_what_was_set(self):
        left_out = run("layer", layer="b", treatment="leave-out").document
        sized = run("resize", left_out, width_mm=36.0).document
        self.assertAlmostEqual(sized.size_mm[0], 36.0, 6)
        scored = run("layer", layer="a", treatment="score", material="felt").document
        split = run("split-by-colour", scored, layer="a").document
        self.assertEqual([(la.treatment, la.material) for la in split.layers[:2]], [("score", "felt")] * 2)
        copper = run("layer", layer="b", color="#b5653c").document
        self.assertEqual(run("to-layer", copper, pieces=["p1"], layer="b").document.by_id["p1"].fill.color, "#b5653c")
