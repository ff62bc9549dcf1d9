"""Tables over RULES: every mend removes its finding, is idempotent, and find never changes anything."""

import json
import unittest
from pathlib import Path

import numpy as np

from hakobu.checks import RULES, check, in_order, rule_of
from hakobu.checks.applier import MOST_PASSES, apply_edit, edit_for, mend_where
from hakobu.errors import BadRequest
from hakobu.geometry import Path as Outlines
from hakobu.model import Conditions, Document, Finding, Level
from hakobu.model.notices import NOTICES

from ..planted import KINDS, planted
from ..shapes import circle, document, square

#: A design with the fault of each rule.
FAULTY = {rule.id: planted(rule.id) for rule in RULES}


class EveryRule(unittest.TestCase):
    def test_has_its_faulty_designs(self):
        self.assertEqual(set(KINDS), {rule.id for rule in RULES})

    def test_finds_it_and_changes_nothing(self):
        for rule in RULES:
            made = FAULTY[rule.id]
            document = made.conditions.settled(made.document)
            before = [piece.path.digest for piece in document.pieces]
            found = list(rule.find(document, made.conditions))
            self.assertTrue(found and all(f.rule == rule.id and f.title and f.effect for f in found), rule.id)
            self.assertEqual([piece.path.digest for piece in document.pieces], before)
            self.assertEqual(found, list(rule.find(document, made.conditions)))

    def test_findings_are_plain_data(self):
        for rule in RULES:
            made = FAULTY[rule.id]
            for finding in check(made.document, made.conditions):
                data = json.loads(json.dumps(finding.to_json()))
                self.assertEqual(Finding.from_json(data), finding)

    def test_each_mend_removes_its_finding(self):
        for rule in (r for r in RULES if r.mend):
            made = FAULTY[rule.id]
            for finding in check(made.document, made.conditions, [rule]):
                if finding.mendable:
                    edit = edit_for(made.document, finding, made.conditions)
                    after = check(apply_edit(made.document, edit), made.conditions, [rule])
                    self.assertNotIn(finding.key, {f.key for f in after}, rule.id)

    def test_mending_twice_is_mending_once(self):
        for identity, made in FAULTY.items():
            once = mend_where(made.document, lambda f: f.safe, made.conditions)
            twice = mend_where(once.document, lambda f: f.safe, made.conditions)
            self.assertEqual((twice.taken, twice.document), ((), once.document), identity)
            self.assertLess(once.passes, MOST_PASSES)

    def test_every_way_of_several_gives_a_mend(self):
        for rule in (r for r in RULES if r.choices):
            made = FAULTY[rule.id]
            finding = next(f for f in check(made.document, made.conditions, [rule]) if f.mendable)
            edits = [edit_for(made.document, finding, made.conditions, choice) for choice, _ in rule.choices]
            after = [apply_edit(made.document, edit) for edit in edits]
            ways = {(each.page, tuple(piece.path.digest for piece in each.pieces)) for each in after}
            self.assertEqual(len(ways), len(rule.choices), rule.id)

    def test_a_mend_whose_lines_are_gone_is_none(self):
        made = FAULTY["duplicate-line"]
        finding = check(made.document)[0]
        self.assertIsNone(edit_for(made.document.with_paths({finding.pieces[-1]: None}), finding, Conditions()))


class Applier(unittest.TestCase):
    def test_a_hundred_doubled_outlines_of_one_piece_go_in_one_pass(self):
        rings = [circle(3 * (i % 10), 3 * (i // 10), 1) for i in range(100)]
        made = document(Outlines.concatenate([*rings, *rings]))
        done = mend_where(made, lambda f: f.rule == "duplicate-line", Conditions())
        self.assertEqual((len(done.taken), done.passes, len(done.document.pieces[0].path)), (100, 1, 100))

    def test_only_what_is_wanted_is_taken(self):
        made = document(square(), square().reversed(), circle(50, 50, 10), circle(50.1, 50, 10))
        key = check(made)[0].key
        done = mend_where(made, lambda f: f.key == key, Conditions())
        self.assertEqual([f.key for f in done.taken], [key])
        self.assertEqual(len(check(done.document)), 1)

    def test_a_mend_that_makes_another_fault_is_left(self):
        # Closed, the outline would cross the square beside it.
        gap = Outlines.concatenate([square(0, 0, 10)])
        bridge = Outlines.from_points(np.array([[20, 0], [30, 0], [30, 10], [20, 10], [20, 0.2]]), closed=False)
        crossing = Outlines.from_points(np.array([[19.95, 0.05], [19.95, 0.15], [20.05, 0.1]]), closed=True)
        made = document(gap, bridge, crossing)
        done = mend_where(made, lambda f: f.rule == "open-path", Conditions())
        self.assertEqual([f.rule for f in done.left], ["open-path"])
        self.assertEqual(done.document.pieces, made.pieces)


class Many(unittest.TestCase):
    def test_the_first_thousand_of_a_kind_are_listed_and_all_are_counted(self):
        dust = Outlines.concatenate([circle(i % 60, i // 60, 0.1) for i in range(2400)])
        found = [f for f in check(document(dust)) if f.rule == "speck"]
        self.assertEqual((len(found), found[-1].measure), (1001, {"more": 1400}))
        self.assertEqual(len(check(document(dust), rules=[rule_of("speck")], every=True)), 2400)
        self.assertEqual(mend_where(document(dust), lambda f: f.safe, Conditions()).document.pieces, ())

    def test_nothing_at_all_has_no_finding(self):
        self.assertEqual(check(Document()), ())
        self.assertEqual(check(document()), ())


class Registry(unittest.TestCase):
    def test_every_rule_file_is_listed_and_ids_are_unique(self):
        helpers = {"__init__", "rule", "applier", "cost", "verdict"}
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
