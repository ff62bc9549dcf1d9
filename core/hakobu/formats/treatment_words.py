"""How a layer's name tells what a machine does with it, in formats that know nothing else of a layer."""

from __future__ import annotations

import re

from ..model import Layer, Treatment

#: A name that ends in one of these, behind a dash, an underscore or in brackets, tells its treatment.
WORDS = {"cut": Treatment.CUT, "score": Treatment.SCORE, "draw": Treatment.DRAW, "print": Treatment.PRINT}
WORDS |= {"left out": Treatment.LEAVE_OUT, "left_out": Treatment.LEAVE_OUT}
_TOLD = re.compile(r"^(.*?)(?:\s*[-_]\s*|\s*\(\s*)(cut|score|draw|print|left[ _]out)\s*\)?$", re.I)


def told_by(name: str) -> tuple[str, Treatment]:
    """The name without the word for its treatment, and the treatment; to be cut where none is told."""
    match = _TOLD.match(name.strip())
    if match and match[1].strip():
        return match[1].strip(), WORDS[match[2].lower()]
    bare = WORDS.get(name.strip().lower())
    return name, bare or Treatment.CUT


def telling(layer: Layer) -> str:
    """The layer's name with its treatment, where that is not the usual one: to be cut."""
    if layer.treatment is Treatment.CUT or told_by(layer.name)[1] is layer.treatment:
        return layer.name
    return f"{layer.name} - {layer.treatment.value.replace('-', ' ').replace('leave out', 'left out')}"
