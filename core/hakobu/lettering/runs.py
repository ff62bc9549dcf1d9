"""Runs: parts of a line of text that run one way and are of one script, in the order in which they are on the page.

Directions follow the Unicode bidirectional algorithm (UAX #9), by python-bidi; scripts are those of UAX #24, by
fontTools.
"""

from __future__ import annotations

from dataclasses import dataclass
from unicodedata import bidirectional

from fontTools import unicodedata as scripts

#: Classes that make a line run from right to left somewhere.
_TURNING = {"R", "AL", "AN", "RLE", "RLO", "RLI"}
#: Scripts of what belongs to any script.
_ANY = {"Zyyy", "Zinh", "Zzzz"}


@dataclass(frozen=True, slots=True)
class Run:
    """Characters start to end of a line; level: odd where they run from right to left; script: ISO 15924."""

    start: int
    end: int
    level: int
    script: str

    @property
    def backwards(self) -> bool:
        return self.level % 2 == 1


def runs_of(text: str) -> list[Run]:
    """The runs of a line, from left to right on the page."""
    levels = levels_of(text)
    script = _scripts_of(text)
    runs: list[Run] = []
    for at in range(len(text)):
        if runs and runs[-1].level == levels[at] and runs[-1].script == script[at]:
            runs[-1] = Run(runs[-1].start, at + 1, levels[at], script[at])
        else:
            runs.append(Run(at, at + 1, levels[at], script[at]))
    return _in_order(runs)


def levels_of(text: str) -> list[int]:
    """The embedding level of each character, after rules X1 to L1 of UAX #9."""
    if not any(bidirectional(character) in _TURNING for character in text):
        return [0] * len(text)
    from bidi import algorithm as bidi  # loaded only where something runs backwards

    base = bidi.get_base_level(text)
    storage = bidi.get_empty_storage() | {"base_level": base, "base_dir": "LR"[base]}
    bidi.get_embedding_levels(text, storage)
    for at, character in enumerate(storage["chars"]):
        character["at"] = at
    bidi.explicit_embed_and_overrides(storage)
    bidi.resolve_weak_types(storage)
    bidi.resolve_neutral_types(storage, False)
    bidi.resolve_implicit_levels(storage, False)
    levels = [base] * len(text)
    trailing = True
    for character in reversed(storage["chars"]):
        # L1: blanks at the end of a line run as the line does.
        trailing = trailing and character["orig"] in ("BN", "WS", "B", "S")
        levels[character["at"]] = base if trailing or character["orig"] in ("B", "S") else character["level"]
    return levels


def _in_order(runs: list[Run]) -> list[Run]:
    """L2 of UAX #9: from the highest level down to the lowest odd one, what is at that level or above turns round."""
    odd = [run.level for run in runs if run.backwards]
    if not odd:
        return runs
    order = list(runs)
    for level in range(max(run.level for run in runs), min(odd) - 1, -1):
        at = 0
        while at < len(order):
            end = at
            while end < len(order) and order[end].level >= level:
                end += 1
            order[at:end] = reversed(order[at:end])
            at = max(end, at + 1)
    return order


def _scripts_of(text: str) -> list[str]:
    """The script of each character; what belongs to any is of the script before it, or of the first that follows."""
    known = [scripts.script(character) for character in text]
    last = next((script for script in known if script not in _ANY), "Latn")
    for at, script in enumerate(known):
        last = known[at] = last if script in _ANY else script
    return known
