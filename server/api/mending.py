"""A mend before it is taken: the lines as they are, those that go, and those that stay."""

from __future__ import annotations

import numpy as np

from hakobu.checks.applier import apply_edit, edit_for
from hakobu.errors import CannotDo
from hakobu.geometry import Path, SegmentIndex, box_of, flatten
from hakobu.model import Conditions, Document, Edit, Finding
from hakobu.model.document import Box
from hakobu.model.pages import page_box
from hakobu.model.statistics import statistics_of
from wire.polylines import lines_of

#: A line that is farther than this from every line that stays goes.
OFF_MM = 0.02
#: How near the lines that are shown are to the curves.
FINE_MM = 0.002
#: Two lines are shown so near that their distance is about a tenth of the picture.
CLOSE_UP = 6.0


def preview_of(document: Document, finding: Finding, conditions: Conditions, choice: str = "") -> dict:
    """Raises CannotDo where the finding has no mend. colors: of lines that only go to another layer, before and
    after."""
    edit = edit_for(document, finding, conditions, choice) if finding.mendable else None
    if edit is None:
        raise CannotDo("This finding has no mend to show.")
    if edit.page:
        return _larger_page(document, edit)
    after = apply_edit(document, edit)
    touched = edit.touched | {piece for piece, _ in edit.needs}
    now = Path.concatenate(p.path for p in document.pieces_followed() if p.id in touched)
    then = Path.concatenate(p.path for p in after.pieces_followed() if p.id in touched)
    removed = [document.by_id[piece].path.outline(k) for (piece, k), path in edit.changes.items() if path is None]
    made_anew = bool(edit.added) or any(path is not None for path in edit.changes.values())
    goes = vanishing(now, then) if made_anew else Path.concatenate(removed)
    return {
        "view": _view(finding, now if made_anew or not len(goes) else goes),
        "colors": None if edit.changes else [_color(each, min(touched)) for each in (document, after)],
        "now": lines_of(now, FINE_MM),
        "goes": lines_of(goes, FINE_MM),
        "mended": lines_of(then, FINE_MM),
        "nodes_before": statistics_of(document).nodes,
        "nodes_after": statistics_of(after).nodes,
    }


def _larger_page(document: Document, edit: Edit) -> dict:
    """What lies beyond the page, with the page as it is and as it would be."""
    beyond = Path.concatenate(document.by_id[piece].path for piece in {piece for piece, _ in edit.needs})
    assert edit.page is not None, "only for an edit of the page"
    old, new = _rectangle(page_box(document)), _rectangle(edit.page)
    nodes = statistics_of(document).nodes
    left, top, right, bottom = edit.page
    margin = max(right - left, bottom - top) * 0.06
    return {
        "view": [left - margin, top - margin, right - left + 2 * margin, bottom - top + 2 * margin],
        "colors": None,
        "now": lines_of(Path.concatenate([beyond, old]), FINE_MM),
        "goes": lines_of(old, FINE_MM),
        "mended": lines_of(Path.concatenate([beyond, new]), FINE_MM),
        "nodes_before": nodes,
        "nodes_after": nodes,
    }


def _rectangle(box: Box) -> Path:
    left, top, right, bottom = box
    return Path.from_points(np.array([(left, top), (right, top), (right, bottom), (left, bottom)]), closed=True)


def _color(document: Document, piece: str) -> str:
    return document.layer_by_id[document.by_id[piece].layer].color


def vanishing(now: Path, then: Path) -> Path:
    """The stretches of lines that are on nothing afterwards, as chords."""
    if not len(then):
        return now
    left, top, right, bottom = box_of(now)
    step = max(right - left, bottom - top, 0.1) / 400
    chords = flatten(now, 0.005, longest_mm=step)
    away = SegmentIndex(flatten(then, 0.005), step).nearest(chords.points)[0] > OFF_MM
    runs = []
    for a, b in zip(chords.start[:-1], chords.start[1:], strict=True):
        gone = np.flatnonzero(away[a:b]) + a
        for run in np.split(gone, np.flatnonzero(np.diff(gone) > 1) + 1):
            if len(run) > 1:
                runs.append(Path.from_points(chords.points[run], closed=False))
    return Path.concatenate(runs)


def _view(finding: Finding, path: Path) -> list[float]:
    """Left, top, width and height of what shows the matter: the place close up where lines lie side by side."""
    apart = float(finding.measure.get("distance_mm", 0.0))
    left, top, right, bottom = box_of(path)
    if apart > 0.005 and finding.place:
        reach = min(max(apart * CLOSE_UP, 0.3), max(right - left, bottom - top, 0.3))
        return [finding.place[0] - reach, finding.place[1] - reach, 2 * reach, 2 * reach]
    margin = max(right - left, bottom - top, 1.0) * 0.12
    return [left - margin, top - margin, right - left + 2 * margin, bottom - top + 2 * margin]
