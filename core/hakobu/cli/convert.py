from __future__ import annotations

import argparse

from ..model.errors import CannotDo
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN")
    parser.add_argument("output", metavar="OUT")
    parser.add_argument("--unit", choices=("mm", "in", "px"), help="what a number means where the file states no unit")
    parser.add_argument("--to", metavar="FORMAT", help="the format to write, where OUT does not say it")


def run(options: argparse.Namespace) -> int:
    files.format_for(options.output, options.to)
    result = files.read_design(options.input, options.unit)
    if result.document.pictures and not result.document.pieces:
        raise CannotDo(f"{files.label(options.input)} is a picture and has no lines yet: use trace.")
    notes = files.write_design(result.document, options.output, options.to)
    for finding in result.findings:
        files.say(f"{finding.level.value}: {finding.message}")
    for note in notes:
        files.say(note)
    return 0
