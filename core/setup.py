"""Builds the library of kernels into the package: `pip install ./core`. All else stands in pyproject.toml."""

import sys
from pathlib import Path

from setuptools import Distribution, setup
from setuptools.command.build_py import build_py

sys.path.insert(0, str(Path(__file__).resolve().parent))


class BuildWithKernels(build_py):
    def run(self) -> None:
        super().run()
        from hakobu.compiled.build import build

        build(Path(self.build_lib).resolve() / "hakobu" / "compiled")


class Compiled(Distribution):
    """For one platform and one version of Python, though no extension is declared."""

    def has_ext_modules(self) -> bool:
        return True


setup(cmdclass={"build_py": BuildWithKernels}, distclass=Compiled)
