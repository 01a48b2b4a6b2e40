"""Motion, heat and rides against hand-derived values and independent integration."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from gecko.analysis.riding import Riding
from gecko.common.quadrature import mean_inverse
from gecko.document.setup import Setup
from gecko.physics.electric.bank import BankModel, RowModel, Unit
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import DIRECT, fed_back_a
from gecko.physics.heat.motor import MotorThermal, heat_run, step_two_nodes, thermal_from_plate
from gecko.physics.heat.wire import seconds_to_insulation
from gecko.physics.motion.duty import flat_out
from gecko.physics.motion.hill import motor_grade, traction_grade
from gecko.physics.motion.launch import launch
from gecko.physics.motion.machine import GuardModel
from gecko.physics.motion.top_speed import first_zero, free_roll, top_speed
from gecko.physics.ride.rides import steady_ride
from gecko.physics.road.forces import grip_limited_acceleration, resistance_n, stop, turn_speeds, wheel_force_n, wheelie_acceleration
from gecko.plans.evaluate import evaluate
from gecko.tests.machines import bare_machine, bike, named


class Forces(TestCase):
    def setUp(self) -> None:
        self.vehicle = bare_machine().vehicle

    def test_resistance_by_hand(self) -> None:
        """70 kg, C 0.015, 0.4 m², 5 m/s on the level: 70·9.81·0.015 + 0.6·0.4·25 = 16.30 N."""
        self.assertAlmostEqual(float(resistance_n(self.vehicle, 5.0)), 70 * 9.81 * 0.015 + 6.0, places=9)

    def test_coasting_losses_add(self) -> None:
        """At zero amps the torque is −k·I0 and the gear's loss adds: F = −0.08·1·7/(0.15·0.95)."""
        push = wheel_force_n(self.vehicle, bare_machine().motor, 0.0)
        self.assertAlmostEqual(float(push), -0.08 * 7 / (0.15 * 0.95), places=9)
        self.assertEqual(float(wheel_force_n(self.vehicle, bare_machine().motor, 0.0, standing=True)), 0.0)

    def test_stop_from_its_parts(self) -> None:
        """10 m/s, 1 s, 5 m/s² on both axles: 10 + 10 m. Rear alone: μg(L−b)/(L+μh) = 0.8·9.81·0.6/1.48 = 3.1816."""
        self.assertAlmostEqual(float(stop(self.vehicle, 10.0, 5.0, 1.0, "both").distance_m), 20.0, places=9)
        self.assertAlmostEqual(float(stop(self.vehicle, 10.0, 5.0, 1.0, "rear").deceleration_m_s2), 3.181622, places=5)

    def test_turn_by_hand(self) -> None:
        """3 m radius: slide √(0.8·9.81·3) = 4.852; two wheels do not tip; track 0.6, h 0.6: √(9.81·3·0.5) = 3.836."""
        tip, slide = turn_speeds(self.vehicle)
        self.assertIsNone(tip)
        self.assertAlmostEqual(float(slide), 4.85221, places=4)
        self.assertAlmostEqual(float(turn_speeds(replace(self.vehicle, track_m=0.6))[0] or 0.0), 3.83601, places=4)

    def test_wheelie_only_with_rear_drive(self) -> None:
        self.assertAlmostEqual(float(wheelie_acceleration(self.vehicle) or 0.0), 9.81 * 0.4 / 0.6, places=9)
        self.assertIsNone(wheelie_acceleration(replace(self.vehicle, driven_axle="front")))

    def test_grip_with_weight_transfer_is_a_fixed_point(self) -> None:
        """The acceleration found must be the one that its own weight transfer allows."""
        for axle in ("rear", "front", "all"):
            v = replace(self.vehicle, driven_axle=axle, friction=0.3)
            a, load = grip_limited_acceleration(v, 20.0)
            share = {"rear": (9.81 * 0.6 + a * 0.6), "front": (9.81 * 0.4 - a * 0.6), "all": 9.81}[axle]
            self.assertAlmostEqual(float(load), float(70 * share), places=6)
            self.assertAlmostEqual(float(a), float((0.3 * load - 20.0) / (70 * 1.05)), places=9)

    def test_hill_grades_solve_their_balances(self) -> None:
        grade = float(motor_grade(self.vehicle, 200.0, 1.2))
        self.assertAlmostEqual(float(resistance_n(self.vehicle, 1.2, grade)), 200.0, places=6)
        v = replace(self.vehicle, friction=0.4)
        slope = float(traction_grade(v, 1.2))
        cos = 1 / np.sqrt(1 + slope**2)
        load = 70 * 9.81 * cos * (0.6 + slope * 0.6)
        self.assertAlmostEqual(0.4 * load, float(resistance_n(v, 1.2, slope)), places=6)


class Speeds(TestCase):
    def test_top_speed_zeroes_the_balance(self) -> None:
        machine = bare_machine()
        source, motor = machine.source(0.5), machine.motor_cool

        def balance(v: float) -> float:
            return float(machine.push(source, motor, v) - resistance_n(machine.vehicle, v))

        self.assertAlmostEqual(float(top_speed(machine, source, motor)), brentq(balance, 1.0, 20.0), places=4)

    def test_first_zero_takes_the_first(self) -> None:
        self.assertAlmostEqual(float(first_zero(lambda x: (1.0 - x) * (3.0 - x), 5.0)), 1.0, delta=3e-5)

    def test_launch_against_an_independent_integration(self) -> None:
        """dv/dt = (F − R)/m_eff by an adaptive integrator, no quadrature over speed."""
        machine = bare_machine()
        source, motor, vehicle = machine.source(1.0), machine.motor_cool, machine.vehicle
        target = 0.9 * float(top_speed(machine, source, motor))

        def slope(_t: float, y: np.ndarray) -> list[float]:
            push = float(machine.push(source, motor, y[0]))
            return [(push - float(resistance_n(vehicle, y[0]))) / (70 * 1.05), y[0]]

        def reached(_t: float, y: np.ndarray) -> float:
            return float(y[0] - target)

        reached.terminal = True  # type: ignore[attr-defined]
        found = solve_ivp(slope, (0, 60), [0.0, 0.0], events=reached, rtol=1e-8, atol=1e-8)
        run = launch(machine, source, motor, target)
        self.assertAlmostEqual(float(run.time_s[-1]) / found.t[-1], 1.0, delta=2e-3)
        self.assertAlmostEqual(float(run.distance_m[-1]) / found.y[1][-1], 1.0, delta=2e-3)

    def test_a_machine_too_weak_to_move_says_zero(self) -> None:
        machine = bare_machine(vehicle=replace(bare_machine().vehicle, rolling_resistance=5.0))
        self.assertEqual(float(top_speed(machine, machine.source(1.0), machine.motor_cool)), 0.0)

    @settings(max_examples=40, deadline=None)
    @given(st.floats(0.02, 0.5), st.floats(1.05, 4.0), st.floats(0.0, 0.1))
    def test_more_pack_resistance_never_gives_more_speed(self, ohm: float, factor: float, grade: float) -> None:
        """Equal mass, grade ≥ 0, motor at ambient."""
        speeds = []
        for resistance in (ohm, ohm * factor):
            bank = BankModel((RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=10.0, resistance_ohm=resistance),)),))
            machine = bare_machine(bank=bank)
            speeds.append(float(top_speed(machine, machine.source(0.5), machine.motor_cool, grade)))
        self.assertLessEqual(speeds[1], speeds[0] + 1e-6)

    @settings(max_examples=40, deadline=None)
    @given(st.integers(1, 4), st.floats(0.02, 0.4), st.floats(0, 400))
    def test_more_like_rows_never_sag_more_at_equal_motor_speed(self, rows: int, ohm: float, speed: float) -> None:
        drops = []
        for count in (rows, rows + 1):
            machine = bare_machine(bank=BankModel((RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=10.0, resistance_ohm=ohm),), count),)))
            source = machine.source(0.5)
            point = machine.full(source, machine.motor_cool, speed * 0.15 / 7.0)
            drops.append(float(point.pack_a * source.resistance_ohm))
        self.assertLessEqual(drops[1], drops[0] + 1e-9)


class Heat(TestCase):
    def test_rated_load_settles_87_kelvin_up(self) -> None:
        """docs/model.md: in 25 °C air the rated load settles at 25 + 87 °C, resistance following."""
        plate = MotorConstants(resistance_ohm=0.22, k_v_s=0.073, no_load_a=1.6, rated_a=15.15, rated_copper_w=50.0, rated_other_w=33.0)
        thermal = thermal_from_plate(plate, 2.0, False)
        run = heat_run(lambda w, _c: (50.0 * (1 + 0.00393 * (w - 25)), 33.0, 1.0 / float(thermal.case_to_air_k_per_w)), thermal, 25.0, 200_000.0)
        # 90 K is where copper at its hot resistance settles: 1.354 = 1 + 0.00393·90; magnets and rounding make it 87…90.
        self.assertAlmostEqual(float(run.winding_c[-1]) - 25.0, 88.5, delta=1.6)

    def test_exact_step_against_an_integrator(self) -> None:
        thermal = MotorThermal(10.0, 90.0, 1.0, 1.3, False)

        def slope(_t: float, y: np.ndarray) -> list[float]:
            between = (y[0] - y[1]) / 1.0
            return [(40.0 - between) / 10.0, (5.0 + between - y[1] / 1.3) / 90.0]

        found = solve_ivp(slope, (0, 75.0), [3.0, 1.0], rtol=1e-10, atol=1e-10).y[:, -1]
        np.testing.assert_allclose(np.array(step_two_nodes(3.0, 1.0, 40.0, 5.0, thermal, 1 / 1.3, 75.0)), found, rtol=1e-6)
        np.testing.assert_allclose(np.array(step_two_nodes(np.array([3.0]), np.array([1.0]), 40.0, 5.0, thermal, 1 / 1.3, 75.0)), found[:, None], rtol=1e-6)

    def test_flat_out_never_heats_above_its_stall(self) -> None:
        machine = bare_machine()
        run = flat_out(machine, machine.source(1.0), 0.0, 1200.0)
        self.assertEqual(run.winding_c[0], 25.0)
        self.assertTrue(all(b >= a - 0.5 for a, b in zip(run.winding_c, run.winding_c[1:], strict=False)))

    def test_wire_settles_at_its_ampacity_in_the_table_air(self) -> None:
        """At the bundled ampacity in 30 °C air a wire settles exactly at its rating: never above, so never."""
        self.assertTrue(np.isinf(seconds_to_insulation(3.309e-6, 45.0 * 0.999, 45.0, 105.0, 30.0)))
        self.assertTrue(np.isfinite(seconds_to_insulation(3.309e-6, 45.0 * 1.01, 45.0, 105.0, 30.0)))

    def test_wire_pulse_against_an_integrator(self) -> None:
        """12 AWG at 120 A from 35 °C: dT/dt integrated with the resistance following the copper."""
        area, amps, ampacity = 3.309e-6, 120.0, 45.0
        c = area * 8960 * 385
        r = 1.724e-8 / area
        h = ampacity**2 * r * (1 + 0.00393 * 85) / 75

        def slope(_t: float, y: np.ndarray) -> list[float]:
            return [(amps**2 * r * (1 + 0.00393 * (y[0] - 20)) - h * (y[0] - 35)) / c]

        def hot(_t: float, y: np.ndarray) -> float:
            return float(y[0] - 105)

        hot.terminal = True  # type: ignore[attr-defined]
        found = solve_ivp(slope, (0, 1000), [35.0], events=hot, rtol=1e-9).t[-1]
        self.assertAlmostEqual(float(seconds_to_insulation(area, amps, ampacity, 105.0, 35.0)), found, delta=1e-3 * found)

    def test_mean_of_the_inverse(self) -> None:
        self.assertAlmostEqual(float(mean_inverse(2.0, 2.0)), 0.5, places=12)


class Rides(TestCase):
    def test_steady_ride_against_an_independent_march(self) -> None:
        """Charge, winding and case by solve_ivp with the current from a root at every step; until the guard."""
        machine = bare_machine(guard=GuardModel(33.0, 2.0))
        aimed, vehicle = 5.0, machine.vehicle
        force = float(resistance_n(vehicle, aimed))
        omega = float(vehicle.omega(aimed))

        def electric(y: np.ndarray) -> tuple[float, float, float, float]:
            motor = machine.motor.at(y[1], y[2])
            amps = force * 0.15 / (7 * 0.95 * motor.k_v_s) + motor.no_load_a
            source = machine.source(max(y[0], 0.0))
            ohms = float(source.resistance_ohm) + 0.02
            watts = amps * (motor.k_v_s * omega + motor.resistance_ohm * amps) / 0.97
            inner = float(source.open_v) - 0.05 * ohms
            drawn = brentq(lambda i: (inner - i * ohms) * i - watts, 0.0, inner / (2 * ohms))
            return drawn + 0.05, float(source.open_v) - (drawn + 0.05) * ohms, float(amps**2 * motor.resistance_ohm), float(motor.k_v_s * omega)

        def slope(_t: float, y: np.ndarray) -> list[float]:
            pack, _, copper, other = electric(y)
            between = (y[1] - y[2]) / 0.5
            air = (y[2] - 25.0) / 0.8 * (1 + 0.15 * aimed)
            return [-pack / 36000.0, (copper - between) / 100.0, (other + between - air) / 900.0]

        def guard(_t: float, y: np.ndarray) -> float:
            return electric(y)[1] - 32.99

        guard.terminal = True  # type: ignore[attr-defined]
        found = solve_ivp(slope, (0, 40_000), [1.0, 25.0, 25.0], events=guard, rtol=1e-7, atol=1e-7, max_step=60.0)
        ride, _ = steady_ride(machine, aimed, 0.0)
        self.assertEqual(ride.ends_by, "guard")
        self.assertAlmostEqual(float(ride.run_time_s) / (found.t[-1] + 2.0), 1.0, delta=3e-3)
        self.assertAlmostEqual(float(ride.line.winding_end_c[-1]), found.y[1][-1], delta=0.5)

    def test_guard_below_the_cut_off_never_acts(self) -> None:
        machine = bare_machine(guard=GuardModel(27.0, 2.0))
        self.assertNotEqual(steady_ride(machine, 5.0, 0.0)[0].ends_by, "guard")


class FrontsThatLift(TestCase):
    """Two made-up machines known to lift, worked out by hand from force and moments."""

    def lifted(self, setup: Setup) -> tuple[Riding, float, float]:
        riding = Riding(setup)
        assert riding.wheelie is not None
        return riding, riding.wheelie.lifts_m_s2, riding.wheelie.lifts_m_s2 / riding.wheelie.margin

    def test_a_pocket_bike_of_60_v_at_180_a_motor_side(self) -> None:
        """kv 75 rpm/V is 0.12732 V·s; (180 − 2) A make 22.66 N·m, at ratio 8, 0.95 and 0.2 m of wheel 861.2 N. Less 110 kg·9.81·0.015 of
        rolling, over 110·1.05 kg: 7.32 m/s². 45 and 65 kg on the axles, 0.95 m: b = 0.3886 m, h = 0.62 m: it lifts from 9.81·b/h = 6.15 m/s² on."""
        setup = bike(
            vehicle={
                "family": "mini bike",
                "wheelbase_m": named(0.95),
                "com_height_m": named(0.62),
                "front_axle_kg": named(45, "measured"),
                "rear_axle_kg": named(65, "measured"),
                "brake": "disc",
            },
            bank__rows=[{"units": [{"cells_in_series": 17, "capacity_ah": named(24), "cell_kind": "power", "guard_in_tool": False}]}],
            controller={"kind": "brushless", "nominal_v": named(60), "battery_limit_a": named(80), "phase_limit_a": named(180), "undervoltage_v": named(48)},
            motor={
                "kind": "brushless mid",
                "volts_v": named(60),
                "power_w": named(2000),
                "kv_rpm_per_v": named(75),
                "no_load_a": named(2),
                "resistance_ohm": named(0.03),
            },
            drivetrain={"kind": "chain", "ratio": named(8), "efficiency": named(0.95)},
            wheel={"diameter_m": named(0.4), "tyre": "pneumatic"},
            ground={"rolling_resistance": 0.015, "friction": 0.9},
            rider={"name": "Kit", "age_years": 16, "mass_kg": named(60)},
        )
        _, lifts, launch = self.lifted(setup)
        self.assertAlmostEqual(lifts, 6.149, places=2)
        self.assertAlmostEqual(launch, 7.32, delta=0.05)
        self.assertIn("ride.wheelie", [f.id for f in evaluate(setup).findings if f.gate == "plan"])

    def test_a_short_cart_of_24_v_with_its_driver_over_the_axle(self) -> None:
        """b = 0.1217 m as in `test_resolve`, h = 0.45 m: from 9.81·0.1217/0.45 = 2.65 m/s² on. k = 60/(2π·120) = 0.0796 V·s; at 60 A, less 1 A,
        4.69 N·m; at ratio 20, 0.65 and 0.13 m of wheel 469 N, less 115·9.81·0.02 = 22.6 N over 115·1.05 kg: 3.70 m/s²."""
        setup = bike(
            vehicle={"family": "transplant", "seat": "over the rear axle", "brake": "disc"},
            bank__rows=[{"units": [{"cells_in_series": 8, "chemistry": "lfp", "capacity_ah": named(30), "guard_in_tool": False}]}],
            controller={"kind": "brushed", "nominal_v": named(24), "battery_limit_a": named(50), "phase_limit_a": named(60), "undervoltage_v": named(20)},
            motor={"kind": "brushed", "volts_v": named(24), "power_w": named(600), "kv_rpm_per_v": named(120), "no_load_a": named(1), "resistance_ohm": named(0.05)},
            drivetrain={"kind": "worm transaxle", "ratio": named(20), "efficiency": named(0.65)},
            wheel={"diameter_m": named(0.26), "tyre": "pneumatic"},
            ground={"rolling_resistance": 0.02, "friction": 0.9},
            rider={"name": "Kit", "age_years": 30, "mass_kg": named(75)},
        )
        _, lifts, launch = self.lifted(setup)
        self.assertAlmostEqual(lifts, 2.654, delta=0.02)
        self.assertAlmostEqual(launch, 3.70, delta=0.05)
        (found,) = [f for f in evaluate(setup).findings if f.id == "ride.wheelie"]
        self.assertIn("weigh what either axle carries", found.because)


class HeldByItsOwnCurrent(TestCase):
    """A motor turned faster than its bank's volts feeds back through the controller's diodes, whatever the controller says."""

    def test_downhill_by_hand(self) -> None:
        """The machine of round numbers down 30 %: where forces written out here come to nothing, found by a root finder."""
        machine = bare_machine()
        source, motor, vehicle = machine.source(1.0), machine.motor_cool, machine.vehicle
        grade, eta = -0.30, float(machine.control.efficiency)
        ohm, k, g = float(motor.loop_ohm), float(motor.k_v_s), float(vehicle.gear_ratio) / float(vehicle.wheel_radius_m)
        open_v, rs = float(source.open_v), float(machine.source_ohm(source))

        def left_n(v: float) -> float:
            back_a = max(k * v * g - open_v / eta, 0.0) / (ohm + rs / eta)
            torque = k * (-back_a - float(motor.no_load_a)) * g
            slope = float(vehicle.mass_kg) * 9.81 / float(np.hypot(1.0, grade)) * (float(vehicle.rolling_resistance) + grade)
            return torque / float(vehicle.gear_efficiency) - slope - 0.5 * 1.2 * float(vehicle.drag_area_m2) * v * v

        spins = open_v / k / g
        by_hand = brentq(left_n, spins, 4.0 * spins)
        found = float(top_speed(machine, source, motor, grade))
        self.assertAlmostEqual(found, by_hand, delta=0.01 * by_hand)
        freely = float(free_roll(vehicle, motor, grade))
        self.assertGreater(freely, 1.2 * found)
        # With nothing to hold it, motor drag, ground and air alone.
        alone = brentq(lambda v: left_n(v) + k * max(k * v * g - open_v / eta, 0.0) / (ohm + rs / eta) * g / float(vehicle.gear_efficiency), spins, 40.0)
        self.assertAlmostEqual(freely, alone, delta=0.01 * alone)

    def test_slower_than_the_volts_nothing_flows_back_and_without_a_controller_the_switch_is_open(self) -> None:
        machine = bare_machine()
        motor, source = machine.motor_cool, machine.source(0.5)
        spins = float(source.open_v) / float(motor.k_v_s)
        for omega in (0.3 * spins, 0.99 * spins):
            self.assertEqual(float(fed_back_a(source.open_v, 0.1, motor, machine.control, omega)), 0.0)
        self.assertGreater(float(fed_back_a(source.open_v, 0.1, motor, machine.control, 1.3 * spins)), 1.0)
        self.assertEqual(float(fed_back_a(source.open_v, 0.1, motor, DIRECT, 1.3 * spins)), 0.0)
