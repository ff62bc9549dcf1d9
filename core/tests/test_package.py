"""The package by itself: what it imports is what it declares, and it works where nothing else is installed."""

import ast
import os
import re
import shutil
import subprocess
import sys
import tempfile
import tomllib
import unittest
import venv
from importlib.metadata import packages_distributions
from pathlib import Path

from . import LONG

CORE = Path(__file__).parents[1]
#: What only the build needs.
BUILD = {"numba", "llvmlite", "setuptools"}
STYLED = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40">'
    "<style>.a { fill: #123456 }</style>"
    '<rect class="a" x="5" y="5" width="30" height="20" rx="3"/><circle cx="45" cy="20" r="8"/></svg>'
)


def plain(name: str) -> str:
    """The normal form of a distribution's name: PEP 503."""
    return re.sub(r"[-_.]+", "-", name).lower()


def imported() -> set[str]:
    """Top-level names of all modules that the package imports from elsewhere."""
    found: set[str] = set()
    for file in (CORE / "hakobu").rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text())):
            if isinstance(node, ast.Import):
                found |= {alias.name.split(".")[0] for alias in node.names}
            elif isinstance(node, ast.ImportFrom) and node.level == 0:
                found.add(str(node.module).split(".")[0])
    return found - set(sys.stdlib_module_names) - {"hakobu"}


class Declared(unittest.TestCase):
    def test_names_all_that_it_imports(self):
        project = tomllib.loads((CORE / "pyproject.toml").read_text())["project"]
        declared = {plain(re.split(r"[<>=!~ ]", each)[0]) for each in project["dependencies"]}
        providers = packages_distributions()
        for module in sorted(imported() - BUILD):
            with self.subTest(module):
                self.assertTrue(declared & {plain(each) for each in providers.get(module, [])})


class Installed(unittest.TestCase):
    """Compiles all kernels: in `./test --long` only."""

    def test_converts_a_styled_drawing_in_an_empty_environment(self):
        with tempfile.TemporaryDirectory() as folder:
            here = Path(folder)
            venv.create(here / "env", with_pip=True)
            python = here / "env" / "bin" / "python"
            clean = {name: value for name, value in os.environ.items() if name not in ("PYTHONPATH", "HAKOBU_CACHE")}
            shutil.copytree(CORE, here / "core", ignore=shutil.ignore_patterns("tests", "build", "__pycache__"))
            self.run_in(here, clean, python, "-m", "pip", "install", "-q", here / "core")
            (here / "styled.svg").write_text(STYLED)
            for suffix in ("dxf", "plt", "pdf"):
                with self.subTest(suffix):
                    made = here / f"styled.{suffix}"
                    self.run_in(here, clean, python, "-m", "hakobu", "convert", here / "styled.svg", made)
                    self.assertGreater(made.stat().st_size, 100)

    def run_in(self, folder: Path, environment: dict, *command: object) -> None:
        done = subprocess.run(
            [str(each) for each in command], cwd=folder, env=environment, capture_output=True, text=True, check=False
        )
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)


def load_tests(loader: unittest.TestLoader, tests: unittest.TestSuite, pattern: str | None) -> unittest.TestSuite:
    """All, but what compiles the kernels in long runs only."""
    return tests if LONG else loader.loadTestsFromTestCase(Declared)
