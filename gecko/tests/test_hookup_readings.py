"""The hookup's readings solved by hand, the order for every kind of machine, and what a wrong reading is said to mean."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from gecko.analysis.precharge import resistor_words
from gecko.analysis.riding import Riding
from gecko.common.words import plain
from gecko.document.context import Context
from gecko.document.parts.charger import Charger
from gecko.document.setup import Setup, load_setup
from gecko.hookup.anywhere import Situation, shown
from gecko.hookup.joined import MINUS_BAR, PLUS_BAR, Joined
from gecko.hookup.judgement import judge
from gecko.hookup.netlist import pack_window_v
from gecko.hookup.readings import State
from gecko.hookup.shape import Reading, Step
from gecko.plans.arrangements import typical_setup
from gecko.plans.care.charging import charge_plans, wanted_end_v
from gecko.plans.drive.gears import gears
from gecko.plans.evaluate import evaluate
from gecko.plans.hookup import Hookup, build_hookup
from gecko.plans.protect import protect_plan
from gecko.reference.tables import families
from gecko.tests.machines import bike, named, ride_on

FUSE = {"kind": "blade", "rating_a": 20, "dc_volts_v": 58}


def pack(**more: Any) -> dict[str, Any]:
    return {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "resistance_ohm": named(0.1), **more}


def rows(*units: dict[str, Any]) -> list[dict[str, Any]]:
    return [{"units": [unit], "fuse": FUSE} for unit in units]


def plan_of(setup: Setup) -> Hookup:
    plan = build_hookup(setup)
    assert plan is not None
    return plan


def net_of(setup: Setup) -> Joined:
    net = Joined.of(setup)
    assert net is not None
    return net


def step_of(setup: Setup, step: str) -> Step:
    return next(s for s in plan_of(setup).steps if s.id == step)


def reading_of(setup: Setup, step: str) -> Reading:
    reading = step_of(setup, step).reading
    assert reading is not None
    return reading


class ByHand(TestCase):
    def test_a_pack_on_its_own_terminals_shows_what_it_rests_at(self) -> None:
        """40.2 V at rest: within 2 % either way, and 1 % + 50 mV of the meter: 40.2·0.98 − 0.452 = 38.94 to 41.46 V."""
        reading = reading_of(bike(bank__rows=rows(pack(resting_v=named(40.2)))), "pack0")
        self.assertEqual((reading.expected, reading.low, reading.high), (40.2, 38.94, 41.46))

    def test_a_pack_nobody_measured_may_be_anything_between_nearly_empty_and_full(self) -> None:
        """Ten cells of 3.3 to 4.2 V, 4.1 V likely; with the meter's 1 % + 50 mV: 33 − 0.46 and 42 + 0.46 V."""
        reading = reading_of(bike(bank__rows=rows(pack())), "pack0")
        self.assertEqual((reading.expected, reading.low, reading.high), (41.0, 32.54, 42.46))

    def test_windows_of_the_other_chemistries(self) -> None:
        """LFP 3.0, 3.35, 3.65 V; lead 1.93, 2.12, 2.2 V a cell."""
        for chemistry, cells, expected, low, high in (("lfp", 12, 40.2, 35.55, 44.25), ("lead", 18, 38.16, 34.31, 40.03)):
            reading = reading_of(bike(bank__rows=rows(pack(chemistry=chemistry, cells_in_series=cells))), "pack0")
            self.assertEqual((reading.expected, reading.low, reading.high), (expected, low, high))

    def test_two_unlike_rows_meet_by_their_resistance(self) -> None:
        """40.0 V behind 0.1 Ω + 3.5 mΩ of fuse, 39.4 V behind 0.3 Ω + 3.5 mΩ: (40/0.1035 + 39.4/0.3035)/(1/0.1035 + 1/0.3035) = 39.8474 V."""
        setup = bike(bank__rows=rows(pack(resting_v=named(40)), pack(resting_v=named(39.4), resistance_ohm=named(0.3))))
        self.assertEqual(reading_of(setup, "join1").expected, 39.85)

    def test_two_packs_in_a_row_add_up(self) -> None:
        half = pack(cells_in_series=5, resting_v=named(20.1))
        setup = bike(bank__rows=[{"units": [half, {**half, "resting_v": named(20.3)}], "fuse": FUSE}])
        self.assertEqual(reading_of(setup, "pack0").expected, 40.4)
        self.assertIn("row A", step_of(setup, "pack0").title)

    def test_the_load_is_dead_until_fuse_and_cut_off_are_in(self) -> None:
        net = net_of(bike(bank__rows=rows(pack(resting_v=named(40)))))
        for fuse in (False, True):
            for switch in (False, True):
                state = State(frozenset({0}), frozenset({0}), fuse, switch)
                expected = 40.0 if fuse and switch else 0.0
                self.assertAlmostEqual(net.volts(state, net.load_plus, net.load_minus)[1], expected, delta=0.05)

    def test_a_row_fuse_left_out_keeps_its_row_out(self) -> None:
        net = net_of(bike(bank__rows=rows(pack(resting_v=named(40)), pack(resting_v=named(39)))))
        both, first = frozenset({0, 1}), frozenset({0})
        self.assertAlmostEqual(net.volts(State(both, first), PLUS_BAR, MINUS_BAR)[1], 40.0, places=3)
        self.assertAlmostEqual(net.volts(State(both, both), PLUS_BAR, MINUS_BAR)[1], 39.5, places=3)
        self.assertAlmostEqual(net.volts(State(first, both), PLUS_BAR, MINUS_BAR)[1], 40.0, places=3)

    def test_first_power_loses_the_idle_current_in_the_path_only(self) -> None:
        """50 mA through 0.1 Ω and some 16 mΩ of path: 6 mV less than at rest."""
        reading = reading_of(bike(bank__rows__0__units__0__resting_v=named(40), bank__rows__0__units__0__resistance_ohm=named(0.1)), "first_power")
        self.assertEqual(reading.expected, 39.99)

    def test_the_minus_lead_is_half_the_lead_and_half_the_poles(self) -> None:
        """0.6 m of 10 AWG at 3.277 mΩ/m and two poles of 0.6 mΩ: 3.166 mΩ; with the meter's own 0.3 Ω at most 0.30 Ω."""
        reading = reading_of(bike(), "minus")
        self.assertEqual((reading.expected, reading.high), (0.003, 0.3))

    def test_ohms_through_everything_that_is_in_line(self) -> None:
        """Holder bridged, cut-off on, guard: 2.333 + 6 + 2 mΩ, the plus lead's 3.166 mΩ and three joints of 0.1 mΩ."""
        net = net_of(bike())
        found = net.resistance(State(main_fuse=True, cut_off=True), net.load_plus, PLUS_BAR)
        self.assertAlmostEqual((found or 0) * 1000, 13.80, delta=0.02)
        self.assertIsNone(net.resistance(State(main_fuse=True), net.load_plus, PLUS_BAR))

    def test_two_motors_as_they_are_wired(self) -> None:
        """One gear motor 12 V, 60 W, η 0.62: I = 8.0645 A, R = 0.6·36.77/65.04 = 0.3393 Ω; two in parallel half, in series twice that."""
        plate = {"kind": "small gear motor", "count": 2, "volts_v": named(12), "power_w": named(60), "no_load_rpm": named(14000)}
        for wiring, ohm in (("parallel", 0.1696), ("series", 0.6785)):
            reading = reading_of(ride_on(motor={**plate, "wiring": wiring}), "motor")
            self.assertAlmostEqual(reading.expected or 0, ohm, delta=0.003)


class Order(TestCase):
    def order(self, setup: Setup) -> list[str]:
        return [s.id for s in plan_of(setup).steps]

    def test_the_whole_order_of_a_bike(self) -> None:
        self.assertEqual(
            self.order(bike()),
            [
                *("safe", "dry_fit", "throttle", "brake", "motor", "minus", "plus", "guard", "cut_off", "holder", "whole"),
                *("pack0", "join0", "dead", "limited", "throttle_live", "main_fuse", "first_power"),
            ],
        )

    def test_small_switches_covers_learning_and_settings_have_their_place(self) -> None:
        lid = {"label": "Lid", "kind": "seal", "fasteners": 4, "drive": "cross", "kept": "the red tin"}
        setup = bike(
            motor__kind="hub",
            controller__kind="brushless",
            controller__firmware={"changed": True},
            controls={"key": True, "reverse": True, "learning_plug": True},
            openings=[lid],
            plug_pairs=[{"place": "throttle", "controller": [{"colour": "violet", "function": "5 V"}], "part": [{"colour": "grey", "function": "5 V"}]}],
        )
        order = self.order(setup)
        self.assertEqual(order[:9], ["safe", "open0", "dry_fit", "throttle", "brake", "key", "reverse_switch", "learning_plug", "motor"])
        self.assertEqual(order[-4:], ["first_power", "learn", "settings", "close0"])
        self.assertIn("4 screws or clips out, into the red tin", step_of(setup, "open0").what)
        self.assertIn("cross", step_of(setup, "open0").tools)
        self.assertIn("Violet to grey (5 V)", step_of(setup, "throttle").what)
        self.assertIn("28 A from the bank, 28 V low cut-off", step_of(setup, "settings").what)
        self.assertIn("without throttle", step_of(setup, "learn").caution)

    def test_it_learns_before_the_first_twist(self) -> None:
        """A controller that has not learned may turn the wheel the wrong way, or with many amps, at a touch of the throttle."""
        hub: dict[str, Any] = {"motor__kind": "hub", "controller__kind": "brushless"}
        for controls in ({"learning_plug": True}, {"harness": ["learning"]}):
            setup = bike(**hub, controls=controls)
            self.assertIn("it learns first", step_of(setup, "first_power").what)
            self.assertNotIn("touch of the throttle", step_of(setup, "first_power").what)
            self.assertIn("Only then a touch of the throttle", step_of(setup, "learn").what)
            self.assertTrue(step_of(setup, "learn").safety)
        plain = step_of(bike(**hub), "first_power").what
        self.assertIn("Then a touch of the throttle, no more.", plain)

    def test_a_switched_ride_on_has_neither_throttle_nor_precharge(self) -> None:
        self.assertEqual(
            self.order(ride_on()),
            ["safe", "dry_fit", "motor", "minus", "plus", "cut_off", "holder", "whole", "pack0", "join0", "dead", "limited", "main_fuse", "first_power"],
        )

    def test_what_is_not_there_has_no_step(self) -> None:
        for part, step in (("guard", "guard"), ("cut_off", "cut_off"), ("main_fuse", "holder"), ("motor", "motor")):
            self.assertNotIn(step, self.order(bike(**{part: None})))

    def test_the_spark_is_spoken_of_from_thirty_six_volts(self) -> None:
        for cells, own, words in ((8, False, None), (10, False, "100 Ω"), (10, True, "pre-charge")):
            what = step_of(bike(bank__rows=rows(pack(cells_in_series=cells)), controller__precharge=own), "first_power").what
            self.assertEqual(any(word in what for word in ("100 Ω", "pre-charge")), words is not None, what)
            self.assertIn(words or "", what)

    def test_every_typical_machine_gets_a_safe_order(self) -> None:
        for family in families():
            ids = self.order(load_setup({**typical_setup(family), "cut_off": {"kind": "pullable plug"}}))
            with self.subTest(family):
                self.assertEqual((ids[0], ids[-1]), ("safe", "first_power"))
                for earlier, later in (("motor", "minus"), ("plus", "holder"), ("cut_off", "pack0"), ("join0", "main_fuse")):
                    self.assertLess(ids.index(earlier), ids.index(later))

    def test_each_step_says_what_to_do_and_where_to_measure(self) -> None:
        for setup in (bike(), ride_on(), bike(bank__rows=rows(pack(), pack(), pack()))):
            plan = plan_of(setup)
            blocks = {part.id for part in plan.drawing.parts} | {f"row{part.row}" for part in plan.drawing.parts if part.kind == "pack"}
            self.assertEqual(len({s.id for s in plan.steps}), len(plan.steps))
            for step in plan.steps:
                self.assertTrue(step.title and step.what)
                self.assertLessEqual(set(step.blocks), blocks, step.id)
                if step.reading is not None:
                    self.assertTrue(step.reading.red_on and step.reading.black_on)
                    self.assertLessEqual({step.reading.red, step.reading.black}, {one.id for one in plan.terminals}, step.id)

    def test_plus_is_found_by_measuring_until_it_was_proven(self) -> None:
        proven = step_of(bike(), "plus").caution
        unproven = step_of(bike(vehicle={"family": "small dirt bike"}), "plus").caution
        self.assertEqual(proven, "")
        self.assertIn("never by the colour", unproven)

    def test_a_hub_has_phases_and_halls(self) -> None:
        hub = {"kind": "hub", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(500)}
        step = step_of(bike(motor=hub, controller__kind="brushless"), "motor")
        self.assertIn("Hall", step.what)
        assert step.reading is not None
        self.assertEqual(step.reading.red_on, "Motor, phase A")


class Joining(TestCase):
    def test_rows_may_differ_by_what_the_weaker_bears(self) -> None:
        """6 A into 0.2 Ω are 1.2 V, capped at half a volt a pack; a 1 A limit leaves 0.2 V."""
        self.assertEqual(reading_of(bike(bank__rows=rows(pack(), pack())), "match1").high, 0.5)
        gentle = reading_of(bike(bank__rows=rows(pack(), pack(charge_limit_a=named(1)))), "match1")
        self.assertEqual((gentle.low, gentle.high, gentle.expected), (-0.2, 0.2, 0.0))

    def test_too_far_apart_says_keep_them_apart(self) -> None:
        reading = reading_of(bike(bank__rows=rows(pack(), pack())), "match1")
        self.assertTrue(judge(reading, -0.49).fits and judge(reading, 0.49).fits)
        found = judge(reading, -0.8)
        self.assertEqual((found.fits, found.headline), (False, "They differ by 0.80 V: do not join them yet."))
        self.assertIn("Charge both", found.next_reading)


class Judging(TestCase):
    def test_the_edges_of_a_range_fit(self) -> None:
        reading = reading_of(bike(), "pack0")
        assert reading.low is not None and reading.high is not None
        for value, fits in ((reading.low, True), (reading.high, True), (reading.low - 0.01, False), (reading.high + 0.01, False)):
            self.assertEqual(judge(reading, value).fits, fits, value)

    def test_volts_where_there_should_be_none(self) -> None:
        found = judge(reading_of(bike(), "dead"), 12.0)
        self.assertEqual((found.fits, found.headline), (False, "12.0 V where there should be none."))
        self.assertIn("now", found.make_safe)

    def test_a_short_is_told_from_a_little_too_few_ohms(self) -> None:
        reading = reading_of(bike(), "plus")
        self.assertIn("Nearly a short", judge(reading, 0.4).headline)
        self.assertIn("Lower", judge(reading, 60).headline)
        self.assertTrue(judge(reading, 100).fits)

    def test_a_weak_crimp(self) -> None:
        found = judge(reading_of(bike(), "minus"), 4.0)
        self.assertIn("weak crimp", found.causes[0])

    def test_open_is_right_across_an_empty_holder_and_wrong_in_a_lead(self) -> None:
        self.assertTrue(judge(reading_of(bike(), "holder"), None).fits)
        self.assertFalse(judge(reading_of(bike(), "holder"), 0.2).fits)
        self.assertFalse(judge(reading_of(bike(), "minus"), None).fits)
        self.assertFalse(judge(reading_of(bike(), "motor"), None).fits)

    def test_every_wrong_reading_gets_causes_and_a_next_one(self) -> None:
        for setup in (bike(bank__rows=rows(pack(), pack())), ride_on()):
            for step in plan_of(setup).steps:
                if step.reading is None:
                    continue
                for value in (None, -99.0, 0.0, 1.0, 7.0, 99.0, 1e6):
                    found = judge(step.reading, value)
                    if not found.fits:
                        self.assertTrue(found.headline and found.make_safe and len(found.causes) == 3 and found.next_reading, (step.id, value))

    def test_a_throttle_out_of_range_is_not_told_about_packs(self) -> None:
        reading = reading_of(bike(), "throttle_live")
        for value, words in ((4.9, "Signal and 5 V"), (0.0, "No 5 V")):
            found = judge(reading, value)
            self.assertFalse(found.fits)
            self.assertIn(words, found.causes[0])
            self.assertNotIn("packs", found.headline)
        self.assertIn("glow", judge(reading_of(bike(), "limited"), 3.0).causes[0])
        self.assertIn("Higher than the packs", judge(reading_of(bike(), "limited"), 60.0).headline)


class Drawing(TestCase):
    def test_every_pack_of_a_row_and_the_whole_path_are_parts(self) -> None:
        halves = [{"units": [pack(), pack()], "fuse": FUSE}, {"units": [pack(), pack()], "fuse": FUSE}]
        parts = {part.id: part for part in plan_of(bike(bank__rows=halves)).drawing.parts}
        path = {"pack0_0", "pack0_1", "pack1_0", "pack1_1", "row_fuse0", "row_fuse1", "main_fuse", "cut_off", "guard", "controller", "motor0", "throttle", "brake"}
        self.assertLessEqual(path, set(parts))
        self.assertEqual((parts["pack1_1"].label, parts["pack1_1"].row), ("Pack B2", 1))

    def test_lines_carry_gauge_and_kind_and_small_wires_are_cables(self) -> None:
        lines = {(line.start, line.end): line for line in plan_of(bike()).drawing.lines}
        self.assertEqual([plain(word) for word in lines["guard.out", "controller.battery +"].label], ["10 AWG RD"])
        self.assertEqual({line.kind for line in lines.values()}, {"plus", "minus", "motor", "signal"})
        cable = lines["controller.throttle throttle", "throttle.throttle throttle"]
        self.assertEqual((len(cable.strands), cable.label), (3, ["3 wires"]))

    def test_wires_have_the_colours_one_entered_with_their_letters(self) -> None:
        half = [{"colour": "violet", "function": "5 V"}, {"colour": "white with red", "function": "signal"}]
        other = [{"colour": "grey", "function": "5 V"}, {"colour": "mud", "function": "signal"}]
        main = {"awg": 10, "length_m": named(0.5), "colour": "yellow", "colour_back": "blue"}
        lines = {
            (line.start, line.end): line for line in plan_of(bike(main_lead=main, plug_pairs=[{"place": "throttle", "controller": half, "part": other}])).drawing.lines
        }
        cable = lines["controller.throttle throttle", "throttle.throttle throttle"]
        self.assertEqual(cable.label, ["5 V VT–GY", "signal WH/RD–mud"])
        self.assertEqual([(strand.start, strand.end) for strand in cable.strands], [(["VT"], ["GY"]), ([], []), (["WH", "RD"], [])])
        self.assertEqual(plain(lines["guard.out", "controller.battery +"].label[0]), "10 AWG YE")
        self.assertEqual([plain(line.label[0]) for line in lines.values() if line.end == "controller.battery −"], ["10 AWG BU"])


class Chargers(TestCase):
    def plan(self, setup: Setup, **charger: Any) -> Any:
        return charge_plans(setup, [Charger.model_validate({"end_v": 42, "amps_a": 2, **charger})])[0]

    def test_hours_of_one_pack_and_of_a_bank_in_place(self) -> None:
        """6 Ah at 2 A: 5.6/2 + 0.2 ln(2/0.3) = 3.17942 h; two rows charged in place: 12 Ah, 11.6/2 + 0.2 ln(2/0.6) = 6.04079 h."""
        two = bike(bank__rows=rows(pack(), pack()))
        self.assertAlmostEqual(self.plan(two).hours, 3.179424, places=5)
        self.assertAlmostEqual(self.plan(two, per="bank").hours, 6.040795, places=5)

    def test_all_packs_one_after_the_other(self) -> None:
        """Two rows of two 5-cell packs, three of 6 Ah and one of 4 Ah at 2 A: 3·3.17942 + 2.26052 = 11.79879 h;
        in place once, 10 Ah: 9.6/2 + 0.2 ln(2/0.5) = 5.07726 h."""
        half = pack(cells_in_series=5)
        uneven = bike(bank__rows=[{"units": [half, half], "fuse": FUSE}, {"units": [half, {**half, "capacity_ah": named(4)}], "fuse": FUSE}])
        each, place = self.plan(uneven, end_v=21), self.plan(uneven, per="bank")
        self.assertEqual((each.charges, place.charges), (4, 1))
        self.assertAlmostEqual(each.total_hours, 11.798789, places=5)
        self.assertAlmostEqual(each.hours, 3.179424, places=5)
        self.assertAlmostEqual(place.total_hours, 5.077259, places=5)

    def test_ports_and_chargers_share_the_packs(self) -> None:
        """Four like packs of 6 Ah at 2 A take 3.17942 h each: one charger with two ports 6.35885 h, with a second single one three ports,
        so one of them does two: 6.35885 h still. A 6 A charger (4.8/6 + 0.2 ln(6/0.3) = 1.39915 h) does two in 2.79829 h beside the dock's
        two, and all is done after 3.17942 h."""
        half = pack(cells_in_series=5)
        four = bike(bank__rows=[{"units": [half, half], "fuse": FUSE}] * 2)
        two_ports, slow, fast = (
            Charger.model_validate({"end_v": 21, "amps_a": amps, "ports": ports, "label": label})
            for amps, ports, label in ((2, 2, "dock"), (2, 1, "slow"), (6, 1, "fast"))
        )
        alone = charge_plans(four, [two_ports])[0]
        self.assertEqual((alone.charges, alone.side_by_side), (4, 2))
        self.assertAlmostEqual(alone.all_hours, 6.358848, places=5)
        both = charge_plans(four, [two_ports, slow])
        self.assertEqual(sum(one.charges for one in both), 4)
        self.assertAlmostEqual(both[0].all_hours, 6.358848, places=5)
        dock, quick = charge_plans(four, [two_ports, fast])
        self.assertEqual((dock.charges, quick.charges), (2, 2))
        self.assertAlmostEqual(quick.total_hours, 2.798293, places=5)
        self.assertAlmostEqual(quick.all_hours, 3.179424, places=5)
        wrong, right = charge_plans(four, [Charger.model_validate({"end_v": 42, "amps_a": 2}), slow])
        self.assertEqual((wrong.fits, right.charges), (False, 4))

    def test_end_volts_wanted(self) -> None:
        half = pack(cells_in_series=5)
        row = bike(bank__rows=[{"units": [half, half]}])
        for per, wanted in (("unit", 21.0), ("bank", 42.0)):
            self.assertAlmostEqual(wanted_end_v(Charger.model_validate({"end_v": 42, "amps_a": 2, "per": per}), row) or 0, wanted)
        self.assertIsNone(wanted_end_v(Charger.model_validate({"end_v": 42, "amps_a": 2}), load_setup({})))

    def test_each_reason_not_to_use_it(self) -> None:
        for charger, words in (
            ({"chemistry": "lead"}, "made for lead, the packs are li-ion"),
            ({"end_v": 29.4}, "ends at 29.4 V; 42.0 V is right (4.20 V a cell)"),
            ({"amps_a": 8}, "8.0 A are more than the 6.0 A a pack stands"),
        ):
            found = self.plan(bike(), **charger)
            self.assertFalse(found.fits)
            self.assertIn(words, found.why)
        several = self.plan(bike(), chemistry="lead", end_v=29.4, amps_a=8)
        self.assertEqual(several.why.count(";"), 3)

    def test_a_fitting_charger_says_nothing_more(self) -> None:
        self.assertEqual((self.plan(bike()).fits, self.plan(bike()).why), (True, ""))
        self.assertEqual(charge_plans(load_setup({}), [Charger.model_validate({"end_v": 42, "amps_a": 2})]), [])


class MeterAnywhere(TestCase):
    """What the meter says of things nobody can know, worked out by hand."""

    def test_packs_that_are_not_joined_may_differ_either_way(self) -> None:
        """Ten cells each, 30 V nearly empty to 42 V full at the most: with the row fuses out their pluses differ by 0 V, or up to some 10 V either way."""
        two = bike(bank__rows=rows(pack(), pack()))
        apart = shown(two, Situation(packs=True, row_fuses=False), "pack0_0.+", "pack1_0.+")
        window = pack_window_v(two.bank.rows[0].units[0])  # type: ignore[union-attr]
        self.assertAlmostEqual(apart.expected or 0.0, 0.0, places=3)
        assert apart.high is not None and apart.low is not None
        self.assertAlmostEqual(apart.high, (window[2] - window[1]) + (window[1] - window[0]) + 0.05, delta=0.02)
        self.assertAlmostEqual(apart.low, -apart.high, places=2)
        self.assertIn("not known", apart.note)

    def test_packs_whose_volts_were_measured_say_what_they_differ_by(self) -> None:
        """40.2 and 39.8 V: 0.4 V, each known to 2 % by what a rest may still bring."""
        two = bike(bank__rows=rows(pack(resting_v=named(40.2)), pack(resting_v=named(39.8))))
        apart = shown(two, Situation(packs=True, row_fuses=False), "pack0_0.+", "pack1_0.+")
        self.assertAlmostEqual(apart.expected or 0.0, 0.4, places=3)

    def test_what_hangs_on_nothing_shows_nothing(self) -> None:
        """The main fuse out: the load side has no volts against minus, by the meter's own ohms."""
        found = shown(bike(), Situation(packs=True), "controller.battery +", MINUS_BAR)
        self.assertLess(abs(found.expected or 0.0), 0.05)

    def test_a_motor_that_turns_never_shows_nothing(self) -> None:
        """Half throttle on 37 V: about half of them, and surely not 0."""
        on = Situation(packs=True, main_fuse=True, cut_off=True, key=True, foot=True, throttle=0.5)
        found = shown(bike(), on, "motor0.+", "motor0.−")
        bank = shown(bike(), on, "controller.battery +", "controller.battery −")
        assert found.expected is not None and bank.expected is not None and found.low is not None
        self.assertAlmostEqual(found.expected, 0.5 * bank.expected, places=2)
        self.assertGreater(found.low, 1.0)
        still = shown(bike(), on.model_copy(update={"throttle": 0.0}), "motor0.+", "motor0.−")
        self.assertAlmostEqual(still.expected or 0.0, 0.0, places=2)
        phases = shown(bike(motor__kind="brushless mid", controller__kind="brushless"), on, "motor0.phase A", "motor0.phase B")
        self.assertEqual((phases.kind, "alternate" in phases.note), ("unknown", True))

    def test_nothing_is_not_in_range_of_a_winding(self) -> None:
        """A winding of 0.5 Ω shows at least 0.98·0.5 − 0.1 = 0.39 Ω; 0 Ω is a short, and judged so."""
        reading = reading_of(bike(motor__resistance_ohm=named(0.5)), "motor")
        self.assertGreater(reading.low or 0.0, 0.15)
        self.assertFalse(judge(reading, 0.0).fits)
        self.assertTrue(judge(reading, 0.7).fits)

    def test_a_reversed_socket_says_reversed(self) -> None:
        reading = reading_of(bike(controls={"charge_socket": True}), "charge_live")
        found = judge(reading, -(reading.expected or 0.0))
        self.assertEqual(found.headline, "Reversed.")
        self.assertIn("changed over at the socket", found.causes[0])

    def test_one_sum_for_the_resistor_against_the_spark(self) -> None:
        """Finding, step and plan name the same resistor: 54.6 V through 0.5 A at most is 120 Ω of the E12 series."""
        high = bike(bank__rows=[{"units": [pack(cells_in_series=13)]}], controller__nominal_v=named(48), controller__precharge=False)
        (finding,) = [f for f in evaluate(high).findings if f.id == "ctl.precharge"]
        plan = protect_plan(high, Context()).precharge
        assert plan is not None
        words = resistor_words(plan)
        self.assertTrue(words.startswith("120 Ω"), words)
        self.assertIn(words, finding.instruction)
        self.assertTrue(any(words in step.what for step in plan_of(high).steps), words)

    def test_an_order_found_by_trying_stays(self) -> None:
        """Phases B, C, A on the controller's A, B, C ran smoothly: wiring and step join them so from then on."""
        trial = {"phases": "BCA", "halls": "CAB", "outcome": "smooth forward"}
        tried = bike(motor__kind="brushless mid", controller__kind="brushless", order_trials=[trial])
        net = net_of(tried)
        joined = {(wire.a, wire.b) for wire in net.wiring.wires}
        self.assertIn(("controller.phase A", "motor0.phase B"), joined)
        self.assertIn(("controller.Hall A", "motor0.Hall C"), joined)
        self.assertIn("phase A to phase B", step_of(tried, "motor").what)
        self.assertNotIn("By the tries", step_of(bike(motor__kind="brushless mid", controller__kind="brushless"), "motor").what)

    def test_with_a_switch_in_the_motor_leads_the_step_joins_it(self) -> None:
        what = step_of(bike(controls={"direction": "in the motor leads"}), "direction").what
        self.assertIn("the controller's motor plus and minus to its two ways in", what)


class KnobModule(TestCase):
    """A module before the stock pedal: the harness behind it stays."""

    def car(self, **more: Any) -> Setup:
        module = {"kind": "knob module", "nominal_v": named(18), "max_v": named(50), "undervoltage_v": named(9), "battery_limit_a": named(20)}
        return ride_on(controller=module, bank__rows=[{"units": [pack(cells_in_series=5)]}], **more)

    def test_the_pedal_is_fed_by_the_module_and_the_motors_by_the_pedal(self) -> None:
        joined = {frozenset((wire.a, wire.b)) for wire in net_of(self.car()).wiring.wires}
        for a, b in (("controller.motor +", "pedal_switch.in"), ("pedal_switch.out", "motor0.+"), ("motor1.−", "controller.motor −")):
            self.assertIn(frozenset((a, b)), joined)

    def test_its_steps_keep_the_stock_harness(self) -> None:
        steps = {step.id: step for step in plan_of(self.car()).steps}
        self.assertIn("nothing of the stock harness is cut or thrown away", steps["stock_harness"].what)
        self.assertEqual(steps["motor"].title, "Motor leads stay where they are")
        self.assertNotIn("throttle", steps)
        self.assertLess(list(steps).index("stock_harness"), list(steps).index("plus"))

    def test_the_stock_switch_is_judged_by_what_the_motors_take_behind_it(self) -> None:
        """20 A of the module are 26 A at the motors, 1.3 times: a switch for 22 A bears the packs' side, not the motors'."""
        weak = evaluate(self.car(pedal_switch={"kind": "switch", "rating_a": named(22), "dc_volts_v": named(60)}))
        self.assertIn("switch.dc@pedal_switch", [f.key for f in weak.findings if f.gate == "plan"])
        sound = evaluate(self.car(pedal_switch={"kind": "switch", "rating_a": named(40), "dc_volts_v": named(60)}))
        self.assertNotIn("switch.dc@pedal_switch", [f.key for f in sound.findings])
        self.assertIn("switch", [station.id for station in sound.trail])

    def test_both_gears_are_computed(self) -> None:
        """In low gear each of two motors has half the volts: about half the speed, and a quarter of the amps at standstill."""
        high, low = gears(Riding(self.car(controller__battery_limit_a=named(200), controller__phase_limit_a=named(400))))[:2]
        self.assertTrue(0.4 < low.top_speed_m_s / high.top_speed_m_s < 0.62, (low.top_speed_m_s, high.top_speed_m_s))
        self.assertTrue(0.2 < low.stall_a / high.stall_a < 0.4, (low.stall_a, high.stall_a))

    def test_a_brushless_motor_takes_no_module(self) -> None:
        found = evaluate(self.car(motor={"kind": "hub", "volts_v": named(12), "power_w": named(100)}))
        self.assertIn("ctl.kind", [f.id for f in found.findings if f.gate == "plan"])

    def test_no_brake_lever_is_looked_for(self) -> None:
        """A pedal car with a module has no throttle and no levers to ask about, whatever its body."""
        asked = {one.key for one in evaluate(self.car(vehicle__family="quad")).survey}
        self.assertFalse({key for key in asked if "brake_cut_off" in key}, asked)
