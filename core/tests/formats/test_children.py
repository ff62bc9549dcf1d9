"""The processes that read files: one for each, forked from a nursery that outlives them and ends with its parent."""

import json
import os
import signal
import struct
import subprocess
import sys
import threading
import time
import unittest
from dataclasses import asdict
from pathlib import Path
from unittest import mock

from hakobu.children import Children
from hakobu.formats import ReadOptions

SQUARE = b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm"><path d="M0 0H9V9Z"/></svg>'


def question(data: bytes = SQUARE) -> bytes:
    head = json.dumps({"work": "read", "format": "svg", "options": asdict(ReadOptions())}).encode()
    return struct.pack("<I", len(head)) + head + data


class Nursery(unittest.TestCase):
    def setUp(self):
        self.children = Children()
        self.children.keep_ready()
        self.addCleanup(self.end)

    def end(self):
        self.children._nursery.close()
        self.children._process.wait(10)

    def read(self) -> int:
        end = self.children.take().communicate(question(), 60)
        self.assertEqual((end.code, end.complaint), (0, b""))
        (size,) = struct.unpack_from("<I", end.answer)
        return len(json.loads(end.answer[4 : 4 + size])["paths"])

    def test_reads_one_file_after_the_other_and_several_at_once(self):
        self.assertEqual([self.read(), self.read()], [1, 1])
        found = []
        threads = [threading.Thread(target=lambda: found.append(self.read())) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(60)
        self.assertEqual(found, [1] * 8)

    def test_is_replaced_when_it_is_gone(self):
        self.read()
        before = self.children._process
        before.kill()
        self.assertEqual(self.read(), 1)
        before.wait(10)
        self.assertNotEqual(self.children._process.pid, before.pid)

    def test_a_child_that_takes_too_long_is_ended(self):
        child = self.children.take()
        # Nothing reaches it, and it waits for that.
        with mock.patch("os.write", return_value=0), self.assertRaises(TimeoutError):
            child.communicate(question(), 0.5)
        self.until(lambda: not self.offspring())
        self.assertEqual(self.read(), 1)

    def test_says_which_signal_ended_a_child(self):
        child = self.children.take()
        self.until(self.offspring)
        os.kill(int(self.offspring()[0]), signal.SIGKILL)
        self.assertEqual(child.communicate(question(), 60).code, -signal.SIGKILL)

    def test_inherits_no_secrets(self):
        with mock.patch.dict(os.environ, {"PGPASSWORD": "secret", "HAKOBU_SECRET": "secret"}):
            other = Children()
            other.keep_ready()
        environment = Path(f"/proc/{other._process.pid}/environ").read_bytes()
        other._nursery.close()
        other._process.wait(30)
        self.assertNotIn(b"secret", environment)

    def test_ends_with_its_parent(self):
        code = (
            "import os, signal; from hakobu.children import CHILDREN; CHILDREN.keep_ready();"
            "print(CHILDREN._process.pid, flush=True); os.kill(os.getpid(), signal.SIGKILL)"
        )
        core = str(Path(__file__).parents[2])
        run = subprocess.run([sys.executable, "-c", code], cwd=core, check=False, capture_output=True, text=True)
        nursery = Path(f"/proc/{int(run.stdout)}/status")
        self.until(lambda: not nursery.exists() or "zombie" in nursery.read_text())

    def until(self, holds) -> None:
        """Polls for what other processes do; a loaded machine may take long."""
        end = time.monotonic() + 120
        while not holds():
            self.assertLess(time.monotonic(), end)
            time.sleep(0.01)

    def offspring(self) -> list[str]:
        """Children of the nursery that have not ended."""
        pid = self.children._process.pid
        return Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
