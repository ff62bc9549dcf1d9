"""Files out, and their proof: drawn and measured from the bytes of the file itself."""

from __future__ import annotations

import re

from hakobu import formats, pipeline
from hakobu.formats import Written
from hakobu.machines.proof import followed_path
from hakobu.model.errors import CannotDo
from jobs.models import Job, Revision
from jobs.store import load_document

from .drawing import lines_of


def file_name(job: Job, format_id: str) -> str:
    stem = re.sub(r"[^\w-]+", "-", job.name).strip("-").lower() or "design"
    return f"{stem[:60]}{formats.by_id(format_id).suffixes[0]}"


def written(job: Job, revision: Revision, format_id: str) -> Written:
    document = load_document(revision.document_id)
    if not document.pieces_followed():
        raise CannotDo("There is nothing to cut, score or draw in this design yet; bring in a file first.")
    return pipeline.write(document, format_id, job.name)


def proof_out(revision: Revision, name: str, format_id: str, file: Written) -> dict:
    design = load_document(revision.document_id)
    proof, read_back = pipeline.prove(name, file.data, design)
    strokes, outlines = followed_path(read_back.document), followed_path(design)
    return {
        **proof.as_json(),
        "file": {"format": format_id, "name": name, "bytes": len(file.data), "notes": list(file.notes)},
        "strokes": lines_of(strokes, 0.002),
        "missing_lines": lines_of(outlines.take(proof.missing_outlines)),
        "extra_lines": lines_of(strokes.take(proof.extra_strokes)),
        "not_understood": [finding.message for finding in read_back.findings],
    }
