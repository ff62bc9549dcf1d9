"""Work in the queue: begun, followed, stopped, lost and found again, and kept only once."""

import tempfile
import threading
import time
from datetime import timedelta
from unittest import mock

from django.db import connection
from django.test import TestCase, TransactionTestCase
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from hakobu.model import Step
from jobs import children, cost, history, runs, tasks
from jobs.models import Blob, Job, Run
from jobs.store import keep_blob, load_document

TWICE = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">
<path d="M10 10H40V40H10Z"/><path d="M10 10H40V40H10Z"/></svg>"""
ROUND = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">
<path d="M10 10C30 0 40 20 40 40C20 50 0 30 10 10Z"/></svg>"""
MEND = Step("m", "mend", 1, {})


def begun(data: bytes = TWICE) -> Job:
    job = history.create_job("Twice")
    history.bring_in(job, job.head_id, "twice.svg", data)
    job.refresh_from_db()
    return job


def asked(job: Job, *more: Step) -> Run:
    steps = [row.step.as_step() for row in job.head.steps.select_related("step")]
    return runs.ask_revision(job, job.head_id, [*steps, *more], {}, {})


def state(run: Run) -> str:
    run.refresh_from_db()
    return run.state


class Asking(TestCase):
    def test_puts_one_job_in_the_queue_with_its_row(self):
        run = asked(begun(), MEND)
        queued = ProcrastinateJob.objects.get(pk=run.queue_id)
        self.assertEqual(
            (queued.task_name, queued.args, run.state), ("jobs.tasks.work", {"run": str(run.pk)}, "waiting")
        )

    def test_a_check_that_is_on_its_way_is_not_asked_for_twice(self):
        job = begun()
        first = runs.ask_check(job, job.head)
        self.assertEqual(runs.ask_check(job, job.head), first)

    def test_cost_counts_only_what_is_not_known(self):
        job = begun()
        steps = [row.step.as_step() for row in job.head.steps.select_related("step")]
        self.assertEqual(cost.of_steps(job, steps, {}), 0.0)
        self.assertGreater(cost.of_steps(job, [*steps, MEND], {}), 0.0)
        self.assertGreater(cost.of_file(bytes(3 * 2**20)), cost.LONG)
        brought = Step("n", "bring-in", 1, {"source": keep_blob(b" " * 4 * 2**20), "name": "large.svg"})
        self.assertGreater(cost.of_steps(job, [*steps, brought], {}), cost.LONG)
        # What a small design holds was looked at when it was made.
        self.assertEqual(cost.of_check(job.head), 0.0)
        job.head.settings = {"material": "felt"}
        self.assertGreater(cost.of_check(job.head), 0.0)


class Attempts(TestCase):
    def test_what_is_done_is_a_new_head(self):
        job = begun()
        run = asked(job, MEND)
        runs.carry_out(str(run.pk), runs.begin(str(run.pk)))
        job.refresh_from_db()
        self.assertEqual(
            (state(run), job.head.what, len(load_document(job.head.document_id).pieces)),
            ("done", "Mended: A line is cut twice", 1),
        )

    def test_an_older_attempt_brings_nothing(self):
        job = begun()
        run = asked(job, MEND)
        first, second = runs.begin(str(run.pk)), runs.begin(str(run.pk))
        before = job.revisions.count()
        runs.carry_out(str(run.pk), first)
        self.assertEqual((job.revisions.count(), state(run)), (before, "running"))
        runs.carry_out(str(run.pk), second)
        self.assertEqual((job.revisions.count(), state(run)), (before + 1, "done"))
        runs.carry_out(str(run.pk), second)
        self.assertEqual(job.revisions.count(), before + 1)

    def test_an_attempt_that_is_overtaken_at_the_very_end_is_refused(self):
        job = begun()
        run = asked(job, MEND)
        attempt = runs.begin(str(run.pk))
        revise = history.add_revision

        def late(*args, fence, **more):
            runs.begin(str(run.pk))
            return revise(*args, fence=fence, **more)

        before = job.revisions.count()
        with mock.patch.object(history, "add_revision", late):
            runs.carry_out(str(run.pk), attempt)
        self.assertEqual((job.revisions.count(), state(run)), (before, "running"))

    def test_no_more_than_three(self):
        run = asked(begun(), MEND)
        self.assertEqual([runs.begin(str(run.pk)) for _ in range(4)], [1, 2, 3, None])
        self.assertEqual((state(run), run.error["code"]), ("failed", "lost"))

    def test_what_cannot_be_done_fails_with_its_sentence(self):
        job = begun()
        run = asked(job, Step("x", "mend", 1, {"keys": ["duplicate-line-none"]}))
        runs.carry_out(str(run.pk), runs.begin(str(run.pk)))
        self.assertEqual(state(run), "failed")
        self.assertIn("no longer there", run.error["sentence"])

    def test_somebody_elses_change_in_between_is_told(self):
        job = begun()
        run = asked(job, MEND)
        history.add_revision(job, job.head_id, [], {})
        runs.carry_out(str(run.pk), runs.begin(str(run.pk)))
        self.assertEqual((state(run), run.error["code"]), ("failed", "changed-meanwhile"))

    def test_a_new_job_whose_file_cannot_be_read_is_not_kept(self):
        job = history.create_job("Broken")
        request = {"based_on": job.head_id, "name": "a.svg", "unit": None, "blob": keep_blob(b"<svg"), "new_job": True}
        run = runs.ask(job, "bring-in", request)
        runs.carry_out(str(run.pk), runs.begin(str(run.pk)))
        self.assertEqual((state(run), run.job_id, Job.objects.filter(pk=job.pk).exists()), ("failed", None, False))

    def test_a_file_is_brought_in(self):
        job = history.create_job("Twice")
        request = {
            "based_on": job.head_id,
            "name": "twice.svg",
            "unit": None,
            "blob": keep_blob(TWICE),
            "new_job": True,
        }
        run = runs.ask(job, "bring-in", request)
        runs.carry_out(str(run.pk), runs.begin(str(run.pk)))
        job.refresh_from_db()
        self.assertEqual((state(run), job.sources.count(), job.head.steps.count()), ("done", 1, 1))

    def test_a_check_is_kept(self):
        job = begun()
        run = runs.ask_check(job, job.head)
        runs.carry_out(str(run.pk), runs.begin(str(run.pk)))
        self.assertEqual((state(run), cost.of_check(job.head)), ("done", 0.0))


class Stopping(TestCase):
    def test_a_stopped_run_is_over_at_once_and_brings_nothing(self):
        job = begun()
        run = asked(job, MEND)
        attempt = runs.begin(str(run.pk))
        runs.cancel(run)
        self.assertEqual(state(run), "cancelled")
        before = job.revisions.count()
        runs.carry_out(str(run.pk), attempt)
        self.assertEqual((state(run), job.revisions.count(), runs.begin(str(run.pk))), ("cancelled", before, None))

    def test_what_is_over_cannot_be_stopped(self):
        job = begun()
        run = asked(job, MEND)
        runs.carry_out(str(run.pk), runs.begin(str(run.pk)))
        runs.cancel(run)
        self.assertEqual(state(run), "done")


class Context:
    """What procrastinate hands a task, as far as ours looks at it."""

    def __init__(self, abort: bool = False) -> None:
        self.should_abort = lambda: abort


class Slow:
    """A child that never answers, or is lost at once; it works as long as it is said to with each look."""

    def __init__(self, lost: bool, seconds_each: float = 0.0) -> None:
        self.lost, self.killed, self.alive = lost, False, False
        self._looks, self._each = 0, seconds_each

    def ask(self, run, attempt) -> None: ...

    def answered(self, seconds) -> bool:
        self._looks += 1
        return self.lost

    def seconds(self) -> float:
        return self._looks * self._each

    def kill(self) -> None:
        self.killed = True


class Tasks(TestCase):
    def test_a_stopped_task_ends_its_child_and_says_so(self):
        run, child = asked(begun(), MEND), Slow(lost=False)
        with mock.patch.object(children, "Child", lambda: child), self.assertRaises(tasks.JobAborted):
            tasks.work.func(Context(abort=True), run=str(run.pk))
        self.assertTrue(child.killed)

    def test_work_that_nobody_waits_for_any_more_is_ended(self):
        job, child = begun(), Slow(lost=False)
        run = runs.ask_check(job, job.head)
        Run.objects.filter(pk=run.pk).update(asked=timezone.now() - runs.FORGOTTEN - timedelta(seconds=1))
        with mock.patch.object(children, "Child", lambda: child), self.assertRaises(tasks.JobAborted):
            tasks.work.func(Context(), run=str(run.pk))
        self.assertEqual((child.killed, state(run)), (True, "cancelled"))

    def test_work_that_takes_too_long_is_ended_and_says_so(self):
        run, child = asked(begun(), MEND), Slow(lost=False, seconds_each=tasks.MOST_SECONDS)
        with mock.patch.object(children, "Child", lambda: child):
            tasks.work.func(Context(), run=str(run.pk))
        self.assertEqual((child.killed, state(run), run.error["code"]), (True, "failed", "too-much"))

    def test_a_lost_child_is_tried_again_up_to_the_limit(self):
        run = asked(begun(), MEND)
        with mock.patch.object(children, "Child", lambda: Slow(lost=True)):
            for _ in range(runs.MOST_ATTEMPTS):
                with self.assertRaises(children.ChildLost):
                    tasks.work.func(Context(), run=str(run.pk))
        self.assertEqual((state(run), run.error["code"]), ("failed", "lost"))


class RealWorker(TransactionTestCase):
    """A worker of procrastinate's, with a child process of ours, on the database of the tests."""

    def setUp(self):
        self.empty()
        self.addCleanup(self.empty)
        self.addCleanup(self.end_children)

    def end_children(self):
        for child in children.CHILDREN._idle:
            child.kill()
        children.CHILDREN._idle.clear()

    def empty(self):
        # Procrastinate's tables are not Django's to clear.
        with connection.cursor() as cursor:
            cursor.execute("truncate procrastinate_jobs cascade")

    def work(self) -> None:
        environment = {"PGDATABASE": connection.settings_dict["NAME"]}
        with (
            mock.patch.dict("os.environ", environment),
            app.replace_connector(app.connector.get_worker_connector()) as w,
        ):
            w.run_worker(wait=False, install_signal_handlers=False, listen_notify=False)

    def test_carries_out_what_is_in_the_queue(self):
        job = begun()
        run = asked(job, MEND)
        worker = threading.Thread(target=self.work)
        worker.start()
        worker.join(180)
        job.refresh_from_db()
        self.assertEqual((state(run), run.attempt, job.head.what), ("done", 1, "Mended: A line is cut twice"))

    def test_a_packing_that_is_enough_is_kept_as_it_is_by_then(self):
        job = begun(ROUND)
        values = {"arrange": "packed", "copies": 30, "seconds": 60.0, "width_mm": 2000.0, "height_mm": 2000.0}
        run = asked(job, Step("s", "sheets", 1, values))
        worker = threading.Thread(target=self.work)
        worker.start()
        end = time.monotonic() + 120
        while not Run.objects.get(pk=run.pk).so_far and time.monotonic() < end:
            time.sleep(0.05)
        runs.settle(run)
        worker.join(180)
        self.assertEqual(state(run), "done")
        job.refresh_from_db()
        (sheet,) = load_document(job.head.document_id).sheets
        self.assertEqual(len(Run.objects.get(pk=run.pk).so_far[sheet.id]), len(sheet.placements))

    def test_an_error_of_ours_fails_once_and_is_not_tried_again(self):
        run = asked(begun(), MEND)
        Run.objects.filter(pk=run.pk).update(kind="no such kind")
        with tempfile.TemporaryFile() as log, mock.patch.object(children, "LOG", log):
            worker = threading.Thread(target=self.work)
            worker.start()
            worker.join(180)
            log.seek(0)
            self.assertIn(b"KeyError: 'no such kind'", log.read())
        self.assertEqual((state(run), run.attempt, run.error["code"]), ("failed", 1, "failed"))

    def test_a_child_ends_with_its_worker(self):
        child = children.Child()
        child._process.stdin.close()
        end = time.monotonic() + 120
        while child.alive and time.monotonic() < end:
            time.sleep(0.05)
        self.assertFalse(child.alive)
        child._process.stdout.close()
        self.assertEqual(Blob.objects.count(), 0)
