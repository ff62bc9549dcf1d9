"""The station Proof: the way of the tools, played, put in another order, written from where it stopped; settings."""

import re
import threading
from unittest import mock

from django.db import connection
from playwright.sync_api import expect
from sending import queue
from sending.models import Sending

from jobs.models import Job
from library.models import KeptLists
from simulator.machine import Build
from simulator.tests.running import Running

from .test_builds import Built

THREE = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100">'
    '<g id="a" fill="#26272b" fill-rule="evenodd"><title>Black</title>'
    '<path id="one" d="M20 20H60V60H20ZM30 30V40H40V30Z"/>'
    '<path id="two" d="M80 20H120V60H80Z"/><path id="three" d="M140 20H180V60H140Z"/></g></svg>'
)


class Working(Built):
    def work(self, machine: str = "laser") -> None:
        self.begin("three.svg", THREE.encode())
        page = self.page
        self.go("Check and mend")
        page.locator("summary", has_text="Checked for").click()
        page.get_by_label("Machine", exact=True).select_option(label=machine)
        expect(page.get_by_role("banner")).to_contain_text(machine)
        page.get_by_role("navigation").get_by_role("link", name="Proof").click()
        expect(page.get_by_role("status").filter(has_text="holds this work")).to_be_visible()

    @property
    def rows(self):
        return self.page.locator(".order li")


class Proof(Working):
    def test_what_it_takes_is_told_and_proven_and_the_file_is_written(self):
        self.work()
        page = self.page
        expect(page.get_by_text("Half the kerf is kept within")).to_be_visible()
        expect(page.get_by_text("On the laser")).to_be_visible()
        expect(self.rows).to_have_count(3)
        with page.expect_download() as download:
            page.get_by_role("link", name="Write G-code").click()
        text = download.value.path().read_text()
        self.assertEqual(text.count("G0 X"), 4)
        # Half of 0.15 mm further out than it is drawn.
        self.assertIn("X60.075", text)

    def test_it_is_played_and_gone_through_by_keys(self):
        self.work()
        page = self.page
        slider = page.get_by_role("slider", name="Time")
        self.assertEqual(
            slider.get_attribute("aria-valuetext").split(" / ")[0],
            slider.get_attribute("aria-valuetext").split(" / ")[1],
        )
        slider.fill("0")
        page.locator("body").click(position={"x": 5, "y": 5})
        page.keyboard.press(".")
        expect(self.rows.nth(1).locator("[aria-current=true]")).to_be_visible()
        page.keyboard.press(",")
        expect(self.rows.nth(0).locator("[aria-current=true]")).to_be_visible()
        page.get_by_label("How fast it is played").select_option("100")
        page.get_by_role("button", name="Play").click()
        expect(self.rows.nth(2).locator("[aria-current=true]")).to_be_visible()
        expect(page.get_by_role("button", name="Play")).to_be_visible()

    def test_the_order_is_changed_by_keys_and_by_dragging_and_given_back(self):
        self.work()
        page = self.page
        names = lambda: [re.sub(r"\s.*", "", row.locator(".name").inner_text()) for row in self.rows.all()]  # noqa: E731
        before = names()
        self.rows.nth(0).locator(".to").focus()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        expect(self.rows.nth(2).locator(".to")).to_be_focused()
        # The Tab key stops at one row and what can be done with it.
        expect(self.page.locator(".order .to[tabindex='0']")).to_have_count(1)
        page.keyboard.press("Alt+ArrowUp")
        expect(self.rows.nth(1).locator(".name")).to_have_text(before[2])
        expect(page.get_by_role("navigation")).to_contain_text("in an order of your own")
        page.keyboard.press("Alt+ArrowUp")
        expect(self.rows.nth(0).locator(".name")).to_have_text(before[2])
        self.rows.nth(0).drag_to(self.rows.nth(2))
        expect(self.rows.nth(2).locator(".name")).to_have_text(before[2])
        page.get_by_role("button", name="Order by the machine").click()
        expect(page.get_by_role("button", name="Order by the machine")).to_have_count(0)
        expect(self.rows.nth(0).locator(".name")).to_have_text(before[0])
        page.keyboard.press("Control+z")
        expect(self.rows.nth(2).locator(".name")).to_have_text(before[2])
        # However often it was changed, it is one step. The list shows the order before it is kept.
        expect(page.get_by_role("navigation")).to_contain_text("in an order of your own")
        kept = lambda: Job.objects.latest("changed").head.steps.filter(step__operation="work-order").count()  # noqa: E731
        self.until(kept)
        self.assertEqual(kept(), 1)

    def test_a_line_begins_where_it_is_clicked_or_typed(self):
        self.work()
        page = self.page
        self.begin_elsewhere(2)
        page.get_by_label("further along").fill("10 mm")
        page.get_by_label("further along").press("Enter")
        expect(page.get_by_role("navigation")).to_contain_text("1 start of your own")
        # The middle of the upper side of the square at the left, which is 20 to 60 mm across and 20 mm down.
        x, y = self.screen_of_work(40, 20)
        self.begin_elsewhere(1, "one")
        page.mouse.click(x, y - 5)
        expect(page.get_by_role("navigation")).to_contain_text("2 starts of your own")
        expect(page.get_by_label("further along")).to_have_count(0)
        expect(page.get_by_role("status").filter(has_text="holds this work")).to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("link", name="Write G-code").click()
        begins = re.findall(r"G0 X([\d.]+) Y([\d.]+)", download.value.path().read_text())
        self.assertIn(("40", "80.075"), [(f"{float(x):.0f}", y) for x, y in begins])
        page.get_by_role("button", name="Starts by the machine").click()
        expect(page.get_by_role("button", name="Starts by the machine")).to_have_count(0)

    def test_tabs_are_set_and_taken_out_on_the_work(self):
        self.work()
        page = self.page
        row = self.rows.filter(has_text="two")
        row.hover()
        row.get_by_role("button", name="Set its tabs").click()
        page.mouse.click(*self.screen_of_work(100, 20))
        expect(page.get_by_role("navigation")).to_contain_text("1 tab of your own")
        expect(page.locator(".board .tab")).to_have_count(1)
        page.mouse.click(*self.screen_of_work(80, 40))
        expect(page.get_by_role("navigation")).to_contain_text("2 tabs of your own")
        expect(page.locator(".board .tab")).to_have_count(2)
        page.mouse.click(*self.screen_of_work(100, 20))
        expect(page.get_by_role("navigation")).to_contain_text("1 tab of your own")
        expect(page.locator(".board .tab")).to_have_count(1)
        expect(page.get_by_role("status").filter(has_text="holds this work")).to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("link", name="Write G-code").click()
        # The square is cut from one end of its tab to the other, half the kerf out.
        begins = re.findall(r"G0 X([\d.]+) Y([\d.]+)", download.value.path().read_text())
        self.assertTrue(any(float(x) == 79.925 and 59 < float(y) < 61 for x, y in begins), begins)
        page.get_by_role("button", name="Tabs by the machine").click()
        expect(page.locator(".board .tab")).to_have_count(0)

    def test_pieces_are_picked_on_the_work_and_it_is_moved(self):
        self.work()
        x, y = self.screen_of_work(100, 40)
        self.page.mouse.click(x, y - 20 * self.scale())
        expect(self.rows.filter(has_text="two")).to_have_class(re.compile("picked"))
        before = self.painted()
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + 50, y + 30, steps=3)
        self.page.mouse.up()
        self.until(lambda: self.painted() != before)

    def painted(self) -> str:
        return self.page.locator(".board canvas").evaluate("canvas => canvas.toDataURL()")

    def scale(self) -> float:
        """Pixels of a mm on the work, as it is shown at first."""
        box = self.page.locator(".board .host").bounding_box()
        return min((box["width"] - 96) / 200, (box["height"] - 96) / 100)

    def screen_of_work(self, x: float, y: float) -> tuple[float, float]:
        box = self.page.locator(".board .host").bounding_box()
        middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        return middle[0] + (x - 100) * self.scale(), middle[1] + (y - 50) * self.scale()

    def begin_elsewhere(self, row: int, name: str = "") -> None:
        """Opens what sets where the lines of a row begin: of the row so called, or the nth."""
        at = self.rows.filter(has_text=name) if name else self.rows.nth(row)
        at.hover()
        at.get_by_role("button", name="Set where it begins").click()
        expect(self.page.get_by_label("further along")).to_be_focused()

    def test_only_what_is_left_is_written(self):
        self.work()
        page = self.page
        self.rows.nth(1).hover()
        self.rows.nth(1).get_by_role("button", name="Start here").click()
        self.rows.nth(2).hover()
        self.rows.nth(2).get_by_role("button", name="Done: leave it out").click()
        expect(page.get_by_text("Only what is left")).to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("link", name="Write G-code").click()
        self.assertEqual(download.value.path().read_text().count("G0 X"), 1)

    def test_the_handover_begins_with_what_the_machine_takes(self):
        self.work()
        self.go("Handover")
        expect(self.page.get_by_role("link", name="Write G-code")).to_be_visible()
        self.page.get_by_text("DXF", exact=True).click()
        expect(self.page.get_by_role("link", name="Write DXF")).to_be_visible()

    def test_without_a_machine_it_says_so_and_shows_the_way_all_the_same(self):
        self.begin("three.svg", THREE.encode())
        self.page.get_by_role("navigation").get_by_role("link", name="Proof").click()
        expect(self.page.get_by_text("No machine is chosen")).to_be_visible()
        expect(self.rows).to_have_count(3)


class Sent(Working):
    """The stand-in in a thread of the test; what is deferred is carried out by hand."""

    def setUp(self):
        super().setUp()
        self.stand_in = Running("gcode", Build(width=600.0, height=400.0, pace=6.0))
        self.addCleanup(self.stand_in.stop)
        ports = f"{self.stand_in.port} {self.stand_in.port} 1"
        for patch in (mock.patch.dict("os.environ", {"HAKOBU_STAND_INS": ports}), mock.patch.object(queue, "_defer")):
            patch.start()
            self.addCleanup(patch.stop)

    def test_work_is_sent_watched_paused_and_gone_on_with(self):
        self.work()
        page = self.page
        page.get_by_role("button", name="Send to the laser").click()
        expect(page.get_by_text("Waits for the laser")).to_be_visible()
        row = Sending.objects.latest("pk")
        sent = threading.Thread(target=self.carried_out, args=(row.pk,))
        sent.start()
        expect(page.get_by_text("The laser works")).to_be_visible()
        page.get_by_role("button", name="Pause", exact=True).click()
        sent.join(30)
        expect(page.get_by_text("The laser is paused: its tool is up")).to_be_visible()
        page.get_by_role("button", name="Go on").click()
        expect(page.get_by_text("Waits for the laser")).to_be_visible()
        self.carried_out(row.pk)
        page.locator("summary", has_text="Sent before").click()
        expect(page.get_by_text("The laser is done")).to_be_visible()
        self.assertEqual(len(self.stand_in.ask(strokes=True)["strokes"]), 4)
        # The same file is not cut twice by a slip.
        page.get_by_role("button", name="Send to the laser").click()
        expect(page.get_by_role("alert")).to_contain_text("was sent to the laser before")
        page.get_by_role("button", name="Send it once more").click()
        expect(page.get_by_text("Waits for the laser")).to_be_visible()
        page.get_by_role("button", name="Cancel", exact=True).click()
        expect(page.get_by_text("Cancelled: the tool is up")).to_be_visible()

    def carried_out(self, pk: int) -> None:
        try:
            queue.carry_out(pk)
        finally:
            if threading.current_thread() is not threading.main_thread():
                connection.close()


class Settings(Built):
    def test_the_best_square_of_a_test_cut_is_the_setting(self):
        page = self.page
        page.goto(f"{self.live_server_url}/lists/settings")
        page.get_by_role("button", name="thin wood on the laser").click()
        page.get_by_label("Speeds, mm/s").fill("10, 20")
        page.get_by_label("Speeds, mm/s").press("Enter")
        with page.expect_download() as download:
            page.get_by_role("link", name="Write the test cut").click()
        text = download.value.path().read_text()
        self.assertEqual(set(re.findall(r"F([\d.]+)", text)), {"600", "1200"})
        page.get_by_role("button", name="20 mm/s, 60 %").click()
        expect(page.get_by_role("button", name="20 mm/s, 60 %")).to_have_attribute("aria-pressed", "true")
        self.until(lambda: self.setting("laser-wood") == (20.0, 60.0))

    def setting(self, name: str) -> tuple[float, float]:
        (row,) = [row for row in KeptLists.objects.latest("pk").values["settings"] if row["id"] == name]
        return row["speed_mm_s"], row["power_percent"]
