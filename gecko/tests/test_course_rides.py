"""Rides round a course against an independent solution: adaptive integration in time, the operating point by a scan of the duty."""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import Any
from unittest import TestCase

import numpy as np
from numpy.typing import NDArray
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from gecko.arrangements import typical_setup
from gecko.drive.plan import drive_plan
from gecko.electric.bank import usable_ah
from gecko.machine import Machine
from gecko.reference.tables import families
from gecko.ride.courses import SHIPPED
from gecko.ride.energy import PARTS, energies_j
from gecko.ride.marched import course_ride
from gecko.ride.round import Rider, ride_round
from gecko.riding import Riding
from gecko.setup import Setup, load_setup
from gecko.tests.machines import bike, named, ride_on

_DUTIES = np.linspace(0.0, 1.0, 401)


class Timed:
    """A machine ridden in time: state is metres in the leg, speed, charge, winding and case above the air, amp-seconds."""

    def __init__(self, riding: Riding) -> None:
        self.m: Machine = riding.m
        self.legs = riding.legs
        self.brake = riding.brake_m_s2

    def motor(self, w: float, c: float) -> tuple[float, float]:
        """Resistance [Ω] and k [V·s] at rises of winding and case."""
        m, air = self.m.motor, self.m.ambient_c
        fall = 0.0011 if m.magnet == "ndfeb" else 0.0020
        ohm = m.resistance_ohm * (1 + 0.00393 * (min(w + air, 300.0) - 25.0)) + m.lead_ohm
        return float(ohm), float(m.k_v_s * (1 - fall * (min(c + air, 300.0) - 25.0)))

    def open(self, s: float) -> tuple[float, float]:
        source = self.m.source(min(max(s, 0.0), 1.0))
        return float(source.open_v), float(source.resistance_ohm + self.m.path_ohm)

    def flat_out(self, omega: float, s: float, ohm: float, k: float, grip_a: float) -> tuple[float, float]:
        """Motor and pack amps with full throttle, or those of the grip while the wheels spin, by trying every duty."""
        e, r = self.open(s)
        ctl = self.m.control
        if ctl.kind == "none":
            i = min((e - k * omega) / (ohm + r), grip_a)
            return i, i
        inner = e - ctl.idle_a * r

        def amps(d: Any) -> Any:
            return (d * inner * ctl.efficiency - k * omega) / (ohm + d * d * ctl.efficiency * r)

        def allowed(d: Any) -> Any:
            i = np.maximum(amps(d), 0.0)
            return (i <= ctl.phase_limit_a) & (d * i <= ctl.battery_limit_a) & (inner - d * i * r >= ctl.undervoltage_v)

        def most(duties: NDArray[np.float64]) -> int:
            ok = allowed(duties)
            end = len(duties) if ok.all() else max(int(np.argmax(~ok)), 1)
            return int(np.argmax(amps(duties[:end])))

        grid = _DUTIES * float(ctl.duty_max)
        for _ in range(2):
            at = most(grid)
            grid = np.linspace(grid[max(at - 1, 0)], grid[min(at + 1, len(grid) - 1)], 101)
        d = float(grid[most(grid)])
        i = max(float(amps(d)), 0.0)
        if i <= grip_a:
            return i, d * i + ctl.idle_a
        # Spinning up until a limit or the volts meet the current of the grip.
        bank = min(float(ctl.duty_max) * grip_a, float(np.asarray(ctl.battery_limit_a)), max(inner - float(np.asarray(ctl.undervoltage_v)), 0.0) / r, inner / (2 * r))
        return grip_a, bank + ctl.idle_a

    def slope(self, leg: Any, mode: str) -> Callable[[float, NDArray[np.float64]], list[float]]:
        m, v = self.m, self.m.vehicle
        turn = float(v.gear_ratio / v.wheel_radius_m)
        weight, cos = float(v.mass_kg) * 9.81, 1 / np.sqrt(1 + leg.grade**2)
        mass = float(v.mass_kg) * (1 + v.rotating_share)
        rear = (float(v.wheelbase_m) - float(v.com_ahead_of_rear_m)) / float(v.wheelbase_m)
        lift = float(v.com_height_m) / float(v.wheelbase_m)

        def d(_t: float, y: NDArray[np.float64]) -> list[float]:
            _, speed, s, w, c, _ = y
            ohm, k = self.motor(w, c)
            omega = speed * turn
            down, spun = 1.0, 0.0
            held = weight * (float(leg.rolling) + leg.grade) * cos + 0.6 * float(v.drag_area_m2) * speed**2
            push_of = turn * float(v.gear_efficiency) * k
            if mode == "throttle":
                # Load on the rear with a = (μN − F)/m_eff: two equations, solved by repetition.
                load = weight * rear
                for _ in range(60):
                    load = min(max(weight * (rear + lift * leg.grade) * cos + float(v.mass_kg) * lift * (float(leg.friction) * load - held) / mass, 0.0), weight)
                grip_a = float(leg.friction) * load / push_of + float(m.motor.no_load_a)
                i, pack = self.flat_out(omega, s, ohm, k, grip_a)
                if i >= grip_a * (1 - 1e-12) and i > 0:
                    # The wheels spin: the motor turns as fast as the volts it is given let it at this current.
                    e, r = self.open(s)
                    drawn = pack - float(m.control.idle_a)
                    spun = max(float(m.control.efficiency) * (e - pack * r) * drawn / i - ohm * i, 0.0) / k
            elif mode == "hold":
                i = max(held / push_of, held * float(v.gear_efficiency) / (turn * k)) + float(m.motor.no_load_a)
                if leg.grade > 0 and m.control.kind != "none":
                    # Uphill full throttle may not hold the pace; below it the throttle opens again, 100 A for each m/s.
                    pace = 1.0 if leg.aimed_m_s is None else float(leg.aimed_m_s)
                    i = min(i + 100.0 * max(pace - speed, 0.0), self.flat_out(omega, s, ohm, k, np.inf)[0])
                e, r = self.open(s)
                if m.control.kind == "none":
                    # The pedal goes down and up: full amps for the share of the time that makes the mean push.
                    i = (e - k * omega) / (ohm + r)
                    force = k * (i - float(m.motor.no_load_a))
                    force *= turn * float(v.gear_efficiency) if force > 0 else turn / float(v.gear_efficiency)
                    drag = -k * float(m.motor.no_load_a) * turn / float(v.gear_efficiency)
                    down = min(max((held - drag) / (force - drag), 0.0), 1.0)
                    pack = down * i
                else:
                    watts = i * (k * omega + ohm * i) / m.control.efficiency
                    inner = e - m.control.idle_a * r
                    pack = (inner - np.sqrt(inner**2 - 4 * r * watts)) / (2 * r) + m.control.idle_a
            else:
                i, pack = 0.0, float(m.control.idle_a)
            torque = k * (i - float(m.motor.no_load_a))
            force = torque * turn * float(v.gear_efficiency) if torque > 0 else torque * turn / float(v.gear_efficiency)
            slows = -max(self.brake, (held - force) / mass)
            a = {
                "throttle": (force - held) / mass,
                "hold": (force - held) / mass if leg.grade > 0 else 0.0,
                "coast": (force - held) / mass,
                "brake": slows,
                "slow": slows,
                "stand": 0.0,
            }[mode]
            count = m.motor_count
            copper = down * i * i * (ohm - float(m.motor.lead_ohm)) / count
            other = abs(k * max(omega, spun)) * float(m.motor.no_load_a) / count
            th = m.thermal
            flow = (w - c) / float(th.winding_to_case_k_per_w)
            air = (1 + 0.15 * speed if th.open_airflow else 1.0) / float(th.case_to_air_k_per_w)
            own = max(pack, 0.02) / m.bank.rows[0].parallel_count
            fall = own / float(usable_ah(m.bank.units[0], self.lap_a or own, m.pack_c)) / 3600.0
            return [speed, a, -fall, (copper - flow) / float(th.winding_j_per_k), (other + flow - c * air) / float(th.case_j_per_k), pack]

        return d

    lap_a: float | None = None
    """Lead gives its amp-hours by the mean current of a lap, of the lap before."""

    def run(self, rounds: int) -> tuple[float, NDArray[np.float64], str]:
        """Seconds, final state and what ended it, if anything did, after at most so many rounds."""
        y, t = np.zeros(6), 0.0
        y[2] = 1.0
        low_since: float | None = None
        if self.m.bank.units[0].chemistry == "lead" and self.lap_a is None:
            # What the first round's amp-hours are counted by is its own mean, known after it.
            self.lap_a = 5.0
            first, state, _ = self.run(1)
            self.lap_a = state[5] / first / self.m.bank.rows[0].parallel_count
        for _ in range(rounds):
            began, drawn = t, y[5]
            for leg in self.legs:
                y[0] = 0.0
                for mode in self.modes(leg):
                    span = float(leg.stop_s or 0.0) if mode == "stand" else 900.0
                    end = [] if mode == "stand" else self.until(leg, mode)
                    if span == 0.0 or any(event(0.0, y) >= 0.0 for event in end):
                        continue
                    found = solve_ivp(self.slope(leg, mode), (0.0, span), y, events=end or None, rtol=1e-6, atol=1e-8, max_step=0.5)
                    steps, start, y = found.y, t, found.y[:, -1].copy()
                    t += float(found.t[-1])
                    for k in range(1, steps.shape[1]):
                        now = start + float(found.t[k])
                        if steps[3, k] + self.m.ambient_c >= 155.0:
                            return now, steps[:, k], "winding 155 C"
                        if steps[2, k] <= 0.0:
                            return now, steps[:, k], "unit empty"
                        low_since = self.guarded(found, k, now, low_since)
                        if low_since is not None and now - low_since >= self.m.guard.delay_s:  # type: ignore[union-attr]
                            return now, steps[:, k], "guard"
                    if mode == "brake":
                        y[1] = 0.0
            if self.m.bank.units[0].chemistry == "lead":
                self.lap_a = (y[5] - drawn) / (t - began) / self.m.bank.rows[0].parallel_count
        return t, y, ""

    def guarded(self, found: Any, k: int, now: float, since: float | None) -> float | None:
        """Since when the guard has seen too little, from the mean amps of a step; None while it sees enough."""
        if self.m.guard is None:
            return None
        amps = (found.y[5, k] - found.y[5, k - 1]) / max(found.t[k] - found.t[k - 1], 1e-9)
        e, r = self.open(float(found.y[2, k]))
        if e - amps * r >= self.m.guard.volts_v - 0.01:
            return None
        return now - float(found.t[k] - found.t[k - 1]) if since is None else since

    def modes(self, leg: Any) -> list[str]:
        if leg.coasts:
            return ["coast", "hold"]
        return ["slow", "throttle", "hold", *(["brake", "stand"] if leg.stop_s is not None else [])]

    def until(self, leg: Any, mode: str) -> list[Any]:
        aim = 1e9 if leg.aimed_m_s is None else float(leg.aimed_m_s)

        def room(_t: float, y: NDArray[np.float64]) -> float:
            reserve = y[1] ** 2 / (2 * self.brake) if leg.stop_s is not None and mode in ("throttle", "hold") else 0.0
            return float(y[0] + reserve - leg.length_m)

        def below(_t: float, y: NDArray[np.float64]) -> float:
            return float({"slow": aim, "coast": 1.0, "brake": 1e-6}[mode] - y[1])

        def fast(_t: float, y: NDArray[np.float64]) -> float:
            return float(y[1] - aim * (1 - 1e-9))

        events = {"throttle": [room, fast], "hold": [room], "coast": [room, below], "brake": [below], "slow": [below]}[mode]
        for event in events:
            event.terminal = True  # type: ignore[attr-defined]
            event.direction = 1  # type: ignore[attr-defined]
        return list(events)


SMALL = {"units": [{"cells_in_series": 10, "capacity_ah": named(1.2), "resistance_ohm": named(0.12), "trip_a": None, "continuous_a": None, "peak_10s_a": None}]}


def on(course: int, make: Callable[..., Setup], **changes: Any) -> Riding:
    return Riding(make(course=SHIPPED[course].model_dump(), **changes))


def read(riding: Riding, rounds: int) -> tuple[float, float, float, float]:
    """Seconds, charge drawn, winding and case after some rounds of the ride under test."""
    ride = riding.ride
    assert ride.rounds is not None
    time, soc, winding, case = (
        float(np.interp(rounds, np.array(ride.rounds), np.array(trace))) for trace in (ride.time_s, ride.soc[0], ride.winding_round_c, ride.case_c)
    )
    return time, 1.0 - soc, winding, case


class TwentyRounds(TestCase):
    """Against `solve_ivp`: speed and charge within 0.5 %, rise of winding and case within 1.5 %."""

    def compare(self, riding: Riding, rounds: int = 20) -> None:
        t, y, ended = Timed(riding).run(rounds)
        self.assertEqual(ended, "")
        time, drawn, winding, case = read(riding, rounds)
        air = riding.m.ambient_c
        self.assertAlmostEqual(time / t, 1.0, delta=0.005)
        self.assertAlmostEqual(drawn / (1.0 - y[2]), 1.0, delta=0.005)
        self.assertAlmostEqual((winding - air) / y[3], 1.0, delta=0.015)
        self.assertAlmostEqual((case - air) / y[4], 1.0, delta=0.015)

    def test_lawn_laps(self) -> None:
        for make, changes in (
            (bike, {}),
            (bike, {"ground": {"ambient_c": 5.0}, "motor__power_w": named(500)}),
            (ride_on, {}),
            (ride_on, {"motor__wiring": "series", "rider": {"age_years": 8}}),
        ):
            with self.subTest(changes=changes):
                self.compare(on(0, make, **changes))

    def test_hill_park(self) -> None:
        self.compare(on(2, bike, motor__power_w=named(500)))
        self.compare(on(2, ride_on), 12)

    def test_steady(self) -> None:
        self.compare(on(1, bike))


class Ends(TestCase):
    """Against `solve_ivp`: what ends the ride, and when, within 1 %."""

    def compare(self, riding: Riding, ends: str) -> None:
        t, _, ended = Timed(riding).run(400)
        self.assertEqual((riding.ride.ends_by, ended), (ends, ends))
        self.assertAlmostEqual(float(riding.ride.run_time_s) / t, 1.0, delta=0.01)

    def test_by_the_winding(self) -> None:
        """After 25, 10, 21 and 9 rounds; the last two climb with full throttle that does not hold the pace."""
        for course, watts in ((0, 350), (0, 290), (2, 300), (2, 260)):
            with self.subTest(course=course, watts=watts):
                riding = on(course, bike, motor__power_w=named(watts))
                self.compare(riding, "winding 155 C")
                ride = riding.ride
                self.assertAlmostEqual(float(ride.value_at_end(np.asarray(ride.winding_c))), 155.0, delta=0.1)
                reached = ride.reaches_winding(150.0)
                assert reached is not None
                self.assertLess(reached, float(ride.run_time_s))

    def test_by_the_guard(self) -> None:
        self.compare(on(0, bike, bank={"rows": [SMALL]}, motor__power_w=named(600), guard__volts_v=named(32)), "guard")

    def test_by_an_empty_pack(self) -> None:
        lead = {"chemistry": "lead", "cells_in_series": 6, "capacity_ah": named(3), "guard_in_tool": False}
        self.compare(on(0, ride_on, bank={"rows": [{"units": [lead]}]}, rider={"age_years": 5}), "unit empty")
        self.compare(on(2, ride_on, bank={"rows": [{"units": [lead]}]}), "unit empty")

    def test_a_full_discharge_at_a_steady_pace(self) -> None:
        self.compare(on(1, bike, bank={"rows": [SMALL]}, guard=None, controller__undervoltage_v=named(20)), "unit empty")

    def test_large_rounds_go_leg_by_leg(self) -> None:
        """The same hill park four times as long and with a pack of 1.2 Ah: a round takes a tenth of the charge."""
        course = SHIPPED[2].model_dump()
        for segment in course["segments"]:
            segment["length_m"] *= 4
        riding = Riding(bike(course=course, bank={"rows": [SMALL]}, motor__power_w=named(600), guard=None, controller__undervoltage_v=named(20)))
        self.assertLess(len(riding.ride.time_s), 80)
        self.compare(riding, "unit empty")


class Energy(TestCase):
    """What the cells give is what ground, air, slope, motor, wires, gears, brakes, spinning wheels and speed take, each by its own formula."""

    def test_balance(self) -> None:
        machines: list[tuple[Callable[..., Setup], dict[str, Any]]] = [
            (bike, {}),
            (bike, {"controller__regen_a": named(8)}),
            (bike, {"ground": {"friction": named(0.35)}}),
            (ride_on, {}),
            (ride_on, {"bank": {"rows": [SMALL]}}),
        ]
        for make, changes in machines:
            for course in range(3):
                with self.subTest(make=make.__name__, changes=changes, course=SHIPPED[course].name):
                    riding = on(course, make, **changes)
                    energy = course_ride(riding.m, riding.legs, Rider.fine(riding.brake_m_s2, splits=True)).energy_j
                    assert energy is not None
                    parts = dict(zip(PARTS, energy.tolist(), strict=True))
                    self.assertAlmostEqual(float(energy[1:].sum() / energy[0]), 1.0, delta=0.001, msg=parts)
                    self.assertGreater(parts["rolling"], 0.05 * parts["cells"])

    def test_a_climb_too_steep_ends_the_ride_also_for_who_coasts_into_it(self) -> None:
        """Down a bank and, coasting, against one of 40 %: more than the bike's force at a standstill."""
        for last in ({"coast": True}, {}):
            course = {"name": "Wall", "segments": [{"grade": -0.1, "length_m": 60}, {"grade": 0.4, "length_m": 60, **last}]}
            riding = Riding(bike(course=course))
            ride = course_ride(riding.m, riding.legs, Rider.fine(riding.brake_m_s2, splits=True))
            self.assertEqual(ride.ends_by, "stands on a climb")
            self.assertLess(float(ride.value_at_end(ride.rounds)), 1.0)
            assert ride.energy_j is not None
            self.assertAlmostEqual(float(ride.energy_j[1:].sum()), float(ride.energy_j[0]), delta=0.002 * float(np.abs(ride.energy_j).sum()))

    def test_who_creeps_from_round_to_round_stands(self) -> None:
        """A round that is one climb too steep, without a stop: no round begins faster than the last one ended."""
        riding = Riding(bike(course={"name": "Wall", "segments": [{"grade": 0.4, "length_m": 20}]}))
        self.assertEqual((riding.ride.ends_by, float(riding.ride.run_time_s)), ("stands on a climb", 0.0))

    def test_a_descent_that_charges_still_adds_up(self) -> None:
        setup = bike(course={"name": "Down", "segments": [{"grade": -0.1, "length_m": 400}]}, controller__regen_a=named(20))
        plan = drive_plan(setup, None, [])
        assert plan.ride is not None
        self.assertAlmostEqual(plan.ride.balance, 1.0, delta=0.001)

    def test_a_slope_may_win_over_regeneration_at_speed(self) -> None:
        """Regeneration of so many watts holds ever less force the faster it goes: slow it slows down, fast the same slope speeds it up."""
        faster = []
        for speed, amps, grade in ((7, 4, -0.1), (9, 12, -0.19), (3, 4, -0.1)):
            descent = [{"grade": grade, "length_m": 20, "speed_m_s": speed}, {"grade": grade, "length_m": 40, "coast": True, "stop_s": 5}]
            course = {"name": "Bank", "segments": [*descent, {"grade": 0.12, "length_m": 80}]}
            riding = Riding(bike(course=course, controller__regen_a=named(amps)))
            energy = course_ride(riding.m, riding.legs, Rider.fine(riding.brake_m_s2, splits=True)).energy_j
            assert energy is not None
            self.assertAlmostEqual(float(energy[1:].sum() / energy[0]), 1.0, delta=0.001)
            source, motor = riding.m.source(np.ones(1)), riding.m.motor.at(np.full(1, 25.0), np.full(1, 25.0))
            phases = ride_round(riding.m, source, [motor] * 3, riding.legs, np.full(1, float(speed)), Rider.fine(riding.brake_m_s2))[1]
            coasting = next(phase for phase in phases if phase.kind == "coast")
            faster.append(float(coasting.speed_m_s[-1, 0]) > speed)
        self.assertEqual(faster, [True, True, False])

    def test_wheels_that_spin_take_their_part(self) -> None:
        slippery, plain = (on(0, bike, ground={"friction": named(mu)}) for mu in (0.28, 0.8))
        spun = []
        for riding in (slippery, plain):
            energy = course_ride(riding.m, riding.legs, Rider.fine(riding.brake_m_s2, splits=True)).energy_j
            assert energy is not None
            spun.append(float(energy[PARTS.index("spinning wheels")] / energy[0]))
        self.assertGreater(spun[0], 0.02)
        self.assertLess(spun[1], 0.001)

    def test_regeneration_brings_some_back(self) -> None:
        """One lawn lap with and without, at the same charge and temperature: what comes out of the cells, what goes into the brakes."""
        spent, braked = [], []
        for regen in (None, named(8)):
            riding = on(0, bike, motor__power_w=named(600), controller__regen_a=regen)
            source, motor = riding.m.source(np.ones(1)), riding.m.motor.at(np.full(1, 25.0), np.full(1, 25.0))
            phases = ride_round(riding.m, source, [motor], riding.legs, np.zeros(1), Rider.fine(riding.brake_m_s2))[0]
            energy = energies_j(riding.m, source, motor, phases)
            spent.append(float(energy[0, 0]))
            braked.append(float(energy[PARTS.index("brakes"), 0]))
        self.assertLess(spent[1], 0.985 * spent[0])
        self.assertLess(braked[1], 0.75 * braked[0])
        self.assertLess(spent[0] - spent[1], braked[0] - braked[1])


class LevelSpeeds(TestCase):
    """Level top speeds of fifty random machines: where the timed machine's acceleration first falls to nothing, by scan and bisection."""

    def test_fifty_random_machines(self) -> None:
        chance = random.Random(50)
        for number in range(50):
            document = typical_setup(chance.choice(sorted(families())), chance.choice([None, 24.0, 36.0]))
            document["rider"] = {"age_years": chance.randint(4, 40)}
            document["ground"] = {"surface": chance.choice(["paving", "packed dirt", "short grass"])}
            document["wheel"]["diameter_m"]["value"] *= chance.uniform(0.8, 1.25)
            document["course"] = {"name": "level", "segments": [{"length_m": 100, "throttle": 1.0}]}
            riding = Riding(load_setup(document))
            timed = Timed(riding)
            slope = timed.slope(riding.legs[0], "throttle")

            def pull(speed: float, slope: Any = slope) -> float:
                return float(slope(0.0, np.array([0.0, speed, 1.0, 0.0, 0.0, 0.0]))[1])

            ladder = np.linspace(0.0, 1.2 * float(riding.m.no_load_speed(riding.full, riding.motor)), 120)
            first = next((k for k, speed in enumerate(ladder) if pull(float(speed)) <= 0.0), 0)
            expected = float(brentq(pull, ladder[first - 1], ladder[first])) if first else 0.0
            with self.subTest(number, family=document["vehicle"]["family"]):
                self.assertAlmostEqual(float(riding.level_top), expected, delta=0.002 * max(expected, 0.5))
