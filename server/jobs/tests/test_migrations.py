"""Kept jobs after a change of how they are kept."""

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase

from jobs.models import Job
from jobs.store import keep_document, load_document

from .test_history import begin, revise


def migrated(*targets: tuple[str, str]):
    """The models as they are after migrations to some states."""
    executor = MigrationExecutor(connection)
    executor.migrate(list(targets) or executor.loader.graph.leaf_nodes())
    executor.loader.build_graph()
    return executor.loader.project_state(list(targets) or executor.loader.graph.leaf_nodes()).apps


class LayersBySteps(TransactionTestCase):
    def tearDown(self):
        migrated()

    def test_what_was_set_of_layers_becomes_steps_and_the_design_stays(self):
        job = begin()
        digest = job.head.document_id
        layer = load_document(digest).layers[0]
        said = {layer.id: {"treatment": "score", "color": "#b5653c", "hidden": True}, "gone": {"name": "X"}}
        settled = keep_document(load_document(digest).with_layers(said))
        revisions = migrated(("jobs", "0004_revision_token")).get_model("jobs", "Revision").objects
        revisions.filter(pk=job.head_id).update(settings={"layers": said}, document=settled)
        migrated()
        job = Job.objects.get(pk=job.pk)
        self.assertEqual(job.head.settings, {"layers": {layer.id: {"hidden": True}}})
        row = job.head.steps.last()
        self.assertEqual((row.step.operation, row.step.parameters["treatment"]), ("layer", "score"))
        self.assertEqual((row.result.document_id, job.head.document_id), (settled, settled))
        # A step on top finds the kept result and is done on what it made.
        after = revise(job, {"operation": "resize", "parameters": {"factor": 2.0}})
        self.assertEqual(load_document(after.document_id).layers[0].treatment, "score")
        self.assertEqual(after.steps.count(), 3)
