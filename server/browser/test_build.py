"""The station Build: what can be made of what is picked is seen beforehand, set up and kept."""

import re

from playwright.sync_api import expect

from hakobu.geometry import area
from hakobu.geometry.boolean import union
from hakobu.model.shapes import operand_of
from jobs.models import Job
from jobs.store import load_document

from .test_bench import Bench


class Build(Bench):
    def build(self) -> None:
        self.open()
        self.go("Build")

    @property
    def panel(self):
        return self.page.locator(".panel").last

    def offer(self, phrase: str):
        return self.panel.get_by_role("button", name=re.compile(f"^{phrase}"))

    def begin_step(self, phrase: str) -> None:
        self.offer(phrase).click()
        expect(self.page.locator(".sentence")).to_be_visible()

    def document(self):
        return load_document(Job.objects.latest("changed").head.document_id)

    def steps(self) -> int:
        return Job.objects.latest("changed").head.steps.count()

    def test_what_is_offered_is_for_what_is_picked_and_found_by_a_word(self):
        self.build()
        expect(self.panel).to_contain_text("Nothing is picked")
        self.click(45, 40)
        expect(self.panel).to_contain_text("With plate you can")
        expect(self.offer("make them one")).to_have_count(0)
        expect(self.offer("lay a backing behind").locator("canvas")).to_be_visible()
        # Those further down are looked at once they are in sight.
        self.offer("fill the holes").scroll_into_view_if_needed()
        expect(self.offer("fill the holes")).to_contain_text(re.compile("in 1 piece"))
        self.click(85, 15, "Shift")
        expect(self.panel).to_contain_text("With plate and tag you can")
        self.offer("make them one").scroll_into_view_if_needed()
        expect(self.offer("make them one")).to_contain_text("These pieces meet nowhere")
        self.panel.get_by_label("Find by word").fill("offset")
        expect(self.panel.locator(".offer")).to_have_count(3)
        self.panel.get_by_label("Find by word").fill("teapot")
        expect(self.panel).to_contain_text('Nothing here goes by "teapot".')

    def test_a_step_is_a_sentence_whose_values_show_at_once_what_they_do(self):
        self.build()
        self.click(85, 15)
        self.begin_step("lay a backing behind")
        draft = self.page.locator(".draft")
        expect(self.panel).to_contain_text("Backing laid 3 mm out")
        expect(draft).not_to_have_attribute("data-number", "0")
        field = self.panel.get_by_label("distance")
        field.fill("1/2 in")
        field.press("Tab")
        expect(self.panel).to_contain_text("Backing laid 12.7 mm out")
        self.panel.get_by_label("corners").select_option(label="pointed")
        field.fill("2000")
        field.press("Tab")
        expect(self.panel.get_by_role("alert")).to_contain_text("from -1,000 to 1,000 mm")
        field.fill("-50")
        field.press("Tab")
        expect(self.panel).to_contain_text("take a smaller distance")
        expect(self.panel.get_by_role("button", name="Keep it")).to_be_disabled()
        before = self.steps()
        self.page.keyboard.press("Escape")
        expect(self.offer("lay a backing behind")).to_be_visible()
        self.assertEqual(self.steps(), before)

    def test_a_value_is_dragged_on_the_work_and_moved_by_arrow_keys(self):
        self.build()
        self.click(85, 15)
        self.begin_step("lay a backing behind")
        handle = self.page.get_by_role("slider", name=re.compile("^distance: 3 mm"))
        box = handle.locator(".knob").bounding_box()
        at = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(*at)
        self.page.mouse.down()
        for share in range(1, 6):
            self.page.mouse.move(at[0] + 4 * share, at[1])
        self.page.mouse.up()
        moved = self.page.get_by_role("slider", name=re.compile("^distance: "))
        self.until(lambda: float(moved.get_attribute("aria-valuenow")) > 4)
        value = float(moved.get_attribute("aria-valuenow"))
        moved.focus()
        self.page.keyboard.press("ArrowRight")
        expect(moved).to_have_attribute("aria-valuenow", f"{value + 0.5:g}")
        expect(self.panel.get_by_label("distance")).to_have_value(f"{value + 0.5:g} mm")
        self.panel.get_by_label("distance").press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text(f"Backing laid {value + 0.5:g} mm out")

    def test_kept_it_is_reopened_and_what_it_is_made_of_changes_it(self):
        self.build()
        self.click(85, 15)
        self.begin_step("lay a backing behind")
        self.panel.get_by_label("distance").fill("2mm")
        self.page.keyboard.press("Enter")
        step = self.page.get_by_role("button", name="Backing laid 2 mm out", exact=True)
        expect(step).to_be_visible()
        tag = next(p for p in self.document().pieces if p.name == "tag")
        made = next(p for p in self.document().pieces if p.name == "tag, backing")
        self.assertNotEqual(made.layer, tag.layer)
        step.click()
        expect(self.panel).to_contain_text("Backing laid 2 mm out")
        self.panel.get_by_label("distance").fill("4mm")
        expect(self.panel).to_contain_text("Backing laid 4 mm out")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Backing laid 4 mm out", exact=True)).to_be_visible()
        grown = next(p for p in self.document().pieces if p.name == "tag, backing")
        self.assertEqual(grown.id, made.id)
        self.assertGreater(area(grown.path), area(made.path))

    def test_pieces_are_moved_by_typed_figures_and_gone_back_on(self):
        self.build()
        self.click(45, 40)
        self.begin_step("move, turn or copy")
        self.panel.get_by_label("move, right").fill("5mm")
        self.panel.get_by_label("move, right").press("Tab")
        expect(self.panel).to_contain_text("5 mm to the right")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("5 mm to the right")
        self.page.keyboard.press("Control+z")
        expect(self.page.get_by_role("navigation")).not_to_contain_text("5 mm to the right")

    def test_what_was_made_of_all_that_was_picked_is_picked_in_its_place(self):
        self.build()
        self.click(85, 15)
        self.click(100, 15, "Shift")
        self.begin_step("put together")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("2 pieces put together")
        expect(self.bar).to_contain_text("25 × 10 mm")
        self.begin_step("take apart")
        self.page.keyboard.press("Enter")
        expect(self.bar).to_contain_text("2 pieces picked")

    def test_a_figure_is_drawn_where_it_is_put(self):
        self.build()
        self.begin_step("draw a ring")
        self.panel.get_by_label("width").fill("20mm")
        self.panel.get_by_label("width").press("Tab")
        self.panel.get_by_label("rim").fill("3mm")
        self.panel.get_by_label("rim").press("Tab")
        expect(self.panel).to_contain_text("A ring of 20 mm")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("navigation")).to_contain_text("A ring of 20 mm")
        ring = self.document().pieces[-1]
        self.assertAlmostEqual(area(union(operand_of(ring)).path), 3.141592653589793 * (100 - 49), 6)
