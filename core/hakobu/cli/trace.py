"""`hakobu trace`: outlines of a picture."""

from __future__ import annotations

import argparse
import hashlib
from dataclasses import replace

from .. import pipeline
from ..checks.tables.thinness import thinness
from ..errors import BadRequest
from ..model import Conditions, Document, Step
from ..model.conditions import ANY_MATERIAL
from ..model.units import parse_length
from ..operations import Outcome, operation_of
from ..tracing import MODES, View, check_mode
from ..tracing.judge.assessment import judge
from . import files


def add_options(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("input", metavar="IN")
    parser.add_argument("output", metavar="OUT")
    known = "; ".join(f"{mode}: {what}" for mode, what, _ in MODES)
    parser.add_argument("--mode", required=True, help=f"how lines are found. {known}")
    parser.add_argument("--threshold", type=float, metavar="T", help="0..1: what is darker is ink (without it: chosen)")
    parser.add_argument("--width", metavar="MM", help="how wide the box of the traced outlines is to be")
    parser.add_argument("--height", metavar="MM", help="how high it is to be")
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
    parser.add_argument(
        "--points", nargs=2, metavar="X,Y", help="two pixels whose distance is known, which --apart then gives"
    )
    parser.add_argument("--apart", metavar="MM", help="how far the two --points are apart")
    parser.add_argument("--crop", nargs=2, metavar="X,Y", help="two corners of the part that is looked at, in pixels")
    parser.add_argument("--turn", type=float, metavar="DEGREES", help="turns the picture clockwise")
    parser.add_argument("--inverted", action="store_true", help="dark becomes light")
    parser.add_argument("--calmed", action="store_true", help="noise and the ringing of compression are smoothed")
    parser.add_argument(
        "--even-light",
        action=argparse.BooleanOptionalAction,
        help="whether light that falls unevenly is taken out (without it: where it does, unless T is given)",
    )
    parser.add_argument("--colour", metavar="#RRGGBB", help="dark, centre: what is of this colour is ink")
    parser.add_argument("--drop", action="append", metavar="X,Y", help="what lies at this pixel goes")
    parser.add_argument("--keep", action="append", metavar="X,Y", help="what lies at this pixel stays")
    parser.add_argument("--inside", action="append", metavar="X,Y", help="outside: a pixel of a photo's subject")
    parser.add_argument("--beyond", action="append", metavar="X,Y", help="outside: a pixel beyond it")
    parser.add_argument("--join", action="append", metavar="'#A #B'", help="the first colour becomes the second")
    parser.add_argument("--leave-out", action="append", metavar="#RRGGBB", help="a colour that is left out")
    parser.add_argument("--lines", choices=("draw", "cut"), help="what a tool does along the middle of lines")
    parser.add_argument("--least", metavar="MM", help="the material's least strip: what is thinner is told")
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
    picture = document.pictures[0]
    judged = judge(View(pixels, picture.matrix))
    # A threshold that is typed is about the picture's own pixels.
    if options.even_light is None and options.threshold is None:
        parameters |= judged.always
    outcome = _done(document, parameters, pixels)
    document = _only_traced(outcome.document)
    files.write_design(document, options.output, None)
    statistics = outcome.statistics
    evened = "Its light was evened." if parameters.get("even_light") else ""
    files.say(" ".join(part for part in (judged.sentence, evened, judged.warning) if part))
    files.say(
        f"{outcome.title}; {outcome.note}; off the picture's edge by {statistics['mean_mm']:.3f} mm, "
        f"at most {statistics['max_mm']:.3f}."
    )
    if options.least is not None:
        files.say(_thin(document, parse_length(options.least)))
    return 0


def _thin(document: Document, least_mm: float) -> str:
    """What of the pieces is thinner than the material allows, in a sentence: as check finds it."""
    material = replace(ANY_MATERIAL, least_strip_mm=least_mm, least_gap_mm=least_mm)
    told = thinness(document, Conditions(material=material))
    if not told.strip_count and not told.gap_count:
        return f"Nothing is thinner than {least_mm:g} mm."
    parts = []
    for count, places, what in ((told.strip_count, told.strips, "strip"), (told.gap_count, told.gaps, "gap")):
        if count:
            (x, y) = places[0].ends.mean(axis=0)
            parts.append(
                f"{count} {what}{'' if count == 1 else 's'} thinner than {least_mm:g} mm, the thinnest "
                f"{places[0].width_mm:.2f} mm at {x:.1f}, {y:.1f}"
            )
    return "; ".join(parts) + "."


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
        "width_mm": length(options.width),
        "height_mm": length(options.height),
        "ends": _pixels(options.points),
        "apart_mm": length(options.apart),
        "crop": _pixels(options.crop),
        "turned_degrees": options.turn,
        "inverted": options.inverted,
        "calmed": options.calmed,
        "even_light": options.even_light,
        "colour": options.colour,
        "dropped": _pixels(options.drop),
        "kept": _pixels(options.keep),
        "inside": _pixels(options.inside),
        "beyond": _pixels(options.beyond),
        "joined": options.join,
        "left_out": options.leave_out,
        "lines": options.lines,
    }


def _pixels(texts: list[str] | None) -> list[tuple[int, int]] | None:
    """Pixels of words x,y. Raises BadRequest."""
    if texts is None:
        return None
    try:
        return [(int(x), int(y)) for x, y in (text.split(",") for text in texts)]
    except ValueError as error:
        raise BadRequest(f'A pixel is written x,y, as 120,80; "{" ".join(texts)}" is not.') from error


def _with_shapes(document: Document, name: str) -> Document:
    """The picture's document with another design's outlines, which lines are then found within."""
    other = pipeline.read(files.label(name), files.read_bytes(name)).document
    return replace(document, layers=(*document.layers, *other.layers), pieces=other.pieces)


def _only_traced(document: Document) -> Document:
    """Without what lines were found within."""
    return replace(document, pieces=tuple(piece for piece in document.pieces if piece.id.startswith("trace:")))


def _done(document: Document, parameters: dict, pixels) -> Outcome:
    kind = operation_of("trace")
    given = {name: value for name, value in parameters.items() if value is not None}
    step = Step(kind.id, kind.id, kind.version, given)
    return pipeline.run_step(document, step, picture=lambda _: pixels).done()
