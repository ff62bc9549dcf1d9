"""A design for steps to be tried on, and steps taken by the ids of pieces or by queries."""

from __future__ import annotations

import numpy as np

from hakobu import pipeline
from hakobu.geometry import Path
from hakobu.model import Document, Fill, Group, Layer, Page, Piece, Step, Stroke, Treatment
from hakobu.model.step import ON, Selection
from hakobu.operations import operation_of

from ..shapes import circle, square

LAYERS = (
    Layer("back", "Paper", "#eeeeee"),
    Layer("front", "Card", "#112233", material="black-card"),
    Layer("fold", "Folds", "#aa3300", Treatment.SCORE),
    Layer("off", "Notes", "#999999", Treatment.LEAVE_OUT),
)
RING = Path.concatenate([square(0, 0, 40), circle(20, 20, 10).reversed()])
#: A square of 10 mm with a node in the middle of each side.
HALVED = Path.from_points(
    np.array([(80, 0), (85, 0), (90, 0), (90, 5), (90, 10), (85, 10), (80, 10), (80, 5)], float), closed=True
)
#: A square with a round hole, two squares that overlap it in turn and are kept together, a line, and a note.
PIECES = (
    Piece(
        "s:ring",
        Path.concatenate([square(0, 0, 40), circle(20, 20, 10).reversed()]),
        "back",
        "Ring",
        fill=Fill("#eeeeee"),
    ),
    Piece("s:a", square(30, 10, 20), "front", "Left", fill=Fill("#112233")),
    Piece("s:b", square(45, 10, 20), "front", "Right", fill=Fill("#112233", 0.5)),
    Piece("s:line", HALVED, "fold", stroke=Stroke("#aa3300", 0.2)),
    Piece("s:note", square(150, 50, 5), "off", "Note", fill=Fill("#999999")),
)
DESIGN = Document(Page(200, 100), LAYERS, PIECES, (Group("g", "Pair", ("s:a", "s:b")),))


def step(operation: str, on=None, key: str = "k", document: Document = DESIGN, **more) -> Step:
    """on, and what else names a role: ids, or a query."""
    roles = {ON: on, **{role.id: more.pop(role.id) for role in operation_of(operation).roles if role.id in more}}
    selection = {
        role: Selection(query=chosen) if isinstance(chosen, str) else Selection(dict.fromkeys(chosen))
        for role, chosen in roles.items()
        if chosen is not None
    }
    made = Step(key, operation, operation_of(operation).version, more, selection)
    return pipeline.with_selection(document, made)


def take(operation: str, on=None, document: Document = DESIGN, **more) -> pipeline.StepResult:
    return pipeline.run_step(document, step(operation, on, document=document, **more))


def took(operation: str, on=None, document: Document = DESIGN, **more) -> pipeline.StepResult:
    """The same, where it must be done."""
    result = take(operation, on, document, **more)
    assert result.error is None, result.stopped
    return result
