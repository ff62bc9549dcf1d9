from __future__ import annotations

import argparse
import hashlib
from dataclasses import replace

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
    known = "; ".join(f"{mode}: {what}" for mode, what, _ in MODES)
    parser.add_argument("--mode", required=True, help=f"how lines are found. {known}")
    parser.add_argument("--threshold", type=float, metavar="T", help="0..1: what is darker is ink (without it: chosen)")
    parser.add_argument("--width", metavar="MM", help="how wide the box of the traced outlines is to be")
    parser.add_argument("--smooth", metavar="MM", help="how far a line may leave the edge to be smooth")
    parser.add_argument("--detail", type=float, metavar="MM2", help="the smallest bit that is kept")
    parser.add_argument(
        "--colours", type=int, metavar="N", help="into how many colours (without it: as many as there are)"
    )
    parser.add_argument("--shades", type=int, metavar="N", help="into how many steps of brightness")
    parser.add_argument("--with-darker", action="store_true", help="each shade with all that is darker")
    parser.add_argument(
        "--background", choices=("clear", "keep"), help="clear: the background and its hollows go (as without it)"
    )
    parser.add_argument("--tolerance", type=float, metavar="T", help="0..1: what is so like the background is it")
    parser.add_argument("--holes", action="store_true", help="outside: round holes too")
    parser.add_argument("--distance", metavar="MM", help="outside: how far out the line runs")
    parser.add_argument("--underlap", metavar="MM", help="how far pieces go on under what lies on them")
    parser.add_argument("--widest", metavar="MM", help="centre: what is wider keeps its outline")
    parser.add_argument("--on-top", action="store_true", help="ink-fields: a silhouette with the fields laid on it")
    parser.add_argument(
        "--reference", metavar="SHAPE:SIZE", help="a printed shape of known size in the picture, as square:60mm"
    )
    parser.add_argument("--mirrored", action="store_true", help="the thing lay face down")
    parser.add_argument("--within", metavar="DESIGN", help="only inside the outlines of another design")


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
    if options.within is not None:
        document = _with_shapes(document, options.within)
    parameters = _parameters(options) | {"within": [piece.id for piece in document.pieces]}
    if options.width is not None:
        document = _sized(document, parameters, parse_length(options.width), pixels)
    outcome = _done(document, "trace", parameters, pixels)
    document = _only_traced(outcome.document)
    if options.width is not None:
        document = _done(document, "resize", {"width_mm": parse_length(options.width)}).document
    files.write_design(document, options.output, None)
    figures = outcome.figures
    files.say(
        f"{outcome.title}; {outcome.note}; off the picture's edge by {figures['mean_mm']:.3f} mm, "
        f"at most {figures['max_mm']:.3f}."
    )
    return 0


def _parameters(options: argparse.Namespace) -> dict:
    def length(text: str | None) -> float | None:
        return None if text is None else parse_length(text)

    return {
        "mode": options.mode,
        "threshold": options.threshold,
        "smoothness_mm": length(options.smooth),
        "smallest_mm2": options.detail,
        "colours": options.colours,
        "shades": options.shades,
        "with_darker": options.with_darker,
        "background": options.background != "keep",
        "tolerance": options.tolerance,
        "holes": options.holes,
        "distance_mm": length(options.distance),
        "underlap_mm": length(options.underlap),
        "widest_mm": length(options.widest),
        "on_top": options.on_top,
        "reference": options.reference,
        "mirrored": options.mirrored,
    }


def _with_shapes(document: Document, name: str) -> Document:
    """The picture's document with another design's outlines, which lines are then found within."""
    other = pipeline.read(files.label(name), files.read_bytes(name)).document
    return replace(document, layers=(*document.layers, *other.layers), pieces=other.pieces)


def _only_traced(document: Document) -> Document:
    """Without what lines were found within."""
    return replace(document, pieces=tuple(piece for piece in document.pieces if piece.id.startswith("trace:")))


def _sized(document: Document, parameters: dict, width_mm: float, pixels) -> Document:
    """The picture at the size that makes its outlines so wide: distances in mm then mean what they say."""
    first = _only_traced(_done(document, "trace", parameters, pixels).document)
    return _done(document, "resize", {"factor": width_mm / first.size_mm[0]}).document


def _done(document: Document, operation: str, parameters: dict, pixels=None) -> Outcome:
    kind = operation_of(operation)
    given = {name: value for name, value in parameters.items() if value is not None}
    result = pipeline.run_step(document, Step(operation, kind.id, kind.version, given), picture=lambda _: pixels)
    if result.error:
        raise result.error
    return result.outcome
