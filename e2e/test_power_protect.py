"""Power and Protect at depth in a real browser: packs moved by drag and keys, deep sections, changes looked at before they are made."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from e2e.test_demo import DemoCase
from server.builds.models import Setup
from tools.browser import DESK, PHONE

SECTIONS = ("how rows share", "joining", "slots and swaps", "meter and guard", "in the cold", "bay and holding", "measure a pack")


RESTS_MS = 300.0
"""A finger that rests so long carries; one that moves at once scrolls."""


class Packs(DemoCase):
    def rows(self, setup: str) -> list[list[str]]:
        """Labels of the packs on the server, row by row."""
        document = Setup.objects.get(name=setup, build__name="Marmalade").document
        return [[unit["label"] for unit in row["units"]] for row in document["bank"]["rows"]]

    def carry(self, pack: Locator, to: Locator) -> None:
        """With the mouse, step by step as a hand does."""
        to.scroll_into_view_if_needed()
        start, end = pack.bounding_box(), to.bounding_box()
        assert start is not None and end is not None
        self.page.mouse.move(start["x"] + 6, start["y"] + 12)
        self.page.mouse.down()
        self.page.mouse.move(end["x"] + end["width"] / 2, end["y"] + end["height"] / 2, steps=8)
        self.page.mouse.up()

    def test_a_pack_moves_by_keys_and_by_drag_and_comes_back_by_undo(self) -> None:
        page = self.page
        self.open(self.path("Marmalade", "Two side by side", "power"))
        new, old = "7-cell garden pack, 4 Ah", "7-cell garden pack, 4 Ah, old"
        self.settled()
        # Its panels scroll, the page itself does not: what is said aloud only must not lengthen it.
        self.assertLessEqual(page.evaluate("document.documentElement.scrollHeight"), DESK["height"])
        page.get_by_role("button", name=re.compile("^Pack B: ")).focus()
        page.keyboard.press("ArrowLeft")
        expect(page.get_by_role("button", name=re.compile("^Pack A2: "))).to_be_visible()
        expect(page.get_by_role("heading", name="Unlike packs in series")).to_have_count(0)
        expect(page.locator('[data-save="saved"]').first).to_be_attached()
        # What answers more slowly may still move the place to drop it.
        self.settled()
        self.carry(page.locator('[data-pack="A2"]'), page.get_by_text("drop here for a new row"))
        expect(page.get_by_role("button", name=re.compile("^Pack B: "))).to_be_visible()
        self.saved()
        self.settled()
        self.assertEqual(self.rows("Two side by side"), [[new], [old]])
        page.get_by_role("button", name="Copy row A").click()
        expect(page.get_by_role("group", name="Row C")).to_be_visible()
        page.get_by_role("button", name="Undo (key u)").click()
        expect(page.get_by_role("group", name="Row C")).to_have_count(0)

    def test_every_deep_section_opens_with_its_numbers_and_passes_axe(self) -> None:
        page = self.page
        self.open(self.path("Marmalade", "Three side by side", "power"))
        problems: dict[str, list[str]] = {}
        said = {
            "how rows share": "stay unused",
            "joining": "before joining",
            "slots and swaps": "Used one after the other",
            "meter and guard": "Where to set the guard",
            "in the cold": "inner resistance",
            "bay and holding": "They fit, with padding around",
            "measure a pack": "Let the pack rest",
        }
        for section in SECTIONS:
            page.get_by_role("button", name=section, exact=True).click()
            expect(page.get_by_text(re.compile(said[section])).first).to_be_visible()
            problems[section] = [*self.axe("main" if problems else ""), *self.too_wide()]
        self.assertEqual({section: found for section, found in problems.items() if found}, {})

    def test_two_readings_make_a_measured_resistance(self) -> None:
        page = self.page
        self.open(self.path("Marmalade", "Three side by side", "power"))
        page.get_by_role("button", name="measure a pack").click()
        for label, text in (("Volts at rest", "28.0"), ("Volts under the load", "27,1"), ("Amps of the load", "9")):
            page.get_by_label(label).fill(text)
        page.get_by_role("button", name="Work it out").click()
        expect(page.get_by_text("100 mΩ at 25 °C", exact=False).or_(page.get_by_text(re.compile("Pack A:")))).to_be_visible()
        page.get_by_role("button", name="Use it as measured").click()
        self.saved()
        self.settled()
        unit = Setup.objects.get(name="Three side by side").document["bank"]["rows"][0]["units"][0]
        self.assertEqual((unit["resistance_ohm"]["basis"], round(unit["resistance_ohm"]["value"], 4)), ("measured", 0.1))


class Wiring(DemoCase):
    def test_a_change_is_looked_at_then_put_in(self) -> None:
        page = self.page
        self.open(self.path("Bramble", "14-cell, first idea", "protect"))
        stop = page.get_by_role("heading", name="The main fuse is not made for these volts")
        expect(stop).to_be_visible()
        page.get_by_role("button", name="Best for every lead…").click()
        change = page.get_by_role("region", name="What this changes")
        expect(change.get_by_text(re.compile("Goes: .*The main fuse is not made for these volts"))).to_be_visible()
        expect(stop).to_be_visible()
        change.get_by_role("button", name="Put it in").click()
        expect(stop).to_be_hidden()
        self.saved()

    def test_each_lead_has_its_table_and_an_accessory_is_one_more(self) -> None:
        page = self.page
        self.open(self.path("Marmalade", "Three side by side", "protect"))
        tree = page.get_by_role("list", name="Leads from the packs outward")
        expect(tree.get_by_role("button", name=re.compile("Lamps"))).to_be_visible()
        tree.get_by_role("button", name=re.compile("Rows A to C")).click()
        expect(page.get_by_role("heading", name="Rows A to C: fuse and wire in numbers")).to_be_visible()
        page.get_by_label("Wire", exact=True).first.select_option("16")
        expect(tree.get_by_role("button", name=re.compile("Rows A to C"))).to_contain_text("16 AWG")
        self.saved()
        self.settled()
        rows = Setup.objects.get(name="Three side by side").document["bank"]["rows"]
        self.assertEqual([row["lead"]["awg"] for row in rows], [16, 16, 16])
        self.assertEqual([*self.axe(), *self.too_wide()], [])


class OnThePhone(DemoCase):
    viewport = PHONE

    def test_both_stages_fit_the_phone(self) -> None:
        found = {}
        for stage in ("power", "protect"):
            self.open(self.path("Marmalade", "Three side by side", stage))
            self.settled()
            expect(self.page.locator("h1").first).to_be_visible()
            found[stage] = [*self.axe(), *self.too_wide()]
        self.assertEqual(found, {"power": [], "protect": []})

    def test_a_finger_carries_a_pack_to_another_row(self) -> None:
        """A rested touch, as a phone sends it: down, a moment, moved in steps, up."""
        page = self.page
        self.open(self.path("Marmalade", "Three side by side", "power"))
        self.settled()
        pack, row = page.locator('[data-pack="C"]'), page.get_by_role("group", name="Row A")
        row.scroll_into_view_if_needed()
        start, end = pack.bounding_box(), row.bounding_box()
        assert start is not None and end is not None
        finger = self.context.new_cdp_session(page)
        x, y = start["x"] + 20, start["y"] + 20

        def touch(kind: str, *points: tuple[float, float]) -> None:
            finger.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": px, "y": py} for px, py in points]})

        touch("touchStart", (x, y))
        page.wait_for_timeout(RESTS_MS)
        for step in range(1, 9):
            touch("touchMove", (x + (end["x"] + 20 - x) * step / 8, y + (end["y"] + 30 - y) * step / 8))
        touch("touchEnd")
        expect(page.get_by_role("group", name="Row C")).to_have_count(0)
        self.saved()
        rows = Setup.objects.get(name="Three side by side").document["bank"]["rows"]
        self.assertEqual([len(row["units"]) for row in rows], [2, 1])
