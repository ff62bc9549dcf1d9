"""All that is handed over of a job, in one archive: files of its sheets, proven, a cover, and what is in them."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from . import formats
from .formats import WriteOptions
from .formats.pdf.writer import write_pages
from .handover import placing_page
from .handover.archive import archive_of
from .handover.cover import LEAVE, CoverSheet, cover_pages
from .machines import options_for
from .machines.compensation import compensation_of
from .model import Document, Machine, Treatment
from .model.piece_list import PieceLine, piece_list
from .model.sheet import Sheet
from .model.words import number_of, time_words
from .pipeline import prove, write, write_for
from .sheets.files import corner_words, sheet_note, sheet_stem
from .sheets.placed import as_cut
from .toolpaths import Made, Plan, estimate
from .toolpaths.notices import OUTSIDE_FIRST

#: Where no machine is chosen, sheets are written in this format.
USUAL = "svg"
#: Pieces that are listed of one file.
MOST_PIECES = 2000


@dataclass(frozen=True)
class Worked:
    """A sheet, or the whole design where there are none, with the machine that it goes to, how that works it, and the
    name of its material."""

    laid: Document
    sheet: Sheet | None
    machine: Machine | None
    plan: Plan
    material: str


@dataclass(frozen=True)
class _Part:
    name: str
    data: bytes
    lines: tuple[str, ...]
    proof: dict[str, Any]
    pieces: list[PieceLine]


PlanOf = Callable[[Document, Machine | None], Plan]


def works_of(
    document: Document,
    machine_of: Callable[[Sheet | None], Machine | None],
    plan_of: PlanOf,
    material_of: Callable[[Sheet | None], str],
) -> list[Worked]:
    """What is worked of a document: each sheet, or the whole where nothing is laid yet."""
    made = []
    for sheet in document.sheets or (None,):
        laid = as_cut(document, sheet) if sheet else document
        machine = machine_of(sheet)
        made.append(Worked(laid, sheet, machine, plan_of(laid, machine), material_of(sheet)))
    return made


def bundle(title: str, document: Document, works: Sequence[Worked]) -> bytes:
    """The archive: 0-cover.pdf, READ-ME.txt, a file and its placing page for each sheet, the design as SVG, pieces.csv
    and proofs.json. The same job gives the same bytes."""
    files: dict[str, bytes] = {}
    parts, covers = [], []
    for nth, work in enumerate(works, 1):
        part = _part(work, nth)
        parts.append(part)
        files[part.name] = part.data
        said = work.sheet.name if work.sheet else title
        covers.append(CoverSheet(said, work.laid, part.lines))
        if work.sheet:
            page = placing_page(document, work.sheet, work.machine)
            files[f"{_stem(work, nth)}-placing.pdf"] = write(page, "pdf", options=WriteOptions(title=said)).data
    files["design.svg"] = write(document, "svg", title).data
    said = _said(document, parts)
    files["0-cover.pdf"] = write_pages(cover_pages(title, said, covers), WriteOptions(title=title))
    files["READ-ME.txt"] = ("\n".join([title, "", *said, "", *LEAVE, "", *_contents(parts)]) + "\n").encode()
    files["pieces.csv"] = _pieces(parts)
    proofs = {part.name: part.proof for part in parts}
    files["proofs.json"] = (json.dumps(proofs, indent=2, sort_keys=True) + "\n").encode()
    return archive_of(files)


def _stem(work: Worked, nth: int) -> str:
    return sheet_stem(work.sheet, nth) if work.sheet else "design"


def _part(work: Worked, nth: int) -> _Part:
    format_id = work.machine.format if work.machine else USUAL
    note = sheet_note(work.sheet) if work.sheet else ""
    options = options_for(work.machine, note, plan=work.plan) if work.machine else WriteOptions(title=note)
    made: Made | None = None
    if work.machine:
        file = write_for(work.laid, format_id, options)
        data, made = file.written.data, file.made
    else:
        data = write(work.laid, format_id, options=options).data
    suffix = formats.by_id(format_id).suffixes[0]
    name = f"{_stem(work, nth)}{'-cut' if not work.sheet else ''}{suffix}"
    proof: dict[str, Any] = {"sha256": hashlib.sha256(data).hexdigest(), "holds": None}
    pieces: list[PieceLine] = []
    if formats.by_id(format_id).read:
        proven = prove(name, data, work.laid, work.plan if made else None, made)
        proof |= proven.proof.as_json()
        if proven.made:
            proof["compensation"] = compensation_of(proven.made, work.laid).as_json()
        pieces = piece_list(proven.read.document, MOST_PIECES)
    return _Part(name, data, tuple(_lines(work, name, made, proof)), proof, pieces)


def _lines(work: Worked, name: str, made: Made | None, proof: dict[str, Any]) -> list[str]:
    """The lines of a sheet on the cover."""
    sheet, machine = work.sheet, work.machine
    state = {True: "proven", False: "NOT AS LAID", None: "not proven"}[proof["holds"]]
    lines = [f"File: {name}, {state}"]
    if sheet:
        lines.append(f"{sheet_note(sheet)}. Material: {work.material or 'not chosen'}")
    if machine:
        reach = f"reach {machine.reach_width_mm:g} x {machine.reach_height_mm:g} mm"
        lines.append(f"Machine: {machine.name}, {reach}")
        if sheet:
            lines.append(corner_words(sheet, machine.carrier_mm, machine.carrier) + ".")
    if made:
        found = estimate(made.program)
        counts = f"{number_of(len(made.program), 'line')}, {found.line_mm / 1000:.2f} m"
        inside = all(finding.rule != OUTSIDE_FIRST.id for finding in made.findings)
        lines.append(f"{counts}, about {time_words(found.seconds)}{'; inside before outside' if inside else ''}")
        lines += [_tool_line(tool) for tool in made.program.tools]
        lines += list(dict.fromkeys(f"Note: {finding.message}" for finding in made.findings))
    return lines


def _tool_line(tool) -> str:
    machine = tool.machine
    words = [f"Tool {tool.number}: {tool.layer}, {tool.treatment.value}"]
    if machine:
        words += [f"{machine.speed_mm_s:g} mm/s"] if machine.speed_mm_s else []
        words += [f"{machine.power_percent:g} %"] if machine.tool == "laser" else []
        words += [f"{machine.force_g:g} g"] if machine.force_g and machine.tool != "laser" else []
        words += [number_of(machine.passes, "pass", "passes")] if machine.passes > 1 else []
        words += [f"kerf {machine.cut_kerf_mm:g} mm"] if machine.cut_kerf_mm else []
    return ", ".join(words)


def _said(document: Document, parts: Sequence[_Part]) -> list[str]:
    width, height = document.size_mm
    counts = f"{number_of(len(document.pieces_in_use()), 'piece')}, {number_of(len(parts), 'file')}"
    lines = [f"{width:.1f} x {height:.1f} mm, {counts}"]
    used = [layer for layer in document.layers if any(p.layer == layer.id for p in document.pieces)]
    for layer in used:
        if layer.treatment is not Treatment.LEAVE_OUT:
            lines.append(f"{layer.name}: {layer.treatment.value}, {layer.color}")
    return lines


def _contents(parts: Sequence[_Part]) -> list[str]:
    lines = ["In this archive:", "0-cover.pdf: this, with a picture of every sheet"]
    for part in parts:
        lines += [f"{part.lines[0].removeprefix('File: ')}:", *(f"    {line}" for line in part.lines[1:])]
    lines += ["design.svg: the whole design", "pieces.csv: what the next program will show of each file"]
    return [*lines, "proofs.json: how each file compares with what it has to hold, and its SHA-256"]


def _pieces(parts: Sequence[_Part]) -> bytes:
    rows = ["file,number,layer,width_mm,height_mm,shapes,holes,open"]
    for part in parts:
        for nth, piece in enumerate(part.pieces, 1):
            values = asdict(piece)
            size = f"{values['width_mm']:.2f},{values['height_mm']:.2f}"
            layer = '"' + piece.layer.replace('"', '""') + '"'
            rows.append(f"{part.name},{nth},{layer},{size},{piece.outers},{piece.holes},{int(piece.open)}")
    return ("\n".join(rows) + "\n").encode()
