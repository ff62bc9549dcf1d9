"""Jobs out of a dump of an earlier database open, with the design and the steps that they had."""

import gzip
from pathlib import Path

from django.db import connection, transaction
from django.test import TransactionTestCase

from hakobu.model.statistics import statistics_of
from jobs.models import Job
from jobs.store import load_document

from .test_history import revise
from .test_migrations import migrated

#: Rows of five demo jobs, as INSERT statements, of the tables as migration 0008 leaves them.
DUMP = Path(__file__).parent / "data" / "jobs-at-0008.sql.gz"
#: The begin of the hash of each design, its nodes, and what each step stated, as they were when it was dumped.
JOBS = {
    "Frame for a name": ("6509b420d951", 8, {"nodes": 8, "width_mm": 177.8, "height_mm": 127.0}),
    "Capital for the prop crate": ("6067b962d14c", 50, {"nodes": 50, "width_mm": 110.0, "height_mm": 100.0}),
    "Frame of the lantern": ("78c28fe9f609", 54, {"pieces": 20, "layers": 2, "width_mm": 250.0}),
    "KETTLE": ("2d93babc6d81", 58, {"letters": 6, "capitals_mm": 20.0}),
    "Stencil moon": ("39feddf62133", 48, {"unit": "px", "pieces": 9, "width_mm": 120.65}),
}


class Dump(TransactionTestCase):
    def setUp(self):
        migrated(("jobs", "0008_selection_modes"))
        with transaction.atomic(), connection.cursor() as cursor:
            for line in gzip.decompress(DUMP.read_bytes()).decode().splitlines():
                cursor.execute(line)
        migrated()
        self.reset_sequences()

    def reset_sequences(self):
        tables = ("jobs_result", "jobs_revision", "jobs_revisionstep", "jobs_source", "jobs_stepversion")
        with connection.cursor() as cursor:
            for table in tables:
                cursor.execute(f"select setval(pg_get_serial_sequence('{table}', 'id'), max(id)) from {table}")

    def test_each_job_opens_as_it_was_and_can_be_worked_on(self):
        self.assertEqual(set(Job.objects.values_list("name", flat=True)), set(JOBS))
        for name, (digest, nodes, stated) in JOBS.items():
            with self.subTest(name):
                job = Job.objects.get(name=name)
                shown = self.client.get(f"/api/jobs/{job.pk}").json()["head"]
                self.assertEqual((shown["document"][:12], shown["statistics"]["nodes"]), (digest, nodes))
                self.assertLessEqual(stated.items(), shown["steps"][0]["statistics"].items())
                drawn = self.client.get(f"/api/jobs/{job.pk}/documents/{shown['document']}/drawing")
                self.assertEqual(drawn.status_code, 200)
                after = revise(job, {"operation": "resize", "parameters": {"factor": 2.0}})
                self.assertEqual(statistics_of(load_document(after.document_id)).nodes, nodes)
                self.assertAlmostEqual(after.steps.last().result.statistics["factor"], 2.0)
