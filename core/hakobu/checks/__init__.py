"""RULES: every fault that Hakobu looks for, a line each."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from ..errors import BadRequest
from ..geometry.parallel import submit
from ..model import Conditions, Document, Finding
from .background_rectangle import RULE as BACKGROUND_RECTANGLE
from .beyond_target import RULE as BEYOND_TARGET
from .crowded_place import RULE as CROWDED_PLACE
from .dimension_off import RULE as DIMENSION_OFF
from .double_outline import RULE as DOUBLE_OUTLINE
from .double_outline import double_outlines
from .drop_out import RULE as DROP_OUT
from .duplicate_line import RULE as DUPLICATE_LINE
from .finer_than_the_tool import RULE as FINER_THAN_THE_TOOL
from .hole_direction import RULE as HOLE_DIRECTION
from .implausible_size import RULE as IMPLAUSIBLE_SIZE
from .invisible_object import RULE as INVISIBLE_OBJECT
from .jagged_line import RULE as JAGGED_LINE
from .leftover_hollow import RULE as LEFTOVER_HOLLOW
from .loose_hole import RULE as LOOSE_HOLE
from .near_colours import RULE as NEAR_COLOURS
from .not_mirrored import RULE as NOT_MIRRORED
from .not_one import RULE as NOT_ONE
from .open_path import RULE as OPEN_PATH
from .out_of_reach import RULE as OUT_OF_REACH
from .outside_sheet import RULE as OUTSIDE_SHEET
from .overlapping_line import RULE as OVERLAPPING_LINE
from .overlapping_shape import RULE as OVERLAPPING_SHAPE
from .painted_hole import RULE as PAINTED_HOLE
from .picture_without_line import RULE as PICTURE_WITHOUT_LINE
from .redundant_node import RULE as REDUNDANT_NODE
from .rule import Rows, Rule
from .self_crossing import RULE as SELF_CROSSING
from .sliver import RULE as SLIVER
from .sliver import slivers
from .speck import RULE as SPECK
from .spike import RULE as SPIKE
from .stray_node import RULE as STRAY_NODE
from .stroke_only import RULE as STROKE_ONLY
from .tables.outlines import OutlineTable, outline_table
from .tables.thin_places import near_sides_of, thin_places_of
from .thin_gap import RULE as THIN_GAP
from .thin_strip import RULE as THIN_STRIP
from .tiny_segment import RULE as TINY_SEGMENT
from .too_many_nodes import RULE as TOO_MANY_NODES

RULES: tuple[Rule, ...] = (
    DUPLICATE_LINE,
    OVERLAPPING_LINE,
    DOUBLE_OUTLINE,
    CROWDED_PLACE,
    OPEN_PATH,
    SELF_CROSSING,
    SPIKE,
    STRAY_NODE,
    REDUNDANT_NODE,
    JAGGED_LINE,
    TINY_SEGMENT,
    OVERLAPPING_SHAPE,
    LOOSE_HOLE,
    PAINTED_HOLE,
    HOLE_DIRECTION,
    SPECK,
    THIN_STRIP,
    THIN_GAP,
    SLIVER,
    DROP_OUT,
    NOT_ONE,
    LEFTOVER_HOLLOW,
    BACKGROUND_RECTANGLE,
    INVISIBLE_OBJECT,
    OUTSIDE_SHEET,
    OUT_OF_REACH,
    DIMENSION_OFF,
    BEYOND_TARGET,
    STROKE_ONLY,
    PICTURE_WITHOUT_LINE,
    NEAR_COLOURS,
    IMPLAUSIBLE_SIZE,
    TOO_MANY_NODES,
    FINER_THAN_THE_TOOL,
    NOT_MIRRORED,
)


def rule_of(identity: str) -> Rule:
    for rule in RULES:
        if rule.id == identity:
            return rule
    known = ", ".join(rule.id for rule in RULES)
    raise BadRequest(f'"{identity}" is not a rule that is known here: use one of {known}.')


def check(
    document: Document,
    conditions: Conditions = Conditions(),
    rules: Iterable[Rule] = RULES,
    every: bool = False,
) -> tuple[Finding, ...]:
    """All findings of all rules, or of some, the gravest first, then from the top left down.

    Of a kind of which there are more than a thousand, the worst thousand and one that says how many more there are;
    with every, all of them."""
    document = conditions.settled(document)
    table = outline_table(document)
    table.compute_ahead(lambda: table.doubled(conditions.tolerance_mm), lambda: near_sides_of(table, conditions))
    found: list[Finding] = []
    rules = sorted(rules, key=lambda rule: rule in OF_THIN_PLACES)
    thin = _thin_places(table, conditions) if table.is_shared and rules and rules[-1] in OF_THIN_PLACES else None
    for rule in rules:
        if thin and rule in OF_THIN_PLACES:
            thin()
        made = rule.find(document, conditions)
        found.extend(made.listed() if isinstance(made, Rows) and not every else made)
    return in_order(found)


#: The rules that wait for what takes longest, and so come last.
OF_THIN_PLACES = (THIN_STRIP, THIN_GAP)


def _thin_places(table: OutlineTable, conditions: Conditions) -> Callable[[], object]:
    """The narrowest places, looked for while other rules find what is theirs; what both need is worked out before."""
    slivers(table, conditions)
    double_outlines(table, conditions)
    return submit(lambda: thin_places_of(table, conditions))


def in_order(findings) -> tuple[Finding, ...]:
    """The order in which findings are numbered: the gravest first, then from the top left down, then by key."""

    def rank(finding: Finding):
        # What is about the whole comes first; what only counts others, last.
        x, y = finding.place or ((1e12, 1e12) if finding.is_rest else (-1e12, -1e12))
        return -finding.level.rank, round(y, 3), round(x, 3), finding.key

    return tuple(sorted(findings, key=rank))


__all__ = ["RULES", "Rows", "Rule", "check", "in_order", "rule_of"]
