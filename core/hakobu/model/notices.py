"""NOTICES: the findings that readers make: what a file holds that was not, or not fully, understood."""

from __future__ import annotations

from dataclasses import dataclass

from .finding import Finding, Level, finding_key


@dataclass(frozen=True)
class Notice:
    """Metadata of a reader's finding. title and effect are whole phrases; the message comes from the reader."""

    id: str
    level: Level
    title: str
    effect: str

    def at(self, message: str, detail: str, pieces: tuple[str, ...] = (), place=None, **measure) -> Finding:
        key = finding_key(self.id, pieces, place, detail)
        return Finding(self.id, key, self.level, message, pieces, place, measure, title=self.title, effect=self.effect)


LIVE_TEXT = Notice(
    "live-text", Level.STOPS, "Text that is not outlines", "A machine cannot cut text: these letters would be missing."
)
NOT_UNDERSTOOD = Notice(
    "not-understood", Level.SPOILS, "Something was not understood", "It is missing from the lines that are cut."
)
TAKEN_PLAINLY = Notice(
    "taken-plainly", Level.NOTE, "Something was taken plainly", "The lines are right; the colours may look different."
)
EXTERNAL = Notice(
    "external-reference",
    Level.SPOILS,
    "Something lies in another file",
    "Other files are never fetched: what lies there is missing here.",
)
HIDDEN = Notice(
    "hidden-thing",
    Level.NOTE,
    "Hidden things in the file",
    "They lie on a layer of their own that is left out of the cut.",
)
NO_UNIT = Notice(
    "no-unit", Level.NOTE, "The file states no unit", "If the size looks wrong, correct it before anything else."
)
DAMAGED = Notice(
    "damaged", Level.SPOILS, "Part of the file is damaged", "The rest of that line is missing from the cut."
)
WHITE_ON_CLEAR = Notice(
    "white-on-clear",
    Level.NOTE,
    "White on a clear ground",
    "On white paper nothing of it would be seen; it is shown on a dark ground here.",
)
MOVED = Notice(
    "moved-to-page",
    Level.NOTE,
    "The drawing was moved to the page",
    "Drawings of buildings and land lie so; its sizes and distances are as they were.",
)
NOTHING = Notice("nothing-to-cut", Level.STOPS, "Nothing to cut", "A machine would do nothing with it.")
NOTICES: tuple[Notice, ...] = (
    LIVE_TEXT,
    NOT_UNDERSTOOD,
    TAKEN_PLAINLY,
    EXTERNAL,
    HIDDEN,
    NO_UNIT,
    DAMAGED,
    WHITE_ON_CLEAR,
    NOTHING,
    MOVED,
)
