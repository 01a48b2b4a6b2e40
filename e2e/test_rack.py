"""Beginning with the part in the hand: a pack of one's own and a kit in its box, from an empty database to a plan, at the desk and on the phone."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import expect

from e2e.test_roads import FromStart
from gecko.document.rack.slots import slots
from gecko.document.setup import load_setup
from gecko.tests.machines import named
from server.builds.models import Setup
from server.garage.models import Garage
from server.garage.rack import Told, add_parts
from tools.browser import PHONE


class FromThePart(FromStart):
    def new_part(self, kind: str, name: str) -> None:
        """The form of a part of one's own."""
        page = self.page
        self.open("/rack/new")
        page.get_by_role("region", name="What it is").get_by_label("Kind").select_option(kind)
        page.get_by_label("What you call it").fill(name)

    def keep(self) -> None:
        """Put it on the rack."""
        self.page.get_by_role("button", name="Put it on the rack").click()
        expect(self.page).not_to_have_url(re.compile("/new$"))
        self.settled()

    def two_packs(self) -> None:
        """Two packs by what their label says, each with a sticker of its own."""
        page = self.page
        self.new_part("packs", "Shed pack")
        page.get_by_label("How many", exact=True).fill("2")
        page.get_by_role("textbox", name="Cells in series").fill("5")
        page.get_by_role("textbox", name="Capacity").fill("6")
        self.keep()
        expect(page.get_by_role("link", name="Shed pack")).to_have_count(2)
        self.assertEqual(self.axe(), [])

    def from_a_pack(self) -> None:
        """What would it take? The plan holds the very packs."""
        page = self.page
        self.open_garage()
        self.two_packs()
        page.get_by_role("link", name="Shed pack").first.click()
        expect(page.get_by_text("Not measured yet.")).to_be_visible()
        self.assertEqual([*self.axe(), *self.too_wide()], [])
        page.get_by_role("link", name=re.compile("^What would it take")).click()
        page.get_by_role("button", name="Ride-on car", exact=True).click()
        expect(page.get_by_text("on your rack: A, B")).to_be_visible()
        self.settled()
        self.typed("Rider", "Lumi")
        self.typed("Rider's age", "6")
        self.open_the_best("Lumi's car")


class AtTheDesk(FromThePart):
    def test_from_a_single_pack_and_what_happens_to_it_stops_the_plan(self) -> None:
        page = self.page
        self.from_a_pack()
        self.stage("power")
        page.get_by_text(re.compile("in numbers")).first.click()
        expect(page.get_by_role("main").get_by_role("link", name="Shed pack A")).to_be_visible()
        built = page.url
        page.get_by_role("main").get_by_role("link", name="Shed pack A").click()
        page.get_by_role("group", name="Got wet").get_by_role("button", name="yes").click()
        expect(page.get_by_text("Shed pack A got wet: out of every plan.")).to_be_visible()
        self.open(built.replace(self.live_server_url, ""))
        expect(page.locator("[data-findings] article").filter(has_text="Shed pack A got wet").first).to_be_visible()
        self.assertEqual(self.axe(), [])

    def test_a_reading_lands_in_the_log_and_the_parts_list_asks_for_nothing_owned(self) -> None:
        page = self.page
        self.from_a_pack()
        self.open("/rack")
        page.get_by_role("link", name="Shed pack").first.click()
        page.get_by_role("button", name="Add a reading").click()
        page.get_by_role("button", name="Capacity", exact=True).click()
        page.get_by_label("Reading, Ah").fill("4,2")
        page.get_by_role("button", name="Write it down").click()
        expect(page.get_by_role("region", name="Log").get_by_role("listitem").filter(has_text="4.2 Ah")).to_be_visible()
        expect(page.get_by_text(re.compile("^It gives 4"))).to_be_visible()
        page.get_by_role("link", name=re.compile("^Lumi's car")).last.click()
        self.settled()
        self.open(re.sub(r"/power.*", "/sheet", page.url.replace(self.live_server_url, "")))
        row = page.get_by_role("row").filter(has_text="Shed pack")
        expect(row).to_contain_text("nothing")
        expect(page.get_by_label("What it costs")).to_contain_text("planning values")


OWN: dict[str, tuple[str, dict[str, Any]]] = {
    "motors": ("Shed motor", {"kind": "brushed", "volts_v": named(24), "power_w": named(350), "speed_rpm": named(2750)}),
    "controllers": ("Shed controller", {"kind": "brushed", "nominal_v": named(24), "max_v": named(30), "battery_limit_a": named(30), "throttle": "hall"}),
    "throttles": ("Shed throttle", {"kind": "hall", "returns": True}),
    "gearboxes": ("Shed chain drive", {"kind": "chain", "motor_teeth": 11, "wheel_teeth": 80, "chain_pitch": "25"}),
    "wheels": ("Shed wheel", {"diameter_m": named(0.31), "tyre": "pneumatic"}),
    "fuses": ("Shed fuse", {"kind": "blade", "rating_a": 30, "dc_volts_v": 58}),
    "switches": ("Shed switch", {"kind": "switch", "rating_a": named(100), "dc_volts_v": named(60)}),
    "guards": ("Shed guard", {"kind": "module", "volts_v": named(21), "rating_a": named(60)}),
    "chargers": ("Shed charger", {"end_v": named(29.4), "amps_a": named(2)}),
    "packs": ("Shed pack", {"label": "Shed pack", "cells_in_series": 7, "capacity_ah": named(6), "continuous_a": named(40), "peak_10s_a": named(60)}),
}
"""One part of each kind that a dirt bike has a slot for: what the rack calls it, and what its label says."""


class NothingElse(FromThePart):
    def take(self, stage: str, picker: str, name: str, at: int = 0) -> None:
        """The part of the rack of this name, in the picker of a stage."""
        self.stage(stage)
        choice = self.page.get_by_role("main").get_by_role("combobox", name=picker, include_hidden=True).nth(at)
        if not choice.is_visible():
            choice.evaluate("one => { for (let at = one; (at = at.closest('details:not([open])')); ) at.open = true; }")
        value = choice.locator("option").filter(has_text=name).first.get_attribute("value")
        choice.select_option(value=value)
        self.settled()

    def test_a_machine_of_nothing_but_ones_own_parts_goes_through_every_stage(self) -> None:
        """Every slot holds the very part, the parts list has nothing of these left to buy, and the last stage charges by one's own charger."""
        page = self.page
        self.open_garage()
        garage = Garage.objects.get()
        for kind, (label, document) in OWN.items():
            add_parts(garage, Told(kind=kind, label=label, document=document))
        self.open("/rack")
        page.get_by_role("link", name="Shed pack").first.click()
        page.get_by_role("link", name=re.compile("^What would it take")).click()
        page.get_by_role("button", name="Dirt bike", exact=True).click()
        expect(page.get_by_text("on your rack: A")).to_be_visible()
        self.settled()
        self.typed("Rider", "Lumi")
        self.typed("Rider's age", "9")
        self.open_the_best("Lumi's bike")
        for at, name in enumerate(("Shed motor", "Shed controller")):
            self.take("drive", "One of yours, or a common one", name, at)
        self.take("drive", "Throttle or pedal of your rack", "Shed throttle")
        self.take("drive", "Gearing of your rack", "Shed chain drive")
        self.take("drive", "Wheel of your rack", "Shed wheel")
        self.take("protect", "Fuse of your rack", "Shed fuse")
        self.take("protect", "Cut-off", "Shed switch")
        self.take("protect", "Guard of your rack", "Shed guard")
        self.take("care", "Add a charger", "Shed charger")
        self.saved()
        held = {named.label for _, _, named in slots(load_setup(Setup.objects.get(in_use=False, as_found=False).document))}
        self.assertEqual(held, {label for label, _ in OWN.values()})
        for stage in ("survey", "power", "protect", "drive", "hookup", "prove", "care"):
            self.stage(stage)
            expect(page.get_by_role("main").get_by_text("cannot be computed")).to_have_count(0)
        self.open(re.sub(r"/care.*", "/sheet", page.url.replace(self.live_server_url, "")))
        bought = page.get_by_role("table").filter(has=page.get_by_role("columnheader", name="To buy"))
        expect(bought.get_by_role("row").filter(has_text=re.compile("Shed pack"))).to_contain_text("nothing")
        wanting = bought.get_by_role("row").filter(has_not_text="nothing").filter(has=page.get_by_role("cell"))
        self.assertEqual([re.sub(r"\s.*", "", text) for text in wanting.all_inner_texts()], ["Mount"])


class OnThePhone(FromThePart):
    viewport = PHONE

    def test_from_a_single_pack(self) -> None:
        self.from_a_pack()

    def test_from_a_kit_in_its_box(self) -> None:
        """Motor and controller in one box go into a dirt bike as a setup of their own; what is lacking is told before."""
        page = self.page
        self.open_garage()
        self.new_part("kits", "Box from the fair")
        for kind, like in (("motors", "Brushed motor, 24 V 350 W"), ("controllers", "Brushed controller, 24 V 30 A")):
            page.get_by_role("button", name="Add a part of it").click()
            dialog = page.get_by_role("dialog", name="Add a part of it")
            dialog.get_by_label("What it is").select_option(kind)
            option = dialog.get_by_label("Like one of these").locator("option").filter(has_text=like).first
            dialog.get_by_label("Like one of these").select_option(value=option.get_attribute("value"))
            dialog.get_by_role("button", name="Put it into the kit").click()
        self.keep()
        expect(page.get_by_role("heading", name="Box from the fair A")).to_be_visible()
        self.assertEqual([*self.axe(), *self.too_wide()], [])
        page.get_by_role("link", name=re.compile("^What would it take")).click()
        page.get_by_role("button", name="Dirt bike", exact=True).click()
        self.settled()
        page.get_by_role("button", name="What does it bring, and what is still to be had?").click()
        dialog = page.get_by_role("dialog", name="Box from the fair A in this machine")
        expect(dialog.get_by_role("region", name="It brings").get_by_role("listitem")).to_have_count(2)
        expect(dialog.get_by_role("region", name="Still to be had")).to_contain_text("Mount")
        self.assertEqual(self.axe("[role=dialog]"), [])
        dialog.get_by_role("button", name="Close").click()
        page.get_by_role("button", name=re.compile("^Open the build with")).click()
        expect(page.get_by_role("heading", name="Power", exact=True)).to_be_visible()
        page.goto(page.url.replace("/power", "/drive"))
        self.settled()
        expect(page.get_by_role("main").get_by_text("from your rack").first).to_be_attached()
