"""The trace as a step: ids that stay, later steps that follow, stop, and are repaired."""

import unittest
from dataclasses import replace

import numpy as np

from hakobu.checks import check
from hakobu.geometry import signed_areas
from hakobu.model import Document, Layer, Page, Picture, Step, Treatment
from hakobu.model.ids import fingerprint
from hakobu.model.step import ON, Selection
from hakobu.pipeline import repaired, run_step, with_selection

MM = 0.1


def page(*marks: tuple[slice, slice, int]) -> np.ndarray:
    """A white picture with grey rectangles, 400 x 300 pixels."""
    picture = np.full((300, 400, 4), 255, np.uint8)
    for rows, columns, grey in marks:
        picture[rows, columns, :3] = grey
    return picture


EDGES = ((slice(0, 5), slice(None)), (slice(-5, None), slice(None)))
RIM = [(*edge, 60) for rows, columns in EDGES for edge in ((rows, columns), (columns, rows))]
DARK, PALE = (slice(60, 160), slice(60, 200), 20), (slice(200, 260), slice(220, 330), 140)
PICTURE = page(*RIM, DARK, PALE)
DOCUMENT = Document(
    Page(400 * MM, 300 * MM),
    (Layer("p", "Picture", "#ffffff", Treatment.LEAVE_OUT),),
    pictures=(Picture("s:picture", "hash", (400, 300), (MM, 0, 0, MM, 0, 0), "p"),),
)


def step(operation: str, key: str, **parameters) -> Step:
    return Step(key, operation, 1, parameters)


def run(document: Document, made: Step, picture: np.ndarray = PICTURE):
    return run_step(document, made, picture=lambda _: picture)


class Trace(unittest.TestCase):
    def test_adds_a_layer_of_pieces_in_millimetres(self):
        result = run(DOCUMENT, step("trace", "t", threshold=0.7))
        pieces = result.document.pieces
        self.assertEqual((len(pieces), result.outcome.statistics["pieces"]), (3, 3))
        self.assertEqual(result.document.layer_by_id[pieces[0].layer].treatment, Treatment.CUT)
        sizes = sorted(round(abs(float(signed_areas(p.path).sum())), 1) for p in pieces)
        # The edge lies where the grey passes the threshold, a fraction of a pixel off the pixels' own edges.
        self.assertAlmostEqual(sizes[0], 66.0, delta=1.0)
        self.assertAlmostEqual(sizes[-1], 140.0, delta=2.5)
        self.assertEqual(result.document.pictures, DOCUMENT.pictures)

    def test_what_was_chosen_is_reported(self):
        statistics = run(DOCUMENT, step("trace", "t")).outcome.statistics
        self.assertTrue(0.07 < statistics["threshold"] < 0.56 or 0.2 < statistics["threshold"] < 1)
        self.assertAlmostEqual(statistics["smallest_mm2"], 0.3)

    def test_a_picture_must_be_named_where_there_are_two(self):
        two = replace(DOCUMENT, pictures=(DOCUMENT.pictures[0], replace(DOCUMENT.pictures[0], id="s:other")))
        self.assertIn("say which one", run(two, step("trace", "t")).stopped)
        self.assertEqual(run(two, step("trace", "t", picture="s:other")).stopped, "")
        self.assertIn("no picture", run(Document(), step("trace", "t")).stopped)

    def test_an_unknown_mode_stops_it(self):
        self.assertIn("dark", run(DOCUMENT, step("trace", "t", mode="nonsense")).stopped)


class ThePageFollows(unittest.TestCase):
    WIDE = step("trace", "t", threshold=0.7, width_mm=250.0)

    def test_a_trace_at_its_true_size_lies_on_its_page(self):
        made = run(DOCUMENT, self.WIDE).document
        self.assertAlmostEqual(made.size_mm[0], 250.0, 3)
        self.assertEqual([f.rule for f in check(made) if f.rule == "outside-sheet"], [])
        picture = made.pictures[0]
        self.assertAlmostEqual(made.page.width_mm, picture.size_px[0] * picture.matrix[0], 6)
        self.assertEqual(made.sized, ("width", 250.0))

    def test_one_that_a_person_set_stays(self):
        sheet = run_step(DOCUMENT, step("page", "p", width_mm=60.0, height_mm=60.0)).document
        self.assertEqual(run(sheet, self.WIDE).document.page, Page(60.0, 60.0, fixed=True))

    def test_one_with_other_pieces_on_it_only_grows(self):
        first = run(DOCUMENT, step("trace", "t", threshold=0.7)).document
        self.assertEqual(first.page, DOCUMENT.page)
        small = run(first, step("trace", "u", threshold=0.7, width_mm=20.0)).document
        self.assertEqual(small.page, DOCUMENT.page)
        wide = run(first, step("trace", "u", threshold=0.7, width_mm=100.0)).document
        self.assertGreater(wide.page.width_mm, 99.0)


class Ids(unittest.TestCase):
    def test_stay_while_the_threshold_moves(self):
        ids = [
            {p.id for p in run(DOCUMENT, step("trace", "t", threshold=t)).document.pieces}
            for t in (0.3, 0.45, 0.56, 0.8)
        ]
        self.assertEqual(ids[0], ids[1])
        self.assertTrue(ids[1] < ids[2] == ids[3])

    def test_carry_the_steps_key(self):
        for key in ("a", "b"):
            made = run(DOCUMENT, step("trace", key)).document
            self.assertTrue(all(p.id.startswith(f"{key}:") for p in made.pieces))


class LaterSteps(unittest.TestCase):
    def chain(self, threshold: float):
        """Trace, and the mend of the background that it brings, made at a threshold of 0.7."""
        first = step("trace", "t", threshold=0.7)
        traced = run(DOCUMENT, first).document
        key = next(f.key for f in check(traced) if f.rule == "background-rectangle")
        mend = with_selection(traced, step("mend", "m", keys=[key]))
        self.assertEqual(len(mend.picked), 1)
        again = run(DOCUMENT, replace(first, parameters={"threshold": threshold}))
        return again, run(again.document, mend)

    def test_follow_where_their_pieces_are_still_there(self):
        for threshold in (0.56, 0.84):
            traced, mended = self.chain(threshold)
            self.assertEqual(mended.stopped, "")
            self.assertEqual(len(mended.document.pieces), len(traced.document.pieces) - 1)

    def test_stop_with_a_mark_where_they_are_gone_and_change_nothing(self):
        traced, mended = self.chain(0.15)
        self.assertIn("no longer there", mended.stopped)
        self.assertEqual(mended.document, traced.document)

    def test_stop_where_a_piece_is_no_longer_what_it_was(self):
        grown = step("mend", "m", keys=["background-rectangle-x"])
        traced = run(DOCUMENT, step("trace", "t", threshold=0.7)).document
        piece = traced.pieces[0]
        other = fingerprint(replace(piece, path=traced.pieces[1].path))
        self.assertIn(
            "no longer what it was", run(traced, replace(grown, selection={ON: Selection({piece.id: other})})).stopped
        )

    def test_are_repaired_for_what_is_still_there(self):
        made = run(DOCUMENT, step("trace", "t", threshold=0.7)).document
        key = next(f.key for f in check(made) if f.rule == "background-rectangle")
        rim = next(f.pieces[0] for f in check(made) if f.key == key)
        gone = with_selection(made, step("mend", "m", keys=[key]))
        gone = replace(gone, selection={ON: Selection({**gone.picked, "t:1,1": gone.picked[rim]})})
        self.assertIn("no longer there", run(made, gone).stopped)
        self.assertEqual(run(made, repaired(made, gone)).stopped, "")
        with self.assertRaisesRegex(Exception, "take the step out"):
            repaired(Document(), gone)
