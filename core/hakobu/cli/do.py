"""`hakobu do`: one operation on a file."""

from __future__ import annotations

import argparse
import json
import re
from collections.abc import Sequence
from pathlib import Path

from .. import pipeline
from ..errors import BadRequest
from ..model import Conditions, Document, Step, codec
from ..model.ids import new_key
from ..model.report import report_of
from ..operations import NAMES, Operation, operation_of
from ..operations.spelling import options_of, selection_from, values_from
from . import files

#: Hakobu's own files.
OWN = ".json"


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("operation", metavar="OPERATION", help=f"what is done: {', '.join(NAMES)}")
    parser.add_argument("rest", metavar="IN OUT [--on QUERY] [--PARAMETER VALUE ...]", nargs=argparse.REMAINDER)


def parser_of(operation: Operation) -> argparse.ArgumentParser:
    """The options of one operation."""
    parser = argparse.ArgumentParser(prog=f"hakobu do {operation.id}", description=f"{operation.title}.")
    parser.add_argument("input", metavar="IN", help="a design, or Hakobu's own JSON")
    parser.add_argument("output", metavar="OUT", help="a format by its suffix; .json: Hakobu's own")
    parser.add_argument("--json", action="store_true", help="print the report")
    for role in operation.roles:
        parser.add_argument(f"--{role.id}", dest=f"role {role.id}", metavar="QUERY", help=role.label)
    add_parameters(parser, operation)
    return parser


def add_parameters(parser: argparse.ArgumentParser, operation: Operation, without: Sequence[str] = ()) -> None:
    """An option for each parameter that can be typed, but those without."""
    for option, (_, told) in options_of(operation).items():
        if option not in without:
            _add(parser, option, told)
    for option, (help_, _) in operation.spellings.items():
        parser.add_argument(f"--{option}", dest=f"value {option}", help=help_)


def _add(parser: argparse.ArgumentParser, option: str, told) -> None:
    at = {"dest": f"value {option}", "help": told.help.replace("%", "%%")}
    if told.kind == "flag":
        parser.add_argument(f"--{option}", action=argparse.BooleanOptionalAction, default=None, **at)
        return
    choices = [value for value, _ in told.choices] if told.kind == "choice" else None
    parser.add_argument(f"--{option}", choices=choices, metavar=None if choices else told.kind.upper(), **at)


def run(options: argparse.Namespace) -> int:
    operation = operation_of(options.operation)
    options = parser_of(operation).parse_args(with_figures_joined(options.rest))
    if Path(options.output).suffix != OWN:
        files.format_for(options.output, None)
    document = read(options.input)
    given = {key: value for key, value in vars(options).items() if value is not None}
    values = values_from(operation, named(given, "value "), document)
    step = Step(new_key(), operation.id, operation.version, values, selection_from(operation, named(given, "role ")))
    result = pipeline.run_step(document, step)
    outcome = result.done()
    write(result.document, options.output)
    said = "; ".join(filter(None, (outcome.title, outcome.note)))
    if options.json:
        print(json.dumps(report(operation, document, result), indent=2))
    else:
        files.say(f"{said}.")
    return 0


def with_figures_joined(words: list[str]) -> list[str]:
    """Words in which a figure below zero stands with its option, or it would be taken for one."""
    joined: list[str] = []
    for word in words:
        if joined and re.match(r"-[\d.]", word) and re.fullmatch(r"--[a-z-]+", joined[-1]):
            joined[-1] += f"={word}"
        else:
            joined.append(word)
    return joined


def named(given: dict, begin: str) -> dict:
    return {key.removeprefix(begin): value for key, value in given.items() if key.startswith(begin)}


def read(name: str) -> Document:
    if Path(name).suffix != OWN:
        return files.read_design(name).document
    try:
        return codec.from_json(files.read_bytes(name).decode())
    except UnicodeDecodeError as error:
        raise BadRequest(f"{name} is no document of Hakobu's: it is no text.") from error


def write(document: Document, name: str) -> None:
    if Path(name).suffix == OWN:
        files.write_bytes(name, codec.to_json(document).encode())
    else:
        files.write_design(document, name, None)


def report(operation: Operation, before: Document, result: pipeline.StepResult) -> dict:
    """What the contract of the command line says a report holds."""
    from ..checks import check, in_order  # loaded only where a report is asked for

    after, outcome = result.document, result.done()
    return {
        "operation": operation.id,
        "before": report_of(before).as_json(),
        "after": report_of(after).as_json(),
        "report": {"title": outcome.title, "note": outcome.note, **outcome.statistics},
        "findings": [f.as_json() for f in in_order([*outcome.findings, *check(after, Conditions())])],
    }
