"""Rows as the plain data that the serializers describe."""

from __future__ import annotations

from dataclasses import asdict, replace
from functools import lru_cache

from hakobu.checks import RULES, in_order
from hakobu.checks.verdict import verdict
from hakobu.model import Conditions, Finding, Level
from hakobu.model.statistics import statistics_of
from hakobu.model.targets import Target
from hakobu.model.units import in_words
from hakobu.operations import operation_of, upgraded
from hakobu.operations.bring_in import sizes_for
from hakobu.sizing import sizes_in_words, sizes_of
from jobs.conditions import conditions_for, held_against
from jobs.history import next_towards_tip
from jobs.models import Job, Revision, Run
from jobs.results import findings_of
from jobs.store import load_document
from wire.drawing import pictures_of, under


def job_out(job: Job) -> dict:
    head = job.head
    redo = next_towards_tip(job)
    return {
        "id": job.id,
        "name": job.name,
        "is_demo": job.origin.startswith("demo/"),
        "changed": job.changed,
        "head": revision_out(head),
        "can_undo": head.parent_id is not None,
        "can_redo": redo is not None,
        "undo_what": head.what if head.parent_id else "",
        "redo_what": redo.what if redo else "",
        "run": _open_run(job),
    }


def run_out(run: Run) -> dict:
    names = ("id", "kind", "state", "progress", "stage", "error", "so_far")
    return {name: getattr(run, name) for name in names} | {"job": run.job_id}


def _open_run(job: Job) -> dict | None:
    run = job.runs.filter(state__in=Run.OPEN).exclude(kind__in=("check", "weed")).order_by("created").first()
    return run_out(run) if run else None


#: What a summary says before there is one.
NO_SUMMARY = {"pieces": 0, "width_mm": 0.0, "height_mm": 0.0, "doubted": False, "station": "intake", "waiting": None}


def job_listed(job: Job) -> dict:
    return {
        "id": job.id,
        "name": job.name,
        "changed": job.changed,
        "deleted": job.deleted,
        "document": job.head.document_id,
        "material": job.head.settings.get("material"),
        **NO_SUMMARY,
        **job.head.summary,
    }


@lru_cache(maxsize=256)
def _statistics(digest: str) -> dict:
    return asdict(statistics_of(load_document(digest)))


def revision_out(revision: Revision) -> dict:
    document = load_document(revision.document_id)
    rows = revision.steps.select_related("step", "result")
    return {
        "id": revision.pk,
        "parent": revision.parent_id,
        "what": revision.what,
        "created": revision.created,
        "settings": revision.settings,
        "held": held_against(revision),
        "document": revision.document_id,
        "parent_document": revision.parent.document_id if revision.parent else None,
        "statistics": _statistics(revision.document_id),
        "size_in_words": in_words(*document.extent_mm),
        "target": _under(revision.document_id, conditions_for(revision)),
        "sizes": [{"key": row.step.key, "words": said} for row in rows if (said := _sizes(row.step))],
        "pictures": pictures_of(document),
        "steps": [step_out(row) for row in rows],
    }


def _sizes(step) -> str:
    """The lengths of a step that can stay as they are, in words."""
    step = step.as_step()
    return sizes_in_words(step) if step.enabled and sizes_of(step) else ""


def _under(digest: str, conditions: Conditions) -> dict | None:
    return target_out(digest, conditions.target, conditions.target_off) if conditions.target else None


@lru_cache(maxsize=64)
def target_out(digest: str, target: Target, off: tuple[float, float]) -> dict | None:
    """The target under a stored document."""
    return under(load_document(digest), target, off)


def step_out(row) -> dict:
    operation = operation_of(row.step.operation)
    return {
        "key": row.step.key,
        "operation": operation.id,
        "station": operation.station,
        "title": row.result.title if row.result else operation.title,
        "note": row.result.note if row.result else "",
        "parameters": upgraded(operation, row.step.parameters, row.step.version),
        "selection": {
            role: {"ids": list(chosen.ids), "query": chosen.query}
            for role, chosen in row.step.as_step().selection.items()
        },
        "statistics": row.result.statistics if row.result else {},
        "enabled": row.step.enabled,
        "stopped": row.stopped,
        "created": row.result.created if row.result else None,
        "document": row.result.document_id if row.result else None,
        "source": _source_size(row.result.statistics) if row.result and operation.id == "bring-in" else None,
    }


def _source_size(statistics: dict) -> dict:
    doubt, sizes = sizes_for(statistics)
    words = in_words(statistics["width_mm"], statistics["height_mm"])
    return {"in_words": words, "doubt": doubt, "sizes": [asdict(size) for size in sizes]}


def all_findings(revision: Revision) -> list[tuple[Finding, str | None]]:
    """What the readers said of the sources, each with its step, and what the rules find in the design, in the order
    they are numbered."""
    rows = revision.steps.filter(result__isnull=False).select_related("step", "result")
    said: dict[str, tuple[Finding, str]] = {}
    # Texts that were set anew are no longer missing.
    settled = {row.step.parameters.get("instead") for row in rows if row.step.operation == "words"}
    for row in rows:
        for finding in map(Finding.from_json, row.result.findings if row.result else ()):
            # Two files may have the same said of them.
            key = f"{finding.key}-{row.step.key}" if finding.key in said else finding.key
            if key not in settled:
                said[key] = replace(finding, key=key), row.step.key
    found = findings_of(revision.document_id, conditions_for(revision))
    ordered = in_order([*(finding for finding, _ in said.values()), *found])
    return [(finding, said[finding.key][1] if finding.key in said else None) for finding in ordered]


#: What the rules say of their kind.
ABOUT = {rule.id: rule.about for rule in RULES}
TITLES = {rule.id: rule.title for rule in RULES}
CHOICES = {rule.id: rule.choices for rule in RULES}


def verdict_out(revision: Revision) -> dict:
    """Will it hold together; and what all mends of the job have saved so far."""
    aside = set(revision.settings.get("set_aside", []))
    conditions = conditions_for(revision)
    findings = [f for f in findings_of(revision.document_id, conditions) if f.key not in aside]
    made = verdict(load_document(revision.document_id), conditions, findings)
    mends = [
        row.result.statistics
        for row in revision.steps.select_related("step", "result").filter(step__operation="mend")
        if row.result
    ]
    return asdict(made) | {
        "saved_nodes": sum(f.get("nodes_before", 0) - f.get("nodes_after", 0) for f in mends),
        "saved_line_mm": sum(f.get("line_before_mm", 0.0) - f.get("line_after_mm", 0.0) for f in mends),
    }


def findings_out(revision: Revision) -> list[dict]:
    aside, why = set(revision.settings.get("set_aside", [])), revision.settings.get("why_aside", {})
    return [
        {
            **finding.to_json(),
            "number": number,
            "count": finding.count,
            "step": step,
            "title": finding.title or Level(finding.level).value,
            "choices": [{"id": i, "label": label} for i, label in CHOICES.get(finding.rule, ())],
            "kind": TITLES.get(finding.rule, finding.title),
            "about": ABOUT.get(finding.rule, "reading"),
            "set_aside": finding.key in aside,
            "why_aside": why.get(finding.key, ""),
        }
        for number, (finding, step) in enumerate(all_findings(revision), 1)
    ]
