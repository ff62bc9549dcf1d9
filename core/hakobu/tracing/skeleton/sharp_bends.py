"""Bends so sharp that both their sides run into one: thinning leaves a tail there, as if a third line ended freely."""

from __future__ import annotations

import numpy as np

from .branches import Branch

#: Two lines at a sharper angle than this, in radians, run into one before they meet.
SHARP = 0.9
#: How far along a line its direction is told, as times its width and in points, about a pixel apart, at least.
ALONG_WIDTHS, ALONG_PX = 8.0, 24.0
#: A tail is no longer than this many times the way over which the two cover each other, and so many widths: a mitred
#: bend goes on as far beyond the place where its middles meet.
TAIL_TIMES, TAIL_WIDTHS = 2.1, 1.0
#: No more than this share of a line is given up for a bend.
MOST_UNTRUE = 0.4


def without_tails(branches: list[Branch]) -> list[Branch]:
    """The branches without tails: of three that meet, one ends freely, and the two others leave together, the other
    way, at a sharp angle."""
    at: dict[int, list[int]] = {}
    for k, branch in enumerate(branches):
        for end in branch.ends:
            if end >= 0:
                at.setdefault(end, []).append(k)
    gone = set()
    for node, own in at.items():
        if len(own) == 3 and len(set(own)) == 3:
            for tail in own:
                others = [k for k in own if k != tail]
                covered = _covered(branches, tail, others, node)
                if covered:
                    gone.add(tail)
                    for k in others:
                        _untrue(branches[k], node, covered)
                    break
    return [branch for k, branch in enumerate(branches) if k not in gone]


def _covered(branches: list[Branch], tail: int, others: list[int], node: int) -> float:
    """Over how many pixels the others cover each other before they meet, where the tail is one; else 0."""
    own = branches[tail]
    if -1 not in own.ends:
        return 0.0
    one, other = (_away(branches[k], node) for k in others)
    angle = float(np.arccos(np.clip(one @ other, -1.0, 1.0)))
    if angle > SHARP or float(_away(own, node) @ (one + other)) > 0:
        return 0.0
    width = max(branches[k].width for k in others)
    covered = width / (2 * np.sin(max(angle, 0.02) / 2))
    return covered if len(own.points) <= TAIL_TIMES * covered + TAIL_WIDTHS * width else 0.0


def _untrue(branch: Branch, node: int, covered: float) -> None:
    """What lies so near to the bend is the middle of both lines, not of one: about a point for each pixel."""
    count = int(min(covered, MOST_UNTRUE * len(branch.points)))
    branch.true = branch.true.copy()
    if branch.ends[0] == node:
        branch.true[:count] = False
    else:
        branch.true[len(branch.true) - count :] = False


def _away(branch: Branch, node: int) -> np.ndarray:
    """The direction in which a branch leaves a meeting (2,), where its middle is true."""
    points = branch.points[branch.true] if np.count_nonzero(branch.true) > 2 else branch.points
    if branch.ends[0] != node:
        points = points[::-1]
    last = min(int(max(ALONG_WIDTHS * branch.width, ALONG_PX)), len(points) - 1)
    # What is nearest to the meeting is bent by the other line.
    way = points[last] - points[last // 2]
    size = float(np.hypot(*way))
    return way / size if size > 0 else np.array([1.0, 0.0])
