"""Rides of many machines against a plain march in small steps of time, hot ones first: they couple the most."""

from __future__ import annotations

import random
from dataclasses import replace
from typing import Any
from unittest import TestCase

import numpy as np
from numpy.typing import NDArray

from gecko.analysis import Analysis
from gecko.arrangements import typical_setup
from gecko.electric.bank import usable_ah
from gecko.electric.operating_point import part_throttle
from gecko.heat.motor import motor_losses_w, step_two_nodes
from gecko.machine import Machine
from gecko.motion.forces import motor_a_for_force, resistance_n
from gecko.motion.top_speed import top_speed
from gecko.reference.tables import families
from gecko.ride.cruise import cruise
from gecko.setup import load_setup
from gecko.tests.machines import named


def march(machine: Machine, aimed: float | None, grade: float, end_s: float) -> NDArray[np.float64]:
    """Seconds, winding [°C] and each unit's charge of a steady ride, step by step: at most a thousandth of any charge, 0.4 K or 10 s each."""
    winding, case, t = 0.0, 0.0, 0.0
    units, row_of = machine.bank.units, [r for r, row in enumerate(machine.bank.rows) for _ in row.units]
    charge = np.ones(len(units))
    vehicle, thermal, warm = machine.vehicle, machine.thermal, machine.ambient_c
    trace = [(t, winding + warm, *charge)]
    while charge.min() > -0.01 and t < end_s:
        source = machine.source(tuple(float(max(c, 0.0)) for c in charge))
        motor = machine.motor.at(winding + warm, case + warm)
        speed = float(top_speed(machine, source, motor, grade))
        point = machine.full(source, motor, speed)
        if aimed is not None:
            wanted = max(float(motor_a_for_force(vehicle, motor, resistance_n(vehicle, aimed, grade))), 0.0)
            if wanted <= float(machine.amps(source, motor, aimed)):
                speed = aimed
                point = part_throttle(source.open_v, machine.source_ohm(source), motor, machine.control, vehicle.omega(aimed), wanted)
        rows = [float(a) for a in source.row_currents(max(float(point.pack_a), 1e-6))]
        spent = np.array([rows[r] / float(usable_ah(u, max(rows[r], 1e-9), machine.pack_c)) / 3600.0 for u, r in zip(units, row_of, strict=True)])
        copper, other = (float(w) for w in motor_losses_w(motor, float(point.motor_a), vehicle.omega(speed), machine.motor_count))
        rate = abs(copper - (winding - case) / float(thermal.winding_to_case_k_per_w)) / float(thermal.winding_j_per_k)
        dt = min(0.001 / float(np.abs(spent).max()), 0.4 / max(rate, 1e-6), 10.0)
        winding, case = (float(k) for k in step_two_nodes(winding, case, copper, other, thermal, float(thermal.air_conductance(speed)), dt))
        charge, t = np.minimum(charge - spent * dt, 1.0), t + dt
        trace.append((t, winding + warm, *charge))
    return np.array(trace)


def machines(count: int, hot: bool) -> list[Analysis]:
    """Typical machines with other packs, gearing, riders and slopes, whose winding ends the ride or does not."""
    chance = random.Random(20 if hot else 10)
    found: list[Analysis] = []
    while len(found) < count:
        document: dict[str, Any] = typical_setup(chance.choice(sorted(families())), chance.choice([None, 24.0, 36.0]))
        unit = {"chemistry": chance.choice(["li-ion", "lfp", "lead"]), "cells_in_series": chance.randint(5, 20), "capacity_ah": named(chance.uniform(2, 12))}
        document["bank"] = {"rows": [{"units": [unit]}] * chance.randint(1, 2)}
        grade = chance.choice([0.0, 0.03, 0.06, -0.02])
        document["ground"] = {"surface": chance.choice(["paving", "short grass", "long grass"]), "grade": grade, "ambient_c": chance.uniform(-5, 35)}
        document["rider"] = {"age_years": chance.randint(4, 40)}
        a = Analysis(load_setup(document))
        if float(a.speeds.course[1]) > 0.6 and 15 < float(a.ride.run_time_s) < 3000 and (a.ride.ends_by == "winding 155 C") == hot and a.ride.ends_by[:4] != "fold":
            found.append(a)
    return found


class ByTheStep(TestCase):
    def compare(self, a: Analysis) -> tuple[float, float]:
        """Difference in charge and in winding shortly before the end, as shares of what was spent and of the rise."""
        ride, end = a.ride, float(a.ride.run_time_s)
        trace = march(a.m, None if a.aimed is None else float(a.aimed), a.setup.ground.grade, 1.03 * end)
        at = 0.98 * end
        winding, charge = (float(np.interp(at, trace[:, 0], trace[:, k])) for k in (1, 2))
        of_charge = abs(float(np.interp(at, ride.time_s, ride.soc[0])) - charge) / (1.0 - charge)
        of_rise = abs(float(np.interp(at, ride.time_s, ride.winding_c)) - winding) / max(winding - a.m.ambient_c, 5.0)
        if ride.ends_by == "winding 155 C":
            reached = float(np.interp(155.0, trace[:, 1], trace[:, 0]))
            self.assertAlmostEqual(end / reached, 1.0, delta=0.006)
        return of_charge, of_rise

    def test_rides_that_end_hot(self) -> None:
        """Heat, resistance and current chase each other up to 155 °C: charge and winding within 0.5 %, the end within 0.6 %."""
        for a in machines(12, hot=True):
            self.assertLess(max(self.compare(a)), 0.005, (a.setup.vehicle, float(a.ride.run_time_s)))

    def test_rides_that_end_otherwise(self) -> None:
        for a in machines(6, hot=False):
            self.assertLess(max(self.compare(a)), 0.01, (a.ride.ends_by, float(a.ride.run_time_s)))

    def test_unlike_rows(self) -> None:
        """Small packs beside large ones, LFP's steep ends among them: the first empty unit, or the heat, within 1 %."""
        chance = random.Random(5)
        # On LFP's steep end an explicit march of the shares swings until a pack seems empty, a quarter too early.
        banks: list[tuple[str, float | None, int, str, list[tuple[float, float]]]] = [("transplant", None, 9, "lfp", [(2.6, 0.031), (7.6, 0.183), (2.4, 0.23)])]
        for _ in range(14):
            rows = [(chance.uniform(2, 12), chance.uniform(0.03, 0.3)) for _ in range(chance.randint(2, 3))]
            banks.append((chance.choice(sorted(families())), chance.choice([None, 24.0, 36.0]), chance.randint(5, 20), chance.choice(["li-ion", "lfp", "lfp"]), rows))
        tried = 0
        for family, volts, cells, chemistry, rows in banks:
            document = typical_setup(family, volts)
            unit = {"chemistry": chemistry, "cells_in_series": cells}
            document["bank"]["rows"] = [{"units": [{**unit, "capacity_ah": named(ah), "resistance_ohm": named(ohm)}]} for ah, ohm in rows]
            a = Analysis(load_setup(document))
            end = float(a.ride.run_time_s)
            if float(a.speeds.course[1]) < 0.6 or not 15 < end < 6000 or a.ride.ends_by not in ("unit empty", "winding 155 C"):
                continue
            tried += 1
            trace = march(a.m, None if a.aimed is None else float(a.aimed), 0.0, 1.1 * end)
            over = trace[:, 1] >= 155.0 if a.ride.ends_by == "winding 155 C" else trace[:, 2:].min(axis=1) <= 0.0
            self.assertTrue(over.any(), (a.ride.ends_by, end))
            self.assertAlmostEqual(end / float(trace[int(over.argmax()), 0]), 1.0, delta=0.01, msg=a.ride.ends_by)
        self.assertGreater(tried, 5)

    def test_samples_tell_the_same_story(self) -> None:
        """Many machines at once take fewer points: three alike end together, within 4 % of the one by itself."""
        for a in [*machines(6, hot=True), *machines(6, hot=False)]:
            alike = replace(a.m, vehicle=replace(a.m.vehicle, mass_kg=np.full(3, float(a.m.vehicle.mass_kg))))
            aimed = None if a.aimed is None else np.full(3, float(a.aimed))
            found = cruise(alike, aimed, a.setup.ground.grade, coarse=True).run_time_s
            self.assertLess(float(np.ptp(found)), 1e-6)
            self.assertAlmostEqual(float(found[0]) / float(a.ride.run_time_s), 1.0, delta=0.04, msg=a.ride.ends_by)
