"""`hakobu proof`: a machine file compared with its design."""

from __future__ import annotations

import argparse
import json
from collections.abc import Iterator

from ..machines.compensation import KERF_LIMIT_MM, TIP_LIMIT_MM, Compensation, compensation_of
from ..pipeline import prove
from . import files
from .working import add_plan, plan_for, report_of


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("machine_file", metavar="MACHINEFILE")
    parser.add_argument("--against", metavar="DESIGN", required=True, help="the design the file was made from")
    parser.add_argument("--machine", metavar="ID", help="the machine that the file is for: the design is worked alike")
    add_plan(parser)
    files.add_lists(parser)
    parser.add_argument("--json", action="store_true", help="as JSON")


def run(options: argparse.Namespace) -> int:
    design = files.read_design(options.against).document
    name = files.label(options.machine_file)
    machine = files.lists_from(options.lists).machine(options.machine) if options.machine else None
    plan = plan_for(options, design, machine) if machine else None
    proven = prove(name, files.read_bytes(options.machine_file), design, plan)
    proof, read_back = proven.proof, proven.read
    made = proven.made
    back = compensation_of(made, design) if made and plan and plan.compensated else None
    holds = proof.holds and (back is None or back.holds)
    if options.json:
        data = {"file": options.machine_file, "against": options.against, **proof.as_json()}
        data["holds"] = holds
        data["not_understood"] = [finding.as_json() for finding in read_back.findings]
        if machine and made:
            data["machine"] = machine.id
            data["compensation"] = back.as_json() if back else None
            data["program"] = report_of(made)
        print(json.dumps(data, indent=2))
        return int(not holds)
    if proof.max_deviation_mm is None:
        print("Both are empty: there is nothing to compare.")
    elif not proof.file_mm or not proof.design_mm:
        print(f"One side has no lines at all: {proof.missing} missing, {proof.extra} extra.")
    elif proof.place is not None:
        x, y = proof.place
        print(f"largest deviation {proof.max_deviation_mm:.4f} mm at {x:.2f}, {y:.2f} mm (limit {proof.limit_mm} mm)")
        print(f"{proof.missing} lines missing, {proof.extra} extra")
        print(f"{proof.file_mm:.1f} mm of line in the file, {proof.design_mm:.1f} mm in the design")
    for finding in read_back.findings:
        print(f"{finding.level.value}: {finding.message}")
    for words in _of_compensation(back) if back else ():
        print(words)
    print("The file holds the design." if holds else "The file does not hold the design.")
    return int(not holds)


def _of_compensation(back: Compensation) -> Iterator[str]:
    if back.tip_off_mm is not None:
        yield f"the tip of the blade gets {back.tip_off_mm:.4f} mm off its line (limit {TIP_LIMIT_MM} mm)"
    if back.kerf_off_mm is not None:
        yield f"half the kerf is held within {back.kerf_off_mm:.4f} mm (limit {KERF_LIMIT_MM} mm)"
