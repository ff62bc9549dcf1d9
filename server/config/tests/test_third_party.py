"""THIRD_PARTY.md names what the lock files lock."""

import subprocess
import sys
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).parents[3]


class ThirdParty(TestCase):
    def test_the_tables_are_fresh(self):
        script = [sys.executable, ROOT / "scripts" / "third_party.py", "--check"]
        done = subprocess.run(script, capture_output=True, check=False, text=True)
        self.assertEqual(done.returncode, 0, f"run scripts/third_party.py {done.stderr}")
