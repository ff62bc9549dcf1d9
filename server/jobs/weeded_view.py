"""What weeding leaves of a stored document, worked out once and kept."""

from __future__ import annotations

import hashlib
import json

from hakobu import pipeline
from hakobu.geometry import Path
from hakobu.machines import options_for
from hakobu.model import Machine
from library.lists import lists_at
from wire.polylines import lines_of

from .models import Blob, Result
from .store import keep_blob, load_document

#: A new version works it out anew.
VERSION = 2
#: Where no machine is chosen.
ANY = "any"
#: Files are then written in this format: the one that files for any machine can be made from.
USUAL_FORMAT = "svg"
#: The fineness of the lines of machine files, as they are drawn, in mm.
FINE_MM = 0.002
#: Measured on two cores of 2.5 GHz, generously.
SECONDS_PER_SEGMENT = 1e-4


def cost(document: str, machine: str, lists: int) -> float:
    """Seconds that it takes; none where it is known. Raises BadRequest for a machine that is not."""
    if Result.objects.filter(key=_key(document, _machine(machine, lists))).exists():
        return 0.0
    return sum(p.path.segment_count for p in load_document(document).pieces) * SECONDS_PER_SEGMENT


def weeded(document: str, machine: str, lists: int = 0) -> bytes:
    """What remains of each cut layer, as JSON: see WeededOut in the API. lists: the number of those that have the
    machine."""
    made = _machine(machine, lists)
    known = Result.objects.filter(key=_key(document, made)).first()
    if known:
        return bytes(Blob.objects.get(pk=known.note).data)
    format_id = made.format if made else USUAL_FORMAT
    layers = pipeline.weed(load_document(document), format_id, options_for(made) if made else None)
    data = json.dumps({"format": format_id, "layers": [_layer_out(layer) for layer in layers]}).encode()
    values = {"document_id": document, "note": keep_blob(data)}
    Result.objects.get_or_create(key=_key(document, made), defaults=values)
    return data


def _machine(machine: str, lists: int) -> Machine | None:
    return None if machine == ANY else lists_at(lists).machine(machine)


def _key(document: str, machine: Machine | None) -> str:
    """The same machine with other values writes other files."""
    said = hashlib.sha256(repr(machine).encode()).hexdigest()[:12] if machine else ANY
    return f"weeded {VERSION} {said} {document}"


def _layer_out(made: pipeline.WeededLayer) -> dict:
    remaining = made.weeded.remaining
    return {
        "layer": made.layer.id,
        "color": made.layer.color,
        "pieces": len(remaining),
        "area_mm2": made.weeded.area_mm2,
        "waste": made.weeded.waste,
        "open_lines": made.weeded.open_lines,
        "loose": sum(face.loose for face in remaining),
        "staying": lines_of(Path.concatenate(face.path for face in remaining if not face.loose)),
        "lifted": lines_of(Path.concatenate(face.path for face in remaining if face.loose)),
        "strokes": lines_of(made.strokes, FINE_MM),
    }
