"""Answers the questions that it is asked on standard input, a line each, until that ends (jobs/asking.py)."""

import json
import logging
import os
import queue
import resource
import signal
import struct
import sys
import threading

from django.core.exceptions import ObjectDoesNotExist
from django.core.management.base import BaseCommand
from django.db import close_old_connections

from api.answers import ANSWERS
from hakobu.errors import HakobuError

#: Address space, and seconds of work for one question.
MOST_BYTES, MOST_SECONDS = 4 * 2**30, 30
log = logging.getLogger(__name__)


def listen(asked: queue.SimpleQueue) -> None:
    """Hands on what is asked. When whoever asks is gone, so is this process."""
    for line in sys.stdin:
        asked.put(line)
    os._exit(0)


def limit_next() -> None:
    """So many more seconds of this process's work; what needs more is ended by the system."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    seconds = int(used.ru_utime + used.ru_stime) + MOST_SECONDS
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, resource.RLIM_INFINITY))


def answered(line: str) -> bytes:
    """A letter for its kind, then the answer: b bytes, j JSON, e an error's code and sentence."""
    name, arguments = json.loads(line)
    close_old_connections()
    try:
        made = ANSWERS[name](*arguments)
    except HakobuError as error:
        return b"e" + json.dumps({"code": error.code, "sentence": error.sentence}).encode()
    except ObjectDoesNotExist:
        sentence = "What was asked for is not there (any more)."
        return b"e" + json.dumps({"code": "not-there", "sentence": sentence}).encode()
    except MemoryError:
        sentence = "This design is too large to be worked out here: it needs too much memory."
        return b"e" + json.dumps({"code": "too-much", "sentence": sentence}).encode()
    except Exception:
        log.exception("A question could not be answered: %s", name)
        sentence = "Something went wrong inside Hakobu; your steps are kept. Try again, and if it stays, restart it."
        return b"e" + json.dumps({"code": "failed", "sentence": sentence}).encode()
    return b"b" + made if isinstance(made, bytes) else b"j" + json.dumps(made).encode()


class Command(BaseCommand):
    help = __doc__ or ""

    def handle(self, **options) -> None:
        signal.signal(signal.SIGXCPU, signal.SIG_DFL)
        resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
        resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
        out = os.fdopen(os.dup(1), "wb")
        # What a library prints is no answer.
        os.dup2(2, 1)
        asked: queue.SimpleQueue[str] = queue.SimpleQueue()
        threading.Thread(target=listen, args=(asked,), daemon=True).start()
        while True:
            line = asked.get()
            limit_next()
            data = answered(line)
            out.write(struct.pack("<Q", len(data)) + data)
            out.flush()
