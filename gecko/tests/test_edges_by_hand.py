"""Small functions at their edges, each value by hand: where a limit just holds and where it no longer does."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any
from unittest import TestCase

from gecko.analysis.guard import guard_floor_v, guard_level_v
from gecko.analysis.joining import pairs, rushes
from gecko.analysis.occupancy import all_in, occupancies, ride_shares, row_worst
from gecko.analysis.riding import bank_full_v
from gecko.analysis.runs import letters
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Price
from gecko.document.parts.charger import Charger
from gecko.document.parts.pack import Pack
from gecko.document.parts.rider import Ground
from gecko.document.setup import Bank, load_setup
from gecko.physics.electric.bank import RowModel, Unit, unit_volts_v
from gecko.physics.electric.joining import join_rows
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import UNDERVOLTAGE as STARVED
from gecko.physics.electric.operating_point import (
    ControllerModel,
    bank_side_a,
    fed_back_a,
    full_throttle,
    motor_current,
    part_throttle,
    slipping_pack_a,
)
from gecko.physics.electric.path import awg_area_m2, fuse_ohm
from gecko.physics.motion.top_speed import top_speed
from gecko.physics.protection.ampacity import Size
from gecko.physics.protection.fuse import dc_class_v, opening_times_s
from gecko.plans.care.charging import CHARGE_FACTOR, END_SHARE_PER_H, TAPER_H, charge_hours, charge_plans, wanted_end_v
from gecko.plans.trials.reduction import Pass, Reduced, gain, reduce_passes
from gecko.reference.tables import ampacity_row, fuse_curve
from gecko.rules.edits import both, fewer_in_series, merged, one_more_row, put, round_up
from gecko.rules.looks import stamped
from gecko.rules.together import add_guard
from gecko.rules.tried import price
from gecko.tests.machines import bike, named, ride_on


def pack(cells: int, ah: float = 5.0, **more: Any) -> dict[str, Any]:
    return {"cells_in_series": cells, "capacity_ah": named(ah), **more}


class Guard(TestCase):
    def test_the_row_that_needs_most_sets_the_level(self) -> None:
        """Ten cells at 3.0 V are 30.0 V, twelve 36.0 V, six of lead at 1.75 V 10.5 V; 3 % above is where the guard belongs."""
        bank = bike(bank={"rows": [{"units": [pack(10)]}, {"units": [pack(6), pack(6)]}, {"units": [pack(6, chemistry="lead")]}]}).bank
        assert bank is not None
        self.assertAlmostEqual(guard_floor_v(bank), 36.0)
        self.assertAlmostEqual(guard_level_v(bank), 37.1)


class Charging(TestCase):
    def plan(self, charger: dict[str, Any], *packs: dict[str, Any], rows: int = 1) -> Any:
        setup = bike(bank={"rows": [{"units": list(packs)}] * rows})
        return charge_plans(setup, [Charger.model_validate({"label": "c", "amps_a": named(2), **charger})])[0]

    def test_the_end_volts_within_a_hundredth(self) -> None:
        """Ten cells are full at 42.0 V: 0.41 V off still fits, 0.43 V off does not; lead within three hundredths of 14.4 V, 0.432 V."""
        for off, fits in ((0.41, True), (-0.41, True), (0.43, False), (-0.43, False)):
            self.assertEqual(self.plan({"end_v": named(42.0 + off)}, pack(10)).fits, fits, off)
        for off, fits in ((0.43, True), (0.44, False)):
            self.assertEqual(self.plan({"end_v": named(14.4 + off), "chemistry": "lead", "amps_a": named(1)}, pack(6, chemistry="lead")).fits, fits, off)

    def test_the_amps_a_pack_stands(self) -> None:
        """5 Ah of lithium stand 5 A, of lead 1.25 A; in place two rows share the amps."""
        self.assertTrue(self.plan({"end_v": named(42), "amps_a": named(5)}, pack(10)).fits)
        self.assertFalse(self.plan({"end_v": named(42), "amps_a": named(5.1)}, pack(10)).fits)
        in_place = {"end_v": named(42), "per": "bank"}
        self.assertTrue(self.plan({**in_place, "amps_a": named(10)}, pack(10), rows=2).fits)
        self.assertFalse(self.plan({**in_place, "amps_a": named(10.2)}, pack(10), rows=2).fits)

    def test_one_pack_or_the_whole_row(self) -> None:
        setup = bike(bank={"rows": [{"units": [pack(5), pack(5)]}]})
        one, row = (Charger.model_validate({"label": "c", "end_v": 21, "amps_a": 2, "per": per}) for per in ("unit", "bank"))
        self.assertAlmostEqual(wanted_end_v(one, setup) or 0.0, 21.0)
        self.assertAlmostEqual(wanted_end_v(row, setup) or 0.0, 42.0)
        self.assertIsNone(wanted_end_v(one, load_setup({})))
        self.assertEqual(charge_plans(load_setup({}), [one]), [])

    def test_packs_shared_among_ports(self) -> None:
        """Three packs of 5 Ah at 2.5 A, each (5 − 0.5)/2.5 + 0.2 ln(2.5/0.25) h: two ports do two at a time and then the third."""
        each = (5.0 - 0.5) / 2.5 + 0.2 * math.log(10.0)
        two = self.plan({"end_v": named(42), "amps_a": named(2.5), "ports": 2}, pack(10), rows=3)
        self.assertEqual((two.charges, two.side_by_side), (3, 2))
        self.assertAlmostEqual(two.hours, each)
        self.assertAlmostEqual(two.total_hours, 2.0 * each)
        self.assertAlmostEqual(two.all_hours, 2.0 * each)
        self.assertAlmostEqual(self.plan({"end_v": named(42), "amps_a": named(2.5)}, pack(10), rows=3).total_hours, 3.0 * each)


class Gain(TestCase):
    def test_a_ratio_and_its_interval(self) -> None:
        """6 ± 0.3 over 4 ± 0.4 m/s: 1.5; 5 % and 10 % add in squares to 11.18 %, so 0.1677."""
        ratio, half = gain(Reduced(6.0, 0.3, 2), Reduced(4.0, 0.4, 2))
        self.assertAlmostEqual(ratio, 1.5)
        self.assertAlmostEqual(half, 1.5 * math.sqrt(0.05**2 + 0.1**2))


MOTOR = MotorConstants(k_v_s=0.1, resistance_ohm=0.2, no_load_a=0.5, rated_a=10.0, rated_copper_w=20.0, rated_other_w=5.0)
PLAIN = ControllerModel(kind="brushless", efficiency=0.9, idle_a=0.0)


class Balance(TestCase):
    """E = 40 V behind 0.1 Ω, a motor of 0.2 Ω and 0.1 V·s, a stage that keeps nine tenths."""

    def back(self, omega: float, **more: Any) -> float:
        return float(fed_back_a(40.0, 0.1, MOTOR, replace(PLAIN, **more), omega))

    def test_what_comes_back_through_the_diodes(self) -> None:
        """At 500 rad/s the motor makes 50 V; through the stage the bank's 40 V stand as 44.44 V: 5.556 V over 0.2 + 0.1111 Ω."""
        self.assertAlmostEqual(self.back(500.0), (50.0 - 40.0 / 0.9) / (0.2 + 0.1 / 0.9))
        self.assertEqual(self.back(444.0), 0.0)
        self.assertEqual(self.back(500.0, diodes=False), 0.0)
        self.assertEqual(self.back(500.0, kind="none"), 0.0)
        point = full_throttle(40.0, 0.1, MOTOR, PLAIN, 500.0)
        self.assertAlmostEqual(float(point.motor_a), -self.back(500.0))
        self.assertAlmostEqual(float(point.pack_a), -self.back(500.0))
        self.assertAlmostEqual(float(point.controller_v), 40.0 + 0.1 * self.back(500.0))
        self.assertAlmostEqual(float(motor_current(40.0, 0.1, MOTOR, PLAIN, 500.0)), -self.back(500.0))

    def test_a_switch_lets_it_flow_both_ways(self) -> None:
        """40 V against 50 V over 0.3 Ω."""
        direct = replace(PLAIN, kind="none")
        self.assertAlmostEqual(float(motor_current(40.0, 0.1, MOTOR, direct, 500.0)), -10.0 / 0.3)
        self.assertAlmostEqual(float(full_throttle(40.0, 0.1, MOTOR, direct, 500.0).motor_a), -10.0 / 0.3)
        self.assertEqual(float(slipping_pack_a(40.0, 0.1, direct, 12.0)), 12.0)

    def test_idle_amps_come_off_the_top(self) -> None:
        """2 A of idle take 0.2 V: 39.8 V are left for the stage."""
        idle = replace(PLAIN, idle_a=2.0)
        self.assertAlmostEqual(float(full_throttle(40.0, 0.1, MOTOR, idle, 0.0).motor_a), float(full_throttle(39.8, 0.1, MOTOR, PLAIN, 0.0).motor_a))
        self.assertAlmostEqual(float(full_throttle(40.0, 0.1, MOTOR, idle, 0.0).pack_a), float(full_throttle(39.8, 0.1, MOTOR, PLAIN, 0.0).pack_a) + 2.0)
        self.assertAlmostEqual(float(part_throttle(40.0, 0.1, MOTOR, idle, 100.0, 5.0).pack_a), float(bank_side_a(39.8, 0.1, 0.9, 5.0 * (10.0 + 1.0))) + 2.0)
        self.assertAlmostEqual(float(slipping_pack_a(40.0, 0.1, idle, 12.0)), 14.0)

    def test_below_its_low_cut_off_it_gives_nothing(self) -> None:
        for open_v, flows in ((40.0, True), (39.9, True), (39.0, False), (38.9, False)):
            low = replace(PLAIN, undervoltage_v=39.0)
            point = full_throttle(open_v, 0.1, MOTOR, low, 0.0)
            self.assertEqual(float(point.motor_a) > 0.0, flows, open_v)
            self.assertEqual(float(motor_current(open_v, 0.1, MOTOR, low, 0.0)) > 0.0, flows, open_v)
            self.assertEqual(int(point.limit) == STARVED, True)

    def test_the_bank_side_by_a_quadratic(self) -> None:
        """80 W through nine tenths from 40 V behind 0.1 Ω: 0.1·I² − 40·I + 88.89 = 0, the smaller root."""
        found = float(bank_side_a(40.0, 0.1, 0.9, 80.0))
        self.assertAlmostEqual(0.1 * found * found - 40.0 * found + 80.0 / 0.9, 0.0, places=9)
        self.assertLess(found, 3.0)
        # More than the source can give takes its peak, E/2R.
        self.assertAlmostEqual(float(bank_side_a(40.0, 0.1, 0.9, 1e6)), 200.0)

    def test_less_than_an_amp_is_shared_like_many(self) -> None:
        """Half an amp into 10 V and 0.2 Ω are 5.05 W, a ninth more of them out of the bank; the duty is the bank's amps over the motor's."""
        point = full_throttle(40.0, 0.1, MOTOR, replace(PLAIN, phase_limit_a=0.5), 100.0)
        self.assertAlmostEqual(float(point.motor_a), 0.5)
        self.assertAlmostEqual(float(point.pack_a), float(bank_side_a(40.0, 0.1, 0.9, 5.05)))
        self.assertAlmostEqual(float(point.duty), float(point.pack_a) / 0.5)

    def test_the_duty_is_what_the_bank_gives_over_what_the_motor_takes(self) -> None:
        """A current that is let through for a share of the time: 10 A of the motor, and what is drawn beside the 0.5 A of idling."""
        point = part_throttle(40.0, 0.1, MOTOR, ControllerModel(efficiency=1.0, idle_a=0.5), 100.0, 10.0)
        self.assertAlmostEqual(float(point.duty), (float(point.pack_a) - 0.5) / 10.0)

    def test_spinning_wheels_draw_the_least_of_all_limits(self) -> None:
        self.assertAlmostEqual(float(slipping_pack_a(40.0, 0.1, PLAIN, 12.0)), 12.0)
        self.assertAlmostEqual(float(slipping_pack_a(40.0, 0.1, replace(PLAIN, battery_limit_a=9.0), 12.0)), 9.0)
        self.assertAlmostEqual(float(slipping_pack_a(40.0, 0.1, replace(PLAIN, undervoltage_v=39.5), 12.0)), 5.0)
        self.assertAlmostEqual(float(slipping_pack_a(40.0, 0.1, replace(PLAIN, undervoltage_v=41.0), 12.0)), 0.0)
        self.assertAlmostEqual(float(slipping_pack_a(2.0, 1.0, PLAIN, 12.0)), 1.0)


class Dialled(TestCase):
    def test_half_the_knob_of_a_controller_that_weakens_the_field(self) -> None:
        """A fifth of extra speed stretches the whole knob: its middle is three fifths of the volts."""
        a = Analysis(bike(controller__extra_speed=named(0.2)))
        middle = replace(a.m, control=replace(a.m.control, duty_max=0.6))
        duty = a.duty_for(float(top_speed(middle, a.full, a.motor, a.setup.ground.grade)))
        assert duty is not None
        self.assertAlmostEqual(duty, 0.5, delta=0.005)


class Joining(TestCase):
    """Rows of one pack of ten cells each, whose volts were read."""

    def rows(self, *volts: float | None, **more: Any) -> tuple[Bank | None, Ground]:
        units = [pack(10, 6.0, resistance_ohm=named(0.1), **({"resting_v": named(v)} if v is not None else {}), **more) for v in volts]
        setup = bike(bank__rows=[{"units": [unit]} for unit in units])
        return setup.bank, setup.ground

    def test_a_pair_by_ohms_law(self) -> None:
        """41 and 40 V: one volt over both packs and what lies between them; the lower may be charged with 6 A."""
        (pair,) = pairs(*self.rows(40.0, 41.0))
        self.assertEqual((pair.high, pair.low), (1, 0))
        self.assertAlmostEqual(pair.first_a, 1.0 / pair.ohm)
        self.assertAlmostEqual(pair.allowed_a, 6.0)
        self.assertAlmostEqual(pair.within_v, 6.0 * pair.ohm)
        self.assertGreater(pair.ohm, 0.2)

    def test_without_a_bank_there_is_nothing_to_join(self) -> None:
        self.assertEqual((pairs(None, Ground()), rushes(None, Ground())), ([], []))

    def test_what_nobody_read_is_not_joined(self) -> None:
        self.assertEqual(pairs(*self.rows(40.0, None)), [])
        self.assertEqual(rushes(*self.rows(41.0, 40.0)), [])


class Slots(TestCase):
    def test_a_switched_motor_draws_less_from_fewer_rows(self) -> None:
        """Nothing meters it: with one of two like rows out the bank's ohms double, and the amps fall with the whole loop."""
        a = Analysis(ride_on(bank__rows=[{"units": [pack(5, 5.0, resistance_ohm=named(0.05))]}] * 2, bank__occupancy="any"))
        both_in, one = occupancies(a, all_in(a))[:2]
        loop = float(a.m.path_ohm + a.motor.loop_ohm)
        whole, half = float(a.full.resistance_ohm), 2.0 * float(a.full.resistance_ohm)
        self.assertAlmostEqual(one.peak_a / both_in.peak_a, (whole + loop) / (half + loop), places=6)
        self.assertTrue(one.enough)
        self.assertAlmostEqual(max(row_worst(a, all_in(a))[0]), one.peak_a)

    def test_it_draws_by_the_volts_of_the_rows_that_are_left(self) -> None:
        """Of lithium of three cells and lead of six, each 0.05 Ω: alone, each drives the loop by its own volts."""
        rows = [{"units": [pack(3, 5.0, resistance_ohm=named(0.05))]}, {"units": [pack(6, 5.0, chemistry="lead", resistance_ohm=named(0.05))]}]
        a = Analysis(ride_on(bank__rows=rows, bank__occupancy="any"))
        loop = float(a.m.path_ohm + a.motor.loop_ohm)
        found = occupancies(a, all_in(a))
        for which in found[1:]:
            (r,) = which.rows
            alone = Analysis(ride_on(bank__rows=[rows[r]])).full
            expected = float(a.peak_a) * (float(a.full.resistance_ohm) + loop) / (float(alone.resistance_ohm) + loop) * float(alone.open_v / a.full.open_v)
            self.assertAlmostEqual(which.peak_a, expected, places=6)
        self.assertEqual(len(found), 3)

    def test_every_row_in_shares_alike(self) -> None:
        a = Analysis(bike(bank__rows=[{"units": [pack(10, 6.0)]}] * 2))
        found = all_in(a)
        self.assertAlmostEqual(found.row_peak_a[0], found.peak_a / 2.0)
        self.assertAlmostEqual(found.row_rms_a[1], found.rms_a / 2.0)
        self.assertEqual([one.rows for one in occupancies(a, found)], [(0, 1)])
        tried = occupancies(a, found, every=True)
        self.assertEqual([(one.rows, one.permitted) for one in tried], [((0, 1), True), ((0,), False)])


class Standing(TestCase):
    def test_ten_minutes_of_standing_tell_nothing_of_what_a_row_carries(self) -> None:
        """Two unlike rows go on settling while the machine stands for half an hour; a row's share is that of the riding."""
        rows = [{"units": [pack(10, 6.0, resistance_ohm=named(ohm))]} for ohm in (0.08, 0.3)]
        course = {"name": "there and a long rest", "segments": [{"length_m": 800.0}, {"length_m": 800.0, "stop_s": 1800.0}]}
        a = Analysis(bike(bank__rows=rows, course=course))
        shares = ride_shares(a)
        self.assertTrue(all(0.0 < share < 1.0 for share in shares), shares)
        self.assertGreater(shares[0], shares[1])

        # Once more span by span: charge tells each row's volts, Kirchhoff its amps, and each run of spans is summed until ten minutes are full.
        line, most = a.ride.line, [0.0, 0.0, 0.0]
        spans = []
        for n in range(1, len(line.time_s)):
            source = a.m.source(tuple(float(charge[n]) for charge in line.soc))
            given = float(line.pack_a[n])
            spans.append((float(line.time_s[n] - line.time_s[n - 1]), (given, *(float(amps) for amps in source.row_currents(given)))))
        for first in range(len(spans)):
            lasted, heat = 0.0, [0.0, 0.0, 0.0]
            for seconds, currents in spans[first:]:
                if lasted >= 600.0:
                    break
                lasted += seconds
                heat = [sum_a2s + current**2 * seconds for sum_a2s, current in zip(heat, currents, strict=True)]
            most = [max(known, found) for known, found in zip(most, heat, strict=True)]
        for share, row in zip(shares, most[1:], strict=True):
            self.assertAlmostEqual(share, math.sqrt(row / most[0]), delta=0.02)


class Edits(TestCase):
    def test_put_makes_the_parts_on_the_way(self) -> None:
        document: dict[str, Any] = {"a": None, "rows": [{"n": 1}, {"n": 2}], "list": [1, 2]}
        both(put("/a/b/c", 5), put("rows/1/n", 7), put("list/0", 9))(document)
        self.assertEqual(document, {"a": {"b": {"c": 5}}, "rows": [{"n": 1}, {"n": 7}], "list": [9, 2]})

    def test_merged_leaves_the_other_fields(self) -> None:
        document: dict[str, Any] = {"rows": [{"lead": {"awg": 12, "length_m": 1}}, {"lead": None}]}
        merged(document, "/rows/0/lead", {"awg": 10})
        merged(document, "/rows/1/lead", {"awg": 8})
        self.assertEqual(document["rows"], [{"lead": {"awg": 10, "length_m": 1}}, {"lead": {"awg": 8}}])

    def test_one_more_row_has_new_packs(self) -> None:
        """What was measured on the first row's packs is not known of the next ones; its fuse and lead are as many."""
        unit = Pack.model_validate(pack(10, 6.0, resting_v=named(41.0, "measured"), resistance_ohm=named(0.1, "measured"))).model_dump(mode="json")
        document: dict[str, Any] = {"bank": {"rows": [{"units": [unit], "fuse": {"rating_a": 20}, "lead": {"awg": 12}}]}}
        one_more_row(document)
        first, second = document["bank"]["rows"]
        self.assertEqual(first["units"], [unit])
        self.assertEqual((second["fuse"], second["lead"]), ({"rating_a": 20}, {"awg": 12}))
        self.assertEqual((second["units"][0]["resting_v"], second["units"][0]["resistance_ohm"]), (None, None))
        self.assertEqual(second["units"][0]["capacity_ah"]["value"], 6.0)
        second["fuse"]["rating_a"] = 30
        self.assertEqual(first["fuse"]["rating_a"], 20)

    def test_one_pack_less_in_every_row(self) -> None:
        document = {"bank": {"rows": [{"units": [1, 2, 3]}, {"units": [4, 5]}]}}
        fewer_in_series(document)
        self.assertEqual(document, {"bank": {"rows": [{"units": [1, 2]}, {"units": [4]}]}})

    def test_rounding_up_to_a_step(self) -> None:
        self.assertEqual([round_up(v, 5.0) for v in (40.0, 40.0000000001, 40.1, 44.9, 45.1)], [40.0, 40.0, 45.0, 45.0, 50.0])


class Letters(TestCase):
    def test_rows_by_their_letters(self) -> None:
        for rows, words in (((0,), "A"), ((0, 1), "A and B"), ((0, 1, 2), "A to C"), ((0, 2), "A and C"), ((0, 1, 3), "A, B and D"), ((1, 2, 3), "B to D")):
            self.assertEqual(letters(rows), words)


class Fixed(TestCase):
    def test_what_is_not_known_of_one_has_no_price(self) -> None:
        """Without packs there are no volts, without a motor no speed to tell a difference of."""
        whole, no_packs, no_motor = Analysis(bike()), Analysis(bike(bank=None)), Analysis(bike(motor=None))
        for now, then in ((whole, no_packs), (no_packs, whole)):
            self.assertEqual(price(now, then), Price(top_speed_m_s=None, run_time_s=None, nominal_v=None))
        for now, then in ((whole, no_motor), (no_motor, whole)):
            self.assertEqual(price(now, then), Price(top_speed_m_s=None, run_time_s=None, nominal_v=0.0))

    def test_a_guard_is_put_in_for_packs_that_need_one(self) -> None:
        """In a machine that can be computed it stands a quarter more than a launch asks, and never less than the main fuse, in tens; else 60 A."""
        document = bike(guard=None, bank__rows__0__units__0__guard_in_tool=True, bank__rows__0__units__0__trip_a=None).model_dump(mode="json")
        a = Analysis(load_setup(document))
        add_guard(document)
        self.assertEqual(document["guard"]["rating_a"]["value"], 10.0 * math.ceil(max(1.25 * float(a.peak_a), 30.0) / 10.0))
        unknown = {**document, "guard": None, "motor": None}
        add_guard(unknown)
        self.assertEqual(unknown["guard"]["rating_a"]["value"], 60.0)


class WireBetweenGauges(TestCase):
    """Sizes by mm²: straight lines between the gauges of the table on logarithmic axes, drawn on beyond both ends."""

    def by_hand(self, mm2: float, one: int, other: int) -> float:
        table = ampacity_row("105")
        slope = math.log(table[other] / table[one]) / math.log(awg_area_m2(other) / awg_area_m2(one))
        return float(table[one] * (mm2 * 1e-6 / awg_area_m2(one)) ** slope)

    def test_between_and_beyond(self) -> None:
        for mm2, one, other in ((4.0, 12, 10), (0.5, 18, 16), (50.0, 2, 4)):
            with self.subTest(mm2):
                self.assertAlmostEqual(Size(12, mm2=mm2).table_a("105"), self.by_hand(mm2, one, other), delta=1e-6)


class FuseCurves(TestCase):
    def test_classes_of_volts(self) -> None:
        self.assertEqual([dc_class_v(volts) for volts in (12.0, 32.0, 32.1, 58.8, 80.1, 130.0)], [32.0, 32.0, 58.0, 80.0, 125.0, 125.0])

    def test_the_shortest_time_goes_on_straight_below_the_table(self) -> None:
        """On logarithmic axes, by the first two points of the table."""
        curve = fuse_curve("blade")
        (one, other), (first, second) = curve.multiples[:2], curve.shortest_s[:2]
        below = 0.9 * one
        by_hand = first * (below / one) ** (math.log(second / first) / math.log(other / one))
        self.assertAlmostEqual(float(opening_times_s("blade", below)[0]), by_hand, delta=1e-6 * by_hand)


class WhoRides(TestCase):
    def test_the_heaviest_with_who_rides_along(self) -> None:
        """30 kg and 20 kg along; the other rider of 40 kg takes the 20 kg along as well."""
        setup = bike(rider={"name": "Kit", "mass_kg": named(30)}, also=[{"name": "Cleo", "mass_kg": named(40)}], passenger={"name": "Bo", "mass_kg": named(20)})
        self.assertAlmostEqual(Analysis(setup).heaviest_kg, 60.0)
        self.assertEqual([one.path for one in Analysis(setup).riders], ["/rider", "/also/0", "/passenger"])
        self.assertEqual(Analysis(bike(rider=None)).riders[0].path, "")
        alone = setup.model_copy(update={"passenger": None})
        self.assertAlmostEqual(Analysis(alone).heaviest_kg, 40.0)


class WhatIsNotSaid(TestCase):
    def test_a_watched_voltmeter_carries_no_amps(self) -> None:
        guard = {"kind": "voltmeter", "volts_v": named(31), "rating_a": named(1)}
        weakest = Analysis(bike(guard=guard)).least_part_a
        self.assertTrue(weakest is None or weakest > 1.0)
        self.assertEqual(Analysis(bike(guard={**guard, "kind": "module"})).least_part_a, 1.0)

    def test_without_a_controller_nothing_is_held(self) -> None:
        direct = Analysis(ride_on())
        self.assertIsNone(direct.reachable_motor_a)
        self.assertIsNone(direct.reachable_a)
        self.assertIsNotNone(Analysis(bike()).reachable_motor_a)


class Rejoined(TestCase):
    ROW = RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=5.0, resistance_ohm=0.1),), 1)
    SMALL = RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=1.0, resistance_ohm=0.5),), 1)

    def test_like_rows_of_like_charge_do_nothing(self) -> None:
        found = join_rows(self.ROW, self.ROW, 0.6, 0.6, 0.01, 25.0)
        self.assertEqual((found.first_current_a, found.charge_moved_ah, found.soc_a_end, found.soc_b_end), (0.0, 0.0, 0.6, 0.6))

    def test_the_first_amps_by_ohm_and_either_way_round(self) -> None:
        there, back = join_rows(self.ROW, self.SMALL, 0.9, 0.3, 0.01, 25.0), join_rows(self.SMALL, self.ROW, 0.3, 0.9, 0.01, 25.0)
        volts = float(unit_volts_v(self.ROW.units[0], 0.9) - unit_volts_v(self.SMALL.units[0], 0.3))
        self.assertAlmostEqual(there.first_current_a, volts / 0.61, delta=1e-9)
        self.assertAlmostEqual(back.first_current_a, -there.first_current_a, delta=1e-9)
        self.assertAlmostEqual(back.charge_moved_ah, -there.charge_moved_ah, delta=1e-9)
        self.assertEqual((back.soc_a_end, back.soc_b_end), (there.soc_b_end, there.soc_a_end))

    def test_what_one_gives_the_other_takes_until_a_fiftieth_flows(self) -> None:
        found = join_rows(self.ROW, self.SMALL, 0.9, 0.3, 0.01, 25.0)
        self.assertAlmostEqual(5.0 * (0.9 - found.soc_a_end), found.charge_moved_ah, delta=1e-9)
        self.assertAlmostEqual(1.0 * (found.soc_b_end - 0.3), found.charge_moved_ah, delta=1e-9)
        self.assertAlmostEqual(float(found.current_a[-1]), 0.02 * found.first_current_a, delta=1e-6)

    def test_two_rows_side_by_side_have_half_the_ohms_and_move_half_the_charge_each(self) -> None:
        twice = replace(self.ROW, parallel_count=2)
        found = join_rows(twice, self.SMALL, 0.9, 0.3, 0.01, 25.0)
        volts = float(unit_volts_v(self.ROW.units[0], 0.9) - unit_volts_v(self.SMALL.units[0], 0.3))
        self.assertAlmostEqual(found.first_current_a, volts / 0.56, delta=1e-9)

    def test_the_last_stretch_to_a_fiftieth_is_cut_where_it_is_met(self) -> None:
        """Between 60 and 50 % the volts fall evenly, so the current falls evenly with the charge moved: 98 % of all that would move has moved."""
        twin = RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=1.0, resistance_ohm=0.1),), 1)
        found = join_rows(twin, twin, 0.56, 0.54, 0.01, 25.0)
        self.assertAlmostEqual(found.charge_moved_ah, 0.98 * 0.01, delta=1e-7)


class WholeCharges(TestCase):
    def test_a_charger_at_its_end_current_has_no_taper(self) -> None:
        """4 Ah end at 0.4 A where the share is a tenth: with just that all of it is steady."""
        ends_a = END_SHARE_PER_H["li-ion"] * 4.0
        missing = CHARGE_FACTOR["li-ion"] * 4.0
        self.assertAlmostEqual(charge_hours("li-ion", 4.0, ends_a), max(missing - ends_a * TAPER_H["li-ion"], 0.0) / ends_a)
        self.assertGreater(charge_hours("li-ion", 4.0, 1.01 * ends_a), charge_hours("li-ion", 4.0, 1.01 * ends_a, 4.2) - 1e-9)


class Signed(TestCase):
    def test_an_answer_carries_who_gave_it_first(self) -> None:
        old = bike(vehicle__cables_clear=None)
        told = bike(vehicle__cables_clear=True)
        signed, fresh = stamped(old, told, "ada", "2026-11-30")
        self.assertEqual([one.answer for one in fresh], ["yes"])
        key = fresh[0].key
        self.assertEqual((signed.looks[key].by, signed.looks[key].when), ("ada", "2026-11-30"))
        again, none = stamped(signed, signed, "bea", "2026-12-01")
        self.assertEqual(none, [])
        self.assertEqual(again.looks[key].by, "ada")

    def test_nobody_signs_for_another(self) -> None:
        forged = bike(vehicle__cables_clear=True, looks={"cables": {"answer": "yes", "by": "bea", "when": "2020-01-01"}})
        signed, fresh = stamped(None, forged, "ada", "2026-11-30")
        self.assertTrue(fresh)
        self.assertNotIn("bea", {look.by for look in signed.looks.values()})

    def test_a_look_that_was_changed_without_its_fact_stays_as_it_was_signed(self) -> None:
        """Somebody sends another word for a question whose fact is the same: what the first one saw stays."""
        signed, fresh = stamped(bike(vehicle__cables_clear=None), bike(vehicle__cables_clear=True), "ada", "2026-11-30")
        key = fresh[0].key
        other = signed.model_copy(update={"looks": {**signed.looks, key: signed.looks[key].model_copy(update={"answer": "no", "by": "bea"})}})
        again, none = stamped(signed, other, "cy", "2026-12-01")
        self.assertEqual((none, again.looks[key]), ([], signed.looks[key]))


class Wiring(TestCase):
    """What of the machine flows in which lead."""

    def test_a_controller_pushes_more_into_the_motor_lead_than_the_packs_give(self) -> None:
        a, direct = Analysis(bike()), Analysis(ride_on(motor_lead={"awg": 10, "length_m": named(0.3), "insulation": "105"}))
        for one, most in ((a, float(a.launch.motor_a.max())), (direct, float(direct.peak_a))):
            run = one.run("motor")
            assert run is not None
            self.assertEqual(run.peak_a, most)
        self.assertGreater(float(a.launch.motor_a.max()), 1.05 * float(a.peak_a))

    def test_a_branch_before_the_cut_off_sees_none_of_the_path(self) -> None:
        """Behind the cut-off a short at the end of its lead runs through the path, less the main fuse where the branch has one of its own."""
        branch = {"label": "lamp", "amps_a": named(1), "lead": {"awg": 18, "length_m": named(1), "insulation": "105"}, "fuse": {"rating_a": 5, "dc_volts_v": 58}}
        ohms: dict[tuple[str, bool], float] = {}
        for taps, fuse in (("behind the cut-off", True), ("behind the cut-off", False), ("at the packs", True)):
            a = Analysis(bike(auxiliaries=[{**branch, "taps": taps, **({} if fuse else {"fuse": None})}]))
            run = a.run("accessory0")
            assert run is not None
            ohms[taps, fuse] = run.data.other_path_ohm
        path = float(a.m.path_ohm)
        self.assertAlmostEqual(ohms["behind the cut-off", True], path)
        self.assertAlmostEqual(ohms["behind the cut-off", False], path - float(fuse_ohm(30.0)))
        self.assertEqual(ohms["at the packs", True], 0.0)

    def test_a_bank_is_as_full_as_its_fullest_row(self) -> None:
        bank = bike(bank__rows=[{"units": [pack(7)]}, {"units": [pack(10)]}]).bank
        assert bank is not None
        self.assertAlmostEqual(bank_full_v(bank) or 0.0, 42.0)

    def test_the_level_top_speed_is_that_of_the_level(self) -> None:
        """Uphill it is slower; downhill faster."""
        level = float(Analysis(bike()).top)
        for grade in (0.04, -0.04):
            a = Analysis(bike(ground__grade=grade))
            self.assertAlmostEqual(float(a.level_top), level, places=6)
            self.assertEqual(float(a.top) < level, grade > 0)

    def test_a_controller_that_folds_back_at_half_charge(self) -> None:
        """Half full the packs rest at 37.2 V: a low cut-off a little below is met as soon as amps flow, one far below is not; a switch has none."""
        self.assertTrue(Analysis(bike(controller__undervoltage_v=named(36.5))).folds_back)
        self.assertFalse(Analysis(bike(controller__undervoltage_v=named(25.0))).folds_back)
        self.assertFalse(Analysis(ride_on()).folds_back)


class ShortPasses(TestCase):
    def test_a_pass_may_be_shorter_than_a_metre_or_a_second(self) -> None:
        self.assertAlmostEqual(reduce_passes([Pass(0.8, 0.5, "out")]).speed_m_s, 1.6)
