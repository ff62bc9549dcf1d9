"""A piece dragged among 300 on a sheet, its nearest distance told: frames a second, in Chromium without a GPU, on the
application that ./start runs."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
from browser import launch
from playwright.sync_api import Page, sync_playwright

from hakobu import pipeline
from hakobu.geometry import transform, translation
from hakobu.model import Document, Fill, Layer, Piece
from hakobu.sheets.packing.shapes import Shape

ROOT = Path(__file__).resolve().parents[1]
#: Pieces in a row before they are packed, from one to the next in mm, and the sheet that holds them all.
ROW, PITCH_MM, SHEET_MM = 20, 160.0, (1200.0, 800.0)
MOVES, INK = 180, "#b4673e"
#: The step that lays the job's design on one sheet, packed.
LAY = """async ([width, height]) => {
  const job = location.pathname.split('/')[2]
  const token = document.cookie.match(/csrftoken=([^;]+)/)?.[1] ?? ''
  const headers = { 'Content-Type': 'application/json', 'X-CSRFToken': token }
  const { head } = await (await fetch(`/api/jobs/${job}`)).json()
  const parameters = { arrange: 'packed', width_mm: width, height_mm: height, turns: 'fixed' }
  const steps = [...head.steps.map(({ key }) => ({ key })), { operation: 'sheets', parameters, selection: {} }]
  const body = JSON.stringify({ based_on: head.id, steps, token: crypto.randomUUID() })
  const answer = await fetch(`/api/jobs/${job}/revisions`, { method: 'POST', headers, body })
  return answer.status
}"""
AWAY = """async () => {
  const job = location.pathname.split('/')[2]
  const token = document.cookie.match(/csrftoken=([^;]+)/)?.[1] ?? ''
  await fetch(`/api/jobs/${job}`, { method: 'DELETE', headers: { 'X-CSRFToken': token } })
}"""
WATCH = """() => {
  window.frames_ = []
  let last = performance.now()
  const tick = (now) => { window.frames_.push(now - last); last = now; requestAnimationFrame(tick) }
  requestAnimationFrame(tick)
}"""


def sheet_drag(shapes: list[Shape]) -> Iterator[str]:
    port = ROOT / ".run" / "app.port"
    if not port.exists():
        yield "Dragging is measured on the running application: run ./start first."
        return
    with sync_playwright() as driver:
        browser = launch(driver)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.set_default_timeout(180_000)
        page.goto(f"http://127.0.0.1:{port.read_text().strip()}/")
        file = {"name": "drag.svg", "mimeType": "image/svg+xml", "buffer": _design(shapes)}
        page.get_by_label("Choose designs").set_input_files(file)
        page.wait_for_url("**/jobs/**")
        page.locator(".board[data-state=sharp]").wait_for(state="attached")
        try:
            page.evaluate(LAY, list(SHEET_MM))
            yield _dragged(page, len(shapes))
        finally:
            page.evaluate(AWAY)
            browser.close()


def _design(shapes: list[Shape]) -> bytes:
    layer = Layer("art", "Art", INK)
    pieces = tuple(
        Piece(
            f"p{n}", transform(shape.path, translation(n % ROW * PITCH_MM, n // ROW * PITCH_MM)), "art", fill=Fill(INK)
        )
        for n, shape in enumerate(shapes)
    )
    return pipeline.write(Document(layers=(layer,), pieces=pieces), "svg").data


def _dragged(page: Page, count: int) -> str:
    page.goto("/".join(page.url.split("/")[:5]) + "/sheet")
    page.locator("g.item").nth(count - 1).wait_for(state="attached")
    page.wait_for_load_state("networkidle")
    items = page.locator("g.item")
    box = items.nth(count // 2).bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.evaluate(WATCH)
    page.mouse.move(x, y)
    page.mouse.down()
    page.evaluate("() => { frames_.length = 0 }")
    told = set()
    for move in range(MOVES):
        page.mouse.move(x + 120 * np.sin(move / 20), y + 80 * np.sin(move / 31))
        if move % 30 == 0 and page.locator("text.apart").count():
            told.add(page.locator("text.apart").text_content())
    frames = np.array(page.evaluate("frames_.slice(1)"))
    page.mouse.up()
    return (
        f"A piece dragged among {count}: {1000 / np.median(frames):.0f} frames a second in the median, "
        f"{1000 / np.quantile(frames, 0.95):.0f} in the slowest twentieth, of {len(frames)}; "
        f"the first {frames[0]:.0f} ms; {len(told)} distances were told."
    )
