"""Rides leave out rounds that are like the ones before, those of samples the most: held against the same rides with every round ridden, in fine steps."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

import numpy as np

from gecko.analysis.riding import Riding
from gecko.document.setup import Setup
from gecko.physics.electric.bank import BankModel
from gecko.physics.ride.balance import two_nodes
from gecko.physics.ride.march import Start, march_one
from gecko.physics.ride.moves import COARSE, FINE
from gecko.physics.ride.record import Ride
from gecko.physics.ride.repeat import Round, mean_heat
from gecko.physics.ride.rides import meant_speeds, ride
from gecko.physics.ride.rig import legs_as_numbers, rig_at, rigs
from gecko.physics.ride.trace import Sums, points, taken
from gecko.tests.judged import Rode, random_ride, realistic_ride
from gecko.tests.machines import bike, named, ride_on, tripping

RIDES = 40


def both(rode: Rode) -> tuple[Ride, Ride]:
    """The ride with rounds left out, and with every round ridden."""
    return ride(*rode, COARSE), ride(*rode, FINE._replace(left_out=0.0))


def ridden(setup: Setup) -> tuple[Ride, Ride]:
    """The same of a setup on its course."""
    riding = Riding(setup)
    return both((riding.m, list(riding.legs), riding.brake_m_s2))


def bare_pack(ohm: float) -> dict[str, Any]:
    """A pack of 12 Ah without protection, of so many ohms. [Ω]"""
    return {"label": "p", "cells_in_series": 10, "capacity_ah": named(12), "resistance_ohm": named(ohm)}


def off(ours: float, theirs: float) -> float:
    """How far one is from the other, over it. [1]"""
    return abs(ours - theirs) / max(abs(theirs), 1e-9)


class RoundsLeftOut(TestCase):
    def test_random_and_realistic_rides_come_to_the_same(self) -> None:
        """Also coarse steps and samples of a ride that ends at an edge are off: the 95th percentile is what ranges rest on."""
        for name, make in (("random", random_ride), ("realistic", realistic_ride)):
            pairs = [both(make(seed)) for seed in range(RIDES)]
            for figure, middle, late in (("run_time_s", 0.005, 0.025), ("distance_m", 0.005, 0.025), ("rms_pack_a", 0.005, 0.02), ("rms_motor_a", 0.005, 0.02)):
                found = [off(getattr(ours, figure), getattr(theirs, figure)) for ours, theirs in pairs]
                with self.subTest(name, figure=figure):
                    self.assertLess(np.median(found), middle)
                    self.assertLess(np.quantile(found, 0.95), late)
            warm = [abs(float(ours.warm_c) - float(theirs.warm_c)) for ours, theirs in pairs]
            self.assertLess(np.quantile(warm, 0.95), 1.5)
            self.assertGreaterEqual(sum(ours.ends == theirs.ends for ours, theirs in pairs), RIDES - 1, name)

    def test_what_it_goes_into_still_sums_up_to_what_the_cells_give(self) -> None:
        ours, theirs = ridden(bike())
        given, rest = float(np.asarray(ours.energy_j)[0]), float(np.asarray(ours.energy_j)[1:].sum())
        self.assertLess(off(rest, given), 0.01)
        for ours_j, theirs_j in zip(np.asarray(ours.energy_j), np.asarray(theirs.energy_j), strict=True):
            self.assertLess(abs(ours_j - theirs_j), 0.01 * given)

    def test_a_level_the_volts_come_down_to_is_not_jumped_over(self) -> None:
        """A guard far above empty, one just above it, and lead, which falls the slowest: each ends within 1 %."""
        lead = {"label": "p", "chemistry": "lead", "cells_in_series": 18, "capacity_ah": named(12), "guard_in_tool": False}
        for setup in (bike(guard__volts_v=named(35)), bike(guard__volts_v=named(30.5)), bike(bank__rows=[{"units": [lead]}]), ride_on()):
            ours, theirs = ridden(setup)
            self.assertEqual(ours.ends_by, theirs.ends_by)
            self.assertLess(off(float(ours.run_time_s), float(theirs.run_time_s)), 0.01)

    def test_patience_that_runs_out_round_by_round_is_not_jumped_over(self) -> None:
        """Launches over the trip for ever longer, and a low cut-off that holds back ever more: in the same steps it ends in the same round."""
        folding = [
            bike(guard=None, bank__rows=[{"units": [pack]}], controller__undervoltage_v=named(level)) for pack, level in ((bare_pack(0.05), 33), (bare_pack(0.2), 28))
        ]
        for setup in (tripping(22.0), tripping(24.0), *folding):
            riding = Riding(setup)
            ours, theirs = (ride(riding.m, riding.legs, riding.brake_m_s2, FINE._replace(left_out=share)) for share in (COARSE.left_out, 0.0))
            self.assertEqual(ours.ends_by, theirs.ends_by)
            self.assertLess(off(float(ours.run_time_s), float(theirs.run_time_s)), 0.001)

    def test_unlike_rows_that_settle_among_each_other_end_alike(self) -> None:
        """Of 0.15 Ω in minutes; of 0.01 Ω within a round, so that leaving out several would throw them about."""
        for ohms in ((0.15, 0.06, 0.05), (0.012, 0.01, 0.02)):
            packs = [{"label": "p", "cells_in_series": 10, "capacity_ah": named(ah), "resistance_ohm": named(ohm)} for ah, ohm in zip((6, 12, 18), ohms, strict=True)]
            ours, theirs = ridden(bike(bank__rows=[{"units": [pack]} for pack in packs]))
            self.assertEqual(ours.ends_by, theirs.ends_by)
            self.assertLess(off(float(ours.run_time_s), float(theirs.run_time_s)), 0.01)
            apart = [float(np.max(np.ptp(one.line.soc, axis=0))) for one in (ours, theirs)]
            self.assertLess(apart[0], apart[1] + 0.01)

    def test_a_ride_that_takes_next_to_nothing_ends_with_the_day(self) -> None:
        """A million amp-hours: no charge limits how many rounds are left out, the day does."""
        riding = Riding(bike())
        (row,) = riding.m.bank.rows
        (unit,) = row.units
        endless = replace(riding.m, bank=BankModel((replace(row, units=(replace(unit, capacity_ah=1e6, resistance_ohm=0.05),)),)))
        ours = ride(endless, riding.legs, riding.brake_m_s2, COARSE)
        self.assertEqual(ours.ends_by, "goes on for a day")
        self.assertAlmostEqual(float(ours.run_time_s), 24 * 3600.0, delta=1.0)

    def test_hours_of_laps_take_few_steps(self) -> None:
        """A bank of 34 Ah goes round some hundreds of times; most of it follows from the rounds before."""
        riding = Riding(bike(bank__rows__0__units__0__capacity_ah=named(34)))
        machines, numbers = rigs(riding.m, riding.brake_m_s2), legs_as_numbers(riding.legs, meant_speeds(riding.m, riding.legs))
        done = [
            march_one(machines, numbers, 0, Start(np.ones(1), 0.0, 0.0, 0.0), np.inf, fine, np.zeros(1), points(60_000))
            for fine in (COARSE, COARSE._replace(left_out=0.0))
        ]
        self.assertGreater(done[1].figures.rounds, 200)
        self.assertLess(done[0].points, 0.25 * done[1].points)
        self.assertLess(off(float(done[0].figures.rounds), float(done[1].figures.rounds)), 0.01)


class SteadyHeat(TestCase):
    def test_the_heat_that_does_the_same_is_found_again(self) -> None:
        """Forty watts in the winding and eight beside it for 30 s at 3 m/s: what leads there is just that."""
        riding = Riding(bike())
        machines = rigs(riding.m, riding.brake_m_s2)
        car = rig_at(machines, 0).car
        began = Sums(100.0, 50.0, 0.0, 0.0, 0.0, 0.0, 0.0)
        ended = Sums(130.0, 140.0, 0.0, 0.0, 0.0, 0.0, 0.0)
        winding, case = two_nodes(car, 20.0, 9.0, 40.0, 8.0, 3.0, 30.0)
        heat = mean_heat(car, Round(began, 20.0, 9.0, 20.0, 1.0, 0.0, False), taken(ended, began), winding, case)
        self.assertAlmostEqual(heat.copper_w, 40.0, places=6)
        self.assertAlmostEqual(heat.other_w, 8.0, places=6)
        self.assertAlmostEqual(heat.speed_m_s, 3.0, places=9)
