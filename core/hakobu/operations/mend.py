"""mend: takes the mends of findings, one by one or all that are safe."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

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
        mended, taken = _take_keys(document, parameters.keys, tolerance)
    else:
        result = mend_where(document, lambda f: _wanted(f, parameters), tolerance)
        mended, taken = result.document, result.taken
    counts = Counter(finding.rule for finding in taken)
    before, after = figures_of(document), figures_of(mended)
    note = f"{before.nodes} nodes became {after.nodes}" if before.nodes != after.nodes else "nothing to mend"
    figures = {"mended": len(taken), "nodes_before": before.nodes, "nodes_after": after.nodes, **counts}
    return Outcome(mended, _title(taken), note, figures)


def _wanted(finding, parameters: Mend) -> bool:
    if finding.key in parameters.leave:
        return False
    return finding.rule in parameters.rules if parameters.rules else finding.safe


def _take_keys(document: Document, keys: tuple[str, ...], tolerance: Tolerance):
    """The named findings, each against the document as the ones before it left it."""
    taken = []
    for key in keys:
        finding = next((f for f in check(document, tolerance) if f.key == key), None)
        edit = finding and edit_for(document, finding, tolerance)
        if edit:
            document = apply_edit(document, edit)
            taken.append(finding)
    if not taken:
        raise CannotDo("What was to be mended is no longer there; look at the list again.")
    return document, tuple(taken)


def _title(taken) -> str:
    if not taken:
        return "Nothing needed mending"
    if len(taken) == 1:
        return f"Mended: {taken[0].title}"
    return f"{len(taken)} faults mended"


OPERATION = Operation("mend", 1, "check", "Mend", Mend, run)
