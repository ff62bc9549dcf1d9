"""open-path: an outline to be cut that does not close.

Ends that lie within the tolerance of each other are joined, of one outline or of two of a layer; where a filled
outline stays open by more, it is found but not mended: nobody can know what belongs there.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..geometry import LINE, Path
from ..geometry.path import line_controls
from ..model import Document, Edit, Finding, Level, Treatment
from ..model.finding import finding_key
from ..model.units import as_mm
from .outline_table import OutlineTable, outline_table
from .rule import Rule, Tolerance

#: Ends this near to each other are one point that was rounded twice.
SAME_MM = 1e-3
#: A last line is made longer, instead of a new one being added, where the gap goes on within this many radians of it.
STRAIGHT_ON = 0.02


def find(document: Document, tolerance: Tolerance) -> Iterator[Finding]:
    """One finding for each gap within the tolerance, and for each filled outline that is open by more."""
    table = outline_table(document)
    cut = np.array([document.treatment_of(piece) is Treatment.CUT for piece in table.pieces], bool)
    loose = [int(k) for k in np.flatnonzero(cut & ~table.path.closed)] if len(cut) else []
    loose = [k for k in loose if _extent(table, k) > SAME_MM]
    if not loose:
        return
    paired: set[int] = set()
    for (a, end_a), (b, end_b), gap in _near_ends(table, loose, tolerance.mm):
        paired |= {a, b}
        yield _gap_finding(table, a, end_a, b, end_b, gap)
    for k in loose:
        if k not in paired and table.pieces[k].fill is not None:
            yield _open_finding(table, k)


def mend(document: Document, finding: Finding, tolerance: Tolerance) -> Edit | None:
    """Closes the gap: longer lines where they run on straight, a short line between the ends where not."""
    joins = [part.split(":") for part in finding.measure["ends"].split(" ")]
    (first, end_a), (second, end_b) = ((int(outline) - 1, end) for outline, end in joins)
    a, b = document.by_id.get(finding.pieces[0]), document.by_id.get(finding.pieces[-1])
    if a is None or b is None or first >= len(a.path) or second >= len(b.path):
        return None
    path_a, path_b = a.path.outline(first), b.path.outline(second)
    if path_a.closed[0] or path_b.closed[0]:
        return None
    if (a.id, first) == (b.id, second):
        return Edit(finding.key, {(a.id, first): closed_up(path_a)})
    path_a = path_a.reversed() if end_a == "start" else path_a
    path_b = path_b.reversed() if end_b == "end" else path_b
    return Edit(finding.key, {(a.id, first): joined(path_a, path_b), (b.id, second): None})


def closed_up(path: Path) -> Path:
    """An open outline with its end brought to its start."""
    ctrl, kind, bulge = _bridged(path, path.ctrl[0, 0])
    return Path(ctrl, kind, bulge, [0, len(ctrl)], [True])


def joined(first: Path, second: Path) -> Path:
    """Two open outlines as one, from the end of the first to the start of the second."""
    ctrl, kind, bulge = _bridged(first, second.ctrl[0, 0])
    return Path(
        np.concatenate([ctrl, second.ctrl]),
        np.concatenate([kind, second.kind]),
        np.concatenate([bulge, second.bulge]),
        [0, len(ctrl) + second.segment_count],
        [False],
    )


def _bridged(path: Path, goal: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The segments of an outline that go on to a point."""
    end = path.ctrl[-1, 3]
    step = goal - end
    gap = float(np.hypot(*step))
    ctrl = path.ctrl.copy()
    if gap <= SAME_MM or (path.kind[-1] == LINE and _runs_on(path.ctrl[-1, 3] - path.ctrl[-1, 0], step)):
        if path.kind[-1] == LINE:
            ctrl[-1] = line_controls(ctrl[-1:, 0], goal[None])[0]
        else:
            ctrl[-1, 2:] += step * np.array([[0.0], [1.0]])
        return ctrl, path.kind, path.bulge
    line = line_controls(end[None], goal[None])
    return np.concatenate([ctrl, line]), np.append(path.kind, LINE), np.append(path.bulge, 0.0)


def _runs_on(direction: np.ndarray, step: np.ndarray) -> bool:
    turn = np.arctan2(direction[0] * step[1] - direction[1] * step[0], direction @ step)
    return abs(float(turn)) < STRAIGHT_ON


def _extent(table: OutlineTable, k: int) -> float:
    a, b = table.path.start[k], table.path.start[k + 1]
    return float(np.ptp(table.path.ctrl[a:b].reshape(-1, 2), axis=0).max())


def _near_ends(table: OutlineTable, loose: list[int], reach: float):
    """Pairs of free ends of a layer within reach, the nearest first, each end in one pair only."""
    from scipy.spatial import cKDTree  # loaded only where something is open

    path = table.path
    points = np.array([(path.ctrl[path.start[k], 0], path.ctrl[path.start[k + 1] - 1, 3]) for k in loose]).reshape(
        -1, 2
    )
    ends = [(k, end) for k in loose for end in ("start", "end")]
    pairs = cKDTree(points).query_pairs(reach, output_type="ndarray")
    if not len(pairs):
        return
    gaps = np.hypot(*(points[pairs[:, 0]] - points[pairs[:, 1]]).T)
    used: set[int] = set()
    for at in np.lexsort((pairs[:, 1], pairs[:, 0], np.round(gaps, 6))).tolist():
        i, j = pairs[at].tolist()
        if i in used or j in used or table.group[ends[i][0]] != table.group[ends[j][0]]:
            continue
        used |= {i, j}
        yield ends[i], ends[j], float(gaps[at])


def _gap_finding(table: OutlineTable, a: int, end_a: str, b: int, end_b: str, gap: float) -> Finding:
    (piece_a, outline_a), (piece_b, outline_b) = table.refs[a], table.refs[b]
    place = _point(table, a, end_a)
    pieces = tuple(dict.fromkeys((piece_a, piece_b)))
    ends = f"{outline_a + 1}:{end_a} {outline_b + 1}:{end_b}"
    what = "This outline does" if a == b else "These two lines do"
    return Finding(
        RULE.id,
        finding_key(RULE.id, pieces, place, ends),
        RULE.level,
        f"{what} not close: a gap of {as_mm(gap)} stays uncut." if gap > SAME_MM else f"{what} not quite close.",
        pieces,
        place,
        {"gap_mm": round(gap, 4), "ends": ends},
        mendable=True,
        safe=True,
        title=RULE.title,
        effect=RULE.effect,
    )


def _open_finding(table: OutlineTable, k: int) -> Finding:
    identity, outline = table.refs[k]
    start, end = _point(table, k, "start"), _point(table, k, "end")
    gap = float(np.hypot(start[0] - end[0], start[1] - end[1]))
    return Finding(
        RULE.id,
        finding_key(RULE.id, [identity], end, str(outline)),
        RULE.level,
        f"This shape is painted closed, but its outline is open by {as_mm(gap)}.",
        (identity,),
        end,
        {"gap_mm": round(gap, 4), "ends": f"{outline + 1}:end {outline + 1}:start"},
        title=RULE.title,
        effect=RULE.effect,
    )


def _point(table: OutlineTable, k: int, end: str) -> tuple[float, float]:
    path = table.path
    at = path.ctrl[path.start[k], 0] if end == "start" else path.ctrl[path.start[k + 1] - 1, 3]
    return round(float(at[0]), 4), round(float(at[1]), 4)


RULE = Rule(
    id="open-path",
    level=Level.SPOILS,
    title="An outline does not close",
    effect="The part stays joined to the sheet there and tears when it is taken out.",
    find=find,
    mend=mend,
)
