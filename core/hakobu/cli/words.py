"""`hakobu words`: lettering as a file."""

from __future__ import annotations

import argparse
import csv
import io
import json
from pathlib import Path

from .. import pipeline
from ..errors import BadRequest
from ..formats.limited import read_face
from ..lettering.faces import shipped
from ..model import Document, Step
from ..model.ids import new_key
from ..model.units import parse_length
from ..operations import operation_of
from ..operations.spelling import values_from
from . import files
from .do import OWN, add_parameters, named, report, with_figures_joined, write

#: Sizes by what they are of: one option each.
BY = {"capitals": "capitals", "x-height": "x", "em": "em", "whole": "whole"}


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument(
        "rest", metavar="TEXT OUT [--face NAME] [--capitals 40mm] [--PARAMETER VALUE ...]", nargs=argparse.REMAINDER
    )


def parser_of() -> argparse.ArgumentParser:
    """The options of `words`: those of the operation, sizes by what they are of, and faces and lists from files."""
    parser = argparse.ArgumentParser(prog="hakobu words", description="Sets words as outlines.")
    parser.add_argument("text", metavar="TEXT", help="what is set; with --list, the name of a file of names")
    parser.add_argument("output", metavar="OUT", help="a format by its suffix; .json: Hakobu's own")
    parser.add_argument("--json", action="store_true", help="print the report")
    of_list = "a name on each line of a file, or in a column of a CSV file"
    parser.add_argument("--list", metavar="COLUMN", nargs="?", const="", help=of_list)
    for option in BY:
        parser.add_argument(f"--{option}", metavar="LENGTH", help="the height of what it says")
    add_parameters(parser, operation_of("words"), without=("text",))
    return parser


def run(options: argparse.Namespace) -> int:
    operation = operation_of("words")
    options = parser_of().parse_args(with_figures_joined(options.rest))
    if Path(options.output).suffix != OWN:
        files.format_for(options.output, None)
    given = {key: value for key, value in vars(options).items() if value is not None}
    values = values_from(operation, named(given, "value "), Document())
    values |= _size(given, values)
    if options.list is not None:
        values |= {"text": "\n".join(_names(options.text, options.list)), "each": True}
    else:
        values["text"] = options.text.replace("\\n", "\n")
    brought: dict[str, bytes] = {}
    face = values.get("face", "")
    if face and not shipped(face) and Path(face).suffix:
        read = read_face(face, files.read_bytes(face))
        brought[read.sha256] = read.data
        values["face"] = read.sha256
    step = Step(new_key(), operation.id, operation.version, values)
    result = pipeline.run_step(Document(), step, font=brought.__getitem__)
    outcome = result.done()
    write(result.document, options.output)
    if options.json:
        print(json.dumps(report(operation, Document(), result), indent=2))
    else:
        files.say(f"{outcome.title}; {outcome.note}.")
    return 0


def _size(given: dict, values: dict) -> dict:
    """The size by what was typed: a width alone is the text's, a width and a height are a box."""
    asked = [option for option in BY if option.replace("-", "_") in given]
    if len(asked) > 1:
        raise BadRequest(f"Give one size: --{asked[0]} or --{asked[1]}.")
    if asked:
        return {"size_by": BY[asked[0]], "size_mm": parse_length(given[asked[0].replace("-", "_")])}
    if "size_by" in values or "width_mm" not in values:
        return {}
    return {"size_by": "box" if "height_mm" in values else "width"}


def _names(file: str, column: str) -> list[str]:
    """The names in a file: a line each, or of a column of a CSV file, by its heading; by its number where the
    file has no headings."""
    try:
        text = files.read_bytes(file).decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise BadRequest(f"{file} is no text (UTF-8): save it as a text or CSV file.") from error
    if not column:
        return [line.strip() for line in text.splitlines() if line.strip()]
    rows = list(csv.reader(io.StringIO(text)))
    heading = rows[0] if rows else []
    if column in heading:
        at, rows = heading.index(column), rows[1:]
    elif column.isdecimal() and 1 <= int(column) <= len(heading):
        at = int(column) - 1
    else:
        raise BadRequest(f'{file} has no column "{column}"; it has {", ".join(heading) or "none"}.')
    return [row[at].strip() for row in rows if len(row) > at and row[at].strip()]
