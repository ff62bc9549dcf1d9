"""Tables over OPERATIONS: parameters are checked, documents stay whole, and reports tell what changed."""

import unittest
from dataclasses import fields, is_dataclass, replace
from pathlib import Path as File

import numpy as np

from hakobu.errors import BadRequest
from hakobu.formats import ReadResult
from hakobu.geometry import Path, bounds
from hakobu.model import Document, Step, Stroke
from hakobu.model.notices import DAMAGED, NO_UNIT
from hakobu.model.statistics import statistics_of
from hakobu.model.step import ON, Selection
from hakobu.model.units import FileUnit
from hakobu.operations import OPERATIONS, Context, operation_of, parameters_from, schema_of
from hakobu.operations.bring_in import sizes_for
from hakobu.pipeline import result_key, run_step, run_steps, with_selection

from ..shapes import circle, document, square

DASHED = Stroke("#000000", 1.0, dashes=(2.0, 1.0))
DOUBLED = document(square(0, 0, 40), square(0, 0, 40))


def run(operation: str, made: Document = DOUBLED, on: tuple[str, ...] = (), **parameters):
    found = operation_of(operation)
    chosen = {ON: on} if on else {}
    return found.run(
        made, parameters_from(found, parameters), Context("k", chosen, source=lambda *_: ReadResult(DOUBLED))
    )


def step_on(operation: str, *ids: str, **parameters) -> Step:
    """A step of the newest version for some pieces, which have yet to be marked."""
    return Step("k", operation, operation_of(operation).version, parameters, {ON: Selection(dict.fromkeys(ids))})


class Registry(unittest.TestCase):
    def test_every_file_is_listed(self):
        files = {p.stem for p in (File(__file__).parents[2] / "hakobu" / "operations").glob("*.py")}
        helpers = {
            "__init__",
            "operation",
            "choosing",
            "spelling",
            "making",
            "grown",
            "combining",
            "lettered",
            "letter_parts",
            "wished",
            "bits",
            "aim",
            "kept_holes",
            "scaled",
            "filling",
            "outline_places",
        }
        self.assertEqual(files - helpers, {o.id.replace("-", "_") for o in OPERATIONS})
        self.assertEqual(len({o.id for o in OPERATIONS}), len(OPERATIONS))

    def test_every_field_says_what_it_is_for(self):
        for operation in OPERATIONS:
            self.assertTrue(is_dataclass(operation.parameters))
            self.assertEqual(len(schema_of(operation)), len(fields(operation.parameters)))
            self.assertTrue(all(field["help"] for field in schema_of(operation)))

    def test_parameters_that_do_not_fit_are_named(self):
        for operation, values, words in (
            ("resize", {"breadth": 5}, "breadth"),
            ("resize", {"width_mm": "wide"}, "number"),
            ("resize", {"width_mm": 1e9}, "between"),
            ("resize", {"factor": True}, "number"),
            ("resize", {}, "a width, a height or both"),
            ("resize", {"width_mm": 5, "factor": 2}, "Give one of them"),
            ("mend", {"keys": "abc"}, "list of words"),
            ("mend", {"rules": ["nonsense"]}, "nonsense"),
            ("mend", {"tolerance_mm": -1}, "between"),
            ("bring-in", {}, "source"),
            ("bring-in", {"source": 5}, "word"),
        ):
            with self.subTest(values), self.assertRaisesRegex(BadRequest, words):
                run(operation, **values)
        with self.assertRaisesRegex(BadRequest, "bring-in, page, resize, .*, trace, mend"):
            operation_of("nonsense")


class Resize(unittest.TestCase):
    def test_in_proportion_by_any_of_the_three(self):
        for values in ({"width_mm": 80}, {"height_mm": 80}, {"factor": 2}):
            out = run("resize", document(square(0, 0, 40), stroke=DASHED), **values).document
            self.assertEqual((out.size_mm, out.page.width_mm, out.page.height_mm), ((80, 80), 400, 200))
            stroke = out.pieces[0].stroke
            self.assertEqual((stroke.width_mm, stroke.dashes), (2.0, (4.0, 2.0)))
            self.assertEqual([p.id for p in out.pieces], ["t:/0"])

    def test_nothing_cannot_be_sized(self):
        step = Step("k", "resize", 1, {"width_mm": 5.0})
        self.assertIn("no extent", run_step(Document(), step).stopped)


class Mend(unittest.TestCase):
    def test_all_that_is_safe(self):
        out = run("mend")
        self.assertEqual(
            (len(out.document.pieces), out.statistics["mended"], out.title), (1, 1, "Mended: A line is cut twice")
        )

    def test_by_rule_by_key_and_with_some_left(self):
        from hakobu.checks import check

        key = check(DOUBLED)[0].key
        self.assertEqual(len(run("mend", keys=[key]).document.pieces), 1)
        self.assertEqual(len(run("mend", rules=["duplicate-line"]).document.pieces), 1)
        self.assertEqual(len(run("mend", leave=[key]).document.pieces), 2)

    def test_a_key_that_is_gone_stops_the_step(self):
        result = run_step(DOUBLED, Step("k", "mend", 1, {"keys": ["gone"]}))
        self.assertIs(result.document, DOUBLED)
        self.assertIn("no longer there", result.stopped)


class SizedAgain(unittest.TestCase):
    """A size that was typed is still that size after a mend that takes something away."""

    STRAY = document(square(10, 10, 40), Path.from_points(np.array([(70.0, 30.0)]), closed=True))

    def test_what_stood_out_goes_and_the_rest_is_sized_again(self):
        sized = run("resize", self.STRAY, width_mm=120.0)
        self.assertEqual((sized.title, sized.document.sized), ("Sized to 120 mm wide", ("width", 120.0)))
        mended = run("mend", sized.document, rules=["stray-node"])
        self.assertAlmostEqual(mended.document.size_mm[0], 120.0, 6)
        self.assertIn("without what went it was 80 mm wide: sized to 120 mm again", mended.note)
        again = run("mend", mended.document)
        self.assertNotIn("sized", again.note)

    def test_a_height_and_a_size_that_nobody_typed(self):
        high = run("resize", self.STRAY, height_mm=80.0)
        self.assertEqual((high.title, high.document.sized), ("Sized to 80 mm high", ("height", 80.0)))
        twice = run("resize", self.STRAY, factor=2.0).document
        self.assertAlmostEqual(run("mend", twice, rules=["stray-node"]).document.size_mm[0], 80.0, 6)

    def test_a_size_that_was_changed_since_stays_changed(self):
        sized = run("resize", self.STRAY, width_mm=120.0).document
        without = replace(sized, pieces=sized.pieces[:1])
        self.assertEqual(run("mend", without).document.size_mm, (80.0, 80.0))


class Remove(unittest.TestCase):
    def test_pieces_go_and_nothing_else_changes(self):
        out = run("remove", on=(DOUBLED.pieces[0].id,))
        self.assertEqual((out.document.pieces, out.title), (DOUBLED.pieces[1:], "A piece deleted"))
        step = with_selection(DOUBLED, step_on("remove", DOUBLED.pieces[0].id))
        self.assertIn("no longer there", run_step(out.document, step).stopped)


class BringIn(unittest.TestCase):
    def test_the_first_brings_its_page_the_next_lies_beside_it(self):
        first = run("bring-in", Document(), source="a", name="a.svg")
        self.assertEqual((first.document, first.title), (DOUBLED, "a.svg brought in"))
        out = run("bring-in", first.document, source="a").document
        self.assertEqual((len(out.pieces), out.page.width_mm), (4, 410))
        self.assertEqual(out.box, (0, 0, 250, 40))

    def test_at_another_size_than_it_was_read(self):
        first = run("bring-in", Document(), source="a", scale=25.4, reading="a unit is an inch")
        self.assertEqual((first.document.size_mm, first.document.page.width_mm), ((1016, 1016), 5080))
        self.assertIn("read as a unit is an inch", first.note)
        # Only what comes in is scaled, not what is there.
        out = run("bring-in", DOUBLED, source="a", scale=0.5).document
        self.assertEqual((out.box, out.page.width_mm), ((0, 0, 230, 20 + 20), 310))

    def test_the_sizes_it_may_be_meant_to_have(self):
        said = (NO_UNIT.at("None.", "size"), DAMAGED.at("Part.", "part"))
        silent = ReadResult(DOUBLED, said, unit=FileUnit("mm", 1.0, False))
        found = operation_of("bring-in")
        for scale, doubted in ((1.0, True), (25.4, False)):
            parameters = parameters_from(found, {"source": "a", "scale": scale})
            out = found.run(Document(), parameters, Context("k", source=lambda *_: silent))
            doubt, sizes = sizes_for(out.statistics)
            self.assertEqual((bool(doubt), len(out.findings)), (doubted, 2 if doubted else 1))
            by_reading = {size.reading: size for size in sizes}
            # Whatever it is scaled to now, each is offered as a scale of what was read.
            self.assertAlmostEqual(by_reading["a unit is an inch"].factor, 25.4)
            self.assertAlmostEqual(by_reading["a unit is an inch"].width_mm, 1016)
        self.assertEqual(sizes_for(run("bring-in", Document(), source="a").statistics), ("", ()))


class ThePage(unittest.TestCase):
    OUTSIDE = document(square(-50, -50, 40), square(300, 10, 20))

    def test_a_sheet_takes_the_design_as_it_lies_or_its_middle(self):
        lies = run("page", width_mm=210, height_mm=297, name="black card")
        self.assertEqual((lies.document.page.width_mm, lies.document.box), (210, (0, 0, 40, 40)))
        self.assertEqual((lies.title, lies.note), ("Page set to black card", "210 \u00d7 297 mm"))
        far = document(square(150, 50, 45), square(300, 10, 20))
        centred = run("page", far, width_mm=100, height_mm=80).document
        # The one outside of the page does not count for the middle, and moves along.
        self.assertEqual(bounds(centred.pieces[0].path), (27.5, 17.5, 72.5, 62.5))
        self.assertEqual(bounds(centred.pieces[1].path)[:2], (177.5, -22.5))
        all_outside = run("page", self.OUTSIDE, width_mm=400, height_mm=100).document
        self.assertEqual(all_outside.box, (15, 10, 385, 90))

    def test_close_round_the_design(self):
        out = run("page", self.OUTSIDE, margin_mm=5).document
        self.assertEqual((out.page.width_mm, out.page.height_mm, out.box), (380, 90, (5, 5, 375, 85)))

    def test_one_that_was_set_stays_while_the_design_changes(self):
        sheet = run("page", width_mm=210, height_mm=297).document
        sized = run("resize", sheet, width_mm=100).document
        self.assertEqual((sized.page.width_mm, sized.page.height_mm, sized.box), (210, 297, (0, 0, 100, 100)))
        # What no longer lies on it, but would, goes to its middle.
        right = replace(sheet, pieces=document(square(100, 10, 50)).pieces)
        self.assertEqual(run("resize", right, width_mm=100).document.box, (55, 98.5, 155, 198.5))
        beside = run("bring-in", sheet, source="a").document
        self.assertEqual((beside.page.width_mm, beside.box), (210, (0, 0, 90, 40)))

    def test_half_a_size_and_nothing_to_lie_on_it(self):
        with self.assertRaisesRegex(BadRequest, "width and its height"):
            run("page", width_mm=5)
        self.assertIn("bring in a file", run_step(Document(), Step("k", "page", 1, {})).stopped)

    def test_strays_are_counted(self):
        strays = statistics_of(
            document(square(0, 0, 10), square(-20, 0, 10), square(195, 0, 10), square(0, 101, 5))
        ).strays
        self.assertEqual(strays, 2)
        compound = Path.concatenate([square(-20, 0, 10), square(0, 0, 10)])
        self.assertEqual(statistics_of(document(compound)).strays, 0)


class Steps(unittest.TestCase):
    SIZE = Step("s", "resize", 1, {"factor": 2.0})

    def source(self, *_):
        return ReadResult(DOUBLED)

    def test_in_order_with_one_switched_off(self):
        steps = [Step("b", "bring-in", 1, {"source": "x"}), Step("m", "mend", 1), self.SIZE]
        self.assertEqual(run_steps(steps, self.source)[-1].document.size_mm, (80, 80))
        off = [steps[0], Step("m", "mend", 1, enabled=False), self.SIZE]
        self.assertEqual(len(run_steps(off, self.source)[-1].document.pieces), 2)

    def test_a_step_whose_pieces_changed_stops_with_its_mark(self):
        step = with_selection(DOUBLED, step_on("arrange", "t:/0"))
        self.assertEqual(run_step(DOUBLED, step).stopped, "")
        for other, words in (
            (document(circle(50, 50, 9), circle()), "no longer what it was"),
            (Document(), "no longer there"),
        ):
            result = run_step(other, step)
            self.assertIn(words, result.stopped)
            self.assertIs(result.document, other)

    def test_results_are_named_by_all_that_they_depend_on(self):
        keys = {
            result_key(self.SIZE, "a"),
            result_key(self.SIZE, "b"),
            result_key(Step("s", "resize", 2, {"factor": 2.0}), "a"),
            result_key(Step("s", "resize", 1, {"factor": 3.0}), "a"),
            result_key(Step("t", "resize", 1, {"factor": 2.0}), "a"),
        }
        self.assertEqual(len(keys), 5)
        self.assertEqual(result_key(Step.from_json(self.SIZE.as_json()), "a"), result_key(self.SIZE, "a"))
