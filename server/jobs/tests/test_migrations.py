"""Kept jobs after a change of how they are kept."""

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase

from jobs.models import Job
from jobs.store import keep_document, load_document

from .test_history import begin, revise


def migrate(name: str) -> None:
    executor = MigrationExecutor(connection)
    executor.migrate([("jobs", name)])


class LayersBySteps(TransactionTestCase):
    def tearDown(self):
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def test_what_was_set_of_layers_becomes_steps_and_the_design_stays(self):
        job = begin()
        layer = load_document(job.head.document_id).layers[0]
        migrate("0004_revision_token")
        said = {layer.id: {"treatment": "score", "color": "#b5653c", "hidden": True}, "gone": {"name": "X"}}
        document = load_document(job.head.document_id).with_layers(said)
        job.head.settings = {"layers": said}
        job.head.document_id = keep_document(document)
        job.head.save()
        migrate("0005_layers_by_steps")
        job = Job.objects.get(pk=job.pk)
        self.assertEqual(job.head.settings, {"layers": {layer.id: {"hidden": True}}})
        row = job.head.steps.last()
        self.assertEqual((row.step.operation, row.step.parameters["treatment"]), ("layer", "score"))
        self.assertEqual(row.result.document_id, job.head.document_id)
        # A step on top finds the kept result and is done on what it made.
        after = revise(job, {"operation": "resize", "parameters": {"factor": 2.0}})
        self.assertEqual(load_document(after.document_id).layers[0].treatment, "score")
        self.assertEqual(after.steps.count(), 3)
