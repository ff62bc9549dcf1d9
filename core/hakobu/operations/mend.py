"""mend: takes the mends of findings, one by one or all that are safe."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

from ..checks import Tolerance, check, rule_of
from ..checks.applier import apply_edit, edit_for, mend_where
from ..model import Document
from ..model.errors import CannotDo
from ..model.figures import figures_of
from .operation import Context, Operation, Outcome, parameter


@dataclass(frozen=True)
class Mend:
    keys: tuple[str, ...] = parameter((), help="the findings to mend, by their keys; safe or not")
    rules: tuple[str, ...] = parameter((), help="the rules whose findings to mend, safe or not")
    leave: tuple[str, ...] = parameter((), help="findings that were set aside, by their keys")
    tolerance_mm: float = parameter(
        0.25, help="how far a line may move and how wide a gap is closed", unit="mm", low=0.0, high=10.0
    )


def run(document: Document, parameters: Mend, context: Context) -> Outcome:
    """With neither keys nor rules, takes all that is safe. Single keys are taken once, whatever they uncover."""
    tolerance = Tolerance(parameters.tolerance_mm)
    for rule in parameters.rules:
        rule_of(rule)
    if parameters.keys:
        mended, taken, off = _take_keys(document, parameters.keys, tolerance, context.selection)
    else:
        result = mend_where(document, lambda f: _wanted(f, parameters), tolerance)
        mended, taken, off = result.document, result.taken, result.off_mm
    counts = Counter(finding.rule for finding in taken)
    before, after = figures_of(document), figures_of(mended)
    note = f"{before.nodes} nodes became {after.nodes}" if before.nodes != after.nodes else "nothing to mend"
    if off:
        note += f"; where curves came too near each other, short straight lines within {off:g} mm took their place"
    figures = {"mended": len(taken), "nodes_before": before.nodes, "nodes_after": after.nodes, **counts}
    return Outcome(mended, _title(taken), note, figures)


def _wanted(finding, parameters: Mend) -> bool:
    if finding.key in parameters.leave:
        return False
    return finding.rule in parameters.rules if parameters.rules else finding.safe


def _take_keys(document: Document, keys: tuple[str, ...], tolerance: Tolerance, pieces: tuple[str, ...]):
    """The named findings, each against the document as the ones before it left it."""
    taken, off = [], 0.0
    for key in keys:
        finding = _finding(check(document, tolerance), key, pieces)
        edit = finding and edit_for(document, finding, tolerance)
        if edit:
            document = apply_edit(document, edit)
            taken.append(finding)
            off = max(off, edit.off_mm)
    if not taken:
        raise CannotDo("What was to be mended is no longer there; look at the list again.")
    return document, tuple(taken), off


def _finding(findings, key: str, pieces: tuple[str, ...]):
    """The finding of that key; or the only one of its rule on the step's pieces, for where an earlier step moved it."""
    for finding in findings:
        if finding.key == key:
            return finding
    alike = [f for f in findings if key.startswith(f"{f.rule}-") and f.pieces and set(f.pieces) <= set(pieces)]
    return alike[0] if len(alike) == 1 else None


def select(document: Document, parameters: Mend) -> tuple[str, ...]:
    """The pieces that the named findings are about."""
    found = check(document, Tolerance(parameters.tolerance_mm)) if parameters.keys else ()
    return tuple(dict.fromkeys(piece for f in found if f.key in parameters.keys for piece in f.pieces))


def repair(document: Document, parameters: Mend, pieces: tuple[str, ...]) -> Mend:
    """Only the findings that are still there. Raises CannotDo where none is."""
    found = check(document, Tolerance(parameters.tolerance_mm))
    keys = dict.fromkeys(f.key for key in parameters.keys if (f := _finding(found, key, pieces)))
    if parameters.keys and not keys:
        raise CannotDo("Nothing that this step mended is there any more: take the step out.")
    return replace(parameters, keys=tuple(keys))


def _title(taken) -> str:
    if not taken:
        return "Nothing needed mending"
    if len(taken) == 1:
        return f"Mended: {taken[0].title}"
    return f"{len(taken)} faults mended"


OPERATION = Operation("mend", 1, "check", "Mend", Mend, run, select, repair)
