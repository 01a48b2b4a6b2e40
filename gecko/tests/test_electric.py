"""Wire, bank, motor, operating point and nodal solver against published and hand-derived values."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq, fsolve

from gecko.common.errors import GeckoError
from gecko.physics.electric.bank import BankModel, RowModel, Unit, bank_limits, rated_ah, source_at, usable_ah
from gecko.physics.electric.joining import join_rows
from gecko.physics.electric.motor import MotorConstants, combine, from_nameplate
from gecko.physics.electric.nodal import CurrentSource, Diode, Element, Load, PowerLoad, Resistor, VoltSource, connected, solve
from gecko.physics.electric.operating_point import DIRECT, LIMITS, ControllerModel, full_throttle, part_throttle
from gecko.physics.electric.path import awg_area_m2, fuse_ohm, wire_ohm_per_m
from gecko.physics.road.forces import wheel_force_n
from gecko.tests.machines import bare_machine


class Wire(TestCase):
    def test_resistance_against_the_published_awg_table(self) -> None:
        """ASTM B258 / NBS Handbook 100, annealed copper at 20 °C, Ω per km: 18 AWG 20.95, 12 AWG 5.211, 4 AWG 0.8152."""
        for awg, ohm_per_km in ((18, 20.95), (14, 8.286), (12, 5.211), (10, 3.277), (4, 0.8152)):
            self.assertAlmostEqual(float(wire_ohm_per_m(awg)) * 1000 / ohm_per_km, 1.0, delta=1e-3)

    def test_area_against_the_published_awg_table(self) -> None:
        """ASTM B258: 10 AWG 5.261 mm², 2 AWG 33.62 mm²."""
        self.assertAlmostEqual(awg_area_m2(10) * 1e6, 5.261, delta=0.002)
        self.assertAlmostEqual(awg_area_m2(2) * 1e6, 33.62, delta=0.02)

    def test_hot_copper_by_its_temperature_coefficient(self) -> None:
        """IEC 60028: 0.393 % per kelvin at 20 °C, so 50 K more is 19.65 % more."""
        self.assertAlmostEqual(float(wire_ohm_per_m(12, 70.0) / wire_ohm_per_m(12, 20.0)), 1.1965, places=6)

    def test_fuse_drops_70_millivolts_at_its_rating(self) -> None:
        self.assertAlmostEqual(fuse_ohm(25.0) * 25.0, 0.07, places=9)


def alike(cells: int = 5, ah: float = 5.0, ohm: float = 0.06, rows: int = 1, series: int = 1) -> BankModel:
    return BankModel(
        (
            RowModel(
                (
                    Unit(
                        chemistry="li-ion",
                        cells_in_series=cells,
                        capacity_ah=ah,
                        resistance_ohm=ohm,
                        series_count=series,
                        peukert_exponent=None,
                        continuous_a=30.0,
                        peak_10s_a=60.0,
                        trip_a=80.0,
                    ),
                ),
                rows,
            ),
        )
    )


class BankAlgebra(TestCase):
    def test_series_adds_volts_and_parallel_adds_amp_hours(self) -> None:
        """Two in series, three rows, of 5-cell 5 Ah 60 mΩ packs at half charge: 2·5·3.72 V, 15 Ah, 2·60/3 mΩ."""
        bank = alike(rows=3, series=2)
        source = source_at(bank, 0.5, 25.0)
        self.assertAlmostEqual(float(source.open_v), 37.2, places=9)
        self.assertAlmostEqual(float(source.resistance_ohm), 0.04, places=9)
        self.assertEqual(rated_ah(bank), 15.0)
        self.assertEqual(bank_limits(bank).continuous_a, 90.0)

    def test_a_mixed_string_keeps_the_limits_that_are_stated(self) -> None:
        """Packs of 30 A and of nobody knows what in one row: 30 A; a row beside it of which nothing is known leaves the bank's unknown."""
        stated, silent = (
            Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=5.0, resistance_ohm=0.06, continuous_a=30.0, trip_a=60.0),
            Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=5.0, resistance_ohm=0.06),
        )
        mixed = BankModel((RowModel((stated, silent), 2),))
        self.assertEqual((bank_limits(mixed).continuous_a, bank_limits(mixed).trip_a, bank_limits(mixed).peak_10s_a), (60.0, 120.0, None))
        self.assertIsNone(bank_limits(BankModel((*mixed.rows, RowModel((silent, silent))))).continuous_a)

    def test_unlike_rows_share_by_their_resistance(self) -> None:
        """Two rows of equal volts, 60 and 250 mΩ: 10 A split 250:60, by hand 8.06452 and 1.93548 A."""
        bank = BankModel(
            (
                RowModel((Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=5, resistance_ohm=0.06),)),
                RowModel((Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=2, resistance_ohm=0.25),)),
            )
        )
        shares = source_at(bank, 1.0, 25.0).row_currents(10.0)
        np.testing.assert_allclose(np.asarray(shares), [8.064516, 1.935484], rtol=1e-6)

    def test_low_charge_and_cold_raise_resistance(self) -> None:
        """At 0 °C lithium ×exp(0.022·25) = 1.7333; at 10 % charge ×1.5."""
        bank = alike()
        self.assertAlmostEqual(float(source_at(bank, 0.1, 0.0).resistance_ohm), 0.06 * 1.733253 * 1.5, places=6)

    def test_lead_gives_less_when_pulled_hard(self) -> None:
        """Peukert by hand: 10 Ah at 5 A, k = 1.15: 10·(0.5/5)^0.15 = 7.0795 Ah; never above the rated 10 Ah."""
        unit = Unit(chemistry="lead", cells_in_series=6, capacity_ah=10.0, resistance_ohm=0.024)
        self.assertAlmostEqual(float(usable_ah(unit, 5.0, 25.0)), 7.079458, places=5)
        self.assertAlmostEqual(float(usable_ah(unit, 0.1, 25.0)), 10.0, places=9)
        self.assertAlmostEqual(float(usable_ah(unit, 0.1, 0.0)), 8.5, places=9)

    def test_joining_rests_where_the_volts_agree(self) -> None:
        """One curve, equal packs: they meet in the middle, and joining the other way round moves the same charge back."""
        row = RowModel((Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=5.0, resistance_ohm=0.06),))
        joined = join_rows(row, row, 0.9, 0.5, 0.01, 25.0)
        self.assertAlmostEqual(joined.first_current_a, (5 * 4.07 - 5 * 3.72) / 0.13, places=4)
        self.assertAlmostEqual(joined.soc_a_end, joined.soc_b_end, delta=0.02)
        back = join_rows(row, row, 0.5, 0.9, 0.01, 25.0)
        self.assertAlmostEqual(back.charge_moved_ah, -joined.charge_moved_ah, places=9)


class Motors(TestCase):
    def test_constants_reproduce_the_plate(self) -> None:
        """At the rated point the constants must give back rated speed, amps and shaft power."""
        m = from_nameplate(24.0, 280.0, 0.77, 0.6, speed_rpm=2700.0)
        omega = 2700 * 2 * np.pi / 60
        amps = (24.0 - m.k_v_s * omega) / m.resistance_ohm
        self.assertAlmostEqual(float(amps), 280 / (24 * 0.77), places=6)
        self.assertAlmostEqual(float(m.k_v_s * (amps - m.no_load_a) * omega), 280.0, places=6)

    def test_no_load_speed_comes_back(self) -> None:
        m = from_nameplate(12.0, 60.0, 0.62, 0.6, no_load_rpm=14000.0)
        self.assertAlmostEqual(float((12.0 - m.no_load_a * m.resistance_ohm) / m.k_v_s), 14000 * 2 * np.pi / 60, places=6)

    def test_two_motors_as_one(self) -> None:
        one = MotorConstants(resistance_ohm=0.4, k_v_s=0.01, no_load_a=1.0, rated_a=8.0, rated_copper_w=20.0, rated_other_w=15.0)
        high, low = combine(one, 2, "parallel"), combine(one, 2, "series")
        self.assertEqual((high.resistance_ohm, high.k_v_s, high.no_load_a), (0.2, 0.01, 2.0))
        self.assertEqual((low.resistance_ohm, low.k_v_s, low.no_load_a), (0.8, 0.02, 1.0))

    def test_a_plate_without_a_speed_is_refused(self) -> None:
        with self.assertRaises(GeckoError) as caught:
            from_nameplate(24.0, 280.0, 0.77, 0.6)
        self.assertEqual(caught.exception.path, "/motor/speed_rpm")


MOTOR = MotorConstants(resistance_ohm=0.2, k_v_s=0.08, no_load_a=1.0, rated_a=12.0, rated_copper_w=40.0, rated_other_w=30.0)


def by_root_finding(open_v: float, source_ohm: float, motor: MotorConstants, c: ControllerModel, omega: float) -> float:
    """Motor current by root finding on the duty: the largest current that breaks no limit, no closed form used."""
    back, inner = motor.k_v_s * omega, open_v - c.idle_a * source_ohm

    def current(duty: float) -> float:
        def balance(i: float) -> float:
            return float(duty * c.efficiency * (inner - duty * i * source_ohm) - back - motor.resistance_ohm * i)

        return float(brentq(balance, -5000.0, 5000.0))

    duties = np.linspace(1e-4, c.duty_max, 4000)
    currents = np.array([current(d) for d in duties])
    drawn = duties * currents
    allowed = currents > 0
    if c.phase_limit_a is not None:
        allowed &= currents <= c.phase_limit_a * (1 + 1e-9)
    if c.battery_limit_a is not None:
        allowed &= drawn <= c.battery_limit_a * (1 + 1e-9)
    if c.undervoltage_v is not None:
        allowed &= inner - drawn * source_ohm >= c.undervoltage_v * (1 - 1e-9)
    return float(currents[allowed].max()) if allowed.any() else 0.0


class TenThousandMachines(TestCase):
    """The closed form against trying: every duty on a fine grid, twice refined, for ten thousand random machines at once."""

    def test_motor_amps_and_pack_amps(self) -> None:
        chance, n = np.random.default_rng(7), 10_000
        cells = chance.integers(3, 21, n)
        open_v, ohm = cells * chance.uniform(3.0, 4.2, n), np.exp(chance.uniform(np.log(0.01), np.log(1.0), n))
        plate_v, power = cells * 3.6 * chance.uniform(0.5, 1.6, n), np.exp(chance.uniform(np.log(40), np.log(3000), n))
        motor = from_nameplate(plate_v, power, chance.uniform(0.5, 0.93, n), 0.6, speed_rpm=np.exp(chance.uniform(np.log(300), np.log(12000), n)))
        limit = power / plate_v * chance.uniform(0.8, 8.0, n)
        phase, floor = 1.5 * limit, cells * chance.uniform(0.5, 3.4, n)
        control = ControllerModel(
            kind="pwm",
            duty_max=chance.uniform(0.2, 1.0, n),
            efficiency=chance.uniform(0.85, 0.99, n),
            phase_limit_a=phase,
            battery_limit_a=limit,
            undervoltage_v=floor,
            idle_a=0.05,
            diodes=False,
        )
        omega = chance.uniform(0.0, 1.1, n) * open_v / motor.k_v_s
        found = full_throttle(open_v, ohm, motor, control, omega)
        inner, back = open_v - 0.05 * ohm, motor.k_v_s * omega

        def amps(duty: Any) -> Any:
            return np.maximum((duty * inner * control.efficiency - back) / (motor.resistance_ohm + duty * duty * control.efficiency * ohm), 0.0)

        low, high = np.zeros(n), control.duty_max * np.ones(n)
        for _ in range(4):
            duty = low + np.linspace(0.0, 1.0, 201)[:, None] * (high - low)
            current = amps(duty)
            drawn = duty * current
            ok = (current <= phase * (1 + 1e-12)) & (drawn <= limit * (1 + 1e-12)) & (inner - drawn * ohm >= floor)
            # Up to the first duty that some limit forbids: more throttle than that is never reached.
            ok = np.logical_and.accumulate(ok, axis=0)
            best = np.argmax(np.where(ok, current, -1.0), axis=0)
            step = (high - low) / 200.0
            low, high = np.maximum(low + (best - 1) * step, 0.0), np.minimum(low + (best + 1) * step, control.duty_max)
        tried = current[best, np.arange(n)]
        starved = inner <= floor
        tried = np.where(starved, 0.0, tried)
        scale = np.maximum(found.motor_a, 0.02 * phase)
        self.assertLess(float(np.max(np.abs(tried - found.motor_a) / scale)), 1e-3)
        pack = np.where(starved, 0.0, drawn[best, np.arange(n)]) + 0.05
        self.assertLess(float(np.max(np.abs(pack - found.pack_a) / np.maximum(found.pack_a, 0.02 * limit))), 2e-3)
        # Every limit was met somewhere.
        self.assertEqual(set(np.unique(found.limit).tolist()), {0, 1, 2, 3, 4})


class OperatingPointLimits(TestCase):
    """Each limit, hand-derived or by root finding."""

    def test_phase_limit_at_standstill(self) -> None:
        """At rest P = R·I² = 0.2·45² = 405 W through η 0.97 from E' = 37.195 − …: solved by hand from the quadratic."""
        c = ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.97, phase_limit_a=45.0, battery_limit_a=None, undervoltage_v=None, idle_a=0.05)
        point = full_throttle(37.2, 0.1, MOTOR, c, 0.0)
        inner = 37.2 - 0.05 * 0.1
        drawn = (inner - (inner**2 - 4 * 0.1 * 405 / 0.97) ** 0.5) / 0.2
        self.assertEqual(point.limit_name(), "phase")
        self.assertAlmostEqual(float(point.pack_a), drawn + 0.05, places=9)

    def test_battery_limit_draws_exactly_its_amps(self) -> None:
        c = ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.97, phase_limit_a=200.0, battery_limit_a=30.0, undervoltage_v=None, idle_a=0.05)
        point = full_throttle(37.2, 0.1, MOTOR, c, 150.0)
        self.assertEqual(point.limit_name(), "battery")
        self.assertAlmostEqual(float(point.pack_a), 30.05, places=9)

    def test_undervoltage_holds_the_controller_at_its_cut_off(self) -> None:
        c = ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.97, phase_limit_a=None, battery_limit_a=None, undervoltage_v=35.0, idle_a=0.05)
        point = full_throttle(37.2, 0.1, MOTOR, c, 50.0)
        self.assertEqual(point.limit_name(), "undervoltage")
        self.assertAlmostEqual(float(point.controller_v), 35.0, places=9)

    def test_below_the_cut_off_nothing_flows(self) -> None:
        point = full_throttle(
            30.0, 0.1, MOTOR, ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.97, phase_limit_a=None, battery_limit_a=None, undervoltage_v=35.0, idle_a=0.05), 50.0
        )
        self.assertEqual((float(point.motor_a), point.limit_name()), (0.0, "undervoltage"))

    def test_source_limit_is_the_best_duty(self) -> None:
        """A weak bank: more duty gives less. The named optimum must beat a fine scan of duties."""
        c = ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.97, phase_limit_a=None, battery_limit_a=None, undervoltage_v=None, idle_a=0.0)
        motor = replace(MOTOR, resistance_ohm=0.05)
        point = full_throttle(20.0, 0.8, motor, c, 20.0)
        self.assertEqual(point.limit_name(), "source")
        self.assertAlmostEqual(float(point.motor_a), by_root_finding(20.0, 0.8, motor, c, 20.0), delta=0.01)

    def test_direct_drive_is_one_circuit(self) -> None:
        """No controller: I = (E − kω)/(R + R_s), by hand (12 − 0.08·200)/(0.3) = −13.33 A: it may push back."""
        self.assertAlmostEqual(float(full_throttle(12.0, 0.1, MOTOR, DIRECT, 200.0).motor_a), -13.333333, places=5)

    @settings(max_examples=40, deadline=None)
    @given(st.floats(15, 60), st.floats(0.02, 0.6), st.floats(0, 500), st.floats(20, 120), st.floats(10, 60), st.floats(0.5, 0.95))
    def test_closed_form_agrees_with_root_finding(self, open_v: float, ohm: float, omega: float, phase: float, battery: float, low: float) -> None:
        c = ControllerModel(
            kind="pwm", duty_max=1.0, efficiency=0.95, phase_limit_a=phase, battery_limit_a=battery, undervoltage_v=low * open_v, idle_a=0.05, diodes=False
        )
        found = float(full_throttle(open_v, ohm, MOTOR, c, omega).motor_a)
        self.assertAlmostEqual(found, by_root_finding(open_v, ohm, MOTOR, c, omega), delta=max(0.15, 0.004 * found))

    @settings(max_examples=60, deadline=None)
    @given(st.floats(15, 60), st.floats(0.01, 0.5), st.floats(0.0, 0.9), st.floats(0.05, 1.0))
    def test_energy_balances_at_motoring_points(self, open_v: float, ohm: float, speed: float, throttle: float) -> None:
        """E·I = bank and path I²R + controller loss + idle + winding I²R + shaft power and friction kωI, to 1e-6."""
        c = ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.95, phase_limit_a=60.0, battery_limit_a=30.0, undervoltage_v=0.6 * open_v, idle_a=0.05)
        omega = speed * open_v / MOTOR.k_v_s
        full = full_throttle(open_v, ohm, MOTOR, c, omega)
        points = [full]
        if float(full.motor_a) > 0.5:
            points.append(part_throttle(open_v, ohm, MOTOR, c, omega, throttle * full.motor_a))
        for p in points:
            motor_w = p.motor_a * (MOTOR.k_v_s * omega + MOTOR.resistance_ohm * p.motor_a)
            controller_w = p.controller_v * (p.pack_a - c.idle_a)
            self.assertAlmostEqual(float(controller_w * c.efficiency), float(motor_w), delta=1e-6 * max(1.0, float(motor_w)))
            spent = p.pack_a**2 * ohm + controller_w * (1 - c.efficiency) + c.idle_a * p.controller_v + motor_w
            self.assertAlmostEqual(float(open_v * p.pack_a), float(spent), delta=1e-6 * max(1.0, float(spent)))
            # And on: kωI is friction kωI0, the gearbox's loss, and what arrives at the wheel.
            vehicle = bare_machine().vehicle
            if float(p.motor_a) > MOTOR.no_load_a:
                shaft_w = MOTOR.k_v_s * (p.motor_a - MOTOR.no_load_a) * omega
                wheel_w = wheel_force_n(vehicle, MOTOR, p.motor_a) * omega * vehicle.wheel_radius_m / vehicle.gear_ratio
                gear_w = shaft_w * (1 - vehicle.gear_efficiency)
                total = MOTOR.k_v_s * omega * MOTOR.no_load_a + gear_w + wheel_w
                self.assertAlmostEqual(float(MOTOR.k_v_s * omega * p.motor_a), float(total), delta=1e-6 * max(1.0, float(total)))

    def test_arrays_and_scalars_agree(self) -> None:
        c = ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.97, phase_limit_a=45.0, battery_limit_a=30.0, undervoltage_v=28.0, idle_a=0.05)
        speeds = np.array([0.0, 100.0, 300.0, 460.0, 700.0])
        together = full_throttle(37.2, 0.1, MOTOR, c, speeds)
        for i, speed in enumerate(speeds):
            alone = full_throttle(37.2, 0.1, MOTOR, c, float(speed))
            self.assertAlmostEqual(float(np.asarray(together.motor_a)[i]), float(alone.motor_a), places=12)
            self.assertEqual(LIMITS[int(np.asarray(together.limit)[i])], alone.limit_name())


class Nodal(TestCase):
    def test_wheatstone_bridge_by_hand(self) -> None:
        """10 V over 100–200 and 300–100 Ω arms: mid points at 6.667 and 2.5 V, difference 4.1667 V."""
        circuit: list[Element] = [VoltSource("p", "0", 10.0, 1e-6), Resistor("p", "a", 100), Resistor("a", "0", 200), Resistor("p", "b", 300), Resistor("b", "0", 100)]
        self.assertAlmostEqual(solve(circuit, "0").between("a", "b"), 4.1666667, places=5)

    def test_current_source_through_a_resistor(self) -> None:
        self.assertAlmostEqual(solve([CurrentSource("0", "a", 2.0), Resistor("a", "0", 3.0)], "0").between("a", "0"), 6.0, places=6)

    def test_two_unequal_batteries_in_parallel(self) -> None:
        """20.4 V behind 0.06 Ω beside 20.0 V behind 0.06 Ω: 20.2 V, by hand."""
        circuit = [VoltSource("p", "0", 20.4, 0.06), VoltSource("p", "0", 20.0, 0.06)]
        self.assertAlmostEqual(solve(circuit, "0").between("p", "0"), 20.2, places=6)

    def test_an_open_return_gives_no_mega_volts(self) -> None:
        """A current source whose way back is open drives nothing; a load beyond an open switch has no volts."""
        circuit: list[Element] = [VoltSource("p", "0", 40.0, 0.1), CurrentSource("p", "far", 2.0), Load("p", "nowhere", 0.05)]
        found = solve(circuit, "0")
        for node in ("p", "far", "nowhere"):
            self.assertLess(abs(found.volts[node]), 41.0, node)

    def test_a_floating_source_keeps_its_own_volts_and_none_of_the_rest(self) -> None:
        found = solve([VoltSource("p", "0", 40.0, 0.1), VoltSource("x", "y", 20.0, 0.1)], "0")
        self.assertAlmostEqual(found.between("x", "y"), 20.0, places=5)
        self.assertLess(abs(found.volts["x"]), 21.0)

    def test_a_reversed_pack_in_a_string_takes_its_volts_off(self) -> None:
        """Two packs of 20 V in series, the second the wrong way round, over 10 Ω: nothing flows, 0 V."""
        circuit: list[Element] = [VoltSource("m", "0", 20.0, 0.1), VoltSource("m", "p", 20.0, 0.1), Resistor("p", "0", 10.0)]
        self.assertAlmostEqual(solve(circuit, "0").between("p", "0"), 0.0, places=5)
        # A load on it draws nothing, and no more than nothing backward.
        self.assertAlmostEqual(solve([*circuit, Load("p", "0", 5.0)], "0").between("p", "0"), 0.0, places=5)

    def test_a_load_that_draws_power_by_hand(self) -> None:
        """100 W behind 40 V and 1 Ω: V² − 40·V + 100 = 0, V = 20 + √300 = 37.3205 V."""
        circuit: list[Element] = [VoltSource("p", "0", 40.0, 1.0), PowerLoad("p", "0", 100.0, 15.0)]
        self.assertAlmostEqual(solve(circuit, "0").between("p", "0"), 37.320508, places=4)

    def test_a_load_of_more_power_than_there_is_gives_up_or_is_not_told(self) -> None:
        """500 W behind 40 V and 1 Ω: 400 W are the most there can be. Under its least volts it is 15²/500 = 0.45 Ω: 12.4 V; else nobody can say."""
        circuit: list[Element] = [VoltSource("p", "0", 40.0, 1.0), PowerLoad("p", "0", 500.0, 15.0)]
        try:
            found = solve(circuit, "0").between("p", "0")
        except GeckoError as error:
            self.assertIn("cannot be told", str(error))
        else:
            self.assertAlmostEqual(found, 40.0 * 0.45 / 1.45, places=3)

    def test_a_diode_blocks_and_lets_through_by_hand(self) -> None:
        """12 V through 0.6 V and 0.01 Ω into 10 Ω behind 0.1 Ω: 11.4·10/10.11 = 11.276 V; the wrong way round next to nothing."""
        way: list[Element] = [VoltSource("p", "0", 12.0, 0.1), Resistor("q", "0", 10.0)]
        self.assertAlmostEqual(solve([*way, Diode("p", "q")], "0").between("q", "0"), 11.27597, places=4)
        self.assertLess(solve([*way, Diode("q", "p")], "0").between("q", "0"), 1e-3)

    def test_bent_parts_agree_with_a_root_finder(self) -> None:
        """60 random ladders of a source, resistors, a load, a load of power and a diode: Kirchhoff's law solved apart by scipy."""
        random = np.random.default_rng(5)
        worst = 0.0
        for _ in range(60):
            v, r1, r2, amps, watts = random.uniform(10, 60), random.uniform(0.05, 0.5), random.uniform(0.05, 0.5), random.uniform(0.1, 5.0), random.uniform(1.0, 60.0)
            circuit: list[Element] = [
                VoltSource("p", "0", v, r1),
                Load("p", "0", amps),
                Diode("p", "q", 0.6, r2),
                PowerLoad("q", "0", watts, 5.0),
                Resistor("q", "0", 200.0),
            ]
            found = solve(circuit, "0")

            def off(x: Any, v: float = v, r1: float = r1, r2: float = r2, amps: float = amps, watts: float = watts) -> list[float]:
                p, q = x
                through = (p - 0.6 - q) / r2
                return [(v - p) / r1 - amps - through, through - watts / q - q / 200.0]

            (p, q), _, told, _ = fsolve(off, [v, v - 0.6], xtol=1e-12, full_output=True)
            if told != 1 or q < 5.0:
                # More power than there is.
                continue
            worst = max(worst, abs(found.between("p", "0") - p), abs(found.between("q", "0") - q))
        self.assertLess(worst, 1e-4)

    def test_open_and_joined(self) -> None:
        parts = [Resistor("a", "b", 1.0), Resistor("c", "d", 1.0)]
        self.assertTrue(connected(parts, "a", "b"))
        self.assertFalse(connected(parts, "a", "d"))

    def test_a_part_without_ohms_is_refused(self) -> None:
        with self.assertRaises(GeckoError):
            solve([Resistor("a", "0", 0.0)], "0")
