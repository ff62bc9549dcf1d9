"""Names under which compiled kernels are kept: a change compiles what depends on it, and nothing else."""

import tempfile
import unittest
from pathlib import Path

from hakobu.compiled import build, sources


class Names(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.addCleanup(sources.dependencies.cache_clear)
        self.kernels = Path(folder.name) / "kernels"
        self.kernels.mkdir()

    def name_of(self, file: str) -> str:
        sources.dependencies.cache_clear()
        return build.part_name(self.kernels / file)

    def test_a_changed_source_has_a_name_of_its_own(self):
        names = []
        for text in ("a = 1", "a = 2", "a = 1"):
            (self.kernels / "k.py").write_text(text)
            names.append(self.name_of("k.py"))
        self.assertEqual(names[0], names[2])
        self.assertNotEqual(names[0], names[1])

    def test_what_imports_a_changed_source_changes_too_and_nothing_else(self):
        (self.kernels / "low.py").write_text("a = 1")
        (self.kernels / "high.py").write_text("from .low import a\n")
        (self.kernels / "top.py").write_text("from ..kernels.high import a\n")
        (self.kernels / "other.py").write_text("b = 1")
        before = [self.name_of(name) for name in ("low.py", "high.py", "top.py", "other.py")]
        (self.kernels / "low.py").write_text("a = 2")
        after = [self.name_of(name) for name in ("low.py", "high.py", "top.py", "other.py")]
        self.assertEqual([a == b for a, b in zip(before, after, strict=True)], [False, False, False, True])

    def test_every_file_with_a_kernel_counts(self):
        with_kernels = {p for p in sources.CORE.rglob("*.py") if "\n@kernel(" in p.read_text()}
        self.assertEqual(with_kernels, set(sources.kernel_sources()))
