"""Hookup at depth in a real browser: the meter anywhere, colours, orders of phases and Halls, what was opened."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.base import PHONE
from e2e.test_demo import DemoCase
from server.builds.models import Setup

SECTIONS = ("meter anywhere", "which colour is which", "phases and Halls", "small wires", "covers and seals")


class HookupAtDepth(DemoCase):
    def document(self) -> dict[str, object]:
        return dict(Setup.objects.get(name="Two packs", build__name="Pocket Comet").document)

    def test_every_section_opens_and_passes_axe_also_on_a_phone(self) -> None:
        page = self.page
        problems: dict[str, list[str]] = {}
        for size in (None, PHONE):
            if size is not None:
                page.set_viewport_size(size)
            self.open(self.path("Pocket Comet", "Two packs", "hookup"))
            for section in SECTIONS:
                page.get_by_role("button", name=section, exact=True).click()
                page.wait_for_load_state("networkidle")
                problems[f"{section} {'phone' if size else ''}"] = [*self.axe(), *self.too_wide()]
        self.assertEqual({section: found for section, found in problems.items() if found}, {})

    def test_the_meter_by_keys_and_the_order_found_in_three_tries(self) -> None:
        page = self.page
        self.open(self.path("Pocket Comet", "Two packs", "hookup"))
        page.get_by_label("Red tip on").select_option("motor0.Hall 5 V")
        page.get_by_label("Black tip on").select_option("motor0.Hall ground")
        expect(page.get_by_text("4.93 V", exact=True)).to_be_visible()
        page.get_by_role("button", name="Cut-off on").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_text("0 V", exact=True).last).to_be_visible()
        page.get_by_role("button", name="phases and Halls", exact=True).click()
        for did in ("Twitches, growls or locks", "Runs smoothly, backward", "Runs smoothly, forward"):
            tried = page.locator('section[aria-label="More of the hookup"] ol li').count()
            page.get_by_role("button", name=did).click()
            expect(page.locator('section[aria-label="More of the hookup"] ol li')).to_have_count(tried + 1)
            page.wait_for_load_state("networkidle")
        expect(page.get_by_role("heading", name="Found: leave it so")).to_be_visible()
        self.saved()
        page.wait_for_load_state("networkidle")
        self.assertEqual([trial["outcome"] for trial in self.document()["order_trials"]], ["jerks", "smooth backward", "smooth forward"])  # type: ignore[attr-defined]

    def test_colours_pair_by_function_and_come_out_and_in_as_a_table(self) -> None:
        page = self.page
        self.open(self.path("Pocket Comet", "Two packs", "hookup"))
        page.get_by_role("button", name="which colour is which").click()
        page.get_by_role("button", name="Add throttle").click()
        for half, colours in (("Controller's half", ("violet", "orange", "white")), ("Part's half", ("grey", "pink", "green"))):
            for number, colour in enumerate(colours, start=1):
                page.get_by_label(f"{half}, colour of wire {number}").fill(colour)
        expect(page.get_by_text("violet to grey")).to_be_visible()
        expect(page.get_by_text("orange to pink")).to_be_visible()
        with page.expect_download() as saved:
            page.get_by_role("button", name="Save the colours as CSV").click()
        page.get_by_role("button", name="Take the plug Throttle out").click()
        expect(page.get_by_text("violet to grey")).to_have_count(0)
        page.get_by_label("Table of plug colours, CSV").set_input_files(str(saved.value.path()))
        expect(page.get_by_text("violet to grey")).to_be_visible()
        with page.expect_download() as wires:
            page.get_by_role("button", name="Save the wire list as CSV").click()
        self.assertIn("wire,from,to,function", wires.value.path().read_text(encoding="utf-8"))

    def test_an_opened_seal_is_a_step_and_a_note_until_it_is_closed(self) -> None:
        page = self.page
        self.open(self.path("Pocket Comet", "Two packs", "hookup"))
        page.get_by_role("button", name="covers and seals").click()
        page.get_by_role("button", name="Add a seal against water").click()
        expect(page.get_by_role("button", name=re.compile("^Close: Lid with a gasket"))).to_be_visible()
        expect(page.get_by_text("Not closed yet: Lid with a gasket")).to_be_visible()
        page.get_by_role("checkbox", name="Closed again").check()
        expect(page.get_by_text("Not closed yet: Lid with a gasket")).to_have_count(0)
