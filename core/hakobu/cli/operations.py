"""`hakobu operations`: the list of operations."""

from __future__ import annotations

import argparse
import json
from typing import Any

from ..operations import OPERATIONS, Operation, operation_of, schema_of
from ..operations.spelling import option_of


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("name", metavar="NAME", nargs="?", help="only this one, with its parameters")
    parser.add_argument("--json", action="store_true", help="as JSON")


def run(options: argparse.Namespace) -> int:
    asked = [operation_of(options.name)] if options.name else list(OPERATIONS)
    if options.json:
        listed = [_as_json(operation) for operation in asked]
        print(json.dumps(listed[0] if options.name else listed, indent=2))
        return 0
    for operation in asked:
        print(f"{operation.id}: {operation.title}. {operation.sentence}.")
        if options.name:
            _say(operation)
    return 0


def _as_json(operation: Operation) -> dict[str, Any]:
    return {
        "id": operation.id,
        "version": operation.version,
        "station": operation.station,
        "title": operation.title,
        "sentence": operation.sentence,
        "roles": [{"id": role.id, "label": role.label, "least": role.least} for role in operation.roles],
        "parameters": [{"option": f"--{option_of(row['name'])}", **row} for row in schema_of(operation)],
    }


def _say(operation: Operation) -> None:
    for role in operation.roles:
        needed = "" if role.everything or not role.least else ", needed"
        print(f"  --{role.id} QUERY: {role.label}{needed}")
    for row in schema_of(operation):
        words = [row["help"]]
        if row["choices"]:
            words.append(", ".join(choice["value"] for choice in row["choices"]))
        if row["low"] is not None and row["high"] is not None:
            words.append(f"{row['low']:g} to {row['high']:g} {row['unit']}".strip())
        words.append(
            "needed" if row["required"] else f"without it: {row['default'] if row['default'] != '' else 'none'}"
        )
        print(f"  --{option_of(row['name'])} ({row['kind']}): {'; '.join(words)}")
