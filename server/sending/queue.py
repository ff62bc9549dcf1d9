"""Files to machines: asked for, carried out, halted and gone on with. One machine has one file at a time."""

from __future__ import annotations

import time
from collections.abc import Callable

from django.db import transaction
from django.db.models import F
from django.utils import timezone
from procrastinate.contrib.django import app

from hakobu.errors import BadRequest, Changed, HakobuError, MachineTrouble
from hakobu.machines.sending import SENDERS, Forgotten, Halt, LineLost
from jobs.models import Blob, Job
from jobs.store import keep_blob

from . import addresses
from .models import Sending

TASK = "sending.tasks.send"
QUEUE = "machines"
#: A lost line is tried again so often, with so many seconds between.
TRIES, BETWEEN_S = 20, 1.0
LOST = "The line to the machine was lost. Look at the machine and its cable, then go on: it is asked what it has done."
FORGOTTEN = (
    "{done} of {strokes} strokes were done for certain, the next one perhaps in part. If the sheet and the origin are "
    "where they were, go on with stroke {next}; else begin anew."
)
CHOOSE = "The machine knows nothing of this job any more: say whether it goes on behind what is done, or begins anew."
AGAIN = "This very file was sent to the {machine} before. Send it again only if it is to be made once more."


class Superseded(Exception):
    """This attempt is no longer the one that counts."""


def ask(job: Job, machine, file: bytes, name: str, seconds: float, again: bool, revision: int, sheet: int) -> Sending:
    """Puts a file in the queue of a machine. Raises BadRequest where the machine cannot be sent to, Changed where the
    same file was sent before and that is not wanted again."""
    addresses.parts_of(machine.address)
    blob = keep_blob(file)
    sent = Sending.objects.filter(blob=blob, machine=machine.id).exclude(state=Sending.CANCELLED)
    if not again and sent.exists():
        raise Changed(AGAIN.format(machine=machine.name))
    strokes = 0
    if not addresses.is_folder(machine.address):
        if machine.format not in SENDERS:
            said = f"The {machine.name} takes files as {machine.format}, which are not sent: give it a folder."
            raise BadRequest(said)
        strokes = SENDERS[machine.format](file, 1).strokes
    with transaction.atomic():
        row = Sending.objects.create(
            job=job, name=name[:200], machine=machine.id, machine_name=machine.name, address=machine.address,
            format=machine.format, blob_id=blob, seconds=seconds, strokes=strokes, revision=revision, sheet=sheet,
        )  # fmt: skip
        _defer(row)
    return row


def _defer(row: Sending) -> None:
    # One line to a machine: whoever comes later waits for its turn.
    queue_id = app.configure_task(TASK, queue=QUEUE, lock=f"machine {row.address}").defer(sending=row.pk)
    Sending.objects.filter(pk=row.pk).update(queue_id=queue_id)


def halt(row: Sending, wish: Halt) -> None:
    """Pauses or cancels: at once where nothing is being sent, else as soon as its worker hears of it."""
    with transaction.atomic():
        now = Sending.objects.select_for_update().get(pk=row.pk)
        if now.state == Sending.RUNNING:
            now.wish = wish
        elif now.state in Sending.OPEN and wish is Halt.CANCEL:
            now.state, now.ended = Sending.CANCELLED, timezone.now()
        elif now.state == Sending.WAITING:
            now.state = Sending.PAUSED
        now.save()


def go_on(row: Sending, skip: int | None = None) -> None:
    """What was halted is sent from where the machine is; where the machine has forgotten it, skip says how many
    strokes are not sent again. Raises BadRequest where it is not halted, and where that is to be said."""
    with transaction.atomic():
        now = Sending.objects.select_for_update().get(pk=row.pk)
        if now.state not in Sending.HALTED:
            raise BadRequest("This is not halted: there is nothing to go on with.")
        if now.forgotten:
            if skip is None:
                raise BadRequest(CHOOSE)
            now.begun, now.forgotten, now.skip, now.done = False, False, skip, skip
        now.state, now.wish, now.problem = Sending.WAITING, "", ""
        now.save()
        _defer(now)


def carry_out(pk: int) -> None:
    """Sends a file, as one attempt; whatever becomes of it is kept with its row."""
    row = _begin(pk)
    if row is None:
        return
    try:
        if addresses.is_folder(row.address):
            _into_folder(row)
            outcome = Halt.NO
        else:
            outcome = _over_line(row)
    except Superseded:
        return
    except Forgotten as error:
        done = Sending.objects.values_list("done", flat=True).get(pk=row.pk)
        said = f"{error.sentence} {FORGOTTEN.format(done=done, strokes=row.strokes, next=done + 1)}"
        _end(row, Sending.STOPPED, said, forgotten=True)
        return
    except HakobuError as error:
        _end(row, Sending.STOPPED, error.sentence)
        return
    states = {Halt.NO: Sending.DONE, Halt.PAUSE: Sending.PAUSED, Halt.CANCEL: Sending.CANCELLED}
    _end(row, states[outcome])


def _begin(pk: int) -> Sending | None:
    with transaction.atomic():
        row = Sending.objects.select_for_update().filter(pk=pk, state__in=(Sending.WAITING, Sending.RUNNING)).first()
        if row is None:
            return None
        row.attempt, row.state = row.attempt + 1, Sending.RUNNING
        row.save()
    return row


def _over_line(row: Sending) -> Halt:
    data = bytes(Blob.objects.get(pk=row.blob_id).data)
    sender = SENDERS[row.format](data, row.pk)
    for turn in range(TRIES):
        try:
            with addresses.opened(row.address) as line:
                return sender.send(line, row.begun, _reporting(row), row.skip)
        except LineLost:
            if turn == TRIES - 1:
                break
        except Forgotten:
            raise
        except MachineTrouble:
            # A machine that was reached before may be away for a moment.
            if not row.begun or turn in (0, TRIES - 1):
                raise
        time.sleep(BETWEEN_S)
    raise MachineTrouble(LOST)


def _reporting(row: Sending) -> Callable[[int], Halt]:
    def report(done: int) -> Halt:
        # Whoever reports has heard that the machine has the job.
        _set(row, done=done, begun=True)
        row.begun = True
        return Halt(Sending.objects.values_list("wish", flat=True).get(pk=row.pk))

    return report


def _into_folder(row: Sending) -> None:
    """A watched folder gets the whole file at once, under a name of its own."""
    from hakobu.formats import by_id

    folder = addresses.folder_of(row.address)
    target = folder / f"{row.pk:06d}-{row.machine}{by_id(row.format).suffixes[0]}"
    part = target.with_suffix(".part")
    part.write_bytes(bytes(Blob.objects.get(pk=row.blob_id).data))
    part.replace(target)


def _set(row: Sending, **values) -> None:
    """Raises Superseded where another attempt has begun."""
    if not Sending.objects.filter(pk=row.pk, attempt=row.attempt, state=Sending.RUNNING).update(**values):
        raise Superseded


def _end(row: Sending, state: str, problem: str = "", **more) -> None:
    ended = None if state in Sending.HALTED else timezone.now()
    values = {"state": state, "wish": "", "problem": problem, "ended": ended, **more}
    if state == Sending.DONE:
        values["done"] = F("strokes")
    Sending.objects.filter(pk=row.pk, attempt=row.attempt, state=Sending.RUNNING).update(**values)
