"""The house rules that a machine can hold: who imports whom, and what the core stays free of."""

import subprocess
import sys
import unittest
from pathlib import Path

CORE = Path(__file__).parents[1]


class Imports(unittest.TestCase):
    def test_no_room_imports_a_higher_one(self):
        linter = Path(sys.executable).parent / "lint-imports"
        result = subprocess.run([linter, "--no-cache"], cwd=CORE, capture_output=True, text=True, check=False)
        self.assertEqual(result.returncode, 0, result.stdout + result.stderr)

    def test_help_loads_neither_arrays_nor_libraries(self):
        code = (
            "import sys; from hakobu.cli import main\n"
            "try: main(['--help'])\n"
            "except SystemExit: pass\n"
            "print([m for m in ('numpy', 'scipy', 'tinycss2') if m in sys.modules], file=sys.stderr)"
        )
        result = subprocess.run([sys.executable, "-c", code], cwd=CORE, capture_output=True, text=True, check=False)
        self.assertEqual(result.stderr.strip(), "[]")
