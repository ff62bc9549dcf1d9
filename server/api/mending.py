"""A mend before it is taken: the lines as they are, those that go, and those that stay."""

from __future__ import annotations

from hakobu.checks import Tolerance
from hakobu.checks.applier import apply_edit, edit_for
from hakobu.geometry import Path, bounds
from hakobu.model import Document, Finding
from hakobu.model.errors import CannotDo
from hakobu.model.figures import figures_of

from .drawing import lines_of

#: Two lines are shown so near that their distance is about a tenth of the picture.
CLOSE_UP = 6.0


def preview_of(document: Document, finding: Finding, tolerance: Tolerance = Tolerance()) -> dict:
    """Raises CannotDo where the finding has no mend."""
    edit = edit_for(document, finding, tolerance) if finding.mendable else None
    if edit is None:
        raise CannotDo("This finding has no mend to show.")
    after = apply_edit(document, edit)
    goes = [document.by_id[piece].path.outline(k) for (piece, k), path in edit.changes.items() if path is None]
    touched = {piece for piece, _ in (*edit.changes, *edit.needs)}
    now = Path.concatenate(p.path for p in document.pieces_followed() if p.id in touched)
    then = Path.concatenate(p.path for p in after.pieces_followed() if p.id in touched)
    fine = 0.002
    return {
        "view": _view(finding, Path.concatenate(goes) if goes else now),
        "now": lines_of(now, fine),
        "goes": lines_of(Path.concatenate(goes), fine),
        "mended": lines_of(then, fine),
        "nodes_before": figures_of(document).nodes,
        "nodes_after": figures_of(after).nodes,
    }


def _view(finding: Finding, path: Path) -> list[float]:
    """Left, top, width and height of what shows the matter: the place close up where lines lie side by side."""
    apart = float(finding.measure.get("distance_mm", 0.0))
    left, top, right, bottom = bounds(path)
    if apart > 0.005 and finding.place:
        reach = min(max(apart * CLOSE_UP, 0.3), max(right - left, bottom - top, 0.3))
        return [finding.place[0] - reach, finding.place[1] - reach, 2 * reach, 2 * reach]
    margin = max(right - left, bottom - top, 1.0) * 0.12
    return [left - margin, top - margin, right - left + 2 * margin, bottom - top + 2 * margin]
