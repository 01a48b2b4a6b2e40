"""A garage taken along as a file into another one, and a build shown by a link to who has no account."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from playwright.sync_api import expect

from e2e.test_demo import DemoCase
from tools.browser import PHONE


class Sharing(DemoCase):
    def test_a_whole_garage_goes_into_another_one(self) -> None:
        page = self.page
        self.open("/")
        page.get_by_text("Garages", exact=True).click()
        with tempfile.TemporaryDirectory() as folder:
            with page.expect_download() as download:
                page.get_by_role("link", name="Save all of Tideline Shed as one file").click()
            file = Path(folder) / download.value.suggested_filename
            download.value.save_as(file)
            self.assertEqual(file.name, "tideline-shed.gecko.zip")
            page.get_by_label("Name of another garage").fill("Harbour club")
            page.get_by_role("button", name="Make it").click()
            expect(page.get_by_role("heading", name="Harbour club", level=1)).to_be_visible()
            expect(page.get_by_role("link", name="Start your first build")).to_be_visible()
            page.get_by_label("File of a build or a garage").set_input_files(file)
            # Until it is read in: the browser sends it from where it lies.
            told = page.get_by_role("dialog", name="It is in the garage")
            expect(told).to_contain_text("4 builds")
        expect(told).to_contain_text("are this garage's now")
        page.keyboard.press("Escape")
        expect(page.get_by_role("heading", name="Marmalade")).to_be_visible()
        self.assertEqual(self.axe(), [])
        # A build opened by its address brings one into its garage.
        page.get_by_role("combobox", name="Other garages").select_option(label="Tideline Shed")
        expect(page.get_by_role("heading", name="Tideline Shed", level=1)).to_be_visible()
        page.get_by_role("button", name="Leave Harbour club").click()
        self.expected_statuses = {409}  # the last member is asked for the name; said before the press, for the answer may be quicker than the test
        page.get_by_role("button", name="Leave it").click()
        page.get_by_label("Name of the garage, once more").fill("Harbour club")
        page.get_by_role("button", name="Delete it and leave").click()
        expect(page.get_by_text("Harbour club")).to_have_count(0)

    def test_a_link_shows_one_build_on_a_phone_without_an_account(self) -> None:
        page = self.page
        self.open(self.path("Marmalade", "Three side by side", "care"))
        page.get_by_role("button", name=re.compile("Setups")).click()
        page.get_by_role("menuitem", name="Show it to somebody…").click()
        page.get_by_role("button", name="Make the link").click()
        link = page.get_by_label("The link", exact=True).input_value()
        number = re.search(r"\d+\.\d", page.locator('[data-outcome="top_speed_m_s"]').inner_text())
        assert number is not None
        phone = self.browser.new_context(viewport=PHONE, locale=self.locale)
        self.addCleanup(phone.close)
        seen = phone.new_page()
        self.watch(seen)
        seen.goto(link)
        expect(seen.get_by_role("heading", name="Marmalade: Three side by side")).to_be_visible(timeout=20_000)
        expect(seen.get_by_text("Top speed").locator("xpath=..")).to_contain_text(number.group())
        self.page, mine = seen, self.page
        self.assertEqual((self.axe(), self.too_wide()), ([], []))
        self.page = mine
        page.get_by_role("button", name=re.compile("Take back the link")).click()
        expect(page.get_by_label("The link", exact=True)).to_have_count(0)
        self.expected_statuses = {404}
        seen.reload()
        expect(seen.get_by_role("alert")).to_contain_text("shows nothing any more")
