"""`hakobu check`: what would spoil the cut."""

from __future__ import annotations

import argparse
import json
import sys
from collections import Counter
from collections.abc import Iterable

from ..checks import check, in_order
from ..checks.verdict import verdict
from ..errors import BadRequest
from ..formats import ReadResult
from ..lists import Lists
from ..model import Conditions, Finding, HakobuError, Level
from ..model.words import number_of
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("inputs", metavar="IN", nargs="+")
    parser.add_argument("--json", action="store_true", help="as JSON; of several files a list with a summary")
    parser.add_argument(
        "--fail-on",
        choices=[level.value for level in Level],
        default=Level.SPOILS.value,
        help="the level from which on the exit code is 1 (default: spoils)",
    )
    add_conditions(parser)


def add_conditions(parser: argparse.ArgumentParser) -> None:
    """What a design is held against."""
    shipped = Lists()
    parser.add_argument("--material", help=f"what it is cut from: {_ids(shipped.materials)}")
    parser.add_argument("--machine", help=f"what cuts it: {_ids(shipped.machines)}")
    parser.add_argument("--purpose", help=f"what it must do: {_ids(shipped.purposes)}")
    files.add_lists(parser)
    parser.add_argument("--one", action="store_true", help="every piece must be one")


def conditions_from(options: argparse.Namespace, document) -> Conditions:
    lists = files.lists_from(options.lists)
    return Conditions(
        material=lists.material(options.material) if options.material else None,
        materials=lists.own_materials,
        machine=lists.machine(options.machine) if options.machine else None,
        purpose=lists.purpose(options.purpose or ""),
        one=frozenset(piece.id for piece in document.pieces) if options.one else frozenset(),
    )


def _ids(entries: Iterable) -> str:
    return ", ".join(entry.id for entry in entries if entry.id)


def run(options: argparse.Namespace) -> int:
    if options.inputs.count("-") > 1:
        raise BadRequest('Standard input can be named once only: "-" stands for one file.')
    limit = Level(options.fail_on).rank
    if len(options.inputs) == 1:
        data, findings, _ = _of_file(options.inputs[0], options)
        answer = data.pop("verdict")
        _say(data, answer, findings, options.json)
        return int(any(finding.level.rank >= limit for finding in findings))
    return _of_many(options, limit)


def _of_file(name: str, options: argparse.Namespace) -> tuple[dict, tuple[Finding, ...], ReadResult]:
    result = files.read_design(name)
    document = result.document
    conditions = conditions_from(options, document)
    findings = in_order([*result.findings, *check(document, conditions)])
    page = document.page
    data = {
        "file": name,
        "size_mm": [round(v, 4) for v in document.size_mm],
        "page_mm": [round(page.width_mm, 4), round(page.height_mm, 4)] if page else None,
        "verdict": verdict(document, conditions, findings).sentence,
        "findings": [finding.as_json() for finding in findings],
    }
    return data, findings, result


def _say(data: dict, answer: str, findings: tuple[Finding, ...], as_json: bool) -> None:
    if as_json:
        print(json.dumps(data, indent=2))
        return
    print(answer)
    for number, finding in enumerate(findings, 1):
        place = f" at {finding.place[0]:.2f}, {finding.place[1]:.2f} mm" if finding.place else ""
        mend = ", can be mended" + ("" if finding.safe else " (preview, then decide)") if finding.mendable else ""
        print(f"{number}. {finding.level.value}: {finding.message} [{finding.rule}{place}{mend}]")
    total = sum(finding.count for finding in findings)
    print(number_of(total, "finding") if findings else "Nothing found that would spoil the cut.")


def _of_many(options: argparse.Namespace, limit: int) -> int:
    """Each file, then one summary. A file that cannot be read is said, and the others go on."""
    said, failed, found = [], 0, False
    for name in options.inputs:
        try:
            data, findings, _ = _of_file(name, options)
        except HakobuError as error:
            failed += 1
            said.append({"file": name, "error": error.sentence})
            if not options.json:
                print(f"{name}: {error.sentence}", file=sys.stderr)
            continue
        found |= any(finding.level.rank >= limit for finding in findings)
        said.append(data)
        if not options.json:
            levels: Counter[str] = Counter()
            for finding in findings:
                levels[finding.level.value] += finding.count
            counts = ", ".join(f"{levels[level.value]} {level.value}" for level in Level if levels[level.value])
            print(f"{name}: {counts or 'nothing found'}. {data['verdict']}")
    summary = _summary(said, failed)
    print(json.dumps({"files": said, "summary": summary}, indent=2) if options.json else _summed_up(summary))
    return 2 if failed else int(found)


def _summary(said: list[dict], failed: int) -> dict:
    kinds = Counter(finding["id"] for data in said for finding in data.get("findings", ()))
    clean = sum(not any(f["level"] != Level.NOTE for f in data["findings"]) for data in said if "findings" in data)
    return {"files": len(said), "clean": clean, "not_read": failed, "findings": dict(kinds.most_common())}


def _summed_up(summary: dict) -> str:
    kinds = ", ".join(f"{count} {kind}" for kind, count in summary["findings"].items())
    return (
        f"{number_of(summary['files'], 'file')}, {summary['clean']} of them with nothing that stops or spoils the cut, "
        f"{summary['not_read']} not read. {kinds}"
    ).strip()
