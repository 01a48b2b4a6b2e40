"""The parts list by hand: what a setup needs, and which parts of the rack serve it."""

from __future__ import annotations

import csv
import io
from typing import Any, get_args
from unittest import TestCase

from gecko.document.parts.controller import Controller
from gecko.document.rack.about import About, Racked
from gecko.document.rack.kinds import RACK_KINDS
from gecko.document.setup import Setup, load_setup
from gecko.plans.needs import NeedKind
from gecko.plans.parts_list import NeedOut, parts_csv, parts_list
from gecko.reference.rows import read_rows
from gecko.tests.machines import named

PACK = {"label": "5-cell pack", "cells_in_series": 5, "capacity_ah": named(5)}
FUSE = {"kind": "blade", "rating_a": 20, "dc_volts_v": 32}
REEL = {"awg": 12, "insulation": "105"}
LEAD = {"awg": 12, "length_m": named(0.25)}
DOCUMENT: dict[str, Any] = {
    "bank": {"rows": [{"units": [PACK], "fuse": FUSE, "lead": LEAD}] * 2},
    "main_fuse": {**FUSE, "rating_a": 30},
    "main_lead": {"awg": 12, "length_m": named(1)},
    "plugs": [{"kind": "two-pole 60", "poles": 4}],
    "cut_off": {"kind": "switch", "rating_a": named(60)},
    "guard": {"kind": "module", "volts_v": named(15.5), "rating_a": named(60)},
    "controller": {"kind": "brushed", "nominal_v": named(18), "battery_limit_a": named(30)},
    "motor": {"kind": "brushed", "volts_v": named(18), "power_w": named(350)},
    "chargers": [{"label": "dock", "chemistry": "li-ion", "end_v": named(21), "amps_a": named(2)}],
}


def need(kind: str, words: str = "", *rack: tuple[str, dict[str, Any], int], setup: Setup | None = None, baseline: Setup | None = None) -> NeedOut:
    racked = [Racked(kind=what, part=RACK_KINDS[what].model_validate(part), quantity=count) for what, part, count in rack]
    found = parts_list(setup or load_setup(DOCUMENT), baseline, racked).needs
    return next(one for one in found if one.kind == kind and words in one.label)


class Needs(TestCase):
    def test_alike_parts_are_counted_together(self) -> None:
        self.assertEqual([need("pack").needed, need("fuse", "20 A").needed, need("fuse", "30 A").needed, need("plug").needed], [2, 2, 1, 2])

    def test_wire_is_both_ways_with_a_tenth_to_spare(self) -> None:
        """Two row leads of 0.25 m and a main lead of 1 m, there and back: 3 m, and a tenth more."""
        self.assertAlmostEqual(need("wire").needed, 2 * (0.25 + 0.25 + 1.0) * 1.1)
        self.assertEqual((need("wire").unit, need("wire").label), ("m", "[[12|awg]] copper wire"))

    def test_doubled_wires_and_accessories(self) -> None:
        more = load_setup(
            {
                "controller_lead": {"awg": 12, "mm2": 4, "length_m": named(0.5), "strands": 2},
                "auxiliaries": [
                    {
                        "label": "lamps",
                        "amps_a": named(1),
                        "fuse": {**FUSE, "rating_a": 5},
                        "lead": {"awg": 16, "length_m": named(1)},
                        "converter": {"output_v": named(12), "output_a": named(5), "input_min_v": named(20), "input_max_v": named(60)},
                    }
                ],
            }
        )
        counted = {one.label: round(one.needed, 2) for one in parts_list(more, None, []).needs}
        self.assertEqual(
            counted,
            {
                "4 mm² copper wire": 2.2,
                "Crimped ends with sleeve, 4 mm²": 8,
                "Crimped ends with sleeve, [[16|awg]]": 4,
                "lamps": 1,
                "5 A blade fuse, 32 V DC or more, with holder": 1,
                "[[16|awg]] copper wire": 2.2,
                "Converter to 12 V, 5 A, up to 60 V in": 1,
            },
        )
        self.assertEqual(parts_list(load_setup({}), None, []).needs, [])

    def test_what_is_on_the_machine_is_not_bought(self) -> None:
        stock = load_setup({"main_lead": {"awg": 12, "length_m": named(0.5)}, "motor": DOCUMENT["motor"]})
        wire, motor = need("wire", baseline=stock), need("motor", baseline=stock)
        self.assertAlmostEqual(wire.on_machine, 1.1)
        self.assertAlmostEqual(wire.to_buy, 2.2)
        self.assertEqual((motor.on_machine, motor.to_buy), (1, 0))


class Serves(TestCase):
    """What on the rack serves a need, and the near twin that does not."""

    def check(self, kind: str, words: str, rack_kind: str, good: dict[str, Any], *bad: dict[str, Any]) -> None:
        with self.subTest(kind, part=good):
            self.assertGreater(need(kind, words, (rack_kind, good, 1)).on_rack, 0.0)
        for part in bad:
            with self.subTest(kind, part=part):
                self.assertEqual(need(kind, words, (rack_kind, part, 1)).on_rack, 0.0)

    def test_each_kind(self) -> None:
        controller = {"kind": "brushed", "nominal_v": named(18), "battery_limit_a": named(30)}
        self.check(
            "controller",
            "",
            "controllers",
            controller,
            # The one that was taken for a 30 A one.
            {**controller, "battery_limit_a": named(10)},
            {**controller, "battery_limit_a": None},
            {**controller, "kind": "brushless"},
            {**controller, "nominal_v": named(24)},
            {**controller, "max_v": named(20)},
        )
        self.check("controller", "", "controllers", {**controller, "nominal_v": named(24), "max_v": named(30)})
        self.check("pack", "", "packs", PACK, {**PACK, "capacity_ah": named(4)}, {**PACK, "damage": ["wet"]}, {**PACK, "chemistry": "lfp"})
        self.check("fuse", "30 A", "fuses", {**FUSE, "rating_a": 30, "dc_volts_v": 58}, {**FUSE, "rating_a": 30, "dc_volts_v": 24}, FUSE)
        self.check(
            "wire", "", "wires", {**REEL, "metres": 4}, {**REEL, "awg": 14, "metres": 4}, REEL, {"awg": 12, "metres": 4}, {**REEL, "metres": 4, "insulation": "60"}
        )
        self.check("plug", "", "plugs", {"kind": "two-pole 60"}, {"kind": "two-pole 60", "browned": True}, {"kind": "two-pole 90"})
        self.check("cut-off", "", "switches", {"rating_a": named(60)}, {"rating_a": named(20)}, {"kind": "switch"})
        self.check("guard", "", "guards", {"volts_v": named(15.5), "rating_a": named(80)}, {"volts_v": named(15.5), "rating_a": named(40)}, {"volts_v": named(15.5)})
        self.check("motor", "", "motors", DOCUMENT["motor"], {**DOCUMENT["motor"], "power_w": named(250)}, {"kind": "brushed"})
        dock = DOCUMENT["chargers"][0]
        self.check("charger", "", "chargers", dock, {**dock, "chemistry": "lead"}, {**dock, "end_v": named(42)}, {**dock, "amps_a": named(5)})

    def test_a_reel_by_its_square_millimetres(self) -> None:
        setup = load_setup({"main_lead": {"awg": 10, "mm2": 6, "length_m": named(1), "insulation": "60"}})
        reel = {"insulation": "60", "metres": 4.0}
        for there, serves in (({"mm2": 6.0}, True), ({"mm2": 4.0}, False), ({"awg": 10}, False)):
            self.assertEqual(need("wire", "", ("wires", {**reel, **there}, 1), setup=setup).on_rack > 0.0, serves, there)

    def test_a_pack_that_states_no_amps_counts_with_what_such_cells_give(self) -> None:
        """5 Ah of power cells give 25 A for good: enough for a plan that states 20 A, not for one that states 30 A."""
        for amps, serves in ((20, 1.0), (30, 0.0)):
            setup = load_setup({"bank": {"rows": [{"units": [{**PACK, "continuous_a": named(amps)}]}]}})
            self.assertEqual(need("pack", "", ("packs", PACK, 1), setup=setup).on_rack, serves)

    def test_no_more_than_there_is_and_no_more_than_is_needed(self) -> None:
        self.assertEqual([need("pack", "", ("packs", PACK, n)).on_rack for n in (0, 1, 3)], [0, 1, 2])
        self.assertEqual(need("pack", "", ("packs", PACK, 1)).to_buy, 1)
        self.assertAlmostEqual(need("wire", "", ("wires", {**REEL, "metres": 1}, 2)).on_rack, 2.0)

    def test_what_is_to_be_set_first_is_said(self) -> None:
        strong = {"kind": "brushed", "nominal_v": named(18), "battery_limit_a": named(45)}
        self.assertEqual(need("controller", "", ("controllers", strong, 1)).note, "It gives up to 45 A, the plan counts with 30 A: set its limit first.")
        self.assertEqual(need("guard", "", ("guards", {"volts_v": named(20), "rating_a": named(80)}, 1)).note, "Set it to 15.5 V.")
        self.assertEqual(need("guard").note, "")
        self.assertEqual(need("guard", "", ("guards", {"volts_v": named(15.5), "rating_a": named(80)}, 1)).note, "", "It is set so already.")

    def test_what_does_not_serve_asks_for_nothing(self) -> None:
        weak, good = {"volts_v": named(20), "rating_a": named(10)}, {"volts_v": named(15.5), "rating_a": named(80)}
        self.assertEqual(need("guard", "", ("guards", weak, 1), ("guards", good, 1)).note, "")


def on_rack(key: str, letter: str = "A", **more: Any) -> dict[str, Any]:
    return {"key": key, "label": "5-cell pack", "letter": letter, **more}


def racked(kind: str, part: dict[str, Any], quantity: int = 1, *, key: str = "", letter: str = "", label: str = "5-cell pack", **about: Any) -> Racked:
    return Racked(kind=kind, part=RACK_KINDS[kind].model_validate(part), quantity=quantity, key=key, letter=letter, label=label, about=About.model_validate(about))


def one_row(**rack: Any) -> Setup:
    return load_setup({"bank": {"rows": [{"units": [{**PACK, "rack": on_rack(**rack)}]}]}})


class ByName(TestCase):
    """What stands in a slot by its name is counted for that slot, and for no other."""

    def pack(self, setup: Setup, *rack: Racked, baseline: Setup | None = None) -> NeedOut:
        return next(one for one in parts_list(setup, baseline, rack).needs if one.kind == "pack")

    def test_an_owned_part_is_asked_for_once(self) -> None:
        found = self.pack(one_row(key="k1"), racked("packs", PACK, key="k1", letter="A"))
        self.assertEqual((found.on_rack, found.to_buy, found.letters, found.note), (1, 0, ["A"], ""))

    def test_a_pack_in_its_slot_serves_no_other_need(self) -> None:
        """Two slots of two kinds: A stands in the first, and is not counted for the second as well."""
        small = {**PACK, "label": "another label"}
        setup = load_setup({"bank": {"rows": [{"units": [{**PACK, "rack": on_rack("k1")}]}, {"units": [small]}]}})
        found = {one.label: one for one in parts_list(setup, None, [racked("packs", PACK, key="k1", letter="A")]).needs if one.kind == "pack"}
        self.assertEqual([(one.on_rack, one.to_buy) for one in found.values()], [(1, 0), (0, 1)])

    def test_the_slot_comes_before_the_machine_and_before_others_that_would_do(self) -> None:
        found = self.pack(one_row(key="k2"), racked("packs", PACK, key="k1", letter="A"), racked("packs", PACK, key="k2", letter="B"), baseline=one_row(key="k9"))
        self.assertEqual((found.on_machine, found.on_rack, found.letters), (0, 1, ["B"]))

    def test_a_hurt_one_is_bought_anew_and_named(self) -> None:
        found = self.pack(one_row(key="k1"), racked("packs", PACK, key="k1", letter="A", happened=[{"what": "wet"}]))
        self.assertEqual((found.on_rack, found.to_buy, found.note), (0, 1, "5-cell pack A got wet: it is out of every plan."))

    def test_a_hurt_one_serves_nobody_else_either(self) -> None:
        found = self.pack(load_setup(DOCUMENT), racked("packs", PACK, key="k1", state="retired"), racked("packs", PACK, key="k2"))
        self.assertEqual((found.on_rack, found.to_buy), (1, 1))

    def test_ordered_borrowed_wished_for_and_tied_on(self) -> None:
        cases: tuple[tuple[dict[str, Any], tuple[int, int, int], str], ...] = (
            ({"status": "ordered", "expected": "2026-12-03"}, (0, 1, 0), "5-cell pack A is ordered, expected on 3 December 2026."),
            ({"status": "borrowed", "whose": "a neighbour"}, (1, 0, 0), "5-cell pack A is borrowed from a neighbour."),
            ({"status": "wanted"}, (0, 0, 1), ""),
        )
        for about, counts, note in cases:
            found = self.pack(one_row(key="k1"), racked("packs", PACK, key="k1", letter="A", **about))
            self.assertEqual(((found.on_rack, found.ordered, found.to_buy), found.note), (counts, note))
        self.assertEqual(self.pack(one_row(key="k1", temporary=True)).note, "5-cell pack A is tied on for one try.")

    def test_what_is_at_hand_comes_before_what_is_ordered(self) -> None:
        found = self.pack(load_setup({"bank": {"rows": [{"units": [PACK]}]}}), racked("packs", PACK, status="ordered"), racked("packs", PACK))
        self.assertEqual((found.on_rack, found.ordered), (1, 0))

    def test_a_slot_that_was_changed_is_no_longer_that_part(self) -> None:
        setup = load_setup({"bank": {"rows": [{"units": [{**PACK, "capacity_ah": named(9), "rack": on_rack("k1")}]}]}})
        found = self.pack(setup, racked("packs", PACK, key="k1", letter="A"))
        self.assertEqual((found.to_buy, found.note), (1, "5-cell pack A on the rack is no longer what stands here."))

    def test_the_very_part_serves_its_slot_however_little_its_label_says(self) -> None:
        bare = Controller(kind="brushed").model_dump(mode="json")
        looked = {**bare, "enclosed": True, "rack": {"key": "k1", "label": "Old one"}}
        for slot, counts in ((looked, (1, 0)), ({**looked, "kind": "brushless"}, (0, 1))):
            (found,) = parts_list(load_setup({"controller": slot}), None, [racked("controllers", bare, key="k1")]).needs
            self.assertEqual((found.on_rack, found.to_buy), counts)
            other = parts_list(load_setup({"controller": {**slot, "rack": None}}), None, [racked("controllers", bare, key="k1")]).needs
            self.assertEqual(other[0].on_rack, 0, "Another of which as little is known serves none.")

    def test_one_reel_is_not_counted_for_two_wires(self) -> None:
        """4 m of 12 AWG on the reel: 2.2 m for one gauge's need; the rest is left for nobody of another gauge."""
        leads = {"main_lead": {"awg": 12, "length_m": named(1), "insulation": "60"}, "motor_lead": {"awg": 12, "mm2": 4, "length_m": named(1), "insulation": "60"}}
        found = [one for one in parts_list(load_setup(leads), None, [racked("wires", {"awg": 12, "metres": 3})]).needs if one.kind == "wire"]
        self.assertEqual([round(one.on_rack, 2) for one in found], [2.2, 0.0])


class Gearing(TestCase):
    def test_chain_sprockets_mount_throttle_and_lever(self) -> None:
        setup = load_setup(
            {
                "controller": {"kind": "brushed"},
                "throttle": {"kind": "hall", "brake_cut_off_present": True},
                "motor": {"kind": "brushed", "count": 2, "wiring": "parallel"},
                "drivetrain": {"kind": "chain", "motor_teeth": 11, "wheel_teeth": 55, "chain_pitch": "25", "links": 98},
                "wheel": {"diameter_m": named(0.3)},
            }
        )
        found = {one.label: one.needed for one in parts_list(setup, None, []).needs}
        self.assertEqual(
            found,
            {
                "brushed controller, ? V, ? A": 1,
                "Throttle, hall": 1,
                "Brake lever with its switch": 1,
                "Motor, brushed, ? V, ? W": 2,
                "Mount for the brushed, ? V, ? W": 2,
                "Sprocket at the motor, 11 teeth, chain 25": 1,
                "Sprocket at the wheel, 55 teeth, chain 25": 1,
                "Chain, 25, 98 links": 1,
                "Driven wheel, [[0.3|length]] across, pneumatic": 1,
            },
        )

    def test_a_chain_drive_of_the_rack_is_its_sprockets_and_its_chain(self) -> None:
        drive = {"kind": "chain", "motor_teeth": 11, "wheel_teeth": 55, "chain_pitch": "25"}
        slot = {**drive, "in_line": True, "rack": {"key": "k1", "label": "Chain drive"}}
        found = parts_list(load_setup({"drivetrain": slot}), None, [racked("gearboxes", drive, key="k1")]).needs
        self.assertEqual([(one.on_rack, one.to_buy) for one in found], [(1, 0)] * 3)
        other = parts_list(load_setup({"drivetrain": {**slot, "motor_teeth": 12}}), None, [racked("gearboxes", drive, key="k1")]).needs
        self.assertEqual([(one.on_rack, one.to_buy) for one in other], [(0, 1)] * 3)

    def test_a_hub_needs_no_mount_and_a_gearbox_is_one_part(self) -> None:
        hub = load_setup({"motor": {"kind": "hub"}, "drivetrain": {"kind": "hub"}})
        self.assertEqual([one.kind for one in parts_list(hub, None, []).needs], ["motor"])
        boxed = load_setup({"drivetrain": {"kind": "plastic gearbox", "ratio": named(98)}})
        self.assertEqual([one.label for one in parts_list(boxed, None, []).needs], ["Plastic gearbox, 98 : 1"])

    def test_hardware_serves_where_all_that_is_asked_is_the_same(self) -> None:
        drive = {"kind": "chain", "motor_teeth": 11, "chain_pitch": "25", "shaft": "8 mm with flat"}
        good = {"what": "sprocket", "teeth": 11, "pitch": "25", "fits": "8 mm with flat"}
        for part, serves in ((good, 1), ({**good, "teeth": 12}, 0), ({**good, "pitch": "35"}, 0), ({**good, "fits": ""}, 0), ({**good, "what": "chain"}, 0)):
            found = next(one for one in parts_list(load_setup({"drivetrain": drive}), None, [racked("hardware", part)]).needs if "motor" in one.label)
            self.assertEqual(found.on_rack, serves, part)

    def test_a_chain_nobody_knows_the_size_of_is_served_by_none(self) -> None:
        found = parts_list(load_setup({"drivetrain": {"kind": "chain"}}), None, [racked("hardware", {"what": "chain", "pitch": "25"})]).needs
        self.assertEqual([one.on_rack for one in found], [0, 0, 0])

    def test_converters_throttles_wheels_and_gearboxes_of_the_rack(self) -> None:
        made = {"output_v": named(12), "output_a": named(5), "input_min_v": named(20), "input_max_v": named(60)}
        branch = {"label": "lamps", "amps_a": named(1), "converter": made}
        document = {"auxiliaries": [branch], "controller": {"kind": "brushed"}, "throttle": {"kind": "hall"}, "wheel": {"diameter_m": named(0.3)}}
        document["drivetrain"] = {"kind": "worm transaxle", "ratio": named(30)}
        for kind, need_kind, good, bad in (
            ("converters", "converter", {**made, "output_a": named(8)}, {**made, "output_v": named(5)}),
            ("converters", "converter", {**made, "input_min_v": named(15)}, {**made, "input_min_v": named(30)}),
            ("throttles", "throttle", {"kind": "hall"}, {"kind": "potentiometer"}),
            ("wheels", "wheel", {"diameter_m": named(0.303)}, {"diameter_m": named(0.31)}),
            ("gearboxes", "gearbox", {"kind": "worm transaxle", "ratio": named(30)}, {"kind": "worm transaxle", "ratio": named(20)}),
        ):
            counts = [next(one for one in parts_list(load_setup(document), None, [racked(kind, part)]).needs if one.kind == need_kind).on_rack for part in (good, bad)]
            self.assertEqual(counts, [1, 0], kind)


class Money(TestCase):
    """Sums by hand."""

    def paid(self, amount: float, currency: str = "EUR") -> dict[str, Any]:
        return {"price": {"amount": amount, "currency": currency}}

    def test_what_was_paid_and_what_is_asked_make_the_span(self) -> None:
        """Two packs: one on hand for 62, one only wished for at 70. One is left to buy, at 62 to 70; the one that is there is worth the same."""
        setup = load_setup({"bank": {"rows": [{"units": [PACK]}, {"units": [PACK]}]}})
        rack = [racked("packs", PACK, key="k1", **self.paid(62)), racked("packs", PACK, key="k2", status="wanted", **self.paid(70))]
        found = parts_list(setup, None, rack, "EUR")
        self.assertEqual((found.to_buy.low, found.to_buy.high, found.to_buy.unpriced, found.to_buy.planned), (62, 70, 0, 0))
        self.assertEqual((found.owned.low, found.owned.high), (62, 70))

    def test_wire_is_priced_by_the_metre(self) -> None:
        setup = load_setup({"main_lead": {"awg": 12, "length_m": named(1), "insulation": "60"}})
        found = parts_list(setup, None, [racked("wires", {"awg": 12, "metres": 0.7}, **self.paid(2.5))], "EUR")
        wire = next(one for one in found.needs if one.kind == "wire")
        self.assertEqual((wire.each.low, round(wire.to_buy, 3)), (2.5, 1.5))

    def test_planning_values_by_size(self) -> None:
        """A pack of 5 cells at 3.6 V and 5 Ah holds 90 Wh: 10 + 0.25 · 90 to 25 + 1.2 · 90. A fuse of 30 A: 3 + 0.02 · 30 to 10 + 0.12 · 30."""
        found = parts_list(load_setup({"bank": {"rows": [{"units": [PACK]}]}, "main_fuse": {**FUSE, "rating_a": 30}}), None, [], "USD")
        pack, fuse = found.needs
        self.assertEqual(((pack.each.low, pack.each.high), pack.each.basis), ((32.5, 133.0), "planning value"))
        self.assertAlmostEqual(fuse.each.low or 0.0, 3.6)
        self.assertAlmostEqual(fuse.each.high or 0.0, 13.6)
        self.assertAlmostEqual(found.to_buy.low, 36.1)
        self.assertEqual((found.to_buy.planned, found.to_buy.unpriced), (2, 0))

    def test_no_price_leaves_the_sum_open_upward(self) -> None:
        """In crowns no planning value holds, and a price in euros is none: nobody knows the rate of the day."""
        setup = load_setup({"bank": {"rows": [{"units": [PACK]}]}, "main_fuse": {**FUSE, "rating_a": 30}})
        found = parts_list(
            setup,
            None,
            [racked("fuses", {**FUSE, "rating_a": 30}, status="wanted", **self.paid(40, "SEK")), racked("packs", PACK, status="wanted", **self.paid(60))],
            "SEK",
        )
        self.assertEqual((found.to_buy.low, found.to_buy.high, found.to_buy.unpriced), (40, None, 1))

    def test_a_motor_set_of_two_is_paid_once(self) -> None:
        two = {"kind": "small gear motor", "count": 2, "wiring": "parallel", "volts_v": named(12), "power_w": named(60)}
        found = parts_list(load_setup({"motor": two}), None, [racked("motors", two, status="wanted", **self.paid(30))], "EUR")
        motor = next(one for one in found.needs if one.kind == "motor")
        self.assertEqual((motor.to_buy, motor.each.low), (2, 15.0))

    def test_a_kit_costs_what_it_costs_once(self) -> None:
        """A motor and a controller in a box for 180: not 180 each; beside it what the box lacks, by planning values. Wished for, the box is what is left to buy."""
        motor, controller = {"kind": "brushed", "volts_v": named(24), "power_w": named(350)}, {"kind": "brushed", "battery_limit_a": named(30), "max_v": named(30)}
        contents = [{"kind": "motors", "document": motor, "label": "Motor"}, {"kind": "controllers", "document": controller, "label": "Controller"}]
        slots = {name: {**part, "rack": {"key": f"box:{n}", "label": name}} for n, (name, part) in enumerate((("motor", motor), ("controller", controller)))}
        setup = load_setup(slots)
        for status, told in (("on hand", "owned"), ("wanted", "to_buy")):
            found = parts_list(setup, None, [racked("kits", {"contents": contents}, key="box", status=status, **self.paid(180))], "EUR")
            beside = sum(one.needed * (one.each.low or 0.0) for one in found.needs if one.kind not in ("motor", "controller"))
            self.assertGreater(beside, 0.0)
            self.assertAlmostEqual(getattr(found, told).low, 180 + (beside if told == "to_buy" else 0.0))
            self.assertAlmostEqual(found.whole.low, 180 + beside)
            bought = next(one for one in found.needs if one.kind == "motor")
            self.assertEqual(bought.each.basis, "planning value", "One more motor is not another box.")

    def test_what_has_no_size_has_no_planning_value(self) -> None:
        found = parts_list(load_setup({"motor": {"kind": "brushed"}}), None, [], "USD")
        self.assertEqual([(one.kind, one.each.basis) for one in found.needs], [("motor", "unknown"), ("mount", "planning value")])

    def test_as_a_table(self) -> None:
        setup = load_setup({"main_lead": {"awg": 12, "length_m": named(1)}, "chargers": [{"label": "=dock", "end_v": named(21), "amps_a": named(2)}]})
        rows = list(csv.reader(io.StringIO(parts_csv(parts_list(setup, None, [], "USD")))))
        self.assertEqual(rows[0][:3], ["kind", "part", "unit"])
        self.assertEqual(rows[1][:8], ["wire", "12 AWG copper wire", "m", "2.2", "0", "0", "0", "2.2"])
        self.assertEqual(rows[3][1], "'=dock", "No name is taken for a formula.")

    def test_every_kind_of_need_has_its_row(self) -> None:
        kinds = {row["kind"] for row in read_rows("prices")}
        self.assertEqual(kinds, {*get_args(NeedKind), "knob module"})
