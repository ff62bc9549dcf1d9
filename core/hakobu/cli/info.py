"""`hakobu info`: what a file holds."""

from __future__ import annotations

import argparse
import json
from dataclasses import asdict

from ..checks import in_order
from ..model.document import px_per_inch
from ..model.statistics import statistics_of
from ..model.units import in_words
from ..model.words import number_of
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN")
    parser.add_argument("--json", action="store_true", help="as JSON")


def run(options: argparse.Namespace) -> int:
    result = files.read_design(options.input)
    document, statistics = result.document, statistics_of(result.document)
    width, height = document.extent_mm
    page = document.page
    layers = [
        {
            "name": layer.name,
            "color": layer.color,
            "treatment": layer.treatment.value,
            "pieces": sum(piece.layer == layer.id for piece in document.pieces),
            "pictures": sum(picture.layer == layer.id for picture in document.pictures),
        }
        for layer in document.layers
    ]
    findings = in_order(result.findings)
    if options.json:
        data = {
            "file": options.input,
            "size_mm": [round(v, 4) for v in document.size_mm],
            "page_mm": [round(page.width_mm, 4), round(page.height_mm, 4)] if page else None,
            "in_words": in_words(width, height),
            **asdict(statistics),
            "layers": layers,
            "pictures": [{"size_px": list(p.size_px), "px_per_inch": px_per_inch(p)} for p in document.pictures],
            "not_understood": [finding.as_json() for finding in findings],
        }
        print(json.dumps(data, indent=2))
        return 0
    words = in_words(width, height)
    print(f"{files.label(options.input)}: {width:.2f} x {height:.2f} mm{words and ', '}{words}")
    if page:
        print(f"page {page.width_mm:.2f} x {page.height_mm:.2f} mm")
    print(
        f"{number_of(statistics.pieces, 'piece')}, {number_of(statistics.outlines, 'outline')}, "
        f"{number_of(statistics.nodes, 'node')}, {statistics.line_mm:.1f} mm of line"
    )
    for picture in document.pictures:
        across, down = picture.size_px
        print(f"picture {across} x {down} pixels, {px_per_inch(picture):g} an inch")
    for layer in layers:
        print(f"layer {layer['name']}: {layer['treatment']}, {_holds(layer)}, {layer['color']}")
    for finding in findings:
        print(f"{finding.level.value}: {finding.message}")
    return 0


def _holds(layer: dict) -> str:
    """What is on a layer, in words."""
    pictures = number_of(layer["pictures"], "picture") if layer["pictures"] else ""
    pieces = number_of(layer["pieces"], "piece") if layer["pieces"] or not pictures else ""
    return ", ".join(filter(None, (pieces, pictures)))
