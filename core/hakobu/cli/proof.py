"""`hakobu proof`: a machine file compared with its design."""

from __future__ import annotations

import argparse
import json

from ..pipeline import prove
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("machine_file", metavar="MACHINEFILE")
    parser.add_argument("--against", metavar="DESIGN", required=True, help="the design the file was made from")
    parser.add_argument("--json", action="store_true", help="as JSON")


def run(options: argparse.Namespace) -> int:
    design = files.read_design(options.against).document
    name = files.label(options.machine_file)
    proof, read_back = prove(name, files.read_bytes(options.machine_file), design)
    if options.json:
        data = {"file": options.machine_file, "against": options.against, **proof.as_json()}
        data["not_understood"] = [finding.as_json() for finding in read_back.findings]
        print(json.dumps(data, indent=2))
        return int(not proof.holds)
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
    print("The file holds the design." if proof.holds else "The file does not hold the design.")
    return int(not proof.holds)
