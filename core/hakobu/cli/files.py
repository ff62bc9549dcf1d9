"""Files on the command line: read within the budget, written whole or not at all; - is standard input or output."""

from __future__ import annotations

import argparse
import json
import os
import sys
import tempfile
from functools import cache
from pathlib import Path

from .. import formats
from ..errors import BadRequest, CannotDo, UnreadableFile
from ..formats import ReadOptions, ReadResult, WriteOptions
from ..formats.budget import READING
from ..lists import Lists
from ..model import Document


def read_bytes(name: str) -> bytes:
    """All bytes of a file or of standard input. Raises UnreadableFile or TooMuch."""
    limit = READING.file_bytes + 1
    try:
        if name == "-":
            data = sys.stdin.buffer.read(limit)
        else:
            with open(name, "rb") as file:
                data = file.read(limit)
    except OSError as error:
        raise UnreadableFile(f"{name} cannot be opened: {error.strerror}.") from error
    READING.check_size(len(data))
    return data


def read_design(name: str, unit: str | None = None, strokes: str = "lines") -> ReadResult:
    return formats.read(label(name), read_bytes(name), ReadOptions(unit=unit, strokes=strokes))


def label(name: str) -> str:
    return "standard input" if name == "-" else name


def format_for(name: str, to: str | None) -> str:
    """The id of the format to write: named, or promised by the file's suffix."""
    if to:
        return formats.by_id(to).id
    found = formats.by_name(name)
    if found is None:
        known = ", ".join(s for f in formats.FORMATS if f.write for s in f.suffixes[:1])
        raise BadRequest(
            f"{label(name)} does not say which format to write: end its name in one of {known}, or add --to."
        )
    return found.id


def write_design(document: Document, name: str, to: str | None, options: WriteOptions | None = None) -> tuple[str, ...]:
    """Writes the file and returns what the format could not hold."""
    written = formats.write(document, format_for(name, to), options or WriteOptions())
    write_bytes(name, written.data)
    return written.notes


def write_bytes(name: str, data: bytes) -> None:
    if name == "-":
        sys.stdout.buffer.write(data)
        return
    target = Path(name)
    try:
        with tempfile.NamedTemporaryFile(dir=target.parent, prefix=f".{target.name}.", delete=False) as file:
            file.write(data)
        os.chmod(file.name, 0o666 & ~_umask())
        os.replace(file.name, target)
    except OSError as error:
        raise CannotDo(f"{name} cannot be written: {error.strerror}.") from error


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def say(text: str) -> None:
    """What a person wants to know beside the result itself."""
    print(text, file=sys.stderr)


def add_lists(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--lists", metavar="FILE", help="your own materials, machines and purposes, as JSON")


@cache
def lists_from(name: str | None) -> Lists:
    """The lists of a file, or those that ship."""
    if not name:
        return Lists()
    try:
        return Lists.from_json(json.loads(read_bytes(name)))
    except ValueError as error:
        raise BadRequest(f"{label(name)} holds no lists: it is not JSON ({error}).") from error
