"""Files that lie ready to be brought in: what an archive holds, until somebody has chosen from it."""

from __future__ import annotations

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from hakobu.errors import HakobuError, UnknownFormat
from hakobu.formats import recognise
from hakobu.formats.archive import is_archive
from hakobu.formats.limited import unpack

from .models import Blob, Source, Staged
from .store import keep_blob

#: So long what nobody chose lies ready.
KEPT = timedelta(days=1)


def stage(name: str, data: bytes) -> tuple[list[Staged], list[str]]:
    """The files in an archive, each with the id of its format or, where it cannot be read here, none; and what is to be
    said of it. Raises UnknownFormat for anything else, and what unpacking raises."""
    if not is_archive(data):
        raise UnknownFormat(f"{name} is not an archive: bring it in as it is.")
    entries, notes = unpack(name, data)
    with transaction.atomic():
        forget_old()
        staged = [
            Staged.objects.create(
                blob_id=keep_blob(entry.data), name=entry.name, folder=entry.folder, format=_format(entry)
            )
            for entry in entries
        ]
    return staged, notes


def _format(entry) -> str:
    try:
        format_ = recognise(entry.name, entry.data)
    except HakobuError:
        return ""
    return format_.id if format_.read else ""


def forget_old() -> None:
    """What nobody chose goes, with its bytes, unless they were brought in meanwhile."""
    old = Staged.objects.filter(created__lt=timezone.now() - KEPT)
    blobs = set(old.values_list("blob_id", flat=True))
    old.delete()
    for kept in (Staged.objects, Source.objects):
        blobs -= set(kept.filter(blob__in=blobs).values_list("blob_id", flat=True))
    Blob.objects.filter(pk__in=blobs).delete()
