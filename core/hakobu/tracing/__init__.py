"""MODES: the ways lines are found in a picture, a line each."""

from __future__ import annotations

from dataclasses import replace
from importlib import import_module

from ..errors import BadRequest
from .colour.layer_edits import sorted_out, underlapped
from .options import TraceOptions, TraceResult, View

#: id, what it does in a few words, and the file in modes/ that does it.
MODES: tuple[tuple[str, str, str], ...] = (
    ("dark", "everything darker than a threshold is ink", "dark"),
    ("shades", "a layer for each step of brightness", "shades"),
    ("colour", "a layer for each colour", "colour"),
    ("outside", "round the outside, the picture stays with its line", "outside"),
    ("centre", "the middle of drawn lines, as single lines", "centre"),
    ("ink-fields", "the ink as one piece and every enclosed field as one", "ink_fields"),
)
#: Other words for the same.
ALSO = {"alpha": "outside"}


def check_mode(identity: str) -> str:
    """The id of a mode by any of its names. Raises BadRequest for one that does not exist."""
    identity = ALSO.get(identity, identity)
    known = [mode for mode, _, _ in MODES]
    if identity not in known:
        raise BadRequest(f'"{identity}" is not a way of tracing that is known here: use one of {", ".join(known)}.')
    return identity


def find(view: View, mode: str, asked: TraceOptions) -> TraceResult:
    """What is found in a picture. Raises BadRequest for an unknown mode, CannotDo where nothing can be found."""
    mode = check_mode(mode)
    file = next(file for known, _, file in MODES if known == mode)
    found = sorted_out(import_module(f".modes.{file}", __name__).find(view, asked), view, asked)
    return underlapped(found, asked.underlap_mm) if asked.underlap_mm > 0 and not asked.on_top else found


def propose_options(view: View, mode: str, asked: TraceOptions) -> dict[str, float]:
    """What the picture proposes for this way of tracing, whatever was asked. Raises CannotDo for one even colour."""
    from .modes import colour, dark, outside
    from .outlines import thresholding

    if check_mode(mode) in ("dark", "centre"):
        nothing = replace(asked, threshold=None, smoothness_mm=None, smallest_mm2=None)
        return dark.chosen_values(dark.resolve_options(view, nothing))
    least = colour.least_area(view)
    smallest = max(least, outside.LEAST_MM2) if check_mode(mode) == "outside" else least
    return {"smoothness_mm": thresholding.SMOOTH_PX * view.pixel_mm, "smallest_mm2": smallest}


__all__ = ["MODES", "TraceOptions", "TraceResult", "View", "check_mode", "find", "propose_options"]
