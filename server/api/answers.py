"""What is worked out of stored designs: in the request where that is little, else in a child with limits."""

from __future__ import annotations

from dataclasses import asdict
from pathlib import Path as File
from typing import Any

from hakobu import formats
from hakobu.errors import NotThere
from hakobu.formats import Written
from hakobu.geometry import Path
from hakobu.geometry.nesting import shapes_of
from hakobu.geometry.nodes import handles_of
from hakobu.model.measurements import Pick, reading_of
from jobs.asking import asked
from jobs.conditions import conditions_for
from jobs.cost import LONG
from jobs.models import Revision
from jobs.store import load_document
from wire.drawing import drawing_of, drawn_paths, sketch_of
from wire.polylines import packed

from . import handover, looking, presenters, sheet_files, working
from .mending import preview_of

#: More handles than these are not told apart by anybody.
MOST_HANDLES = 4000


def answer(request, name: str, seconds: float, *arguments: Any) -> Any:
    """What the function of ANSWERS gives; seconds: how long it takes, about."""
    if seconds <= LONG:
        return ANSWERS[name](*arguments)
    return asked(name, list(arguments), request.META.get("waitress.client_disconnected", lambda: False))


def _revision(pk: int) -> Revision:
    return Revision.objects.select_related("job").get(pk=pk)


def _mend(pk: int, key: str, choice: str) -> dict:
    revision = _revision(pk)
    finding = next((f for f, _ in presenters.all_findings(revision) if f.key == key), None)
    if finding is None:
        raise NotThere("This finding is no longer there; look at the list again.")
    return preview_of(load_document(revision.document_id), finding, conditions_for(revision), choice)


def _file(pk: int, format_id: str) -> bytes:
    revision = _revision(pk)
    return handover.written(revision.job, revision, format_id).data


def _assembly(pk: int, format_id: str) -> bytes:
    revision = _revision(pk)
    return handover.assembly(revision.job, revision, format_id).data


def _proof(pk: int, format_id: str) -> dict:
    revision = _revision(pk)
    file = handover.written(revision.job, revision, format_id)
    return handover.proof_out(revision, handover.file_name(revision.job, format_id), format_id, file)


def _proof_of_file(pk: int, name: str, path: str) -> dict:
    """path: of the file that lies there while it is asked about."""
    data = File(path).read_bytes()
    return handover.proof_out(_revision(pk), name, formats.recognise(name, data).id, Written(data), theirs=True)


def _paths(document: str, since: str) -> bytes:
    known = {piece.path.digest for piece in load_document(since).pieces} if since else set()
    return drawn_paths(load_document(document), known)


def _reading(document: str, picks: list[list]) -> dict:
    return asdict(reading_of(load_document(document), [Pick(*pick) for pick in picks]))


def _handles(document: str, pieces: list[str]) -> dict:
    found = load_document(document).by_id
    handles = handles_of(Path.concatenate(found[piece].path for piece in pieces if piece in found))
    return {"handles": packed(handles[:MOST_HANDLES], "<f4")}


def _apart(document: str) -> dict:
    paths = {piece.path.digest: piece.path for piece in load_document(document).pieces if len(piece.path) > 1}
    found = {digest: shapes_of(path) for digest, path in paths.items()}
    return {"paths": {digest: shapes for digest, shapes in found.items() if len(shapes) > 1}}


#: By name, what is asked and gives plain data or bytes; the first argument says what it is about.
ANSWERS = {
    "verdict": lambda revision: presenters.verdict_out(_revision(revision)),
    "mend": _mend,
    "file": _file,
    "assembly": _assembly,
    "proof": _proof,
    "proof of a file": _proof_of_file,
    "sheets": lambda revision: sheet_files.shown(_revision(revision)),
    "sheet file": lambda revision, *more: sheet_files.written(_revision(revision), *more).data,
    "sheet proof": lambda revision, *more: sheet_files.proof(_revision(revision), *more),
    "sheet print": lambda revision, *more: sheet_files.printed(_revision(revision), *more).data,
    "placing page": lambda revision, *more: sheet_files.placing(_revision(revision), *more).data,
    "drawing": lambda document: drawing_of(load_document(document)),
    "paths": _paths,
    "sketch": lambda document: sketch_of(load_document(document)),
    "reading": _reading,
    "handles": _handles,
    "apart": _apart,
    "program": lambda revision, *more: working.program(_revision(revision), *more),
    "program file": lambda revision, *more: working.written(_revision(revision), *more),
    "to send": lambda revision, *more: working.to_send(_revision(revision), *more),
    "archive": lambda revision: handover.archive(_revision(revision).job, _revision(revision)),
    "near": looking.near,
    "between": looking.between,
    "look": looking.look,
}
