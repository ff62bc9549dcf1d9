"""Files out, and their proof: drawn and measured from the bytes of the file itself."""

from __future__ import annotations

import re
from dataclasses import asdict, replace
from functools import partial

from django.http import HttpResponse
from django.utils.http import content_disposition_header  # pyright: ignore[reportAttributeAccessIssue]

from hakobu import formats, pipeline
from hakobu.bundle import bundle, works_of
from hakobu.errors import BadRequest, CannotDo
from hakobu.formats import PRINTED, WriteOptions, Written
from hakobu.formats.limited import printed_picture
from hakobu.handover import assembly_page
from hakobu.machines import options_for
from hakobu.machines.compensation import compensation_of
from hakobu.machines.proof import followed_path
from hakobu.model import Document, Machine
from hakobu.model.piece_list import piece_list
from hakobu.model.sheet import Sheet
from jobs.conditions import conditions_for, machine_of, plan_of
from jobs.models import Job, Revision, Source
from jobs.store import load_document
from library.lists import lists_at
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
    options = _options(revision, document, format_id, job.name)
    if format_id in PRINTED:
        options = replace(options, pictures=printed_pictures(job, document))
    return pipeline.write(document, format_id, options=options)


def assembly(job: Job, revision: Revision, format_id: str) -> Written:
    """The assembly page as a file. Raises BadRequest for a format that pages are not written in."""
    if format_id not in PAGES:
        raise BadRequest(f'A page is written as one of {", ".join(PAGES)}, not as "{format_id}".')
    page = assembly_page(load_document(revision.document_id), job.name)
    return pipeline.write(page, format_id, options=WriteOptions(title=job.name))


def archive(job: Job, revision: Revision) -> bytes:
    """All that is handed over of a revision, in one archive."""
    document, settings = load_document(revision.document_id), revision.settings
    usual = conditions_for(revision)

    def machine_for(sheet: Sheet | None) -> Machine | None:
        return machine_of(settings, sheet) if sheet else usual.machine

    def material_for(sheet: Sheet | None) -> str:
        named = sheet.material if sheet and sheet.material else settings.get("material")
        return lists_at(settings.get("lists")).material(named).name if named else ""

    works = works_of(document, machine_for, partial(plan_of, settings), material_for)
    return bundle(job.name, document, works)


def printed_pictures(job: Job, document: Document) -> dict[str, bytes]:
    """The pixels of the pictures that are printed, written anew."""
    hashes = {picture.sha256 for picture in document.pictures_in_use()}
    rows = Source.objects.filter(job=job, blob__in=hashes).select_related("blob")
    return {row.blob_id: printed_picture(row.name, bytes(row.blob.data)) for row in rows}


def _options(revision: Revision, document: Document, format_id: str, title: str = "") -> WriteOptions:
    """How a file is written: for the job's machine where it takes that format, as its material is set for it."""
    machine = conditions_for(revision).machine
    return options_for(machine, title, format_id, plan_of(revision.settings, document, machine))


def proof_out(revision: Revision, name: str, format_id: str, file: Written, theirs: bool = False) -> dict:
    """theirs: a file that somebody has: it may hold the design as its machine works it, or as it is."""
    design = load_document(revision.document_id)
    plan = _options(revision, design, format_id).plan
    proven = pipeline.prove(name, file.data, design, plan if plan.machine else None)
    if theirs and plan.machine and not proven.proof.holds:
        plain = pipeline.prove(name, file.data, design)
        proven = plain if plain.proof.holds else proven
    proof, read_back = proven.proof, proven.read
    strokes, outlines = followed_path(read_back.document), proven.expected
    back = compensation_of(proven.made, design) if proven.made else None
    return {
        "compensation": back.as_json() if back else None,
        "findings": [finding.message for finding in proven.made.findings] if proven.made else [],
        **proof.as_json(),
        "piece_count": len(read_back.document.pieces_in_use()),
        "pieces": [asdict(line) for line in piece_list(read_back.document, MOST_LISTED)],
        "file": {"format": format_id, "name": name, "bytes": len(file.data), "notes": list(file.notes)},
        "strokes": lines_of(strokes, 0.002),
        "missing_lines": lines_of(outlines.take(proof.missing_outlines)),
        "extra_lines": lines_of(strokes.take(proof.extra_strokes)),
        "not_understood": [finding.message for finding in read_back.findings],
    }
