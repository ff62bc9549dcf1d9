from __future__ import annotations

import argparse
import json

from ..checks import check, in_order
from ..model import Level
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN")
    parser.add_argument("--json", action="store_true", help="as JSON")
    parser.add_argument(
        "--fail-on",
        choices=[level.value for level in Level],
        default=Level.SPOILS.value,
        help="the level from which on the exit code is 1 (default: spoils)",
    )


def run(options: argparse.Namespace) -> int:
    result = files.read_design(options.input)
    document = result.document
    findings = in_order([*result.findings, *check(document)])
    if options.json:
        page = document.page
        data = {
            "file": options.input,
            "size_mm": [round(v, 4) for v in document.size_mm],
            "page_mm": [round(page.width_mm, 4), round(page.height_mm, 4)] if page else None,
            "findings": [finding.as_json() for finding in findings],
        }
        print(json.dumps(data, indent=2))
    else:
        for number, finding in enumerate(findings, 1):
            place = f" at {finding.place[0]:.2f}, {finding.place[1]:.2f} mm" if finding.place else ""
            mend = ", can be mended" + ("" if finding.safe else " (look first)") if finding.mendable else ""
            print(f"{number}. {finding.level.value}: {finding.message} [{finding.rule}{place}{mend}]")
        print(f"{len(findings)} findings" if findings else "Nothing found that would spoil the cut.")
    limit = Level(options.fail_on).rank
    return int(any(finding.level.rank >= limit for finding in findings))
