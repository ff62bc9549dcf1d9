"""FORMATS: every kind of file Hakobu reads or writes, a line each."""

from __future__ import annotations

from dataclasses import replace
from pathlib import PurePath

from ..errors import UnknownFormat, UnreadableFile
from ..model import Document
from ..model.notices import LIVE_TEXT, NOTHING
from . import dxf, gcode, hpgl, image, pdf, svg
from .archive import is_archive
from .format import Format, ReadOptions, ReadResult, WriteOptions, Written

FORMATS: tuple[Format, ...] = (
    svg.FORMAT,
    dxf.FORMAT,
    hpgl.FORMAT,
    gcode.FORMAT,
    pdf.FORMAT,
    *image.FORMATS,
)

#: Formats that hold the pictures that are printed.
PRINTED = ("svg", "pdf")


def by_id(identity: str) -> Format:
    for format_ in FORMATS:
        if format_.id == identity:
            return format_
    known = ", ".join(f.id for f in FORMATS)
    raise UnknownFormat(f'"{identity}" is not a format that is known here: use one of {known}.')


def by_name(name: str) -> Format | None:
    """The format that a file's name promises."""
    suffix = PurePath(name).suffix.lower()
    return next((f for f in FORMATS if suffix in f.suffixes), None)


def recognise(name: str, data: bytes) -> Format:
    """The format to read a file as: what it is, not what it is called.

    Raises UnreadableFile for an empty file or one that is not what its name says, UnknownFormat for the rest.
    """
    label = PurePath(name).name or "The file"
    if not data.strip():
        raise UnreadableFile(f"{label} is empty: there is nothing to read in it.")
    if is_archive(data):
        raise UnknownFormat(f"{label} is an archive: unpack it, and bring in the files that you want of it.")
    promised = by_name(name)
    if promised and promised.looks_like(data):
        return promised
    found = next((f for f in FORMATS if f.looks_like(data)), None)
    if found:
        return found
    if promised:
        raise UnreadableFile(f"{label} is called {promised.name}, but what is inside is something else.")
    known = ", ".join(f.name for f in FORMATS if f.read)
    raise UnknownFormat(f"{label} is of a kind that cannot be read here; these can: {known}.")


def read(name: str, data: bytes, options: ReadOptions | None = None) -> ReadResult:
    """Reads untrusted bytes in a limited child process."""
    from .limited import read_limited

    options = options or ReadOptions()
    options.budget.check_size(len(data))
    format_ = recognise(name, data)
    if format_.read is None:
        label = PurePath(name).name or "The file"
        raise UnknownFormat(
            f"{label} is {format_.name}, which can be written here, but not read yet: "
            "save it as SVG in the program it came from, and bring that in."
        )
    return _with_nothing_said(read_limited(name, format_, data, options))


def _with_nothing_said(result: ReadResult) -> ReadResult:
    """What was read; where there is neither a line nor a picture in it, with that said."""
    if result.document.pieces or result.document.pictures:
        return result
    message = "There is nothing in this file that can be cut."
    if any(finding.rule == LIVE_TEXT.id for finding in result.findings):
        message = "There is only text in this file: open it in the program it came from and turn the text to outlines."
    return replace(result, findings=(*result.findings, NOTHING.at(message, "nothing")))


def write(document: Document, identity: str, options: WriteOptions) -> Written:
    """The design as a file. Raises UnknownFormat where the format is only read."""
    format_ = by_id(identity)
    if format_.write is None:
        raise UnknownFormat(f"{format_.name} can be read here, but not written.")
    return format_.write(document, options)


__all__ = [
    "FORMATS",
    "PRINTED",
    "Format",
    "ReadOptions",
    "ReadResult",
    "WriteOptions",
    "Written",
    "by_id",
    "by_name",
    "read",
    "recognise",
    "write",
]
