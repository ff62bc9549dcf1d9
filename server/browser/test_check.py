"""Check and mend, driven as a person would: the worst file made clean, a hole that is none, what findings depend on."""

import re

from playwright.sync_api import expect

from hakobu.checks import check
from hakobu.model import Conditions, Level
from hakobu.model.purposes import purpose_of
from jobs.models import Job
from jobs.store import load_document

from .case import BrowserCase

RAIN = '<svg xmlns="http://www.w3.org/2000/svg" width="400mm" height="300mm" viewBox="0 0 400 300">{}</svg>'


class Check(BrowserCase):
    def bench(self, name: str, data: bytes | None = None) -> None:
        self.begin(name, data)
        self.go("Check and mend")
        self.panel = self.page.get_by_role("region", name="Check and mend")
        expect(self.panel.locator(".answer")).to_be_visible()

    def document(self):
        return load_document(Job.objects.latest("changed").head.document_id)

    def answers(self, text: str) -> None:
        expect(self.panel.locator(".answer")).to_contain_text(text)

    def choose(self, label: str, value: str) -> None:
        self.panel.get_by_label(label, exact=True).select_option(value)
        self.quiet()

    def quiet(self) -> None:
        expect(self.panel.locator(".v-btn--disabled")).to_have_count(0)
        expect(self.panel.locator(".answer")).to_be_visible()

    def revision(self) -> int:
        return Job.objects.latest("changed").head_id

    def press(self, key: str) -> None:
        """A key that makes a new revision."""
        before = self.revision()
        self.page.keyboard.press(key)
        self.until(lambda: self.revision() != before)
        self.quiet()


class Cleaning(Check):
    def test_the_worst_file_takes_one_press_for_the_safe_ones_and_one_decision_each_for_the_rest(self):
        self.bench("tree-bought.svg")
        self.answers("It will not hold together")
        before = self.revision()
        self.page.get_by_role("button", name=re.compile("Mend all that is safe")).click()
        self.until(lambda: self.revision() != before)
        expect(self.page.get_by_role("button", name=re.compile("Mend all that is safe"))).to_have_count(0)
        left = [f for f in check(self.document()) if f.level is not Level.NOTE]
        self.assertFalse([f for f in left if f.safe])
        decisions = 0
        self.page.keyboard.press("n")
        expect(self.panel.locator(".item.open")).to_have_count(1)
        while self.panel.locator(".item.open .plate.spoils").count():
            mendable = self.panel.locator(".item.open").get_by_role("button", name="Take this mend").count()
            self.press("m" if mendable else "x")
            decisions += 1
            self.assertLess(decisions, 20)
            expect(self.panel.locator(".item.open, .clean").first).to_be_visible()
        expect(self.panel.locator(".clean")).to_contain_text("Nothing was found that would spoil the cut")
        self.assertLessEqual(decisions, len(left))
        expect(self.panel).to_contain_text(re.compile(r"The mends saved \d+ nodes and"))

    def test_18_the_loose_rectangle_of_a_window_becomes_its_hole_and_the_branch_is_welded(self):
        self.bench("window-branch.svg")
        self.page.keyboard.press("n")
        expect(self.panel.locator(".item.open")).to_contain_text('"opening" lies inside "frame"')
        self.press("m")
        expect(self.panel.locator(".item.open")).to_contain_text("cross each other 4 times")
        self.press("m")
        self.answers("It stays in one piece")
        made = self.document()
        self.assertEqual([len(piece.path) for piece in made.pieces], [3])
        held = Conditions(purpose=purpose_of("one"), one=frozenset(piece.id for piece in made.pieces))
        self.assertEqual([f.rule for f in check(made, held)], [])


class HeldAgainst(Check):
    def test_material_machine_and_purpose_change_at_once_what_is_found(self):
        self.bench("window-branch.svg")
        self.panel.locator("summary", has_text="Checked for").click()
        self.choose("Purpose", "one")
        expect(self.panel).to_contain_text("It drops out")
        self.choose("Purpose", "liner")
        expect(self.panel).not_to_contain_text("It drops out")
        self.choose("Material", "heat-vinyl")
        expect(self.panel).to_contain_text("Not mirrored")
        self.choose("Material", "")
        expect(self.panel).not_to_contain_text("Not mirrored")

    def test_what_a_material_bears_can_be_typed(self):
        self.bench("van-title.svg")
        self.panel.locator("summary", has_text="Checked for").click()
        expect(self.panel).not_to_contain_text("A strip that tears")
        field = self.panel.get_by_label("Narrowest strip", exact=True)
        field.fill("6")
        field.press("Enter")
        expect(self.panel).to_contain_text("A strip that tears")
        field.fill("nothing")
        field.press("Enter")
        expect(self.panel.get_by_role("alert")).to_contain_text("Type a size above nothing.")
        self.panel.get_by_role("button", name="As it was").click()
        expect(self.panel).not_to_contain_text("A strip that tears")

    def test_a_mirrored_layer_is_no_longer_told_of(self):
        self.bench("window-branch.svg")
        self.panel.locator("summary", has_text="Checked for").click()
        self.choose("Material", "heat-vinyl")
        self.panel.get_by_role("button", name=re.compile("Not mirrored")).click()
        self.panel.get_by_role("button", name="Take this mend").click()
        expect(self.panel).not_to_contain_text("Not mirrored")
        self.assertTrue(all(layer.mirrored for layer in self.document().layers))


class Listed(Check):
    def test_set_aside_with_its_reason_it_stays_so_and_comes_back(self):
        self.bench("tree-bought.svg")
        self.panel.get_by_role("button", name=re.compile("Beyond the page")).click()
        self.press("x")
        expect(self.panel.get_by_role("button", name=re.compile("Beyond the page"))).to_have_count(0)
        self.unfold(self.panel.locator("summary", has_text="1 ignored"))
        why = self.panel.get_by_label("Why it stays so (may stay empty): Beyond the page")
        why.fill("cut from a scrap")
        why.press("Enter")
        self.until(lambda: Job.objects.latest("changed").head.settings.get("why_aside"))
        self.page.get_by_role("button", name=re.compile("Mend all that is safe")).click()
        expect(self.page.get_by_role("button", name=re.compile("Mend all that is safe"))).to_have_count(0)
        self.page.reload()
        expect(self.panel.locator("summary", has_text="1 ignored")).to_be_visible()
        expect(self.panel.get_by_role("button", name=re.compile("Beyond the page"))).to_have_count(0)
        self.unfold(self.panel.locator("summary", has_text="1 ignored"))
        expect(self.panel.get_by_label(re.compile("Why it stays so"))).to_have_value("cut from a scrap")
        self.panel.get_by_role("button", name="Take back").click()
        expect(self.panel.get_by_role("button", name=re.compile("Beyond the page"))).to_be_visible()

    def test_a_kind_opens_is_taken_as_one_and_layers_are_told_apart(self):
        self.bench("tree-bought.svg")
        self.panel.get_by_role("button", name=re.compile("A speck")).click()
        self.panel.get_by_role("button", name="Take all").click()
        expect(self.panel.get_by_role("button", name=re.compile("A speck"))).to_have_count(0)
        self.panel.get_by_label("On layer", exact=True).select_option(label="River")
        expect(self.panel.locator(".kind").filter(has_text="A broad line")).to_be_visible()
        expect(self.panel.locator(".kind").filter(has_text="A spike")).to_have_count(0)

    def test_of_several_ways_one_is_chosen_and_shown(self):
        self.bench("tree-bought.svg")
        self.panel.locator("summary", has_text="Checked for").click()
        self.choose("Material", "black-card")
        self.panel.get_by_role("button", name=re.compile("A line is drawn by both its sides")).click()
        expect(self.panel.get_by_label("Before and after").or_(self.panel.locator(".tiles")).first).to_be_visible()
        self.panel.get_by_label("the inner one").check()
        self.press("m")
        moon = next(piece for piece in self.document().pieces if piece.name == "moon")
        self.assertEqual((len(moon.path), moon.fill), (1, None))
        self.assertAlmostEqual(float(moon.path.ctrl[:, :, 0].min()), 166 - 15.7, 1)

    def test_of_thousands_the_first_thousand_are_listed_and_all_are_counted(self):
        drops = "".join(f'<circle cx="{5 + k % 60 * 6}" cy="{5 + k // 60 * 6}" r="0.2"/>' for k in range(1400))
        self.bench("rain.svg", RAIN.format('<path d="M390 280h5v5h-5Z"/>' + drops).encode())
        heading = self.panel.get_by_role("button", name=re.compile("A speck"))
        expect(heading).to_contain_text("1,400")
        heading.click()
        expect(self.panel).to_contain_text("400 more are counted, but not listed one by one.")
        self.page.get_by_role("button", name=re.compile("Mend all that is safe")).click()
        self.answers("It stays in one piece")
        self.assertEqual(len(self.document().pieces), 1)
