"""The browser that figures of the interface are measured in."""

from __future__ import annotations

import shutil

from playwright.sync_api import Browser, Playwright

ARGUMENTS = ["--headless", "--no-sandbox", "--disable-gpu", "--no-first-run"]


def launch(driver: Playwright) -> Browser:
    """The whole Chromium where it is installed, else the one without a window that the tests use."""
    program = shutil.which("chromium") or shutil.which("chromium-headless-shell")
    return driver.chromium.launch(executable_path=program, args=ARGUMENTS)
