"""The first station, driven as somebody new would: several files at once, archives, pasting, sizes put right."""

import base64
import io
import re
import zipfile

from PIL import Image, ImageDraw
from playwright.sync_api import expect

from .case import DEMO, BrowserCase

LADDER = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 900"><g fill="#7a4a1e">
<rect id="left" x="60" width="36" height="900"/><rect x="304" width="36" height="900"/></g>
<circle cx="900" cy="100" r="6" fill="#c00"/></svg>"""
PLATE = "0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\n0\n10\n3\n20\n2\n40\n1.5\n0\nENDSEC\n0\nEOF\n"
BADGE = "IN;SP1;PU400,400;PD2400,400,2400,1600,400,1600,400,400;PU;SP0;"
POINTER = "G21 G90\nG0 X0 Y0\nG1 X40\nG1 Y20\nG1 X0\nG1 Y0\nM2\n"

PASTE = """([name, type, base64]) => {
  const transfer = new DataTransfer()
  const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
  if (name) transfer.items.add(new File([bytes], name, { type }))
  else transfer.setData('text/plain', new TextDecoder().decode(bytes))
  document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true, cancelable: true }))
}"""


def white_moon() -> bytes:
    image = Image.new("RGBA", (600, 400), (0, 0, 0, 0))
    ImageDraw.Draw(image).ellipse((80, 60, 520, 340), fill="white")
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def zipped(**files: str | bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, data in files.items():
            archive.writestr(f"Shop/{name.replace('__', '.')}", data)
    return out.getvalue()


def upload(name: str, data: str | bytes) -> dict:
    content = data.encode() if isinstance(data, str) else data
    return {"name": name, "mimeType": "application/octet-stream", "buffer": content}


class Intake(BrowserCase):
    def jobs(self):
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Drop designs here").wait_for()

    def card(self, name: str):
        return self.page.locator(".source").filter(has_text=name)

    def test_five_kinds_at_once_with_one_that_is_broken_and_a_wrong_scale_put_right(self):
        page = self.page
        self.jobs()
        files = {
            "ladder.svg": LADDER,
            "lamp-plate.dxf": PLATE,
            "badge.plt": BADGE,
            "broken.svg": "<svg><rect",
            "pointer.nc": POINTER,
            "moon.png": white_moon(),
        }
        page.get_by_label("Choose designs").set_input_files([upload(*each) for each in files.items()])
        page.get_by_role("button", name="All in one job").click()
        panel = page.get_by_role("region", name="Intake")
        expect(panel.locator(".source")).to_have_count(5)
        expect(page.get_by_role("alert")).to_contain_text("broken.svg: It ends in the middle")
        page.get_by_role("alert").get_by_role("button", name="Close").click()
        # Three state no unit; the others are sure of themselves.
        expect(panel).to_contain_text("The sizes of 3 files should be looked at first")
        expect(self.card("badge.plt")).to_contain_text("50 × 30 mm")
        expect(self.card("badge.plt")).not_to_contain_text("Is this size right?")
        expect(self.card("pointer.nc")).to_contain_text("about as wide as a table tennis ball")
        expect(self.card("moon.png")).to_contain_text("White on a clear ground")
        expect(page.locator(".pictures .ground")).to_have_count(1)

        self.card("lamp-plate.dxf").get_by_role("button", name="a unit is an inch").click()
        expect(self.card("lamp-plate.dxf")).to_contain_text("76.2 × 76.2 mm")
        self.card("moon.png").get_by_role("button", name="300 pixels an inch").click()
        expect(self.card("moon.png")).to_contain_text("50.8 × 33.87 mm")
        field = self.card("ladder.svg").get_by_label("True height")
        field.fill("18 cm")
        field.press("Enter")
        expect(self.card("ladder.svg")).to_contain_text("× 180 mm")
        expect(panel).to_contain_text("5 files")
        expect(panel).not_to_contain_text("Is this size right?")
        # What the others measure is as it was.
        expect(self.card("badge.plt")).to_contain_text("50 × 30 mm")

    def test_a_job_for_each(self):
        self.jobs()
        files = [upload("ladder.svg", LADDER), upload("badge.plt", BADGE)]
        self.page.get_by_label("Choose designs").set_input_files(files)
        self.page.get_by_role("button", name="A job for each").click()
        expect(self.page.locator(".job")).to_have_count(2)

    def test_an_archive_is_chosen_from(self):
        page = self.page
        self.begin()
        data = zipped(
            ladder__svg=LADDER, badge__plt=BADGE, licence__txt="yours", kettle__png=(DEMO / "kettle.png").read_bytes()
        )
        self.drop(".bench", "shop.zip", data)
        choice = page.get_by_role("dialog")
        expect(choice.locator(".card")).to_have_count(3)
        expect(choice).to_contain_text("Not read here: licence.txt")
        expect(choice.locator(".card").filter(has_text="badge.plt")).to_contain_text("50 × 30 mm, 1 piece")
        expect(choice.locator(".card img")).to_have_count(1)
        choice.get_by_label("badge.plt").check()
        choice.get_by_label("kettle.png").check()
        choice.get_by_role("button", name="Bring in 2 files").click()
        expect(page.locator(".source")).to_have_count(3)
        expect(self.card("kettle.png")).to_contain_text("110 × 90 mm")

    def test_what_is_pasted_comes_in(self):
        page = self.page
        self.jobs()
        page.evaluate(PASTE, ["image.png", "image/png", base64.b64encode(white_moon()).decode()])
        expect(self.card("Pasted picture.png")).to_be_visible()
        page.evaluate(PASTE, ["", "", base64.b64encode(LADDER.encode()).decode()])
        expect(self.card("Pasted drawing.svg")).to_contain_text("3 pieces")
        # Into a field, it is text.
        page.get_by_label("Width", exact=True).focus()
        page.evaluate(PASTE.replace("document.body", "document.activeElement"), ["image.png", "image/png", ""])
        expect(page.locator(".source")).to_have_count(2)

    def test_strays_the_page_and_a_newer_version(self):
        page = self.page
        self.jobs()
        page.get_by_label("Choose designs").set_input_files([upload("ladder.svg", LADDER)])
        panel = page.get_by_role("region", name="Intake")
        panel.get_by_role("button", name="It is right as it is").click()
        expect(panel).not_to_contain_text("Is this size right?")
        expect(panel).to_contain_text("1 piece lies outside the page")
        before = page.locator(".percent").inner_text()
        for _ in range(3):
            page.keyboard.press("+")
        expect(page.locator(".percent")).not_to_have_text(before)
        panel.get_by_role("button", name="Show everything").click()
        expect(page.locator(".percent")).to_have_text(before)

        panel.get_by_role("button", name="Round the design").click()
        expect(panel).to_contain_text(re.compile(r"233\.8 × 248\.1 mm, ?the design"))
        expect(panel).not_to_contain_text("outside the page")
        panel.get_by_role("button", name="Type it").click()
        field = panel.get_by_label("Page height")
        field.fill("11 in")
        field.press("Enter")
        expect(panel).to_contain_text("233.8 × 279.4 mm")
        expect(page.locator(".knot").filter(has_text="Page set to")).to_have_count(1)

        newer = LADDER.replace('<circle cx="900"', '<circle cx="200"')
        page.get_by_label("Choose a newer version of ladder.svg").set_input_files([upload("ladder 2.svg", newer)])
        expect(self.card("ladder 2.svg")).to_contain_text("74.08 × 238.1 mm")
        expect(page.locator(".source")).to_have_count(1)
        expect(page.locator(".knot").filter(has_text="Page set to")).to_have_count(1)
        page.keyboard.press("Control+z")
        expect(self.card("ladder.svg")).to_contain_text("223.8 × 238.1 mm")

    def test_the_list_of_pieces_that_the_next_program_shows(self):
        page = self.page
        self.begin("lantern-frame.svg")
        self.go("Handover")
        page.locator("label").filter(has_text="SVG").click()
        summary = page.get_by_text("Taken apart, the file holds")
        expect(summary).to_contain_text(re.compile(r"\d+ pieces"))
        summary.click()
        count = int(re.search(r"(\d+) pieces", summary.inner_text())[1])
        expect(page.locator(".list li")).to_have_count(count)
