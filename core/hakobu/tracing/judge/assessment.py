"""A picture judged before it is traced: what kind it is, what that means for its lines, and which ways on are likely.

Thresholds without a source are common practice, settled on drawings, scans and photos with known answers.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from ..colour.palette import noise_of
from ..options import View
from ..prepare.illumination import UNEVEN
from .measurements import Looks, looks_of

#: What ink is parted from its ground by so surely is bimodal: Otsu's share of the variance that lies between the two.
CLEARLY_PARTED, PARTED, HARDLY_PARTED = 0.95, 0.85, 0.6
#: A picture whose even pixels are this share off all of its colours has tones that run into each other: a photo.
GRADED = 0.2
#: A sheet in a shadow has no more than this share of them once its light is evened.
SHADOWED = 0.35
#: What pixels of one colour differ by, of 255, in a scan.
NOISY = 1.2
#: More of it than this, and dark and light not apart, is nothing but noise.
NOISE, NOISE_WARNING = 40.0, "Its lines cannot be cut as they are: calm it, and raise the smallest bit that is kept."
#: Edges wider than this, in pixels, are blurred; the blocks of JPEG show from so many times the steps beside them on.
BLURRED_PX, BLOCKY = 1.1, 1.35
#: A pixel larger than this, in mm, shows in what is cut.
COARSE_MM = 0.25
#: Lines cover this share of a line drawing's ink; most of them are of one width, many times as long as wide, and no
#: wider than a broad pen's.
LINES_COVER, LINES_EVEN, LINES_LONG, LINES_WIDE_MM = 0.8, 0.6, 100.0, 2.0
#: The strokes of a word are no longer than this many widths together.
LETTERS_LONG = 400.0
#: Ink lies along this share of the borders of a drawing's fields.
BORDERED = 0.8
#: How far lines lie off what was drawn, in pixels: measured on shapes that are known (docs/figures.md), and for photos
#: the width of their edges.
CLEAN_OFF_PX, NOISY_OFF_PX = 0.02, 0.06
#: Nobody asks for less than this, in mm.
LEAST_OFF_MM = 0.01


@dataclass(frozen=True)
class Way:
    """A way on: a mode, what it is told beside that, and what it is good for."""

    mode: str
    told: Mapping[str, Any]
    words: str


@dataclass(frozen=True)
class Judged:
    """kind: art, drawing, lines, lettering, scan, photo or even; sentence: what it is and what follows for the lines;
    warning: what will spoil a cut, or nothing; ways: the likeliest first; always: what every mode is told."""

    kind: str
    sentence: str
    warning: str
    ways: tuple[Way, ...]
    statistics: Mapping[str, float] = field(default_factory=dict)
    always: Mapping[str, Any] = field(default_factory=dict)


def judge(view: View) -> Judged:
    """Raises nothing: a picture that holds nothing to trace is told as such in the warning."""
    looks = looks_of(view)
    if looks.parted == 0.0 and not view.has_clear_background:
        return Judged("even", "This picture is one even colour.", "There is no line in it to find.", ())
    if looks.evened_parted < PARTED and noise_of(view.over_white) > NOISE:
        return Judged("photo", "This picture is noise from edge to edge.", NOISE_WARNING, _ways("photo", looks))
    kind = _kind(view, looks)
    uneven = looks.uneven >= UNEVEN
    always = {"even_light": True} if uneven else {}
    ways = tuple(replace(way, told={**always, **way.told}) for way in _ways(kind, looks))
    sentence, warning = _sentence(kind, view, looks, uneven), _warning(kind, view, looks)
    return Judged(kind, sentence, warning, ways, looks.statistics(), always)


def _kind(view: View, looks: Looks) -> str:
    if view.has_clear_background:
        return "art"
    if looks.graded > GRADED and not (looks.evened_parted >= PARTED and looks.colours_count <= 3):
        return "photo"
    if looks.lettering and looks.colours_count <= 4 and looks.lines_long < LETTERS_LONG:
        return "lettering"
    if is_lines(looks):
        return "lines"
    return "scan" if looks.noise > NOISY or looks.uneven >= UNEVEN else "drawing"


def is_lines(looks: Looks) -> bool:
    return (
        looks.lines_cover >= LINES_COVER
        and looks.lines_even >= LINES_EVEN
        and looks.lines_long >= LINES_LONG
        and looks.evened_parted >= HARDLY_PARTED
        and looks.line_width_mm <= LINES_WIDE_MM
        and looks.colours_count <= 3
    )


def _ways(kind: str, looks: Looks) -> tuple[Way, ...]:
    told: dict[str, Any] = {}
    if looks.light_on_dark and kind in ("lines", "lettering", "scan", "drawing") and looks.colours_count <= 2:
        told["inverted"] = True
    dark = Way("dark", told, "its dark parts as pieces")
    outside = Way("outside", {}, "a line round the outside, the picture kept with it")
    if kind == "art":
        return outside, Way("colour", {}, "a layer for each colour"), dark
    if kind == "photo":
        mark = Way("outside", {}, "mark what it is of, and go round that")
        plain = Way("dark", {**told, "calmed": True}, "its dark parts, calmed")
        three = (mark, Way("shades", {"shades": 3}, "three shades, a layer each"), plain)
        clear = looks.evened_parted >= PARTED or (looks.uneven > 0 and looks.graded <= SHADOWED)
        return three[::-1] if clear else three
    if kind == "lines":
        return Way("centre", told, "the middle of its lines"), dark
    if looks.colours_count <= 2 or (not looks.is_coloured and looks.evened_parted >= CLEARLY_PARTED):
        return (dark, Way("centre", told, "the middle of its lines"), outside)
    coloured = Way("colour", {}, "a layer for each colour")
    if not looks.is_coloured:
        return Way("shades", {"shades": min(looks.colours_count, 12)}, "a layer for each shade"), dark, coloured
    if looks.bordered >= BORDERED:
        return Way("ink-fields", {}, "the ink as one piece, its fields as others"), coloured, dark
    return coloured, dark, outside


_KINDS = {
    "art": "Art on a transparent ground",
    "drawing": "A clean drawing",
    "lines": "A drawing made of lines",
    "lettering": "Word art",
    "scan": "A scan",
    "photo": "A photo",
}


def _sentence(kind: str, view: View, looks: Looks, uneven: bool) -> str:
    count = looks.colours_count
    name = _KINDS[kind]
    if kind in ("drawing", "lettering", "scan"):
        name += " in dark and light" if count <= 2 else f" in {count} {'colours' if looks.is_coloured else 'shades'}"
    if uneven:
        name += ", unevenly lit"
    if kind == "photo":
        return f"{name}: its lines will be rough, about {_mm(_off(kind, view, looks))} mm off. {_three(looks)}"
    return f"{name}: its lines will lie within about {_mm(_off(kind, view, looks))} mm of the edges in it."


def _three(looks: Looks) -> str:
    if looks.evened_parted >= PARTED or (looks.uneven > 0 and looks.graded <= SHADOWED):
        return "Dark and light are well apart in it, so its dark parts are proposed."
    return "Three ways on: mark what it is of and go round that; three shades; its dark parts, calmed."


def _off(kind: str, view: View, looks: Looks) -> float:
    """How far lines may lie off, in mm."""
    if kind == "photo":
        return max(looks.blur_px, 1.0) * view.pixel_mm
    spoilt = looks.noise > NOISY or looks.blocks >= BLOCKY
    return max((NOISY_OFF_PX if spoilt else CLEAN_OFF_PX) * max(1.0, looks.blur_px) * view.pixel_mm, LEAST_OFF_MM)


def _warning(kind: str, view: View, looks: Looks) -> str:
    said = []
    if view.pixel_mm > COARSE_MM:
        said.append(
            f"A pixel of it is {_mm(view.pixel_mm)} mm at this size: smaller details are not in it, and a larger "
            "picture would show more."
        )
    if looks.blur_px > BLURRED_PX and kind != "photo":
        said.append(
            f"It is blurred over {looks.blur_px:.1f} pixels: corners are rounded by about "
            f"{_mm(0.5 * looks.blur_px * view.pixel_mm)} mm."
        )
    if looks.blocks >= BLOCKY and kind != "photo":
        said.append("Compression has left its marks beside the edges: calm it before small bits are kept.")
    if kind != "art" and looks.evened_parted < HARDLY_PARTED and kind == "photo":
        said.append("Dark and light are hardly apart in it: look closely whether its lines can be cut.")
    return " ".join(said)


def _mm(value: float) -> str:
    return f"{value:.1g}" if value < 0.1 else f"{value:.1f}"


__all__ = ["Judged", "Way", "judge"]
