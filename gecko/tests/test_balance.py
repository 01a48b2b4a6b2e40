"""The compiled balance against the functions of arrays, on random machines: one set of equations, written twice, held together here."""

from __future__ import annotations

import random
from dataclasses import replace
from unittest import TestCase

import numpy as np

from gecko.physics.electric.operating_point import full_throttle as full_throttle_of_arrays
from gecko.physics.electric.operating_point import part_throttle as part_throttle_of_arrays
from gecko.physics.electric.operating_point import slipping_pack_a
from gecko.physics.heat.motor import step_two_nodes
from gecko.physics.ride.balance import (
    amps_for,
    driven,
    full_throttle,
    gripped,
    ground_of,
    held_back_n,
    let_go,
    part_throttle,
    push_n,
    row_amps,
    supply,
    two_nodes,
    warm_motor,
)
from gecko.physics.ride.rig import rig_at, rigs
from gecko.physics.road.forces import grip_limited_acceleration, motor_a_for_force, resistance_n, wheel_force_n
from gecko.tests.judge import Judge, random_machine


class OneSetOfEquations(TestCase):
    def setUp(self) -> None:
        self.chance = random.Random(12)

    def machines(self) -> None:
        """Sixty machines at random charges, temperatures, speeds and slopes; grows 1, for the march's own slow part is not in a pulse."""
        for _ in range(60):
            machine = random_machine(self.chance)
            rows = tuple(replace(row, units=tuple(replace(unit, grows=1.0) for unit in row.units)) for row in machine.bank.rows)
            self.m = replace(machine, bank=replace(machine.bank, rows=rows))
            self.many = rigs(self.m, 2.5)
            self.rig = rig_at(self.many, 0)
            soc = np.array([self.chance.random() for _ in self.m.bank.units])
            self.winding, self.case = self.chance.uniform(0, 130), self.chance.uniform(0, 80)
            self.source = self.m.source(tuple(float(s) for s in soc))
            self.row_v, self.row_ohm, self.rows_a = (np.zeros(len(rows)) for _ in range(3))
            self.at = supply(self.rig.cells, self.rig.car, soc, np.zeros(soc.size), self.row_v, self.row_ohm)
            self.motor = self.m.motor.at(self.winding + self.m.ambient_c, self.case + self.m.ambient_c)
            self.warm = warm_motor(self.rig.car, self.winding, self.case)
            self.speed = self.chance.random() * float(self.m.no_load_speed(self.source, self.motor))
            self.compare()

    def compare(self) -> None:
        raise NotImplementedError

    def test_bank_and_motor(self) -> None:
        def compare() -> None:
            self.assertAlmostEqual(self.at.open_v, float(self.source.open_v), places=9)
            self.assertAlmostEqual(self.at.ohm, float(self.m.source_ohm(self.source)), places=12)
            row_amps(self.rig.cells, self.rig.car, self.at, 17.0, self.row_v, self.row_ohm, self.rows_a)
            np.testing.assert_allclose(self.rows_a, [float(a) for a in self.source.row_currents(17.0)], rtol=1e-8, atol=1e-9)
            self.assertAlmostEqual(self.warm.loop_ohm, float(self.motor.loop_ohm), places=12)
            self.assertAlmostEqual(self.warm.k_v_s, float(self.motor.k_v_s), places=12)

        self.compare = compare  # type: ignore[method-assign]
        self.machines()

    def test_full_and_part_throttle(self) -> None:
        def compare() -> None:
            omega = float(self.m.vehicle.omega(self.speed))
            ours = full_throttle(self.rig.car, self.at, self.warm, self.rig.car.duty_max, omega)
            theirs = full_throttle_of_arrays(self.source.open_v, self.m.source_ohm(self.source), self.motor, self.m.control, omega)
            self.assertAlmostEqual(ours.motor_a, float(theirs.motor_a), places=8)
            self.assertAlmostEqual(ours.pack_a, float(theirs.pack_a), places=8)
            self.assertEqual(ours.limit, int(np.asarray(theirs.limit)))
            if self.m.control.kind != "none":
                half = part_throttle(self.rig.car, self.at, self.warm, omega, 0.5 * ours.motor_a, 5)
                other = part_throttle_of_arrays(self.source.open_v, self.m.source_ohm(self.source), self.motor, self.m.control, omega, 0.5 * ours.motor_a)
                self.assertAlmostEqual(half.pack_a, float(other.pack_a), places=8)

        self.compare = compare  # type: ignore[method-assign]
        self.machines()

    def test_forces_and_grip(self) -> None:
        spun = []

        def compare() -> None:
            grade = self.chance.uniform(-0.1, 0.15)
            vehicle = self.m.vehicle
            ground = ground_of(self.rig.car, grade, float(vehicle.rolling_resistance), float(vehicle.friction), 1.0)
            held = held_back_n(self.rig.car, ground, self.speed)
            self.assertAlmostEqual(held, float(resistance_n(vehicle, self.speed, grade)), places=8)
            for amps in (-5.0, 0.0, 30.0):
                push = push_n(self.rig.car, self.warm, amps)
                self.assertAlmostEqual(push, float(wheel_force_n(vehicle, self.motor, amps)), places=8)
                self.assertAlmostEqual(amps_for(self.rig.car, self.warm, push), float(motor_a_for_force(vehicle, self.motor, push)), places=8)
            capped, load = grip_limited_acceleration(vehicle, held, grade)
            ours, grip_n = gripped(self.rig.car, ground, held)
            self.assertAlmostEqual(ours, float(capped), places=9)
            self.assertAlmostEqual(grip_n, float(vehicle.friction * load), places=7)
            acceleration, drive = driven(self.rig.car, self.at, self.warm, ground, self.speed, 1.0)
            free = (float(self.m.push(self.source, self.motor, self.speed)) - held) / float(vehicle.effective_mass_kg)
            self.assertAlmostEqual(acceleration, min(free, float(capped)), places=8)
            if float(capped) < free:
                grip_a = float(motor_a_for_force(vehicle, self.motor, grip_n))
                pack_a = slipping_pack_a(self.source.open_v, self.m.source_ohm(self.source), self.m.control, grip_a)
                self.assertAlmostEqual(drive.pack_a, float(pack_a), places=7)
                spun.append(drive)

        self.compare = compare  # type: ignore[method-assign]
        self.machines()
        self.assertGreater(len(spun), 5)

    def test_regeneration_and_heat(self) -> None:
        """Regeneration against the judge's bisection; the two nodes against the array form."""
        back = []

        def compare() -> None:
            judge = Judge(self.m, [], [], 2.5)
            judge.w, judge.c = self.winding, self.case
            omega, most = float(self.m.vehicle.omega(self.speed)), self.chance.choice([5.0, np.inf])
            ours = let_go(self.rig.car, self.at, self.warm, omega, most)
            motor_a, pack_a = judge.regen(self.at.open_v, self.at.ohm, omega, most)
            self.assertAlmostEqual(ours.motor_a, motor_a, places=5)
            self.assertAlmostEqual(ours.pack_a, pack_a, places=5)
            back.append(ours.motor_a < 0.0)
            dt = self.chance.uniform(0.1, 30.0)
            ended = two_nodes(self.rig.car, self.winding, self.case, 40.0, 8.0, self.speed, dt)
            expected = step_two_nodes(self.winding, self.case, 40.0, 8.0, self.m.thermal, float(self.m.thermal.air_conductance(self.speed)), dt)
            np.testing.assert_allclose(ended, [float(k) for k in expected], rtol=1e-9, atol=1e-9)

        self.compare = compare  # type: ignore[method-assign]
        self.machines()
        self.assertGreater(sum(back), 5)
