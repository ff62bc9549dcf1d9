"""The whole flow on one page: bytes -> document -> steps -> machine file -> read back -> proof."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

import numpy as np

from . import formats
from .formats import ReadOptions, ReadResult, WriteOptions, Written
from .formats.limited import decode_picture
from .geometry import Path
from .geometry.boolean import Operand
from .machines import proof, weeding
from .model import Conditions, Document, HakobuError, Layer, Page, Step, Treatment
from .operations import Context, Outcome, Progress, choosing, operation_of, parameters_from, silent
from .operations.choosing import chosen_for

#: Reads a source: its hash, what a number means, the step's key, and whether notes on the drawing come in as lines.
SourceReader = Callable[[str, str | None, str, bool], ReadResult]
#: Decodes a picture by its hash: (H, W, 4) uint8.
PictureReader = Callable[[str], np.ndarray]
#: The bytes of a face that a person brought, by their hash.
FontReader = Callable[[str], bytes]


@dataclass(frozen=True)
class StepResult:
    """What became of a step: its outcome, or the error that stopped it; the document is then as it was before."""

    step: Step
    document: Document
    outcome: Outcome | None
    error: HakobuError | None = None

    def done(self) -> Outcome:
        """The outcome. Raises the error that stopped the step."""
        if self.error:
            raise self.error
        assert self.outcome is not None, "a step has an outcome or an error"
        return self.outcome

    @property
    def stopped(self) -> str:
        """Why it stopped, in a sentence; nothing where it did not."""
        return self.error.sentence if self.error else ""


def read(
    name: str,
    data: bytes,
    unit: str | None = None,
    key: str = "file",
    strokes: str = "lines",
    notes: bool = False,
) -> ReadResult:
    """A design from untrusted bytes."""
    return formats.read(name, data, ReadOptions(key=key, unit=unit, strokes=strokes, notes=notes))


def picture(name: str, data: bytes) -> np.ndarray:
    """The pixels of a picture from untrusted bytes, (H, W, 4) uint8, sRGB with straight alpha, upright."""
    return decode_picture(name, data)


def run_step(
    document: Document,
    step: Step,
    source: SourceReader | None = None,
    picture: PictureReader | None = None,
    progress: Progress = silent,
    conditions: Conditions = Conditions(),
    font: FontReader | None = None,
) -> StepResult:
    """One step. One that cannot be done, or whose pieces are no longer what they were, stops and changes nothing."""
    try:
        operation = operation_of(step.operation)
        parameters = parameters_from(operation, step.parameters, step.version)
        chosen = chosen_for(document, operation, step)
        context = Context(step.key, chosen, conditions, source, picture, font, progress)
        outcome = operation.run(document, parameters, context)
    except HakobuError as error:
        return StepResult(step, document, None, error)
    if document.dimensions:
        from .model.following import with_dimensions

        outcome = replace(outcome, document=with_dimensions(document, outcome.document))
    return StepResult(step, outcome.document, outcome)


def run_steps(
    steps: Iterable[Step], source: SourceReader | None = None, picture: PictureReader | None = None
) -> list[StepResult]:
    """All steps from an empty document on; switched-off ones are passed over."""
    document, results = Document(), []
    for step in steps:
        result = run_step(document, step, source, picture) if step.enabled else StepResult(step, document, None)
        results.append(result)
        document = result.document
    return results


def with_selection(document: Document, step: Step) -> Step:
    """The step with its pieces as they are now in the document it is to run on. Raises CannotDo where one is gone."""
    return choosing.with_selection(document, operation_of(step.operation), step)


def repaired(document: Document, step: Step) -> Step:
    """The step for what is still there of its pieces, as they are now. Raises CannotDo where nothing is."""
    return choosing.repaired(document, operation_of(step.operation), step)


def result_key(step: Step, document_key: str, conditions: Conditions = Conditions()) -> str:
    """The name under which a step's result on a document is kept: operation, version, parameters, selection, input, and
    what the design is held against where the operation asks for that."""
    data = step.as_json() | {"input": document_key}
    if operation_of(step.operation).reads_conditions:
        data["conditions"] = conditions.to_json()
    return hashlib.sha256(json.dumps(data, sort_keys=True).encode()).hexdigest()


def write(document: Document, format_id: str, title: str = "", options: WriteOptions | None = None) -> Written:
    """The design as a file. Raises UnknownFormat where the format is only read."""
    return formats.write(document, format_id, options or WriteOptions(title=title))


def prove(file_name: str, data: bytes, design: Document) -> tuple[proof.Proof, ReadResult]:
    """The proof of a file against a design, and the file as it was read back: both come from the file's own bytes."""
    format_ = formats.recognise(file_name, data)
    result = formats.read(file_name, data, ReadOptions(page_height_mm=design.frame[1]))
    return proof.compare(result.document, design, format_.precision_mm), result


@dataclass(frozen=True)
class WeededLayer:
    """What the file of one cut layer leaves of its sheet. strokes: the file's own lines, read back."""

    layer: Layer
    strokes: Path
    weeded: weeding.Weeded


def weed(document: Document, format_id: str, options: WriteOptions | None = None) -> list[WeededLayer]:
    """Each layer that is cut, written by itself, since each material lies on its own sheet; read back from the bytes of
    that file; and weeded."""
    made = []
    for layer in document.layers:
        pieces = [p for p in document.pieces if p.layer == layer.id]
        if layer.treatment is not Treatment.CUT or not pieces:
            continue
        alone = replace(document, layers=(layer,), pieces=tuple(pieces), groups=(), pictures=())
        alone = replace(alone, page=document.page or Page(*document.frame))
        file = write(alone, format_id, options=options)
        back = formats.read(f"sheet{formats.by_id(format_id).suffixes[0]}", file.data, _as_written(alone))
        strokes = proof.followed_path(back.document)
        shapes = [Operand(p.path, p.fill_rule) for p in pieces]
        made.append(WeededLayer(layer, strokes, weeding.weeded(strokes, shapes)))
    return made


def _as_written(document: Document) -> ReadOptions:
    return ReadOptions(page_height_mm=document.frame[1])
