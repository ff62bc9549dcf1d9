"""The whole flow on one page: bytes -> document -> steps -> machine file -> read back -> proof."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

import numpy as np

from . import formats
from .errors import CannotDo
from .formats import ReadOptions, ReadResult, WriteOptions, Written
from .formats.limited import decode_picture
from .geometry import Path
from .geometry.boolean import Operand
from .machines import proof, weeding
from .model import Document, HakobuError, Layer, Page, Step, Treatment
from .model.ids import fingerprint, same_thing
from .operations import Context, Outcome, Progress, operation_of, parameters_from, silent

#: Reads a source: its hash, what a number means, the step's key, and whether notes on the drawing come in as lines.
SourceReader = Callable[[str, str | None, str, bool], ReadResult]
#: Decodes a picture by its hash: (H, W, 4) uint8.
PictureReader = Callable[[str], np.ndarray]


@dataclass(frozen=True)
class StepResult:
    """What became of a step: its outcome, or the error that stopped it; the document is then as it was before."""

    step: Step
    document: Document
    outcome: Outcome | None
    error: HakobuError | None = None

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
) -> StepResult:
    """One step. One that cannot be done, or whose pieces are no longer what they were, stops and changes nothing."""
    try:
        _check_selection(document, step)
        operation = operation_of(step.operation)
        parameters = parameters_from(operation, step.parameters)
        outcome = operation.run(
            document, parameters, Context(step.key, tuple(step.selection), source, picture, progress)
        )
    except HakobuError as error:
        return StepResult(step, document, None, error)
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
    """The step with the pieces that its parameters are about, as they are now in the document it is to run on."""
    operation = operation_of(step.operation)
    if operation.select is None:
        return step
    pieces = operation.select(document, parameters_from(operation, step.parameters))
    return replace(step, selection={p: fingerprint(document.by_id[p]) for p in pieces if p in document.by_id})


def repaired(document: Document, step: Step) -> Step:
    """The step for what is still there of its pieces, as they are now. Raises CannotDo where nothing is."""
    operation = operation_of(step.operation)
    there = tuple(p for p in step.selection if p in document.by_id)
    if step.selection and not there:
        raise CannotDo("Nothing that this step was for is there any more: take the step out.")
    parameters = parameters_from(operation, step.parameters)
    if operation.repair is not None:
        parameters = operation.repair(document, parameters, there)
    given = {name: getattr(parameters, name) for name in step.parameters}
    plain = {name: list(value) if isinstance(value, tuple) else value for name, value in given.items()}
    return replace(step, parameters=plain, selection={p: fingerprint(document.by_id[p]) for p in there})


def _check_selection(document: Document, step: Step) -> None:
    for identity, before in step.selection.items():
        piece = document.by_id.get(identity)
        if piece is None:
            raise CannotDo("A piece that this step was for is no longer there.")
        if not same_thing(before, fingerprint(piece)):
            raise CannotDo("A piece that this step was for is no longer what it was.")


def result_key(step: Step, document_key: str) -> str:
    """The name under which a step's result on a document is kept: operation, version, parameters, selection, input."""
    data = step.as_json() | {"input": document_key}
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
