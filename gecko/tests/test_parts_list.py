"""The parts list by hand: what a setup needs, and which parts of the rack serve it."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from gecko.document.rack import RACK_KINDS, Racked
from gecko.document.setup import Setup, load_setup
from gecko.plans.parts_list import NeedOut, parts_list
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
    racked = [Racked(part=RACK_KINDS[what].model_validate(part), quantity=count) for what, part, count in rack]
    found = parts_list(setup or load_setup(DOCUMENT), baseline, racked)
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
        counted = {one.label: round(one.needed, 2) for one in parts_list(more, None, [])}
        self.assertEqual(
            counted,
            {
                "4 mm² copper wire": 2.2,
                "5 A blade fuse, 32 V DC or more, with holder": 1,
                "[[16|awg]] copper wire": 2.2,
                "Converter to 12 V, 5 A, up to 60 V in": 1,
            },
        )
        self.assertEqual(parts_list(load_setup({}), None, []), [])

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
