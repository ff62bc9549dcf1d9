"""Answers to requests for previews, wherever they are worked out: checked, and with the picture at hand."""

from __future__ import annotations

import json
from typing import Any

from hakobu.errors import HakobuError, NotThere
from hakobu.operations.trace import picture_of
from jobs.models import Source
from jobs.store import load_document

from . import faces, steps, tiles, trace
from .newest import NEWEST, Superseded
from .pictures import PICTURES

#: Status, media type and bytes.
Answer = tuple[int, str, bytes]
JSON, BINARY = "application/json", "application/octet-stream"


def answer(kind: str, job: str, values: dict[str, Any]) -> Answer:
    """kind: proposal, preview, tiles, measure, step or faces. 204 where a newer request of the same tab has come
    meanwhile, or where what is to be measured is no longer at hand."""
    try:
        if kind == "measure":
            return _told(trace.measure(values))
        if kind == "faces":
            return _told(faces.shown(job, values))
        if kind in ("preview", "step"):
            NEWEST.arrive(values["tab"], values["number"])
        if kind == "step":
            return 200, BINARY, steps.preview(job, values)
        document = load_document(values["document"])
        picture = picture_of(document, values["picture"])
        source = Source.objects.select_related("blob").filter(job=job, blob=picture.sha256).first()
        if source is None:
            raise NotThere("This picture does not belong to this job.")
        grey = PICTURES.grey(source)
        if kind == "proposal":
            return _told(trace.proposal(grey, picture))
        if kind == "tiles":
            return _told(tiles.tiles(grey, values["told"]))
        return 200, BINARY, trace.preview(grey, picture, document, values)
    except Superseded:
        return 204, JSON, b""
    except HakobuError as error:
        return error.http_status, JSON, json.dumps({"code": error.code, "sentence": error.sentence}).encode()


def _told(values: Any) -> Answer:
    return (204, JSON, b"") if values is None else (200, JSON, json.dumps(values).encode())
