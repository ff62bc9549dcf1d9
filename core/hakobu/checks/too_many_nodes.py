"""too-many-nodes: a design with more nodes than machines take, or than its lines are long for."""

from __future__ import annotations

from collections.abc import Iterator

from ..model import Conditions, Document, Finding, Level
from .rule import DOCUMENT, Rule
from .tables.outlines import outline_table

#: Many machines hold no more in their memory (common practice).
MOST_NODES = 50_000
#: So many nodes to each mm, of so many at least, are more than any material shows (common practice).
PER_MM, LEAST = 4.0, 2000


def find(document: Document, conditions: Conditions) -> Iterator[Finding]:
    """One finding for the whole."""
    table = outline_table(document)
    nodes = int(table.path.node_counts.sum())
    if nodes < LEAST:
        return
    dense = nodes / max(float(table.size.sum()), 1e-9)
    if nodes > MOST_NODES or dense > PER_MM:
        yield RULE.at(
            f"The design has {nodes:,} nodes, {dense:.1f} to each mm of line.",
            measure={"nodes": nodes, "nodes_per_mm": round(dense, 3)},
        )


RULE = Rule(
    id="too-many-nodes",
    about=DOCUMENT,
    level=Level.NOTE,
    title="Very many nodes",
    effect="Some machines stop in the middle when their memory is full; all of them get slow.",
    find=find,
    thresholds=("more than 50,000, or more than 4 to each mm of at least 2,000 (common practice)",),
)
