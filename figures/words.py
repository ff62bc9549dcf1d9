"""Words: from a key to painted lines in Chromium, on the application that ./start runs; whole processes of the command
line; the first use of each face; and letters welded beside shapely's union of their chords."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import shapely
from browser import launch
from drafts import _process, _told
from playwright.sync_api import Page, sync_playwright

from hakobu import pipeline
from hakobu.geometry import flatten
from hakobu.lettering.faces import FACES
from hakobu.model import Document, Step
from hakobu.model import Page as Sheet

ROOT = Path(__file__).resolve().parents[1]
LETTERS = "The heron and the kettle by the old mill"
#: Notes when a key is pressed, and which draft is painted in which frame.
WATCH = """() => {
  window.inputs = []; window.frames = []
  const layer = document.querySelector('canvas.draft')
  addEventListener('keydown', () => inputs.push(performance.now()), { capture: true })
  new MutationObserver(() => {
    const number = Number(layer.dataset.number)
    requestAnimationFrame(() => requestAnimationFrame(() => frames.push([performance.now(), number])))
  }).observe(layer, { attributes: true, attributeFilter: ['data-number'] })
}"""
#: Begins a process of its own, so that nothing of a face is known yet.
FIRST = """
import sys, time
from hakobu.lettering import outline_face, line_face
from hakobu.lettering.faces import face_of
from hakobu.lettering.setting import set_line, spaced
face_of("anton" if sys.argv[1] != "anton" else "fredoka").shape("warm", {})
begin = time.perf_counter()
set_line(face_of(sys.argv[1]), "Kettle")
print(time.perf_counter() - begin)
"""


def words() -> Iterator[str]:
    yield from _typed()
    yield from _first_use()
    yield from _welded()
    yield from _listed()


def _typed() -> Iterator[str]:
    port = ROOT / ".run" / "app.port"
    if not port.exists():
        yield "Words are measured on the running application: run ./start first."
        return
    with sync_playwright() as driver:
        browser = launch(driver)
        for face in ("archivo-black", "pacifico"):
            page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
            page.goto(f"http://127.0.0.1:{port.read_text().strip()}/")
            page.get_by_role("button", name="Begin with words").click()
            page.locator(".sentence").wait_for()
            yield _keys(page, face)
            page.close()
        browser.close()


def _keys(page: Page, face: str) -> str:
    page.get_by_label("words", exact=True).fill(LETTERS[:-1])
    page.locator("button.face").click()
    name = next(one.name for one in FACES if one.id == face)
    page.locator(".faces .row", has_text=name).first.click()
    page.get_by_role("button", name="Done").click()
    page.get_by_label("words", exact=True).focus()
    page.wait_for_timeout(2500)
    page.evaluate(WATCH)
    spent = []
    for turn in range(40):
        seen = page.evaluate("frames.length")
        page.keyboard.press("Backspace" if turn % 2 else "x")
        page.wait_for_function("(f) => frames.length > f", arg=seen)
        spent.append(page.evaluate("frames.at(-1)[0] - inputs.at(-1)"))
        # A quick hand types some five letters a second.
        page.wait_for_timeout(60)
    page.keyboard.press("Escape")
    return f"{len(LETTERS)} letters in {name}, from a key to painted lines, 40 keys: {_told(spent)} (150 asked)."


def _first_use() -> Iterator[str]:
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    took = {}
    for face in FACES:
        done = subprocess.run(
            [sys.executable, "-c", FIRST, face.id], check=True, capture_output=True, env=environment, text=True
        )
        took[face.name] = float(done.stdout) * 1e3
    slowest = max(took, key=took.get)
    usual, most = np.median(list(took.values())), took[slowest]
    yield f"First use of a face, median {usual:.0f} ms, most {most:.0f} ms ({slowest}; 300 asked)."


def _welded() -> Iterator[str]:
    text = (LETTERS * 9)[:330].replace(" ", "n")[:300]
    rows = "\n".join(text[k : k + 30] for k in range(0, 300, 30))
    page = Document(Sheet(1000, 1000))
    for face in ("archivo-black", "pacifico"):
        values = {"text": rows, "face": face, "size_mm": 12.0}
        steps = [Step("w", "words", 1, {**values, "weld": weld}) for weld in ("apart", "closed")]
        apart, _ = (pipeline.run_step(page, step) for step in steps)
        begin = time.perf_counter()
        made = pipeline.run_step(page, steps[1])
        ours = time.perf_counter() - begin
        chords = [flatten(piece.path, 0.005) for piece in apart.document.pieces]
        shapes = [shapely.Polygon(c.outline(k)).buffer(0) for c in chords for k in range(len(c))]
        begin = time.perf_counter()
        shapely.union_all(shapes)
        theirs = time.perf_counter() - begin
        yield (
            f"300 letters in {face} set, closed up and welded: {ours * 1e3:.0f} ms (500 asked), "
            f"{len(made.document.pieces)} pieces; shapely alone, on chords, {theirs * 1e3:.0f} ms."
        )


def _listed() -> Iterator[str]:
    drawn = np.random.default_rng(7)
    names = ["".join(drawn.choice(list("abcdeilmnorstu"), 7)).capitalize() for _ in range(1000)]
    with tempfile.TemporaryDirectory() as folder:
        file, out = Path(folder) / "names.txt", Path(folder) / "names.svg"
        file.write_text("\n".join(names))
        one = min(_process("words", "Kettle", str(out)) for _ in range(5))
        for face, weld in (("archivo-black", "closed"), ("pacifico", "touching")):
            more = ("--list", "--columns", "20", "--face", face, "--weld", weld)
            took = _process("words", str(file), str(out), *more)
            yield f"1,000 names of 7 letters in {face}, {weld}, by the command line: {took:.1f} s (10 asked)."
    yield f"One word by the command line, the whole process: {one:.2f} s."
