"""RULES: every fault that Hakobu looks for, a line each."""

from __future__ import annotations

from ..model import Document, Finding
from ..model.errors import BadRequest
from .background_rectangle import RULE as BACKGROUND_RECTANGLE
from .duplicate_line import RULE as DUPLICATE_LINE
from .open_path import RULE as OPEN_PATH
from .overlapping_shape import RULE as OVERLAPPING_SHAPE
from .rule import Rule, Tolerance
from .self_crossing import RULE as SELF_CROSSING
from .stray_node import RULE as STRAY_NODE

RULES: tuple[Rule, ...] = (
    DUPLICATE_LINE,
    STRAY_NODE,
    OPEN_PATH,
    SELF_CROSSING,
    OVERLAPPING_SHAPE,
    BACKGROUND_RECTANGLE,
)


def rule_of(identity: str) -> Rule:
    for rule in RULES:
        if rule.id == identity:
            return rule
    known = ", ".join(rule.id for rule in RULES)
    raise BadRequest(f'"{identity}" is not a rule that is known here: use one of {known}.')


def check(document: Document, tolerance: Tolerance = Tolerance()) -> tuple[Finding, ...]:
    """All findings of all rules, the gravest first, then from the top left down."""
    found = [finding for rule in RULES for finding in rule.find(document, tolerance)]
    return in_order(found)


def in_order(findings) -> tuple[Finding, ...]:
    """The order in which findings are numbered: the gravest first, then from the top left down, then by key."""

    def rank(finding: Finding):
        x, y = finding.place or (-1e12, -1e12)
        return -finding.level.rank, round(y, 3), round(x, 3), finding.key

    return tuple(sorted(findings, key=rank))


__all__ = ["RULES", "Rule", "Tolerance", "check", "in_order", "rule_of"]
