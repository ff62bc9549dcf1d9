"""words: text as outlines that are ready to be cut, and can be typed anew at any time."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..lettering.faces import USUAL
from ..model import Document
from ..model.declare import angle, choice, count, data, flag, font, length, line, listed, number, point
from ..model.declare import colour as a_colour
from ..model.declare import layer as a_layer
from ..model.declare import text as a_text
from ..model.pages import grown
from ..model.units import as_mm, size_text
from ..model.words import number_of
from .lettered import lettered
from .making import with_first_page
from .operation import Context, Operation, Outcome, Role, SourceCost, Spot
from .wished import ALONG, BETWEEN

SIZES = (
    ("capitals", "capitals of"),
    ("x", "small letters of"),
    ("whole", "a height of"),
    ("em", "an em of"),
    ("width", "a width of"),
    ("box", "to fit"),
    ("points", "from"),
    ("gap", "to fit the gap"),
)
TALL = ("capitals", "x", "whole", "em")
#: With these sizes a place is asked for.
PLACED = (*TALL, "width", "box")
WELDS = (
    ("apart", "apart"),
    ("touching", "welded where they touch"),
    ("closed", "closed up and welded"),
    ("bar", "welded to a bar"),
)
ON = (
    ("line", "a straight line"),
    ("arc", "an arc, ends down"),
    ("above", "an arc above the design"),
    ("bowl", "an arc, ends up"),
    ("outside", "the outside of a circle"),
    ("inside", "the inside of a circle"),
    ("outline", "a picked outline"),
)
ROUND = ("arc", "above", "bowl", "outside", "inside")
TURNED = ("outside", "inside", "outline")
#: A flag that is set, and copies that are made, as conditions on other parameters.
SET = ("true",)
SOME = tuple(str(number) for number in range(1, 21))
COUNTERS = (("keep", "kept"), ("bridge", "bridged"), ("fill", "filled"))
ALIGN = (("left", "at the left"), ("centre", "in the middle"), ("right", "at the right"))
ANCHOR = (
    ("middle", "the middle of the text"),
    ("start", "the start of its first line"),
    ("centre", "the middle of its first line"),
    ("end", "the end of its first line"),
)
SPACING = (("face", "as the face has it"), ("outlines", "between outlines"))
TREATMENTS = (("", "as the face is meant"), ("cut", "cut"), ("score", "scored"), ("draw", "drawn"))
MORE: Any = {"group": "more"}


@dataclass(frozen=True)
class Words:
    text: str = a_text(label="words", help="what is set; a new line for each line", most=10_000, lines=True)
    face: str = font(USUAL, label="face", help="the face of the letters, by its id")
    size_by: str = choice("capitals", label="size", help="what the size means", choices=SIZES)
    size_mm: float = length(20.0, label="height", help="how high", low=0.1, when=("size_by", TALL))
    width_mm: float = length(100.0, label="width", help="how wide", low=0.1, when=("size_by", ("width", "box")))
    height_mm: float = length(50.0, label="height", help="how high at most", low=0.1, when=("size_by", ("box",)))
    points: tuple[float, float, float, float] | None = line(
        None, label="points", help="from which point to which it reaches", when=("size_by", ("points",))
    )
    clear_mm: float = length(2.0, label="clearance", help="from the words to both pieces", when=("size_by", ("gap",)))
    weld: str = choice("touching", label="letters", help="whether letters are welded", choices=WELDS)
    overlap_mm: float = length(
        0.4,
        label="overlap",
        help="how far letters reach into each other",
        high=100.0,
        step=0.1,
        when=("weld", ("closed",)),
    )
    bar_mm: float = length(4.0, label="bar", help="how high the bar is", low=0.1, when=("weld", ("bar",)))
    sink_mm: float = length(0.5, label="sunk", help="how far letters sink into it", step=0.1, when=("weld", ("bar",)))
    on: str = choice("line", label="on", help="what the letters stand on", choices=ON)
    radius_mm: float = length(60.0, label="radius", help="of the arc or circle", low=0.5, when=("on", ROUND))
    at: tuple[float, float] | None = point(
        None,
        label="at",
        help="where it stands; without it, in the middle of the page",
        handle="place",
        when=("size_by", PLACED),
    )
    counters: str = choice("keep", label="counters", help="what becomes of holes in letters", choices=COUNTERS, **MORE)
    bridges: int = count(
        2, label="bridges", help="from each counter", low=1, high=8, when=("counters", ("bridge",)), **MORE
    )
    bridge_mm: float = length(
        1.5, label="bridge", help="how wide a bridge is", low=0.05, high=100.0, when=("counters", ("bridge",)), **MORE
    )
    bridge_turn: float = angle(
        0.0, label="turned", help="the first bridge off upright", when=("counters", ("bridge",)), **MORE
    )
    dots: bool = flag(False, label="dots joined", help="a strip joins dots and accents to their letters", **MORE)
    strip_mm: float = length(
        1.5, label="strip", help="how wide that strip is", low=0.05, high=100.0, when=("dots", SET), **MORE
    )
    turn: float = angle(0.0, label="turn", help="clockwise", **MORE)
    align: str = choice("centre", label="lines", help="where lines stand against each other", choices=ALIGN, **MORE)
    line_spacing: float = number(
        1.2, label="line spacing", help="from line to line, as a share of the em", low=0.1, high=10.0, step=0.1, **MORE
    )
    spacing: str = choice("face", label="between letters", help="what it is measured from", choices=SPACING, **MORE)
    apart_mm: float = length(
        0.0, label="more between letters", help="less where it is negative", low=-1000.0, high=1000.0, step=0.1, **MORE
    )
    anchor: str = choice(
        "middle",
        label="what stands there",
        help="what lies at its place",
        choices=ANCHOR,
        when=("on", ("line",)),
        **MORE,
    )
    start: float = number(
        0.0, label="start", help="where on a circle or outline its middle is, as a share of the way round",
        low=0.0, high=1.0, step=0.05, when=("on", TURNED), **MORE,
    )  # fmt: skip
    out_mm: float = length(
        0.0,
        label="off the outline",
        help="so far out of it",
        low=-1000.0,
        high=1000.0,
        when=("on", ("outline",)),
        **MORE,
    )
    backwards: bool = flag(
        False, label="other side", help="on the other side of a picked outline", when=("on", ("outline",)), **MORE
    )
    copies: int = count(0, label="outline copies", help="so many outlines of it beside it", low=0, high=20, **MORE)
    copy_mm: float = length(
        1.0, label="their line", help="how wide an outline is", low=0.05, high=100.0, when=("copies", SOME), **MORE
    )
    copy_by: tuple[float, float] = point(
        (2.0, 2.0),
        label="shifted by",
        help="each so far from the one before",
        when=("copies", SOME),
        **MORE,
        is_vector=True,
    )
    each: bool = flag(False, label="a name on each line", help="each line is a text of its own, in rows", **MORE)
    columns: int = count(
        1, label="names in a row", help="how many stand beside each other", low=1, high=1000, when=("each", SET), **MORE
    )
    gap_mm: float = length(
        5.0, label="between names", help="between names and between rows", when=("each", SET), **MORE
    )
    ligatures: bool = flag(True, label="ligatures", help="letters that the face has as one", **MORE)
    kerning: bool = flag(True, label="kerning", help="pairs of letters set closer or wider by the face", **MORE)
    forms: tuple[str, ...] = listed((), label="forms", help="other forms of letters, by their OpenType tags", most=40)
    axes: Mapping[str, Any] | None = data(
        None, label="axes", help="values of the axes of a variable face, by their tags"
    )
    letters: Mapping[str, Any] | None = data(
        None, label="letters", help='letters moved by hand: "K 1" to along, up, turn and so on'
    )
    instead: str | None = a_text(None, label="in place of", help="the finding of a text that came in a file", group="")
    was_mm: float | None = length(None, label="was", help="how wide that text was in its file", group="")
    treatment: str = choice("", label="what the tool does", help="with its layer", choices=TREATMENTS, **MORE)
    layer: str = a_layer("", label="layer", help="the layer it lies on; a new one where there is none", **MORE)
    colour: str | None = a_colour(None, label="colour", help="the colour of its material", **MORE)
    material: str | None = a_text(None, label="material", help="what it is made of, by the material's id", **MORE)


#: So much of a text stands in the log.
SHOWN = 24


def run(document: Document, parameters: Words, context: Context) -> Outcome:
    """It lies on top of all else, in a group of its own."""
    made = lettered(document, parameters, context)
    after = replace(
        document,
        layers=made.layers,
        pieces=(*document.pieces, *made.pieces),
        groups=(*document.groups, *made.groups),
    )
    placed = parameters.at is not None or parameters.size_by in ("points", "gap")
    paged = with_first_page(after, context.key, placed)
    if parameters.on == "above":
        paged = grown(paged)
    width, height = made.size_mm
    notes = [size_text(width, height), f"capitals {as_mm(made.capitals_mm)}", number_of(len(made.pieces), "piece")]
    if parameters.was_mm:
        more = 100 * (width / parameters.was_mm - 1)
        notes.append(f"{abs(more):.1f} % {'wider' if more > 0 else 'narrower'} than in its file")
    elif parameters.instead:
        notes.append("how wide it was, its file does not say")
    if made.lacking:
        notes.append(f"left out, since the face lacks it: {' '.join(made.lacking)}")
    statistics = {
        "pieces": len(made.pieces),
        "letters": made.letters,
        "width_mm": width,
        "height_mm": height,
        "capitals_mm": made.capitals_mm,
        "lacking": "".join(made.lacking),
    }
    title = f"{_quoted(parameters.text)} set in {made.face}"
    return Outcome(paged, title, "; ".join(notes), statistics, spots=_moved_with(made.spots, after, paged))


def _moved_with(spots: tuple[Spot, ...], before: Document, after: Document) -> tuple[Spot, ...]:
    """Spots that go with pieces which found their first page."""
    if before.box is None or after.box is None or before.box == after.box:
        return spots
    x, y = (now - was for now, was in zip(after.box[:2], before.box[:2], strict=True))
    return tuple(replace(spot, at=(spot.at[0] + x, spot.at[1] + y)) for spot in spots)


def _quoted(said: str) -> str:
    words = " ".join(said.split())
    return f'"{words}"' if len(words) <= SHOWN else f'"{words[: SHOWN - 1]}\u2026"'


#: Seconds for each letter: set alone, and welded; and for a face that is read.
PER_LETTER, PER_WELDED, FIRST = 2e-4, 1.5e-3, 0.15


def cost(document: Document, parameters: Words, source: SourceCost) -> float:
    each = PER_LETTER if parameters.weld == "apart" else PER_WELDED
    return FIRST + each * len(parameters.text) * (1 + parameters.copies)


OPERATION = Operation(
    id="words",
    version=1,
    station="build",
    title="Set words",
    parameters=Words,
    run=run,
    sizes=(
        "size_mm",
        "width_mm",
        "height_mm",
        "clear_mm",
        "overlap_mm",
        "bar_mm",
        "sink_mm",
        "radius_mm",
        "bridge_mm",
        "strip_mm",
        "apart_mm",
        "out_mm",
        "copy_mm",
        "gap_mm",
    ),
    cost=cost,
    sentence="Set {text} in {face}, {size_by}[ {size_mm}][ {width_mm}][ by {height_mm}][ {points}]"
    "[, {clear_mm} clear], letters {weld}"
    "[ by {overlap_mm}][ {bar_mm} high, sunk {sink_mm}], on {on}[ of {radius_mm}]",
    roles=(
        Role(ALONG, "the outline that the letters stand on", least=0, when=("on", ("outline",))),
        Role(BETWEEN, "the two pieces that they stand between", least=0, when=("size_by", ("gap",))),
    ),
)
