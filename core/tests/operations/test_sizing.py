"""Sizing while steps keep their numbers: the end has the typed size, rims and rivet holes keep theirs."""

import unittest
from dataclasses import replace

import numpy as np

from hakobu import pipeline
from hakobu.errors import CannotDo
from hakobu.geometry import bounds, features
from hakobu.model import Document, Step
from hakobu.model.features import covered
from hakobu.model.step import ON, Selection
from hakobu.operations import operation_of
from hakobu.sizing import resized_chain, sized_with_kept, sizes_in_words, sizes_of


class Job:
    """Steps one after the other, each with the document before it, as a job keeps them."""

    def __init__(self):
        self.steps: list[Step] = []
        self.documents = [Document()]

    def take(self, operation: str, on=None, key: str = "", **values) -> str:
        key = key or f"k{len(self.steps)}"
        chosen = {ON: Selection(dict.fromkeys(on))} if on else {}
        step = Step(key, operation, operation_of(operation).version, values, chosen)
        step = pipeline.with_selection(self.documents[-1], step)
        made = pipeline.run_step(self.documents[-1], step)
        assert not made.stopped, made.stopped
        self.steps.append(step)
        self.documents.append(made.document)
        return key

    def sized(self, kept, **wish):
        kind = "size-by" if "feature" in wish else "resize"
        step = Step("size", kind, operation_of(kind).version, wish)
        return sized_with_kept(self.steps, self.documents, step, set(kept), pipeline.run_step)

    @property
    def ids(self):
        return [piece.id for piece in self.documents[-1].pieces]


def puppet() -> Job:
    """A plate with two rivet holes of 4 mm cut out of it, a word on it, and a rim of 3 mm."""
    job = Job()
    job.take("shape", kind="rectangle", width_mm=100.0, height_mm=60.0, at=[60.0, 40.0], key="plate")
    for key, at in (("rivet", [20.0, 20.0]), ("rivet2", [100.0, 60.0])):
        job.take("shape", kind="circle", width_mm=4.0, at=at, key=key)
        job.take("combine", job.ids, mode="cut-away")
    job.take("rim", job.ids, "rim", distance_mm=3.0)
    return job


def holes(document: Document) -> np.ndarray:
    """Boxes (N, 4) of all round holes up to 12 mm."""
    paths = [covered(piece) for piece in document.pieces]
    return np.array([bounds(path.take([k])) for path in paths for k in features.round_holes(path, 12.0)])


class Kept(unittest.TestCase):
    def test_rivet_holes_stay_and_the_typed_size_is_met(self):
        job, random = puppet(), np.random.default_rng(11)
        for _ in range(12):
            width = float(random.uniform(60, 900))
            made = job.sized({"rivet", "rivet2", "rim"}, width_mm=width)
            self.assertAlmostEqual(made.document.size_mm[0], width, delta=1e-6)
            found = holes(made.document)
            self.assertGreaterEqual(len(found), 2)
            np.testing.assert_allclose(found[:, 2:] - found[:, :2], 4.0, atol=1e-6)

    def test_a_rim_stays_while_the_rest_follows(self):
        job = puppet()
        for width in (53.0, 106.0, 500.0):
            made = job.sized({"rim"}, width_mm=width)
            boxes = sorted((p.path and bounds(p.path) for p in made.document.pieces), key=lambda box: box[0] - box[2])
            outer, inner = boxes[0], boxes[-1]
            self.assertAlmostEqual((outer[2] - outer[0]) - (inner[2] - inner[0]), 6.0, places=5)
            self.assertIn("Lay a rim (distance 3 mm)", made.note)
            self.assertIn("stayed", made.note)

    def test_steps_that_do_not_stay_follow_as_the_whole_does(self):
        """Places and lengths after the kept step: as a sizing at the end would have them."""
        job = puppet()
        at_end = pipeline.run_step(job.documents[-1], Step("s", "resize", 3, {"factor": 2.5})).document
        made = job.sized({"rivet"}, factor=2.5)
        self.assertEqual([step.key for step in made.steps], ["plate", "size", "rivet", "k2", "rivet2", "k4", "rim"])
        np.testing.assert_allclose(made.document.box, at_end.box, atol=1e-6)
        found, expected = holes(made.document), holes(at_end)
        middle = (expected[:, 2:] + expected[:, :2]) / 2
        np.testing.assert_allclose((found[:, 2:] + found[:, :2]) / 2, middle, atol=1e-6)
        np.testing.assert_allclose(sorted(found[:, 2] - found[:, 0]), [4.0, 10.0], atol=1e-6)

    def test_a_feature_is_met_while_a_rim_stays(self):
        job = puppet()
        made = job.sized({"rim"}, feature="hole", at=[20.0, 20.0], to_mm=9.0)
        # The rim lies in the holes, too: it leaves 3 mm.
        found = holes(made.document)
        np.testing.assert_allclose(sorted(found[:, 2] - found[:, 0]), [3.0, 3.0, 9.0, 9.0], atol=1e-6)
        left, _, right, _ = made.document.box
        self.assertAlmostEqual(right - left, 225.0 + 6.0, places=5)

    def test_earlier_sizings_after_a_kept_step_are_merged(self):
        job = puppet()
        job.take("resize", width_mm=212.0)
        made = job.sized({"rim"}, width_mm=318.0)
        self.assertEqual([step.operation for step in made.steps].count("resize"), 1)
        self.assertAlmostEqual(made.document.size_mm[0], 318.0, delta=1e-6)

    def test_steps_after_a_changed_sizing_follow_and_keep_their_numbers(self):
        job = Job()
        job.take("shape", kind="rectangle", width_mm=100.0, height_mm=60.0, at=[60.0, 40.0], key="plate")
        job.take("resize", width_mm=150.0, key="size")
        job.take("shape", kind="circle", width_mm=4.0, at=[30.0, 30.0], key="rivet")
        job.take("combine", job.ids, mode="cut-away")
        job.take("rim", job.ids, "rim", distance_mm=3.0)
        changed = list(job.steps)
        changed[1] = replace(changed[1], parameters={"width_mm": 300.0})
        made = resized_chain(changed, job.documents, 1, pipeline.run_step)
        results = pipeline.run_steps(made)
        self.assertEqual([result.stopped for result in results], [""] * 5)
        self.assertAlmostEqual(results[-1].document.size_mm[0], 306.0, places=6)
        (box,) = holes(results[3].document)
        np.testing.assert_allclose(box, [58.0, 58.0, 62.0, 62.0], atol=1e-6)
        # Unchanged, the last of them would have found another shape than it was for, and stopped.
        self.assertIn("no longer what it was", [result.stopped for result in pipeline.run_steps(changed)][3])

    def test_what_is_said_of_steps(self):
        job = puppet()
        self.assertEqual(sizes_in_words(job.steps[1]), "Draw a figure (width 4 mm)")
        self.assertEqual(dict(sizes_of(job.steps[2])), {})

    def test_what_cannot_be_done_is_said(self):
        job = puppet()
        with self.assertRaisesRegex(CannotDo, "None of the steps"):
            job.sized({"nobody"}, width_mm=50.0)
        gone = replace(job.steps[-1], selection={ON: Selection(dict.fromkeys(["x:y"]))})
        job.steps[-1] = gone
        with self.assertRaisesRegex(CannotDo, "no longer there"):
            job.sized({"rivet"}, width_mm=50.0)
