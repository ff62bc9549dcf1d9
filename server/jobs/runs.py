"""Work that takes long: asked for, begun, followed, ended. What an attempt brings counts while it is the newest one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.utils import timezone
from procrastinate.contrib.django import app

from hakobu.model import Conditions, HakobuError, Step
from hakobu.operations import Progress

from . import history, weeded_view
from .conditions import conditions_for
from .models import Blob, Job, Revision, Run
from .results import findings_of
from .summary import keep_what_waits

#: What the worker does with a run; tasks.py has it.
TASK = "jobs.tasks.work"
#: A piece of work whose worker was lost so many times is not begun again: it is likely what kills them.
MOST_ATTEMPTS = 3
BROKEN = "Something went wrong inside Hakobu; your steps are kept. Try again, and if it stays, restart it."
TOO_LONG = "This takes longer than a piece of work may; split the design, or simplify it."
LOST = "This was begun three times and its worker was lost each time; it may be too large for this machine."


class Superseded(Exception):
    """This attempt is no longer the one that counts."""


def ask(job: Job | None, kind: str, request: dict[str, Any]) -> Run:
    """Puts a piece of work in the queue, in one transaction with its row."""
    with transaction.atomic():
        run = Run.objects.create(job=job, kind=kind, request=request)
        run.queue_id = app.configure_task(TASK, queue="work").defer(run=str(run.pk))
        run.save(update_fields=["queue_id"])
    return run


def ask_revision(
    job: Job,
    based_on: int,
    steps: list[Step],
    settings: dict,
    selection_modes: dict[str, str],
    token: str = "",
    kept: Sequence[str] = (),
) -> Run:
    request = {
        "based_on": based_on,
        "steps": [step.as_json() for step in steps],
        "settings": settings,
        "selection_modes": selection_modes,
        "token": token,
        "kept": list(kept),
    }
    going = Run.objects.filter(job=job, kind="revision", state__in=Run.OPEN, request__token=token) if token else None
    return (going.first() if going is not None else None) or ask(job, "revision", request)


def ask_check(job: Job, revision: Revision) -> Run:
    """Looking for faults in a revision's design: the run that does it already, or a new one."""
    request = {"document": revision.document_id, "conditions": conditions_for(revision).to_json()}
    going = Run.objects.filter(job=job, kind="check", state__in=Run.OPEN, request=request).first()
    if going:
        still_asked(going)
    return going or ask(job, "check", request)


def ask_weeding(job: Job, document: str, machine: str, lists: int) -> Run:
    """Working out what weeding leaves: the run that does it already, or a new one."""
    request = {"document": document, "machine": machine, "lists": lists}
    going = Run.objects.filter(job=job, kind="weed", state__in=Run.OPEN, request=request).first()
    return going or ask(job, "weed", request)


#: What is worked out for whoever waits, and kept by nobody: it ends when so long nobody has asked for it.
FOR_WHO_WAITS, FORGOTTEN = ("check", "weed"), timedelta(seconds=30)
#: How often it is noted that somebody still asks.
NOTED = timedelta(seconds=5)


def still_asked(run: Run) -> None:
    """Notes that somebody waits for a run."""
    now = timezone.now()
    if now - run.asked > NOTED:
        Run.objects.filter(pk=run.pk).update(asked=now)


def is_forgotten(pk: str) -> bool:
    """Whether nobody waits any more for what was only worked out for them; it is cancelled then."""
    forgotten = Run.objects.filter(pk=pk, kind__in=FOR_WHO_WAITS, asked__lt=timezone.now() - FORGOTTEN).first()
    if forgotten:
        cancel(forgotten)
    return forgotten is not None


def cancel(run: Run) -> None:
    """Ends a run at once for whoever waits; its worker hears of it and stops."""
    ended = Run.objects.filter(pk=run.pk, state__in=Run.OPEN).update(state=Run.CANCELLED, ended=timezone.now())
    if ended and run.queue_id is not None:
        app.job_manager.cancel_job_by_id(run.queue_id, abort=True)
        _discard_new_job(run)


def settle(run: Run) -> None:
    """What is there so far is enough: a run that gets better with time ends with that."""
    Run.objects.filter(pk=run.pk, state__in=Run.OPEN).update(enough=True)


def was_settled(pk: str) -> bool:
    return Run.objects.filter(pk=pk, enough=True).exists()


def begin(pk: str) -> int | None:
    """The number of the attempt that begins now; None where there is nothing (more) to do."""
    with transaction.atomic():
        run = Run.objects.select_for_update().filter(pk=pk, state__in=Run.OPEN).first()
        if run is None:
            return None
        if run.attempt >= MOST_ATTEMPTS:
            _fail(run, "lost", LOST)
            return None
        run.attempt += 1
        run.state, run.progress, run.stage, run.so_far = Run.RUNNING, 0.0, "", None
        run.save()
    return run.attempt


def carry_out(pk: str, attempt: int) -> None:
    """Does the work of an attempt and keeps what it brings, all in the calling process."""
    run = Run.objects.select_related("job").get(pk=pk)
    mine = Run.objects.filter(pk=pk, attempt=attempt, state=Run.RUNNING)

    def progress(share: float, stage: str, so_far: Mapping[str, Any] | None = None) -> bool:
        values: dict[str, Any] = {"progress": share, "stage": stage[:120]}
        if so_far is not None:
            values["so_far"] = so_far
        if not mine.update(**values):
            raise Superseded
        return so_far is not None and mine.filter(enough=True).exists()

    try:
        KINDS[run.kind](run, attempt, progress)
    except Superseded:
        return
    except HakobuError as error:
        fail(pk, attempt, error.code, error.sentence)


def fail(pk: str, attempt: int, code: str, sentence: str) -> None:
    with transaction.atomic():
        run = Run.objects.select_for_update().filter(pk=pk, attempt=attempt, state=Run.RUNNING).first()
        if run:
            _fail(run, code, sentence)


def _fail(run: Run, code: str, sentence: str) -> None:
    run.state, run.error, run.ended = Run.FAILED, {"code": code, "sentence": sentence}, timezone.now()
    run.save()
    _discard_new_job(run)


def _discard_new_job(run: Run) -> None:
    """A job that was made for a file which then could not be read is not kept."""
    if run.request.get("new_job") and run.job_id:
        Job.objects.filter(pk=run.job_id, sources=None).delete()


def _finish(pk, attempt: int) -> None:
    """Marks a run as done, within the transaction that keeps what it brought. Raises Superseded."""
    run = Run.objects.select_for_update().filter(pk=pk, attempt=attempt, state=Run.RUNNING)
    if not run.update(state=Run.DONE, progress=1.0, ended=timezone.now()):
        raise Superseded


def _job_of(run: Run) -> Job:
    """The job of a run. Raises Superseded where it is gone."""
    if run.job is None:
        raise Superseded
    return run.job


def _revision(run: Run, attempt: int, progress: Progress) -> None:
    request = run.request
    history.add_revision(
        _job_of(run),
        request["based_on"],
        [Step.from_json(data) for data in request["steps"]],
        request["settings"],
        selection_modes=request["selection_modes"],
        progress=progress,
        fence=lambda: _finish(run.pk, attempt),
        token=request.get("token", ""),
        kept=request.get("kept", []),
    )


def _bring_in(run: Run, attempt: int, progress: Progress) -> None:
    request = run.request
    data = bytes(Blob.objects.get(pk=request["blob"]).data)
    progress(0.05, f"Reading {request['name']}")
    history.bring_in(
        _job_of(run),
        request["based_on"],
        request["name"],
        data,
        request.get("unit"),
        request.get("replaces"),
        progress=progress,
        fence=lambda: _finish(run.pk, attempt),
    )


def _check(run: Run, attempt: int, progress: Progress) -> None:
    progress(0.1, "Looking for faults")
    findings_of(run.request["document"], Conditions.from_json(run.request["conditions"]))
    keep_what_waits(run.job, run.request["document"])
    _finish(run.pk, attempt)


def _weed(run: Run, attempt: int, progress: Progress) -> None:
    progress(0.1, "Cutting and weeding")
    weeded_view.weeded(**run.request)
    _finish(run.pk, attempt)


KINDS = {"revision": _revision, "bring-in": _bring_in, "check": _check, "weed": _weed}
