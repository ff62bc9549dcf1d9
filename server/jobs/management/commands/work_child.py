"""A worker's child: carries out the runs that it is told of on standard input, a line each, until that ends."""

import json
import logging
import os
import queue
import resource
import sys
import threading
import time

from django.core.management.base import BaseCommand

from hakobu.compiled.library import find_library, progress
from jobs import runs

#: Address space; more than any design within the readers' budget needs.
MOST_BYTES = 4 * 2**30


def listen(asked: queue.SimpleQueue) -> None:
    """Hands on what the worker asks. When the worker is gone, so is this process, in the middle of whatever it does:
    another worker begins that again."""
    for line in sys.stdin:
        asked.put(line)
    os._exit(0)


def wait_for_kernels() -> None:
    """Waits while the kernels are being compiled: work that is taken up before would only fail."""
    while find_library() is None and progress() is not None:
        time.sleep(1.0)


log = logging.getLogger(__name__)


class Command(BaseCommand):
    help = __doc__ or ""

    def handle(self, **options) -> None:
        resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
        answers = os.fdopen(os.dup(1), "w")
        # What a library prints is no answer.
        os.dup2(2, 1)
        wait_for_kernels()
        asked: queue.SimpleQueue[str] = queue.SimpleQueue()
        threading.Thread(target=listen, args=(asked,), daemon=True).start()
        while True:
            run, attempt = json.loads(asked.get())
            try:
                runs.carry_out(run, attempt)
            except MemoryError:
                runs.fail(run, attempt, "too-much", "This needs more memory than a piece of work may take; split it.")
            except Exception:
                # Trying it again would only fail again.
                log.exception("Run %s failed", run)
                runs.fail(run, attempt, "failed", runs.BROKEN)
            answers.write("over\n")
            answers.flush()
