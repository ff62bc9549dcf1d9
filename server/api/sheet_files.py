"""Sheets of a revision: as they are shown, and as files with their proofs."""

from __future__ import annotations

from functools import partial

from hakobu import formats, pipeline
from hakobu.errors import BadRequest, NotThere
from hakobu.formats import WriteOptions, Written
from hakobu.handover import placing_page, print_page, with_bleed
from hakobu.machines import options_for
from hakobu.model import Document
from hakobu.model.sheet import Sheet
from hakobu.sheets.files import sheet_note
from hakobu.sheets.placed import as_cut
from jobs.conditions import machine_of, plan_of
from jobs.models import Revision
from jobs.results import picture_of
from jobs.store import load_document
from wire.sheets import sheets_of

from .handover import PAGES, file_name, printed_pictures


def shown(revision: Revision) -> list[dict]:
    return sheets_of(load_document(revision.document_id), partial(machine_of, revision.settings))


def written(revision: Revision, nth: int, format_id: str) -> Written:
    """The file of a sheet, by its number from 1."""
    document, sheet = _sheet(revision, nth)
    laid = as_cut(document, sheet)
    return pipeline.write(laid, format_id, options=options_of(revision, sheet, laid, format_id))


def options_of(revision: Revision, sheet: Sheet, laid: Document, format_id: str) -> WriteOptions:
    """How the file of a sheet is written: for its machine where that takes the format."""
    machine = machine_of(revision.settings, sheet)
    return options_for(machine, sheet_note(sheet), format_id, plan_of(revision.settings, laid, machine))


def proof(revision: Revision, nth: int, format_id: str) -> dict:
    document, sheet = _sheet(revision, nth)
    if not formats.by_id(format_id).read:
        raise BadRequest(
            f"{formats.by_id(format_id).name} is not read back, so it cannot be proven: take another format."
        )
    file = written(revision, nth, format_id)
    laid = as_cut(document, sheet)
    plan = options_of(revision, sheet, laid, format_id).plan
    name = file_name(revision.job, format_id)
    made = pipeline.prove(name, file.data, laid, plan if plan.machine else None).proof
    return {
        "holds": made.holds,
        "max_deviation_mm": made.max_deviation_mm,
        "missing": made.missing,
        "extra": made.extra,
    }


def placing(revision: Revision, nth: int, format_id: str) -> Written:
    """The page by which a sheet is laid on its carrier. Raises BadRequest for a format that has no pages."""
    if format_id not in PAGES:
        raise BadRequest(f'A page is written as one of {", ".join(PAGES)}, not as "{format_id}".')
    document, sheet = _sheet(revision, nth)
    page = placing_page(document, sheet, machine_of(revision.settings, sheet))
    return pipeline.write(page, format_id, options=WriteOptions(title=sheet_note(sheet)))


def printed(revision: Revision, nth: int, marks_only: bool) -> Written:
    """The print of a sheet as PDF, at true size; or its marks alone."""
    document, sheet = _sheet(revision, nth)
    names = dict(revision.job.sources.values_list("blob_id", "name"))
    document, bled = (document, {}) if marks_only else with_bleed(document, sheet, picture_of(names))
    page = print_page(document, sheet, machine_of(revision.settings, sheet), marks_only)
    options = WriteOptions(title=sheet_note(sheet), pictures={**printed_pictures(revision.job, page), **bled})
    return pipeline.write(page, "pdf", options=options)


def _sheet(revision: Revision, nth: int) -> tuple[Document, Sheet]:
    document = load_document(revision.document_id)
    if not 1 <= nth <= len(document.sheets):
        raise NotThere("This sheet is not there (any more); look at the list of sheets again.")
    return document, document.sheets[nth - 1]
