"""Launch from rest: a quadrature over speed, wheels spinning where grip ends."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gecko.electric.bank import Source
from gecko.electric.motor import MotorConstants
from gecko.electric.operating_point import slipping_pack_a
from gecko.figures import Number
from gecko.machine import Machine
from gecko.motion.forces import grip_limited_acceleration, motor_a_for_force, resistance_n, wheel_force_n
from gecko.quadrature import cumulative, mean_inverse, running_sum

_POINTS = np.linspace(0.0, 1.0, 161)


@dataclass(frozen=True)
class Launch:
    """Full throttle from rest on the level, point by point over speed (first axis).

    Speeds [m/s], acceleration [m/s²], seconds from rest, distance [m], motor and pack amps [A], whether grip held it.
    """

    speed_m_s: Number
    acceleration_m_s2: Number
    time_s: Number
    distance_m: Number
    motor_a: Number
    pack_a: Number
    slipping: Number

    @property
    def rms_pack_a(self) -> Number:
        """Root mean square of the pack amps over the launch. [A]"""
        return np.sqrt(cumulative(np.square(self.pack_a), self.time_s)[-1] / self.time_s[-1])

    def seconds_above(self, amps: Number) -> Number:
        """Time with more pack amps than `amps` [A], in one stretch from first to last. [s]"""
        weight = (self.pack_a > amps).astype(float)
        return cumulative(weight, self.time_s)[-1]


def launch(machine: Machine, source: Source, motor: MotorConstants, target_m_s: Number, spread: Number = _POINTS) -> Launch:
    """Quadrature of a full-throttle launch to `target_m_s` [m/s] on the level.

    spread: points between 0 and 1 at which it is evaluated (first axis of every result). While grip caps the force the
    motor current is that of the grip and the pack current that at the higher motor speed which gives it.
    Where the machine cannot accelerate, the acceleration is kept at a creeping 1 mm/s² so that nothing divides by zero.
    """
    target = np.asarray(target_m_s, dtype=float)
    speed = spread.reshape((-1,) + (1,) * target.ndim) * target
    vehicle = machine.vehicle
    point = machine.full(source, motor, speed)
    held_back = resistance_n(vehicle, speed)
    push = wheel_force_n(vehicle, motor, point.motor_a)
    free = (push - held_back) / vehicle.effective_mass_kg
    capped, load = grip_limited_acceleration(vehicle, held_back)
    slipping = capped < free
    grip_a = motor_a_for_force(vehicle, motor, vehicle.friction * load)
    motor_a = np.where(slipping, grip_a, point.motor_a)
    source_ohm = machine.source_ohm(source)
    pack_a = np.where(slipping, slipping_pack_a(source.open_v, source_ohm, machine.control, grip_a), point.pack_a)
    a = np.where(slipping, capped, free)
    a = np.broadcast_to(a, np.broadcast_shapes(a.shape, speed.shape))
    safe = np.maximum(a, 1e-3)
    dv = np.diff(speed, axis=0)
    mean_speed = (speed[1:] + speed[:-1]) / 2.0
    # Between two points the acceleration is taken as linear in speed.
    dt = dv * mean_inverse(safe[:-1], safe[1:])
    time, distance = running_sum(dt), running_sum(dt * mean_speed)
    shape = np.broadcast_shapes(time.shape, np.shape(pack_a))
    return Launch(
        np.broadcast_to(speed, shape),
        np.broadcast_to(a, shape),
        time,
        distance,
        np.broadcast_to(motor_a, shape),
        np.broadcast_to(pack_a, shape),
        np.broadcast_to(slipping, shape),
    )
