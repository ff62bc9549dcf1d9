"""open-path: an outline to be cut that does not close.

Ends that lie within the tolerance of each other are joined, of one outline or of many of a layer, whatever their order
and direction; ends that overshoot where they cross are cut off there first. What nearly closes then is found as well,
and closed once somebody has looked. Where a filled outline stays open by more, it is found but not mended: nobody can
know what belongs there.
"""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..geometry import LINE, Path, bounds
from ..geometry.chaining import chain
from ..geometry.measure import signed_areas
from ..geometry.path import line_controls
from ..geometry.proximity.incidence import ends_near, ends_of
from ..model import Conditions, Document, Edit, Finding, Level, OutlineRef
from ..model.units import as_mm
from ..model.words import counted
from .duplicate_line import covered_by_others
from .rule import LINES, SEEN_SHARE, Rows, Rule
from .tables.outlines import OutlineTable, outline_table
from .tables.overhang import cut_back, overhangs

#: Ends this near to each other are one point that was rounded twice.
SAME_MM = 1e-3
#: Ends that are apart by no more than this share of a line's length nearly close; or by so many mm, where that is no
#: more than a tenth of it, which a stroke with open ends is not (common practice).
NEARLY_SHARE, NEARLY_MM, NEARLY_MM_SHARE = 0.05, 3.0, 0.1
#: A last line is made longer, instead of a new one being added, where the gap goes on within this many radians of it.
STRAIGHT_ON = 0.02


def find(document: Document, conditions: Conditions) -> Iterable[Finding]:
    """One finding for all outlines that are joined to each other, and for each filled one that is open by more."""
    table = outline_table(document)
    loose = np.flatnonzero(table.cut & ~table.path.closed & (table.across > SAME_MM))
    if not len(loose):
        return []
    gone = {match.doubled for match in table.doubled(conditions.tolerance_mm)}
    gone |= {match.doubled for match in covered_by_others(table, gone)}
    loose = np.array([k for k in loose.tolist() if k not in gone], np.int64)
    parts = _parts(table, loose, conditions.tolerance_mm)
    joined = {k for part in parts for k in part}
    alone = [k for k in loose.tolist() if k not in joined]
    nearly = nearly_closed(table, [*parts, *([k] for k in alone)], conditions.tolerance_mm)
    closing = {k for part, _ in nearly for k in part}
    rows = [("joined", part, 0.0) for part in parts]
    rows += [("nearly", part, gap) for part, gap in nearly]
    rows += [("open", [k], 0.0) for k in alone if table.filled[k] and k not in closing]

    def finding(row: tuple[str, list[int], float]) -> Finding | None:
        kind, part, gap = row
        if kind == "joined":
            return _joined_finding(table, part, conditions.tolerance_mm)
        return _nearly_finding(table, part, gap) if kind == "nearly" else _open_finding(table, part[0])

    return Rows(RULE, rows, finding)


def nearly_closed(table: OutlineTable, parts: list[list[int]], tolerance_mm: float) -> list[tuple[list[int], float]]:
    """The parts of which, all else joined, two ends are left that lie near each other for so long a line, and how far
    apart these are."""
    own = np.array(sorted(k for part in parts for k in part), np.int64)
    if not len(own):
        return []
    paired = np.zeros(2 * len(table.owner), bool)
    paired[_pairs(table, own, tolerance_mm).ravel()] = True
    paired[overhangs(table, tolerance_mm).ends.ravel()] = True
    ends, found = ends_of(table.path), []
    for part in parts:
        free = [end for k in part for end in (2 * k, 2 * k + 1) if not paired[end]]
        if len(free) != 2:
            continue
        gap = float(np.hypot(*(ends[free[0]] - ends[free[1]])))
        length = float(table.size[part].sum())
        if gap > tolerance_mm and gap <= max(length * NEARLY_SHARE, min(NEARLY_MM, length * NEARLY_MM_SHARE)):
            found.append((part, gap))
    return found


def _parts(table: OutlineTable, loose: np.ndarray, tolerance_mm: float) -> list[list[int]]:
    """Outlines that are joined to each other, the order in which equals stay."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components

    pairs = np.concatenate([_pairs(table, loose, tolerance_mm), overhangs(table, tolerance_mm).ends], axis=0)
    if not len(pairs):
        return []
    count = len(table.owner)
    links = coo_array((np.ones(len(pairs)), (pairs[:, 0] // 2, pairs[:, 1] // 2)), shape=(count, count))
    _, label = connected_components(links, directed=False)
    rows = np.unique(pairs // 2)
    order = rows[np.lexsort((table.rank[rows], label[rows]))]
    parts = np.split(order, np.flatnonzero(np.diff(label[order])) + 1)
    return sorted((part.tolist() for part in parts), key=lambda part: table.rank[part[0]])


def _pairs(table: OutlineTable, loose: np.ndarray, tolerance_mm: float) -> np.ndarray:
    """Pairs of ends of a layer that are to be joined, as rows of `ends_of` of all outlines. Where three or more lines
    meet in one point they are drawn so."""
    own = table.path.take(loose.tolist())
    near = ends_near(own, max(tolerance_mm, SAME_MM))
    near = near[table.group[loose[near[:, 0] // 2]] == table.group[loose[near[:, 1] // 2]]]
    ends = ends_of(own)
    same = np.hypot(*(ends[near[:, 0]] - ends[near[:, 1]]).T) <= SAME_MM
    meeting = np.bincount(near[same].ravel(), minlength=len(ends))
    near = near[~(meeting[near] > 1).any(axis=1)]
    # Both ends of one straight line are its length apart, not a gap.
    itself = near[:, 0] // 2 == near[:, 1] // 2
    short = itself & (table.size[loose[near[:, 0] // 2]] <= 4 * tolerance_mm)
    near = near[~short]
    return 2 * loose[near // 2] + near % 2


def _joined_path(table: OutlineTable, part: list[int], tolerance_mm: float):
    """The outlines of a part cut back where they overshoot, and chained."""
    cut = cut_back(table, part, overhangs(table, tolerance_mm))
    return chain(cut, max(tolerance_mm, SAME_MM))


def _joined_finding(table: OutlineTable, part: list[int], tolerance_mm: float) -> Finding | None:
    over = overhangs(table, tolerance_mm).of(part)
    made = _joined_path(table, part, tolerance_mm)
    joins = len(part) - len(made.path) + int(made.path.closed.sum())
    if not joins:
        return None
    gap = made.gap_mm
    place = _place(table, part, tolerance_mm, over)
    whole = len(part) > 2 and gap <= SAME_MM and not over
    # Ends in one place leave nothing uncut; only an outline in many parts is lifted at each.
    soft = gap <= SAME_MM and not over and (len(part) == 1 or not made.path.closed.all())
    return RULE.at(
        _message(len(part), gap, over, made.path),
        [table.piece_of(k).id for k in part],
        place,
        bounds(table.path.take(part)),
        detail=str(len(part)),
        level=Level.NOTE if soft else RULE.level,
        mendable=True,
        safe=_paints_alike(table, part, made.path if over else None),
        title="An outline in loose lines" if whole else "",
        measure={
            "gap_mm": round(gap, 4),
            "lines": len(part),
            "outlines": " ".join(f"{table.piece_of(k).id}#{table.ref(k)[1] + 1}" for k in part),
        },
    )


def _paints_alike(table: OutlineTable, part: list[int], cut: Path | None) -> bool:
    """Whether what is filled stays: each outline is painted closed by itself, so that joined to another one it paints
    something else. cut: what is left where ends are cut back, which may paint less."""
    if not table.filled[part].any():
        return True
    if len(part) > 1 or cut is None:
        return len(part) == 1
    area = float(table.area[part[0]])
    return abs(float(signed_areas(cut).sum()) - area) <= SEEN_SHARE * abs(area)


def _place(table: OutlineTable, part: list[int], tolerance_mm: float, over) -> tuple[float, float]:
    """Where the widest gap is, or an overshooting end."""
    if over:
        return tuple(over[0])
    own = np.array(part)
    pairs = _pairs(table, own, tolerance_mm)
    ends = ends_of(table.path)
    gap = np.hypot(*(ends[pairs[:, 0]] - ends[pairs[:, 1]]).T)
    # Of equally wide ones the first from the top left, so that the order of pieces does not matter.
    at = ends[pairs].reshape(-1, 2)
    best = np.lexsort((at[:, 0].round(4), at[:, 1].round(4), -np.repeat(gap, 2).round(4)))[0]
    return tuple(at[best])


def _message(lines: int, gap: float, over: list, made: Path) -> str:
    if lines == 1:
        what = "This outline does"
    elif lines == 2:
        what = "These two lines do"
    else:
        what = f"{lines} loose lines, which make up {counted(len(made), 'outline')}, do"
    if over:
        return f"{what} not meet: their ends run on beyond where they cross."
    return f"{what} not close: a gap of {as_mm(gap)} stays uncut." if gap > SAME_MM else f"{what} not quite close."


def mend(document: Document, finding: Finding, conditions: Conditions) -> Edit | None:
    """The ends are brought together; a single outline's last line is made longer where it runs on straight, and a short
    line goes between the ends where not."""
    table = outline_table(document)
    part = []
    for word in str(finding.measure.get("outlines", "")).split():
        piece, _, number = word.rpartition("#")
        row = table.row_of(piece, int(number) - 1)
        if row is None:
            return None
        part.append(row)
    if not part or table.path.closed[part].any():
        return None
    if finding.measure.get("closes"):
        return _closed(table, finding, part, conditions)
    if len(part) == 1 and not overhangs(table, conditions.tolerance_mm).of(part):
        return Edit(finding.key, {table.ref(part[0]): closed_up(table.path.outline(part[0]))})
    made = _joined_path(table, part, conditions.tolerance_mm)
    changes: dict[OutlineRef, Path | None] = {table.ref(k): None for k in part}
    for sources, outline in zip(made.sources, made.path.outlines(), strict=True):
        changes[table.ref(min((part[n] for n, _ in sources), key=lambda k: table.rank[k]))] = outline
    return Edit(finding.key, changes)


def _closed(table: OutlineTable, finding: Finding, part: list[int], conditions: Conditions) -> Edit:
    """The part joined, and its last two ends brought together."""
    made = _joined_path(table, part, conditions.tolerance_mm) if len(part) > 1 else None
    path = closed_up(made.path.outline(0) if made else table.path.outline(part[0]))
    first = min(part, key=lambda k: table.rank[k])
    return Edit(finding.key, {table.ref(k): path if k == first else None for k in part})


def closed_up(path: Path) -> Path:
    """An open outline with its end brought to its start."""
    ctrl, kind, bulge = _bridged(path, path.ctrl[0, 0])
    return Path(ctrl, kind, bulge, [0, len(ctrl)], [True])


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


def _nearly_finding(table: OutlineTable, part: list[int], gap: float) -> Finding:
    k = part[0]
    what = "This outline does" if len(part) == 1 else f"{len(part)} lines that make up one outline do"
    free = _widest(table, part)
    return RULE.at(
        f"{what} not close: {as_mm(round(gap, 2))} stay uncut.",
        [table.piece_of(n).id for n in part],
        free.mean(axis=0),
        (*free.min(axis=0), *free.max(axis=0)),
        detail=f"nearly {table.ref(k)[1]}",
        mendable=True,
        measure={
            "gap_mm": round(gap, 4),
            "lines": len(part),
            "closes": 1,
            "outlines": " ".join(f"{table.piece_of(n).id}#{table.ref(n)[1] + 1}" for n in part),
        },
    )


def _widest(table: OutlineTable, part: list[int]) -> np.ndarray:
    """The two ends of a part (2, 2) that lie farthest from all others of it."""
    rows = [end for k in part for end in (2 * k, 2 * k + 1)]
    ends = ends_of(table.path)[rows]
    away = np.hypot(*(ends[:, None] - ends[None]).transpose(2, 0, 1))
    np.fill_diagonal(away, np.inf)
    return ends[np.sort(np.argsort(-away.min(axis=1), kind="stable")[:2])]


def _open_finding(table: OutlineTable, k: int) -> Finding:
    start, end = ends_of(table.path)[2 * k : 2 * k + 2]
    gap = float(np.hypot(*(start - end)))
    return RULE.at(
        f"This shape is painted closed, but its outline is open by {as_mm(gap)}.",
        [table.piece_of(k).id],
        end,
        (*np.minimum(start, end), *np.maximum(start, end)),
        detail=str(table.ref(k)[1]),
        measure={"gap_mm": round(gap, 4)},
    )


RULE = Rule(
    id="open-path",
    about=LINES,
    level=Level.SPOILS,
    title="An outline does not close",
    effect="The part stays joined to the sheet there and tears when it is taken out.",
    find=find,
    mend=mend,
    version=3,
    thresholds=(
        "gaps within the tolerance, 0.25 mm where nothing else is said",
        "ends rounded twice: within 0.001 mm",
        "what nearly closes: by a twentieth of its length, or 3 mm where that is at most a tenth (common practice)",
    ),
)
