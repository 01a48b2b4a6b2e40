"""Top speed: the first zero of the balance of push and resistance."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from gecko.common.figures import Array, Number
from gecko.common.quadrature import pick
from gecko.physics.electric.bank import Source
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.motion.machine import Machine
from gecko.physics.road.forces import VehicleModel, resistance_n, wheel_force_n

CHARGES = np.array([1.0, 0.5, 0.2])
"""States of charge at which speeds are told: full, half, low. [1]"""

KNOBS = np.linspace(0.1, 1.0, 10)
"""Marks of the knob at which speeds are predicted: 1 to 10 of 10, as shares of the duty. [1]"""

_FEW_CALLS = (np.linspace(0.0, 1.0, 33), np.linspace(0.0, 1.0, 17))
_FEW_POINTS = (np.linspace(0.0, 1.0, 9),) * 3
"""Two ways to narrow a zero down to a 512th of the range: with small arrays each call costs, with large ones each point."""


def first_zero(balance: Callable[[Array], Array], high: Number) -> Number:
    """First x in 0…high at which a balance of shape (n, …) falls to zero: scans, each within the last's step, and a secant.

    high and the answer are in the unit of x, such as [m/s]. The balance takes x with one more leading axis than `high`.
    Where it is not positive at 0 the answer is 0; where it never falls to zero the answer is `high`.

    Source: a grid scanned for the change of sign and a secant through it (regula falsi, any textbook of numerical analysis).

    >>> round(float(first_zero(lambda x: 4.0 - x * x, 10.0)), 3)
    2.0
    """
    high = np.asarray(high, dtype=float)
    low = np.zeros_like(high)
    width = high
    column = (-1,) + (1,) * high.ndim
    for steps in _FEW_CALLS if high.size < 1000 else _FEW_POINTS:
        f = balance(low + steps.reshape(column) * width)
        negative = f <= 0.0
        index = np.where(negative.any(axis=0), negative.argmax(axis=0), len(steps) - 1)
        before = np.maximum(index - 1, 0)
        low, width = low + steps[before] * width, (steps[index] - steps[before]) * width
    f_low, f_high = pick(f, before), pick(f, index)
    gap = f_low - f_high
    share = np.where((f_high <= 0) & (gap > 0), f_low / np.where(gap > 0, gap, 1.0), np.where(f_high > 0, 1.0, 0.0))
    found = low + np.clip(share, 0.0, 1.0) * width
    return found if found.ndim else found[()]


def top_speed(machine: Machine, source: Source, motor: MotorConstants, grade: Number = 0.0) -> Number:
    """Level (or graded) top speed with full throttle: first zero of the force balance. [m/s]

    source and motor may carry leading axes, such as states of charge or temperatures. On a downhill grade steep enough to
    roll, the speed at which air and motor drag hold it.

    Derived here: where push and resistance are in balance nothing accelerates. The bracket on a slope is the speed of free fall through air.
    """
    vehicle = machine.vehicle
    high = machine.no_load_speed(source, motor) * 1.02
    if np.any(np.asarray(grade) < 0):
        rolling = np.maximum(-vehicle.mass_kg * 9.81 * (np.asarray(grade) + vehicle.rolling_resistance), 0.0)
        high = high + np.sqrt(2.0 * rolling / (vehicle.air_density_kg_m3 * vehicle.drag_area_m2))
    high = high + 0.0 * (np.asarray(grade) + source.resistance_ohm + machine.path_ohm + vehicle.mass_kg + vehicle.rolling_resistance)

    def balance(speed: Array) -> Array:
        return np.asarray(machine.push(source, motor, speed) - resistance_n(vehicle, speed, grade))

    return first_zero(balance, high)


def free_roll(vehicle: VehicleModel, motor: MotorConstants, grade: float) -> Number:
    """Speed it rolls to down a slope (grade below zero, [1]) with nothing that drives or brakes it but air, ground and the motor's own drag. [m/s]

    Derived here: the same balance without the motor's push.

    The slope pulls with 1000·0.08/√1.01 = 79.6 N, the motor drags with 5 N, the air takes 0.6·v²:

    >>> from gecko.physics.motion.example import CART, MOTOR
    >>> round(float(free_roll(CART, MOTOR, -0.1)), 2)
    11.15
    """
    drop = max(-grade, 0.0)
    most = np.sqrt(2.0 * vehicle.gravity_m_s2 * vehicle.mass_kg * drop / (vehicle.air_density_kg_m3 * vehicle.drag_area_m2)) + 0.0 * vehicle.rolling_resistance

    def balance(speed: Array) -> Array:
        return np.asarray(wheel_force_n(vehicle, motor, 0.0) - resistance_n(vehicle, speed, grade))

    return first_zero(balance, most)


@dataclass(frozen=True)
class SpeedSet:
    """Full-throttle speeds [m/s], with a cool motor unless said; first axis: `CHARGES` on the course's grade, up the hill and on the
    level, full charge down the hill, full charge on the course's grade with a warm motor (as many as temperatures
    were given), `KNOBS` at half charge on the level (None without a controller)."""

    course: Array
    hill: Array
    downhill: Array
    level: Array
    warm: Array
    knob: Array | None


def speed_set(machine: Machine, grade: float, hill_grade: float, warm_c: Sequence[tuple[float, float]] = (), knob_duty: Number = KNOBS) -> SpeedSet:
    """Every full-throttle speed an evaluation asks for, solved in one array call. Grades are rise over run [1].

    warm_c: winding and magnet temperatures [°C] of the speeds with a warm motor. knob_duty: share of duty at each mark of `KNOBS` [1].

    Derived here: each is a `top_speed`; together they cost one call.
    """
    marks = KNOBS if machine.control.kind != "none" else KNOBS[:0]
    flat = CHARGES if grade != 0.0 else CHARGES[:0]
    parts = [
        (CHARGES, grade),
        (CHARGES, hill_grade),
        (CHARGES[:1], -hill_grade),
        (flat, 0.0),
        (np.ones(len(warm_c)), grade),
        (np.full(marks.shape, 0.5), 0.0),
    ]
    column = (-1, 1) if np.ndim(machine.vehicle.mass_kg) else (-1,)
    charge = np.concatenate([charges for charges, _ in parts]).reshape(column)
    grades = np.concatenate([np.full(charges.shape, slope) for charges, slope in parts]).reshape(column)
    wide = np.broadcast_shapes(charge.shape, np.shape(machine.control.duty_max) if column != (-1,) else (), np.shape(knob_duty)[1:] and (1, *np.shape(knob_duty)[1:]))
    duty = np.array(np.broadcast_to(machine.control.duty_max, wide))
    if len(marks):
        duty[len(duty) - len(marks) :] = np.reshape(knob_duty, (len(marks), *(np.shape(knob_duty)[1:] or charge.shape[1:])))
    dialled = replace(machine, control=replace(machine.control, duty_max=duty))
    motor = machine.motor_cool
    if warm_c:
        temperatures = np.full((2, *charge.shape), machine.ambient_c)
        temperatures[:, len(duty) - len(marks) - len(warm_c) : len(duty) - len(marks)] = np.array(warm_c).T.reshape((2, *column))
        motor = machine.motor.at(*temperatures)
    speeds = top_speed(dialled, machine.source(charge), motor, grades)
    course, hill, downhill, level, warm, knob = np.split(speeds, np.cumsum([len(charges) for charges, _ in parts])[:-1])
    return SpeedSet(course, hill, downhill, level if len(level) else course, warm, knob if len(marks) else None)
