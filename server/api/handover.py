"""Files out, and their proof: drawn and measured from the bytes of the file itself."""

from __future__ import annotations

import re
from dataclasses import asdict, replace

from django.http import HttpResponse
from django.utils.http import content_disposition_header  # pyright: ignore[reportAttributeAccessIssue]

from hakobu import formats, pipeline
from hakobu.errors import BadRequest, CannotDo
from hakobu.formats import PRINTED, WriteOptions, Written
from hakobu.formats.limited import printed_picture
from hakobu.handover import assembly_page
from hakobu.machines import options_for
from hakobu.machines.proof import followed_path
from hakobu.model import Document
from hakobu.model.piece_list import piece_list
from jobs.conditions import conditions_for
from jobs.models import Job, Revision, Source
from jobs.store import load_document
from wire.polylines import lines_of

#: What assembly pages are written as.
PAGES = ("pdf", "svg")
#: Pieces of a file that are listed one by one.
MOST_LISTED = 200


def file_name(job: Job, format_id: str, what: str = "") -> str:
    stem = re.sub(r"[^\w-]+", "-", job.name).strip("-").lower() or "design"
    return f"{stem[:60]}{f'-{what}' if what else ''}{formats.by_id(format_id).suffixes[0]}"


def attachment(name: str) -> str:
    """The header under which a file of any name is saved, never opened in the page's place (RFC 6266, RFC 8187)."""
    return content_disposition_header(True, name)


def sent(data: bytes, name: str, format_id: str) -> HttpResponse:
    """A file that is saved under a name, never opened in the page's own place, whatever it holds."""
    headers = {"Content-Disposition": attachment(name), "Content-Security-Policy": "sandbox"}
    return HttpResponse(data, content_type=formats.by_id(format_id).media_type, headers=headers)


def written(job: Job, revision: Revision, format_id: str) -> Written:
    document = load_document(revision.document_id)
    if not document.pieces_followed():
        raise CannotDo("There is nothing to cut, score or draw in this design yet; bring in a file first.")
    options = options_for(conditions_for(revision).machine, job.name, format_id)
    if format_id in PRINTED:
        options = replace(options, pictures=printed_pictures(job, document))
    return pipeline.write(document, format_id, options=options)


def assembly(job: Job, revision: Revision, format_id: str) -> Written:
    """The assembly page as a file. Raises BadRequest for a format that pages are not written in."""
    if format_id not in PAGES:
        raise BadRequest(f'A page is written as one of {", ".join(PAGES)}, not as "{format_id}".')
    page = assembly_page(load_document(revision.document_id), job.name)
    return pipeline.write(page, format_id, options=WriteOptions(title=job.name))


def printed_pictures(job: Job, document: Document) -> dict[str, bytes]:
    """The pixels of the pictures that are printed, written anew."""
    hashes = {picture.sha256 for picture in document.pictures_in_use()}
    rows = Source.objects.filter(job=job, blob__in=hashes).select_related("blob")
    return {row.blob_id: printed_picture(row.name, bytes(row.blob.data)) for row in rows}


def proof_out(revision: Revision, name: str, format_id: str, file: Written) -> dict:
    design = load_document(revision.document_id)
    proof, read_back = pipeline.prove(name, file.data, design)
    strokes, outlines = followed_path(read_back.document), followed_path(design)
    return {
        **proof.as_json(),
        "piece_count": len(read_back.document.pieces_in_use()),
        "pieces": [asdict(line) for line in piece_list(read_back.document, MOST_LISTED)],
        "file": {"format": format_id, "name": name, "bytes": len(file.data), "notes": list(file.notes)},
        "strokes": lines_of(strokes, 0.002),
        "missing_lines": lines_of(outlines.take(proof.missing_outlines)),
        "extra_lines": lines_of(strokes.take(proof.extra_strokes)),
        "not_understood": [finding.message for finding in read_back.findings],
    }
