"""Words: what comes off the sheet, what stays when they are typed anew, and what is refused."""

import unittest
from dataclasses import replace

from hakobu import pipeline
from hakobu.geometry import Path, area, bounds, signed_areas
from hakobu.geometry.boolean import intersection
from hakobu.lettering.faces import FACES
from hakobu.model import Document, Page, Step, Treatment
from hakobu.model.step import ON, Selection

from ..lettering.faces import built, data_of
from ..shapes import circle

PAGE = Document(Page(300, 200))


def words(document: Document = PAGE, key: str = "w", font=None, selection=None, **values) -> pipeline.StepResult:
    return pipeline.run_step(document, Step(key, "words", 1, values, selection or {}), font=font)


def set_words(**values) -> Document:
    made = words(**values)
    if made.error:
        raise made.error
    return made.document


def whole(document: Document) -> Path:
    return Path.concatenate(piece.path for piece in document.pieces)


class OffTheSheet(unittest.TestCase):
    def test_letters_that_touch_are_one_piece_and_others_their_own(self):
        self.assertEqual([p.name for p in set_words(text="KETTLE", weld="touching").pieces], list("KETTLE"))
        self.assertEqual([p.name for p in set_words(text="Kettle", face="pacifico").pieces], ["Kettle"])
        apart = set_words(text="Kettle", face="dancing-script", weld="apart")
        self.assertEqual([p.name for p in apart.pieces], list("Kettle"))

    def test_a_name_closed_up_is_one_piece_with_its_counters(self):
        for face in FACES:
            if face.single_line:
                continue
            made = words(text="BROAD", face=face.id, weld="closed", overlap_mm=0.5).document
            apart = words(text="BROAD", face=face.id, weld="apart").document
            with self.subTest(face.id):
                counters = sum(int((signed_areas(p.path) < 0).sum()) for p in apart.pieces)
                if face.id not in ("allerta-stencil", "pacifico", "dancing-script"):
                    self.assertEqual(len(made.pieces), 1)
                    self.assertGreaterEqual(int((signed_areas(whole(made)) < 0).sum()), counters)

    def test_letters_on_a_bar_are_one_piece_sunk_into_it(self):
        made = set_words(text="HEI", weld="bar", bar_mm=5.0, sink_mm=1.0, at=[100, 100])
        (piece,) = made.pieces
        left, top, right, bottom = bounds(piece.path)
        self.assertAlmostEqual(bottom - top, 20.0 + 5.0 - 1.0, places=6)
        letters = set_words(text="HEI", weld="apart", at=[100, 100])
        bar = (right - left) * 5.0
        common = sum(area(p.path) for p in letters.pieces)
        self.assertLess(area(piece.path), bar + common)

    def test_dots_are_loose_or_joined(self):
        self.assertEqual(len(set_words(text="i").pieces), 2)
        self.assertEqual(len(set_words(text="i", dots=True).pieces), 1)

    def test_outline_copies_lie_below_each_shifted_once_more(self):
        made = set_words(text="H", copies=2, copy_mm=1.0, copy_by=[3.0, 2.0], at=[100, 100])
        far, near, solid = made.pieces
        box = bounds(solid.path)
        for copy, nth in ((near, 1), (far, 2)):
            left, _top, _right, bottom = bounds(copy.path)
            self.assertAlmostEqual(left, box[0] - 1.0 + 3.0 * nth, delta=1e-3)
            self.assertAlmostEqual(bottom, box[3] + 1.0 + 2.0 * nth, delta=1e-3)
        self.assertEqual([made.layer_by_id[p.layer].name for p in made.pieces], ["H, outlines"] * 2 + ["H"])
        self.assertEqual([set(g.members) for g in made.groups], [{p.id for p in made.pieces}])

    def test_single_lines_are_drawn_or_scored_and_stay_open(self):
        made = set_words(text="Kettle", face="line-script")
        self.assertIs(made.layers[0].treatment, Treatment.DRAW)
        self.assertFalse(whole(made).closed.any())
        self.assertIs(set_words(text="K", face="line-plain", treatment="score").layers[0].treatment, Treatment.SCORE)

    def test_names_stand_in_rows_each_a_text_of_its_own(self):
        made = set_words(text="Ada\nBo\nCyd", each=True, columns=2, weld="closed", overlap_mm=0.3, gap_mm=4.0)
        self.assertEqual([p.name for p in made.pieces], ["Ada", "Bo", "Cyd"])
        ada, bo, cyd = (bounds(p.path) for p in made.pieces)
        self.assertLess(ada[2], bo[0])
        self.assertLess(ada[3], cyd[1])
        fitted = set_words(text="Ada\nBo\nCyd", each=True, size_by="width", width_mm=40.0, weld="closed")
        for piece in fitted.pieces:
            left, _, right, _ = bounds(piece.path)
            self.assertAlmostEqual(right - left, 40.0, places=6)

    def test_a_box_and_two_points_are_fitted(self):
        left, top, right, bottom = bounds(whole(set_words(text="HEI", size_by="box", width_mm=200, height_mm=15)))
        self.assertAlmostEqual(bottom - top, 15.0, places=6)
        left, top, right, bottom = bounds(whole(set_words(text="HEI", size_by="box", width_mm=30, height_mm=150)))
        self.assertAlmostEqual(right - left, 30.0, places=6)
        left, top, right, bottom = bounds(whole(set_words(text="HIH", size_by="points", points=[10, 50, 110, 50])))
        self.assertAlmostEqual(left, 10.0, places=6)
        self.assertAlmostEqual(right, 110.0, places=6)
        self.assertAlmostEqual(bottom, 50.0, delta=1e-6)

    def test_letters_stand_on_a_picked_outline(self):
        design = replace(PAGE, **{"layers": set_words(text="x").layers})
        disc = replace(set_words(text="x").pieces[0], id="s:disc", path=circle(150, 100, 40))
        design = replace(design, pieces=(disc,))
        chosen = {"along": Selection({"s:disc": None})}
        made = words(design, text="HH", on="outline", selection=chosen, size_mm=5.0, out_mm=2.0)
        self.assertIsNone(made.error)
        for piece in made.document.pieces[1:]:
            self.assertFalse(len(intersection(piece.path, circle(150, 100, 41.9)).path))
        self.assertIn("Pick the outline", words(design, text="HH", on="outline").error.sentence)

    def test_the_first_words_of_a_job_lie_on_a_page_that_holds_them(self):
        made = words(Document(), text="KETTLE").document
        left, top, right, _bottom = made.box
        self.assertEqual((round(left, 6), round(top, 6)), (5.0, 5.0))
        self.assertAlmostEqual(made.page.width_mm, right + 5.0)

    def test_what_the_face_lacks_is_said_and_left_out(self):
        made = words(text="KETTLE 😀")
        self.assertIn("left out, since the face lacks it: 😀", made.outcome.note)
        self.assertEqual(len(made.document.pieces), 6)


class TypedAnew(unittest.TestCase):
    def chain(self, text: str, weld: str):
        made = [Step("w", "words", 1, {"text": text, "weld": weld})]
        made.append(Step("b", "backing", 1, {"distance_mm": 3.0}, {ON: Selection(query="made w")}))
        document = pipeline.run_steps(made)[-1].document
        backing = next(p.id for p in document.pieces if p.id.startswith("b:"))
        picked = pipeline.with_selection(
            document, Step("m", "place", 1, {"move": [0.0, 5.0]}, {ON: Selection({backing: None})})
        )
        first = next(p.id for p in document.pieces if p.id.startswith("w:"))
        last = Step("t", "place", 1, {"turn": 10.0}, {ON: Selection({first: None})})
        return [*made, picked, pipeline.with_selection(document, last)]

    def test_three_later_steps_stay_true(self):
        for weld in ("closed", "touching", "apart"):
            steps = self.chain("KETTLE", weld)
            before = pipeline.run_steps(steps)
            self.assertEqual([r.stopped for r in before], [""] * 4)
            anew = pipeline.run_steps([replace(steps[0], parameters={"text": "KETTLES OF", "weld": weld}), *steps[1:]])
            with self.subTest(weld):
                self.assertEqual([r.stopped for r in anew], [""] * 4)
                document = anew[-1].document
                backing = next(p for p in document.pieces if p.id.startswith("b:"))
                words = Path.concatenate(p.path for p in anew[0].document.pieces)
                box, own = bounds(backing.path), bounds(words)
                self.assertAlmostEqual(box[2] - box[0], own[2] - own[0] + 6.0, delta=0.01)

    def test_letters_keep_their_ids_and_what_was_done_by_hand(self):
        by_hand = {"E 2": {"turn": 12.0}, "T 2": {"up": 3.0}}
        ids = {}
        for text in ("KETTEL", "KETTLE", "A KETTLE"):
            made = set_words(text=text, weld="apart", letters=by_hand)
            ids[text] = {p.id for p in made.pieces}
            raised = next(p for p in made.pieces if p.id == "w:=54.2")
            stays = next(p for p in made.pieces if p.id == "w:=54.1")
            self.assertAlmostEqual(bounds(stays.path)[3] - bounds(raised.path)[3], 3.0, places=6)
        self.assertEqual(ids["KETTEL"], ids["KETTLE"])
        self.assertLess(ids["KETTLE"], ids["A KETTLE"])

    def test_letters_are_taken_hold_of_where_they_stand(self):
        for placing in ({"at": (150, 100)}, {"on": "arc", "radius_mm": 80.0}):
            for document in (PAGE, Document()):
                with self.subTest(placing=placing, paged=document.page is not None):
                    made = words(document, text="HOH", weld="apart", **placing)
                    boxes = {p.name + str(n): bounds(p.path) for n, p in enumerate(made.document.pieces)}
                    left = boxes["H0"]
                    spot = next(s for s in made.outcome.spots if s.id == "H 1")
                    self.assertEqual([s.id for s in made.outcome.spots], ["H 1", "O 1", "H 2"])
                    self.assertAlmostEqual(spot.size[1], 20.0, delta=0.01)
                    if "at" in placing:
                        self.assertAlmostEqual(spot.at[1], left[3], delta=1e-6)
                    self.assertLess(abs(spot.at[0] - (left[0] + left[2]) / 2), 0.3 * (left[2] - left[0]))

    def test_a_caption_stands_clear_above_the_design_whatever_its_size(self):
        design = pipeline.run_steps([Step("s", "shape", 1, {"kind": "circle", "width_mm": 40.0})])[0].document
        for size, radius in ((8.0, 60.0), (20.0, 40.0), (20.0, 500.0)):
            made = words(design, text="Reeds", on="above", size_mm=size, radius_mm=radius).document
            own = [bounds(p.path) for p in made.pieces if p.id.startswith("w:")]
            disc = next(bounds(p.path) for p in made.pieces if not p.id.startswith("w:"))
            gap = disc[1] - max(box[3] for box in own)
            self.assertTrue(2.0 < gap < 4.5, gap)
            self.assertAlmostEqual(
                (min(b[0] for b in own) + max(b[2] for b in own)) / 2, (disc[0] + disc[2]) / 2, delta=0.2 * size
            )
            self.assertGreaterEqual(min(box[1] for box in own), -0.5)

    def test_another_thing_in_the_place_of_a_piece_still_stops_a_step(self):
        """Only what words make keeps its meaning whatever it looks like."""
        ring = Step("s", "shape", 1, {"kind": "circle", "width_mm": 20.0, "at": [50, 50]})
        document = pipeline.run_steps([ring])[0].document
        move = pipeline.with_selection(
            document, Step("m", "place", 1, {"turn": 9.0}, {ON: Selection({document.pieces[0].id: None})})
        )
        changed = replace(ring, parameters={**ring.parameters, "width_mm": 90.0})
        self.assertIn("no longer what it was", pipeline.run_steps([changed, move])[-1].stopped)


class Faces(unittest.TestCase):
    def test_every_face_sets_its_own_words_twice_the_same(self):
        for face in FACES:
            text = {"secular": "שלום", "lalezar": "سلام"}.get(face.id, "Kettle")
            with self.subTest(face.id):
                first, again = (set_words(text=text, face=face.id) for _ in range(2))
                self.assertEqual([p.path.digest for p in first.pieces], [p.path.digest for p in again.pieces])

    def test_a_face_that_was_brought_is_read_by_its_hash(self):
        brought = {"a" * 64: data_of("serif"), "b" * 64: built(varied=True)}
        made = words(text="Kettle", face="a" * 64, font=brought.__getitem__)
        self.assertIn("Source Serif", made.outcome.title)
        wide = [
            bounds(whole(words(text="H", face="b" * 64, axes={"wght": w}, font=brought.__getitem__).document))
            for w in (100, 900)
        ]
        ratio = (wide[1][2] - wide[1][0]) / (wide[0][2] - wide[0][0])
        self.assertAlmostEqual(ratio, 1.2, places=6)
        self.assertIn("not at hand", words(text="Kettle", face="a" * 64).error.sentence)


class Refused(unittest.TestCase):
    def test_each_has_a_sentence_and_changes_nothing(self):
        for values, said in (
            ({"text": ""}, "nothing to set"),
            ({"text": "a\x07b"}, "control character"),
            ({"text": "x" * 10_001}, "10,000 letters"),
            ({"text": "\u4e2d"}, "has none of these letters"),
            ({"text": "x", "face": "teapot"}, "no face that is known"),
            ({"text": "x", "size_mm": 0.0}, "must lie between"),
            ({"text": "x", "size_by": "points"}, "from which point"),
            ({"text": "x", "size_by": "points", "points": [1, 1, 1, 1]}, "on each other"),
            ({"text": "x", "weld": "bar", "on": "arc"}, "A bar is straight"),
            ({"text": "a\nb", "each": True, "on": "arc"}, "straight line only"),
            ({"text": "x", "face": "line-plain", "copies": 2}, "no outline to be copied"),
            ({"text": "x", "letters": {"x": {"up": 1}}}, "does not say what is meant"),
            ({"text": "x", "letters": {"x 1": {"up": "high"}}}, "does not say what is meant"),
            ({"text": "x", "axes": {"wght": "bold"}}, "a number for each axis"),
            (
                {"text": "wide", "size_by": "width", "width_mm": 5.0, "spacing": "outlines", "apart_mm": 9.0},
                "more than the whole width",
            ),
        ):
            made = words(**values)
            with self.subTest(said):
                self.assertIsNotNone(made.error, values)
                self.assertIn(said, made.error.sentence)
                self.assertIs(made.document, PAGE)
