"""What the worker does for machines."""

from __future__ import annotations

from procrastinate.contrib.django import app

from . import queue


@app.task(name=queue.TASK, queue=queue.QUEUE)
def send(sending: int) -> None:
    """Sends a file to its machine; a lost worker's is taken up by another, which asks the machine how far it is."""
    queue.carry_out(sending)
