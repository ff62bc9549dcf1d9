"""`hakobu convert`: files from one format to another."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path

from .. import formats
from ..errors import BadRequest, CannotDo
from ..formats import WriteOptions
from ..formats.limited import printed_picture
from ..machines import options_for
from ..model import Document, Machine, Treatment
from ..model.units import parse_length
from ..pipeline import write_for
from . import files
from .working import add_plan, plan_for, say_report

#: Formats whose coordinates are rounded as asked.
ROUNDED = ("svg", "dxf")


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN", nargs="+", help="a file, or several for a folder; - is standard input")
    parser.add_argument("output", metavar="OUT", help="a file, or a folder; - is standard output")
    parser.add_argument("--unit", choices=("mm", "in", "px"), help="what a number means where the file states no unit")
    parser.add_argument("--to", metavar="FORMAT", help="the format to write, where OUT does not say it")
    parser.add_argument("--layer", action="append", metavar="NAME", help="only this layer; may be given again")
    parser.add_argument("--precision", metavar="MM", help="what coordinates are rounded to, 0.001 mm at most")
    parser.add_argument("--release", metavar="NAME", help="of the format, where it has several: R12, HP-GL/2, ...")
    parser.add_argument("--dxf-version", metavar="NAME", help="the release of a DXF file, such as R12 or R2000")
    parser.add_argument(
        "--strokes", choices=("lines", "outlines"), default="lines", help="what lines with a width become"
    )
    parser.add_argument("--machine", metavar="ID", help="the machine that the file is for: its tool is compensated")
    add_plan(parser)
    files.add_lists(parser)


def run(options: argparse.Namespace) -> int:
    folder = len(options.input) > 1 or Path(options.output).is_dir() or options.output.endswith("/")
    if not folder:
        return _one(options, options.input[0], options.output, options.to or _of_machine(options))
    to = options.to or _of_machine(options)
    if to is None:
        raise BadRequest("Say which format to write into the folder: add --to or --machine.")
    target, suffix = Path(options.output), formats.by_id(to).suffixes[0]
    target.mkdir(parents=True, exist_ok=True)
    named = [target / f"{Path(name).stem if name != '-' else 'design'}{suffix}" for name in options.input]
    twice = next((name for name in named if named.count(name) > 1), None)
    if twice:
        raise BadRequest(f"Two of the files would both be written as {twice}: rename one of them.")
    for name, out in zip(options.input, named, strict=True):
        files.say(f"{files.label(name)} -> {out}")
        _one(options, name, str(out), to)
    return 0


def _machine(options: argparse.Namespace) -> Machine:
    return files.lists_from(options.lists).machine(options.machine)


def _of_machine(options: argparse.Namespace) -> str | None:
    if not options.machine:
        return None
    if formats.by_name(options.output) is not None and not options.output.endswith("/"):
        return None
    return _machine(options).format


def _one(options: argparse.Namespace, name: str, out: str, to: str | None) -> int:
    identity = files.format_for(out, to)
    written = _write_options(options, identity)
    result = files.read_design(name, options.unit, options.strokes)
    document = _only(result.document, options.layer, files.label(name))
    written = replace(written, plan=plan_for(options, document, written.plan.machine))
    if document.pictures and not document.pieces:
        raise CannotDo(f"{files.label(name)} is a picture and has no lines yet: use trace.")
    if identity in formats.PRINTED:
        used = {picture.sha256 for picture in document.pictures_in_use()} & set(result.blobs)
        pictures = {key: printed_picture(files.label(name), result.blobs[key]) for key in used}
        written = replace(written, pictures=pictures)
    made = None
    if written.plan.machine is None:
        notes = files.write_design(document, out, to, written)
    else:
        file = write_for(document, identity, written)
        files.write_bytes(out, file.written.data)
        notes, made = file.written.notes, file.made
    for finding in result.findings:
        files.say(f"{finding.level.value}: {finding.message}")
    if made:
        say_report(made)
    for note in notes:
        files.say(note)
    return 0


def _write_options(options: argparse.Namespace, identity: str) -> WriteOptions:
    release = options.dxf_version if identity == "dxf" and options.dxf_version else options.release
    if release and release not in formats.by_id(identity).releases:
        known = ", ".join(formats.by_id(identity).releases) or "no others than its own"
        raise BadRequest(f'"{release}" is no release of {formats.by_id(identity).name}: it has {known}.')
    machine = _machine(options) if options.machine else None
    made = options_for(machine) if machine else WriteOptions()
    made = replace(made, release=release)
    if options.precision:
        if identity not in ROUNDED:
            names = " and ".join(formats.by_id(f).name for f in ROUNDED)
            raise BadRequest(f"{formats.by_id(identity).name} has a precision of its own; {names} take --precision.")
        precision = parse_length(options.precision)
        if not 1e-6 <= precision <= 1e-3:
            raise BadRequest(f"A precision lies between 0.000001 and 0.001 mm, not at {precision:g}.")
        made = replace(made, precision_mm=precision)
    return made


def _only(document: Document, names: list[str] | None, label: str) -> Document:
    """The document with all but the named layers left out."""
    if not names:
        return document
    known = {layer.name.lower(): layer.id for layer in document.layers}
    wanted = set()
    for name in names:
        if name.lower() not in known:
            layers = ", ".join(f'"{layer.name}"' for layer in document.layers) or "none"
            raise BadRequest(f'{label} has no layer "{name}"; it has {layers}.')
        wanted.add(known[name.lower()])
    left = {layer.id: {"treatment": Treatment.LEAVE_OUT.value} for layer in document.layers if layer.id not in wanted}
    return document.with_layers(left)
