"""More than one sheet holds: further sheets, numbers, and material that runs one way."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hakobu import formats, pipeline
from hakobu.geometry import bounds, box_of, length
from hakobu.geometry.boolean import difference, intersection, union
from hakobu.geometry.offset import around
from hakobu.machines import options_for
from hakobu.model import Conditions, Document, Layer, Piece, Treatment
from hakobu.model.materials import MATERIALS
from hakobu.sheets.numbering import numbers_of
from hakobu.sheets.placed import NUMBERS, as_cut, covered, finished, items_on
from hakobu.sheets.report import report_of
from hakobu.sheets.stock import usable
from tests.shapes import square
from tests.sheets.test_placing import laid


def squares(count: int, side: float = 40.0) -> Document:
    layer = Layer("card", "Card", "#26272b", material="black-card")
    pieces = tuple(Piece(f"p{n}", square(n * (side + 5), 0, side), "card") for n in range(count))
    return Document(layers=(layer,), pieces=pieces)


def packed(document: Document, conditions: Conditions = Conditions(), **values) -> Document:
    return laid(document, conditions, **{"arrange": "packed", "spacing_mm": 2.0, "margin_mm": 5.0, **values})


def numbers_on(page: Document) -> Piece:
    return next(piece for piece in page.pieces if piece.id == NUMBERS)


class Further(unittest.TestCase):
    def test_what_finds_no_room_comes_onto_further_sheets(self):
        # On 100 x 100 mm less the margins four squares of 40 mm have room.
        made = packed(squares(10), width_mm=100.0, height_mm=100.0)
        self.assertEqual([len(sheet.placements) for sheet in made.sheets], [4, 4, 2])
        self.assertEqual([sheet.name for sheet in made.sheets], ["Card", "Card 2", "Card 3"])
        self.assertEqual(len({sheet.id for sheet in made.sheets}), 3)
        self.assertEqual({p.item for sheet in made.sheets for p in sheet.placements}, {f"p{n}" for n in range(10)})
        self.assertEqual([report_of(made, sheet).left for sheet in made.sheets], [0, 0, 0])

    def test_what_is_too_large_for_any_is_said_once(self):
        document = squares(2)
        large = Piece("large", square(0, 200, 120), "card")
        document = replace(document, pieces=(*document.pieces, large))
        made = packed(document, width_mm=100.0, height_mm=100.0)
        self.assertEqual(len(made.sheets), 1)
        self.assertEqual(report_of(made, made.sheets[0]).left, 1)

    def test_an_offcut_is_there_once_and_the_rest_goes_onto_whole_sheets(self):
        own = {"card": {"outline": "M0 0H60V60H0Z", "width_mm": 60.0, "height_mm": 60.0}}
        made = packed(squares(3), own=own, width_mm=100.0, height_mm=100.0)
        self.assertEqual([(s.width_mm, len(s.placements)) for s in made.sheets], [(60.0, 1), (100.0, 2)])

    def test_a_further_sheet_has_values_of_its_own(self):
        made = packed(squares(10), width_mm=100.0, height_mm=100.0, own={"card:2": {"at": [30.0, 40.0]}})
        self.assertEqual([sheet.at for sheet in made.sheets], [(0.0, 0.0), (30.0, 40.0), (0.0, 0.0)])

    def test_copies_are_told_from_each_other_over_all_sheets(self):
        made = packed(squares(1), width_mm=100.0, height_mm=100.0, copies=6)
        placed = [place for sheet in made.sheets for place in sheet.placements]
        self.assertEqual([sorted(p.copy for p in placed)], [[1, 2, 3, 4, 5, 6]])


class Grain(unittest.TestCase):
    def conditions(self, grain: str) -> Conditions:
        card = next(each for each in MATERIALS if each.id == "black-card")
        return Conditions(materials={"black-card": replace(card, grain=grain)})

    def turns(self, grain: str, **own) -> set[float]:
        bar = Piece("p0", square(0, 0, 40), "card")
        slanted = replace(bar, path=around(square(0, 0, 40), 3.0).path)
        document = replace(squares(1), pieces=(slanted,))
        made = packed(document, self.conditions(grain), copies=9, turns="free", own={"card": own} if own else None)
        self.assertEqual([p.kind for sheet in made.sheets for p in report_of(made, sheet).problems], [])
        return {place.turn for sheet in made.sheets for place in sheet.placements}

    def test_pieces_lie_along_it(self):
        self.assertLessEqual(self.turns("lines"), {0.0, 180.0})
        self.assertEqual(self.turns("pile"), {0.0})
        self.assertLessEqual(self.turns("lines", grain_across=True), {90.0, 270.0})
        self.assertEqual(self.turns("pile", grain_across=True), {90.0})

    def test_what_lies_against_it_is_reported(self):
        made = packed(squares(2), self.conditions("lines"))
        (sheet,) = made.sheets
        first, second = sheet.placements
        turned = replace(sheet, placements=(replace(first, turn=90.0), replace(second, turn=180.0)))
        self.assertEqual([p.kind for p in report_of(made, turned).problems], ["grain"])


class Numbers(unittest.TestCase):
    def test_each_lies_within_its_item_and_goes_on_from_sheet_to_sheet(self):
        made = packed(squares(6), width_mm=100.0, height_mm=100.0, numbers="within", number_mm=8.0)
        self.assertEqual([sheet.first_number for sheet in made.sheets], [1, 5])
        for sheet in made.sheets:
            on = items_on(made, sheet)
            shapes = covered(on)
            numbers, without = numbers_of(sheet, on, shapes)
            self.assertEqual(without, [])
            ink = around(numbers, 0.05).path
            self.assertEqual(len(difference(ink, *shapes).path), 0)
            inside = [intersection(ink, shape).path for shape in shapes]
            self.assertTrue(all(len(each) for each in inside))
            for each in inside:
                _, top, _, bottom = box_of(each)
                self.assertAlmostEqual(bottom - top, 8.0 + 0.1, delta=0.4)

    def test_beside_they_touch_nothing_and_stay_on_the_stock(self):
        made = packed(squares(4), spacing_mm=12.0, numbers="beside", number_mm=5.0)
        (sheet,) = made.sheets
        on = items_on(made, sheet)
        numbers, without = numbers_of(sheet, on, covered(on))
        self.assertEqual(without, [])
        ink = around(numbers, 0.05).path
        self.assertEqual(len(intersection(ink, union(*covered(on)).path).path), 0)
        self.assertEqual(len(difference(ink, usable(sheet)).path), 0)

    def test_a_piece_that_has_no_room_is_named(self):
        made = packed(squares(2, side=2.0), numbers="within")
        (sheet,) = made.sheets
        self.assertIn("2 items have no room for a number.", [p.sentence for p in report_of(made, sheet).problems])

    def test_they_are_drawn_scored_or_cut_in_the_file(self):
        for by in ("draw", "score", "cut"):
            made = packed(squares(2), numbers="within", number_by=by)
            page = finished(made, made.sheets[0])
            piece = numbers_on(page)
            self.assertEqual(page.layer_by_id[piece.layer].treatment, Treatment(by))
            self.assertGreater(length(piece.path), 4.0)
            file = pipeline.write(page, "svg", options=options_for(None))
            self.assertTrue(pipeline.prove("a.svg", file.data, page).proof.holds)

    def test_on_material_that_is_cut_from_the_back_they_are_read_from_there(self):
        document = squares(1)
        document = replace(document, layers=(replace(document.layers[0], material="heat-vinyl"),))
        made = packed(document, numbers="within", number_mm=8.0)
        (sheet,) = made.sheets
        self.assertTrue(sheet.mirrored)
        plain = replace(sheet, mirrored=False)
        seen = numbers_on(as_cut(made, sheet)).path
        as_is = numbers_on(finished(made, plain)).path
        # A 1 has its flag at the left: seen from the back the number is the same, at its mirrored place.
        (left, top, right, _), (x0, y0, x1, _) = box_of(seen), box_of(as_is)
        self.assertAlmostEqual(left, sheet.width_mm - x1, places=6)
        self.assertAlmostEqual(right, sheet.width_mm - x0, places=6)
        start, begin = seen.ctrl[-1, 3] - (left, top), as_is.ctrl[0, 0] - (x0, y0)
        self.assertAlmostEqual(float(abs(start - begin).max()), 0.0, places=6)

    def test_copies_of_a_turned_item_have_theirs_where_it_has_room(self):
        made = packed(squares(1), copies=3, numbers="within")
        (sheet,) = made.sheets
        places = tuple(replace(p, turn=30.0 * n) for n, p in enumerate(sheet.placements))
        turned = replace(sheet, placements=places)
        on = items_on(made, turned)
        ink = around(numbers_of(turned, on, covered(on))[0], 0.05).path
        self.assertEqual(len(difference(ink, *covered(on)).path), 0)
        self.assertIsNotNone(bounds(ink))

    def test_formats_without_layers_get_them_too(self):
        made = packed(squares(1), numbers="within")
        page = as_cut(made, made.sheets[0])
        plain = replace(page, pieces=tuple(p for p in page.pieces if p.id != NUMBERS))
        sizes = [len(pipeline.write(each, "hpgl", options=options_for(None)).data) for each in (page, plain)]
        self.assertGreater(sizes[0], sizes[1])
        self.assertTrue(formats.by_id("hpgl").read)
