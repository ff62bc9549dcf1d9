"""Documents as the browser draws them: polylines within a hundredth of a millimetre, packed as float32."""

from __future__ import annotations

import json
import struct
from dataclasses import asdict

import numpy as np

from hakobu.geometry import DRAWING_MM, Path, flatten
from hakobu.geometry.nodes import nodes_of
from hakobu.model import Document
from hakobu.model.document import px_per_inch
from hakobu.model.features import drawn_dimensions
from hakobu.model.targets import Target, clearance_of, rim_of
from hakobu.toolpaths import layers_in_order
from wire.polylines import lines_of

#: A design that fills a screen shows no finer parts of its longer side.
PARTS_SEEN = 4000

#: Designs of no more segments than this are drawn as finely as anybody can zoom in: to a pixel at four hundred to a mm.
FEW_SEGMENTS, FINE_MM = 20_000, 0.002

#: Of more pieces than this a small picture has only every second, third and so on.
MOST_SKETCHED = 1500


def paths_of(paths: dict[str, Path], within_mm: float = DRAWING_MM) -> bytes:
    """The chords of paths with their nodes, all worked out at once and packed.

    The length of a JSON head (little-endian uint32); the head: for each path its hash and how many points, outlines and
    nodes it has, and spaces up to a multiple of four; then of all paths, one after the other: x, y pairs of the points
    (float32), how many points each outline has (uint32), x, y pairs of the nodes (float32), which outlines are closed
    and which nodes are corners (bytes).
    """
    whole = Path.concatenate(paths.values())
    chords, nodes = flatten(whole, within_mm), nodes_of(whole)
    # Nodes come in two rows, those of segments and those of open ends; by outline they stand together.
    order = np.argsort(nodes.outline, kind="stable")
    ends = np.concatenate([[0], np.cumsum([len(path) for path in paths.values()])]).astype(np.int64)
    points = np.diff(chords.start[ends])
    each = np.diff(np.searchsorted(nodes.outline[order], ends))
    table = zip(paths, points.tolist(), np.diff(ends).tolist(), each.tolist(), strict=True)
    head = json.dumps([list(row) for row in table]).encode()
    head += b" " * (-len(head) % 4)
    arrays = (
        (chords.points, "<f4"),
        (np.diff(chords.start), "<u4"),
        (nodes.points[order], "<f4"),
        (chords.closed, "u1"),
        (nodes.corner[order], "u1"),
    )
    packed = (np.ascontiguousarray(array, dtype=kind).tobytes() for array, kind in arrays)
    return b"".join((struct.pack("<I", len(head)), head, *packed))


def drawn_paths(document: Document, known: set[str]) -> bytes:
    """The paths of a document, packed, without those that are known already."""
    paths = {piece.path.digest: piece.path for piece in document.pieces}
    fresh = {digest: path for digest, path in paths.items() if digest not in known and len(path)}
    return paths_of(fresh, within_mm(document))


def drawing_of(document: Document) -> dict:
    """All that is drawn of a document; its paths are only named."""
    page = document.page
    return {
        "page": [page.width_mm, page.height_mm] if page else None,
        "frame": list(document.frame),
        "box": list(document.box) if document.box else None,
        "layers": [asdict(layer) for layer in document.layers],
        "making": [layer.id for layer in layers_in_order(document)],
        "pieces": [
            {
                "id": piece.id,
                "name": piece.name,
                "path": piece.path.digest,
                "layer": piece.layer,
                "fill_rule": piece.fill_rule,
                "fill": piece.fill.color if piece.fill else None,
                "fill_opacity": piece.fill.opacity if piece.fill else 0.0,
                "stroke": asdict(piece.stroke) if piece.stroke else None,
                "opacity": piece.opacity,
            }
            for piece in document.pieces
        ],
        "pictures": pictures_of(document),
        "dimensions": [asdict(each) for each in drawn_dimensions(document)],
    }


def under(document: Document, target: Target, off: tuple[float, float]) -> dict | None:
    """A target under a design, with the clearance to its rim; nothing of a design without lines."""
    rim, found = rim_of(document, target, off), clearance_of(document, target, off)
    if rim is None or found is None:
        return None
    chords = flatten(rim, DRAWING_MM)
    return {
        "name": target.name,
        "size_mm": [target.width_mm, target.height_mm],
        "lines": [chords.points[a:b].ravel().tolist() for a, b in zip(chords.start, chords.start[1:], strict=False)],
        "clearance_mm": found.mm,
        "ends": found.ends.tolist(),
    }


def within_mm(document: Document) -> float:
    """How far chords may be from curves: what is small, and what has few curves, is looked at from near."""
    longest = max(document.size_mm)
    coarse = min(DRAWING_MM, longest / PARTS_SEEN) if longest else DRAWING_MM
    few = sum(piece.path.segment_count for piece in document.pieces) <= FEW_SEGMENTS
    return min(coarse, FINE_MM) if few else coarse


def pictures_of(document: Document) -> list[dict]:
    return [asdict(picture) | {"px_per_inch": px_per_inch(picture)} for picture in document.pictures]


def sketch_of(document: Document) -> dict:
    """A small picture for lists: the lines of all pieces in use, coarse, with their fills; or the pictures alone."""
    box = document.box
    if box is None and document.pictures:
        return {"box": [0.0, 0.0, *document.frame], "pieces": [], "pictures": pictures_of(document)}
    if box is None:
        return {"box": None, "pieces": [], "pictures": []}
    used = document.pieces_in_use()
    coarse = max(box[2] - box[0], box[3] - box[1]) / 1000
    pieces = [
        {"fill": piece.fill.color if piece.fill else None, "fill_rule": piece.fill_rule, **lines_of(piece.path, coarse)}
        for piece in used[:: -(-len(used) // MOST_SKETCHED) or 1]
    ]
    return {"box": list(box), "pieces": pieces, "pictures": []}
