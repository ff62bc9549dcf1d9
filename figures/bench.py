"""The bench under the hand: frames while the work is moved and zoomed, when it is sharp again, the first picture and a
pick, in Chromium without a GPU, on the application that ./start runs; beside the same lines as an SVG in the page."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import numpy as np
from browser import launch
from playwright.sync_api import Page, sync_playwright
from shapes import blobs

from hakobu import pipeline
from hakobu.geometry import Path as Outlines
from hakobu.model import Document, Fill, Layer, Piece
from hakobu.model.document import Page as Sheet

ROOT = Path(__file__).resolve().parents[1]
#: Nodes of a shape, and how far shapes stand from each other, in mm.
EACH, PITCH_MM = 100, 10.0
SIZES = (50_000, 300_000)
#: So many gestures, each of so many moves.
GESTURES, MOVES = 20, 24
PLACES = 300
#: Notes when frames come, and when the work is sharp.
WATCH = """() => {
  window.frames_ = []; window.sharpAt = 0
  const board = document.querySelector('.board')
  new MutationObserver(() => { if (board.dataset.state === 'sharp') window.sharpAt = performance.now() })
    .observe(board, { attributes: true, attributeFilter: ['data-state'] })
  let last = performance.now()
  const tick = (now) => { window.frames_.push(now - last); last = now; requestAnimationFrame(tick) }
  requestAnimationFrame(tick)
}"""
#: Of the page as it opens: when the lines had come, and when they were on the screen.
FIRST = """() => {
  new MutationObserver(() => {
    const board = document.querySelector('.board')
    if (board?.dataset.state === 'sharp' && board.querySelector('canvas[style*="visible"]') && !window.firstAt) {
      requestAnimationFrame(() => requestAnimationFrame(() => (window.firstAt = performance.now())))
    }
  }).observe(document, { subtree: true, attributes: true, childList: true, attributeFilter: ['data-state', 'style'] })
}"""
PICK = """([places]) => {
  const work = document.querySelector('.work'), box = work.getBoundingClientRect(), spent = []
  for (const [u, v] of places) {
    const at = { clientX: box.left + u * box.width, clientY: box.top + v * box.height, pointerType: 'mouse' }
    const begin = performance.now()
    work.dispatchEvent(new PointerEvent('pointermove', { ...at, bubbles: true }))
    spent.push(performance.now() - begin)
  }
  return spent
}"""
#: The same lines as an SVG in the page, moved and zoomed by its transform.
AS_SVG = """async ([address, frames]) => {
  const bytes = await (await fetch(address)).arrayBuffer()
  const size = new DataView(bytes).getUint32(0, true)
  const table = JSON.parse(new TextDecoder().decode(new Uint8Array(bytes, 4, size)))
  const points = new Float32Array(bytes, 4 + size)
  const data = []
  let p = 0
  for (const [, count] of table) {
    let d = 'M'
    for (let i = p; i < p + count - 1; i++) d += `${points[2 * i].toFixed(3)} ${points[2 * i + 1].toFixed(3)} `
    data.push(`<path d="${d}Z" vector-effect="non-scaling-stroke"/>`)
    p += count
  }
  const drawn = `<g fill="#1b2a4e12" stroke="#1b2a4e">${data.join('')}</g>`
  document.body.innerHTML = `<svg width="708" height="718">${drawn}</svg>`
  const group = document.querySelector('g'), spent = []
  await new Promise((done) => {
    let last = performance.now(), n = 0
    const tick = (now) => {
      if (n) spent.push(now - last)
      last = now
      const by = 1 + 0.5 * Math.sin(n / 12)
      group.setAttribute('transform', `translate(${40 + n} ${30 + n}) scale(${by})`)
      if (n++ < frames) requestAnimationFrame(tick)
      else done()
    }
    requestAnimationFrame(tick)
  })
  return spent
}"""


def design(nodes: int) -> bytes:
    """Shapes of a hundred cubics each on a square sheet, as SVG."""
    count = nodes // EACH
    whole = blobs(count, EACH, PITCH_MM)
    pieces = tuple(
        Piece(f"b{k}", Outlines.concatenate([outline]), "card", fill=Fill("#1b2a4e"))
        for k, outline in enumerate(whole.outlines())
    )
    side = np.ceil(count**0.5) * PITCH_MM
    return pipeline.write(Document(Sheet(side, side), (Layer("card", "Card", "#1b2a4e"),), pieces), "svg").data


def bench() -> Iterator[str]:
    port = ROOT / ".run" / "app.port"
    if not port.exists():
        yield "The bench is measured on the running application: run ./start first."
        return
    address = f"http://127.0.0.1:{port.read_text().strip()}/"
    with sync_playwright() as driver:
        browser = launch(driver)
        for nodes in SIZES:
            page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
            page.set_default_timeout(180_000)
            _brought(page, address, nodes)
            yield from measured(page, address, nodes)
            page.close()
        browser.close()


def _brought(page: Page, address: str, nodes: int) -> None:
    """The bench with the design on it; the job of an earlier measurement serves again."""
    page.goto(address)
    page.locator(".job").first.wait_for()
    known = page.get_by_role("link", name=f"Bench {nodes} ")
    if known.count():
        known.first.click()
    else:
        file = {"name": f"bench-{nodes}.svg", "mimeType": "image/svg+xml", "buffer": design(nodes)}
        page.get_by_label("Choose designs").set_input_files(file)
    page.wait_for_url("**/jobs/**")
    page.locator(".board[data-state=sharp]").wait_for(state="attached")


def measured(page: Page, address: str, nodes: int) -> Iterator[str]:
    name = f"{nodes:,} nodes"
    page.add_init_script(f"({FIRST})()")
    first = []
    for _ in range(3):
        page.reload()
        page.wait_for_function("window.firstAt > 0")
        came = "performance.getEntriesByType('resource').find((r) => r.name.includes('/paths'))"
        first.append(page.evaluate(f"window.firstAt - {came}.responseEnd"))
    yield f"{name}: first picture {np.median(first):.0f} ms after the last byte of its lines had come."
    page.keyboard.press("2")
    page.wait_for_timeout(1500)
    page.evaluate(WATCH)
    yield from _moved(page, name)
    # Warm, as all figures: the first half of the places is not counted.
    places = np.random.default_rng(7).uniform(0.1, 0.9, (2 * PLACES, 2)).tolist()
    spent = page.evaluate(PICK, [places])[PLACES:]
    yield f"{name}: a pick, median {np.median(spent):.2f} ms, p95 {_high(spent):.2f} ms."
    paths = page.evaluate("performance.getEntriesByType('resource').find((r) => r.name.includes('/paths')).name")
    page.goto(f"{address}static/lantern.svg")
    page.goto(address)
    frames = page.evaluate(AS_SVG, [paths, 20 if nodes > 100_000 else 60])
    yield f"{name} as an SVG in the page: frame median {np.median(frames):.0f} ms, p95 {_high(frames):.0f} ms."


def _high(values: list[float]) -> float:
    return float(np.quantile(values, 0.95))


def _moved(page: Page, name: str) -> Iterator[str]:
    """The work dragged, zoomed in and out, by the mouse."""
    box = page.locator(".work").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    frames, sharp = [], []
    for gesture in range(GESTURES):
        if gesture % 4 == 0:
            page.keyboard.press("0")
            page.wait_for_function("document.querySelector('.board').dataset.state === 'sharp'")
        page.evaluate("() => { frames_.length = 0; sharpAt = 0 }")
        page.mouse.move(x, y)
        if gesture % 2:
            for _ in range(MOVES):
                page.mouse.wheel(0, -60 if gesture % 4 == 1 else 60)
                page.wait_for_timeout(8)
        else:
            page.mouse.down()
            for move in range(MOVES):
                page.mouse.move(x + 8 * move * (-1 if gesture % 4 else 1), y + 5 * move)
            page.mouse.up()
        ended = page.evaluate("performance.now()")
        frames += page.evaluate("frames_.slice(1)")
        page.wait_for_function("document.querySelector('.board').dataset.state === 'sharp'")
        sharp.append(max(page.evaluate("sharpAt") - ended, 0.0))
    yield (
        f"{name}, dragged and zoomed: frame median {np.median(frames):.0f} ms, p95 {_high(frames):.0f} ms, "
        f"of {len(frames)}; sharp after median {np.median(sharp):.0f} ms, p95 {_high(sharp):.0f} ms."
    )
