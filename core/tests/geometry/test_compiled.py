"""The cache of compiled kernels: named by their sources, and nothing left out."""

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from hakobu.geometry import compiled


class Cache(unittest.TestCase):
    def setUp(self):
        compiled.cache_folder.cache_clear()
        self.addCleanup(compiled.cache_folder.cache_clear)

    def test_a_changed_source_has_a_folder_of_its_own(self):
        with tempfile.TemporaryDirectory() as folder:
            source = Path(folder) / "k.py"
            names = []
            for text in ("a = 1", "a = 2", "a = 1"):
                source.write_text(text)
                compiled.cache_folder.cache_clear()
                with mock.patch.object(compiled, "kernel_sources", lambda: [source]):
                    names.append(compiled.cache_folder())
            self.assertEqual(names[0], names[2])
            self.assertNotEqual(names[0], names[1])

    def test_every_file_with_a_kernel_counts(self):
        core = Path(compiled.__file__).parents[1]
        with_kernels = {p for p in core.rglob("*.py") if "@kernel(" in p.read_text()}
        self.assertEqual(with_kernels, set(compiled.kernel_sources()))

    def test_what_needs_no_kernel_loads_none(self):
        code = "import sys, hakobu.cli.info, hakobu.cli.mend, hakobu.pipeline; sys.exit('numba' in sys.modules)"
        done = subprocess.run([sys.executable, "-c", code], check=False, cwd=Path(compiled.__file__).parents[2])
        self.assertEqual(done.returncode, 0)
