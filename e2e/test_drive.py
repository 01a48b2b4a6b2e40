"""Drive at depth and the comparison in a real browser: every section, a change tried and put in, courses, the label, setups side by side."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from e2e.test_demo import DemoCase
from server.builds.models import Build, Setup
from tools.browser import PHONE

SAID = {
    "the ride": "Where the energy goes",
    "launch": "Front wheel",
    "heat": "The same ride on other days",
    "gears and modes": "push at rest",
    "hill, stop, turn": "Steepest it starts on",
    "sprockets": "Torque at one end",
    "change one thing": "Each line is the whole machine computed again",
    "riders": "Label for the knob",
    "how sure": "Nine machines in ten",
}


class Sections(DemoCase):
    def walk(self, build: str, setup: str) -> dict[str, list[str]]:
        page = self.page
        self.open(self.path(build, setup, "drive"))
        problems: dict[str, list[str]] = {}
        for section, words in SAID.items():
            page.get_by_role("button", name=section, exact=True).click()
            expect(page.get_by_text(re.compile(words)).first).to_be_visible()
            problems[section] = [*self.axe("main" if problems else ""), *self.too_wide()]
        return {section: found for section, found in problems.items() if found}

    def test_every_section_opens_with_its_numbers_and_passes_axe(self) -> None:
        self.assertEqual(self.walk("Thistle", "Eight-cell LFP"), {})

    def test_the_scrubber_by_keys(self) -> None:
        page = self.page
        self.open(self.path("Marmalade", "Three side by side", "drive"))
        slider = page.get_by_role("slider", name="Seconds into the round")
        slider.focus()
        page.keyboard.press("Home")
        expect(slider).to_have_attribute("aria-valuetext", re.compile("^0.0 s"))
        page.keyboard.press("End")
        expect(page.get_by_text("stands", exact=True)).to_be_visible()

    def test_a_sprocket_is_tried_then_put_in(self) -> None:
        page = self.page
        self.open(self.path("Thistle", "Eight-cell LFP", "drive?more=sprockets"))
        page.get_by_role("row", name=re.compile("^11 teeth")).get_by_role("button", name="Try").click()
        change = page.get_by_role("region", name="What this changes")
        expect(change.get_by_text(re.compile("Top speed .* → "))).to_be_visible()
        change.get_by_role("button", name="Put it in").click()
        expect(page.get_by_role("textbox", name="Motor teeth")).to_have_value("11")
        self.saved()
        self.settled()
        self.assertEqual(Setup.objects.get(name="Eight-cell LFP").document["drivetrain"]["motor_teeth"], 11)

    def test_a_course_from_a_file_and_its_refusal(self) -> None:
        page = self.page
        self.expected_statuses = {422}
        self.open(self.path("Thistle", "Eight-cell LFP", "drive"))
        file = page.get_by_label("Course file, GPX or CSV")
        file.set_input_files({"name": "tiny.csv", "mimeType": "text/csv", "buffer": b"0,0\n5,0\n"})
        expect(page.get_by_text(re.compile("shorter than 20 m"))).to_be_visible()
        profile = "\n".join(f"{way},{max(0, way - 100) * 0.05:.2f}" for way in range(0, 301, 5))
        file.set_input_files({"name": "Back lane.csv", "mimeType": "text/csv", "buffer": profile.encode()})
        expect(page.get_by_role("button", name="Back lane")).to_have_attribute("aria-pressed", "true")
        expect(page.locator('[data-outcome="run_time_s"]')).to_contain_text("Back lane")
        self.saved()
        self.settled()
        course = Setup.objects.get(name="Eight-cell LFP").document["course"]
        self.assertEqual(course["name"], "Back lane")
        self.assertAlmostEqual(max(segment["grade"] for segment in course["segments"]), 0.05, delta=0.005)


class SideBySide(DemoCase):
    def test_setups_from_the_menu_only_what_differs(self) -> None:
        page = self.page
        self.open(self.path("Thistle", "Twelve-cell LFP", "drive"))
        page.locator("[data-setup-menu]").click()
        page.get_by_role("menuitem", name="Side by side").click()
        expect(page.get_by_role("heading", name="Side by side")).to_be_visible()
        expect(page.get_by_role("row", name=re.compile("^Top speed ")).first).to_be_visible()
        expect(page.get_by_role("row", name=re.compile("^Packs "))).to_contain_text("LFP")
        page.get_by_role("button", name="Gentle, for Odette").click()
        expect(page.get_by_role("columnheader", name="Gentle, for Odette").first).to_be_visible()
        self.assertEqual([*self.axe(), *self.too_wide()], [])


class OnThePhone(DemoCase):
    viewport = PHONE

    def test_drive_and_the_comparison_fit(self) -> None:
        build = Build.objects.get(name="Thistle")
        found = {}
        for section in ("ride", "heat", "gears", "sprockets", "riders"):
            self.open(self.path("Thistle", "Eight-cell LFP", f"drive?more={section}"))
            self.settled()
            expect(self.page.locator("h1").first).to_be_visible()
            found[section] = self.too_wide()
        self.open(f"/builds/{build.pk}/compare")
        expect(self.page.get_by_role("row", name=re.compile("^Top speed ")).first).to_be_visible()
        found["compare"] = [*self.axe(), *self.too_wide()]
        self.assertEqual({name: problems for name, problems in found.items() if problems}, {})
