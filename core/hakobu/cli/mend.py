from __future__ import annotations

import argparse

from ..model import Step
from ..model.units import parse_length
from ..operations import operation_of
from ..pipeline import run_step
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN")
    parser.add_argument("output", metavar="OUT")
    parser.add_argument("--only", metavar="RULE,...", help="take the mends of these rules, safe or not")
    parser.add_argument(
        "--tolerance", metavar="MM", default="0.25", help="how far a line may move, how wide a gap is closed (0.25)"
    )


def run(options: argparse.Namespace) -> int:
    files.format_for(options.output, None)
    tolerance = parse_length(options.tolerance)
    result = files.read_design(options.input)
    rules = [rule.strip() for rule in (options.only or "").split(",") if rule.strip()]
    operation = operation_of("mend")
    step = Step("mend", operation.id, operation.version, {"rules": rules, "tolerance_mm": tolerance})
    mended = run_step(result.document, step)
    if mended.error:
        raise mended.error
    files.write_design(mended.document, options.output, None)
    files.say(f"{mended.outcome.title}; {mended.outcome.note}.")
    return 0
