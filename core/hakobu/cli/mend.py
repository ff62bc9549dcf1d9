"""`hakobu mend`: a file with its safe mends taken."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from ..checks import rule_of
from ..errors import BadRequest
from ..model import HakobuError, Step
from ..model.units import parse_length
from ..operations import operation_of
from ..pipeline import run_step
from . import files
from .check import add_conditions, conditions_from


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("inputs", metavar="IN", nargs="+")
    parser.add_argument("output", metavar="OUT", help="a file; of several designs a folder, which gets one for each")
    parser.add_argument("--only", metavar="RULE,...", help="take the mends of these rules, safe or not")
    parser.add_argument("--choice", default="", help="which way, where a rule can be mended in several")
    parser.add_argument(
        "--tolerance", metavar="MM", default="0.25", help="how far a line may move, how wide a gap is closed (0.25)"
    )
    add_conditions(parser)


def run(options: argparse.Namespace) -> int:
    rules = [rule.strip() for rule in (options.only or "").split(",") if rule.strip()]
    for rule in rules:
        rule_of(rule)
    tolerance = parse_length(options.tolerance)
    if len(options.inputs) == 1 and not Path(options.output).is_dir():
        files.format_for(options.output, None)
        files.say(_mended(options.inputs[0], options.output, rules, tolerance, options))
        return 0
    return _many(options, rules, tolerance)


def _many(options: argparse.Namespace, rules: list[str], tolerance: float) -> int:
    folder = Path(options.output)
    if not folder.is_dir():
        raise BadRequest(f'"{options.output}" is not a folder: make it first, or mend one file at a time.')
    failed = 0
    for name in options.inputs:
        try:
            files.say(f"{name}: {_mended(name, str(folder / Path(name).name), rules, tolerance, options)}")
        except HakobuError as error:
            failed += 1
            print(f"{name}: {error.sentence}", file=sys.stderr)
    files.say(f"{len(options.inputs) - failed} of {len(options.inputs)} files written to {folder}.")
    return 2 if failed else 0


def _mended(name: str, output: str, rules: list[str], tolerance: float, options: argparse.Namespace) -> str:
    """Reads, mends and writes one file; what was done, in a sentence."""
    files.format_for(output, None)
    result = files.read_design(name)
    operation = operation_of("mend")
    conditions = conditions_from(options, result.document).to_json()
    values = {"rules": rules, "tolerance_mm": tolerance, "choice": options.choice, "conditions": conditions}
    mended = run_step(result.document, Step("mend", operation.id, operation.version, values))
    outcome = mended.done()
    files.write_design(mended.document, output, None)
    return f"{outcome.title}; {outcome.note}."
