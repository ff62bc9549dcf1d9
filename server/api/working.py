"""What a machine does with a design or a sheet: its runs in order, their ways and times, proven."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from hakobu import formats, pipeline
from hakobu.errors import NotThere
from hakobu.machines import options_for
from hakobu.machines.compensation import compensation_of
from hakobu.machines.proof import followed_path
from hakobu.model import Document, Level, Machine
from hakobu.sheets.placed import as_cut, from_other_end
from hakobu.toolpaths import Plan, Program, estimate, frame_of, inverse, lines_of
from hakobu.toolpaths.estimate import run_clock
from hakobu.toolpaths.own_places import place_near
from jobs.conditions import conditions_for, machine_of, plan_of
from jobs.models import Revision
from jobs.store import load_document
from wire.polylines import lines_of as drawn_lines
from wire.polylines import packed

#: Where no machine is chosen, files are proven in this format.
USUAL_FORMAT = "hpgl"
#: Lines of runs are drawn this near to them, in mm.
FINE_MM = 0.01


def work_of(revision: Revision, nth: int) -> tuple[Document, Machine | None]:
    """What is worked, and with what: a sheet by its number from 1, or with 0 the whole design."""
    document = load_document(revision.document_id)
    if not nth:
        return document, conditions_for(revision).machine
    if nth > len(document.sheets):
        raise NotThere("This sheet is not there (any more); look at the list of sheets again.")
    sheet = document.sheets[nth - 1]
    return as_cut(document, sheet), machine_of(revision.settings, sheet)


def format_of(revision: Revision, nth: int) -> str:
    """What a program is written as."""
    machine = work_of(revision, nth)[1]
    return machine.format if machine else USUAL_FORMAT


def written(revision: Revision, nth: int, from_run: int, done: Sequence[str]) -> bytes:
    """The file of a program: from a run on, from 0, without the pieces that are done, by their ids."""
    design, machine = work_of(revision, nth)
    plan = plan_of(revision.settings, design, machine, left_out=frozenset(done), from_run=from_run)
    return _file(design, machine, machine.format if machine else USUAL_FORMAT, plan).written.data


def to_send(revision: Revision, nth: int, from_run: int, done: Sequence[str]) -> dict[str, Any]:
    """A file for its machine, as hexadecimal digits, how long it takes, and what stands against sending it. Plotters
    are told straight strokes only."""
    design, machine = work_of(revision, nth)
    assert machine, "what is sent has a machine"
    plain = replace(machine, arcs=False)
    plan = plan_of(revision.settings, design, plain, left_out=frozenset(done), from_run=from_run)
    file = _file(design, plain, plain.format, plan)
    stops = [f.message for f in file.made.findings if f.level is Level.STOPS]
    return {"file": file.written.data.hex(), "seconds": estimate(file.made.program).seconds, "stops": stops}


def _file(design: Document, machine: Machine | None, format_id: str, plan: Plan) -> pipeline.MachineFile:
    options = options_for(machine, plan=plan) if machine else formats.WriteOptions(plan=plan)
    return pipeline.write_for(design, format_id, options)


def place(revision: Revision, nth: int, piece: str, outline: int, at: tuple[float, float]) -> dict[str, Any]:
    """The place on an outline that is nearest to x, y in mm on what is worked, as steps name it."""
    found, long = place_near(work_of(revision, nth)[0], piece, outline, at)
    if nth and load_document(revision.document_id).sheets[nth - 1].mirrored:
        found = from_other_end(found)
    return {**found._asdict(), "length_mm": long}


def program(revision: Revision, nth: int) -> dict[str, Any]:
    """What is shown of a program."""
    design, machine = work_of(revision, nth)
    plan = plan_of(revision.settings, design, machine)
    format_id = machine.format if machine else USUAL_FORMAT
    name = f"work{formats.by_id(format_id).suffixes[0]}"
    file = _file(design, machine, format_id, plan)
    made = file.made
    held = formats.by_id(format_id).read is not None
    proven = pipeline.prove(name, file.written.data, design, plan if machine else None, made) if held else None
    back = compensation_of(made, design) if machine else None
    found, runs = estimate(made.program), made.program
    path = lines_of(runs)
    width, height = design.frame
    return {
        "machine": _machine_out(machine) if machine else None,
        "format": format_id,
        "page_mm": [width, height],
        "tools": [_tool_out(tool) for tool in runs.tools],
        "pieces": list(runs.pieces),
        "names": [design.by_id[piece].name or "" for piece in runs.pieces],
        "runs": {
            "tool": runs.tool.tolist(),
            "piece": runs.piece.tolist(),
            "outline": runs.outline.tolist(),
            "closed": _closed(design, runs),
            "nth_pass": runs.nth_pass.tolist(),
            "seconds": np.round(found.run, 4).tolist(),
            "travel_s": np.round(found.travel, 4).tolist(),
        },
        "lines": drawn_lines(path, FINE_MM),
        "clock": packed(run_clock(runs, path, found, FINE_MM), "<f4"),
        "seconds": found.seconds,
        "line_mm": found.line_mm,
        "travel_mm": found.travel_mm,
        "lifts": found.lifts,
        "changes": found.changes,
        "home": _home(runs, machine),
        "findings": [
            {"message": f.message, "level": f.level.value, "title": f.title, "effect": f.effect, "place": f.place}
            for f in made.findings
        ],
        "proof": _proof_out(proven) if proven else None,
        "compensation": back.as_json() if back else None,
    }


def _machine_out(machine: Machine) -> dict[str, Any]:
    return {"id": machine.id, "name": machine.name, "sends": bool(machine.address)}


def _tool_out(tool) -> dict[str, Any]:
    machine = tool.machine
    laser = bool(machine and machine.tool == "laser")
    return {
        "number": tool.number,
        "layer": tool.layer,
        "treatment": tool.treatment.value,
        "color": tool.color,
        "speed_mm_s": machine.speed_mm_s if machine else None,
        "force_g": machine.force_g if machine and not laser else None,
        "power_percent": machine.power_percent if laser and machine else None,
        "passes": machine.passes if machine else 1,
    }


def _closed(design: Document, runs: Program) -> list[bool]:
    own = [design.by_id[piece].path.closed for piece in runs.pieces]
    return [bool(own[piece][outline]) for piece, outline in zip(runs.piece, runs.outline, strict=True)]


def _home(runs: Program, machine: Machine | None) -> list[float]:
    """Where the tool begins, on the page: the origin of the machine's coordinates."""
    x, y = inverse(frame_of(machine))[:, 2].tolist()
    return [x, runs.page_height_mm - y]


def _proof_out(proven: pipeline.Proven) -> dict[str, Any]:
    proof = proven.proof
    strokes = followed_path(proven.read.document)
    return {
        "holds": proof.holds,
        "max_deviation_mm": proof.as_json()["max_deviation_mm"],
        "limit_mm": proof.limit_mm,
        "missing": proof.missing,
        "extra": proof.extra,
        "missing_lines": drawn_lines(proven.expected.take(np.array(proof.missing_outlines, np.int64))),
        "extra_lines": drawn_lines(strokes.take(np.array(proof.extra_strokes, np.int64))),
    }
