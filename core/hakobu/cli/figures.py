"""`hakobu figures`: the benchmarks."""

from __future__ import annotations

import argparse
import subprocess
import sys
from pathlib import Path

from ..errors import CannotDo

_FOLDER = Path(__file__).resolve().parents[3] / "figures"


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("names", metavar="NAME", nargs="*", help="which figures (all)")


def run(options: argparse.Namespace) -> int:
    """Figures stand beside the core, in the checkout, with the libraries they are compared with."""
    if not (_FOLDER / "__main__.py").exists():
        raise CannotDo("Figures are measured from a checkout only: there is no folder figures beside core.")
    return subprocess.run([sys.executable, str(_FOLDER), *options.names], check=False).returncode
