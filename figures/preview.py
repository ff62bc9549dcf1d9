"""From the moved slider to painted lines: the real slider, in Chromium, on the application that ./start runs."""

from __future__ import annotations

import io
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from browser import launch
from PIL import Image
from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
SCAN = ROOT / "demo" / "files" / "heron-scan.jpg"
DRAGS = 40
#: Notes when each input comes, and which answer is painted in which frame.
WATCH = """() => {
  window.inputs = []; window.frames = []
  const path = document.querySelector('.found')
  const slider = [...document.querySelectorAll('input[type=range]')][0]
  slider.addEventListener('input', () => inputs.push(performance.now()), { capture: true })
  new MutationObserver(() => {
    const number = Number(path.dataset.number)
    // A second frame begins when the first has been painted.
    requestAnimationFrame(() => requestAnimationFrame(() => frames.push([performance.now(), number])))
  }).observe(path, { attributes: true, attributeFilter: ['data-number'] })
}"""


def picture(megapixels: float) -> bytes:
    """The heron's scan at so many pixels."""
    image = Image.open(SCAN)
    factor = (megapixels * 1e6 / (image.width * image.height)) ** 0.5
    image = image.resize((round(image.width * factor), round(image.height * factor)), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    image.save(out, "PNG", dpi=(300 * factor, 300 * factor))
    return out.getvalue()


def preview() -> Iterator[str]:
    port = ROOT / ".run" / "app.port"
    if not port.exists():
        yield "Previews are measured on the running application: run ./start first."
        return
    address = f"http://127.0.0.1:{port.read_text().strip()}/"
    with sync_playwright() as driver:
        browser = launch(driver)
        for megapixels in (1.0, 4.0):
            page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
            _open(page, address, megapixels)
            yield _dragged(page, megapixels)
            yield _released(page, megapixels)
            page.close()
        browser.close()


def _open(page: Page, address: str, megapixels: float) -> None:
    page.goto(address)
    # The job of an earlier measurement serves again.
    known = page.get_by_role("link", name=f"Figure {megapixels:g} ")
    page.locator(".job").first.wait_for()
    if known.count():
        known.first.click()
    else:
        _begin(page, megapixels)
        page.get_by_role("link", name="Trace this picture").click(timeout=60_000)
    page.wait_for_function("document.querySelector('.found')?.dataset.number > 0")
    page.evaluate(WATCH)


def _begin(page: Page, megapixels: float) -> None:
    file = {"name": f"figure-{megapixels:g}.png", "mimeType": "image/png", "buffer": picture(megapixels)}
    page.get_by_label("Choose designs").set_input_files(file)


def _dragged(page: Page, megapixels: float) -> str:
    """One long drag of many moves; after each the painted answer is waited for."""
    box = page.get_by_label("Darkness", exact=True).bounding_box()
    y = box["y"] + box["height"] / 2
    page.mouse.move(box["x"] + box["width"] * 0.3, y)
    page.mouse.down()
    page.wait_for_timeout(600)
    spent = []
    for step in range(DRAGS):
        seen = page.evaluate("[inputs.length, frames.length]")
        page.mouse.move(box["x"] + box["width"] * (0.32 + 0.01 * step), y)
        page.wait_for_function("([i, f]) => inputs.length > i && frames.length > f", arg=seen)
        spent.append(page.evaluate("frames.at(-1)[0] - inputs.at(-1)"))
    page.mouse.up()
    page.wait_for_timeout(800)
    numbers = [number for _, number in page.evaluate("frames")]
    never = numbers == sorted(numbers)
    order = "no older answer was painted after a newer one" if never else "AN OLDER ANSWER WAS PAINTED"
    return (
        f"{megapixels:g} megapixel scan, {DRAGS} moves of the slider, from input to painted lines: median "
        f"{np.median(spent):.0f} ms, p95 {np.quantile(spent, 0.95):.0f} ms; {order}."
    )


def _released(page: Page, megapixels: float) -> str:
    """A typed value asks for the exact trace."""
    field, spent = page.get_by_label("Darkness, typed"), []
    for percent in (45, 50, 55, 60, 48, 52, 57):
        field.fill(str(percent))
        seen = page.evaluate("[performance.now(), frames.length]")
        field.press("Enter")
        page.wait_for_function("(f) => frames.length > f", arg=seen[1])
        spent.append(page.evaluate("frames.at(-1)[0]") - seen[0])
    return f"{megapixels:g} megapixels exact, from the typed value to painted lines: median {np.median(spent):.0f} ms."
