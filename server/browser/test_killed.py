"""The server killed in the middle of a step: every step that was accepted is there, and none is there by half."""

from __future__ import annotations

import http.client
import json
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from pathlib import Path

from django.db import connection
from django.test import TransactionTestCase

from hakobu.model import codec
from jobs import history
from jobs.models import Blob, Job

SERVER = Path(__file__).parents[1]
TWICE = b"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm"><path d="M10 10H40V40H10Z"/></svg>"""
#: Seconds between a round's first accepted step and the kill; each meets another place in the work.
MOMENTS = (0.02, 0.11, 0.31)


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Server:
    """The application as ./start runs it, on the database of the tests."""

    def __init__(self) -> None:
        self.port = free_port()
        environment = {**os.environ, "HAKOBU_PORT": str(self.port), "PGDATABASE": connection.settings_dict["NAME"]}
        command = [sys.executable, "serve.py", "app"]
        self.process = subprocess.Popen(
            command, cwd=SERVER, env=environment, stderr=subprocess.DEVNULL, start_new_session=True
        )
        self.wait()

    def wait(self) -> None:
        end = time.monotonic() + 180
        while time.monotonic() < end:
            try:
                self.ask("GET", "/api/library")
                return
            except OSError:
                threading.Event().wait(0.05)
        raise AssertionError("the server did not come up")

    def ask(self, method: str, address: str, body: dict | None = None) -> dict:
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=120)
        headers = {"Content-Type": "application/json", "X-CSRFToken": "a" * 32, "Cookie": f"csrftoken={'a' * 32}"}
        line.request(method, address, json.dumps(body) if body else None, headers)
        answer = line.getresponse()
        data = json.loads(answer.read())
        assert answer.status < 300, data
        return data

    def kill(self) -> None:
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()


class Killed(TransactionTestCase):
    def test_at_any_moment(self):
        job = history.create_job("Twice")
        history.bring_in(job, job.head_id, "twice.svg", TWICE)
        accepted: list[int] = []
        for moment in MOMENTS:
            server, begun = Server(), threading.Event()
            asking = threading.Thread(target=self.go_on, args=(server, str(job.pk), accepted, begun))
            asking.start()
            self.assertTrue(begun.wait(180), "no step was accepted")
            asking.join(moment)
            server.kill()
            asking.join()
            self.whole(Job.objects.get(pk=job.pk), accepted)

    def go_on(self, server: Server, job: str, accepted: list[int], begun: threading.Event) -> None:
        """Step after step, until the server is gone."""
        try:
            state = server.ask("GET", f"/api/jobs/{job}")
            while True:
                steps = [{"key": step["key"]} for step in state["head"]["steps"]]
                steps.append({"operation": "resize", "parameters": {"factor": 1.01}})
                body = {"based_on": state["head"]["id"], "steps": steps}
                state = server.ask("POST", f"/api/jobs/{job}/revisions", body)
                accepted.append(state["head"]["id"])
                begun.set()
        except (OSError, http.client.HTTPException):
            return

    def whole(self, job: Job, accepted: list[int]) -> None:
        """The head and all before it are complete, and every accepted revision is one of them."""
        line, at = [], job.head
        while at is not None:
            line.append(at.pk)
            rows = list(at.steps.all())
            self.assertEqual([row.position for row in rows], list(range(len(rows))))
            self.assertTrue(all(row.result_id for row in rows))
            for piece in at.document.manifest["pieces"]:
                codec.path_from_bytes(bytes(Blob.objects.get(pk=piece["path"]).data))
            at = at.parent
        self.assertLessEqual(set(accepted), set(line))
        # At most the one step that was on its way when the server ended came on top.
        self.assertLessEqual(len(line) - 2 - len(accepted), len(MOMENTS))
