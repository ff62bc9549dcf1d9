"""Documents as bytes and back, without losing a bit.

Two shapes. For keeping: a small manifest (JSON) that names each path by its hash, and each path as a binary array, so
that a step stores and sends only what it changed. For exchange: one JSON text with everything in it; JSON floats are
written with as many digits as it takes to read the same float back. Both state their version.
"""

from __future__ import annotations

import json
import struct
from collections.abc import Callable, Mapping
from dataclasses import asdict
from typing import Any

import numpy as np

from ..errors import UnreadableFile
from ..geometry import Path
from .dimension import Dimension
from .document import Document, Group, Layer, OutlinePlace, Page, Picture, Piece, Treatment
from .paint import Fill, Stroke
from .sheet import sheet_from_json, sheet_to_json

VERSION = 1
_MAGIC = b"HKP1"


def path_to_bytes(path: Path) -> bytes:
    """Magic, counts of segments and outlines (little-endian uint32), then ctrl, bulge, start, kind and closed."""
    head = _MAGIC + struct.pack("<II", path.segment_count, len(path))
    arrays = (
        path.ctrl.astype("<f8"),
        path.bulge.astype("<f8"),
        path.start.astype("<u4"),
        path.kind.astype("u1"),
        path.closed.astype("u1"),
    )
    return head + b"".join(array.tobytes() for array in arrays)


def path_from_bytes(data: bytes) -> Path:
    """The path again. Raises UnreadableFile where the bytes are not a whole path."""
    try:
        if data[:4] != _MAGIC:
            raise ValueError("wrong magic")
        count, outlines = struct.unpack_from("<II", data, 4)
        at, parts = 12, []
        for kind, number in (
            ("<f8", count * 8),
            ("<f8", count),
            ("<u4", outlines + 1),
            ("u1", count),
            ("u1", outlines),
        ):
            parts.append(np.frombuffer(data, kind, number, at))
            at += parts[-1].nbytes
        if at != len(data):
            raise ValueError("wrong length")
        ctrl, bulge, start, kinds, closed = parts
        return Path(ctrl, kinds, bulge, start, closed)
    except (ValueError, struct.error) as error:
        raise UnreadableFile(f"A stored path is damaged ({error}); bring the source in again.") from error


def to_manifest(document: Document) -> tuple[dict[str, Any], dict[str, Path]]:
    """The manifest of a document, and its paths by their digests."""
    paths = {piece.path.digest: piece.path for piece in document.pieces}
    manifest = {
        "version": VERSION,
        "page": _page_to_json(document.page) if document.page else None,
        "layers": [asdict(layer) for layer in document.layers],
        "pieces": [_piece_to_json(piece) for piece in document.pieces],
        "groups": [asdict(group) for group in document.groups],
        "pictures": [asdict(picture) for picture in document.pictures],
        # What few documents have is left out of the others, whose hashes stay.
        **({"sized": list(document.sized)} if document.sized else {}),
        **({"dimensions": [asdict(each) for each in document.dimensions]} if document.dimensions else {}),
        **({"sheets": [sheet_to_json(each) for each in document.sheets]} if document.sheets else {}),
        **({"work_order": list(document.work_order)} if document.work_order else {}),
        **({"starts": list(document.starts)} if document.starts else {}),
        **({"tabs": list(document.tabs)} if document.tabs else {}),
    }
    # Through JSON once, so that what is returned equals what a store gives back (lists, plain strings).
    return json.loads(json.dumps(manifest)), paths


def from_manifest(manifest: Mapping[str, Any], path_of: Callable[[str], Path]) -> Document:
    """The document again; path_of gives a path by its digest."""
    if manifest.get("version") != VERSION:
        raise UnreadableFile(
            f"This document was kept by another version ({manifest.get('version')}) than the one that runs ({VERSION})."
        )
    page = manifest["page"]
    return Document(
        page=Page(**page) if page else None,
        layers=tuple(Layer(**{**x, "treatment": Treatment(x["treatment"])}) for x in manifest["layers"]),
        pieces=tuple(_piece_from_json(x, path_of) for x in manifest["pieces"]),
        groups=tuple(Group(x["id"], x["name"], tuple(x["members"])) for x in manifest["groups"]),
        pictures=tuple(
            Picture(x["id"], x["sha256"], tuple(x["size_px"]), tuple(x["matrix"]), x["layer"])
            for x in manifest["pictures"]
        ),
        sized=tuple(manifest["sized"]) if manifest.get("sized") else None,
        dimensions=tuple(map(_dimension_from_json, manifest.get("dimensions", ()))),
        sheets=tuple(map(sheet_from_json, manifest.get("sheets", ()))),
        work_order=tuple(manifest.get("work_order", ())),
        starts=tuple(OutlinePlace(*each) for each in manifest.get("starts", ())),
        tabs=tuple(OutlinePlace(*each) for each in manifest.get("tabs", ())),
    )


def to_json(document: Document) -> str:
    """The document as one JSON text for exchange."""
    manifest, paths = to_manifest(document)
    manifest["paths"] = {
        digest: {
            "ctrl": path.ctrl.reshape(-1, 8).tolist(),
            "kind": path.kind.tolist(),
            "bulge": path.bulge.tolist(),
            "start": path.start.tolist(),
            "closed": path.closed.tolist(),
        }
        for digest, path in paths.items()
    }
    return json.dumps(manifest, allow_nan=False)


def from_json(text: str) -> Document:
    """The document of such a text. Raises UnreadableFile where it is not one."""
    try:
        data = json.loads(text)
        paths = {digest: Path(**arrays) for digest, arrays in data["paths"].items()}
        return from_manifest(data, paths.__getitem__)
    except (ValueError, KeyError, TypeError) as error:
        raise UnreadableFile(f"This is no document of Hakobu's: {error}.") from error


def _dimension_from_json(data: Mapping[str, Any]) -> Dimension:
    return Dimension(**{**data, "places": tuple(map(tuple, data["places"])), "pieces": tuple(data["pieces"])})


def _page_to_json(page: Page) -> dict[str, Any]:
    size = {"width_mm": page.width_mm, "height_mm": page.height_mm}
    return size | {name: True for name in ("fixed", "roll") if getattr(page, name)}


def _piece_to_json(piece: Piece) -> dict[str, Any]:
    return {
        "id": piece.id,
        "path": piece.path.digest,
        "layer": piece.layer,
        "name": piece.name,
        "fill_rule": piece.fill_rule,
        "fill": asdict(piece.fill) if piece.fill else None,
        "stroke": asdict(piece.stroke) if piece.stroke else None,
        "opacity": piece.opacity,
    }


def _piece_from_json(data: Mapping[str, Any], path_of: Callable[[str], Path]) -> Piece:
    stroke = data["stroke"]
    return Piece(
        id=data["id"],
        path=path_of(data["path"]),
        layer=data["layer"],
        name=data["name"],
        fill_rule=data["fill_rule"],
        fill=Fill(**data["fill"]) if data["fill"] else None,
        stroke=Stroke(**{**stroke, "dashes": tuple(stroke["dashes"])}) if stroke else None,
        opacity=data["opacity"],
    )
