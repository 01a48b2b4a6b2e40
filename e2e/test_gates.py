"""What is open stays closed: no way to power or a ride past a stop, on desk and phone; an overrule that falls; trouble one press away."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import expect

from e2e.test_demo import DemoCase
from server.builds.models import Setup
from tools.browser import PHONE

RUN = {"setup_id": 0, "passes": [{"distance_m": 30, "time_s": 6.0, "direction": "out"}, {"distance_m": 30, "time_s": 6.1, "direction": "back"}]}


class Gates(DemoCase):
    def steps(self, setup: Setup) -> tuple[dict[str, Any], list[str]]:
        """What stands open of a setup, and the steps that give power or are a ride, as the server tells them to this browser."""
        answer = self.page.request.get(f"{self.live_server_url}/api/setups/{setup.pk}/standing").json()
        return answer, [lock["step"] for lock in answer["locked"]]

    def put(self, path: str, body: dict[str, Any], method: str = "put") -> int:
        """Send it past every button, as a script would."""
        cookies = {c.get("name"): c.get("value") for c in self.context.cookies()}
        headers = {"X-CSRFToken": cookies.get("csrftoken") or "", "Referer": self.live_server_url}
        return int(getattr(self.page.request, method)(f"{self.live_server_url}/api{path}", data=body, headers=headers).status)

    def no_way_through(self) -> None:
        """Every locked step says why and has no working button; the server refuses each of them, and a run."""
        page = self.page
        setup = Setup.objects.get(build__name="Bramble", name="14-cell, first idea")
        self.open(self.path("Bramble", "14-cell, first idea", "hookup"))
        self.saved()
        standing, locked = self.steps(setup)
        self.assertFalse(standing["power"] or standing["ride"])
        self.assertTrue(any(step.startswith("lamp") or "power" in step for step in locked), locked)
        self.assertTrue(any(step.startswith("stand_") for step in locked), locked)
        for step in locked:
            self.assertEqual(self.put(f"/setups/{setup.pk}/ticks/{step}", {"measured": None}), 409, step)
        for step in (locked[0], next(step for step in locked if step.startswith("stand_"))):
            self.open(self.path("Bramble", "14-cell, first idea", f"hookup/{step}" if not step.startswith("stand_") else "prove"))
            expect(page.get_by_text("Open stop:").first).to_be_visible()
            for button in page.get_by_role("button", name=re.compile("^Tick step")).all():
                expect(button).to_be_disabled()
        self.assertEqual(setup.ticks.filter(step__in=locked).count(), 0)
        self.assertEqual(self.put(f"/builds/{setup.build_id}/trials", {**RUN, "setup_id": setup.pk}, "post"), 409)
        self.assertEqual(self.put(f"/builds/{setup.build_id}/trials", {**RUN, "setup_id": setup.pk, "confirmed": True}, "post"), 409)
        self.assertFalse(setup.trials.exists())

    def trouble_is_near(self) -> None:
        """One press from the stage, and it fits."""
        page = self.page
        self.open(self.path("Thistle", "Eight-cell LFP", "prove"))
        page.get_by_role("link", name=re.compile("Trouble")).first.click()
        expect(page.get_by_role("heading", name="It runs away")).to_be_visible()
        self.assertEqual([*self.axe(), *self.too_wide()], [])


class Desk(Gates):
    def test_no_way_to_power_or_a_ride_past_an_open_stop(self) -> None:
        self.no_way_through()

    def test_trouble_is_one_press_away(self) -> None:
        self.trouble_is_near()

    def test_an_overrule_falls_when_its_numbers_rise(self) -> None:
        """The limit is overruled at the speed of today; a shorter reduction makes it faster, and the stop is open again."""
        page = self.page
        self.open(self.path("Marmalade", "Two side by side", "drive"))
        finding = page.locator("[data-findings]:visible article").filter(has_text="Faster than")
        finding.get_by_role("button", name="Overrule…").click()
        page.get_by_label("Reason").fill("Only on our own fenced lawn, father beside it.")
        page.get_by_role("button", name="Overrule it").click()
        expect(finding.get_by_text("Take it back")).to_be_visible()
        ratio = page.get_by_role("textbox", name="Ratio").first
        ratio.fill("60")
        ratio.blur()
        self.saved()
        expect(finding.get_by_text("no longer covers")).to_be_visible()
        expect(finding.get_by_role("button", name="Overrule…")).to_be_visible()
        build = Setup.objects.get(build__name="Marmalade", name="Two side by side").build_id
        texts = [entry["text"] for entry in page.request.get(f"{self.live_server_url}/api/builds/{build}/journal").json()]
        self.assertTrue(any("Only on our own fenced lawn" in text for text in texts))


class Phone(Gates):
    viewport = PHONE

    def test_no_way_to_power_or_a_ride_past_an_open_stop(self) -> None:
        self.no_way_through()

    def test_trouble_is_one_press_away(self) -> None:
        self.trouble_is_near()
