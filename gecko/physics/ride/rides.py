"""The one way to ride: a machine over a course, from full charge and a cold motor, until something ends it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np

from gecko.common.figures import Number
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import top_speed
from gecko.physics.ride import moves
from gecko.physics.ride.legs import Leg
from gecko.physics.ride.march import Figures, Marched, Start, march_one, ride_each, ride_one
from gecko.physics.ride.moves import COARSE, FINE, Fineness
from gecko.physics.ride.record import Ride, Trace
from gecko.physics.ride.rig import WALKING_M_S, Array, legs_as_numbers, rigs, samples_of
from gecko.physics.ride.trace import Points, points

ENDLESS_M = 1e9
"""A leg so long is never ridden to its end. [m]"""
AS_IT_FLOWS = -1.0
"""Mean amps that say: lead gives its amp-hours by the amps of the moment. [A]"""
_MOST_POINTS = 4000
_NO_POINTS = points(0)


def ride(machine: Machine, legs: Sequence[Leg], brake_m_s2: Number, fine: Fineness | None = None) -> Ride:
    """Ride a course's legs round and round from full charge and a cold motor until something ends it; units as in `Ride` [SI].

    brake_m_s2: what the brakes give [m/s²]. A machine of samples, on the last axis, gives a ride of samples without a trace.

    Source: as `march`.
    """
    count, machines, meant = samples_of(machine), rigs(machine, brake_m_s2), meant_speeds(machine, legs)
    numbers = legs_as_numbers(legs, meant, max(count, 1))
    if count:
        return _as_ride(ride_each(machines, numbers, fine or COARSE, _NO_POINTS), machine.ambient_c)
    return _record(ride_one(machines, numbers, fine or FINE, _NO_POINTS), _cold(machine), machine.ambient_c)


def _cold(machine: Machine, speed_m_s: float = 0.0) -> Start:
    """From full charge and a cold motor, at a speed [m/s]."""
    return Start(np.ones(len(machine.bank.units)), 0.0, 0.0, speed_m_s)


def steady_ride(machine: Machine, aimed_m_s: float | None, grade: float) -> tuple[Ride, Moment]:
    """A ride that goes on without a stop at an aimed speed [m/s] (None: full throttle) on a grade, begun at that speed, and its first moment.

    Lead gives its amp-hours by the amps of the moment: there is no lap to take a mean of.

    Source: as `march`, with next to no inertia.
    """
    vehicle = machine.vehicle
    leg = Leg(
        length_m=ENDLESS_M,
        time_s=None,
        grade=grade,
        rolling=vehicle.rolling_resistance,
        friction=vehicle.friction,
        aimed_m_s=aimed_m_s,
        throttle=1.0,
        coasts=False,
        stop_s=None,
    )
    top = float(top_speed(machine, machine.source(1.0), machine.motor_cool, grade))
    start = top if aimed_m_s is None else min(aimed_m_s, top)
    # Steady means that the speed follows the balance at once: next to no inertia.
    steady = rigs(replace(machine, vehicle=replace(vehicle, rotating_share=-0.99)), 1.0)
    # Half the speed it begins with is what a foldback is judged by; how slow it is does not matter here.
    numbers = legs_as_numbers([leg], [start])._replace(climb_m_s=np.zeros((1, 1)))
    kept = points(1)
    cold = _cold(machine, start)
    marched = march_one(steady, numbers, 0, cold, np.inf, FINE, np.full(cold.soc.size, AS_IT_FLOWS), kept)
    return _record(marched, cold, machine.ambient_c), Moment(start, float(kept.motor_a[0]), float(kept.pack_a[0]), float(kept.volts_v[0]), int(kept.limit[0]))


class Moment(NamedTuple):
    """A moment of a ride: speed [m/s], motor and pack amps, controller volts, number of the limit."""

    speed_m_s: float
    motor_a: float
    pack_a: float
    controller_v: float
    limit: int


def meant_speeds(machine: Machine, legs: Sequence[Leg]) -> list[Number]:
    """The speed meant on each leg: the aimed one, else what the throttle gives there with full packs, at least half of what it gives on the
    level; a walk where it coasts. [m/s]

    Half of the level speed is a planning value of this project: a ride that is slower than that on a slope is held up by it.
    """
    if all(leg.aimed_m_s is not None or leg.coasts for leg in legs):
        return [WALKING_M_S if leg.aimed_m_s is None else leg.aimed_m_s for leg in legs]
    vehicle, source, motor = machine.vehicle, machine.source(1.0), machine.motor_cool
    level = top_speed(machine, source, motor)
    found: list[Number] = []
    for leg in legs:
        if leg.aimed_m_s is not None or leg.coasts:
            found.append(WALKING_M_S if leg.aimed_m_s is None else leg.aimed_m_s)
            continue
        there = replace(
            machine,
            vehicle=replace(vehicle, rolling_resistance=leg.rolling, friction=leg.friction),
            control=replace(machine.control, duty_max=machine.control.duty_max * leg.throttle),
        )
        found.append(np.maximum(top_speed(there, source, motor, leg.grade), level * leg.throttle / 2.0))
    return found


def one_round(machine: Machine, legs: Sequence[Leg], brake_m_s2: float, soc: Sequence[float], winding_c: float, case_c: float) -> tuple[Points, int]:
    """Every step of one round at a charge of each unit group [1], the motor as warm as told [°C], and how many steps there are.

    Where rounds roll on, it begins as fast as the one before it ended.

    Source: as `march`.
    """
    alone, numbers = rigs(machine, brake_m_s2), legs_as_numbers(legs, meant_speeds(machine, legs))
    air, charge = machine.ambient_c, np.array(soc, dtype=float)
    mean = np.full(charge.size, AS_IT_FLOWS)
    speed = 0.0
    if legs[-1].stop_s is None:
        before = points(_MOST_POINTS)
        done = march_one(alone, numbers, 0, Start(charge, winding_c - air, case_c - air, 0.0), 1.0, FINE, mean, before)
        speed = float(before.speed_m_s[max(min(done.points, _MOST_POINTS) - 1, 0)])
    kept = points(_MOST_POINTS)
    done = march_one(alone, numbers, 0, Start(charge, winding_c - air, case_c - air, speed), 1.0, FINE, mean, kept)
    return kept, min(done.points, _MOST_POINTS)


def _as_ride(figures: Figures, air_c: float) -> Ride:
    """A ride, or those of samples as one, from what the march came to, at so warm an air [°C]."""
    return Ride(
        run_time_s=figures.time_s,
        ends=np.asarray(figures.end).astype(int)[()],
        distance_m=figures.distance_m,
        pack_ah=figures.pack_as / 3600.0,
        energy_wh=figures.controller_j / 3600.0,
        rms_pack_a=figures.rms_pack_a,
        rms_motor_a=figures.rms_motor_a,
        fastest_m_s=figures.fastest_m_s,
        most_pack_a=figures.most_pack_a,
        most_motor_a=figures.most_motor_a,
        warm_c=figures.warm_k + air_c,
        caution_s=figures.caution_s,
        stop_s=figures.stop_s,
        rounds=figures.rounds,
        energy_j=figures.energy_j.T,
    )


def _record(marched: Marched, start: Start, air_c: float) -> Ride:
    """A ride's figures and trace from what the march came to, at so warm an air [°C]."""
    spans, filled = marched.trace, marched.spans

    def line(values: Array, first: float | None = None) -> Array:
        """The values of the spans, from a first point on: like the first span where no other is given."""
        return np.concatenate([values[:1] if first is None else [first], values[:filled]])

    time = line(spans.time_s, 0.0)
    long = np.maximum(np.diff(time), 1e-9)
    trace = Trace(
        time_s=time,
        soc=tuple(line(spans.soc[:, u], float(start.soc[u])) for u in range(start.soc.size)),
        speed_m_s=line(np.diff(line(spans.distance_m, 0.0)) / long),
        pack_a=line(spans.pack_as[:filled] / long),
        controller_v=line(spans.controller_v),
        bank_v=line(spans.bank_v),
        winding_c=line(spans.hottest_k, start.winding_k) + air_c,
        winding_end_c=line(spans.winding_k, start.winding_k) + air_c,
        case_c=line(spans.case_k, start.case_k) + air_c,
        rounds=line(spans.rounds, 0.0),
    )
    return replace(_as_ride(marched.figures, air_c), trace=trace)


NAMES = {moves.OPEN: "", moves.HOLD: "holds its speed", moves.ROLL: "rolls", moves.SLOW: "brakes", moves.STOP: "brakes", moves.STAND: "stands"}
"""Words for what the rider does; with the throttle open it is the limit that says more."""
