"""Jobs: revisions are added at the head, undo and redo move it, and nothing accepted is lost or silently changed."""

from unittest.mock import patch

from django.test import TestCase, TransactionTestCase

from hakobu.errors import BadRequest, CannotDo, Changed, NotThere, UnreadableFile
from hakobu.geometry import Path
from hakobu.model import codec
from jobs import history
from jobs.conditions import conditions_for
from jobs.models import Blob, Job, Revision, StepVersion
from jobs.results import findings_of
from jobs.revision_settings import checked_settings
from jobs.step_requests import steps_from_request
from jobs.store import forget_documents, keep_document, load_document

TWICE = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">
<path d="M10 10H40V40H10Z"/><path d="M10 10H40V40H10Z"/><circle cx="70" cy="70" r="9"/></svg>"""


def begin(data: bytes = TWICE, name: str = "twice.svg") -> Job:
    job = history.create_job("Twice")
    history.bring_in(job, job.head_id, name, data)
    job.refresh_from_db()
    return job


def steps(job: Job, *more: dict) -> list:
    keys = [{"key": row.step.key} for row in job.head.steps.all()]
    return steps_from_request(job, job.head_id, [*keys, *more])[0]


def revise(job: Job, *more: dict, settings: dict | None = None) -> Revision:
    base = job.head.settings if settings is None else settings
    revision = history.add_revision(job, job.head_id, steps(job, *more), base)
    job.refresh_from_db()
    return revision


MEND = {"operation": "mend", "parameters": {}}


class Revisions(TestCase):
    def test_a_job_begins_empty_and_keeps_its_source_untouched(self):
        job = begin()
        self.assertEqual(job.head.parent.steps.count(), 0)
        self.assertEqual(bytes(job.sources.get().blob.data), TWICE)
        self.assertEqual(job.head.what, "twice.svg brought in")

    def test_a_step_is_a_new_revision_and_the_old_one_stays(self):
        job = begin()
        before = job.head
        after = revise(job, MEND)
        self.assertEqual((after.parent, after.what), (before, "Mended: A line is cut twice"))
        pieces = [len(load_document(r.document_id).pieces) for r in (before, after)]
        self.assertEqual(pieces, [3, 2])
        self.assertEqual([findings_of(r.document_id, conditions_for(r)) != [] for r in (before, after)], [True, False])

    def test_a_mend_keeps_what_the_design_was_held_against(self):
        job = begin()
        settings = checked_settings({"material": "black-card", "limits": {"least_strip_mm": 2.0}})
        history.add_revision(job, job.head_id, [r.step.as_step() for r in job.head.steps.all()], settings)
        job.refresh_from_db()
        after = revise(job, MEND)
        held = after.steps.last().step.parameters["conditions"]
        self.assertEqual((held["material"]["id"], held["material"]["least_strip_mm"]), ("black-card", 2.0))
        # Another material later leaves the step as it was made.
        kept = [{"key": row.step.key} for row in after.steps.all()]
        again, _ = steps_from_request(job, after.pk, kept, {"material": "felt"})
        self.assertEqual(again[-1].parameters["conditions"], held)

    def test_what_a_design_is_held_against_is_checked(self):
        for wrong in ({"purpose": "nonsense"}, {"material": "lead"}, {"limits": {"least_gap_mm": -1.0}}):
            with self.assertRaises(BadRequest):
                checked_settings(wrong)

    def test_undo_and_redo_walk_the_line_and_stop_at_its_ends(self):
        job = begin()
        revise(job, MEND)
        line = [job.head_id, job.head.parent_id, job.head.parent.parent_id]
        for expected in line[1:]:
            history.move_head(job, job.head_id, "undo")
            job.refresh_from_db()
            self.assertEqual(job.head_id, expected)
        with self.assertRaisesRegex(CannotDo, "nothing to undo"):
            history.move_head(job, job.head_id, "undo")
        for expected in (line[1], line[0]):
            history.move_head(job, job.head_id, "redo")
            job.refresh_from_db()
            self.assertEqual(job.head_id, expected)
        with self.assertRaisesRegex(CannotDo, "nothing to redo"):
            history.move_head(job, job.head_id, "redo")

    def test_a_new_step_after_undo_leaves_the_old_line_in_place(self):
        job = begin()
        abandoned = revise(job, MEND)
        history.move_head(job, job.head_id, "undo")
        job.refresh_from_db()
        revise(job, {"operation": "resize", "parameters": {"factor": 2.0}})
        self.assertIsNone(history.next_towards_tip(job))
        self.assertTrue(Revision.objects.filter(pk=abandoned.pk).exists())

    def test_the_later_of_two_writers_is_told(self):
        job = begin()
        seen = job.head_id
        revise(job, MEND)
        with self.assertRaises(Changed):
            history.add_revision(job, seen, steps_from_request(job, seen, [MEND])[0], {})
        with self.assertRaises(Changed):
            history.move_head(job, seen, "undo")
        with self.assertRaises(NotThere):
            history.add_revision(job, begin().head_id, [], {})

    def test_steps_are_switched_off_changed_and_taken_out(self):
        job = begin()
        revise(job, MEND)
        bring, mend = (row.step.key for row in job.head.steps.all())
        for items, pieces, what in (
            ([{"key": bring}, {"key": mend, "enabled": False}], 3, "Mend: switched off"),
            ([{"key": bring}, {"key": mend, "enabled": True}], 2, "Mend: switched on"),
            ([{"key": bring}, {"key": mend, "parameters": {"tolerance_mm": 0.1}}], 2, "Mend: changed"),
            ([{"key": bring}], 3, "A step taken out"),
        ):
            chain, _ = steps_from_request(job, job.head_id, items)
            revision = history.add_revision(job, job.head_id, chain, {})
            job.refresh_from_db()
            self.assertEqual((len(load_document(revision.document_id).pieces), revision.what), (pieces, what))

    def test_a_later_step_that_stops_is_kept_with_its_mark(self):
        job = begin()
        key = findings_of(job.head.document_id, conditions_for(job.head))[0].key
        revise(
            job,
            {"operation": "resize", "parameters": {"factor": 1.0}},
            {"operation": "mend", "parameters": {"keys": [key]}},
        )
        bring, size, mend = (row.step.key for row in job.head.steps.all())
        items = [{"key": bring}, {"key": size, "parameters": {"factor": 3.0}}, {"key": mend}]
        revision = history.add_revision(job, job.head_id, steps_from_request(job, job.head_id, items)[0], {})
        self.assertIn("no longer there", revision.steps.last().stopped)
        self.assertEqual(load_document(revision.document_id).size_mm[0], 207)

    def test_a_new_step_that_cannot_be_done_leaves_no_trace(self):
        job = begin()
        before = Revision.objects.count(), StepVersion.objects.count()
        with self.assertRaises(CannotDo):
            revise(job, {"operation": "mend", "parameters": {"keys": ["gone"]}})
        with self.assertRaises(BadRequest):
            revise(job, {"operation": "resize", "parameters": {"factor": "big"}})
        self.assertEqual((Revision.objects.count(), StepVersion.objects.count()), before)

    def test_an_unreadable_file_leaves_the_job_and_its_sources_as_they_were(self):
        job = begin()
        with self.assertRaises(UnreadableFile):
            history.bring_in(job, job.head_id, "bad.svg", TWICE[:-10])
        job.refresh_from_db()
        self.assertEqual((job.sources.count(), job.head.what), (1, "twice.svg brought in"))

    def test_a_source_of_another_job_is_not_reached(self):
        other = begin().sources.get().blob_id
        job = history.create_job("Mine")
        with self.assertRaises(NotThere):
            revise(job, {"operation": "bring-in", "parameters": {"source": other}})

    def test_settings_are_checked(self):
        for bad in ({"material": "gold"}, {"machine": "gold"}, {"layers": {"x": {"treatment": "score"}}}):
            with self.assertRaises(BadRequest):
                checked_settings(bad)
        seen = {"layers": {"x": {"hidden": True}}}
        self.assertEqual(checked_settings(seen), seen)

    def test_what_is_set_of_a_layer_is_a_step(self):
        job = begin()
        layer = load_document(job.head.document_id).layers[0].id
        revision = revise(job, {"operation": "layer", "parameters": {"layer": layer, "treatment": "score"}})
        self.assertEqual(load_document(revision.document_id).layers[0].treatment.value, "score")
        self.assertTrue(revision.what.endswith("is scored"))


class Results(TestCase):
    def test_a_known_result_is_not_worked_out_again(self):
        job = begin()
        revise(job, MEND)
        with patch("jobs.results.pipeline.run_step", side_effect=AssertionError("worked out again")):
            history.move_head(job, job.head_id, "undo")
            job.refresh_from_db()
            keys = [{"key": row.step.key} for row in job.tip.steps.all()]
            chain, _ = steps_from_request(job, job.tip_id, keys)
            history.add_revision(job, job.head_id, chain[:1], {})

    def test_findings_are_kept(self):
        job = begin()
        first = findings_of(job.head.document_id, conditions_for(job.head))
        with patch("jobs.results.check", side_effect=AssertionError("checked again")):
            self.assertEqual(findings_of(job.head.document_id, conditions_for(job.head)), first)

    def test_a_step_stores_only_the_paths_it_changed(self):
        job = begin()
        before = Blob.objects.count()
        revise(job, MEND)
        self.assertEqual(Blob.objects.count(), before)
        revise(job, {"operation": "resize", "parameters": {"factor": 2.0}})
        self.assertEqual(Blob.objects.count(), before + 2)

    def test_documents_come_back_to_the_bit(self):
        document = load_document(begin().head.document_id)
        forget_documents()
        self.assertEqual(load_document(keep_document(document)), document)
        stored = Blob.objects.get(pk=document.pieces[0].path.digest)
        self.assertEqual(codec.path_from_bytes(bytes(stored.data)), document.pieces[0].path)
        self.assertIsInstance(document.pieces[0].path, Path)


class Atomic(TransactionTestCase):
    def test_a_failure_in_the_middle_of_a_step_keeps_what_was_accepted(self):
        job = begin()
        head = job.head_id
        with (
            patch("jobs.history._place_steps", side_effect=RuntimeError("pulled the plug")),
            self.assertRaises(RuntimeError),
        ):
            revise(job, MEND)
        job.refresh_from_db()
        self.assertEqual((job.head_id, job.tip_id, job.revisions.count()), (head, head, 2))
        self.assertFalse(StepVersion.objects.filter(operation="mend").exists())
        revise(job, MEND)
        self.assertEqual(len(load_document(job.head.document_id).pieces), 2)

    def tearDown(self):
        forget_documents()
