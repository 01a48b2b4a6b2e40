"""The demo garage in a real browser: every main view, keyboard, phone, axe, fixes and undo, print, exchange."""

from __future__ import annotations

import json
import os
import re
import sqlite3
import tempfile
from contextlib import closing
from pathlib import Path
from tempfile import TemporaryDirectory

from django.db import connection
from django.test import override_settings
from django.utils import timezone
from playwright.sync_api import Route, expect

from e2e.base import BrowserCase
from server.builds.models import Build, Setup
from server.demo.load import load_demo
from server.garage.models import RackPart
from tools.browser import PHONE

STAGES = ("survey", "power", "protect", "drive", "hookup", "prove", "care")


_FOLDER = TemporaryDirectory(prefix="gecko-filled-", ignore_cleanup_errors=True)


def filled() -> None:
    """The demo garage: made once, then copied page by page, which takes a hundredth of the time."""
    kept = Path(_FOLDER.name) / f"{os.getpid()}.sqlite3"
    connection.ensure_connection()
    if kept.exists():
        with closing(sqlite3.connect(kept)) as made:
            made.backup(connection.connection)
        return
    load_demo()
    with closing(sqlite3.connect(kept)) as made:
        connection.connection.backup(made)


@override_settings(DEMO=True)
class DemoCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        filled()

    def path(self, build: str, setup: str, rest: str) -> str:
        row = Setup.objects.get(build__name=build, name=setup)
        return f"/builds/{row.build_id}/setups/{row.pk}/{rest}"


class EveryView(DemoCase):
    """Looked at once for all that is asked of each: by a reader whose browser writes a comma before decimals."""

    locale = "de-DE"

    def test_every_main_view_has_a_drawing_no_serious_axe_finding_and_the_readers_decimals(self) -> None:
        page = self.page
        sections = ("drive?more=launch", "drive?more=instead", "drive?more=riders", "drive?more=sure", "hookup?more=logic", "hookup?more=list", "power?more=meter")
        bramble = Build.objects.get(name="Bramble")
        beside = f"/builds/{bramble.pk}/compare?with={','.join(str(one.pk) for one in bramble.setups.all()[:3])}"
        stages = [self.path("Bramble", "14-cell, first idea", place) for place in (*STAGES, *sections)]
        parts = [f"/rack/{part.pk}" for part in RackPart.objects.filter(letter="A", kind__in=("packs", "motors", "kits"))]
        # Collected, not in subTests: those do not travel between the parallel runners.
        problems: dict[str, list[str]] = {}
        for view in ("/", "/start", "/rack", "/rack/new", *parts, self.path("Marmalade", "Three side by side", "sheet"), beside, *stages):
            self.open(view)
            self.settled()
            expect(page.locator("h1").first).to_be_visible()
            place = view.rsplit("/", 1)[-1]
            if place in STAGES:
                expect(page.locator("main svg").first).to_be_visible()
            # What somebody wrote stays as it was written: of the demo's words only an entry of the journal has a point between digits.
            points = re.findall(r".{0,40}\d\.\d.{0,20}", page.locator("body").inner_text().replace("0.2 Ω now", ""))
            problems[view] = [*([] if place in sections else self.axe()), *self.too_wide(), *points]
        self.maxDiff = None
        self.assertEqual({view: found for view, found in problems.items() if found}, {})
        page.evaluate("() => document.querySelector('main').append(Object.assign(document.createElement('p'), {textContent: 'pale', style: 'color: #ddd'}))")
        self.assertIn("color-contrast", " ".join(self.axe("main")), "What is wrong is found.")

    def test_a_number_with_a_comma_is_taken(self) -> None:
        self.open(self.path("Thistle", "Eight-cell LFP", "drive"))
        wheel = self.page.get_by_label("Wheel across", exact=True)
        self.assertRegex(wheel.input_value(), r"^\d+,\d+$")
        wheel.fill("10,5")
        self.settled()
        self.assertAlmostEqual(Setup.objects.get(build__name="Thistle", name="Eight-cell LFP").document["wheel"]["diameter_m"]["value"], 10.5 * 0.0254, 6)


class Desk(DemoCase):
    def test_dark_has_contrast_too(self) -> None:
        self.open(self.path("Bramble", "14-cell, first idea", "protect"))
        self.page.get_by_role("button", name="Dark").click()
        self.settled()
        self.assertEqual(self.axe(), [])

    def test_a_long_list_of_builds_shows_the_rest_when_asked(self) -> None:
        page = self.page
        bramble = Build.objects.get(name="Bramble")
        bramble.setups.update(in_use=False)
        Build.objects.bulk_create(Build(garage=bramble.garage, name=f"Shelf {n}", family="small dirt bike") for n in range(60))
        # Worked on after the sixty were put on the shelf, so it comes first.
        bramble.setups.filter(name="14-cell, first idea").update(in_use=True, updated=timezone.now())
        self.open()
        summary = page.get_by_text(re.compile(r"^64 builds, \d+ stops? to clear in the 60 shown$"))
        expect(summary).to_be_visible()
        expect(page.get_by_role("heading", level=2).first).to_have_text("Bramble")
        expect(page.get_by_role("heading", name="Shelf 0", exact=True)).to_have_count(0)
        page.get_by_role("button", name="Show more of the 64 builds").click()
        expect(page.get_by_role("heading", name="Shelf 0", exact=True)).to_be_visible()
        expect(summary).to_be_hidden()
        expect(page.get_by_role("button", name=re.compile("Show more"))).to_have_count(0)

    def test_a_fix_clears_its_stop_and_can_be_undone(self) -> None:
        page = self.page
        self.open(self.path("Bramble", "14-cell, first idea", "protect"))
        stop = page.get_by_role("heading", name="The main fuse is not made for these volts")
        expect(stop).to_be_visible()
        article = page.locator("article", has=stop)
        article.locator("button.btn").first.click()
        expect(stop).to_be_hidden()
        page.get_by_role("status").get_by_role("button", name="Undo").click()
        expect(stop).to_be_visible()

    def test_numbers_follow_while_typing(self) -> None:
        page = self.page
        self.open(self.path("Thistle", "Eight-cell LFP", "drive"))
        speed = page.locator('[data-outcome="top_speed_m_s"]')
        expect(speed).to_contain_text("mph")
        before = re.search(r"\d+\.\d", speed.inner_text())
        assert before is not None
        page.get_by_role("textbox", name="Wheel teeth").fill("120")
        expect(speed).not_to_contain_text(before.group())
        page.get_by_role("button", name="km/h").click()
        expect(speed).to_contain_text("km/h")

    def test_a_late_answer_to_a_tick_pulls_nobody_back(self) -> None:
        page = self.page
        self.open(self.path("Thistle", "Twelve-cell LFP", "hookup"))
        held: list[Route] = []
        page.route("**/ticks/*", lambda route: held.append(route))
        page.get_by_label("you read").fill("0")
        page.get_by_role("button", name=re.compile("^(Tick step|Measure again)")).click()
        page.get_by_role("link", name=re.compile("prove", re.I)).first.click()
        expect(page.get_by_label("Wheels turn forward")).to_be_visible()
        with page.expect_response("**/ticks/*"):
            held[0].continue_()
        self.settled()
        expect(page.get_by_label("Wheels turn forward")).to_be_visible()
        expect(page).to_have_url(re.compile("/prove$"))

    def test_keyboard_alone(self) -> None:
        page = self.page
        self.open(self.path("Thistle", "Twelve-cell LFP", "power"))
        expect(page.get_by_role("heading", name="Power", exact=True)).to_be_visible()
        page.keyboard.press("4")
        expect(page.get_by_role("heading", name="Drive", exact=True)).to_be_visible()
        expect(page.locator("[data-findings] article:visible").first).to_be_visible()
        page.keyboard.press("f")
        expect(page.locator("[data-findings] article:visible").first).to_be_focused()
        page.keyboard.press("]")
        expect(page).to_have_url(re.compile("/(power|protect|drive)/"))
        page.keyboard.press("3")
        page.get_by_role("button", name=re.compile("fits every condition")).first.focus()
        page.keyboard.press("Enter")
        self.saved()
        page.keyboard.press("u")
        self.saved()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("/")
        page.keyboard.type("not matched")
        expect(page.get_by_role("option", name=re.compile("setup of Pocket Comet"))).to_be_visible()
        page.keyboard.press("Enter")
        expect(page.get_by_text("Pocket Comet")).to_be_visible()
        page.keyboard.press("s")
        expect(page.get_by_role("menu")).to_be_visible()
        page.go_back()

    def test_overruling_a_stop_needs_a_reason_and_reaches_the_sheet(self) -> None:
        page = self.page
        self.expected_statuses = {422}
        self.open(self.path("Pocket Comet", "Two packs, not matched", "power"))
        page.get_by_role("button", name="Overrule…").first.click()
        page.get_by_role("button", name="Overrule it").click()
        expect(page.get_by_role("alert")).to_contain_text("Write why")
        page.get_by_label("Reason").fill("Both will be charged to the same volts before joining.")
        page.get_by_role("button", name="Overrule it").click()
        expect(page.get_by_text("Take it back")).to_be_visible()
        self.open(self.path("Pocket Comet", "Two packs, not matched", "sheet"))
        expect(page.get_by_text("Both will be charged to the same volts")).to_be_visible()
        expect(page.get_by_text("Parts to buy")).to_be_visible()

    def test_export_and_import(self) -> None:
        page = self.page
        build = Build.objects.get(name="Thistle")
        answer = page.request.get(f"{self.live_server_url}/api/builds/{build.pk}/export")
        file = answer.json()
        with tempfile.TemporaryDirectory() as folder:
            good, bad = Path(folder) / "good.json", Path(folder) / "bad.json"
            good.write_text(json.dumps({**file, "name": "Thistle again"}), encoding="utf-8")
            bad.write_text(json.dumps({**file, "setups": [{**file["setups"][0], "document": {"motro": 1}}]}), encoding="utf-8")
            self.open()
            page.get_by_label("File of a build or a garage").set_input_files(bad)
            expect(page.get_by_role("dialog")).to_contain_text("/setups/0/document/motro")
            page.keyboard.press("Escape")
            expect(page.get_by_role("dialog")).to_have_count(0)
            page.get_by_label("File of a build or a garage").set_input_files(good)
            expect(page.get_by_role("dialog", name="It is in the garage")).to_contain_text("Thistle again")
            page.keyboard.press("Escape")
            expect(page.get_by_role("heading", name="Thistle again")).to_be_visible()

    def test_an_address_of_another_garage_says_so(self) -> None:
        self.expected_statuses = {404}
        self.open("/builds/99999")
        expect(self.page.get_by_text("not in your garage")).to_be_visible()


class Phone(DemoCase):
    viewport = PHONE

    def test_every_stage_fits_and_its_main_action_is_there(self) -> None:
        page = self.page
        actions = {
            "survey": page.get_by_role("link", name="Enter the baseline run"),
            "power": page.get_by_role("button", name="Side by side: one more"),
            "protect": page.get_by_role("button", name=re.compile("fits every condition")).first,
            "drive": page.get_by_label("Limiter mark"),
            "hookup": page.get_by_role("button", name=re.compile("Tick step")),
            "prove": page.get_by_role("button", name="Save run"),
            "care": page.get_by_role("button", name="Write it down"),
        }
        problems: dict[str, list[str]] = {}
        for stage, action in actions.items():
            self.open(self.path("Bramble", "14-cell pack", stage))
            self.settled()
            action.scroll_into_view_if_needed()
            expect(action).to_be_visible()
            # The tape of stages is longer than the screen: the one in view is marked in it.
            expect(page.get_by_role("navigation", name="Stages").locator("[aria-current]")).to_be_in_viewport(ratio=0.9)
            problems[stage] = self.too_wide()
        problems["care"] += self.axe()
        self.assertEqual({stage: found for stage, found in problems.items() if found}, {})

    def test_trail_bench_and_findings(self) -> None:
        page = self.page
        self.open(self.path("Bramble", "14-cell, first idea", "power"))
        views = page.get_by_role("navigation", name="Views")
        views.get_by_role("button", name=re.compile("Trail")).click()
        expect(page.locator(":visible", has_text="Rider & ground").last).to_be_visible()
        views.get_by_role("button", name=re.compile("Findings")).click()
        fix = page.locator("[data-findings]:visible article button.btn").first
        fix.click()
        expect(page.get_by_role("button", name="Undo", exact=True)).to_be_visible()

    def test_a_reading_in_the_garage(self) -> None:
        page = self.page
        self.open(self.path("Bramble", "14-cell pack", "hookup"))
        page.get_by_label("you read").fill("56,9")
        page.get_by_role("button", name=re.compile("Tick step")).click()
        expect(page.get_by_text("16 of 22 checked")).to_be_visible()

    def test_garage_and_start_fit(self) -> None:
        for path in ("/", "/start"):
            self.open(path)
            self.settled()
            self.assertEqual([*self.axe(), *self.too_wide()], [])
