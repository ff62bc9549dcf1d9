"""One journey, driven as a person would: drop a file, see, mend, go back, come forward, hand over, come back later."""

import re
from pathlib import Path

from playwright.sync_api import expect

from hakobu import pipeline
from hakobu.checks import check
from hakobu.formats import ReadOptions, by_id

from .case import DEMO, FLAG, BrowserCase

TITLE = (DEMO / "van-title.svg").read_text()


class Journey(BrowserCase):
    def test_from_a_dropped_file_to_a_proven_one(self):
        page = self.page
        self.begin()
        panel = page.get_by_role("region", name="Intake")
        expect(panel).to_contain_text("396.8 × 128 mm")
        expect(panel).to_contain_text("about as wide as an A3 sheet")
        expect(panel).to_contain_text("One shape is hidden")

        self.go("Check and mend")
        panel = page.get_by_role("region", name="Check and mend")
        expect(panel).to_contain_text("6 spoil it")
        self.assertEqual(page.locator(".findings .mark").count(), 6)
        page.locator(".findings .mark rect").first.click()
        expect(panel.locator(".tiles figure")).to_have_count(2)
        expect(panel.locator(".tiles")).to_contain_text("266 nodes")

        # One mend, back, forward, and then all that is left.
        panel.get_by_role("button", name="Take this mend").click()
        expect(panel).to_contain_text("5 spoil it")
        page.keyboard.press("Control+z")
        expect(panel).to_contain_text("6 spoil it")
        page.keyboard.press("Control+Shift+z")
        expect(panel).to_contain_text("5 spoil it")
        panel.get_by_role("button", name="Mend all that is safe (5)").click()
        expect(panel).to_contain_text("1 worth knowing")
        expect(page.get_by_role("navigation")).to_contain_text("6 faults mended")
        expect(page.locator(".readout")).to_contain_text("23 pieces")

        self.go("Handover")
        proof = page.locator(".proof")
        expect(proof).to_contain_text(re.compile(r"The file lies on the design within 0\.0[12]\d mm"))
        files = {}
        for name in ("HP-GL", "SVG"):
            page.get_by_text(name, exact=True).click()
            with page.expect_download() as download:
                page.get_by_role("link", name=f"Write {name}").click()
            files[download.value.suggested_filename] = Path(download.value.path()).read_bytes()
        self.assertEqual(set(files), {"van-title.hpgl", "van-title.svg"})
        self.read_back(files)

        # Everything is there again in a browser that was never here.
        address = page.url
        other = self.new_page()
        other.goto(address)
        expect(other.locator(".proof")).to_contain_text("The file lies on the design")
        expect(other.get_by_role("navigation")).to_contain_text("6 faults mended")
        other.get_by_role("button", name="Undo").click()
        expect(other.locator(".readout")).to_contain_text("27 pieces")

    def read_back(self, files: dict[str, bytes]) -> None:
        design = by_id("svg").read(files["van-title.svg"], ReadOptions()).document
        self.assertEqual(check(design), ())
        self.assertEqual(len(design.pieces_in_use()), 23)
        proof = pipeline.prove("van-title.hpgl", files["van-title.hpgl"], design).proof
        self.assertTrue(proof.holds, proof)
        self.assertLessEqual(proof.max_deviation_mm, 0.025)

    def test_a_stroke_taken_out_of_the_machine_file_shows(self):
        page = self.page
        self.begin()
        self.go("Handover")
        expect(page.locator(".proof")).to_contain_text("The file lies on the design")
        with page.expect_download() as download:
            page.get_by_role("link", name="Write HP-GL").click()
        rows = Path(download.value.path()).read_bytes().splitlines(keepends=True)
        whole = self.painted()
        self.assertEqual(self.painted(FLAG), 0)
        less = b"".join(rows[:4] + rows[5:])
        page.get_by_label("Choose a machine file").set_input_files(
            {"name": "less.hpgl", "mimeType": "", "buffer": less}
        )
        expect(page.locator(".proof")).to_contain_text("1 line is missing")
        self.assertLess(self.painted(), whole)
        self.assertGreater(self.painted(FLAG), 50)
        expect(page.locator("nav .count").last).to_have_text("1")
        page.get_by_role("button", name="Back to this design's own").click()
        expect(page.locator(".proof")).to_contain_text("The file lies on the design")


class Intake(BrowserCase):
    def test_a_doubtful_scale_is_asked_about_and_corrected_in_one_press(self):
        page = self.page
        self.begin("stencil-moon.svg")
        panel = page.get_by_role("region", name="Intake")
        expect(panel).to_contain_text("Is this size right?")
        panel.get_by_role("button", name="72 units an inch").click()
        expect(panel).to_contain_text("160.9 × 160.9 mm")
        expect(page.get_by_role("navigation")).to_contain_text("read as 72 units an inch")

    def test_a_size_is_typed_with_its_unit(self):
        page = self.page
        self.begin()
        width = page.get_by_label("Width")
        width.fill("7 7/8 in")
        width.press("Enter")
        expect(page.locator(".readout")).to_contain_text("200 × 64.52 mm")
        width.fill("seven")
        width.press("Enter")
        expect(page.get_by_text("Type a length such as 57mm")).to_be_visible()

    def test_a_layer_is_scored_and_its_line_says_so(self):
        page = self.page
        self.begin()
        page.keyboard.press("2")
        solid = self.painted()
        page.get_by_label("What the machine does with Ornaments").select_option("score")
        expect(page.locator(".kept")).to_contain_text("all steps kept")
        # Dashes leave paper between them.
        self.until(lambda: self.painted() < solid - 60)

    def test_what_cannot_be_read_is_said_and_the_job_stays(self):
        page = self.page
        self.begin()
        self.drop(".bench", "half.svg", TITLE[:900])
        expect(page.get_by_role("alert")).to_contain_text("half.svg: It ends in the middle")
        expect(page.locator(".readout")).to_contain_text("28 pieces")
        page.goto(self.live_server_url)
        self.drop(".jobs", "empty.svg", "")
        expect(page.get_by_role("alert")).to_contain_text("empty.svg")
        expect(page.locator(".job")).to_have_count(1)


class Windows(BrowserCase):
    def test_the_later_of_two_windows_is_told_and_can_go_on(self):
        self.begin()
        other = self.watched(self.page.context.new_page())
        other.goto(self.page.url)
        expect(other.locator(".work path").first).to_be_visible()
        for page in (self.page, other):
            self.go("Check and mend", page)
        self.page.get_by_role("button", name="Mend all that is safe (6)").click()
        expect(self.page.locator(".readout")).to_contain_text("23 pieces")
        other.get_by_text("Hidden things in the file").click()
        other.get_by_role("button", name="Ignore").click()
        expect(other.get_by_role("alert")).to_contain_text("changed in another window")
        other.get_by_role("button", name="Make mine on top of it").click()
        expect(other.get_by_text("1 ignored")).to_be_visible()
        expect(other.locator(".readout")).to_contain_text("23 pieces")

    def test_a_step_is_switched_off_in_the_log(self):
        page = self.page
        self.begin()
        self.go("Check and mend")
        page.get_by_role("button", name="Mend all that is safe (6)").click()
        page.get_by_role("button", name="Change the step: 7 faults mended").click()
        page.get_by_role("button", name="Switch off").click()
        expect(page.locator(".readout")).to_contain_text("28 pieces")
        expect(page.get_by_role("navigation")).to_contain_text("switched off")

    def test_by_keyboard_alone(self):
        page = self.page
        self.begin()
        self.go("Check and mend")
        expect(page.get_by_text("6 spoil it")).to_be_visible()
        page.keyboard.press("n")
        expect(page.get_by_role("button", name="Take this mend")).to_be_visible()
        for left in ("5 spoil it", "4 spoil it"):
            page.keyboard.press("m")
            expect(page.get_by_role("region", name="Check and mend")).to_contain_text(left)
        page.keyboard.press("1")
        expect(page.get_by_role("button", name="Art 1")).to_have_attribute("aria-pressed", "true")
        page.keyboard.press("?")
        expect(page.get_by_text("Keys, and what the words mean")).to_be_visible()

    def test_when_the_server_is_away_it_says_so_and_keeps_what_is_shown(self):
        page = self.page
        self.begin()
        page.route("**/api/**", lambda route: route.abort())
        page.keyboard.press("Control+z")
        expect(page.get_by_role("alert")).to_contain_text("does not answer")
        expect(page.locator(".readout")).to_contain_text("28 pieces")
        page.unroute("**/api/**")
        page.keyboard.press("Control+z")
        expect(page.get_by_text("The bench is empty")).to_be_visible()
