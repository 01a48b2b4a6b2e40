"""Rides round a course: against a march written apart (`judge`), by energy, and by what must not matter."""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from unittest import TestCase

import numpy as np
from scipy.optimize import brentq

from gecko.analysis.riding import STANDARD, Riding
from gecko.document.setup import Setup, load_setup
from gecko.machine.courses import SHIPPED
from gecko.physics.electric.bank import RowModel
from gecko.physics.electric.operating_point import weakening_a
from gecko.physics.ride.legs import Leg
from gecko.physics.ride.moves import FINE, ROLL
from gecko.physics.ride.record import PARTS, Ride
from gecko.physics.ride.rides import meant_speeds, one_round, ride
from gecko.plans.arrangements import typical_setup
from gecko.plans.drive.ways import drive_plan
from gecko.plans.evaluate import evaluate
from gecko.reference.tables import families
from gecko.tests.counts import tried
from gecko.tests.judge import Judge
from gecko.tests.judged import judged, on_an_edge, random_ride, realistic_ride
from gecko.tests.machines import bare_machine, bike, named, ride_on, tripping

SMALL = {"units": [{"cells_in_series": 10, "capacity_ah": named(1.2), "resistance_ohm": named(0.12), "trip_a": None, "continuous_a": None, "peak_10s_a": None}]}


def on(course: int, make: Callable[..., Setup], **changes: Any) -> Riding:
    return Riding(make(course=SHIPPED[course].model_dump(), **changes))


class Judged(TestCase):
    """A part of the 200 random and 100 realistic rides that `make bench` judges: run time within 2 %, and what ends it."""

    apart = True

    def test_random_machines_on_random_courses(self) -> None:
        for seed in range(9000, 9000 + tried(40, 4)):
            with self.subTest(seed):
                found = judged(random_ride(seed))
                self.assertLess(abs(found.off), 0.02, found)
                self.assertTrue(found.same_end, found)

    def test_realistic_machines_on_shipped_courses(self) -> None:
        for seed in range(9000, 9000 + tried(20, 2)):
            with self.subTest(seed):
                found = judged(realistic_ride(seed))
                self.assertLess(abs(found.off), 0.02, found)
                self.assertTrue(found.same_end, found)

    def test_nickel_cells_on_a_cold_day(self) -> None:
        """Two rows of 28 cells of 6 Ah, worn and new, at 4 °C, beside what a 36 V bike asks: it ends where the guard opens,
        or where the first cell is empty."""
        worn, new = ({"chemistry": "nickel", "cells_in_series": 28, "capacity_ah": named(6.0), "age": age, "guard_in_tool": False} for age in ("worn", "new"))
        for guard in (None, {"kind": "module", "volts_v": named(30.0)}):
            riding = on(0, bike, bank__rows=[{"units": [worn]}, {"units": [new]}], ground__ambient_c=4.0, guard=guard, controller__undervoltage_v=named(24))
            found = judged((riding.m, list(riding.legs), riding.brake_m_s2))
            self.assertTrue(found.same_end, found)
            self.assertLess(abs(found.off), 0.02, found)
            self.assertGreater(found.run_time_s, 600.0)

    def test_a_weakened_field(self) -> None:
        """The same random machines, with a controller that turns the motor a third faster than its volts would, and the amps that takes."""
        found_some, most = 0, tried(8, 3)
        for seed in range(900, 930):
            machine, legs, brake = random_ride(seed)
            if machine.control.kind == "none" or found_some == most:
                continue
            control = replace(machine.control, extra=0.33, duty_max=machine.control.duty_max * 1.33)
            faster = replace(machine, control=control), legs, brake
            if not 11.0 < float(ride(*faster).run_time_s) < 2000.0:
                continue
            found_some += 1
            with self.subTest(seed):
                found = judged(faster)
                self.assertTrue(found.same_end or on_an_edge(faster, found), found)
                if not on_an_edge(faster, found):
                    self.assertLess(abs(found.off), 0.02)
        self.assertEqual(found_some, most)

    def test_every_end_and_what_was_wrong_before(self) -> None:
        """What each thing that can end a ride does, on machines made for it; the last four ended up to half off from tables."""
        lead = {"chemistry": "lead", "cells_in_series": 6, "capacity_ah": named(3), "guard_in_tool": False}
        long_park = SHIPPED[2].model_dump()
        for segment in long_park["segments"]:
            segment["length_m"] *= 4
        burst = {"name": "bursts", "segments": [{"length_m": 300, "speed_m_s": 2.0}, {"length_m": 15, "speed_m_s": 7.0, "stop_s": 5}]}
        cases: list[tuple[Riding, str]] = [
            (on(0, bike, motor__power_w=named(350)), "winding 155 C"),
            (on(2, bike, motor__power_w=named(260)), "winding 155 C"),
            (on(0, bike, bank={"rows": [SMALL]}, motor__power_w=named(600), guard__volts_v=named(32)), "guard"),
            (on(0, ride_on, bank={"rows": [{"units": [lead]}]}, rider={"age_years": 5}), "unit empty"),
            (on(1, bike, bank={"rows": [SMALL]}, guard=None, controller__undervoltage_v=named(20)), "unit empty"),
            (Riding(bike(course=long_park, bank={"rows": [SMALL]}, motor__power_w=named(600), guard=None, controller__undervoltage_v=named(20))), "unit empty"),
            (Riding(bike(course=burst, guard__volts_v=named(31.0), controller__undervoltage_v=named(20))), "guard"),
            (Riding(bike(course=burst, guard=None, controller__undervoltage_v=named(32.5))), "foldback below half the aimed speed"),
        ]
        for number, (riding, ends) in enumerate(cases):
            with self.subTest(number):
                found = judged((riding.m, list(riding.legs), riding.brake_m_s2))
                self.assertTrue(found.same_end, found)
                self.assertEqual(riding.ride.ends_by, ends, found)
                self.assertLess(abs(found.off), 0.01, found)

    def test_a_launch_that_is_over_the_trip_a_little_longer_each_round(self) -> None:
        """3 s over 24 A: a launch of 3.14 s passes 24 A after 0.3 s, and lasts some 4 ms longer each round. The judge comes to 501.7 s in steps of
        25 ms, to 480.1 s and 480.0 s in steps of 6 and 1.6 ms; in whole steps of ours it was 523 s."""
        riding = Riding(tripping(24.0))
        meant = [float(speed) for speed in meant_speeds(riding.m, riding.legs)]
        end, at_s = Judge(riding.m, list(riding.legs), meant, riding.brake_m_s2, finer=16.0).ride().first
        self.assertEqual(riding.ride.ends_by, end)
        self.assertAlmostEqual(float(riding.ride.run_time_s) / at_s, 1.0, delta=0.005)


class WhatMustNotMatter(TestCase):
    def test_one_leg_or_sixty(self) -> None:
        """600 m in one piece or in sixty, under a guard that waits for longer than a piece takes."""
        for guard in (32.5, 30.5):
            whole, pieces = (
                Riding(bike(course={"name": "way", "segments": [{"length_m": 600 / n, "share": 0.8}] * n}, guard={"volts_v": named(guard), "delay_s": named(4.0)})).ride
                for n in (1, 60)
            )
            self.assertEqual((whole.ends_by, pieces.ends_by), ("guard", "guard"))
            self.assertAlmostEqual(float(pieces.run_time_s) / float(whole.run_time_s), 1.0, delta=0.01)

    def test_rows_a_hair_unlike_are_like_rows(self) -> None:
        for chemistry, cells in (("li-ion", 10), ("lfp", 12), ("lead", 18)):
            machine = bare_machine()
            unit = replace(machine.bank.units[0], chemistry=chemistry, cells_in_series=cells, capacity_ah=4.0)
            like = replace(machine.bank, rows=(RowModel((unit,), 2),))
            unlike = replace(machine.bank, rows=(RowModel((unit,)), RowModel((replace(unit, capacity_ah=4.0004),))))
            legs = [Leg(length_m=100.0, time_s=None, grade=0.0, rolling=0.03, friction=0.8, aimed_m_s=4.0, throttle=1.0, coasts=False, stop_s=5.0)]
            times = [float(ride(replace(machine, bank=bank, pack_c=-5.0), legs, 2.5).run_time_s) for bank in (like, unlike)]
            self.assertAlmostEqual(times[1] / times[0], 1.0, delta=0.01, msg=chemistry)

    def test_half_the_steps_change_nothing(self) -> None:
        finer = FINE._replace(of_pace=FINE.of_pace / 2, winding_k=FINE.winding_k / 2, charge=FINE.charge / 2, most_s=FINE.most_s / 2, of_time=FINE.of_time / 2)
        for family in sorted(families()):
            for course in SHIPPED:
                riding = Riding(load_setup(typical_setup(family)).model_copy(update={"course": course}))
                again = ride(riding.m, riding.legs, riding.brake_m_s2, finer)
                self.assertAlmostEqual(float(again.run_time_s) / float(riding.ride.run_time_s), 1.0, delta=0.01, msg=family)

    def test_samples_tell_the_same_story(self) -> None:
        """Samples are ridden in longer steps: three alike end together, within 2 % of the one by itself."""
        for family in sorted(families()):
            riding = Riding(load_setup(typical_setup(family)))
            alike = replace(riding.m, vehicle=replace(riding.m.vehicle, mass_kg=np.full(3, float(riding.m.vehicle.mass_kg))))
            found = ride(alike, riding.legs, riding.brake_m_s2)
            self.assertLess(float(np.ptp(found.run_time_s)), 1e-6)
            self.assertAlmostEqual(float(np.asarray(found.run_time_s)[0]) / float(riding.ride.run_time_s), 1.0, delta=0.02, msg=family)


class OneRide(TestCase):
    def test_without_a_course_it_is_the_standard_ride(self) -> None:
        """60 m at 80 % of the half-charge top speed, a stop and 8 s of standing, on the setup's own ground and slope."""
        setup = bike(ground={"surface": "short grass", "grade": 0.02})
        riding = Riding(setup)
        self.assertEqual(riding.course.name, STANDARD)
        (leg,) = riding.legs
        self.assertEqual((leg.length_m, leg.grade, leg.stop_s), (60.0, 0.02, 8.0))
        assert leg.aimed_m_s is not None
        self.assertAlmostEqual(float(leg.aimed_m_s), 0.8 * float(riding.speeds.level[1]), places=6)
        typed = Riding(setup.model_copy(update={"course": riding.course}))
        self.assertEqual(float(typed.ride.run_time_s), float(riding.ride.run_time_s))
        self.assertEqual(riding.rms_a, float(riding.ride.rms_pack_a))

    def test_who_creeps_does_not_get_up(self) -> None:
        """A climb of 40 %, more than the bike's force at a standstill; also for who coasts into it."""
        for last in ({"coast": True}, {}):
            course = {"name": "Wall", "segments": [{"grade": -0.1, "length_m": 60}, {"grade": 0.4, "length_m": 60, **last}]}
            found = Riding(bike(course=course)).ride
            self.assertEqual(found.ends_by, "does not get up")
            self.assertLess(float(found.rounds), 1.0)
        wall = Riding(bike(course={"name": "Wall", "segments": [{"grade": 0.4, "length_m": 20}]})).ride
        self.assertEqual((wall.ends_by, round(float(wall.run_time_s), 3)), ("does not get up", 10.0))

    def test_a_low_cut_off_that_makes_it_creep_is_foldback(self) -> None:
        found = Riding(bike(controller__undervoltage_v=named(37.0), guard=None)).ride
        self.assertEqual(found.ends_by, "foldback below half the aimed speed")

    def test_a_ride_that_gives_back_more_than_it_takes_is_over_after_a_day(self) -> None:
        down = {"name": "Down", "segments": [{"grade": -0.1, "length_m": 400, "coast": True}]}
        self.assertEqual(Riding(bike(course=down, controller__regen_a=named(10))).ride.ends_by, "goes on for a day")


def parts(found: Ride) -> dict[str, float]:
    return dict(zip(PARTS, np.asarray(found.energy_j).tolist(), strict=True))


class Energy(TestCase):
    """What the cells give is what ground, air, slope, motor, wires, gears, brakes, spinning wheels and speed take, each by its own formula."""

    def test_balance(self) -> None:
        machines: list[tuple[Callable[..., Setup], dict[str, Any]]] = [
            (bike, {}),
            (bike, {"controller__regen_a": named(8)}),
            (bike, {"ground": {"friction": named(0.42)}}),
            (ride_on, {}),
            (ride_on, {"bank": {"rows": [SMALL]}}),
        ]
        for make, changes in machines:
            for course in range(3):
                with self.subTest(make=make.__name__, changes=changes, course=SHIPPED[course].name):
                    energy = parts(on(course, make, **changes).ride)
                    self.assertAlmostEqual((sum(energy.values()) - energy["cells"]) / energy["cells"], 1.0, delta=0.001, msg=energy)
                    self.assertGreater(energy["rolling"], 0.05 * energy["cells"])

    def test_a_descent_that_charges_still_adds_up(self) -> None:
        setup = bike(course={"name": "Down", "segments": [{"grade": -0.1, "length_m": 400}]}, controller__regen_a=named(20))
        plan = drive_plan(setup, None, [])
        assert plan.ride is not None
        self.assertAlmostEqual(plan.ride.balance, 1.0, delta=0.002)

    def test_a_slope_may_win_over_regeneration_at_speed(self) -> None:
        """Regeneration of so many watts holds ever less force the faster it goes: slow it slows down, fast the same slope speeds it up."""
        faster = []
        for speed, amps, grade in ((7, 4, -0.1), (9, 12, -0.19), (3, 4, -0.1)):
            descent = [{"grade": grade, "length_m": 20, "speed_m_s": speed}, {"grade": grade, "length_m": 40, "coast": True, "stop_s": 5}]
            course = {"name": "Bank", "segments": [{"length_m": 80, "speed_m_s": speed}, *descent]}
            riding = Riding(bike(course=course, controller__regen_a=named(amps)))
            points, count = one_round(riding.m, riding.legs, riding.brake_m_s2, [1.0], 25.0, 25.0)
            rolls = np.flatnonzero(points.doing[:count] == ROLL)
            faster.append(bool(points.speed_m_s[rolls[-1]] > points.speed_m_s[rolls[0]]))
        self.assertEqual(faster, [True, True, False])

    def test_wheels_that_spin_take_their_part(self) -> None:
        slippery, plain = (parts(on(0, bike, ground={"friction": named(mu)}).ride) for mu in (0.28, 0.8))
        self.assertGreater(slippery["spinning wheels"] / slippery["cells"], 0.02)
        self.assertLess(plain["spinning wheels"] / plain["cells"], 0.001)

    def test_regeneration_brings_some_back(self) -> None:
        """Lawn laps with and without: the same charge lasts for more metres, and the brakes take less on each."""
        without, with_it = (on(0, bike, motor__power_w=named(600), controller__regen_a=regen).ride for regen in (None, named(8)))
        spent = [parts(one)["cells"] / float(one.distance_m) for one in (without, with_it)]
        braked = [parts(one)["brakes"] / float(one.distance_m) for one in (without, with_it)]
        self.assertLess(spent[1], 0.99 * spent[0])
        self.assertLess(braked[1], 0.75 * braked[0])
        self.assertLess(spent[0] - spent[1], braked[0] - braked[1])


class WeakenedField(TestCase):
    """A controller's stated extra speed, and what it costs."""

    def test_faster_by_the_volts_it_takes_off_and_hotter(self) -> None:
        """On the level the bike's own volts hold it, so a quarter more of them is nearly a quarter faster; at that speed its rated amps more flow in the
        winding: by hand R·(I² + I_n²) instead of R·I²."""
        plain, quick = (
            Riding(bike(controller__extra_speed=extra, controller__battery_limit_a=named(60), controller__phase_limit_a=named(120))) for extra in (None, named(0.25))
        )
        share = float(quick.top) / float(plain.top)
        self.assertTrue(1.12 < share <= 1.25, share)
        point = quick.m.full(quick.full, quick.motor, quick.top)
        weak = float(weakening_a(quick.motor, quick.m.control, point.duty))
        self.assertAlmostEqual(weak, float(quick.motor.rated_a), delta=0.1 * float(quick.motor.rated_a))
        self.assertGreater(quick.flat_out.at(300.0)[0], plain.flat_out.at(300.0)[0] + 5.0)  # type: ignore[index]
        self.assertEqual(float(weakening_a(plain.motor, plain.m.control, point.duty)), 0.0)

    def test_its_energy_still_adds_up(self) -> None:
        energy = parts(on(0, bike, controller__extra_speed=named(0.25)).ride)
        self.assertAlmostEqual((sum(energy.values()) - energy["cells"]) / energy["cells"], 1.0, delta=0.001, msg=energy)

    def test_at_speed_its_volts_are_more_than_the_capacitors_stand(self) -> None:
        """1.6 times 42 V are 67 V where the packs let go: said, where the controller stands 45."""
        found = evaluate(
            bike(controller__extra_speed=named(0.6), controller__max_v=named(45), controller__phase_limit_a=named(150), controller__battery_limit_a=named(90))
        )
        self.assertTrue([f for f in found.findings if f.id == "ctl.backfeed" and "field weakened" in f.because])


class LevelSpeeds(TestCase):
    """Level top speeds of fifty random machines: where the judge's acceleration first falls to nothing, by scan and bisection."""

    def test_fifty_random_machines(self) -> None:
        chance = random.Random(50)
        for number in range(50):
            document = typical_setup(chance.choice(sorted(families())), chance.choice([None, 24.0, 36.0]))
            document["rider"] = {"age_years": chance.randint(4, 40)}
            document["ground"] = {"surface": chance.choice(["paving", "packed dirt", "short grass"])}
            document["wheel"]["diameter_m"]["value"] *= chance.uniform(0.8, 1.25)
            document["course"] = {"name": "level", "segments": [{"length_m": 100, "throttle": 1.0}]}
            riding = Riding(load_setup(document))
            # A top speed is that of a pulse.
            rows = tuple(replace(row, units=tuple(replace(unit, grows=1.0) for unit in row.units)) for row in riding.m.bank.rows)
            judge = Judge(replace(riding.m, bank=replace(riding.m.bank, rows=rows)), riding.legs, [float(meant) for meant in meant_speeds(riding.m, riding.legs)], 2.5)
            leg, control = riding.legs[0], riding.m.control

            def pull(speed: float, judge: Judge = judge, leg: Leg = leg, duty: float = float(control.duty_max)) -> float:
                volts, ohm, _ = judge.bank()
                return judge.push(judge.wide_open(volts, ohm, speed * judge.turn, duty)[0]) - judge.back(leg, speed)

            ladder = np.linspace(0.0, 1.2 * float(riding.m.no_load_speed(riding.full, riding.motor)), 120)
            first = next((k for k, speed in enumerate(ladder) if pull(float(speed)) <= 0.0), 0)
            expected = float(brentq(pull, ladder[first - 1], ladder[first])) if first else 0.0
            with self.subTest(number, family=document["vehicle"]["family"]):
                self.assertAlmostEqual(float(riding.level_top), expected, delta=0.002 * max(expected, 0.5))
