"""Faces shown by a person's own words."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from hakobu.geometry import Path, bounds, transform, translation
from hakobu.geometry.path_text import path_data
from hakobu.lettering.face import EM_MM, Told
from hakobu.lettering.faces import FACES, face_of
from hakobu.lettering.judged import judge_face
from hakobu.lettering.setting import set_line, spaced
from hakobu.model.conditions import ANY_MATERIAL
from jobs.conditions import conditions_of
from jobs.models import Job, Source
from jobs.results import font_of

#: So many letters of a text are shown; the rest would not be seen in a list.
MOST_SHOWN = 24
#: What is shown where nothing is typed yet.
SAMPLE = "Hakobu"


def shown(job: str, values: dict[str, Any]) -> dict[str, Any]:
    """All faces of a job, those that were brought first: what each is for and says of itself, the words as they look in
    it, and of those in `judged` what it means for the cut; with the least width of the job's material."""
    found = Job.objects.get(pk=job)
    text = " ".join(values["text"].split())[:MOST_SHOWN] or SAMPLE
    font = font_of(dict(found.sources.filter(format=Source.FACE).values_list("blob_id", "name")))
    material = conditions_of(found.head.settings).material or ANY_MATERIAL
    return {
        "material": material.name,
        "least_mm": material.least_strip_mm,
        "faces": [_row(row, text, values, font) for row in _faces(found)],
    }


def _faces(job: Job) -> Iterator[dict[str, Any]]:
    for source in job.sources.filter(format=Source.FACE).order_by("-pk"):
        yield {"id": source.blob_id, "suits": "", "joins": False, "single_line": False, "brought": source.name}
    for face in FACES:
        row = {"id": face.id, "suits": face.suits, "joins": face.joins, "single_line": face.single_line}
        yield row | {"brought": ""}


def _row(row: dict[str, Any], text: str, values: dict[str, Any], font) -> dict[str, Any]:
    face = face_of(row["id"], font)
    line = set_line(face, text)
    at = spaced(line, EM_MM).x
    moved = (transform(each.path, translation(x, 0.0)) for each, x in zip(line.inked, at, strict=True))
    path = Path.concatenate(moved)
    box = bounds(path) if len(path) else None
    told = None
    if row["id"] in values["judged"]:
        told = judge_face(row["id"], values["text"] or SAMPLE, values["capitals_mm"], font).as_json()
    return {
        **row,
        **told_of(face.told),
        "d": path_data(path, 2) if len(path) else "",
        "box": list(box) if box else None,
        "lacking": list(line.lacking),
        "judged": told,
    }


def told_of(told: Told) -> dict[str, Any]:
    """What a face says of itself, as plain data."""
    axes = [{"tag": a.tag, "name": a.name, "low": a.low, "usual": a.usual, "high": a.high} for a in told.axes]
    forms = [{"tag": tag, "words": words} for tag, words in told.features.items()]
    return {"name": told.name, "embedding": told.embedding, "axes": axes, "forms": forms}
