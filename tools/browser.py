"""Debian's Chromium under Playwright, for the screenshots and the browser tests."""

from __future__ import annotations

from playwright.sync_api import Browser, Playwright, ViewportSize

DESK: ViewportSize = {"width": 1280, "height": 800}
PHONE: ViewportSize = {"width": 390, "height": 844}

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--force-color-profile=srgb",
]


def launch(playwright: Playwright) -> Browser:
    """Headless Chromium that asks the network for nothing."""
    return playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
