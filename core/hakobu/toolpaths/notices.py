"""What a tool cannot do of a design, as findings."""

from __future__ import annotations

from ..model import Level
from ..model.notices import Notice

EATEN = Notice("kerf-eats", Level.SPOILS, "Narrower than the kerf", "It comes out wider than it is drawn.")
NARROW = Notice("kerf-meets", Level.SPOILS, "Nearer than the kerf", "The tool cuts into what is to be kept.")
TIGHT = Notice("blade-tight", Level.SPOILS, "Tighter than the blade", "The tip of the blade leaves the line there.")
NO_LEAD = Notice("no-lead", Level.NOTE, "No room for a lead", "The tool begins on the line itself.")
NO_TAB = Notice("no-tab", Level.SPOILS, "Too short for tabs", "It comes loose while the rest is cut.")
NO_LINE = Notice("no-line", Level.NOTE, "A lone node", "Nothing is cut there.")
OUTSIDE_FIRST = Notice(
    "outside-first", Level.NOTE, "Outside before inside", "What is cut loose may move before its inside is cut."
)
BEYOND = Notice("beyond-reach", Level.STOPS, "Beyond the reach", "The machine would stop, or cut along its rim.")
TOOL_NOTICES: tuple[Notice, ...] = (EATEN, NARROW, TIGHT, NO_LEAD, NO_TAB, NO_LINE, OUTSIDE_FIRST, BEYOND)
