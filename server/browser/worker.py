"""A worker as ./start runs it, on the database of the tests."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
from pathlib import Path

from django.db import connection

from .case import PATIENCE_MS, BrowserCase

#: What goes through the queue also waits for a worker's interpreter, beside all other tests.
QUEUE_PATIENCE_MS = 2 * PATIENCE_MS
SERVER = Path(__file__).parents[1]


class Worker:
    """One process with its children, in a group of its own."""

    def __init__(self) -> None:
        environment = {**os.environ, "PGDATABASE": connection.settings_dict["NAME"]}
        environment.pop("DJANGO_ALLOW_ASYNC_UNSAFE", None)
        command = [sys.executable, "manage.py", "procrastinate", "worker", "-q", "work", "-c", "3"]
        self.process = subprocess.Popen(
            command, cwd=SERVER, env=environment, stderr=subprocess.DEVNULL, start_new_session=True
        )

    def kill(self) -> None:
        """The worker alone; its children notice."""
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()

    def stop(self) -> None:
        # Of a worker that was killed, its children may be gone as well.
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()

    @property
    def alive(self) -> bool:
        return self.process.poll() is None


def empty_queue() -> None:
    """Procrastinate's tables are not Django's to clear; to be called while no worker runs."""
    with connection.cursor() as cursor:
        cursor.execute("truncate procrastinate_jobs, procrastinate_workers cascade")
    # While a browser is driven, Django may hold this connection apart from the one it ends the tests with; left open,
    # it would keep their database from being taken away.
    connection.close()


class Queued(BrowserCase):
    """With a worker, which serves test after test: its interpreters take longer to start than most tests to run."""

    worker: Worker | None = None

    def setUp(self):
        super().setUp()
        if self.worker is None or not self.worker.alive:
            empty_queue()
            type(self).worker = Worker()

    @classmethod
    def tearDownClass(cls):
        if cls.worker:
            cls.worker.stop()
            empty_queue()
        super().tearDownClass()
