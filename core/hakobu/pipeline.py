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
from .geometry.nodes import end_directions
from .machines import proof, weeding
from .machines.closing import closed_again
from .model import Conditions, Document, HakobuError, Layer, Machine, Page, Step, Treatment
from .operations import Context, Outcome, Progress, choosing, operation_of, parameters_from, silent
from .operations.choosing import chosen_for
from .toolpaths import Made, Plan, as_document, frame_of, lines_of, make
from .toolpaths.following import tips

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
    """The design as a file; as its machine works it where one is named. Raises UnknownFormat where the format is only
    read."""
    if options and options.plan.machine:
        return write_for(document, format_id, options).written
    return formats.write(document, format_id, options or WriteOptions(title=title))


@dataclass(frozen=True)
class MachineFile:
    """A file, and the program that it holds."""

    written: Written
    made: Made


def write_for(document: Document, format_id: str, options: WriteOptions) -> MachineFile:
    """The design as its machine works it: as a program where the format holds one, else its lines. Raises UnknownFormat
    where the format is only read, BadRequest where values of the machine contradict each other."""
    made, format_ = make(document, options.plan), formats.by_id(format_id)
    if format_.write_program is not None:
        return MachineFile(format_.write_program(made.program, options), made)
    return MachineFile(formats.write(as_document(made.program, document), format_id, options), made)


@dataclass(frozen=True)
class Proven:
    """proof: of the file against the program of the design. read: the file as it was read back. made: that program,
    where a machine is named. expected: the lines on the page that the numbers of the proof's outlines are of."""

    proof: proof.Proof
    read: ReadResult
    made: Made | None
    expected: Path


def prove(file_name: str, data: bytes, design: Document, plan: Plan | None = None, made: Made | None = None) -> Proven:
    """The proof of a file against a design as its machine works it, and the file as it was read back: from the file's
    own bytes. Without a plan the lines are compared with those of the design. made: what the plan makes of the design,
    where that is known."""
    format_, machine = formats.recognise(file_name, data), plan.machine if plan else None
    # Of passes at several depths a reader keeps one, unless it is to keep all; formats of lines hold one.
    every = format_.is_machine and plan is not None and any(each.passes > 1 for each in plan.machines)
    read = replace(_as_written(design, machine if format_.is_machine else None), as_run=every)
    result = formats.read(file_name, data, read)
    made = (made or make(design, plan)) if plan and machine else None
    expected = lines_of(made.program, every_pass=every) if made else proof.followed_path(design)
    strokes = proof.followed_path(result.document)
    return Proven(proof.compare_lines(strokes, expected, format_.precision_mm), result, made, expected)


@dataclass(frozen=True)
class WeededLayer:
    """What the file of one cut layer leaves of its sheet. strokes: the file's own lines, read back."""

    layer: Layer
    strokes: Path
    weeded: weeding.Weeded


def weed(document: Document, format_id: str, options: WriteOptions | None = None) -> list[WeededLayer]:
    """Each layer that is cut, written by itself, since each material lies on its own sheet; read back from the bytes of
    that file; and weeded. Where a machine is named, the lines are those that its tool cuts: the tip of its blade, and
    on both sides of them half its kerf is gone; tabs are broken."""
    options = options or WriteOptions()
    machine = options.plan.machine
    if machine:
        own = {layer: _for_weeding(other) for layer, other in options.plan.own.items()}
        options = replace(options, plan=replace(options.plan, machine=_for_weeding(machine), own=own, tabs=()))
    made = []
    for layer in document.layers:
        pieces = [p for p in document.pieces if p.layer == layer.id]
        if layer.treatment is not Treatment.CUT or not pieces:
            continue
        alone = replace(document, layers=(layer,), pieces=tuple(pieces), groups=(), pictures=())
        alone = replace(alone, page=document.page or Page(*document.frame))
        strokes = _cut_lines(alone, format_id, options)
        shapes = [Operand(p.path, p.fill_rule) for p in pieces]
        worked = options.plan.machine_of(layer.id)
        kerf = worked.cut_kerf_mm if worked and options.plan.compensated else 0.0
        made.append(WeededLayer(layer, strokes, weeding.weeded(strokes, shapes, kerf)))
    return made


def _for_weeding(machine: Machine) -> Machine:
    """Tabs are broken when work is weeded, and one pass says what all do."""
    return replace(machine, tabs=0, passes=1)


def _cut_lines(document: Document, format_id: str, options: WriteOptions) -> Path:
    """What the tool cuts of a document, from the bytes of its file."""
    name, machine = f"sheet{formats.by_id(format_id).suffixes[0]}", options.plan.machine
    if machine is None:
        file = write(document, format_id, options=options)
        return proof.followed_path(formats.read(name, file.data, _as_written(document, None)).document)
    file = write_for(document, format_id, options)
    back = formats.read(name, file.written.data, _as_written(document, machine)).document
    strokes = proof.followed_path(back)
    if machine.drags and options.plan.compensated and len(strokes):
        towards = end_directions(file.made.before.path)[0][0] * np.array([1.0, -1.0])
        strokes = tips(strokes, np.full(len(strokes), machine.blade_offset_mm), towards, weeding.CHORD_MM / 10)
    return closed_again(strokes, machine.lead_in_mm)


def _as_written(document: Document, machine: Machine | None) -> ReadOptions:
    """How a file that was just written is read back: each stroke as it runs, on the sheet."""
    made = ReadOptions(page_height_mm=document.frame[1], as_run=machine is not None)
    if machine is None:
        return made
    return replace(made, frame=tuple(frame_of(machine).ravel().tolist()), steps_per_mm=int(machine.steps))
