"""Tables over RULES: every mend removes its finding, is idempotent, and find never changes anything."""

import unittest
from pathlib import Path

import numpy as np

from hakobu.checks import RULES, check, in_order, rule_of
from hakobu.checks.applier import MOST_PASSES, apply_edit, edit_for, mend_where
from hakobu.geometry import Path as Outlines
from hakobu.model import Conditions, Level
from hakobu.model.errors import BadRequest
from hakobu.model.notices import NOTICES

from ..shapes import circle, document, square

PAGE = Outlines.from_points(np.array([[0, 0], [200, 0], [200, 100], [0, 100]]), closed=True)
OPEN = Outlines.from_points(np.array([[0, 0], [10, 0], [10, 10], [0, 10], [0, 0.2]]), closed=False)
#: A design with the fault of each rule, and nothing else wrong with it.
FAULTY = {
    "duplicate-line": document(square(), square().reversed(), circle(50, 50, 10), circle(50.1, 50, 10)),
    "stray-node": document(square(), Outlines.from_points(np.array([[50.0, 50.0]]), closed=False)),
    "open-path": document(OPEN, square(50, 50)),
    "self-crossing": document(Outlines.from_points(np.array([[0, 0], [10, 10], [10, 0], [0, 10]]), closed=True)),
    "overlapping-shape": document(square(), square(5, 5), circle(60, 60, 10)),
    "background-rectangle": document(PAGE, square(50, 50)),
}


class EveryRule(unittest.TestCase):
    def test_has_its_faulty_design_here(self):
        self.assertEqual(set(FAULTY), {rule.id for rule in RULES})

    def test_finds_it_and_changes_nothing(self):
        for rule in RULES:
            made = FAULTY[rule.id]
            before = [piece.path.digest for piece in made.pieces]
            found = list(rule.find(made, Conditions()))
            self.assertTrue(found and all(f.rule == rule.id and f.title and f.effect for f in found))
            self.assertEqual([piece.path.digest for piece in made.pieces], before)
            self.assertEqual(found, list(rule.find(made, Conditions())))

    def test_each_mend_removes_its_finding_and_adds_none(self):
        for rule in (r for r in RULES if r.mend):
            made = FAULTY[rule.id]
            for finding in check(made):
                after = {f.key for f in check(apply_edit(made, edit_for(made, finding, Conditions())))}
                self.assertNotIn(finding.key, after)
                self.assertLess(after, {f.key for f in check(made)})

    def test_mending_twice_is_mending_once(self):
        for made in FAULTY.values():
            once = mend_where(made, lambda f: f.safe, Conditions())
            twice = mend_where(once.document, lambda f: f.safe, Conditions())
            self.assertEqual((twice.taken, twice.document), ((), once.document))
            self.assertLess(once.passes, MOST_PASSES)

    def test_a_mend_whose_lines_are_gone_is_none(self):
        made = FAULTY["duplicate-line"]
        finding = check(made)[0]
        self.assertIsNone(edit_for(made.with_paths({finding.pieces[-1]: None}), finding, Conditions()))


class Applier(unittest.TestCase):
    def test_a_hundred_doubled_outlines_of_one_piece_go_in_one_pass(self):
        rings = [circle(3 * (i % 10), 3 * (i // 10), 1) for i in range(100)]
        made = document(Outlines.concatenate([*rings, *rings]))
        done = mend_where(made, lambda f: True, Conditions())
        self.assertEqual((len(done.taken), done.passes, len(done.document.pieces[0].path)), (100, 1, 100))

    def test_only_what_is_wanted_is_taken(self):
        made = FAULTY["duplicate-line"]
        key = check(made)[0].key
        done = mend_where(made, lambda f: f.key == key, Conditions())
        self.assertEqual([f.key for f in done.taken], [key])
        self.assertEqual(len(check(done.document)), 1)


class Registry(unittest.TestCase):
    def test_every_rule_file_is_listed_and_ids_are_unique(self):
        helpers = {"__init__", "rule", "applier", "coincide", "outline_table", "welding"}
        files = {p.stem for p in (Path(__file__).parents[2] / "hakobu" / "checks").glob("*.py")} - helpers
        self.assertEqual(files, {rule.id.replace("-", "_") for rule in RULES})
        ids = [r.id for r in RULES] + [n.id for n in NOTICES]
        self.assertEqual(len(ids), len(set(ids)))

    def test_unknown_rules_are_named_with_the_known_ones(self):
        with self.assertRaisesRegex(BadRequest, "duplicate-line"):
            rule_of("nonsense")

    def test_the_gravest_come_first(self):
        found = [NOTICES[i].at("x", str(i)) for i in range(len(NOTICES))]
        levels = [f.level for f in in_order(found)]
        self.assertEqual(levels, sorted(levels, key=lambda v: -Level(v).rank))
