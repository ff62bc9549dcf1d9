"""Sizing a design while some of its steps keep their numbers: rims, clearances, lettering heights."""

from __future__ import annotations

import math
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from .errors import CannotDo
from .model import Document, Step
from .model.declare import declared
from .model.units import as_mm, size_text
from .operations import operation_of, upgraded
from .operations.aim import aim_of
from .operations.choosing import with_selection
from .operations.scaled import scaled_step
from .pipeline import StepResult

#: Runs a step on a document.
Run = Callable[[Document, Step], StepResult]
#: Steps that size the whole design: those after a step that keeps its numbers are merged into the new one.
SIZING = ("resize", "size-by")
#: The size is met when what remains is this share of it, or after so many tries.
SHARE, TRIES = 1e-10, 16


@dataclass(frozen=True)
class Sized:
    """steps: all of the job, with the sizing before the first step that keeps its numbers. document: after them. title
    and note: what was done to the whole design, and which steps stayed or followed."""

    steps: list[Step]
    document: Document
    factor: float
    title: str
    note: str


def sized_with_kept(
    steps: Sequence[Step], documents: Sequence[Document], wish: Step, kept: Collection[str], run: Run
) -> Sized:
    """The steps of a job with a step `wish` (resize or size-by), such that the design at the end has the size it asks
    for while the steps with the keys `kept` keep their sizes.

    documents: before each step, and after the last. The sizing stands before the first kept step. What it has to be so
    that the end comes out is found by iteration: each try is corrected by what remains, then by the secant rule. Raises
    CannotDo where a step cannot follow or would stop.
    """
    at = [k for k, step in enumerate(steps) if step.key in kept]
    if not at:
        raise CannotDo("None of the steps that are to keep their numbers is there.")
    begin, later, prior = at[0], [], 1.0
    for k in range(begin, len(steps)):
        if _sizes(steps[k]) and steps[k].enabled:
            prior *= _factor_between(documents[k], documents[k + 1])
        else:
            later.append(_Later(steps[k], documents[k], prior))
    aim = aim_of(documents[-1], wish)
    factor, known = aim.factor(documents[-1]) * prior, []
    for _ in range(TRIES):
        tried, document = _tried(documents[begin], later, wish, factor, kept, run)
        times = factor / prior
        off = _offset(documents[-1], document, times, (0.0, 0.0))
        rest = math.log(aim.moved(times, off).factor(document))
        if abs(rest) < SHARE:
            break
        known.append((math.log(factor), rest))
        factor = math.exp(_next(known))
    stayed, followed = _said(later, kept)
    size, was = size_text(*document.size_mm), size_text(*documents[-1].size_mm)
    title = f"Sized to {as_mm(document.size_mm[0])} wide"
    note = "; ".join(filter(None, (f"{was} became {size}", stayed, followed)))
    tried[0] = replace(tried[0], parameters={**tried[0].parameters, "reason": title, "said": note})
    return Sized([*steps[:begin], *tried], document, factor, title, note)


def _said(later: Sequence[_Later], kept: Collection[str]) -> tuple[str, str]:
    """Which steps kept their numbers, and which followed."""
    stayed = [sizes_in_words(each.step) for each in later if each.step.key in kept]
    followed = [operation_of(each.step.operation).title for each in later if each.step.key not in kept]
    return f"{', '.join(stayed)} stayed", f"{', '.join(dict.fromkeys(followed))} followed" if followed else ""


@dataclass(frozen=True)
class _Later:
    """A step after the sizing, the document before it as it was, and how many times as large steps that size had made
    the design by then."""

    step: Step
    before: Document
    prior: float


def _sizes(step: Step) -> bool:
    return step.operation in SIZING


def _next(known: list[tuple[float, float]]) -> float:
    """The logarithm of the next factor: by the secant through the last two tries where there are two."""
    at, rest = known[-1]
    if len(known) > 1:
        before, was = known[-2]
        if abs(was - rest) > 1e-15:
            return at - rest * (at - before) / (rest - was)
    return at + rest


def _tried(
    before: Document, later: Sequence[_Later], wish: Step, factor: float, kept: Collection[str], run: Run
) -> tuple[list[Step], Document]:
    """All steps from the sizing on for a design so many times as large, and what they make."""
    operation = operation_of("resize")
    stays = {name: wish.parameters[name] for name in ("holes_mm", "lines") if name in wish.parameters}
    sizing = Step(wish.key, operation.id, operation.version, {"factor": factor, **stays})
    made, document, off = [sizing], _done(run(before, sizing)), (0.0, 0.0)
    for each in later:
        own, times = operation_of(each.step.operation), factor / each.prior
        off = _offset(each.before, document, times, off)
        step = scaled_step(own, each.step, times, off, each.step.key in kept)
        if step.enabled:
            step = with_selection(document, own, step)
            document = _done(run(document, step))
        made.append(step)
    return made, document


def resized_chain(steps: Sequence[Step], documents: Sequence[Document], at: int, run: Run) -> list[Step]:
    """The steps of a job whose sizing at a place was changed: later steps keep their sizes, and their places follow.

    documents: before each step and after the last, as they were. Where the change is none of size, or a later step
    cannot follow, the steps are as they were given: then it is seen which one stops.
    """
    changed = run(documents[at], steps[at])
    if changed.error:
        return list(steps)
    document, off = changed.document, (0.0, 0.0)
    times = _factor_between(documents[at + 1], document)
    if abs(times - 1) < SHARE:
        return list(steps)
    made = list(steps[: at + 1])
    for k, step in enumerate(steps[at + 1 :], at + 1):
        if not step.enabled:
            made.append(step)
            continue
        own = operation_of(step.operation)
        off = _offset(documents[k], document, times, off)
        try:
            step = with_selection(document, own, scaled_step(own, step, times, off, keeps=True))
        except CannotDo:
            return [*made, *steps[k:]]
        result = run(document, step)
        if result.error:
            return [*made, *steps[k:]]
        made.append(step)
        document = result.document
        if _sizes(step):
            times = _factor_between(documents[k + 1], document)
    return made


def _done(result: StepResult) -> Document:
    if result.error:
        title = operation_of(result.step.operation).title
        raise CannotDo(f'It cannot be sized so: "{title}" would stop. {result.stopped}')
    return result.document


def _offset(before: Document, after: Document, factor: float, otherwise: tuple[float, float]) -> tuple[float, float]:
    """How far a design so many times as large was moved besides, by a piece that only followed; pages move what is on
    them."""
    for piece in before.pieces:
        now = after.by_id.get(piece.id)
        if now is None or len(now.path.ctrl) != len(piece.path.ctrl) or not len(now.path.ctrl):
            continue
        off = now.path.ctrl - factor * piece.path.ctrl
        way = off.reshape(-1, 2).mean(axis=0)
        if np.abs(off - way).max() < 1e-6 * max(1.0, factor):
            return float(way[0]), float(way[1])
    if before.pictures and after.pictures and before.pictures[0].id == after.pictures[0].id:
        old, new = before.pictures[0].matrix, after.pictures[0].matrix
        return new[4] - factor * old[4], new[5] - factor * old[5]
    return otherwise


def _factor_between(before: Document, after: Document) -> float:
    """How many times as large a sizing made a design."""
    was, now = max(before.extent_mm), max(after.extent_mm)
    return now / was if was > 0 and now > 0 else 1.0


def sizes_of(step: Step) -> Mapping[str, float]:
    """The lengths of a step that can keep their values, by their labels; none that is 0 or has no meaning."""
    operation = operation_of(step.operation)
    values = upgraded(operation, step.parameters, step.version)
    known = declared(operation.parameters)
    set_: dict[str, Any] = {name: values.get(name, field.default) for name, (_, field) in known.items()}
    found = {}
    for name in operation.sizes:
        told, value = known[name][0], set_[name]
        means = not told.when or str(set_[told.when[0]]).lower() in {str(v).lower() for v in told.when[1]}
        if value and means:
            found[told.label] = float(value)
    return found


def sizes_in_words(step: Step) -> str:
    """Rim (out 4 mm)."""
    sizes = ", ".join(f"{label} {as_mm(value)}" for label, value in sizes_of(step).items())
    return f"{operation_of(step.operation).title} ({sizes})"
