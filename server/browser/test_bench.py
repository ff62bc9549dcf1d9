"""The bench as an instrument: looks, picking, reading, layers and the log, by mouse, by keyboard alone, by touch."""

import re

from playwright.sync_api import expect

from .case import DEMO, BrowserCase

PLATE = """<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="80mm" viewBox="0 0 120 80">
<g id="Card"><path id="plate" fill="#1b2a4e" fill-rule="evenodd"
d="M10 10H70V70H10ZM35 40a5 5 0 1 0 10 0a5 5 0 1 0 -10 0z"/>
<path id="tag" fill="#b4673e" d="M80 10H90V20H80Z"/><path id="flag" fill="#b4673e" d="M95 10H105V20H95Z"/>
<path id="speck" fill="#1b2a4e" d="M100 60h0.4v0.4h-0.4z"/></g>
<g id="Paper"><path id="moon" fill="#2c6e5b" d="M80 40H110V55H80Z"/></g></svg>"""


class Bench(BrowserCase):
    def open(self, page=None) -> None:
        page = page or self.page
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Drop designs here").wait_for()
        self.drop(".jobs", "plate.svg", PLATE, page)
        expect(page.locator(".board")).to_have_attribute("data-state", "sharp")
        page.keyboard.press("2")

    def at(self, x: float, y: float, page=None) -> tuple[float, float]:
        """Where a place of the design, in mm, is on the screen: the whole sheet of 120 by 80 mm is shown."""
        box = (page or self.page).locator(".work").bounding_box()
        scale = min((box["width"] - 128) / 120, (box["height"] - 128) / 80)
        left, top = box["x"] + (box["width"] - 120 * scale) / 2, box["y"] + (box["height"] - 80 * scale) / 2
        return left + x * scale, top + y * scale

    def click(self, x: float, y: float, *held: str) -> None:
        for key in held:
            self.page.keyboard.down(key)
        self.page.mouse.click(*self.at(x, y))
        for key in held:
            self.page.keyboard.up(key)

    @property
    def bar(self):
        return self.page.get_by_role("region", name="What is picked")


class Picking(Bench):
    def test_the_true_size_of_a_hole_in_one_action(self):
        self.open()
        self.click(45, 40)
        expect(self.bar).to_contain_text("plate")
        expect(self.bar).to_contain_text("round outline touched ⌀ 10 mm")
        expect(self.bar).to_contain_text("60 × 60 mm")
        self.bar.get_by_role("button", name="change between millimetres and inches").click()
        expect(self.bar).to_contain_text("⌀ 0.394 in")

    def test_all_of_a_colour_in_two_and_a_piece_to_another_layer_in_three(self):
        self.open()
        self.click(85, 15)
        self.bar.get_by_role("button", name="Pick all of this colour").click()
        expect(self.bar).to_contain_text("2 pieces picked")
        self.bar.get_by_role("button", name="Pick more").click()
        self.page.get_by_role("button", name="All others instead 3", exact=True).click()
        expect(self.bar).to_contain_text("3 pieces picked")
        self.page.keyboard.press("Escape")
        expect(self.bar).to_have_count(0)
        # Click, open, choose.
        self.click(85, 15)
        self.bar.get_by_label("The layer of what is picked").select_option(label="On Paper")
        expect(self.page.get_by_role("navigation")).to_contain_text("tag moved to Paper")
        expect(self.bar).to_contain_text("tag")

    def test_more_and_less_and_what_lies_under_and_what_is_tiny(self):
        self.open()
        self.click(20, 20)
        self.click(85, 15, "Shift")
        expect(self.bar).to_contain_text("2 pieces picked")
        self.click(85, 15, "Shift")
        expect(self.bar).to_contain_text("plate")
        # A speck of 0.4 mm is caught beside it.
        self.click(101.2, 60.2)
        expect(self.bar).to_contain_text("speck")
        self.page.mouse.move(*self.at(76, 6))
        self.page.keyboard.down("Shift")
        self.page.mouse.down()
        self.page.mouse.move(*self.at(108, 24), steps=4)
        self.page.mouse.up()
        self.page.keyboard.up("Shift")
        expect(self.bar).to_contain_text("3 pieces picked")

    def test_under_the_topmost_by_clicking_on(self):
        page = self.page
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Drop designs here").wait_for()
        two = PLATE.replace("M80 10H90V20H80Z", "M15 15H30V30H15Z")
        self.drop(".jobs", "two.svg", two)
        expect(page.locator(".board")).to_have_attribute("data-state", "sharp")
        self.click(22, 22)
        expect(self.bar).to_contain_text("tag")
        self.click(22, 22)
        expect(self.bar).to_contain_text("plate")
        self.click(22, 22)
        expect(self.bar).to_contain_text("tag")

    def test_outlines_and_nodes(self):
        self.open()
        self.click(20, 20)
        self.bar.get_by_role("button", name="Outline").click()
        self.click(45, 40)
        expect(self.bar).to_contain_text("circle ⌀ 10 mm")
        self.bar.get_by_role("button", name="Node", exact=True).click()
        self.click(70, 70)
        expect(self.bar).to_contain_text("at 70 mm, 70 mm")

    def test_list_and_work_are_one_picking_and_it_survives_a_step(self):
        page = self.page
        self.open()
        page.keyboard.press("l")
        panel = page.get_by_role("region", name="Layers and pieces")
        panel.get_by_role("button", name=re.compile("^moon")).click()
        expect(self.bar).to_contain_text("30 × 15 mm")
        self.click(20, 20)
        expect(panel.get_by_role("button", name=re.compile("^plate"))).to_have_attribute("aria-pressed", "true")
        panel.get_by_label("Search names").fill("fl")
        expect(panel.locator(".piece")).to_have_count(1)
        panel.get_by_label("Search names").fill("")
        panel.get_by_role("button", name="More for Card").click()
        page.get_by_role("button", name="Split into 2 colours").click()
        expect(page.get_by_role("navigation")).to_contain_text("Card split into 2 colours")
        expect(self.bar).to_contain_text("plate")
        expect(panel).to_contain_text("3 layers")

    def test_hidden_and_locked_pieces(self):
        page = self.page
        self.open()
        ink = self.painted()
        self.click(20, 20)
        page.keyboard.press("h")
        self.until(lambda: self.painted() < ink / 2)
        page.keyboard.press("Control+z")
        self.until(lambda: self.painted() == ink)
        self.click(20, 20)
        self.bar.get_by_role("button", name="Lock").click()
        expect(self.bar).to_have_count(0)
        self.click(20, 20)
        expect(self.bar).to_have_count(0)


class Looking(Bench):
    def test_the_ruler_catches_nodes_and_says_the_true_distance(self):
        self.open()
        self.page.keyboard.press("r")
        self.page.mouse.click(*self.at(70.3, 10.3))
        self.page.mouse.click(*self.at(80.2, 10.2))
        note = self.page.locator(".ruler")
        expect(note).to_contain_text("10 mm")
        expect(note).to_contain_text("10 mm across, 0 mm down")
        self.page.keyboard.press("Escape")
        expect(note).to_have_count(0)

    def test_the_loupe_says_how_far_the_next_line_is(self):
        self.open()
        self.page.keyboard.press("g")
        self.page.mouse.move(*self.at(90, 15))
        expect(self.page.locator(".loupe")).to_contain_text("5 mm apart")

    def test_weeded_says_what_stays_and_spread_changes_nothing(self):
        page = self.page
        self.open()
        page.keyboard.press("3")
        expect(page.locator(".said")).to_contain_text("5 pieces stay, 41.7 cm²")
        steps = page.locator(".knot").count()
        page.keyboard.press("4")
        expect(page.locator(".name", has_text="Card, 4")).to_be_visible()
        expect(page.locator(".name", has_text="Paper, 1")).to_be_visible()
        self.assertEqual(page.locator(".knot").count(), steps)

    def test_two_looks_under_a_divider(self):
        page = self.page
        self.open()
        page.keyboard.press("c")
        expect(page.locator(".board")).to_have_count(2)
        divider = page.get_by_role("slider", name="Where Lines ends and Art begins")
        divider.focus()
        page.keyboard.press("ArrowRight")
        expect(divider).to_have_attribute("aria-valuenow", "52")
        page.keyboard.press("c")
        expect(page.locator(".board")).to_have_count(1)


class Log(Bench):
    def step(self, name: str, act: str) -> None:
        self.page.get_by_role("button", name=f"Change the step: {name}").click()
        self.page.get_by_role("button", name=act, exact=True).click()

    def test_a_step_is_reopened_and_what_follows_is_done_again(self):
        page = self.page
        self.open()
        self.page.get_by_label("Width").fill("60mm")
        self.page.get_by_label("Width").press("Enter")
        expect(page.locator(".readout")).to_contain_text("60 × 36 mm")
        self.step("Sized to 60 mm wide", "Edit")
        field = page.get_by_role("region", name="Set the size").get_by_label("width")
        field.fill("much")
        field.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("Type a length from 0.1 to 20,000 mm.")
        field.fill("2 in")
        field.press("Enter")
        expect(page.locator(".readout")).to_contain_text("50.8 × 30.48 mm")
        self.step("Sized to 50.8 mm wide", "Before and after")
        expect(page.locator(".board")).to_have_count(2)
        expect(page.get_by_role("slider", name="before: Sized")).to_be_visible()
        page.keyboard.press("c")
        self.step("Sized to 50.8 mm wide", "Begin a new job from here")
        expect(page.locator("h1")).to_contain_text("plate, from", ignore_case=True)
        expect(page.locator(".readout")).to_contain_text("50.8 × 30.48 mm")

    def test_a_step_that_cannot_move_says_why_and_one_for_pieces_is_given_others(self):
        page = self.page
        self.open()
        self.click(85, 15)
        self.bar.get_by_label("The layer of what is picked").select_option(label="On Paper")
        self.step("tag moved to Paper", "Move up")
        expect(page.get_by_role("alert")).to_contain_text("cannot go in this order")
        page.get_by_role("alert").get_by_role("button", name="Close").click()
        self.step("tag moved to Paper", "Edit")
        self.click(100, 15)
        page.get_by_role("button", name="Use what is picked now").click()
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_role("navigation")).to_contain_text("flag moved to Paper")

    def test_what_is_done_while_nobody_answers_is_sent_again_and_made_once(self):
        page = self.page
        self.open()
        page.route("**/revisions", lambda route: route.abort())
        self.click(20, 20)
        page.keyboard.press("h")
        notice = page.get_by_role("alert")
        expect(notice).to_contain_text("is kept here and is sent again")
        page.unroute("**/revisions")
        expect(notice).to_have_count(0)
        expect(page.locator(".readout")).to_contain_text("5 pieces")
        page.keyboard.press("l")
        page.get_by_role("button", name="Show hidden").click()
        page.get_by_role("button", name="Show hidden").wait_for()


class ByKeys(Bench):
    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)

    def tab_to(self, locator) -> None:
        """On with the Tab key until something has the focus."""
        for _ in range(120):
            if locator.evaluate("(one) => one === document.activeElement"):
                return
            self.press("Tab")
        self.fail("the Tab key does not get there")

    def test_the_whole_way_by_keyboard_alone(self):
        page = self.page
        self.begin()
        page.goto(self.live_server_url)
        job = page.get_by_role("link", name=re.compile("Van title"))
        job.wait_for()
        self.tab_to(job)
        self.press("Enter")
        expect(page.locator(".board")).to_have_attribute("data-state", "sharp")
        self.press("]")
        expect(page.get_by_role("region", name="Check and mend")).to_contain_text("6 spoil it")
        # A piece, its size, and its layer hidden and shown again.
        self.press("1", ".")
        expect(self.bar).to_contain_text("29.04 × 44 mm")
        self.press("l")
        self.tab_to(page.get_by_role("button", name="Hide Letters"))
        before = self.painted()
        self.press("Enter")
        self.until(lambda: self.painted() < before / 4)
        self.press("Control+z")
        self.until(lambda: self.painted() == before)
        # Sized, reopened, changed, and gone back on.
        self.press("Escape", "Escape", "[")
        width = page.get_by_role("region", name="Intake").get_by_label("Width", exact=True)
        self.tab_to(width)
        page.keyboard.type("200mm")
        self.press("Enter")
        expect(page.locator(".readout")).to_contain_text("200 × 64.52 mm")
        self.tab_to(page.get_by_role("button", name="Sized to 200 mm wide", exact=True))
        self.press("Enter")
        again = page.get_by_role("region", name="Set the size").get_by_label("width")
        self.tab_to(again)
        page.keyboard.type("100mm")
        self.press("Enter")
        expect(page.locator(".readout")).to_contain_text("100 × 32.26 mm")
        self.press("Control+z")
        expect(page.locator(".readout")).to_contain_text("200 × 64.52 mm")
        # Before and after, and the file.
        self.tab_to(page.get_by_role("button", name="Change the step: Sized to 200 mm wide"))
        self.press("Enter")
        both = page.get_by_role("button", name="Before and after")
        both.wait_for()
        self.tab_to(both)
        self.press("Enter")
        expect(page.locator(".board")).to_have_count(2)
        self.press("c", "]", "]", "]", "]", "]")
        write = page.get_by_role("link", name="Write HP-GL")
        write.wait_for()
        self.tab_to(write)
        with page.expect_download() as download:
            self.press("Enter")
        self.assertTrue(download.value.suggested_filename.endswith(".hpgl"))


class ByTouch(Bench):
    def test_a_finger_picks_moves_and_two_zoom(self):
        page = self.page = self.new_page(has_touch=True)
        self.open()
        page.touchscreen.tap(*self.at(86, 15))
        expect(self.bar).to_contain_text("tag")
        before = page.locator(".percent").inner_text()
        page.evaluate(PINCH, self.at(40, 40))
        self.assertNotEqual(page.locator(".percent").inner_text(), before)


#: Two fingers that go apart about a place.
PINCH = """([x, y]) => {
  const work = document.querySelector('.work')
  work.setPointerCapture = () => {}
  const send = (kind, id, at) => work.dispatchEvent(
    new PointerEvent(kind, { pointerId: id, pointerType: 'touch', clientX: at, clientY: y, bubbles: true, button: 0 }))
  send('pointerdown', 11, x - 20); send('pointerdown', 12, x + 20)
  for (let i = 1; i <= 10; i++) { send('pointermove', 11, x - 20 - 5 * i); send('pointermove', 12, x + 20 + 5 * i) }
  send('pointerup', 11, x - 70); send('pointerup', 12, x + 70)
}"""

AXE = (DEMO.parents[1] / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()


class Reachable(Bench):
    """No serious finding of axe-core on any view, in both themes."""

    def look(self, page, what: str) -> None:
        if not page.evaluate("() => !!window.axe"):
            page.evaluate(AXE)
        found = page.evaluate("async () => (await axe.run()).violations")
        grave = [
            f"{one['id']}: {node['html'][:160]}"
            for one in found
            if one["impact"] in ("serious", "critical")
            for node in one["nodes"]
        ]
        self.assertEqual(grave, [], what)

    def views(self, scheme: str) -> None:
        page = self.page = self.new_page(color_scheme=scheme, bypass_csp=True, reduced_motion="reduce")
        page.goto(self.live_server_url)
        page.get_by_role("button", name="Drop designs here").wait_for()
        self.look(page, "no jobs")
        self.open()
        self.look(page, "intake")
        self.click(45, 40)
        expect(self.bar).to_contain_text("plate")
        self.look(page, "picked")
        page.keyboard.press("l")
        page.get_by_role("region", name="Layers and pieces").wait_for()
        self.look(page, "list")
        for key in ("3", "c"):
            page.keyboard.press(key)
            self.look(page, f"key {key}")
        page.keyboard.press("c")
        page.keyboard.press("?")
        page.get_by_text("Keys, and what the words mean").wait_for()
        self.look(page, "keys")
        page.keyboard.press("Escape")
        expect(page.get_by_text("Keys, and what the words mean")).to_have_count(0)
        for station in ("Check and mend", "Build", "Size", "Handover"):
            self.go(station)
            page.get_by_role("region", name=station).wait_for()
            self.look(page, station)
            if station == "Build":
                page.get_by_role("button", name=re.compile("^lay a backing behind")).click()
                expect(page.locator(".sentence")).to_be_visible()
                expect(page.locator(".said")).to_contain_text("Backing laid")
                self.look(page, "a step is set up")
                page.keyboard.press("Escape")
        page.goto(self.live_server_url)
        page.locator(".job").first.wait_for()
        self.look(page, "jobs")
        page.get_by_role("link", name="Materials, machines and targets").click()
        page.get_by_label("Narrowest strip").wait_for()
        self.look(page, "lists")

    def test_in_light(self):
        self.views("light")

    def test_in_dark(self):
        self.views("dark")
