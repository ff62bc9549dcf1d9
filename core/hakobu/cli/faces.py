"""`hakobu faces`: the font faces, and what they are fit for."""

from __future__ import annotations

import argparse
import json

from ..lettering.faces import FACES
from ..lettering.judged import judge_face


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--text", default="", help="judge each face by these words")
    parser.add_argument("--capitals", default="20mm", help="at this height of capitals")
    parser.add_argument("--json", action="store_true")


def run(options: argparse.Namespace) -> int:
    from ..model.units import parse_length

    rows = [_row(face, options.text, parse_length(options.capitals)) for face in FACES]
    if options.json:
        print(json.dumps(rows, indent=2))
        return 0
    for row in rows:
        print(f"{row['id']:18} {row['name']:18} {row['suits']}{_judged(row)}")
    return 0


def _row(face, text: str, capitals_mm: float) -> dict:
    row = {"id": face.id, "name": face.name, "suits": face.suits, "joins": face.joins, "single_line": face.single_line}
    return row | judge_face(face.id, text, capitals_mm).as_json() if text else row


def _judged(row: dict) -> str:
    if "lacking" not in row:
        return ""
    said = [f"{row['pieces']} pieces"] if row["pieces"] else []
    said += [f"thinnest {row['thinnest_mm']:.2f} mm"] if row["thinnest_mm"] else []
    said += [f"smallest counter {row['counter_mm']:.2f} mm"] if row["counter_mm"] else []
    said += [f"lacks {' '.join(row['lacking'])}"] if row["lacking"] else []
    return f"; {', '.join(said)}"
