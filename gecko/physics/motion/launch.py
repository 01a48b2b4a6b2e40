"""Launch from rest: a quadrature over speed, wheels spinning where grip ends."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from gecko.common.figures import Array, Mask, Number
from gecko.common.quadrature import cumulative, mean_inverse, running_sum
from gecko.physics.electric.bank import Source
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import part_throttle, slipping_pack_a
from gecko.physics.motion.machine import Machine
from gecko.physics.road.forces import grip_limited_acceleration, motor_a_for_force, resistance_n, wheel_force_n

_POINTS = np.linspace(0.0, 1.0, 161)


@dataclass(frozen=True, kw_only=True)
class Launch:
    """Full throttle from rest on the level, point by point over speed (first axis).

    Speeds [m/s], acceleration [m/s²], seconds from rest, distance [m], motor and pack amps [A], whether grip held it.
    """

    speed_m_s: Array
    acceleration_m_s2: Array
    time_s: Array
    distance_m: Array
    motor_a: Array
    pack_a: Array
    slipping: Mask

    @property
    def rms_pack_a(self) -> Array:
        """Root mean square of the pack amps over the launch. [A]

        Derived here: the root of the mean square, which is what heats a wire.
        """
        return np.asarray(np.sqrt(cumulative(np.square(self.pack_a), self.time_s)[-1] / self.time_s[-1]))

    def seconds_above(self, amps: Number) -> Array:
        """Time with more pack amps than `amps` [A], in one stretch from first to last. [s]

        Derived here: an integral of one where more flows and of nothing elsewhere.
        """
        weight = (self.pack_a > amps).astype(float)
        return np.asarray(cumulative(weight, self.time_s)[-1])


_RAMP_STEP_S, _LEAST_RAMP_STEPS = 0.09, 8
"""A soft start is marched in steps of about this length [s], and in at least this many."""


def _soft_start(machine: Machine, source: Source, motor: MotorConstants, target_m_s: Number) -> list[tuple[Number | Mask, ...]]:
    """The time of the ramp, while the motor current rises to what full throttle gives: seconds, metres, speed, acceleration, motor and
    pack amps, whether grip held it, point by point (second-order steps in time)."""
    vehicle, ramp = machine.vehicle, machine.control.ramp_s
    source_ohm = machine.source_ohm(source)

    def gains(share: float, speed: Number) -> tuple[Array, Number, Number, Mask]:
        """Acceleration, the amps asked for, the load on the axle, whether grip holds it."""
        held_back = resistance_n(vehicle, speed)
        asked = share * machine.amps(source, motor, speed)
        push = wheel_force_n(vehicle, motor, asked, standing=True)
        # At rest the ground holds it until the push is enough.
        free = np.where(speed > 0.0, push - held_back, np.maximum(push - held_back, 0.0)) / vehicle.effective_mass_kg
        capped, load = grip_limited_acceleration(vehicle, held_back)
        return np.minimum(free, capped), asked, load, capped < free

    steps = max(math.ceil(ramp / _RAMP_STEP_S), _LEAST_RAMP_STEPS)
    dt = ramp / steps
    speed: Number = 0.0 * np.asarray(target_m_s)
    distance: Number = speed
    points: list[tuple[Number | Mask, ...]] = []
    for step in range(steps + 1):
        a, asked, load, slips = gains(step / steps, speed)
        motor_a = np.where(slips, np.minimum(motor_a_for_force(vehicle, motor, vehicle.friction * load), asked), asked)
        pack = part_throttle(source.open_v, source_ohm, motor, machine.control, vehicle.omega(speed), motor_a).pack_a
        points.append((step * dt + 0.0 * speed, distance, speed, a, motor_a, pack, slips))
        ahead, *_ = gains(min(step + 1, steps) / steps, np.maximum(speed + a * dt, 0.0))
        faster = np.minimum(np.maximum(speed + (a + ahead) / 2.0 * dt, 0.0), target_m_s)
        distance, speed = distance + (speed + faster) / 2.0 * dt, faster
    return points


def launch(machine: Machine, source: Source, motor: MotorConstants, target_m_s: Number, spread: Array = _POINTS) -> Launch:
    """Quadrature of a full-throttle launch to `target_m_s` [m/s] on the level.

    spread: points between 0 and 1 at which it is evaluated (first axis of every result). While grip caps the force the
    motor current is that of the grip and the pack current that at the higher motor speed which gives it.
    Where the machine cannot accelerate, the acceleration is kept at a creeping 1 mm/s² so that nothing divides by zero.
    A soft start comes first, marched over the time of its ramp.

    Derived here: `t = ∫ dv/a(v)` and `s = ∫ v·dv/a(v)`, by pieces along which the acceleration is linear in speed.
    """
    target = np.asarray(target_m_s, dtype=float)
    if machine.control.ramp_s > 0.0 and machine.control.kind != "none":
        soft = [np.stack(np.broadcast_arrays(*values)) for values in zip(*_soft_start(machine, source, motor, target), strict=True)]
        rest = _from(machine, source, motor, soft[2][-1], target, spread)
        rest = replace(rest, time_s=rest.time_s + soft[0][-1], distance_m=rest.distance_m + soft[1][-1])
        names = ("time_s", "distance_m", "speed_m_s", "acceleration_m_s2", "motor_a", "pack_a", "slipping")
        return Launch(
            **{name: np.concatenate([np.broadcast_to(values, (len(values), *target.shape)), getattr(rest, name)]) for name, values in zip(names, soft, strict=True)}
        )
    return _from(machine, source, motor, 0.0 * target, target, spread)


def _from(machine: Machine, source: Source, motor: MotorConstants, start_m_s: Array, target: Array, spread: Array) -> Launch:
    """Full throttle from a speed to a target [m/s]."""
    speed = start_m_s + spread.reshape((-1,) + (1,) * target.ndim) * (target - start_m_s)
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
        speed_m_s=np.broadcast_to(speed, shape),
        acceleration_m_s2=np.broadcast_to(a, shape),
        time_s=time,
        distance_m=distance,
        motor_a=np.broadcast_to(motor_a, shape),
        pack_a=np.broadcast_to(pack_a, shape),
        slipping=np.broadcast_to(slipping, shape),
    )
