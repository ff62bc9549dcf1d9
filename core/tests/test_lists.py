import json
import unittest
from dataclasses import replace

from hakobu.checks import check
from hakobu.errors import BadRequest
from hakobu.geometry import Path
from hakobu.lists import MOST, Lists
from hakobu.model import Conditions, Document, Fill, Layer, Page, Piece

SHIPPED = Lists().to_json()


def changed(kind: str, number: int, **values) -> dict:
    """The lists as they ship but for some values of one entry."""
    rows = [dict(row) for row in SHIPPED[kind]]
    rows[number] |= values
    return {kind: rows}


class Kept(unittest.TestCase):
    def test_there_and_back(self):
        self.assertEqual(Lists.from_json(json.loads(json.dumps(SHIPPED))), Lists())

    def test_a_list_that_is_not_named_is_as_it_ships(self):
        made = Lists.from_json({"materials": []})
        self.assertEqual((made.materials, made.machines), ((), Lists().machines))

    def test_the_purpose_that_says_nothing_always_is_there(self):
        made = Lists.from_json({"purposes": [{"id": "lamp", "name": "lamp", "says": "", "parts_hold": True}]})
        self.assertEqual([p.id for p in made.purposes], ["", "lamp"])
        self.assertTrue(made.purpose("lamp").parts_hold)

    def test_only_what_is_not_as_it_ships_is_its_own(self):
        made = Lists.from_json(changed("materials", 5, least_strip_mm=2.5))
        self.assertEqual([(m.id, m.least_strip_mm) for m in made.own_materials.values()], [("felt", 2.5)])

    def test_what_decides_follows_the_list(self):
        strip = Path.from_points([[0, 0], [60, 0], [60, 2.7], [0, 2.7]], closed=True)
        piece = Piece("a", strip, "felt", fill=Fill("#7d3f46"))
        document = Document(Page(100, 100), (Layer("felt", "Felt", "#7d3f46", material="felt"),), (piece,))
        found = [
            [f.rule for f in check(document, Conditions(materials=lists.own_materials))]
            for lists in (Lists(), Lists.from_json(changed("materials", 5, least_strip_mm=2.5)))
        ]
        self.assertEqual(["thin-strip" in rules for rules in found], [True, False])

    def test_conditions_keep_a_purpose_whole(self):
        purpose = replace(Lists().purpose("one"), id="lamp", name="lamp")
        held = Conditions.from_json(json.loads(Conditions(purpose=purpose).key))
        self.assertEqual(held.purpose, purpose)
        self.assertEqual(Conditions.from_json({"purpose": "one"}).purpose, Lists().purpose("one"))


class Refused(unittest.TestCase):
    def test_what_does_not_fit_is_named(self):
        for data, word in (
            ([], "by their names"),
            ({"sheets": []}, "sheets"),
            ({"materials": [1]}, "values"),
            ({"materials": [{"id": "a"}]}, "name"),
            ({"materials": SHIPPED["materials"] * 40}, str(MOST)),
            (changed("materials", 0, least_strip_mm=90), "least strip"),
            (changed("materials", 0, least_strip_mm="1"), "least strip"),
            (changed("materials", 0, least_strip_mm=None), "least strip"),
            (changed("materials", 0, least_strip_mm=True), "least strip"),
            (changed("materials", 0, least_strip_mm=float("nan")), "least strip"),
            (changed("materials", 0, color="red"), "color"),
            (changed("materials", 0, name=" "), "name"),
            (changed("materials", 0, name="felt 1.5 mm"), "two materials"),
            (changed("materials", 0, id="felt"), "two materials"),
            (changed("materials", 0, id="../felt"), "id"),
            (changed("materials", 0, on_liner="yes"), "on liner"),
            (changed("materials", 0, smell="oak"), "smell"),
            (changed("machines", 0, format="png"), "format"),
            (changed("machines", 0, tool="saw"), "knife, pen or laser"),
            (changed("machines", 0, pens=0), "pens"),
            (changed("purposes", 1, says="x" * 300), "says"),
        ):
            with self.subTest(word=word), self.assertRaises(BadRequest) as caught:
                Lists.from_json(data)
            self.assertIn(word, caught.exception.sentence)

    def test_speed_and_force_may_be_left_to_the_machine(self):
        self.assertIsNone(Lists.from_json(changed("machines", 1, speed_mm_s=None)).machine("roll-cutter").speed_mm_s)

    def test_what_is_not_on_a_list_is_said_with_what_is(self):
        with self.assertRaisesRegex(BadRequest, "black-card"):
            Lists().material("oak")
        with self.assertRaisesRegex(BadRequest, "empty"):
            Lists(machines=()).machine("oak")
