"""Serves a WSGI application: serve.py app, on loopback, or serve.py previews, on a socket that only this user may use.

One thread reads from and writes to all connections, so that slow and half-open ones hold nobody up; a few others
answer what has arrived whole.
"""

# waitress states no types for its parser and its channel.
# pyright: reportAttributeAccessIssue=false, reportArgumentType=false

from __future__ import annotations

import json
import logging
import os
import resource
import signal
import sys
import threading
from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path

from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import create_server

MIB = 1 << 20
#: The largest body: of a form with a file, with the form about it; of anything else.
MOST_FORM, MOST_BODY = 66 * MIB, 4 * MIB + 1024
#: Where forms with files are sent.
FORMS = ("/api/jobs", "/sources", "/archives", "/proof")
#: Data that a process may hold beside its libraries: what would need more is told so.
MOST_DATA = 2048 * MIB
#: Connections at once, and seconds after which a silent one is closed.
MOST_CONNECTIONS, SILENT_SECONDS = 1000, 30


@dataclass(frozen=True)
class Program:
    """What is served: the module with its `application`, by so many threads."""

    module: str
    threads: int


PROGRAMS = {"app": Program("config.wsgi", 24), "previews": Program("previews.wsgi", 4)}


class TooLarge:
    """The answer to a body that is larger than is read, given before it is read."""

    def to_response(self, ident=None):
        sentence = f"This is larger than {MOST_FORM // MIB - 1} MB, the most that is read of a file; save it smaller."
        body = json.dumps({"code": "too-much", "sentence": sentence}).encode()
        headers = [("Content-Type", "application/json"), ("Content-Length", str(len(body))), ("Connection", "close")]
        return "413 Request Entity Too Large", headers, body


class Parser(HTTPRequestParser):
    """Refuses a body by what its head says of it, and one that says nothing when it has grown too large."""

    def received(self, data: bytes) -> int:
        taken = super().received(data)
        if self.headers_finished and not self.error:
            form = self.command == "POST" and self.path.endswith(FORMS)
            most = MOST_FORM if form else MOST_BODY
            if max(self.content_length, self.body_bytes_received) > most:
                self.error, self.completed = TooLarge(), True
        return taken


class Channel(HTTPChannel):
    parser_class = Parser


def main(name: str) -> None:
    program = PROGRAMS[name]
    sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "core"))
    application = import_module(program.module).application
    resource.setrlimit(resource.RLIMIT_DATA, (MOST_DATA, MOST_DATA))
    server = server_of(application, program.threads, **address(name))
    # At once: what computes is a child that ends as well, and what is written is one transaction.
    signal.signal(signal.SIGTERM, lambda *_: os._exit(0))
    threading.Thread(target=warm_up, args=(name,), daemon=True).start()
    server.run()


def server_of(application: Callable, threads: int, **where: str):
    """A server of a WSGI application, which `run` runs. where: waitress's `listen` or `unix_socket`."""
    # A short queue is nothing to tell of.
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    server = create_server(
        application,
        **where,
        threads=threads,
        connection_limit=MOST_CONNECTIONS,
        channel_timeout=SILENT_SECONDS,
        cleanup_interval=5,
        asyncore_use_poll=True,
        # Whether whoever asked is still there is seen while the answer is made.
        channel_request_lookahead=1,
        ident=None,
        # The parser sees to it, by what a body is.
        max_request_body_size=1 << 40,
        max_request_header_size=32 * 1024,
        clear_untrusted_proxy_headers=True,
    )
    server.channel_class = Channel
    return server


def address(name: str) -> dict:
    if name == "app":
        return {"listen": f"127.0.0.1:{os.environ.get('HAKOBU_PORT', '8780')}"}
    path = Path(os.environ["HAKOBU_PREVIEWS"])
    path.unlink(missing_ok=True)
    return {"unix_socket": str(path), "unix_socket_perms": "600"}


def warm_up(name: str) -> None:
    """What the first request would have to wait for: a child process that reads files, and the spatial index."""
    from hakobu.children import CHILDREN

    CHILDREN.keep_ready()
    if name == "app":
        import scipy.spatial  # noqa: F401


if __name__ == "__main__":
    main(sys.argv[1])
