"""Top speed: the first zero of the balance of push and resistance."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from gecko.electric.bank import Source
from gecko.electric.motor import MotorConstants
from gecko.figures import Number
from gecko.machine import Machine
from gecko.motion.forces import resistance_n
from gecko.quadrature import pick

_SCAN = np.linspace(0.0, 1.0, 33)
_REFINE = np.linspace(0.0, 1.0, 17)


def first_zero(balance: Callable[[Number], Number], high: Number) -> Number:
    """First x in 0…high at which a balance of shape (n, …) falls to zero: a scan, a refinement, a last secant.

    high and the answer are in the unit of x, such as [m/s]. The balance takes x with one more leading axis than `high`.
    Where it is not positive at 0 the answer is 0; where it never falls to zero the answer is `high`.
    """
    high = np.asarray(high, dtype=float)
    low = np.zeros_like(high)
    width = high
    steps = _SCAN
    f_low = f_high = np.zeros_like(high)
    for _ in range(2):
        x = low + steps.reshape((-1,) + (1,) * high.ndim) * width
        f = np.broadcast_to(balance(x), x.shape)
        negative = f <= 0.0
        index = np.where(negative.any(axis=0), negative.argmax(axis=0), len(steps) - 1)
        before = np.maximum(index - 1, 0)
        low, f_low, f_high = pick(x, before), pick(f, before), pick(f, index)
        width = pick(x, index) - low
        steps = _REFINE
    gap = f_low - f_high
    share = np.where((f_high <= 0) & (gap > 0), f_low / np.where(gap > 0, gap, 1.0), np.where(f_high > 0, 1.0, 0.0))
    found = low + np.clip(share, 0.0, 1.0) * width
    return found if found.ndim else found[()]


def top_speed(machine: Machine, source: Source, motor: MotorConstants, grade: Number = 0.0) -> Number:
    """Level (or graded) top speed with full throttle: first zero of the force balance. [m/s]

    source and motor may carry leading axes, such as states of charge or temperatures. On a downhill grade steep enough to
    roll, the speed at which air and motor drag hold it.
    """
    vehicle = machine.vehicle
    high = machine.no_load_speed(source, motor) * 1.02
    if np.any(np.asarray(grade) < 0):
        rolling = np.maximum(-vehicle.mass_kg * 9.81 * (np.asarray(grade) + vehicle.rolling_resistance), 0.0)
        high = high + np.sqrt(2.0 * rolling / (vehicle.air_density_kg_m3 * vehicle.drag_area_m2))
    high = high + 0.0 * (np.asarray(grade) + source.resistance_ohm + machine.path_ohm + vehicle.mass_kg)

    def balance(speed: Number) -> Number:
        return machine.push(source, motor, speed) - resistance_n(vehicle, speed, grade)

    return first_zero(balance, high)
