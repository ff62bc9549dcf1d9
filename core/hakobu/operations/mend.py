"""mend: takes the mends of findings, one by one or all that are safe."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ..checks import check, rule_of
from ..checks.applier import MOST_PASSES, Mended, applied, edit_for, mend_where, without_overlaps
from ..checks.cost import seconds_to_check
from ..errors import BadRequest, CannotDo
from ..model import Conditions, Document
from ..model.declare import data, length, listed, text
from ..model.scaling import scaled
from ..model.statistics import statistics_of
from ..model.step import ON
from ..model.units import as_mm
from .operation import Context, Operation, Outcome, SourceCost

#: How often it looks through a design, at least.
LOOKS = 3
#: A size that is off the typed one by no more than this is that size: half a step of most machines.
SAME_MM = 0.01
SIDE = {"width": "wide", "height": "high"}


@dataclass(frozen=True)
class Mend:
    keys: tuple[str, ...] = listed(
        (), label="findings", help="the findings to mend, by their keys; safe or not", most=1000
    )
    rules: tuple[str, ...] = listed((), label="rules", help="the rules whose findings to mend, safe or not")
    leave: tuple[str, ...] = listed((), label="set aside", help="findings that were set aside, by their keys")
    tolerance_mm: float = length(
        0.25, label="tolerance", help="how far a line may move and how wide a gap is closed", high=10.0, step=0.05
    )
    choice: str = text("", label="way", help="which way, where a finding can be mended in several", group="")
    conditions: Mapping[str, Any] | None = data(
        None,
        label="conditions",
        help="material, machine, purpose and layers that the design is held against, complete in itself",
    )


def run(document: Document, parameters: Mend, context: Context) -> Outcome:
    """With neither keys nor rules, takes all that is safe. Single keys are taken once, whatever they uncover."""
    conditions = conditions_of(parameters)
    for rule in parameters.rules:
        _known_choice(rule_of(rule).id, parameters.choice)
    settled = conditions.settled(document)
    if parameters.keys:
        made = _take_keys(settled, parameters, conditions, context.chosen.get(ON, ()))
    else:
        made = mend_where(settled, lambda f: _wanted(f, parameters), conditions, parameters.choice)
    mended, again = _as_sized_before(document, _as_named_before(document, made.document))
    counts = Counter(finding.rule for finding in made.taken)
    before, after = statistics_of(document), statistics_of(mended)
    statistics = {
        "mended": len(made.taken),
        "nodes_before": before.nodes,
        "nodes_after": after.nodes,
        "line_before_mm": round(before.line_mm, 3),
        "line_after_mm": round(after.line_mm, 3),
        **counts,
    }
    return Outcome(mended, _title(made.taken), _note(document, mended, made, again), statistics)


def conditions_of(parameters: Mend) -> Conditions:
    return replace(Conditions.from_json(parameters.conditions or {}), tolerance_mm=parameters.tolerance_mm)


def _known_choice(rule: str, choice: str) -> None:
    known = [identity for identity, _ in rule_of(rule).choices]
    if choice and choice not in known:
        ways = f"use one of {', '.join(known)}" if known else "it is mended in one way only"
        raise BadRequest(f'"{choice}" is no way to mend "{rule}": {ways}.')


def _as_named_before(document: Document, mended: Document) -> Document:
    """The mended document with its layers as the step found them: what was only said of them is not part of it."""
    made = {layer.id: layer.mirrored for layer in mended.layers}
    layers = tuple(replace(layer, mirrored=made.get(layer.id, layer.mirrored)) for layer in document.layers)
    return replace(mended, layers=layers)


def _as_sized_before(document: Document, mended: Document) -> tuple[Document, str]:
    """The mended document at the width or height that a person typed, where it had that and has lost it, and what was
    done for it."""
    if not document.sized or not mended.pieces:
        return mended, ""
    way, wanted = document.sized
    side = ("width", "height").index(way)
    before, after = document.extent_mm[side], mended.extent_mm[side]
    if abs(before - wanted) > SAME_MM or abs(after - wanted) <= SAME_MM or after <= 0:
        return mended, ""
    again = replace(scaled(mended, wanted / after), sized=document.sized)
    return again, f"without what went it was {as_mm(round(after, 2))} {SIDE[way]}: sized to {as_mm(wanted)} again"


def _wanted(finding, parameters: Mend) -> bool:
    if finding.key in parameters.leave:
        return False
    return finding.rule in parameters.rules if parameters.rules else finding.safe


def _take_keys(document: Document, parameters: Mend, conditions: Conditions, pieces: tuple[str, ...]) -> Mended:
    """The named findings, in their order; those whose mends do not overlap together, the others against the document as
    those before left it. Each is taken once, whatever it uncovers."""
    taken, off, why, left = [], 0.0, "", list(dict.fromkeys(parameters.keys))
    for _ in range(MOST_PASSES):
        found = check(document, conditions, every=True)
        edits, later = {}, []
        for key in left:
            finding = _finding(found, key, pieces)
            if finding is None or finding.key in edits:
                continue
            _known_choice(finding.rule, parameters.choice)
            edit = edit_for(document, finding, conditions, parameters.choice)
            if edit is None:
                why = f"{finding.title}: this place cannot be mended by itself; it is left as it was."
                continue
            edits[finding.key] = finding, edit
            later.append((key, finding.key))
        chosen = without_overlaps([edit for _, edit in edits.values()])
        if not chosen:
            break
        document = applied(document, chosen)
        done = {edit.finding for edit in chosen}
        taken += [edits[key][0] for key in edits if key in done]
        off = max(off, *(edit.off_mm for edit in chosen))
        left = [key for key, own in later if own not in done]
        if not left:
            break
    if not taken:
        raise CannotDo(why or "What was to be mended is no longer there; look at the list again.")
    return Mended(document, tuple(taken), 1, off)


def _finding(findings, key: str, pieces: tuple[str, ...]):
    """The finding of that key; or the only one of its rule on the step's pieces, for where an earlier step moved it."""
    for finding in findings:
        if finding.key == key:
            return finding
    alike = [f for f in findings if key.startswith(f"{f.rule}-") and f.pieces and set(f.pieces) <= set(pieces)]
    return alike[0] if len(alike) == 1 else None


def picks(document: Document, parameters: Mend) -> tuple[str, ...]:
    """The pieces that the named findings are about."""
    found = check(document, conditions_of(parameters), every=True) if parameters.keys else ()
    return tuple(dict.fromkeys(piece for f in found if f.key in parameters.keys for piece in f.pieces))


def repair(document: Document, parameters: Mend, pieces: tuple[str, ...]) -> Mend:
    """Only the findings that are still there. Raises CannotDo where none is."""
    found = check(document, conditions_of(parameters), every=True)
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


def _note(before: Document, after: Document, made: Mended, again: str) -> str:
    """What changed, and that the rest is as it was."""
    nodes = statistics_of(before).nodes, statistics_of(after).nodes
    parts = [f"{nodes[0]} nodes became {nodes[1]}" if nodes[0] != nodes[1] else ""]
    if before.pieces and made.taken and not again:
        stayed = sum(before.by_id[p.id].path is p.path for p in after.pieces if p.id in before.by_id)
        parts.append(f"{stayed} of {len(before.pieces)} pieces are as they were")
    if made.off_mm:
        parts.append(f"where curves came too near each other, lines within {made.off_mm:g} mm took their place")
    if made.left:
        count = len(made.left)
        parts.append(f"{count} {'was' if count == 1 else 'were'} left, since mending would have made another fault")
    parts.append(again)
    return "; ".join(part for part in parts if part) or "nothing to mend"


def cost(document: Document, parameters: Mend, source: SourceCost) -> float:
    return LOOKS * seconds_to_check(document)


OPERATION = Operation(
    id="mend",
    version=3,
    station="check",
    title="Mend",
    parameters=Mend,
    run=run,
    sentence="Mend, moving lines by at most {tolerance_mm}",
    cost=cost,
    picks=picks,
    repair=repair,
)
