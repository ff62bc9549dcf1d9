"""A program that is kept running: begun again when it ends, and ended with whoever keeps it."""

import os
import signal
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

KEEP = Path(__file__).parents[3] / "scripts" / "keep.py"
#: Appends its number to a file and waits.
PROGRAM = "import os, sys, time; print(os.getpid(), file=open(sys.argv[1], 'a'), flush=True); time.sleep(600)"
PATIENCE_SECONDS = 60


class Keeper(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.begun = self.folder / "begun"
        command = [sys.executable, KEEP, self.folder / "x.pid", sys.executable, "-c", PROGRAM, self.begun]
        self.keeper = subprocess.Popen(command, stdout=subprocess.DEVNULL)
        self.addCleanup(self.keeper.wait)
        self.addCleanup(self.keeper.kill)

    def number(self, nth: int) -> int:
        """The process number of the nth program that was begun."""
        found = self.until(lambda: self.begun.exists() and self.begun.read_text().split()[nth - 1 :])
        return int(found[0])

    def until(self, said):
        end = time.monotonic() + PATIENCE_SECONDS
        while not (found := said()) and time.monotonic() < end:
            time.sleep(0.02)
        self.assertTrue(found)
        return found

    def gone(self, pid: int) -> bool:
        try:
            return "\nState:\tZ" in Path(f"/proc/{pid}/status").read_text()
        except FileNotFoundError:
            return True

    def test_is_begun_again_after_any_end(self):
        os.kill(self.number(1), signal.SIGKILL)
        os.kill(self.number(2), signal.SIGTERM)
        self.assertNotIn(self.number(3), (self.number(1), self.number(2)))

    def test_told_to_stop_both_end_and_the_file_goes(self):
        pid = self.number(1)
        self.keeper.terminate()
        self.assertEqual(self.keeper.wait(PATIENCE_SECONDS), 0)
        self.assertTrue(self.gone(pid))
        self.assertFalse((self.folder / "x.pid").exists())

    def test_killed_it_takes_its_program_along(self):
        pid = self.number(1)
        self.keeper.kill()
        self.until(lambda: self.gone(pid))
