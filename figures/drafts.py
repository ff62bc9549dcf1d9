"""A step that is set up at Build: from a moved handle, or from a press, to painted lines, in Chromium, on the
application that ./start runs; and a combine by the command line beside the core's own boolean."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from statistics import median

import numpy as np
from browser import launch
from playwright.sync_api import Page, sync_playwright
from shapes import letters

from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.geometry import Path as Outlines
from hakobu.geometry.boolean import union
from hakobu.model import Document, Fill, Layer, Piece
from hakobu.model import Page as Sheet

ROOT = Path(__file__).resolve().parents[1]
FILES = ROOT / "demo" / "files"
MOVES = 40
#: Notes when the pointer moves a handle, and which draft is painted in which frame.
WATCH = """() => {
  window.inputs = []; window.frames = []
  const layer = document.querySelector('canvas.draft')
  addEventListener('pointermove', () => inputs.push(performance.now()), { capture: true })
  new MutationObserver(() => {
    const number = Number(layer.dataset.number)
    // A second frame begins when the first has been painted.
    requestAnimationFrame(() => requestAnimationFrame(() => frames.push([performance.now(), number])))
  }).observe(layer, { attributes: true, attributeFilter: ['data-number'] })
}"""


def drafts() -> Iterator[str]:
    yield from _shown()
    yield from _combined()


def _glyphs() -> bytes:
    """300 glyphs of a text face, side by side."""
    pieces = tuple(Piece(f"f:/{n}", shape, "l", fill=Fill("#000000")) for n, shape in enumerate(letters(300)))
    box = Document(None, (Layer("l", "L", "#000000"),), pieces).box
    page = Sheet(box[2] + 10, box[3] + 10)
    return by_id("svg").write(Document(page, (Layer("l", "L", "#000000"),), pieces), WriteOptions()).data


def _shown() -> Iterator[str]:
    port = ROOT / ".run" / "app.port"
    if not port.exists():
        yield "Drafts are measured on the running application: run ./start first."
        return
    designs = {
        "the title": ("van-title", (FILES / "van-title.svg").read_bytes()),
        "the tree": ("tree-bought", (FILES / "tree-bought.svg").read_bytes()),
        "300 glyphs": ("figure-glyphs", _glyphs()),
    }
    with sync_playwright() as driver:
        browser = launch(driver)
        for name, (file, data) in designs.items():
            page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
            page.goto(f"http://127.0.0.1:{port.read_text().strip()}/")
            page.get_by_role("button", name="Drop designs here").wait_for()
            page.get_by_label("Choose designs").set_input_files(
                {"name": f"{file}.svg", "mimeType": "image/svg+xml", "buffer": data}
            )
            page.get_by_role("navigation").get_by_role("link", name="Build").click(timeout=60_000)
            page.locator(".offer").first.wait_for()
            page.wait_for_timeout(3000)
            yield _form(page, name)
            yield _dragged(page, name)
            yield _welded(page, name)
            page.close()
        browser.close()


def _form(page: Page, name: str) -> str:
    took = page.evaluate("""async () => {
      const row = [...document.querySelectorAll('.offer')].find((one) => one.textContent.includes('lay a backing'))
      const begin = performance.now()
      row.click()
      while (!document.querySelector('.sentence')) await new Promise(requestAnimationFrame)
      return performance.now() - begin
    }""")
    return f"{name}: the form of a step is there {took:.0f} ms after the press (100 asked)."


def _dragged(page: Page, name: str) -> str:
    page.wait_for_function("Number(document.querySelector('canvas.draft')?.dataset.number) > 0")
    page.wait_for_timeout(1000)
    page.evaluate(WATCH)
    box = page.locator(".handle .knob").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    spent = []
    for step in range(MOVES):
        seen = page.evaluate("frames.length")
        page.mouse.move(x + 2 + step, y)
        page.wait_for_function("(f) => frames.length > f", arg=seen)
        spent.append(page.evaluate("frames.at(-1)[0] - inputs.at(-1)"))
        # Whatever is looked at longer comes in between as it would under a hand.
        page.wait_for_timeout(20)
    page.mouse.up()
    page.keyboard.press("Escape")
    return f"{name}, a backing, {MOVES} moves of its handle to painted lines: {_told(spent)}."


def _welded(page: Page, name: str) -> str:
    spent = []
    for _ in range(7):
        page.get_by_role("button", name="make them one").first.wait_for()
        took = page.evaluate("""async () => {
          const row = [...document.querySelectorAll('.offer')].find((one) => one.textContent.includes('make them one'))
          const begin = performance.now()
          row.click()
          const painted = () => Number(document.querySelector('canvas.draft')?.dataset.number) > 0
          while (!painted()) await new Promise(requestAnimationFrame)
          await new Promise(requestAnimationFrame)
          return performance.now() - begin
        }""")
        spent.append(took)
        page.keyboard.press("Escape")
        page.wait_for_timeout(800)
    return f"{name}, a weld, from the press to painted lines: {_told(spent)}."


def _told(spent: list[float]) -> str:
    return f"median {np.median(spent):.0f} ms, p95 {np.quantile(spent, 0.95):.0f} ms"


def _combined() -> Iterator[str]:
    """Whole processes that read and write alone, and that combine in between; the boolean itself in this process."""
    svg = by_id("svg")
    with tempfile.TemporaryDirectory() as folder:
        file, out = Path(folder) / "in.svg", Path(folder) / "out.svg"
        file.write_bytes(_glyphs())
        made = svg.read(file.read_bytes(), ReadOptions()).document
        shapes = [piece.path for piece in made.pieces]
        union(*shapes)
        begin = time.perf_counter()
        # The path anew each time: what is known of one is kept with it.
        union(*(Outlines.concatenate([shape]) for shape in shapes))
        alone = time.perf_counter() - begin
        plain = median(_process("convert", str(file), str(out)) for _ in range(5))
        whole = median(_process("do", "combine", str(file), str(out)) for _ in range(5))
    ratio = whole / (alone + plain)
    yield (
        f"hakobu do combine on 300 glyphs: {whole:.2f} s; reading and writing alone {plain:.2f} s and the core's own "
        f"union {alone:.3f} s: {ratio:.2f} times their sum (1.2 asked)."
    )


def _process(*words: str) -> float:
    begin = time.perf_counter()
    command = [sys.executable, "-m", "hakobu", *words]
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    subprocess.run(command, check=True, capture_output=True, env=environment)
    return time.perf_counter() - begin
