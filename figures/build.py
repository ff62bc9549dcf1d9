"""What is built: previews of each operation, answered by the application that ./start runs; 10,000 hexagons clipped
beside shapely; frames while a thousand nodes are dragged."""

from __future__ import annotations

import json
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import shapely
from browser import launch
from drafts import _told
from playwright.sync_api import Page, sync_playwright

from hakobu import pipeline
from hakobu.formats import ReadOptions, by_id
from hakobu.geometry import Path as Outlines
from hakobu.geometry import bounds, flatten, scaling, transform
from hakobu.geometry.lattice import Lattice, hexagon
from hakobu.model import Document, Step
from hakobu.model.step import ON, Selection

ROOT = Path(__file__).resolve().parents[1]
FILES = ROOT / "demo" / "files"
TIMES = 20
#: For each operation what a hand changes, and from which value to which; what else it is given.
TRIED = {
    "open-along": ("gap_mm", 2.0, 20.0, {}),
    "symmetry": ("axis", 60.0, 70.0, {}),
    "interlock": ("gap_mm", 0.3, 1.0, {"rim_mm": 1.0}),
    "let-in": ("clearance_mm", 0.2, 1.5, {}),
    "caption": ("distance_mm", 1.0, 4.0, {}),
    "bridge": ("width_mm", 0.5, 3.0, {}),
    "join": ("width_mm", 0.5, 3.0, {}),
    "thicken": ("width_mm", 1.0, 3.0, {"where": "thin"}),
    "corners": ("size_mm", 0.5, 3.0, {}),
    "smooth": ("within_mm", 0.1, 0.6, {}),
    "pattern": ("spacing_mm", 4.0, 9.0, {"kind": "hexagons"}),
    "fold": ("inset_mm", 0.0, 3.0, {}),
    "edges": ("width_mm", 0.5, 3.0, {}),
    "dash": ("cut_mm", 1.0, 4.0, {}),
}
#: Asks for a preview as the bench does, and says how long the answer took until it lay there, in ms.
ASK = """async ([job, revision, step, number]) => {
  const token = document.cookie.match(/csrftoken=([^;]+)/)?.[1] ?? ''
  const begin = performance.now()
  const answer = await fetch(`/api/jobs/${job}/steps/preview`, {
    method: 'POST', headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token },
    body: JSON.stringify({ based_on: revision, step, checked: false, tab: 'figures', number }),
  })
  const size = (await answer.arrayBuffer()).byteLength
  return [performance.now() - begin, answer.status, size]
}"""


def build() -> Iterator[str]:
    yield _hexagons()
    port = ROOT / ".run" / "app.port"
    if not port.exists():
        yield "Previews are measured on the running application: run ./start first."
        return
    with sync_playwright() as driver:
        browser = launch(driver)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
        for name in ("capital-h.svg", "van-title.svg", "tree-bought.svg"):
            yield from _previews(page, f"http://127.0.0.1:{port.read_text().strip()}", name)
        yield _dragged(page, f"http://127.0.0.1:{port.read_text().strip()}")
        browser.close()


def _hexagons() -> str:
    """The demo's heron, so large that 10,000 hexagons come to lie in it."""
    read = by_id("svg").read((FILES / "heron-silhouette.svg").read_bytes(), ReadOptions()).document
    bird = next(piece for piece in read.pieces if piece.name == "heron")
    large = transform(bird.path, scaling(8.2))
    document = Document(None, read.layers, (replace(bird, path=large),))
    values = {"spacing_mm": 5.0, "width_mm": 1.0, "rim_mm": 3.0, "least_mm2": 1.0}
    step = Step("f", "pattern", 1, values, {ON: Selection({bird.id: None})})
    spent, count = [], 0
    for _ in range(5):
        begin = time.perf_counter()
        result = pipeline.run_step(document, step)
        spent.append(time.perf_counter() - begin)
        count = result.outcome.statistics["parts"]
    begin = time.perf_counter()
    _by_shapely(large)
    theirs = time.perf_counter() - begin
    return (
        f"{count:,} hexagons clipped to the heron: {np.median(spent):.2f} s (1 asked); "
        f"shapely's intersection and difference of chords {theirs:.2f} s"
    )


def _by_shapely(path: Outlines) -> shapely.Geometry:
    bird = shapely.Polygon(flatten(path, 0.01).outline(0))
    places = Lattice(5.0).places(bounds(path), 3**0.5 / 2, True)
    cell = hexagon(4.0, 0.0).ctrl[:, 0]
    cells = shapely.polygons(cell[None] + places[:, None])
    inner = bird.buffer(-3.0)
    return bird.difference(shapely.union_all(shapely.intersection(cells, inner)))


def brought(page: Page, address: str, name: str, data: bytes | None = None) -> dict:
    """A job of its own with a design of the demo, or with other bytes, on the bench."""
    page.goto(address)
    page.get_by_role("button", name="Drop designs here").wait_for()
    data = data or (FILES / name).read_bytes()
    page.get_by_label("Choose designs").set_input_files(
        {"name": f"figure-{name}", "mimeType": "image/svg+xml", "buffer": data}
    )
    page.get_by_role("navigation").get_by_role("link", name="Build").click(timeout=60_000)
    page.locator(".offer").first.wait_for()
    page.wait_for_timeout(4000)
    job = page.url.split("/jobs/")[1].split("/")[0]
    return json.loads(page.evaluate(f"fetch('/api/jobs/{job}').then((answer) => answer.text())"))


def _previews(page: Page, address: str, name: str) -> Iterator[str]:
    job = brought(page, address, name)
    drawing = (
        f"fetch('/api/jobs/{job['id']}/documents/{job['head']['document']}/drawing').then((answer) => answer.text())"
    )
    pieces = [piece["id"] for piece in json.loads(page.evaluate(drawing))["pieces"]]
    # Later questions of a tab have higher numbers.
    number, told = int(time.time() * 1000), []
    for operation, (parameter, low, high, more) in TRIED.items():
        spent = []
        for value in np.linspace(low, high, TIMES).tolist():
            number += 1
            typed = [value, 0.0, value, 100.0] if parameter == "axis" else round(value, 3)
            # One piece is let into the others; all else is for the whole design.
            selection = {"on": {"ids": pieces[-1:] if operation == "let-in" else pieces}}
            step = {"operation": operation, "parameters": {**more, parameter: typed}, "selection": selection}
            took, status, _ = page.evaluate(ASK, [job["id"], job["head"]["id"], step, number])
            if status == 200:
                spent.append(took)
        if len(spent) > 1:
            told.append((operation, float(np.quantile(spent[1:], 0.95)), _told(spent[1:])))
    for operation, _, words in sorted(told, key=lambda row: -row[1]):
        yield f"{name}, {operation}: {words} (p95 150 asked)"


def _dragged(page: Page, address: str) -> str:
    """A thousand nodes of the tree are picked and dragged; how far apart frames come."""
    brought(page, address, "tree-bought.svg")
    page.locator(".offer", has=page.get_by_text("move nodes by hand", exact=True)).click()
    page.wait_for_function("Number(document.querySelector('canvas.hands')?.dataset.nodes) > 500", timeout=60_000)
    page.wait_for_timeout(1500)
    box = page.locator(".work").bounding_box()
    page.keyboard.down("Shift")
    page.mouse.move(box["x"] + 20, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] - 20, box["y"] + box["height"] - 20, steps=4)
    page.mouse.up()
    page.keyboard.up("Shift")
    picked = int(page.locator("canvas.hands").get_attribute("data-picked"))
    at = page.evaluate("""() => {
      const canvas = document.querySelector('canvas.hands'); const box = canvas.getBoundingClientRect()
      const { data, width } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height)
      const middle = canvas.width * Math.floor(canvas.height / 2)
      for (let i = middle; i < data.length / 4; i++)
        if (data[4 * i + 3] === 255 && data[4 * i + 2] > 180 && data[4 * i] < 80)
          return [box.left + (i % width) + 2, box.top + Math.floor(i / width) + 3]
    }""")
    page.evaluate("""() => {
      window.frames = []
      const next = (now) => { frames.push(now); requestAnimationFrame(next) }
      requestAnimationFrame(next)
    }""")
    page.mouse.move(*at)
    page.mouse.down()
    for step in range(60):
        page.mouse.move(at[0] + step, at[1] + step / 2)
    gaps = page.evaluate("frames.slice(1).map((now, k) => now - frames[k])")
    page.mouse.up()
    return f"{picked:,} nodes dragged by hand: frames {_told(gaps)} apart (16.7 at 60 a second)"
