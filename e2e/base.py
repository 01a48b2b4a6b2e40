"""What the browser tests share: one Chromium a class, one context a test, and no error in the console."""

from __future__ import annotations

import os
import re
import threading
from pathlib import Path
from typing import Any, ClassVar, Literal
from unittest.mock import patch

from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.signals import request_finished, request_started
from playwright.sync_api import Browser, Page, expect, sync_playwright

from tools.browser import DESK, launch

AXE = Path(__file__).resolve().parent.parent / "web" / "node_modules" / "axe-core" / "axe.min.js"


NOTHING_UNDERWAY = """async () => {
    const still = () => document.documentElement.dataset.underway === "0" && !document.querySelector('[data-save="saving"], [data-save="waiting"]');
    const drawn = () => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 20)));
    for (let seen = 0, tried = 0; tried < 100; tried += 1) {
        seen = still() ? seen + 1 : 0;
        if (seen > 3) return true;
        await drawn();
    }
    return false;
}"""
AXE_ASKED = """async (within) => {
    const runOnly = ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"];
    const found = await axe.run(within || document, { runOnly, resultTypes: ["violations"], selectors: false, preload: false });
    return found.violations
        .filter((one) => ["serious", "critical"].includes(one.impact))
        .map((one) => `${one.id}: ${one.nodes[0].html.slice(0, 160)} ${(one.nodes[0].failureSummary ?? "").slice(0, 200)}`);
}"""
HURRIED = """(() => {
    const patient = window.setTimeout;
    window.setTimeout = (work, ms = 0, ...rest) => patient(work, ms > 100 && ms <= 1000 ? ms / 10 : ms, ...rest);
})()"""
"""The page waits for a pause in the typing before it asks for what takes long, and before it saves. Here nobody types on: a tenth of that is enough."""
LOOKS = 12
"""So often the page is asked for at most two to four seconds each."""


class Underway:
    """How many requests the live server is answering, from Django's own signals."""

    def __init__(self) -> None:
        self._count = 0
        self._changed = threading.Condition()
        request_started.connect(self._started, weak=False)
        request_finished.connect(self._finished, weak=False)

    def stop(self) -> None:
        """Listen no more."""
        request_started.disconnect(self._started)
        request_finished.disconnect(self._finished)

    def _started(self, **_: Any) -> None:
        with self._changed:
            self._count += 1

    def _finished(self, **_: Any) -> None:
        with self._changed:
            self._count -= 1
            self._changed.notify_all()

    def wait(self) -> None:
        """Return when the last answer is out. Raises TimeoutError after 10 s."""
        with self._changed:
            if not self._changed.wait_for(lambda: self._count <= 0, timeout=10):
                raise TimeoutError(f"{self._count} requests still being answered 10 s after the browser left")


class BrowserCase(StaticLiveServerTestCase):
    """A live server, a browser, and helpers that speak as a user would."""

    underway: ClassVar[Underway]
    browser: ClassVar[Browser]
    viewport = DESK
    locale = "en-GB"
    service_workers: Literal["allow", "block"] = "block"
    """A service worker fetches all of the application anew for each browser: only a test of it wants one."""

    @classmethod
    def setUpClass(cls) -> None:
        # Playwright's loop runs in this thread; Django would refuse its own database calls beside it.
        unsafe = patch.dict(os.environ, {"DJANGO_ALLOW_ASYNC_UNSAFE": "1"})
        unsafe.start()
        cls.addClassCleanup(unsafe.stop)
        cls.underway = Underway()
        cls.addClassCleanup(cls.underway.stop)
        super().setUpClass()
        playwright = sync_playwright().start()
        cls.addClassCleanup(playwright.stop)
        cls.browser = launch(playwright)
        cls.addClassCleanup(cls.browser.close)
        # Long: a slow machine under load is no failure; what is there at once is seen at once all the same.
        expect.set_options(timeout=20_000)

    def setUp(self) -> None:
        # After the browser has left (cleanups run last in, first out): emptying the database under a running query would fail.
        self.addCleanup(self.underway.wait)
        self.context = self.browser.new_context(viewport=self.viewport, locale=self.locale, service_workers=self.service_workers)
        self.addCleanup(self.context.close)
        self.context.add_init_script(HURRIED)
        self.page: Page = self.context.new_page()
        self.page.set_default_timeout(20_000)
        self.troubles: list[str] = []
        self.expected_statuses: set[int] = set()
        self.watch(self.page)

    def watch(self, page: Page) -> None:
        """Collect script errors and answers that were not asked for."""
        page.on("pageerror", lambda error: self.troubles.append(f"page: {error}"))
        page.on("response", lambda r: self.troubles.append(f"{r.status} {r.url}") if r.status >= 400 and r.status not in self.expected_statuses else None)

    def tearDown(self) -> None:
        folder = os.environ.get("GECKO_E2E_PICTURES")
        if folder:
            self.page.screenshot(path=Path(folder) / f"{self.id()}.png")
        self.assertEqual(self.troubles, [])

    def open(self, path: str = "/") -> None:
        """Go to an address of the application."""
        self.page.goto(f"{self.live_server_url}{path}")

    def open_garage(self) -> None:
        """The first visit: make the account."""
        self.open()
        self.page.get_by_label("Your name").fill("ada")
        self.page.get_by_label("Password").fill("orchard-gate-7")
        self.page.get_by_label("Name of the garage").fill("Plum Yard")
        self.page.get_by_role("button", name="Open the garage").click()
        expect(self.page.get_by_role("heading", name="Plum Yard")).to_be_visible()

    def clear_stops(self) -> None:
        """Take the first offered fix of the first stop until no stop is left."""
        stops = self.page.locator("[data-findings] article").filter(has=self.page.locator("b", has_text=re.compile("^Stop$")))
        for _ in range(12):
            self.settled()
            if stops.count() == 0:
                return
            fix = stops.first.locator("button.btn").first
            fix.click()
            self.saved()
        self.fail(f"Stops are left: {stops.all_inner_texts()}")

    def settled(self, page: Page | None = None) -> None:
        """Wait until nothing is on its way to the screen any more, the page's own word for it: not for a while without requests."""
        shown = page or self.page
        for _ in range(LOOKS):
            # Twice in a row: between an answer and what is asked because of it lies one drawing of the page.
            if shown.evaluate(NOTHING_UNDERWAY):
                return
        self.fail(f"Still on its way: {shown.evaluate('document.documentElement.dataset.underway')}")

    def saved(self) -> None:
        """Wait until the edit is on the server."""
        expect(self.page.locator('[data-save="saved"]').first).to_be_attached()

    def axe(self, within: str = "") -> list[str]:
        """Serious and critical findings of axe on the page as it is, or on one part of it: what stays while a section changes is looked at once."""
        # Evaluated, not added as a tag: the content security policy would refuse that, as it should. Only what was found is named and sent over:
        # selectors of thousands of sound elements took most of the time of all browser tests.
        if not self.page.evaluate("() => 'axe' in window"):
            self.page.evaluate(f"{AXE.read_text(encoding='utf-8')}; undefined")
        return list(self.page.evaluate(AXE_ASKED, within))

    def too_wide(self) -> list[str]:
        """What makes the page wider than its window, if it is."""
        return list(
            self.page.evaluate(
                """() => document.documentElement.scrollWidth <= window.innerWidth ? [] :
                ['too wide', ...[...document.querySelectorAll('body *')].filter((e) => e.getBoundingClientRect().right > window.innerWidth + 1)
                .slice(0, 4).map((e) => `${e.tagName} ${e.className}`)]"""
            )
        )
