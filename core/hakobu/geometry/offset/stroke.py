"""The outline of a stroke, as SVG paints it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..boolean.combining import span_path
from ..flatten import points_at
from ..measure import segment_lengths
from ..path import Path
from .offsetting import MITRE_LIMIT, WITHIN_MM, Offset, around

#: Dashes of one path, at most: more is a mistake, and would not be seen.
MOST_DASHES = 100_000


def stroke_outline(
    path: Path,
    width_mm: float,
    join: str = "mitre",
    ends: str = "flat",
    mitre_limit: float = MITRE_LIMIT,
    dashes_mm: Sequence[float] = (),
    dash_offset_mm: float = 0.0,
    within_mm: float = WITHIN_MM,
) -> Offset:
    """The shape that a stroke of a width covers, with joins, ends and dashes as in SVG 2, "Strokes" (whose words for
    ends are butt, square and round). Source and outline are those of the path. Raises ValueError where a number makes
    no sense or there would be more than 100,000 dashes."""
    lines, segment = path, None
    if len(dashes_mm):
        lines, segment = dashed(path, dashes_mm, dash_offset_mm)
    made = around(lines, width_mm / 2, join, ends, mitre_limit, within_mm)
    if segment is None:
        return made
    source = segment[made.source]
    return Offset(made.path, source, path.outline_of[source], made.off_mm)


def dashed(path: Path, dashes_mm: Sequence[float], dash_offset_mm: float = 0.0) -> tuple[Path, np.ndarray]:
    """The dashes of a path as open lines, and of each segment the one of the path that it is a span of (M,).

    The pattern begins anew with each outline; an odd number of lengths is taken twice, as in SVG. A closed outline
    whose dash goes on over its start has one dash there."""
    pattern = np.array(dashes_mm, np.float64)
    if not np.isfinite(pattern).all() or (pattern < 0).any() or not np.isfinite(dash_offset_mm):
        raise ValueError("dashes are lengths of 0 mm or more")
    if len(pattern) % 2:
        pattern = np.concatenate([pattern, pattern])
    period = float(pattern.sum())
    if period <= 0:
        return path, np.arange(path.segment_count)
    long = segment_lengths(path)
    if long.sum() / period * len(pattern) / 2 > MOST_DASHES:
        raise ValueError(f"there would be more than {MOST_DASHES:,} dashes: the lengths are too short for these lines")
    segments, spans, starts = [], [], [0]
    for k in range(len(path)):
        first, last = int(path.start[k]), int(path.start[k + 1])
        until = np.concatenate([[0.0], np.cumsum(long[first:last])])
        for low, high in _runs(pattern, dash_offset_mm % period, float(until[-1]), bool(path.closed[k])):
            rows, span = _spans(path, first, until, low, high)
            segments.append(rows)
            spans.append(span)
            starts.append(starts[-1] + len(rows))
    if not segments:
        return Path.concatenate([]), np.zeros(0, np.int64)
    segment, span = np.concatenate(segments), np.concatenate(spans)
    ends = np.stack([points_at(path, segment, span[:, 0]), points_at(path, segment, span[:, 1])], axis=1)
    inner = np.ones(len(segment), bool)
    inner[starts[:-1]] = False
    # Segments of one dash meet to the bit.
    ends[inner, 0] = ends[np.flatnonzero(inner) - 1, 1]
    start = np.array(starts)
    return span_path(path, segment, span, ends, start, np.zeros(len(start) - 1, bool)), segment


def _runs(pattern: np.ndarray, shift: float, whole: float, closed: bool) -> list[tuple[float, float]]:
    """Where dashes begin and end along a line; one that goes on over a closed line's start ends beyond its length."""
    period = pattern.sum()
    edges = np.concatenate([[0.0], np.cumsum(pattern)])
    count = int(np.ceil((whole + shift) / period))
    begins = (np.arange(count)[:, None] * period + edges[:-1:2] - shift).reshape(-1)
    ends = (np.arange(count)[:, None] * period + edges[1::2] - shift).reshape(-1)
    seen = (ends >= 0) & (begins < whole) & ((ends > 0) | (begins == ends))
    low, high = np.maximum(begins[seen], 0.0), np.minimum(ends[seen], whole)
    runs = list(zip(low.tolist(), high.tolist(), strict=True))
    if closed and len(runs) > 1 and runs[0][0] == 0.0 and runs[-1][1] == whole:
        runs[0] = (runs.pop()[0], whole + runs[0][1])
    return runs


def _spans(path: Path, first: int, until: np.ndarray, low: float, high: float) -> tuple[np.ndarray, np.ndarray]:
    """The segments and spans between two lengths along an outline, round its start where the second is beyond it."""
    whole = float(until[-1])
    if high > whole:
        before, after = _spans(path, first, until, low, whole), _spans(path, first, until, 0.0, high - whole)
        return np.concatenate([before[0], after[0]]), np.concatenate([before[1], after[1]])
    a = int(np.clip(np.searchsorted(until, low, side="right") - 1, 0, len(until) - 2))
    b = int(np.clip(np.searchsorted(until, high, side="left") - 1, a, len(until) - 2))
    rows = np.arange(a, b + 1)
    span = np.tile([0.0, 1.0], (len(rows), 1))
    span[0, 0] = _parameter(path, first + a, low - until[a])
    span[-1, 1] = _parameter(path, first + b, high - until[b])
    return first + rows, span


def _parameter(path: Path, segment: int, ahead: float) -> float:
    """The parameter so far along a segment."""
    from ..kernels.arc_length import parameters_at
    from ..proximity.chord_grid import curve_table

    one = Path(path.ctrl[segment : segment + 1], path.kind[[segment]], path.bulge[[segment]], [0, 1], [False])
    kinds, geometry = curve_table(one)
    return float(parameters_at(np.zeros(1, np.int64), np.array([max(ahead, 0.0)]), kinds, geometry)[0])
