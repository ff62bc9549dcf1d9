"""The list of jobs: what it shows is kept with the revision, and deleted jobs can be brought back for thirty days."""

from datetime import timedelta
from unittest.mock import patch

from django.test import TestCase
from django.utils import timezone

from hakobu.errors import NotCompiled
from jobs import history, listing
from jobs.conditions import conditions_for
from jobs.models import Job
from jobs.results import findings_of
from jobs.summary import keep_missing

from .test_history import MEND, begin, revise


class Summaries(TestCase):
    def test_follow_each_revision_and_what_is_set_aside(self):
        job = begin()
        self.assertEqual((job.head.summary["pieces"], job.head.summary["waiting"]), (3, 1))
        revise(job, MEND)
        self.assertEqual((job.head.summary["pieces"], job.head.summary["waiting"]), (2, 0))
        history.move_head(job, job.head_id, "undo")
        job.refresh_from_db()
        self.assertEqual(job.head.summary["waiting"], 1)
        (key,) = [f.key for f in findings_of(job.head.document_id, conditions_for(job.head)) if f.level != "note"]
        revise(job, settings={"set_aside": [key]})
        self.assertEqual(job.head.summary["waiting"], 0)

    def test_what_could_not_be_computed_then_is_made_good(self):
        with patch("jobs.summary.findings_of", side_effect=NotCompiled("Not compiled.")):
            job = begin()
        self.assertIsNone(job.head.summary["waiting"])
        keep_missing()
        self.assertEqual(Job.objects.get(pk=job.pk).head.summary["waiting"], 1)


class Listed(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.jobs = [history.create_job(name) for name in ("Moon for the lantern", "Heron", "Lantern frame")]

    def names(self, **asked) -> list[str]:
        return [job.name for job in listing.found(**asked)]

    def test_by_words_and_in_an_order(self):
        self.assertEqual(self.names(), ["Lantern frame", "Heron", "Moon for the lantern"])
        self.assertEqual(self.names(sort="name"), ["Heron", "Lantern frame", "Moon for the lantern"])
        self.assertEqual(self.names(search="LANTERN moon"), ["Moon for the lantern"])
        faulty = begin()
        self.assertEqual(self.names(sort="waiting")[0], faulty.name)

    def test_deleted_jobs_are_apart_and_come_back(self):
        ids = [job.pk for job in self.jobs[:2]]
        self.assertEqual(listing.delete(ids), 2)
        self.assertEqual(listing.delete(ids), 0)
        self.assertEqual(self.names(), ["Lantern frame"])
        self.assertEqual(set(self.names(deleted=True)), {"Moon for the lantern", "Heron"})
        self.assertEqual(listing.bring_back(ids[:1]), 1)
        self.assertEqual(len(self.names()), 2)

    def test_after_thirty_days_they_go_for_good(self):
        job, demo = begin(), history.create_job("Demo", "demo/x.svg")
        listing.delete([job.pk, demo.pk])
        for days, there in ((29, True), (31, False)):
            Job.objects.filter(pk__in=[job.pk, demo.pk]).update(deleted=timezone.now() - timedelta(days=days))
            listing.delete([])
            self.assertEqual(Job.objects.filter(pk=job.pk).exists(), there)
        self.assertTrue(Job.objects.filter(pk=demo.pk).exists(), "or the demo would be loaded again")
