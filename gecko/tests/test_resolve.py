"""From a setup to numbers: which figure is taken where several are known, what steps in for a gap, and how it is said."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np

from gecko.common.figures import SAMPLES
from gecko.document.setup import Setup, load_setup
from gecko.machine.resolve import BRAKE_M_S2, GEAR_EFFICIENCY, Resolved, resolve
from gecko.physics.motion.machine import Machine
from gecko.reference.tables import families
from gecko.tests.machines import bike, named, ride_on


def gaps(found: Resolved) -> dict[str, str]:
    return {g.path: g.message for g in found.gaps}


def machine(setup: Setup) -> Machine:
    found = resolve(setup).machine
    assert found is not None
    return found


class Gaps(TestCase):
    def test_a_whole_setup_still_says_what_it_took_as_typical(self) -> None:
        found = gaps(resolve(bike()))
        self.assertEqual(found["/bank/rows/0/units/0/resistance_ohm"], "Pack resistance not entered: 93.3 mΩ assumed.")
        self.assertEqual(found["/vehicle/mass_kg"], "Machine's mass not entered: [[28|mass]] assumed.")
        self.assertTrue(all(g.kind == "assumed" for g in resolve(bike()).gaps))

    def test_what_was_assumed_is_a_number_with_its_unit(self) -> None:
        """A hub of 2 785.4 rpm is told as 2 790 rpm, not as 2.79e+03."""
        found = {g.path: g for g in resolve(bike(motor__no_load_rpm=None, motor__speed_rpm=None)).gaps}
        told = found["/motor/speed_rpm"]
        self.assertEqual(told.unit, "rpm")
        self.assertIsNotNone(told.value)
        self.assertRegex(told.message, r": \d{3,5} rpm assumed\.$")
        self.assertEqual((found["/vehicle/mass_kg"].value, found["/vehicle/mass_kg"].unit), (28.0, "kg"))
        for gap in found.values():
            self.assertNotRegex(gap.message, r"\de[+-]\d")

    def test_an_entered_figure_leaves_no_gap(self) -> None:
        found = gaps(resolve(bike(vehicle={"family": "small dirt bike", "mass_kg": named(31)}, bank__rows__0__units__0__resistance_ohm=named(0.1))))
        self.assertNotIn("/vehicle/mass_kg", found)
        self.assertNotIn("/bank/rows/0/units/0/resistance_ohm", found)

    def test_what_stops_the_computation_is_called_missing(self) -> None:
        for part, path in (("vehicle", "/vehicle"), ("bank", "/bank"), ("motor", "/motor"), ("controller", "/controller")):
            found = resolve(bike(**{part: None}))
            self.assertIsNone(found.machine, part)
            self.assertIn(path, {g.path for g in found.gaps if g.kind == "missing"})

    def test_without_a_lead_it_computes_but_asks_for_it(self) -> None:
        found = resolve(bike(main_lead=None))
        self.assertIsNotNone(found.machine)
        self.assertIn("/main_lead", {g.path for g in found.gaps if g.kind == "missing"})

    def test_where_nobody_is_entered_the_load_is_the_heaviest_likely_riders_and_the_cap_the_youngests(self) -> None:
        """Thirteen years, 46 kg on a small bike, eight years, 30 kg in a toy car, a grown-up on a kart; 5 mph at 6 years."""
        found = resolve(bike(rider=None))
        self.assertEqual((found.rider_mass_kg, round(found.cap_m_s or 0, 4)), (46.0, 2.2352))
        self.assertIn("[[46|mass]]", gaps(found)["/rider"])
        self.assertEqual(resolve(bike(rider={"name": "Bo"})).rider_mass_kg, 46.0)
        self.assertEqual([resolve(bike(rider=None, vehicle__family=f)).rider_mass_kg for f in ("ride-on car", "kart")], [30.0, 75.0])

    def test_no_wheel_means_the_familys(self) -> None:
        self.assertIn("[[0.31|length]] assumed", gaps(resolve(bike(wheel=None)))["/wheel/diameter_m"])
        self.assertAlmostEqual(float(machine(bike(wheel=None)).vehicle.wheel_radius_m), 0.155)


class Electric(TestCase):
    def test_the_path_adds_up_by_hand(self) -> None:
        """Lead 2·0.6 m·3.277 mΩ/m = 3.932 mΩ; four poles of 0.6 mΩ = 2.4; fuse 70/30 = 2.333; cut-off 6; guard 2: 16.666 mΩ."""
        self.assertAlmostEqual(machine(bike()).path_ohm * 1000, 16.666, delta=0.01)

    def test_entered_ohms_replace_the_tables(self) -> None:
        known = bike(plugs=[{"kind": "other", "poles": 2, "resistance_ohm": 0.002}], cut_off__resistance_ohm=named(0.001), guard__resistance_ohm=named(0.003))
        self.assertAlmostEqual(machine(known).path_ohm * 1000, 3.932 + 4 + 2.333 + 1 + 3, delta=0.01)

    def test_a_browned_plug_counts_ten_times(self) -> None:
        more = machine(bike(plugs__0__browned=True)).path_ohm - machine(bike()).path_ohm
        self.assertAlmostEqual(float(more * 1000), 9 * 2.4, places=9)

    def test_a_watched_voltmeter_neither_resists_nor_ends_the_ride(self) -> None:
        watched = machine(bike(guard={"kind": "voltmeter", "volts_v": named(31)}))
        self.assertIsNone(watched.guard)
        self.assertAlmostEqual(float(machine(bike()).path_ohm - watched.path_ohm) * 1000, 2.0, places=9)

    def test_a_module_acts_after_two_seconds_unless_it_says_otherwise(self) -> None:
        for delay, seconds in ((None, 2.0), (named(5), 5.0)):
            guard = machine(bike(guard__delay_s=delay)).guard
            assert guard is not None
            self.assertEqual((guard.volts_v, guard.delay_s), (31.0, seconds))

    def test_like_rows_become_one_counted_row(self) -> None:
        """Names, sizes and volts of the moment do not make packs unlike; capacity and age do."""
        pack = {"cells_in_series": 10, "capacity_ah": named(6)}
        fuse = {"rating_a": 20, "dc_volts_v": 58}
        alike = bike(bank__rows=[{"units": [{**pack, **own}], "fuse": fuse} for own in ({"label": "a"}, {"label": "b", "mass_kg": named(2)}, {"resting_v": named(40)})])
        self.assertEqual([row.parallel_count for row in machine(alike).bank.rows], [3])
        worn = bike(bank__rows=[{"units": [{**pack, "age": age}], "fuse": fuse} for age in ("new", "worn")])
        self.assertEqual([round(float(row.units[0].capacity_ah), 9) for row in machine(worn).bank.rows], [6.0, 4.8])
        unlike = bike(bank__rows=[{"units": [{**pack, "capacity_ah": named(c)}], "fuse": fuse} for c in (6, 4, 6)])
        self.assertEqual([(row.parallel_count, row.units[0].capacity_ah) for row in machine(unlike).bank.rows], [(2, 6.0), (1, 4.0)])

    def test_like_packs_in_a_row_become_one_counted_unit(self) -> None:
        half = {"cells_in_series": 5, "capacity_ah": named(6)}
        units = machine(bike(bank__rows=[{"units": [half, half, {**half, "capacity_ah": named(5)}, half]}])).bank.rows[0].units
        self.assertEqual([(u.series_count, u.capacity_ah) for u in units], [(2, 6.0), (1, 5.0), (1, 6.0)])

    def test_a_rows_own_lead_and_fuse(self) -> None:
        """12 AWG 5.211 mΩ/m: 2·0.2 m = 2.084 mΩ; a 20 A fuse 3.5 mΩ."""
        row = {"units": [{"cells_in_series": 10, "capacity_ah": 6}], "fuse": {"rating_a": 20, "dc_volts_v": 58}, "lead": {"awg": 12, "length_m": 0.2}}
        self.assertAlmostEqual(machine(bike(bank__rows=[row])).bank.rows[0].lead_ohm * 1000, 5.584, delta=0.005)

    def test_packs_are_as_warm_as_the_air_unless_they_were_kept_elsewhere(self) -> None:
        self.assertEqual(machine(bike(ground={"ambient_c": 5})).pack_c, 5)
        self.assertEqual(machine(bike(ground={"ambient_c": 5, "pack_c": 20})).pack_c, 20)


class Controllers(TestCase):
    def control(self, **changes: Any) -> Any:
        return machine(bike(**{f"controller__{k}": v for k, v in changes.items()})).control

    def test_entered_limits_are_taken(self) -> None:
        found = self.control()
        self.assertEqual((found.battery_limit_a, found.phase_limit_a, found.undervoltage_v), (28.0, 42.0, 28.0))
        self.assertEqual((found.efficiency, found.idle_a, found.duty_max), (0.97, 0.05, 1.0))

    def test_typical_limits_by_hand(self) -> None:
        """350 W at 36 V: 1.6·350/36 = 15.556 A; motor side 1.5 times: 23.333 A; low cut-off 0.85·36 = 30.6 V."""
        found = self.control(battery_limit_a=None, phase_limit_a=None, undervoltage_v=None)
        self.assertAlmostEqual(found.battery_limit_a, 15.5556, places=3)
        self.assertAlmostEqual(found.phase_limit_a, 23.3333, places=3)
        self.assertAlmostEqual(found.undervoltage_v, 30.6, places=9)

    def test_a_typical_limit_counts_both_motors(self) -> None:
        two = {"kind": "brushed", "count": 2, "wiring": "parallel", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(2700)}
        found = machine(bike(motor=two, controller__battery_limit_a=None)).control
        self.assertAlmostEqual(float(found.battery_limit_a or 0), 31.1111, places=3)

    def test_a_brushless_controller_loses_a_little_more(self) -> None:
        hub = {"kind": "hub", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(500)}
        self.assertEqual(machine(bike(motor=hub, controller__kind="brushless")).control.efficiency, 0.95)

    def test_the_limiter_caps_the_duty_and_never_quite_to_nothing(self) -> None:
        for mark, duty in ((None, 1.0), (0.6, 0.6), (0.0, 0.05)):
            self.assertEqual(machine(bike(throttle__limiter_mark=mark)).control.duty_max, duty)

    def test_no_controller_meters_nothing(self) -> None:
        found = machine(ride_on()).control
        self.assertEqual((found.kind, found.battery_limit_a, found.phase_limit_a, found.idle_a), ("none", None, None, 0.0))


class MotorPlates(TestCase):
    def test_a_loaded_speed_comes_before_the_others(self) -> None:
        """2700 rpm at 36 V and 350 W, η 0.77: I = 12.626 A, loss 104.5 W, R = 62.73/159.4 = 0.3935 Ω, k = (36 − 4.969)/282.7."""
        both = machine(bike(motor={"kind": "brushed", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(2700), "no_load_rpm": named(9999)}))
        self.assertAlmostEqual(float(both.motor.k_v_s), 0.109749, delta=2e-5)
        self.assertAlmostEqual(float(both.motor.resistance_ohm), 0.39351, delta=5e-5)

    def test_kv_is_taken_when_it_is_all_there_is(self) -> None:
        """Kv 90 rpm/V: k = 60/(2π·90) = 0.106103 V·s."""
        only = machine(bike(motor={"kind": "brushed", "volts_v": named(36), "power_w": named(350), "kv_rpm_per_v": named(90)}))
        self.assertAlmostEqual(float(only.motor.k_v_s), 0.106103, places=6)

    def test_no_speed_at_all_is_typical_of_the_family_at_its_volts(self) -> None:
        """The family's 2700 rpm at 24 V are 4050 rpm at 36 V."""
        found = resolve(bike(motor={"kind": "brushed", "volts_v": named(36), "power_w": named(350)}))
        self.assertAlmostEqual(found.figures["/motor/speed_rpm"].value, 4050.0, places=6)
        self.assertEqual(found.figures["/motor/speed_rpm"].basis, "assumed")

    def test_a_gear_motor_is_known_by_its_free_speed(self) -> None:
        found = resolve(ride_on(motor={"kind": "small gear motor", "count": 2, "wiring": "parallel", "volts_v": named(6), "power_w": named(30)}))
        self.assertAlmostEqual(found.figures["/motor/no_load_rpm"].value, 7000.0, places=6)

    def test_an_empty_plate_is_a_typical_motor(self) -> None:
        found = resolve(bike(motor={"kind": "brushed"}))
        self.assertIsNotNone(found.machine)
        self.assertEqual(
            {k: f.basis for k, f in found.figures.items() if k.startswith("/motor/")}, dict.fromkeys([k for k in found.figures if k.startswith("/motor/")], "assumed")
        )

    def test_two_motors_as_wired(self) -> None:
        """Parallel halves R, series doubles R and k."""
        one = machine(bike()).motor
        plate = {"kind": "brushed", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(2700), "count": 2}
        wide, long = (machine(bike(motor={**plate, "wiring": w})).motor for w in ("parallel", "series"))
        self.assertAlmostEqual(float(wide.resistance_ohm / one.resistance_ohm), 0.5)
        self.assertAlmostEqual(float(long.resistance_ohm / one.resistance_ohm), 2.0)
        self.assertAlmostEqual(float(long.k_v_s / one.k_v_s), 2.0)
        self.assertEqual((machine(bike(motor={**plate, "wiring": "series"})).motor_count, machine(bike()).motor_count), (2, 1))


class Rolling(TestCase):
    def test_teeth_make_the_ratio_unless_one_is_entered(self) -> None:
        self.assertAlmostEqual(float(machine(bike()).vehicle.gear_ratio), 88 / 12)
        self.assertAlmostEqual(float(machine(bike(drivetrain__ratio=named(9))).vehicle.gear_ratio), 9.0)
        self.assertEqual(machine(bike(drivetrain={"kind": "hub"})).vehicle.gear_ratio, 1.0)
        self.assertAlmostEqual(float(machine(bike(drivetrain={"kind": "chain"})).vehicle.gear_ratio), 7.3)

    def test_efficiency_by_kind_of_gearing(self) -> None:
        for kind, eta in GEAR_EFFICIENCY.items():
            self.assertEqual(machine(bike(drivetrain={"kind": kind, "ratio": named(8)})).vehicle.gear_efficiency, eta)

    def test_a_child_sits_smaller_in_the_wind_and_a_standing_rider_taller(self) -> None:
        for rider, area in (({"age_years": 13}, 0.35), ({"age_years": 14}, 0.55), ({}, 0.35), ({"age_years": 8, "standing": True}, 0.60)):
            self.assertEqual(machine(bike(rider=rider)).vehicle.drag_area_m2, area, rider)

    def test_weight_is_machine_and_rider(self) -> None:
        self.assertAlmostEqual(float(machine(bike()).vehicle.mass_kg), 28 + 60)
        self.assertAlmostEqual(float(machine(bike(rider={"age_years": 8.5})).vehicle.mass_kg), 28 + 30)

    def test_ground_by_its_table_unless_it_was_measured(self) -> None:
        grass = machine(bike(ground={"surface": "short grass"})).vehicle
        self.assertEqual((grass.rolling_resistance, grass.friction), (0.07, 0.45))
        known = machine(bike(ground={"surface": "short grass", "rolling_resistance": 0.05, "friction": 0.5})).vehicle
        self.assertEqual((known.rolling_resistance, known.friction), (0.05, 0.5))

    def test_brakes_by_kind_or_by_family(self) -> None:
        for brake, deceleration in BRAKE_M_S2.items():
            self.assertEqual(resolve(bike(vehicle={"family": "small dirt bike", "brake": brake})).brake_m_s2, deceleration)
        self.assertEqual(resolve(bike(vehicle={"family": "small dirt bike"})).brake_m_s2, BRAKE_M_S2["drum or band"])

    def test_a_small_child_reacts_later(self) -> None:
        self.assertEqual([resolve(bike(rider={"age_years": age})).reaction_s for age in (7.9, 8)], [1.5, 1.0])

    def test_an_own_cap_comes_before_the_ages(self) -> None:
        self.assertEqual(resolve(bike(rider={"age_years": 7, "cap_m_s": named(2)})).cap_m_s, 2.0)

    def test_the_centre_of_mass_stays_between_the_axles(self) -> None:
        long = machine(bike(vehicle={"family": "small dirt bike", "wheelbase_m": named(0.4), "com_ahead_of_rear_m": named(0.5)}))
        self.assertAlmostEqual(float(long.vehicle.com_ahead_of_rear_m), 0.36)

    def test_two_axle_weights_say_where_the_weight_sits_and_what_it_weighs(self) -> None:
        """45 kg in front and 65 kg behind on 0.95 m: 0.95·45/110 = 0.3886 m ahead; 110 kg with a rider of 60 kg are 50 kg of machine."""
        weighed = {"family": "mini bike", "wheelbase_m": named(0.95), "front_axle_kg": named(45, "measured"), "rear_axle_kg": named(65, "measured")}
        found = resolve(bike(vehicle=weighed, rider={"mass_kg": named(60)}))
        assert found.machine is not None
        self.assertAlmostEqual(float(found.machine.vehicle.com_ahead_of_rear_m), 0.38864, places=5)
        self.assertAlmostEqual(float(found.machine.vehicle.mass_kg), 110.0)
        self.assertFalse([gap for gap in found.gaps if "com_ahead" in gap.path or gap.path == "/vehicle/mass_kg"])
        drawn = resolve(bike(vehicle=weighed, rider={"mass_kg": named(60)}), samples=True)
        assert drawn.machine is not None
        # Two readings of 2 % each, the wheelbase of 8 %.
        self.assertLess(float(np.std(drawn.machine.vehicle.com_ahead_of_rear_m)), 0.1 * 0.38864)

    def test_the_typical_machine_with_its_typical_rider_sits_as_the_table_says(self) -> None:
        """With the family's own mass, wheelbase and oldest likely rider the masses put together give the table's centre back."""
        for family in families().values():
            with self.subTest(family.family):
                own = resolve(bike(vehicle={"family": family.family}, rider=None)).machine
                assert own is not None
                self.assertAlmostEqual(float(own.vehicle.com_height_m), family.com_height_m, places=6)
                self.assertAlmostEqual(float(own.vehicle.com_ahead_of_rear_m), family.com_ahead_of_rear_m, places=6)

    def test_a_seat_over_the_axle_and_packs_in_front_move_the_weight(self) -> None:
        """Yard cart, 0.8 m, 40 kg of it, adult of 75 kg over the axle: only the frame's 40 kg at 0.35 m are ahead: 40·0.35/115 = 0.1217 m.

        Its packs (here 0.8 kg by their cells) moved to 0.75 m bring 0.8·0.40/115 more.
        """
        cart = {"family": "transplant", "seat": "over the rear axle"}
        grown = {"age_years": 30, "mass_kg": named(75)}
        own = resolve(bike(vehicle=cart, rider=grown))
        assert own.machine is not None and own.setup.bank is not None
        self.assertAlmostEqual(float(own.machine.vehicle.com_ahead_of_rear_m), 40 * 0.35 / 115, places=6)
        bay = {"length_m": named(0.3), "width_m": named(0.3), "height_m": named(0.2), "ahead_of_rear_m": 0.75, "floor_m": 0.2}
        ahead = resolve(bike(vehicle={**cart, "bay": bay}, rider=grown)).machine
        assert ahead is not None
        self.assertAlmostEqual(float(ahead.vehicle.com_ahead_of_rear_m), (40 * 0.35 + own.setup.bank.weighs_kg * 0.40) / 115, places=6)

    def test_two_wheels_have_no_track(self) -> None:
        self.assertIsNone(machine(bike()).vehicle.track_m)
        self.assertEqual(machine(bike(vehicle={"family": "quad"})).vehicle.track_m, 0.65)


class Sampled(TestCase):
    def test_every_uncertain_figure_gets_its_samples(self) -> None:
        found = resolve(bike(), samples=True).machine
        assert found is not None
        for samples in (found.path_ohm, found.vehicle.mass_kg, found.motor.k_v_s, found.bank.rows[0].units[0].capacity_ah, found.vehicle.friction):
            self.assertEqual(np.shape(samples), (SAMPLES,))

    def test_what_is_exact_stays_exact(self) -> None:
        """Teeth are counted, a limiter's mark is set, a guard's volts are set."""
        found = resolve(bike(throttle__limiter_mark=0.5), samples=True).machine
        assert found is not None and found.guard is not None
        self.assertEqual((found.vehicle.gear_ratio, found.control.duty_max, found.guard.volts_v), (88 / 12, 0.5, 31.0))

    def test_samples_centre_on_the_figures(self) -> None:
        """The median of a log-normal is its centre: within 5·1.25·σ/√200 for the machine's assumed mass and the plate's speed."""
        drawn, central = resolve(bike(), samples=True).machine, resolve(bike()).machine
        assert drawn is not None and central is not None
        share = np.median(drawn.vehicle.mass_kg) / central.vehicle.mass_kg
        self.assertAlmostEqual(float(share), 1.0, delta=5 * 1.25 * 0.2 / 200**0.5)

    def test_an_empty_setup_has_nothing_to_sample(self) -> None:
        self.assertIsNone(resolve(load_setup({}), samples=True).machine)
