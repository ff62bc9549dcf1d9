"""What a rule is: its metadata, how it finds, how it would mend."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from ..model import Document, Edit, Finding, Level


@dataclass(frozen=True)
class Tolerance:
    """mm: how far a line may move, and how wide a gap is closed, when a design is mended."""

    mm: float = 0.25


@dataclass(frozen=True)
class Rule:
    """One kind of fault. id: permanent. title and effect: whole phrases, the second says what happens at the machine.

    find(document, tolerance) yields findings and never changes anything. mend(document, finding, tolerance) gives the
    edit that removes the finding, or None where it no longer holds; None where the rule has no mend.
    """

    id: str
    level: Level
    title: str
    effect: str
    find: Callable[[Document, Tolerance], Iterable[Finding]]
    mend: Callable[[Document, Finding, Tolerance], Edit | None] | None = None
    version: int = 1
