from __future__ import annotations

import argparse
import hashlib

from .. import pipeline
from ..model import Document, Step
from ..model.errors import BadRequest
from ..model.units import parse_length
from ..operations import Outcome, operation_of
from ..tracing import MODES, check_mode
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN")
    parser.add_argument("output", metavar="OUT")
    known = "; ".join(f"{mode}: {what}" for mode, what in MODES)
    parser.add_argument("--mode", required=True, help=f"how lines are found. {known}")
    parser.add_argument("--threshold", type=float, metavar="T", help="0..1: what is darker is ink (without it: chosen)")
    parser.add_argument("--width", metavar="MM", help="how wide the box of the traced outlines is to be")
    parser.add_argument("--smooth", metavar="MM", help="how far a line may leave the edge to be smooth")
    parser.add_argument("--detail", type=float, metavar="MM2", help="the smallest bit that is kept")


def run(options: argparse.Namespace) -> int:
    check_mode(options.mode)
    files.format_for(options.output, None)
    data = files.read_bytes(options.input)
    document = pipeline.read(files.label(options.input), data).document
    if not document.pictures:
        raise BadRequest(f"{files.label(options.input)} holds no picture: only pictures are traced.")
    pixels = pipeline.picture(files.label(options.input), data)
    if hashlib.sha256(data).hexdigest() != document.pictures[0].sha256:
        raise BadRequest(f"{files.label(options.input)} holds its picture inside; save the picture as a file.")
    smooth = None if options.smooth is None else parse_length(options.smooth)
    parameters = {
        "mode": options.mode,
        "threshold": options.threshold,
        "smoothness_mm": smooth,
        "smallest_mm2": options.detail,
    }
    if options.width is not None:
        document = _sized(document, parse_length(options.width), options, pixels)
    outcome = _done(document, "trace", parameters, pixels)
    document = outcome.document
    if options.width is not None:
        document = _done(document, "resize", {"width_mm": parse_length(options.width)}).document
    files.write_design(document, options.output, None)
    figures = outcome.figures
    files.say(
        f"{outcome.title}; {outcome.note}; off the picture's edge by {figures['mean_mm']:.3f} mm, "
        f"at most {figures['max_mm']:.3f}."
    )
    return 0


def _sized(document: Document, width_mm: float, options: argparse.Namespace, pixels) -> Document:
    """The picture at the size that makes its outlines so wide: distances in mm then mean what they say."""
    first = _done(document, "trace", {"mode": options.mode, "threshold": options.threshold}, pixels).document
    return _done(document, "resize", {"factor": width_mm / first.size_mm[0]}).document


def _done(document: Document, operation: str, parameters: dict, pixels=None) -> Outcome:
    kind = operation_of(operation)
    given = {name: value for name, value in parameters.items() if value is not None}
    result = pipeline.run_step(document, Step(operation, kind.id, kind.version, given), picture=lambda _: pixels)
    if result.error:
        raise result.error
    return result.outcome
