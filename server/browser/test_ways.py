"""Pictures that each ask for another way of finding lines, driven as a person would, in few actions."""

import re

import numpy as np
from playwright.sync_api import expect

from hakobu.geometry import Path, bounds
from jobs.models import Job
from jobs.store import load_document

from .test_trace import TraceCase


class Ways(TraceCase):
    def open(self, file: str) -> None:
        """A job with a picture of the demo, opened from the list of jobs: its work goes on at Trace."""
        self.begin(file)
        expect(self.page.get_by_role("link", name="Trace this picture")).to_be_visible()
        self.page.goto(self.live_server_url)
        self.page.locator(".job").first.click()
        self.actions = 0
        expect(self.page.locator(".work")).to_be_visible()
        if not self.page.url.endswith("/trace"):
            # A size that may be wrong is looked at first.
            self.go("Trace")
            self.did()
        self.traced()

    def did(self) -> None:
        self.actions += 1

    def keep(self, name: str = "Keep this trace") -> None:
        self.settled()
        self.did()
        super().keep(name)

    def type(self, label: str, text: str) -> None:
        field = self.page.get_by_label(label, exact=True)
        field.fill(text)
        field.press("Enter")
        self.did()
        self.settled()

    def unfold(self, part: str) -> None:
        self.page.locator("summary", has_text=part).click()
        self.did()

    def press(self, x: float, y: float) -> None:
        """A press at a place of the picture, as shares of its sides."""
        box = self.page.locator(".pictures image").first.bounding_box()
        self.page.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"])
        self.did()
        self.settled()

    def shows(self, pieces: str) -> None:
        expect(self.page.locator(".readout")).to_contain_text(pieces)

    def document(self):
        return load_document(Job.objects.latest("changed").head.document_id)

    def whole(self) -> Path:
        return Path.concatenate(piece.path for piece in self.document().pieces)


class Station(Ways):
    def test_a_press_leaves_a_piece_out_or_fills_a_hollow_and_is_taken_back(self):
        self.open("first-night.png")
        self.shows("10 pieces")
        self.press(0.89, 0.417)
        self.shows("9 pieces")
        # Between the ring of the first eye and its pupil: a hollow.
        self.press(0.1725, 0.361)
        self.shows("9 pieces")
        self.page.get_by_role("button", name="take all 2 back").click()
        self.shows("10 pieces")

    def test_by_keys_alone_a_piece_is_left_out(self):
        page = self.page
        self.open("first-night.png")
        page.locator(".work").focus()
        for key in (".", ".", ",", "Delete"):
            page.keyboard.press(key)
        self.shows("9 pieces")
        page.get_by_role("button", name="take it back").focus()
        page.keyboard.press("Enter")
        self.shows("10 pieces")

    def test_a_way_that_is_kept_is_offered_again_with_all_it_was_told(self):
        self.open("kettle.png")
        self.choose("Colours")
        self.page.get_by_label("Leave Colour 2 out").click()
        self.settled()
        self.keep()
        self.go("Trace")
        self.traced()
        expect(self.page.get_by_role("radio", name="Colours")).to_be_checked()
        expect(self.page.locator(".colours .gone")).to_have_count(1)
        expect(self.page.get_by_role("link", name="On to Check and mend")).to_be_visible()

    def test_ways_are_small_pictures_and_those_that_find_nothing_say_so(self):
        self.open("first-night.png")
        expect(self.page.locator(".mode svg")).to_have_count(6)
        expect(self.page.locator(".mode", has_text="Ink and fields")).to_contain_text("finds nothing here")

    def test_two_candidates_lie_side_by_side_and_are_swapped(self):
        page = self.page
        self.open("kettle.png")
        page.get_by_role("button", name="Hold this to compare").click()
        self.choose("Dark")
        self.shows("2 pieces")
        expect(page.locator(".held .fill")).to_have_count(7)
        page.get_by_role("button", name="Swap with the held one").click()
        self.shows("8 pieces")
        expect(page.locator(".held .fill")).to_have_count(0)
        page.get_by_role("button", name="Discard").click()
        expect(page.locator(".held")).to_have_count(0)

    def test_what_is_too_thin_for_the_material_is_marked_at_its_place(self):
        page = self.page
        self.open("window-lattice.png")
        page.goto(f"{page.url.rsplit('/', 1)[0]}/intake")
        page.locator(".v-select", has_text="Material").click()
        page.get_by_role("option", name="black card 0.3 mm").click()
        expect(page.locator(".bar")).to_contain_text("black card")
        self.go("Trace")
        self.traced()
        self.choose("Dark")
        expect(page.locator("ul.thin")).to_contain_text("thinner than black card 0.3 mm allows")
        # Bars of one width that meet are one place, so that a sharp trace has few: each mark is on a bar of the
        # lattice, 0.9 mm wide, whose middles are 12 mm apart, counted from 7 mm and 8 mm (demo/lattice.py).
        whole = page.locator(".pictures image").first.bounding_box()
        marks = [mark.bounding_box() for mark in page.locator("circle.thin").all()]
        self.assertTrue(marks)
        for mark in marks:
            x, y = (
                110.0 * (mark["x"] + mark["width"] / 2 - whole["x"]) / whole["width"],
                76.0 * (mark["y"] + mark["height"] / 2 - whole["y"]) / whole["height"],
            )
            off = min(abs((x - 7.0 + 6.0) % 12.0 - 6.0), abs((y - 8.0 + 6.0) % 12.0 - 6.0))
            self.assertLess(off, 0.45 + 0.2, (x, y))

    def test_a_colour_is_pointed_at_and_a_part_is_drawn(self):
        page = self.page
        self.open("kettle.png")
        self.choose("Dark")
        page.get_by_role("button", name="Pick a colour from the picture").click()
        box = page.locator(".pictures image").first.bounding_box()
        # The lowest field of the body, on the picture's side of the divider.
        page.wait_for_function("document.querySelector('.aiming')")
        page.mouse.click(box["x"] + 0.36 * box["width"], box["y"] + 0.78 * box["height"])
        self.settled()
        expect(page.locator(".told .swatch")).to_have_attribute("style", re.compile(r"18\d, 10\d, 6\d"))
        self.unfold("Make the picture ready")
        page.get_by_role("button", name="Draw a box round a part").click()
        page.mouse.move(box["x"] + 0.1 * box["width"], box["y"] + 0.65 * box["height"])
        page.mouse.down()
        page.mouse.move(box["x"] + 0.9 * box["width"], box["y"] + 0.95 * box["height"], steps=4)
        page.mouse.up()
        self.settled()
        self.shows("1 piece")
        self.keep()
        left, top, right, bottom = bounds(self.whole())
        self.assertTrue(top > 0.64 * 90 and bottom < 77 and np.isclose(right - left, 57.0, atol=4))

    def test_several_pictures_are_traced_alike_in_one_go(self):
        page = self.page
        self.open("moth-scan.jpg")
        page.goto(f"{page.url.rsplit('/', 1)[0]}/intake")
        expect(page.locator(".work")).to_be_visible()
        self.drop(".bench", "first-night.png", self.file("first-night.png"))
        expect(page.locator(".route")).to_contain_text("first-night.png")
        self.go("Trace")
        self.traced()
        page.get_by_role("button", name="Trace all 2 pictures like this").click()
        expect(page.get_by_role("region", name="Check and mend")).to_be_visible()
        steps = Job.objects.latest("changed").head.steps.filter(step__operation="trace")
        self.assertEqual(steps.count(), 2)
        self.assertEqual({step.stopped for step in steps}, {""})
