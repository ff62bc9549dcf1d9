"""A real browser on a real server, for tests that drive the interface as a person would."""

from __future__ import annotations

import base64
import os
import shutil
import time
from pathlib import Path

from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.management.base import CommandError
from django.db import connection
from playwright.sync_api import Page, expect, sync_playwright

DEMO = Path(__file__).parents[2] / "demo" / "files"
#: How long a page may take to show something; a loaded machine is no fault of ours.
PATIENCE_MS = 180_000
TEARDOWN_ATTEMPTS = 3
expect.set_options(timeout=PATIENCE_MS)
ARGUMENTS = ["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"]
ARGUMENTS += ["--disable-background-networking", "--disable-component-update", "--disable-sync"]

#: Requests, of a page that has been closed since, that are still being answered.
AT_WORK = """SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()
AND state <> 'idle' AND backend_type = 'client backend'"""

#: Puts a file onto an element as a drag from the desktop would.
DROP = """([selector, name, base64]) => {
  const transfer = new DataTransfer()
  const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
  transfer.items.add(new File([bytes], name))
  const target = document.querySelector(selector)
  for (const kind of ['dragenter', 'dragover', 'drop'])
    target.dispatchEvent(new DragEvent(kind, { dataTransfer: transfer, bubbles: true, cancelable: true }))
}"""


#: Colours on the canvas, red, green and blue: of lines, and of what needs attention.
INK, FLAG = (27, 42, 78), (194, 54, 31)
#: How many pixels of the board are of a colour, or a tint of it, through all of its canvases that are seen.
PAINTED = """([red, green, blue]) => {
  let count = 0
  for (const canvas of document.querySelectorAll('.board canvas')) {
    if (canvas.style.visibility === 'hidden') continue
    const copy = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d')
    copy.drawImage(canvas, 0, 0)
    const { data } = copy.getImageData(0, 0, canvas.width, canvas.height)
    for (let i = 0; i < data.length; i += 4) {
      const off = Math.abs(data[i] - red) + Math.abs(data[i + 1] - green) + Math.abs(data[i + 2] - blue)
      if (data[i + 3] > 60 && off < 40) count++
    }
  }
  return count
}"""


def browser_program() -> str:
    """Chromium without a window, which takes a quarter less than the whole browser; else the whole."""
    program = shutil.which("chromium-headless-shell") or shutil.which("chromium")
    if program is None:
        raise RuntimeError("Chromium is not installed: apt-get install chromium-headless-shell")
    return program


class BrowserCase(StaticLiveServerTestCase):
    @classmethod
    def setUpClass(cls):
        # The driver runs an event loop in this thread, which Django takes for asynchronous code.
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        super().setUpClass()
        cls.driver = sync_playwright().start()
        cls.browser = cls.driver.chromium.launch(executable_path=browser_program(), args=ARGUMENTS)

    @classmethod
    def tearDownClass(cls):
        cls.browser.close()
        cls.driver.stop()
        super().tearDownClass()
        os.environ.pop("DJANGO_ALLOW_ASYNC_UNSAFE", None)

    def setUp(self):
        self.complaints: list[str] = []
        self.page = self.new_page()

    def tearDown(self):
        self.assertEqual(self.complaints, [])

    def _fixture_teardown(self):
        # Tables are emptied only when nobody writes to them: both would wait for each other.
        until = time.monotonic() + PATIENCE_MS / 1000
        with connection.cursor() as cursor:
            while time.monotonic() < until:
                cursor.execute(AT_WORK)
                if not cursor.fetchone()[0]:
                    break
                time.sleep(0.02)
        for attempt in range(TEARDOWN_ATTEMPTS):
            try:
                return super()._fixture_teardown()
            except CommandError:
                # Somebody came between after all, and the database broke the tie against us.
                if attempt == TEARDOWN_ATTEMPTS - 1:
                    raise

    def new_page(self, **options) -> Page:
        """A window of a browser that was never here before."""
        context = self.browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True, **options)
        self.addCleanup(context.close)
        return self.watched(context.new_page())

    def watched(self, page: Page) -> Page:
        page.set_default_timeout(PATIENCE_MS)
        page.on("pageerror", lambda error: self.complaints.append(str(error)))
        page.on("console", lambda m: self.complaints.append(m.text) if self.is_complaint(m) else None)
        return page

    def is_complaint(self, message) -> bool:
        # A refused request is part of some tests; the browser notes each on its own.
        return message.type == "error" and "Failed to load resource" not in message.text

    def drop(self, selector: str, name: str, data: str | bytes, page: Page | None = None) -> None:
        content = data.encode() if isinstance(data, str) else data
        (page or self.page).evaluate(DROP, [selector, name, base64.b64encode(content).decode()])

    def file(self, name: str) -> bytes:
        """One of the demo's files."""
        return (DEMO / name).read_bytes()

    def begin(self, name: str = "van-title.svg", data: bytes | None = None) -> None:
        """From the list of jobs to the bench, by dropping a file: one of the demo's, or another."""
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Drop designs here").wait_for()
        self.drop(".jobs", name, self.file(name) if data is None else data)
        expect(self.page.locator(".work")).to_be_visible()

    def painted(self, color: tuple[int, int, int] = INK) -> int:
        """How many pixels of a colour there are on the work, once it is sharp."""
        expect(self.page.locator(".board").first).to_have_attribute("data-state", "sharp")
        return self.page.evaluate(PAINTED, list(color))

    def until(self, holds) -> None:
        """Waits for something to hold that the page does not tell by itself."""
        end = time.monotonic() + PATIENCE_MS / 1000
        while not holds():
            self.assertLess(time.monotonic(), end, "it does not come to hold")
            time.sleep(0.1)

    def unfold(self, summary) -> None:
        """Opens what is folded; once more where it was drawn anew under the pointer."""
        folded = summary.locator("xpath=..")
        self.until(lambda: summary.click() or folded.get_attribute("open") is not None)

    def go(self, station: str, page: Page | None = None) -> None:
        """To a station, and until its panel has come: its keys work from then on."""
        page = page or self.page
        page.get_by_role("navigation").get_by_role("link", name=station).click()
        expect(page.get_by_role("region", name=station, exact=True)).to_be_visible()
