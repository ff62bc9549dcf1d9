"""The station Sheet: proposed, laid by hand, on stock of its own, from where a file is written and proven."""

from playwright.sync_api import expect

from hakobu.geometry import bounds
from hakobu.geometry.containment import clearance
from hakobu.sheets.placed import as_cut, finished
from hakobu.sheets.report import report_of
from hakobu.sheets.stock import outline_of
from jobs.models import Job

from .test_builds import Built
from .worker import QUEUE_PATIENCE_MS

TWO = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100">'
    '<g id="a" fill="#26272b"><title>Black</title><path d="M20 20H60V60H20Z"/></g>'
    '<g id="b" fill="#b4673e"><title>Copper</title><path d="M80 20H120V60H80Z"/>'
    '<path d="M130 20H150V40H130Z"/></g></svg>'
)


class Station(Built):
    def lay(self) -> None:
        self.begin("two.svg", TWO.encode())
        self.actions = 0
        self.to_sheets("Copper")

    def sheets(self):
        made = self.document()
        return made, made.sheets

    def test_a_proposal_is_seen_before_it_is_kept_and_let_go_of_with_escape(self):
        self.begin("two.svg", TWO.encode())
        page = self.page
        page.get_by_role("navigation").get_by_role("link", name="Sheet").click()
        sheets = page.get_by_role("list", name="Sheets")
        expect(sheets.get_by_role("button")).to_have_count(2)
        expect(page.get_by_role("application", name="Sheet Black with 1 item")).to_be_visible()
        self.assertEqual(self.document().sheets, ())
        page.get_by_label("arranged").select_option("packed")
        sheets.get_by_role("button", name="Copper").click()
        expect(page.get_by_role("application", name="Sheet Copper with 2 items")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name="Sheets")).to_be_visible()
        self.assertEqual(self.document().sheets, ())

    def test_what_lies_on_a_sheet_is_dragged_nudged_and_typed_and_gone_back_on(self):
        self.lay()
        page = self.page
        item = page.locator("[data-item]").first
        before = bounds(finished(self.document(), self.document().sheets[0]).pieces[0].path)
        box = item.bounding_box()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2 + 60, box["y"] + box["height"] / 2 + 30, steps=4)
        page.mouse.up()
        expect(page.get_by_role("navigation")).to_contain_text("laid on Black")
        dragged = bounds(finished(self.document(), self.document().sheets[0]).pieces[0].path)
        self.assertGreater(dragged[0], before[0] + 5)
        page.get_by_role("application").focus()
        page.keyboard.press("Shift+ArrowDown")
        expect(page.get_by_role("navigation")).to_contain_text(f"{(dragged[1] + dragged[3]) / 2 + 10:g} mm")
        page.get_by_label("across", exact=True).fill("50 mm")
        page.get_by_label("across", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text("centre at 50 mm")
        made, (black, _) = self.sheets()
        left, _, right, _ = bounds(finished(made, black).pieces[0].path)
        self.assertAlmostEqual((left + right) / 2, 50.0, places=3)
        # Moves that follow each other are one step.
        self.assertEqual(Job.objects.latest("changed").head.steps.filter(step__operation="lay").count(), 1)
        page.keyboard.press("Control+z")
        expect(page.get_by_role("navigation")).not_to_contain_text("centre at 50 mm")

    def test_an_offcut_of_the_stock_is_packed_without_touching_its_rim(self):
        self.begin("two.svg", TWO.encode())
        page = self.page
        page.get_by_role("navigation").get_by_role("link", name="Sheet").click()
        page.get_by_label("arranged").select_option("packed")
        page.get_by_role("list", name="Sheets").get_by_role("button", name="Copper").click()
        page.get_by_label("Laid on", exact=True).select_option("vinyl-end")
        page.get_by_label("of each", exact=True).fill("6")
        page.get_by_label("of each", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text("Laid on 2 sheets")
        made, (_, copper) = self.sheets()
        rim = outline_of(copper)
        pieces = finished(made, copper).pieces
        self.assertEqual(len(pieces), 12)
        for piece in pieces:
            self.assertGreaterEqual(clearance(piece.path, rim).mm, 3.0 - 0.01)
        self.assertGreaterEqual(report_of(made, copper).nearest_mm, 2.0 - 0.01)

    def test_more_than_a_sheet_holds_goes_onto_further_ones_with_numbers_and_to_a_machine_of_their_own(self):
        self.begin("two.svg", TWO.encode())
        page = self.page
        page.get_by_role("navigation").get_by_role("link", name="Sheet").click()
        page.get_by_label("arranged").select_option("packed")
        page.locator("summary", has_text="More choices").click()
        for name in ("sheets wide", "sheets high"):
            page.get_by_label(name, exact=True).fill("100")
            page.get_by_label(name, exact=True).press("Tab")
        page.get_by_label("numbers", exact=True).select_option("within")
        page.get_by_label("of each", exact=True).fill("6")
        page.get_by_label("of each", exact=True).press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text("Laid on 4 sheets")
        sheets = page.get_by_role("list", name="Sheets")
        # Four squares to a sheet; the small copper ones find room beside the last two.
        sheets.get_by_role("button", name="Black 2").click()
        expect(page.get_by_role("application", name="Sheet Black 2 with 2 items")).to_be_visible()
        page.get_by_label("Goes to", exact=True).select_option("laser-bed")
        expect(sheets).to_contain_text("from the lower left corner of the bed")
        expect(page.get_by_label("Format", exact=True)).to_have_value("gcode")
        _, all_sheets = self.sheets()
        self.assertEqual([sheet.machine for sheet in all_sheets[:3]], [None, "laser-bed", None])
        self.assertEqual([sheet.first_number for sheet in all_sheets[:2]], [1, 5])
        numbers = next(piece for piece in self.sheet_file(2).pieces if not piece.path.closed.all())
        (left, top, right, bottom), stock = bounds(numbers.path), all_sheets[1]
        self.assertTrue(0 < left < right < stock.width_mm and 0 < top < bottom < stock.height_mm)
        self.assertEqual(sum(len(sheet.placements) for sheet in all_sheets), 18)

    def test_what_is_nearest_is_told_while_a_piece_is_moved(self):
        self.begin("two.svg", TWO.encode())
        page = self.page
        page.get_by_role("navigation").get_by_role("link", name="Sheet").click()
        page.get_by_label("arranged").select_option("packed")
        page.get_by_role("list", name="Sheets").get_by_role("button", name="Copper").click()
        expect(page.get_by_role("application", name="Sheet Copper with 2 items")).to_be_visible()
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_role("navigation")).to_contain_text("Laid on 2 sheets")
        page.get_by_role("list", name="Sheets").get_by_role("button", name="Copper").click()
        box = page.locator("[data-item]").last.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 40, y + 25, steps=3)
        expect(page.locator("text.apart")).to_contain_text("mm apart")
        page.mouse.up()
        expect(page.get_by_role("navigation")).to_contain_text("laid on Copper")
        made, (_, copper) = self.sheets()
        rim = min(clearance(piece.path, outline_of(copper)).mm for piece in finished(made, copper).pieces)
        nearest = min(report_of(made, copper).nearest_mm or 1e9, rim)
        told = float((page.locator("text.apart").text_content() or "").split()[0])
        self.assertGreaterEqual(told, nearest - 0.06)
        # The handle above it turns it, by steps of 15 degrees.
        (item,) = [place for place in copper.placements if f"{place.item}*{place.copy}" == self.picked()]
        handle = page.locator("[data-turn]").bounding_box()
        x, y = handle["x"] + handle["width"] / 2, handle["y"] + handle["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 60, y + 8, steps=3)
        with page.expect_response(lambda answer: answer.url.endswith("/revisions") and answer.status < 300):
            page.mouse.up()
        turned = next(place for place in self.sheets()[1][1].placements if place.item == item.item)
        self.assertEqual(turned.turn % 15, 0)
        self.assertNotEqual(turned.turn, item.turn)

    def picked(self) -> str:
        return self.page.get_by_label("What lies on it", exact=True).input_value()

    def test_an_offcut_is_kept_from_a_picked_piece(self):
        self.begin("two.svg", TWO.encode())
        self.actions = 0
        self.go("Build")
        self.pick_at(40, 40)
        self.page.get_by_role("button", name="Put it on the list of stock").click()
        self.to_sheets("Copper")
        stock = self.page.get_by_label("Laid on", exact=True)
        stock.select_option(stock.locator("option", has_text="offcut ").get_attribute("value"))
        expect(self.page.get_by_role("list", name="Sheets")).to_contain_text("40 × 40 mm")

    def test_what_is_larger_than_a_sheet_is_cut_into_parts_that_fit(self):
        self.start("van-title.svg")
        self.actions = 0
        self.go("Build")
        self.offer("cut it into parts that fit on sheets")
        self.page.get_by_label("parts wide", exact=True).fill("150")
        self.page.get_by_label("parts wide", exact=True).press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("Cut into 3 parts")
        self.page.get_by_role("navigation").get_by_role("link", name="Sheet").click()
        self.page.get_by_label("arranged").select_option("packed")
        self.page.get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_role("navigation")).to_contain_text("Laid on")
        made, sheets = self.sheets()
        self.assertEqual([report_of(made, sheet).left for sheet in sheets], [0] * len(sheets))
        self.assertTrue(any(layer.name.startswith("Joints of") for layer in made.layers))


class LongPacking(Built):
    def test_a_packing_is_shown_while_it_gets_better_and_taken_as_it_is(self):
        self.start("tree-bought.svg")
        page = self.page
        page.get_by_role("navigation").get_by_role("link", name="Sheet").click()
        page.get_by_label("arranged").select_option("packed")
        page.locator("summary", has_text="More choices").click()
        page.get_by_label("search", exact=True).fill("200 s")
        page.get_by_label("search", exact=True).press("Enter")
        page.get_by_role("button", name="Take what is there").click()
        expect(page.get_by_role("navigation")).to_contain_text("Laid on", timeout=QUEUE_PATIENCE_MS)
        made = self.document()
        for sheet in made.sheets:
            near = report_of(made, sheet).nearest_mm
            self.assertGreaterEqual(near if near is not None else 9.0, 2.0 - 0.01)


class SheetJourneys(Built):
    def on_letter(self) -> tuple[float, float]:
        """A place on the left stem of the letter."""
        made = self.document()
        letter = next(piece for piece in made.pieces if made.layer_by_id[piece.layer].name == "Letter")
        left, top, right, bottom = bounds(letter.path)
        return left + (right - left) * 0.1, (top + bottom) / 2

    def test_journey_14(self):
        """A letter at a wrong scale, as large as fits in 140 x 95 mm, a name along it; three sheets, one an offcut."""
        self.start("letter-bought.svg")
        self.go("Size")
        self.did()
        page = self.page
        # As large as fits: the width is kept first, then the height, which is the smaller of the two.
        for name, value, shown in (("Width", "140 mm", "140 × "), ("Height", "95 mm", " × 95 mm")):
            page.get_by_label(name, exact=True).fill(value)
            page.get_by_label(name, exact=True).press("Enter")
            self.did()
            expect(page.get_by_role("navigation")).to_contain_text("Sized to")
            expect(page.locator(".readout")).to_contain_text(shown)
        self.go("Build")
        self.did()
        self.pick_at(*self.on_letter())
        self.offer("set words along this outline")
        self.words("IVO")
        self.keep_step('"IVO" set in Archivo Black')
        self.to_sheets("IVO")
        page.get_by_role("list", name="Sheets").get_by_role("button", name="Plate").click()
        self.did()
        page.get_by_label("Laid on", exact=True).select_option("card-corner")
        self.did()
        expect(page.get_by_role("list", name="Sheets")).to_contain_text("180 × 150 mm")
        self.assertLessEqual(self.actions, 10)
        made = self.document()
        self.assertEqual(len(made.sheets), 3)
        plate = next(sheet for sheet in made.sheets if sheet.outline)
        left, top, right, bottom = bounds(finished(made, plate).whole_path)
        self.assertAlmostEqual(bottom - top, 95.0, delta=0.01)
        self.assertLess(right - left, 140.0)
        expect(page.locator(".arrow title")).to_have_text("goes in this way")
        expect(page.get_by_role("list", name="Sheets")).to_contain_text("from the lower left corner of the mat")
        expect(page.locator(".wrong")).to_have_count(0)
        for nth, sheet in enumerate(made.sheets, 1):
            file = self.sheet_file(nth)
            for one, other in zip(bounds(file.whole_path), bounds(as_cut(made, sheet).whole_path), strict=True):
                self.assertAlmostEqual(one, other, delta=0.01)
