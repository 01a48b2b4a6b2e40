"""Laps and the heat over them against a plain march in small steps of time."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np
from scipy.optimize import brentq

from gecko.physics.electric.operating_point import DIRECT
from gecko.physics.heat.motor import heat_run, resistance_factor
from gecko.physics.motion.duty import winding_after_laps
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import top_speed
from gecko.physics.ride.lap import Lap, stop_and_go_lap
from gecko.physics.road.forces import resistance_n
from gecko.tests.machines import bare_machine


def march(machine: Machine, length_m: float, aimed: float | None, brake: float, stand_s: float, dt: float = 2e-3) -> dict[str, float]:
    """A lap at half charge by Euler's midpoint in time: full throttle up to the aimed speed, held, braked in time, stood.

    The held pack amps come from a root on the duty: E·I − I²R_s = (V·I_m with V = kω + R·I_m)/η, no closed form used.
    """
    source, motor, vehicle = machine.source(0.5), machine.motor_cool, machine.vehicle
    top = float(top_speed(machine, source, motor))
    limit = 0.9995 * top if aimed is None else min(aimed, 0.9995 * top)
    v = gone = t = charge = square = motor_square = turned = 0.0
    while gone + v * v / (2 * brake) < length_m:
        if v < limit:
            half = v + dt / 2 * float(machine.push(source, motor, v) - resistance_n(vehicle, v)) / float(vehicle.effective_mass_kg)
            a = float(machine.push(source, motor, half) - resistance_n(vehicle, half)) / float(vehicle.effective_mass_kg)
            point = machine.full(source, motor, half)
            amps, motor_a, mean_v = float(point.pack_a), float(point.motor_a), v + a * dt / 2
            v += a * dt
        else:
            force = float(resistance_n(vehicle, v))
            motor_a = float(force / vehicle.gear_efficiency * vehicle.wheel_radius_m / vehicle.gear_ratio / motor.k_v_s + motor.no_load_a)
            shaft = float(motor.k_v_s * vehicle.omega(v) + motor.resistance_ohm * motor_a) * motor_a / float(machine.control.efficiency)
            ohm = float(machine.source_ohm(source))
            drawn = brentq(lambda i, w=shaft, r=ohm: (source.open_v - i * r) * i - w, 0.0, float(source.open_v) / (2 * ohm))
            amps, mean_v = drawn + float(machine.control.idle_a), v
        gone, t = gone + mean_v * dt, t + dt
        charge, square = charge + amps * dt, square + amps * amps * dt
        motor_square, turned = motor_square + motor_a * motor_a * dt, turned + float(vehicle.omega(mean_v)) * dt
    rest = v / brake + stand_s
    idle = float(machine.control.idle_a)
    charge, square = charge + idle * rest, square + idle * idle * rest
    turned += float(vehicle.omega(v)) / 2 * v / brake
    total = t + rest
    return {
        "time_s": total,
        "mean_pack_a": charge / total,
        "rms_pack_a": (square / total) ** 0.5,
        "mean_square_motor_a2": motor_square / total,
        "mean_omega": turned / total,
        "highest_speed_m_s": v,
    }


class Laps(TestCase):
    def lap(self, machine: Machine, length_m: float, aimed: float | None, **more: bool) -> Lap:
        return stop_and_go_lap(machine, machine.source(0.5), length_m, aimed, 2.5, 8.0, **more)

    def compare(self, machine: Machine, length_m: float, aimed: float | None, share: float) -> None:
        found, slow = self.lap(machine, length_m, aimed), march(machine, length_m, aimed, 2.5, 8.0)
        for name, value in slow.items():
            self.assertAlmostEqual(float(getattr(found, name)) / value, 1.0, delta=share, msg=name)

    def test_a_lap_that_reaches_its_speed(self) -> None:
        self.compare(bare_machine(), 60.0, 5.0, 2e-3)

    def test_a_lap_too_short_to_reach_it(self) -> None:
        self.compare(bare_machine(), 12.0, 8.0, 4e-3)

    def test_an_aim_nobody_reaches_is_the_top_speed(self) -> None:
        machine = bare_machine()
        found = self.lap(machine, 4000.0, 99.0)
        top = float(top_speed(machine, machine.source(0.5), machine.motor_cool))
        self.assertAlmostEqual(float(found.highest_speed_m_s) / top, 0.9995, places=4)

    def test_a_switched_motor_runs_full_throttle_all_along(self) -> None:
        direct = bare_machine(control=DIRECT)
        self.compare(direct, 60.0, None, 5e-3)

    def test_standing_longer_only_dilutes(self) -> None:
        machine = bare_machine()
        short, long = (stop_and_go_lap(machine, machine.source(0.5), 60.0, 5.0, 2.5, stand) for stand in (8.0, 38.0))
        self.assertAlmostEqual(float(long.time_s - short.time_s), 30.0, places=9)
        self.assertAlmostEqual(float(long.mean_pack_a * long.time_s - short.mean_pack_a * short.time_s), 30.0 * 0.05, places=6)

    def test_coarse_laps_agree_with_fine_ones(self) -> None:
        """Samples take every other point of the launch: within 0.1 %."""
        fine, coarse = self.lap(bare_machine(), 60.0, 5.0), self.lap(bare_machine(), 60.0, 5.0, coarse=True)
        for name in ("time_s", "mean_pack_a", "rms_pack_a", "mean_square_motor_a2", "mean_omega"):
            self.assertAlmostEqual(float(getattr(coarse, name)) / float(getattr(fine, name)), 1.0, delta=1e-3, msg=name)

    def test_several_charges_at_once_are_as_one_by_one(self) -> None:
        machine = bare_machine()
        charges = np.array([1.0, 0.5, 0.2])
        together = stop_and_go_lap(machine, machine.source(charges), 60.0, 5.0, 2.5, 8.0)
        for i, charge in enumerate(charges):
            alone = stop_and_go_lap(machine, machine.source(float(charge)), 60.0, 5.0, 2.5, 8.0)
            self.assertAlmostEqual(float(np.asarray(together.rms_pack_a)[i]), float(alone.rms_pack_a), places=6)
            self.assertAlmostEqual(float(np.asarray(together.time_s)[i]), float(alone.time_s), places=6)


class LapHeat(TestCase):
    def test_steady_means_settle_by_hand(self) -> None:
        """100 A² in 0.2 Ω, 50 rad/s · 0.08 V·s · 1 A: 20 W and 4 W. In still air the case settles 24·0.8 = 19.2 K up, the winding 10 K more.

        With a winding that follows its temperature the copper loss grows to 20·(1 + 0.00393·ΔT), solved by hand as one line:
        ΔT = 0.5·P + 0.8·(P + 4), P = 20·(1 + 0.00393·ΔT) with ΔT above 25 °C air: ΔT = (26 + 3.2)/(1 − 0.10218) = 32.52 K.
        """
        machine = replace(bare_machine(), motor=replace(bare_machine().motor, resistance_ohm=0.2))
        air = machine.thermal.air_conductance(0.0)
        self.assertAlmostEqual(float(winding_after_laps(machine, 100.0, 50.0, air, 40_000.0)), 25.0 + 32.52, delta=0.01)

    def test_at_once_is_what_small_steps_come_to(self) -> None:
        """Also where the loss grows faster than it is carried off; past 300 °C copper's resistance is taken as clamped, and no more is told."""
        machine = bare_machine()
        for square in (50.0, 2000.0, 9000.0, 30_000.0):
            cold = float(machine.motor.resistance_ohm) * square / machine.motor_count
            other = float(machine.motor.k_v_s * 60.0 * machine.motor.no_load_a) / machine.motor_count
            air = float(machine.thermal.air_conductance(2.0))

            def losses(winding_c: float, _case_c: float, /, cold: float = cold, other: float = other, air: float = air) -> tuple[float, float, float]:
                return float(cold * resistance_factor(winding_c)), other, air

            for until in (180.0, 1200.0):
                stepped = float(heat_run(losses, machine.thermal, machine.ambient_c, until).winding_c[-1])
                once = float(winding_after_laps(machine, square, 60.0, air, until))
                self.assertAlmostEqual(once, min(stepped, 300.0), delta=0.5 + 0.005 * (stepped - 25.0) if stepped < 300.0 else 0.0)

    def test_wind_cools(self) -> None:
        machine = bare_machine()
        still, moving = (winding_after_laps(machine, 400.0, 50.0, machine.thermal.air_conductance(v), 1200.0) for v in (0.0, 5.0))
        self.assertLess(float(moving), float(still))
