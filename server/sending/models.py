"""Files on their way to a machine."""

from __future__ import annotations

from typing import TYPE_CHECKING

from django.db import models

from jobs.models import Blob, Job


class Sending(models.Model):
    """A file that is sent to a machine, stroke by stroke. name: of what is sent; address: where the machine is.
    strokes, done: how many there are, and how many the machine said are done. begun: the machine has it; forgotten: it
    had it, and a person has to say how to go on; skip: strokes that are not sent. wish: what a person wants of it,
    "pause" or "cancel". attempt: the newest one counts. problem: why it stopped."""

    WAITING, RUNNING, PAUSED, STOPPED = "waiting", "running", "paused", "stopped"
    DONE, CANCELLED = "done", "cancelled"
    #: It may still be sent.
    OPEN = (WAITING, RUNNING, PAUSED, STOPPED)
    #: A person has to say how to go on.
    HALTED = (PAUSED, STOPPED)

    job = models.ForeignKey(Job, null=True, on_delete=models.SET_NULL, related_name="sendings")
    name = models.CharField(max_length=200)
    machine = models.CharField(max_length=40)
    machine_name = models.CharField(max_length=60)
    address = models.CharField(max_length=200)
    format = models.CharField(max_length=20)
    blob = models.ForeignKey(Blob, on_delete=models.PROTECT)
    seconds = models.FloatField(default=0.0)
    strokes = models.PositiveIntegerField(default=0)
    done = models.PositiveIntegerField(default=0)
    state = models.CharField(max_length=10, default=WAITING, db_index=True)
    wish = models.CharField(max_length=10, default="", blank=True)
    begun = models.BooleanField(default=False)
    forgotten = models.BooleanField(default=False)
    skip = models.PositiveIntegerField(default=0)
    attempt = models.PositiveIntegerField(default=0)
    problem = models.TextField(default="", blank=True)
    queue_id = models.BigIntegerField(null=True)
    sheet = models.PositiveIntegerField(default=0)
    revision = models.BigIntegerField(null=True)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    ended = models.DateTimeField(null=True)
    if TYPE_CHECKING:
        id: int
        blob_id: str
