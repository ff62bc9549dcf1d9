"""Documents and blobs in the database: what did not change is not written again."""

from __future__ import annotations

import hashlib
import json
from collections import OrderedDict
from threading import Lock

from hakobu.geometry import Path
from hakobu.model import Document, codec

from .models import Blob, StoredDocument

EMPTY = Document()


def keep_blob(data: bytes) -> str:
    sha256 = hashlib.sha256(data).hexdigest()
    Blob.objects.bulk_create([Blob(sha256=sha256, data=data)], ignore_conflicts=True)
    return sha256


def keep_document(document: Document) -> str:
    """Stores a document with those of its paths that are not there yet; returns its hash."""
    manifest, paths = codec.to_manifest(document)
    digest = hashlib.sha256(json.dumps(manifest, sort_keys=True).encode()).hexdigest()
    if StoredDocument.objects.filter(pk=digest).exists():
        return digest
    there = set(Blob.objects.filter(pk__in=list(paths)).values_list("pk", flat=True))
    fresh = [Blob(sha256=key, data=codec.path_to_bytes(path)) for key, path in paths.items() if key not in there]
    Blob.objects.bulk_create(fresh, ignore_conflicts=True, batch_size=500)
    StoredDocument.objects.bulk_create([StoredDocument(hash=digest, manifest=manifest)], ignore_conflicts=True)
    return digest


#: Documents that are kept at hand, and how many segments they have in all.
MOST_KEPT, MOST_SEGMENTS = 32, 1_000_000
_KEPT: OrderedDict[str, tuple[Document, int]] = OrderedDict()
_LOCK = Lock()


def load_document(digest: str) -> Document:
    """A stored document; immutable, so the last few are kept at hand. Raises StoredDocument.DoesNotExist."""
    with _LOCK:
        if digest in _KEPT:
            _KEPT.move_to_end(digest)
            return _KEPT[digest][0]
    document = _loaded(digest)
    with _LOCK:
        _KEPT[digest] = document, sum(piece.path.segment_count for piece in document.pieces)
        while len(_KEPT) > MOST_KEPT or (len(_KEPT) > 1 and sum(n for _, n in _KEPT.values()) > MOST_SEGMENTS):
            _KEPT.popitem(last=False)
    return document


def forget_documents() -> None:
    """Nothing is at hand any more."""
    with _LOCK:
        _KEPT.clear()


def _loaded(digest: str) -> Document:
    manifest = StoredDocument.objects.get(pk=digest).manifest
    keys = {piece["path"] for piece in manifest["pieces"]}
    rows = Blob.objects.filter(pk__in=keys).values_list("pk", "data")
    paths: dict[str, Path] = {key: codec.path_from_bytes(bytes(data)) for key, data in rows}
    return codec.from_manifest(manifest, paths.__getitem__)
