"""Nothing typed is lost: entries without a connection, a form over a reload, and what was deleted."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import BrowserCase
from e2e.test_demo import DemoCase
from server.builds.models import Build
from server.logbook.models import JournalEntry


class Keeping(DemoCase):
    def test_an_entry_without_a_connection_is_sent_once_when_it_is_back(self) -> None:
        page = self.page
        self.open(self.care())
        text = page.get_by_role("textbox", name="What happened")
        text.fill("Left rear bearing squeaks.")
        page.reload()
        expect(text).to_have_value("Left rear bearing squeaks.")
        self.context.set_offline(True)
        page.get_by_role("button", name="Write it down").click()
        expect(page.get_by_text("1 entry kept here, sent when the server answers.")).to_be_visible()
        expect(text).to_have_value("")
        self.assertEqual(JournalEntry.objects.filter(text__contains="squeaks").count(), 0)
        self.context.set_offline(False)
        expect(page.get_by_text(re.compile("kept here, sent when"))).to_have_count(0)
        expect(page.get_by_text("Left rear bearing squeaks.")).to_be_visible()
        self.assertEqual(JournalEntry.objects.filter(text__contains="squeaks").count(), 1)

    def care(self) -> str:
        build = Build.objects.get(name="Marmalade")
        return f"/builds/{build.pk}/setups/{build.setups.get(in_use=True).pk}/care"

    def test_what_is_deleted_comes_back_at_once_or_out_of_the_bin(self) -> None:
        page = self.page
        self.open("/")
        riders = page.get_by_role("region", name="Riders")
        name = riders.get_by_role("listitem").first.locator("b").inner_text()
        remove = riders.get_by_role("button", name=f"Remove {name}")
        remove.click()
        expect(remove).to_have_count(0)
        page.get_by_role("button", name="Bring it back").click()
        expect(remove).to_be_visible()
        remove.click()
        page.get_by_role("button", name="Close").click()
        page.get_by_text("Bin", exact=True).click()
        page.get_by_role("button", name=f"Bring {name} back").click()
        expect(page.get_by_text("Empty.")).to_be_visible()
        expect(remove).to_be_visible()
        self.assertEqual(self.axe(), [])


class WithoutAConnection(BrowserCase):
    service_workers = "allow"

    def test_it_opens_without_one(self) -> None:
        """Its shell is kept by the browser: opened again with no connection it is there and says what is missing, and none of the server's answers was kept."""
        page = self.page
        self.open_garage()
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.reload()
        page.wait_for_function("navigator.serviceWorker.controller !== null")
        self.context.set_offline(True)
        page.goto(f"{self.live_server_url}/start")
        expect(page.get_by_role("alert")).to_contain_text("The server does not answer")
        kept = page.evaluate("caches.keys().then(n => Promise.all(n.map(x => caches.open(x).then(c => c.keys())))).then(a => a.flat().map(r => new URL(r.url).pathname))")
        self.assertTrue(kept)
        self.assertEqual([path for path in kept if path.startswith("/api")], [])
        self.context.set_offline(False)
        page.reload()
        expect(page.get_by_role("heading", name="Which machine?")).to_be_visible()
