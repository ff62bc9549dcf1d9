"""Sizing: previews of every aim on the demo's designs and on 100,000 segments, answered by the application that ./start
runs; how exactly a typed size is met."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import asdict
from pathlib import Path

import numpy as np
from browser import launch
from build import ASK, FILES, brought
from drafts import _told
from faults import letters
from playwright.sync_api import Page, sync_playwright

from hakobu import pipeline
from hakobu.formats import ReadOptions, WriteOptions, by_id
from hakobu.model import Document, Step
from hakobu.model.targets import TARGETS

ROOT = Path(__file__).resolve().parents[1]
TIMES = 20
NAMES = ("capital-h.svg", "van-title.svg", "tree-bought.svg", "stencil-moon.svg", "lantern-frame.svg")
SEGMENTS = 100_000


def size() -> Iterator[str]:
    yield _met()
    port = ROOT / ".run" / "app.port"
    if not port.exists():
        yield "Previews are measured on the running application: run ./start first."
        return
    address = f"http://127.0.0.1:{port.read_text().strip()}"
    large = letters(SEGMENTS)
    with sync_playwright() as driver:
        browser = launch(driver)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
        for name in NAMES:
            read = by_id("svg").read((FILES / name).read_bytes(), ReadOptions()).document
            yield from _previews(page, address, name, read, None, 100)
        data = by_id("svg").write(large, WriteOptions()).data
        yield from _previews(page, address, f"{SEGMENTS:,} segments.svg", large, data, 300)
        browser.close()


def _met() -> str:
    """The farthest that the width of a design is off one that was typed."""
    random, off = np.random.default_rng(4), 0.0
    for name in NAMES:
        design = by_id("svg").read((FILES / name).read_bytes(), ReadOptions()).document
        for width in random.uniform(5, 2000, 20).tolist():
            made = pipeline.run_step(design, Step("f", "resize", 3, {"width_mm": width})).document
            off = max(off, abs(made.size_mm[0] - width))
    return f"100 typed widths on {len(NAMES)} designs: met within {off:.1e} mm (1e-6 asked)"


def _aims(design: Document) -> dict[str, tuple[str, str, float, float, dict]]:
    """For each aim the operation, what a hand changes and between which values, and what else it is given."""
    left, top, right, bottom = design.box
    middle = [(left + right) / 2, (top + bottom) / 2]
    tile = asdict(TARGETS[0])
    return {
        "width": ("resize", "width_mm", 50.0, 300.0, {}),
        "target": ("resize", "clear_mm", 0.0, 9.0, {"target": tile}),
        "strip": ("size-by", "to_mm", 1.0, 9.0, {"feature": "strip", "at": middle}),
        "nodes": ("size-by", "to_mm", 50.0, 90.0, {"feature": "distance", "ends": [left, top, right, bottom]}),
        "width, holes stay": ("resize", "width_mm", 50.0, 300.0, {"holes_mm": 5.0}),
    }


def _previews(page: Page, address: str, name: str, design: Document, data: bytes | None, asked: int) -> Iterator[str]:
    job = brought(page, address, name, data)
    number = int(time.time() * 1000)
    for aim, (operation, parameter, low, high, more) in _aims(design).items():
        spent = []
        for value in np.linspace(low, high, TIMES).tolist():
            number += 1
            step = {"operation": operation, "parameters": {**more, parameter: round(value, 3)}, "selection": {}}
            took, status, _ = page.evaluate(ASK, [job["id"], job["head"]["id"], step, number])
            if status == 200:
                spent.append(took)
        if len(spent) > 1:
            yield f"{name}, {aim}: {_told(spent[1:])} (p95 {asked} asked)"
