"""Sizing a job while some of its steps keep their numbers."""

from __future__ import annotations

from collections.abc import Collection

from hakobu import pipeline
from hakobu.errors import BadRequest
from hakobu.model import Conditions, Document, Step
from hakobu.operations import Progress, silent
from hakobu.sizing import SIZING, Sized, sized_with_kept

from .results import font_of, picture_of, reader_of, run_chain
from .store import EMPTY, load_document


def sized_job(
    steps: list[Step],
    kept: Collection[str],
    names: dict[str, str],
    conditions: Conditions,
    progress: Progress = silent,
) -> Sized:
    """steps: those of the job, and last the one that sizes it. kept: the keys of those that keep their numbers. Raises
    BadRequest and CannotDo."""
    *steps, wish = steps
    if wish.operation not in SIZING:
        raise BadRequest("Only a step that sizes the design can leave the numbers of others as they are.")
    chain = run_chain(steps, names, conditions, progress=progress)
    documents = [EMPTY, *(load_document(placed.document) for placed in chain)]

    def run(document: Document, step: Step) -> pipeline.StepResult:
        progress(0.5, "Sizing")
        return pipeline.run_step(
            document, step, reader_of(names), picture_of(names), progress, conditions, font_of(names)
        )

    return sized_with_kept(steps, documents, wish, kept, run)
