"""Clip paths as geometry: what a clipping leaves is what there is. Source: CSS Masking 1, section 5."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np

from ...geometry import Path, bounds, box_of, compose, scaling, transform, translation
from ...geometry.boolean import NotCombined, Operand, cut_lines, intersection, union
from ...model.notices import DAMAGED, NOT_UNDERSTOOD, TAKEN_PLAINLY
from ..outlines import paths_of
from .state import Clip, Drawn, State
from .style import INHERITED
from .values import Viewport
from .walk import Walk

#: A box this much larger than what it clips, in mm, clips nothing.
ROOM_MM = 1e-9


class Clipper:
    """Works out clippings once each and applies them."""

    def __init__(self, walk: Walk, drawn: Sequence[Drawn], paths: Sequence[Path | None], busy=()) -> None:
        self.walk, self.drawn, self.paths = walk, drawn, paths
        #: The clippings that are being worked out, by the numbers of their elements.
        self.busy: tuple[int, ...] = busy
        self._regions: dict[tuple, Path] = {}

    def clipped(self, drawn: Drawn, path: Path) -> tuple[Path, str]:
        """The path of a shape that its clippings leave, perhaps empty, and its fill rule."""
        rule = drawn.looks.fill_rule
        for clip in drawn.clips:
            try:
                path, rule = self._clipped_once(drawn, path, rule, self.region_of(clip))
            except (NotCombined, np.linalg.LinAlgError):
                what = "A clipping could not be worked out: lines outside it are still there"
                self.walk.say(NOT_UNDERSTOOD, what, drawn.line)
            if not len(path):
                break
        return path, rule

    def _clipped_once(self, drawn: Drawn, path: Path, rule: str, region: Path) -> tuple[Path, str]:
        if _holds(region, path):
            return path, rule
        if not _near(region, path):
            return Path.concatenate([]), rule
        if not drawn.looks.fill:
            return cut_lines(path, region).path, rule
        if drawn.looks.stroke:
            self.walk.say(TAKEN_PLAINLY, "The line of a clipped shape runs along the clipping too", drawn.line)
        return intersection(Operand(path, rule), region).path, "nonzero"

    def region_of(self, clip: Clip) -> Path:
        """What a clipping leaves free, in mm."""
        matrix = clip.matrix
        if clip.node.attributes.get("clipPathUnits") == "objectBoundingBox":
            matrix = compose(matrix, self._box_of(clip))
        key = (clip.node.number, id(clip.node) if not clip.node.number else 0, matrix.tobytes())
        if key not in self._regions:
            self._regions[key] = self._worked_out(clip, matrix)
        return self._regions[key]

    def _worked_out(self, clip: Clip, matrix: np.ndarray) -> Path:
        if clip.node.number in self.busy:
            self.walk.say(DAMAGED, "A clipping clips itself", clip.node.line)
            return Path.concatenate([])
        busy = (*self.busy, clip.node.number) if clip.node.number else self.busy
        inner = Walk(self.walk.options, self.walk.sheet, self.walk.by_id)
        inner.clipping = True
        state = inner.styled(clip.node, State(matrix, dict(INHERITED), Viewport(1.0, 1.0)), "")
        own, state = state.clips, replace(state, clips=())
        inner.children(clip.node, state)
        paths = paths_of(inner.drawn)
        clipper = Clipper(self.walk, inner.drawn, paths, busy)
        shapes = []
        for drawn, path in zip(inner.drawn, paths, strict=True):
            if path is not None and not drawn.hidden:
                area = replace(drawn, looks=replace(drawn.looks, stroke=None))
                cut, rule = clipper.clipped(area, path)
                shapes.append(Operand(cut, rule))
        region = union(*shapes).path if shapes else Path.concatenate([])
        for outer in own:
            if len(region):
                region = intersection(region, clipper.region_of(outer)).path
        for finding in inner.findings():
            self.walk.notices.append(finding)
        return region

    @cached_property
    def _under(self) -> dict[tuple[str, int], list[Path]]:
        """What each clipping is on, by the place of what it clips and its own number."""
        found: dict[tuple[str, int], list[Path]] = defaultdict(list)
        for drawn, path in zip(self.drawn, self.paths, strict=True):
            if path is not None:
                for clip in drawn.clips:
                    found[clip.anchor, clip.node.number].append(path)
        return found

    def _box_of(self, clip: Clip) -> np.ndarray:
        """From the unit square to the box of all that the clipping is on, in its own units."""
        back = np.linalg.inv(np.vstack([clip.matrix, (0, 0, 1)]))[:2]
        inside = [transform(path, back) for path in self._under.get((clip.anchor, clip.node.number), ())]
        left, top, right, bottom = bounds(Path.concatenate(inside)) or (0.0, 0.0, 0.0, 0.0)
        return compose(translation(left, top), scaling(max(right - left, 1e-12), max(bottom - top, 1e-12)))


def _holds(region: Path, path: Path) -> bool:
    """Whether a region is a level box that the whole path lies in: most clippings only frame the page."""
    if region.segment_count != 4 or not region.closed.all():
        return False
    step = np.abs(region.ctrl[:, 3] - region.ctrl[:, 0])
    if (region.kind != 0).any() or not (step.min(axis=1) < ROOM_MM).all():
        return False
    (left, top, right, bottom), (x0, y0, x1, y1) = box_of(region), box_of(path)
    return left - ROOM_MM <= x0 and top - ROOM_MM <= y0 and x1 <= right + ROOM_MM and y1 <= bottom + ROOM_MM


def _near(region: Path, path: Path) -> bool:
    one, other = bounds(region), bounds(path)
    if one is None or other is None:
        return False
    return one[0] <= other[2] and other[0] <= one[2] and one[1] <= other[3] and other[1] <= one[3]
