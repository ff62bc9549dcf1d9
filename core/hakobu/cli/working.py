"""How a design is worked on the command line: the machine, and what of it holds for this file."""

from __future__ import annotations

import argparse

from ..model import Document, Machine, Material
from ..model.words import time_words
from ..toolpaths import Estimate, Made, Plan, estimate
from ..toolpaths.making import AS_DRAWN
from . import files


def add_plan(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--as-designed", action="store_true", help="lines as in the design: nothing is compensated")
    orders = ("short", "cool", "layers", AS_DRAWN)
    parser.add_argument("--order", choices=orders, help="of the runs; else as the machine wants it")


def plan_for(
    options: argparse.Namespace, document: Document, machine: Machine | None, material: Material | None = None
) -> Plan:
    """material: of layers that name none of their own."""
    usual = material.id if material else None
    lists = files.lists_from(options.lists)
    asked = {"compensated": not options.as_designed, "order": options.order or ""}
    return lists.plan(document, machine, lambda layer: layer.material or usual, **asked)


def report_of(made: Made) -> dict:
    """The report of a program: its runs, their lengths and time, and what its tools cannot do."""
    found: Estimate = estimate(made.program)
    return {
        "runs": len(made.program),
        "line_mm": round(found.line_mm, 2),
        "travel_mm": round(found.travel_mm, 2),
        "lifts": found.lifts,
        "tool_changes": found.changes,
        "seconds": round(found.seconds, 1),
        "findings": [finding.as_json() for finding in made.findings],
    }


def say_report(made: Made) -> None:
    said = report_of(made)
    words = f"{said['runs']} runs, {said['line_mm']:.0f} mm of line, {said['travel_mm']:.0f} mm of travel"
    files.say(f"{words}, {time_words(said['seconds'])}")
    for finding in made.findings:
        files.say(f"{finding.level.value}: {finding.message}")
