"""An edit: what a mend would change, as data."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..geometry import Path

#: A piece's id and the number of one of its outlines.
OutlineRef = tuple[str, int]


@dataclass(frozen=True)
class Edit:
    """New paths for outlines, None where the outline goes. needs: the outlines that must still be as they were found.

    Two edits overlap where one changes what the other changes or needs. off_mm: how far curves were left, where a
    mend could not keep them.
    """

    finding: str
    changes: Mapping[OutlineRef, Path | None] = field(default_factory=dict)
    needs: frozenset[OutlineRef] = frozenset()
    off_mm: float = 0.0
