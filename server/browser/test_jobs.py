"""The list of jobs, and what is deleted or hidden on the bench, as a person uses them."""

from playwright.sync_api import expect

from hakobu.formats import read
from jobs import history, listing
from jobs.models import Job
from jobs.store import load_document

from .case import BrowserCase

SIGN = """<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">
<rect x="5" y="5" width="90" height="50" fill="#23324f"/><circle cx="30" cy="30" r="12" fill="#fff"/>
<circle cx="70" cy="30" r="12" fill="#fff"/></svg>"""


class List(BrowserCase):
    def setUp(self):
        super().setUp()
        for name in ("Moon for the lantern", "Heron", "Lantern frame"):
            history.create_job(name)
        self.page.goto(self.live_server_url)
        expect(self.page.locator(".job")).to_have_count(3)

    def names(self, *expected: str) -> None:
        expect(self.page.locator(".job h2")).to_have_text(list(expected))

    def test_searched_sorted_and_renamed(self):
        page = self.page
        page.get_by_label("Search jobs").fill("lantern")
        self.names("Lantern frame", "Moon for the lantern")
        page.get_by_label("Search jobs").fill("")
        page.get_by_label("Order of the jobs").select_option("Name")
        self.names("Heron", "Lantern frame", "Moon for the lantern")
        page.get_by_role("button", name="More for Heron").click()
        page.get_by_role("button", name="Rename").click()
        page.get_by_label("Name of the job").fill("Zebra")
        page.keyboard.press("Enter")
        self.names("Lantern frame", "Moon for the lantern", "Zebra")

    def test_several_are_deleted_and_come_back(self):
        page = self.page
        page.get_by_label("Select Heron").check()
        page.get_by_label("Select Lantern frame").check()
        page.get_by_role("search").get_by_role("button", name="Delete").click()
        self.names("Moon for the lantern")
        page.get_by_role("button", name="Undo").click()
        expect(page.locator(".job")).to_have_count(3)
        page.get_by_role("button", name="More for Heron").click()
        page.get_by_role("button", name="Delete", exact=True).click()
        expect(page.locator(".job")).to_have_count(2)
        page.get_by_role("button", name="Deleted (1)").click()
        self.names("Heron")
        page.get_by_role("button", name="Restore").click()
        # Nothing deleted is left: the jobs are shown again.
        expect(page.locator(".job")).to_have_count(3)

    def test_a_job_that_was_deleted_says_so_and_leads_back(self):
        job = Job.objects.get(name="Heron")
        listing.delete([job.pk])
        self.page.goto(f"{self.live_server_url}/jobs/{job.pk}/intake")
        expect(self.page.get_by_text('"Heron" was deleted; it can be brought back')).to_be_visible()
        self.page.get_by_role("link", name="To the list of jobs").click()
        expect(self.page.locator(".job")).to_have_count(2)


class Bench(BrowserCase):
    def document(self):
        return load_document(Job.objects.latest("changed").head.document_id)

    def test_white_on_dark_becomes_holes_in_one_press(self):
        self.begin("sign.svg", SIGN.encode())
        self.go("Check and mend")
        panel = self.page.get_by_role("region", name="Check and mend")
        expect(panel.locator(".answer")).to_contain_text("2 holes that are only painted")
        panel.get_by_role("button", name="Mend all that is safe (1)").click()
        expect(panel.locator(".answer")).to_contain_text("It stays in one piece")
        self.assertEqual([len(piece.path) for piece in self.document().pieces], [3])

    def test_what_is_picked_is_deleted_and_undone(self):
        page = self.page
        self.begin("sign.svg", SIGN.encode())
        page.locator(".work").focus()
        page.keyboard.press(".")
        page.keyboard.press("Delete")
        expect(page.locator(".route")).to_contain_text("A piece deleted")
        self.assertEqual(len(self.document().pieces), 2)
        page.keyboard.press("Control+z")
        expect(page.locator(".readout")).to_contain_text("3 pieces")

    def test_hidden_pieces_are_told_at_handover_and_left_out_in_one_press(self):
        page = self.page
        self.begin("sign.svg", SIGN.encode())
        page.locator(".work").focus()
        page.keyboard.press(".")
        page.keyboard.press("h")
        expect(page.locator(".bar")).to_contain_text("all steps kept")
        self.until(lambda: Job.objects.latest("changed").head.settings.get("pieces"))
        self.go("Handover")
        panel = page.get_by_role("region", name="Handover")
        expect(panel).to_contain_text("1 hidden piece is in the file as well")
        panel.get_by_role("button", name="Delete it").click()
        expect(panel.get_by_text("hidden piece")).to_have_count(0)
        page.locator("label", has_text=".svg").click()
        with page.expect_download() as coming:
            page.get_by_role("link", name="Write SVG").click()
        with open(coming.value.path(), "rb") as file:
            self.assertEqual(len(read("sign.svg", file.read()).document.pieces), 2)
