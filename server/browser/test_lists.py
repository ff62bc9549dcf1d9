"""The lists of materials, machines and purposes, edited as a person would, and a job that takes them over."""

from playwright.sync_api import expect

from library.models import KeptLists

from .case import BrowserCase


class Lists(BrowserCase):
    def open(self) -> None:
        self.page.goto(self.live_server_url)
        self.page.get_by_role("link", name="Materials, machines and targets").click()
        expect(self.page.get_by_role("heading", name="black card 0.3 mm")).to_be_visible()

    def kept(self, kind: str = "materials") -> dict[str, dict]:
        """The newest lists, by the names of their entries."""
        return {row["name"]: row for row in KeptLists.objects.latest("pk").values[kind]}

    def type(self, label: str, text: str) -> None:
        number = KeptLists.objects.count()
        self.page.get_by_label(label, exact=True).fill(text)
        self.page.keyboard.press("Enter")
        self.until(lambda: KeptLists.objects.count() > number)
        expect(self.page.locator("fieldset:disabled")).to_have_count(0)

    def test_a_material_is_changed_undone_and_made_again(self):
        self.open()
        self.page.get_by_role("button", name="felt 1.5 mm").click()
        self.type("Narrowest strip", "2,5")
        self.assertEqual(self.kept()["felt 1.5 mm"]["least_strip_mm"], 2.5)
        expect(self.page.get_by_role("button", name="felt 1.5 mm")).to_contain_text("changed")
        self.page.get_by_label("Narrowest gap").fill("900")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("alert")).to_contain_text("from 0.01 to 50 mm")
        self.page.get_by_role("heading", name="felt").click()
        self.page.keyboard.press("Control+z")
        expect(self.page.get_by_label("Narrowest strip")).to_have_value("3 mm")
        self.page.keyboard.press("Control+Shift+z")
        expect(self.page.get_by_label("Narrowest strip")).to_have_value("2.5 mm")
        self.page.get_by_role("button", name="As it came").click()
        expect(self.page.get_by_label("Narrowest strip")).to_have_value("3 mm")

    def test_one_is_added_like_another_and_one_is_taken_off_and_put_back(self):
        self.open()
        self.page.get_by_role("button", name="Make another like it").click()
        expect(self.page.get_by_role("heading", name="new material")).to_be_visible()
        self.type("Name", "glitter card")
        self.assertEqual(self.kept()["glitter card"]["least_strip_mm"], 1.0)
        self.page.get_by_role("button", name="paper 120 g").click()
        self.page.get_by_role("button", name="Take off the list").click()
        expect(self.page.get_by_text("Taken off: paper 120 g.")).to_be_visible()
        self.assertNotIn("paper 120 g", self.kept())
        self.page.get_by_role("button", name="Put back").click()
        expect(self.page.get_by_text("Taken off")).to_have_count(0)
        self.assertIn("paper 120 g", self.kept())

    def test_machines_and_purposes_are_lists_too(self):
        self.open()
        self.page.get_by_role("link", name="Machines").click()
        self.type("Speed", "120 mm/s")
        self.assertEqual(self.kept("machines")["desk cutter"]["speed_mm_s"], 120)
        self.type("Speed", "")
        self.assertIsNone(self.kept("machines")["desk cutter"]["speed_mm_s"])
        self.page.get_by_role("link", name="Purposes").click()
        self.page.get_by_role("button", name="lies on its liner").click()
        self.page.get_by_label("Every layer must come off the sheet in one").check()
        self.until(lambda: self.kept("purposes")["lies on its liner"]["parts_hold"])

    def test_somebody_elses_change_is_not_written_over(self):
        self.open()
        other = self.watched(self.page.context.new_page())
        other.goto(f"{self.live_server_url}/lists")
        expect(other.get_by_label("Narrowest strip")).to_be_visible()
        self.type("Narrowest strip", "0.7")
        other.get_by_label("Narrowest gap").fill("0.9")
        other.keyboard.press("Enter")
        expect(other.get_by_role("alert")).to_contain_text("changed in another window")
        expect(other.get_by_label("Narrowest strip")).to_have_value("0.7 mm")
        self.assertEqual(self.kept()["black card 0.3 mm"]["least_gap_mm"], 0.4)


class OfAJob(BrowserCase):
    def test_a_job_takes_the_lists_over_when_it_is_told_to(self):
        self.begin("tree-bought.svg")
        self.go("Check and mend")
        panel = self.page.get_by_role("region", name="Check and mend")
        panel.get_by_text("Checked for").click()
        panel.get_by_label("Material", exact=True).select_option("black card 0.3 mm")
        expect(self.page.get_by_role("banner")).to_contain_text("black card 0.3 mm")
        expect(panel.get_by_text("A line is drawn by both its sides")).to_be_visible()
        panel.get_by_role("link", name="Edit these lists").click()
        # The bench has such a field as well.
        expect(self.page.get_by_role("heading", name="Materials, machines and targets")).to_be_visible()
        self.page.get_by_label("Narrowest strip").fill("0.1")
        self.page.keyboard.press("Enter")
        self.until(KeptLists.objects.exists)
        self.page.get_by_role("link", name="Back to").click()
        expect(self.page.get_by_text("Your lists have other values for black card 0.3 mm now")).to_be_visible()
        expect(self.page.locator(".board").first).to_have_attribute("data-state", "sharp")
        expect(panel.get_by_text("A line is drawn by both its sides")).to_be_visible()
        self.page.get_by_role("button", name="Update this job").click()
        expect(panel.get_by_text("A line is drawn by both its sides")).to_have_count(0)
        expect(self.page.get_by_text("Your lists have other values")).to_have_count(0)
        self.page.keyboard.press("Control+z")
        expect(panel.get_by_text("A line is drawn by both its sides")).to_be_visible()
