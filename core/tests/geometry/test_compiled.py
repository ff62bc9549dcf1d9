"""The cache of compiled kernels: named by their sources, and nothing left out."""

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from hakobu.geometry import compiled


class Cache(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.addCleanup(compiled.stands_on.cache_clear)
        self.kernels = Path(folder.name) / "kernels"
        self.kernels.mkdir()

    def folder_of(self, name: str) -> Path:
        compiled.stands_on.cache_clear()
        return compiled.cache_folder(self.kernels / name)

    def test_a_changed_source_has_a_folder_of_its_own(self):
        names = []
        for text in ("a = 1", "a = 2", "a = 1"):
            (self.kernels / "k.py").write_text(text)
            names.append(self.folder_of("k.py"))
        self.assertEqual(names[0], names[2])
        self.assertNotEqual(names[0], names[1])

    def test_what_stands_on_a_changed_source_changes_too_and_nothing_else(self):
        (self.kernels / "low.py").write_text("a = 1")
        (self.kernels / "high.py").write_text("from .low import a\n")
        (self.kernels / "top.py").write_text("from ..kernels.high import a\n")
        (self.kernels / "other.py").write_text("b = 1")
        before = [self.folder_of(name) for name in ("low.py", "high.py", "top.py", "other.py")]
        (self.kernels / "low.py").write_text("a = 2")
        after = [self.folder_of(name) for name in ("low.py", "high.py", "top.py", "other.py")]
        self.assertEqual([a == b for a, b in zip(before, after, strict=True)], [False, False, False, True])

    def test_every_file_with_a_kernel_counts(self):
        core = Path(compiled.__file__).parents[1]
        with_kernels = {p for p in core.rglob("*.py") if "@kernel(" in p.read_text()}
        self.assertEqual(with_kernels, set(compiled.kernel_sources()))

    def test_what_needs_no_kernel_loads_none(self):
        code = "import sys, hakobu.cli.info, hakobu.cli.mend, hakobu.pipeline; sys.exit('numba' in sys.modules)"
        done = subprocess.run([sys.executable, "-c", code], check=False, cwd=Path(compiled.__file__).parents[2])
        self.assertEqual(done.returncode, 0)
