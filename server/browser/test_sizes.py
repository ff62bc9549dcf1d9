"""The station Size: typed, fitted, by features, against a target; what stays; what is measured."""

import re
from dataclasses import replace

from playwright.sync_api import expect

from hakobu.geometry import Path, bounds
from hakobu.model.features import covered, drawn_dimensions, feature_at
from jobs.models import Job

from .test_builds import Built

PLATE = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">'
    '<path fill-rule="evenodd" d="M5 5H95V55H5Z M40 20H60V23H40Z M15 15H19V19H15Z"/></svg>'
)


class Sized(Built):
    def to_size(self) -> None:
        self.go("Size")
        self.did()
        expect(self.page.get_by_label("Width", exact=True)).to_be_visible()

    def feature(self, kind: str) -> None:
        self.page.get_by_role("button", name=f"By what you know the size of: {kind}").click()
        self.did()
        expect(self.page.locator(".said")).to_contain_text("Press on the work")

    def measure(self, kind: str, *places: tuple[float, float]) -> None:
        self.page.get_by_role("button", name=f"Measures that stay: {kind}").click()
        expect(self.page.locator(".said")).to_contain_text("Press on the work")
        for place in places:
            self.pick_at(*place)
        expect(self.page.locator(".said")).to_contain_text("Measured")

    def size(self) -> tuple[float, float]:
        left, top, right, bottom = self.document().box
        return right - left, bottom - top


class Station(Sized):
    def test_a_slot_is_sized_truly(self):
        """A hole is pointed at, its present size is told, its true size typed, and all else follows."""
        svg = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">'
        svg += '<path fill-rule="evenodd" d="M5 5H95V55H5Z M40 20H60V23H40Z M15 15H19V19H15Z"/></svg>'
        self.begin("plate.svg", svg.encode())
        self.actions = 0
        self.go("Size")
        self.page.get_by_role("button", name="By what you know the size of: Hole or slot").click()
        expect(self.page.locator(".said")).to_contain_text("Press on the work")
        self.pick_at(50, 21.5)
        expect(self.page.locator(".said")).to_contain_text("slot 3 mm: type its true size")
        self.type_in("its true size", "9 mm")
        expect(self.page.locator(".said")).to_contain_text("slot 3 mm became 9 mm")
        expect(self.page.locator(".said")).to_contain_text("270")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("slot 3 mm became 9 mm")
        path = self.document().pieces[0].path
        slot = min((bounds(path.take([k])) for k in range(len(path))), key=lambda box: box[3] - box[1])
        self.assertAlmostEqual(slot[3] - slot[1], 9.0, delta=1e-4)

    def test_a_width_is_seen_while_it_is_typed_and_kept_with_enter(self):
        self.start("stencil-moon.svg")
        self.to_size()
        width = self.page.get_by_label("Width", exact=True)
        width.fill("180/2")
        expect(self.page.locator(".said")).to_contain_text("became 90 × 90 mm")
        expect(self.page.get_by_label("Per cent")).to_have_value("74.6 %")
        width.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("Sized to 90 mm wide")
        self.assertAlmostEqual(self.size()[0], 90.0, delta=1e-6)
        # Esc lets go of what is typed.
        width.fill("500")
        expect(self.page.locator(".said")).to_contain_text("became 500 × 500 mm")
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".said")).to_have_count(0)

    def test_both_sides_out_of_proportion_and_both_units(self):
        self.start("stencil-moon.svg")
        self.to_size()
        self.page.get_by_label("Not in proportion").check()
        self.page.get_by_label("Height", exact=True).fill("2 in")
        expect(self.page.locator(".said")).to_contain_text("120.7 × 50.8 mm")
        self.page.get_by_label("Height", exact=True).press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("became 120.7 × 50.8 mm")
        self.page.get_by_label("Units").select_option("both")
        expect(self.page.get_by_role("region", name="Size")).to_contain_text("(4.75 × 2 in)")

    def test_it_is_made_as_large_as_fits_a_target(self):
        self.start("capital-h.svg")
        self.to_size()
        self.page.get_by_label("What it goes onto or into").select_option(label="tile 150 × 150")
        panel = self.page.get_by_role("region", name="Size")
        expect(panel).to_contain_text("20 mm to the rim")
        self.page.get_by_role("button", name="tile 150").click()
        expect(self.page.locator(".said")).to_contain_text("became 140 × 127.3 mm")
        self.page.get_by_role("button", name="Keep it").click()
        expect(panel).to_contain_text("5 mm to the rim")
        self.assertAlmostEqual(self.size()[0], 140.0, delta=1e-6)
        # Moved off the middle it stands beyond, and a finding tells so.
        field = self.page.get_by_label("Right of the middle")
        field.fill("8 mm")
        field.press("Enter")
        expect(panel).to_contain_text("reaches 3 mm beyond the rim")
        self.go("Check and mend")
        expect(self.page.get_by_role("region", name="Check and mend")).to_contain_text("Beyond the target")

    def test_a_picked_piece_becomes_a_target_for_all_jobs(self):
        self.start("name-frame.svg")
        self.to_size()
        left, top, _, bottom = self.document().box
        self.pick_at(left + 1, (top + bottom) / 2)
        self.page.get_by_role("button", name="Make a target of what is picked").click()
        expect(self.page.get_by_role("region", name="Size")).to_contain_text("0 mm to the rim")
        self.start("capital-h.svg")
        self.to_size()
        options = self.page.get_by_label("What it goes onto or into").locator("option")
        expect(options.filter(has_text="outline of")).to_have_count(1)

    def test_several_features_are_fitted_together(self):
        self.begin("plate.svg", PLATE.encode())
        self.actions = 0
        self.to_size()
        self.feature("Hole or slot")
        self.pick_at(50, 21.5)
        self.type_in("its true size", "6.3 mm")
        expect(self.page.locator(".said")).to_contain_text("slot 3 mm became 6.3 mm")
        self.page.get_by_role("button", name="One more feature").click()
        expect(self.page.locator(".said")).to_contain_text("Press on the work")
        self.pick_at(17, 17)
        self.type_in("its true size", "8 mm")
        # (3 * 6.3 + 4 * 8) / 25 = 2.036
        expect(self.page.locator(".said")).to_contain_text("slot 4 mm became 8.14 mm, 0.14 mm too large")
        expect(self.page.get_by_role("list", name="Features together")).to_contain_text("−0.19 mm")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("became 183.2")

    def test_a_rim_keeps_its_number_while_the_rest_follows(self):
        self.start("capital-h.svg")
        self.to_build()
        self.build_of("lay a rim round")
        self.type_in("distance", "4 mm")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("Rim of 4 mm")
        self.to_size()
        self.page.get_by_label("Width", exact=True).fill("218")
        expect(self.page.locator(".said")).to_contain_text("became 218")
        self.page.locator("summary", has_text="What stays as it is").click()
        self.page.get_by_label("Lay a rim (distance 4 mm)").check()
        expect(self.page.locator(".said")).to_contain_text("Lay a rim (distance 4 mm) stayed")
        self.page.get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_role("navigation")).to_contain_text("stayed")
        widths = sorted(box[2] - box[0] for box in (bounds(p.path) for p in self.document().pieces))
        self.assertAlmostEqual(widths[-1], 218.0, delta=1e-6)
        self.assertAlmostEqual(widths[-1] - widths[0], 8.0, delta=1e-4)
        steps = [row.step.operation for row in Job.objects.latest("changed").head.steps.all()]
        self.assertEqual(steps, ["bring-in", "resize", "rim"])

    def test_measures_stay_on_the_work_and_tell_when_they_no_longer_hold(self):
        self.begin("plate.svg", PLATE.encode())
        self.actions = 0
        self.to_size()
        self.measure("Hole or slot", (50, 21.5))
        self.type_in("must be", "3 mm")
        self.page.keyboard.press("Enter")
        panel = self.page.get_by_role("region", name="Size")
        expect(panel.get_by_role("list", name="Measures that stay")).to_contain_text("must be 3 mm")
        self.measure("Two nodes", (5, 5), (95, 5))
        self.page.keyboard.press("Enter")
        shown = self.page.locator(".over").get_by_role("list", name="Measures that stay")
        expect(shown).to_contain_text("90 mm")
        self.page.get_by_label("Width", exact=True).fill("180 mm")
        self.page.get_by_label("Width", exact=True).press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("Sized to 180 mm")
        expect(shown).to_contain_text("180 mm")
        expect(shown).to_contain_text("slot 6 mm")
        for look in ("Art", "Weeded"):
            self.page.get_by_role("button", name=re.compile(f"^{look}")).click()
            expect(shown).to_contain_text("180 mm")
        self.go("Check and mend")
        expect(self.page.get_by_role("region", name="Check and mend")).to_contain_text("Not the size it must be")
        self.go("Size")
        self.page.get_by_role("button", name="Take the measure distance away").click()
        expect(shown).not_to_contain_text("180 mm")
        (left,) = drawn_dimensions(self.document())
        self.assertAlmostEqual(left.size, 6.0, delta=1e-4)

    def test_the_screen_is_set_by_a_bank_card_and_shows_the_work_as_large_as_it_is(self):
        self.start("capital-h.svg")
        self.to_size()
        self.page.get_by_role("button", name="As large as it is", exact=True).click()
        bar = self.page.get_by_role("slider", name="The bar, in pixels")
        expect(bar).to_have_attribute("aria-valuenow", str(round(85.6 * 96 / 25.4)))
        bar.focus()
        for _ in range(10):
            self.page.keyboard.press("Shift+ArrowRight")
        expect(bar).to_have_attribute("aria-valuenow", "424")
        self.page.get_by_role("button", name="Done", exact=True).click()
        expect(self.page.locator(".percent")).to_have_text("100 %")
        left, _, right, _ = self.document().box
        wide = self.screen(right, 0)[0] - self.screen(left, 0)[0]
        self.assertAlmostEqual(wide / (right - left), 423.5 / 85.6, delta=0.02)


class Journeys(Sized):
    def test_journey_03(self):
        """Of an emblem's shades one is kept, on a roll 300 mm wide, and sized by its slot for a strap: 9 mm."""
        self.start("emblem.png")
        self.type_in("Roll, how wide", "300 mm")
        self.page.get_by_label("Roll, how wide").press("Enter")
        self.did()
        expect(self.page.get_by_role("navigation")).to_contain_text("a roll 300 mm wide")
        self.to_trace()
        self.page.get_by_label(re.compile("^Keep only Shade 1")).click()
        self.did()
        self.keep()
        self.to_size()
        self.feature("Hole or slot")
        self.pick_at(*self.slot())
        field = self.page.get_by_label("its true size")
        field.fill("9 mm")
        expect(self.page.locator(".said")).to_contain_text("became 9 mm")
        expect(self.page.locator(".said")).to_contain_text("Size")
        field.press("Enter")
        self.did()
        expect(self.page.get_by_role("navigation")).to_contain_text("became 9 mm")
        made = self.written("svg", within=8)
        self.assertAlmostEqual(made.page.width_mm, 300.0, delta=0.01)
        self.assertEqual(len({piece.layer for piece in made.pieces}), 1)
        slot = feature_at(replace(made, dimensions=()), "hole", [self.slot()])[0]
        self.assertAlmostEqual(slot.size, 9.0, delta=0.01)

    def test_journey_09(self):
        """A pale sketch of a reed, traced darker, its break closed, 90 mm high, with a caption on an arc above."""
        self.start("reed-sketch.jpg")
        self.to_trace()
        self.type("Darkness, typed", "85 %")
        self.type("and high", "90 mm")
        self.keep()
        parts = len(self.document().pieces)
        self.go("Check and mend")
        self.did()
        panel = self.page.get_by_role("region", name="Check and mend")
        # A proposal that is taken as it stands is no action.
        panel.get_by_role("button", name="Join what lies apart").click()
        expect(panel.get_by_role("button", name="Join what lies apart")).to_have_count(0)
        self.to_build()
        self.offer("set words on an arc")
        self.words("Reeds")
        self.keep_step('"Reeds" set in Archivo Black')
        # The words and the Enter that keeps them are one action, typed and confirmed.
        made = self.written("svg", within=8)
        self.assertEqual(parts, 3)
        words = [p.path for p in self.document().pieces if ":=" in p.id]
        reed = [p.path for p in self.document().pieces if ":=" not in p.id]
        self.assertEqual(len(reed), 1)
        _, top, _, bottom = bounds(reed[0])
        self.assertAlmostEqual(bottom - top, 90.0, delta=0.05)
        self.assertTrue(all(path.closed.all() for path in words))
        self.assertLess(bounds(Path.concatenate(words))[3], top)
        self.assertAlmostEqual(made.size_mm[1], self.document().size_mm[1], delta=0.01)

    def slot(self) -> tuple[float, float]:
        """The middle of the narrowest hole of the design that is there now."""
        path = Path.concatenate(covered(piece) for piece in self.document().pieces)
        boxes = [bounds(path.take([k])) for k in range(len(path))]
        left, top, right, bottom = min(boxes, key=lambda box: box[3] - box[1])
        return (left + right) / 2, (top + bottom) / 2
