"""Grain direction: the rotations that items may have on a sheet."""

from __future__ import annotations

from ..model.sheet import Sheet

#: A turn is right within this, in degrees (common practice).
GRAIN_DEG = 1.0


def turns_on(sheet: Sheet, wanted: str) -> str:
    """The name of the turns that the grain of a sheet leaves of those that are wanted: names of TURNS."""
    if not sheet.grain:
        return wanted
    one, both = ("across", "across-half") if sheet.grain_across else ("fixed", "half")
    return one if sheet.grain == "pile" or wanted == "fixed" else both


def runs_with(sheet: Sheet, turn: float) -> bool:
    """Whether an item that is turned by so many degrees lies along the grain."""
    if not sheet.grain:
        return True
    every = 180.0 if sheet.grain == "lines" else 360.0
    off = (turn - (90.0 if sheet.grain_across else 0.0)) % every
    return min(off, every - off) <= GRAIN_DEG
