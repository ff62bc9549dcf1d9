"""Documents as the browser draws them: polylines within a hundredth of a millimetre, packed as float32."""

from __future__ import annotations

import base64
from dataclasses import asdict

import numpy as np

from hakobu.geometry import DRAWING_MM, Path, flatten
from hakobu.geometry.nodes import nodes_of
from hakobu.model import Document
from hakobu.model.document import px_per_inch

#: A design that fills a screen shows no finer parts of its longer side.
PARTS_SEEN = 4000


def packed(array: np.ndarray, kind: str) -> str:
    return base64.b64encode(np.ascontiguousarray(array, dtype=kind).tobytes()).decode("ascii")


def lines_of(path: Path, tolerance_mm: float = DRAWING_MM) -> dict:
    """The chords of a path: x, y pairs, where each outline starts among them, and which are closed."""
    chords = flatten(path, tolerance_mm)
    return {
        "points": packed(chords.points, "<f4"),
        "start": chords.start.tolist(),
        "closed": chords.closed.tolist(),
    }


def paths_of(paths: dict[str, Path], within_mm: float = DRAWING_MM) -> dict[str, dict]:
    """The chords of each path with its nodes: x, y pairs, and whether each is a corner. All are worked out at once."""
    if not paths:
        return {}
    whole = Path.concatenate(paths.values())
    chords, nodes = flatten(whole, within_mm), nodes_of(whole)
    # Nodes come in two rows, those of segments and those of open ends; by outline they stand together.
    order = np.argsort(nodes.outline, kind="stable")
    points, corner = nodes.points[order], nodes.corner[order]
    first_node = np.searchsorted(nodes.outline[order], np.arange(len(whole) + 1))
    result, k = {}, 0
    for digest, path in paths.items():
        end = k + len(path)
        a, b = chords.start[k], chords.start[end]
        m, n = first_node[k], first_node[end]
        result[digest] = {
            "points": packed(chords.points[a:b], "<f4"),
            "start": (chords.start[k : end + 1] - a).tolist(),
            "closed": chords.closed[k:end].tolist(),
            "nodes": packed(points[m:n], "<f4"),
            "corners": packed(corner[m:n], "u1"),
        }
        k = end
    return result


def drawing_of(document: Document, known: set[str]) -> dict:
    """All that is drawn of a document; the paths that are known already are only named."""
    paths = {piece.path.digest: piece.path for piece in document.pieces}
    page = document.page
    return {
        "page": [page.width_mm, page.height_mm] if page else None,
        "frame": list(document.frame),
        "box": list(document.box) if document.box else None,
        "layers": [asdict(layer) for layer in document.layers],
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
        "paths": paths_of(
            {digest: path for digest, path in paths.items() if digest not in known and len(path)}, _within_mm(document)
        ),
    }


def _within_mm(document: Document) -> float:
    """How far chords may be from curves: what is small is looked at from near."""
    longest = max(document.size_mm)
    return min(DRAWING_MM, longest / PARTS_SEEN) if longest else DRAWING_MM


def pictures_of(document: Document) -> list[dict]:
    return [asdict(picture) | {"px_per_inch": px_per_inch(picture)} for picture in document.pictures]


def sketch_of(document: Document) -> dict:
    """A small picture for lists: the lines of all pieces in use, coarse, with their fills; or the pictures alone."""
    box = document.box
    if box is None and document.pictures:
        return {"box": [0.0, 0.0, *document.frame], "pieces": [], "pictures": pictures_of(document)}
    if box is None:
        return {"box": None, "pieces": [], "pictures": []}
    coarse = max(box[2] - box[0], box[3] - box[1]) / 1000
    pieces = [
        {"fill": piece.fill.color if piece.fill else None, "fill_rule": piece.fill_rule, **lines_of(piece.path, coarse)}
        for piece in document.pieces_in_use()[:400]
    ]
    return {"box": list(box), "pieces": pieces, "pictures": []}
