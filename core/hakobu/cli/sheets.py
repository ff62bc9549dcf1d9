"""`hakobu sheets`: a design on its sheets, a file for each, with a report."""

from __future__ import annotations

import argparse
import io
import json
import zipfile
from pathlib import Path
from typing import Any

from .. import formats, pipeline
from ..bundle import bundle, works_of
from ..errors import BadRequest
from ..machines import options_for
from ..model import Conditions, Document, Machine, Step
from ..model.sheet import Sheet
from ..model.units import parse_length
from ..model.words import number_of, time_words
from ..operations import operation_of
from ..sheets.files import corner_words, sheet_note, sheet_stem
from ..sheets.placed import as_cut
from ..sheets.report import report_of as sheet_report
from . import files
from .check import add_conditions, conditions_from
from .working import add_plan, plan_for, report_of


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN")
    parser.add_argument("output", metavar="OUT", help="a folder, which is made; or X.zip, with all that is handed over")
    parser.add_argument("--pack", action="store_true", help="close together instead of as they lie in the design")
    parser.add_argument("--copies", type=int, default=1, metavar="N", help="of each piece or group (1); packs")
    parser.add_argument("--fill", action="store_true", help="as many as fit; packs")
    parser.add_argument("--stock", metavar="WxH", help='the size of the sheets, as "300x400mm"; else as sold')
    parser.add_argument("--apart", default="2", metavar="MM", help="what stays free between pieces (2)")
    parser.add_argument("--margin", default="5", metavar="MM", help="what stays free along the rim (5)")
    parser.add_argument("--turns", default="quarter", help="fixed, half, quarter or free (quarter)")
    parser.add_argument("--seconds", type=float, default=0.0, metavar="S", help="search so long for a closer packing")
    parser.add_argument("--numbers", default="", metavar="WHERE", help="of pieces and groups: within or beside; packs")
    parser.add_argument("--numbers-by", default="draw", metavar="HOW", help="draw, score or cut (draw)")
    parser.add_argument("--to", metavar="FORMAT", help="the format of the files; else that of the machine, or SVG")
    parser.add_argument("--json", action="store_true", help="the report as JSON")
    add_plan(parser)
    add_conditions(parser)


def run(options: argparse.Namespace) -> int:
    design = files.read_design(options.input).document
    conditions = conditions_from(options, design)
    packs = options.pack or options.fill or options.copies > 1 or bool(options.numbers)
    values = {
        "arrange": "packed" if packs else "placed",
        "spacing_mm": parse_length(options.apart),
        "margin_mm": parse_length(options.margin),
        "copies": options.copies,
        "fill": options.fill,
        "turns": options.turns,
        "seconds": options.seconds,
        "numbers": options.numbers,
        "number_by": options.numbers_by,
        **_stock(options.stock),
    }
    operation = operation_of("sheets")
    step = Step("sheets", operation.id, operation.version, values)
    outcome = pipeline.run_step(design, step, conditions=conditions).done()
    machine = conditions.machine
    if options.output.lower().endswith(".zip"):
        return _archive(options, outcome.document, conditions)
    format_id = options.to or (machine.format if machine else "svg")
    folder = Path(options.output)
    folder.mkdir(parents=True, exist_ok=True)
    rows = []
    for nth, sheet in enumerate(outcome.document.sheets, 1):
        laid = as_cut(outcome.document, sheet)
        plan = plan_for(options, laid, machine, conditions.material)
        written = options_for(machine, sheet_note(sheet), format_id, plan)
        name = folder / f"{sheet_stem(sheet, nth)}{formats.by_id(format_id).suffixes[0]}"
        if written.plan.machine is None:
            data, made = pipeline.write(laid, format_id, options=written).data, None
        else:
            file = pipeline.write_for(laid, format_id, written)
            data, made = file.written.data, file.made
        name.write_bytes(data)
        holds = None
        if formats.by_id(format_id).read:
            plan = written.plan if made else None
            holds = pipeline.prove(name.name, data, laid, plan, made).proof.holds
        row = _row(outcome.document, sheet, machine, name, holds)
        rows.append(row | ({"program": report_of(made)} if made else {}))
    if options.json:
        print(json.dumps({"title": outcome.title, "note": outcome.note, "sheets": rows}, indent=2))
    else:
        for row in rows:
            files.say(_said(row))
    return int(any(row["problems"] or row["proof"] is False for row in rows))


def _archive(options: argparse.Namespace, document: Document, conditions: Conditions) -> int:
    """All that is handed over as one archive. Raises BadRequest for what that does not hold."""
    if options.to or options.json:
        raise BadRequest("An archive holds the files that machines take, and its report: leave --to and --json out.")
    machine, material = conditions.machine, conditions.material
    name = material.name if material else ""
    works = works_of(
        document, lambda _: machine, lambda laid, of: plan_for(options, laid, of, material), lambda _: name
    )
    data = bundle(Path(options.input).stem, document, works)
    files.write_bytes(options.output, data)
    files.say(f"{options.output}: {number_of(len(works), 'sheet')}, with cover, placing pages, pieces and proofs")
    proofs = json.loads(zipfile.ZipFile(io.BytesIO(data)).read("proofs.json"))
    return int(any(proof["holds"] is False for proof in proofs.values()))


def _row(document: Document, sheet: Sheet, machine: Machine | None, name: Path, holds: bool | None) -> dict[str, Any]:
    report = sheet_report(document, sheet, machine)
    return {
        "file": str(name),
        "name": sheet.name,
        "width_mm": sheet.width_mm,
        "height_mm": sheet.height_mm,
        "mirrored": sheet.mirrored,
        "pieces": report.pieces,
        "used": round(report.used, 4),
        "line_mm": round(report.line_mm, 2),
        "nearest_mm": None if report.nearest_mm is None else round(report.nearest_mm, 3),
        "left_out": report.left,
        "offcut_mm": [round(side, 2) for side in report.offcut_mm],
        "lies": corner_words(sheet, machine.carrier_mm, machine.carrier) if machine else None,
        "problems": [problem.sentence for problem in report.problems],
        "proof": holds,
    }


def _said(row: dict[str, Any]) -> str:
    proof = {True: "proven", False: "NOT as designed", None: "not proven"}[row["proof"]]
    mirrored = ", mirrored" if row["mirrored"] else ""
    words = [
        f"{row['file']}: {row['pieces']} pieces on {row['width_mm']:g} x {row['height_mm']:g} mm{mirrored}",
        f"{100 * row['used']:.0f} % of it used",
        f"{row['line_mm']:.0f} mm of line, {proof}",
        *([row["lies"]] if row["lies"] else []),
        *([time_words(row["program"]["seconds"])] if "program" in row else []),
        *row["problems"],
        *(finding["message"] for finding in row.get("program", {}).get("findings", ())),
    ]
    return "; ".join(words)


def _stock(text: str | None) -> dict[str, float]:
    """Width and height of "300x400mm". Raises BadRequest."""
    if not text:
        return {}
    parts = text.lower().replace("\u00d7", "x").split("x")
    if len(parts) != 2:
        raise BadRequest(f'"{text}" is no size of a sheet: type a width and a height, as "300x400mm".')
    unit = "in" if parts[1].rstrip().endswith(("in", '"')) else "mm"
    return {"width_mm": parse_length(parts[0], unit), "height_mm": parse_length(parts[1], unit)}
