"""outside: a line round what is not background, by transparency or colour, at a distance."""

from __future__ import annotations

import numpy as np

from ...errors import CannotDo
from ...geometry import Path, signed_areas
from ..colour.matting import distance, share_like
from ..options import FoundLayer, FoundPiece, TraceOptions, TraceResult, View, filled, without
from ..outlines import thresholding
from .colour import least_area

#: The colour that a line to be cut round a print is shown in.
LINE = "#c0392b"
#: Nobody cuts round a smaller bit unless it is asked for (common practice).
LEAST_MM2 = 1.0


def find(view: View, asked: TraceOptions) -> TraceResult:
    smallest = asked.smallest_mm2 if asked.smallest_mm2 is not None else max(least_area(view), LEAST_MM2)
    smooth = asked.smoothness_mm if asked.smoothness_mm is not None else thresholding.SMOOTH_PX * view.pixel_mm
    ground = _ground(view, asked)
    traced = thresholding.trace(ground, view.matrix, 0.5, smooth, smallest, view.own(asked.kept))
    pieces = []
    for region in traced.regions:
        path = filled(region.path, view, asked) if asked.holes else _outer(region.path)
        pieces.append(FoundPiece(view.key(region.seed), path, "outside"))
    if not asked.holes:
        pieces = _outermost(pieces)
    pieces = without(pieces, view, asked)
    if asked.distance_mm:
        pieces = _at_distance(pieces, asked.distance_mm, asked.holes)
    if not pieces:
        raise CannotDo("Nothing is left of the outline at this distance inwards: make it smaller.")
    by = "marks" if asked.inside else "its transparency" if view.has_clear_background else "its background"
    return TraceResult(
        (FoundLayer("outside", "Cut line", LINE),),
        tuple(pieces),
        traced.specks,
        traced.mean_mm,
        traced.max_mm,
        {"smoothness_mm": smooth, "smallest_mm2": smallest, "distance_mm": asked.distance_mm},
        f"Traced round the outside, by {by}",
        with_picture=True,
    )


def _ground(view: View, asked: TraceOptions) -> np.ndarray:
    """How much of each pixel is not the subject that is marked, or the background where none is."""
    if not asked.inside:
        return view.memoize(("ground", asked.tolerance), lambda: ground_of(view, asked.tolerance))
    from ..colour.foreground import subject_share

    marks = view.own(asked.inside), view.own(asked.beyond)
    return view.memoize(("subject", *marks), lambda: 1 - subject_share(view.over_white, *marks))


def ground_of(view: View, tolerance: float) -> np.ndarray:
    """How much of each pixel is background, (H, W) float32: by transparency, or by likeness to the colour of the rim.

    tolerance: how far a colour may be from the background's and still be it, 1 being from black to white.
    """
    if view.has_clear_background:
        return np.ascontiguousarray(1 - view.rgba[..., 3].astype(np.float32) / 255)
    rgb = view.colours
    colour = np.median(np.concatenate([rgb[0], rgb[-1], rgb[:, 0], rgb[:, -1]])[:, :3], axis=0)
    off, most = distance(rgb, colour)
    if most <= tolerance:
        raise CannotDo("All of this picture is like its rim: there is no outside to go round. Lower the tolerance.")
    return share_like(off, tolerance)


def _outermost(pieces: list[FoundPiece]) -> list[FoundPiece]:
    """Without those that lie in a hole of another, which is closed."""
    from ...geometry.nesting import parents_of

    if len(pieces) < 2:
        return pieces
    inner = parents_of(Path.concatenate(piece.path for piece in pieces)) >= 0
    of = np.repeat(np.arange(len(pieces)), [len(piece.path) for piece in pieces])
    gone = set(of[inner].tolist())
    return [piece for k, piece in enumerate(pieces) if k not in gone]


def _outer(path: Path) -> Path:
    return path.take(np.flatnonzero(signed_areas(path) > 0))


def _at_distance(pieces: list[FoundPiece], distance_mm: float, holes: bool) -> list[FoundPiece]:
    """Outlines moved out, or in; those that then overlap are one, without what they enclose unless holes are asked."""
    from ...geometry.boolean import union
    from ...geometry.offset import offset

    moved = [(piece, offset(piece.path, distance_mm=distance_mm).path) for piece in pieces]
    moved = [(piece, path) for piece, path in moved if len(path)]
    if len(moved) < 2:
        return [FoundPiece(piece.key, path, piece.layer) for piece, path in moved]
    from ...geometry.inner import inner_point
    from ...geometry.nesting import shapes_of
    from ...geometry.proximity.places import Places

    united = union(*(path for _, path in moved)).path
    if not holes:
        united = _outer(united)
    made, inner = [], np.array([inner_point(path) for _, path in moved])
    for shape in shapes_of(united):
        part = united.take(shape)
        # Of those that have become one, the largest gives its name.
        of = int(np.argmax(Places(part).contains(inner)))
        made.append(FoundPiece(moved[of][0].key, part, "outside"))
    return made
