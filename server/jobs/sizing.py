"""Sizing a job while some of its steps keep their numbers, and steps that follow a sizing that is changed."""

from __future__ import annotations

from collections.abc import Collection

from hakobu import pipeline
from hakobu.errors import BadRequest
from hakobu.model import Conditions, Document, Step
from hakobu.operations import Progress, silent
from hakobu.sizing import SIZING, Sized, resized_chain, sized_with_kept

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
    return sized_with_kept(steps, documents, wish, kept, _runner(names, conditions, progress))


def following(
    steps: list[Step],
    before: list[Step],
    names: dict[str, str],
    conditions: Conditions,
    progress: Progress = silent,
) -> list[Step]:
    """The steps of a job of which one that sizes it was changed, with later ones that follow; as they are where none
    was. before: the steps as they were."""
    at = next((k for k, (old, new) in enumerate(zip(before, steps, strict=False)) if old != new), None)
    if at is None or len(before) < at + 2 or not _is_changed(before[at], steps[at]):
        return steps
    if [step.key for step in steps] != [step.key for step in before]:
        return steps
    chain = run_chain(before, names, conditions, progress=progress)
    documents = [EMPTY, *(load_document(placed.document) for placed in chain)]
    return resized_chain(steps, documents, at, _runner(names, conditions, progress))


def _is_changed(old: Step, new: Step) -> bool:
    same = old.key == new.key and old.operation == new.operation and old.enabled and new.enabled
    return same and new.operation in SIZING


def _runner(names: dict[str, str], conditions: Conditions, progress: Progress):
    def run(document: Document, step: Step) -> pipeline.StepResult:
        progress(0.5, "Sizing")
        return pipeline.run_step(
            document, step, reader_of(names), picture_of(names), progress, conditions, font_of(names)
        )

    return run
