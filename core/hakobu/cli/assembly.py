"""`hakobu assembly`: the assembly page of a design."""

from __future__ import annotations

import argparse
from pathlib import Path

from ..errors import BadRequest
from ..formats import WriteOptions
from ..handover import assembly_page
from . import files
from .do import read

#: What a page is written as.
PAGES = (".pdf", ".svg")


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN", help="a design; .json: Hakobu's own")
    parser.add_argument("output", metavar="OUT", help="a PDF or an SVG file")
    parser.add_argument("--title", metavar="TEXT", help="what stands at its top; without it, the file's name")


def run(options: argparse.Namespace) -> int:
    if Path(options.output).suffix.lower() not in PAGES:
        raise BadRequest(f"A page is written as one of {', '.join(PAGES)}: name OUT so.")
    title = options.title or Path(options.input).stem
    page = assembly_page(read(options.input), title)
    files.write_design(page, options.output, None, WriteOptions(title=title))
    files.say(f"Assembly page of {title}.")
    return 0
