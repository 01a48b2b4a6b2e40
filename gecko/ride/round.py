"""One round of a course at fixed charge and temperatures: every leg as quadratures over speed or time.

Arrays have the points of a phase on the first axis and the columns (states of charge with their temperatures, then samples)
after it. A phase is a stretch of one kind: throttle, hold, coast, brake, stand.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from gecko.electric.bank import Source
from gecko.electric.motor import MotorConstants
from gecko.electric.operating_point import THROTTLE, braking_motor_a, full_throttle, motor_current, part_throttle, slipping_pack_a
from gecko.figures import Number
from gecko.machine import Machine
from gecko.motion.forces import grip_limited_acceleration, motor_a_for_force, resistance_n, wheel_force_n
from gecko.motion.top_speed import first_zero
from gecko.quadrature import mean_inverse, pick, running_sum
from gecko.ride.courses import Leg
from gecko.ride.phase import Phase, PhaseKind

WALKING_M_S = 1.0
"""Who coasts to a walk pushes on with the throttle at this pace. [m/s]"""
STUCK_M_S = 0.05
"""What a machine that cannot climb is taken to creep at, so that nothing divides by zero. [m/s]"""
NEAR = 2e-4
"""How near to the speed of balance full throttle is followed, as a share: it would take for ever to get there. [1]"""
FINE = 1.0 - (1.0 - np.linspace(0.0, 1.0, 41)) ** 2
COARSE = 1.0 - (1.0 - np.linspace(0.0, 1.0, 11)) ** 2
BALANCED_M_S2 = 0.003
"""An acceleration smaller than this counts as a balance. [m/s²]"""
_EVEN = np.linspace(0.0, 1.0, 7)
"""Points at which a phase is evaluated."""


@dataclass(frozen=True)
class Rider:
    """How the legs are ridden: deceleration of the brakes [m/s²], points between 0 and 1 of a phase, steps of its heat; how often charge and
    temperatures are brought to agree at most, and when they do [K]: what the last time moved by 8 K is within 0.5 K, but
    was ridden with magnets that much off, and speed follows them by 0.2 % a kelvin."""

    brake_m_s2: Number
    points: Any
    parts: int
    repetitions: int
    settled_k: float
    sampled: bool = False
    """On few charges, and never leg by leg: for many samples at once."""
    splits: bool = False
    """Whether the energy is told apart."""
    hot_again: bool = False
    """Whether a ride that ends hot early is ridden once more on a grid of its own."""

    @classmethod
    def fine(cls, brake_m_s2: float, splits: bool = False) -> Rider:
        """For a single machine."""
        return cls(brake_m_s2, FINE, 4, 8, 2.6, splits=splits, hot_again=True)

    @classmethod
    def compared(cls, brake_m_s2: Number) -> Rider:
        """For changes that are compared with each other."""
        return cls(brake_m_s2, COARSE, 2, 4, 4.0)

    @classmethod
    def samples(cls, brake_m_s2: Number) -> Rider:
        """For samples."""
        return cls(brake_m_s2, COARSE, 1, 2, 8.0, sampled=True)


class _State:
    """A machine at its charges and temperatures on the ground of one leg."""

    def __init__(self, machine: Machine, source: Source, motor: MotorConstants, leg: Leg, shape: tuple[int, ...]) -> None:
        vehicle = replace(machine.vehicle, rolling_resistance=leg.rolling, friction=leg.friction)
        control = machine.control if leg.throttle == 1.0 else replace(machine.control, duty_max=machine.control.duty_max * leg.throttle)
        self.machine = replace(machine, vehicle=vehicle, control=control)
        self.source, self.motor, self.leg, self.shape = source, motor, leg, shape
        self.source_ohm = self.machine.source_ohm(source)
        self.vehicle = vehicle

    def resistance(self, speed: Number) -> Number:
        return resistance_n(self.vehicle, speed, self.leg.grade)

    def amps(self, speed: Number) -> Number:
        """Motor amps with full throttle. [A]"""
        return motor_current(self.source.open_v, self.source_ohm, self.motor, self.machine.control, self.vehicle.omega(speed))

    def push(self, motor_a: Number) -> Number:
        return wheel_force_n(self.vehicle, self.motor, motor_a)

    def gripped(self, speed: Number) -> tuple[Number, Number, Number]:
        """Acceleration with full throttle [m/s²], whether the wheels spin, and the load on the driven axle [N]."""
        held = self.resistance(speed)
        free = (self.push(self.amps(speed)) - held) / self.vehicle.effective_mass_kg
        capped, load = grip_limited_acceleration(self.vehicle, held, self.leg.grade)
        return np.minimum(free, capped), capped < free, load

    def balance(self, near: Number | None) -> Number:
        """Speed at which full throttle, within the wheels' grip, just holds; near: about what it is, from charges and temperatures close by. [m/s]"""
        if near is not None:
            speed = np.maximum(near, 0.02)
            for _ in range(3):
                step = np.maximum(speed * 1e-3, 1e-4)
                f0, f1 = self.gripped(np.stack((speed, speed + step)))[0]
                if bool(np.all((np.abs(f0) < BALANCED_M_S2) | ((speed <= STUCK_M_S) & (f0 < 0.0)))):
                    return speed
                most = 0.4 * speed
                speed = np.maximum(speed + np.minimum(np.maximum(f0 / np.maximum((f0 - f1) / step, 1e-9), -most), most), 0.0)
            # A limit that sets in between bends the line, and Newton's steps went astray.
        rolling = np.maximum(-self.vehicle.mass_kg * self.vehicle.gravity_m_s2 * (self.leg.grade + self.leg.rolling), 0.0)
        high = self.machine.no_load_speed(self.source, self.motor) * 1.02
        high = high + np.sqrt(2.0 * rolling / (self.vehicle.air_density_kg_m3 * self.vehicle.drag_area_m2)) + np.zeros(self.shape)
        return first_zero(lambda speed: self.gripped(speed)[0], high)

    def phase(self, kind: PhaseKind, *points: Number) -> Phase:
        """A phase from its points in the order of its fields, from the time on, widened to one shape."""
        shape = (len(points[0]), *self.shape)
        whole = [values if np.shape(values) == shape else np.broadcast_to(values, shape) for values in points]
        return Phase(kind, self.leg, self.vehicle, *whole)


def _over_speed(start: Number, target: Number, points: Number, acceleration: Callable[[Number], tuple[Number, Any]]) -> tuple[Number, Number, Number, Any]:
    """Speeds between start and target [m/s] with seconds and metres from the start, and what else `acceleration` [m/s²] gives at them.

    An acceleration that points the wrong way, or is next to none, counts as 1 mm/s² the right way.
    """
    speed = start + points.reshape((-1,) + (1,) * np.ndim(start + target)) * (target - start)
    a, rest = acceleration(speed)
    toward = np.where(target >= start, 1.0, -1.0)
    safe = np.maximum(a * toward, 1e-3)
    steps = np.abs(np.diff(speed, axis=0)) * mean_inverse(safe[:-1], safe[1:])
    return speed, running_sum(steps), running_sum(steps * (speed[1:] + speed[:-1]) / 2.0), rest


def _cut(progress: Number, speed: Number, room: Number, timed: bool) -> Number | None:
    """Speed at which the room is used up [m/s], the last one where it is not; None when it is not in any column.

    Between two points the acceleration hardly changes: the speed goes with the time, its square with the distance.
    """
    over = progress > room
    if not bool(over.any()):
        return None
    index = np.maximum(np.where(over.any(axis=0), over.argmax(axis=0), len(speed) - 1), 1)
    low, high = pick(progress, index - 1), pick(progress, index)
    share = np.minimum(np.maximum((room - low) / np.where(high > low, high - low, 1.0), 0.0), 1.0)
    first, second = pick(speed, index - 1), pick(speed, index)
    there = first + share * (second - first) if timed else np.sqrt(first * first + share * (second * second - first * first))
    return np.where(over.any(axis=0), there, speed[-1])


def _ridden(
    state: _State, rider: Rider, start: Number, target: Number, room: Number, acceleration: Callable[[Number], tuple[Number, Any]]
) -> tuple[Number, Number, Number, Any]:
    """`_over_speed` toward a target, no farther than the leg's room [m or s] with what braking to its stop takes."""

    timed = state.leg.time_s is not None

    def needed(speed: Number, time: Number, distance: Number) -> Number:
        reserve: Number = 0.0
        if state.leg.stop_s is not None:
            b = rider.brake_m_s2
            reserve = speed / b if timed else speed * speed / (2.0 * b)
        return (time if timed else distance) + reserve

    found = _over_speed(start, target, rider.points, acceleration)
    for _ in range(2):
        speed, time, distance, _ = found
        cut = _cut(needed(speed, time, distance), speed, room, timed)
        if cut is None:
            break
        found = _over_speed(start, cut, rider.points, acceleration)
        if float(np.max(np.abs(needed(*found[:3])[-1] - room) * (cut != speed[-1]))) < 1e-3 * float(np.max(room)):
            break
    return found


def _throttle(state: _State, rider: Rider, start: Number, target: Number, room: Number) -> Phase:
    """Full throttle from a speed toward another, up or, where the hill takes it, down."""
    machine, source, motor, vehicle = state.machine, state.source, state.motor, state.vehicle

    def acceleration(speed: Number) -> tuple[Number, Any]:
        a, spins, load = state.gripped(speed)
        return a, (spins, load)

    speed, time, distance, (spins, load) = _ridden(state, rider, start, target, room, acceleration)
    omega = vehicle.omega(speed)
    point = full_throttle(source.open_v, state.source_ohm, motor, machine.control, omega)
    motor_a, pack_a = point.motor_a, point.pack_a
    if bool(np.any(spins)):
        grip_a = motor_a_for_force(vehicle, motor, vehicle.friction * load)
        spun_a = slipping_pack_a(source.open_v, state.source_ohm, machine.control, grip_a)
        motor_a, pack_a = np.where(spins, grip_a, motor_a), np.where(spins, spun_a, pack_a)
        omega = np.where(spins, _spun_omega(state, grip_a, spun_a), omega)
    return state.phase("throttle", time, distance, speed, omega, motor_a, pack_a, 0.0, point.limit)


def _spun_omega(state: _State, motor_a: Number, pack_a: Number) -> Number:
    """Motor speed at which full throttle gives the amps the grip holds, `(η·V_b·I_b/I − R·I)/k`. [rad/s]"""
    control = state.machine.control
    drawn = pack_a - control.idle_a
    volts = control.efficiency * (state.source.open_v - pack_a * state.source_ohm) * drawn / np.maximum(motor_a, 1e-9)
    return np.maximum(volts - state.motor.loop_ohm * motor_a, 0.0) / state.motor.k_v_s


def _hold(state: _State, speed: Number, seconds: Number) -> list[Phase]:
    """A steady speed for some seconds by part throttle; downhill the brakes, or regeneration, hold it.

    Without a controller the pedal goes down and up: as long down as makes the wanted push on average.
    """
    machine, vehicle, motor = state.machine, state.vehicle, state.motor
    needed, omega = state.resistance(speed), vehicle.omega(speed)
    if machine.control.kind == "none":
        full = state.amps(speed)
        rolling, pushed = state.push(0.0), state.push(full)
        down = np.clip((needed - rolling) / np.where(pushed > rolling, pushed - rolling, np.inf), 0.0, 1.0)
        held = np.maximum(rolling - needed, 0.0)
        return [_steady(state, speed, seconds * down, full, full, 0.0), _steady(state, speed, seconds * (1.0 - down), 0.0, 0.0, held)]
    # What full throttle cannot give is not drawn either.
    wanted = np.minimum(motor_a_for_force(vehicle, motor, needed), state.amps(speed) * (1.0 + 5.0 * NEAR))
    driving, drawn = wanted > 0.0, np.maximum(wanted, 0.0)
    motor_a, brake = drawn, 0.0 * drawn
    pack = part_throttle(state.source.open_v, state.source_ohm, motor, machine.control, omega, drawn).pack_a
    if not bool(np.all(driving)):
        back_a, back_pack = braking_motor_a(state.source.open_v, state.source_ohm, motor, machine.control, omega, -wanted)
        motor_a, pack = np.where(driving, drawn, back_a), np.where(driving, pack, back_pack)
        brake = np.where(driving, 0.0, np.maximum(state.push(back_a) - needed, 0.0))
    return [_steady(state, speed, seconds, motor_a, pack, brake)]


def _steady(state: _State, speed: Number, seconds: Number, motor_a: Number, pack_a: Number, brake_n: Number) -> Phase:
    """Two points of a stretch on which nothing changes."""
    two = np.stack([np.zeros(state.shape), np.broadcast_to(seconds, state.shape)])
    return state.phase("hold", two, two * speed, speed, state.vehicle.omega(speed), motor_a, pack_a, brake_n, THROTTLE)


def _coast(state: _State, rider: Rider, start: Number, room: Number) -> Phase:
    """The throttle let go: the slope, the ground, the air and the motor's own drag decide, down to a walk."""
    vehicle = state.vehicle

    def released(speed: Number) -> tuple[Number, Any]:
        back, pack = braking_motor_a(state.source.open_v, state.source_ohm, state.motor, state.machine.control, vehicle.omega(speed), np.inf)
        return (state.push(back) - state.resistance(speed)) / vehicle.effective_mass_kg, (back, pack)

    # Without regeneration only the air grows with the speed, and with it the terminal speed is below that.
    drives = np.maximum(state.push(0.0) - state.resistance(0.0), 0.0)
    rolls = np.sqrt(drives / (0.5 * vehicle.air_density_kg_m3 * vehicle.drag_area_m2)) + np.zeros(state.shape)
    if state.machine.control.regen_a is not None:
        # Regeneration holds most where it first gets its amps, and less the faster the motor turns: there may be a pace above which a slope
        # wins over it again. It goes from where it is to the next balance.
        faster = np.where(released(start)[0] > 0.0, 1.0, -1.0)
        span = np.where(faster > 0.0, np.maximum(rolls + 0.1 - start, 0.0), start)
        rolls = start + faster * first_zero(lambda by: faster * released(start + faster * by)[0], span)
    target = np.maximum(np.where(rolls > start, rolls * (1.0 - NEAR), rolls * (1.0 + NEAR)), np.minimum(start, WALKING_M_S))
    speed, time, distance, (motor_a, pack_a) = _ridden(state, rider, start, target, room, released)
    return state.phase("coast", time, distance, speed, vehicle.omega(speed), motor_a, pack_a, 0.0, THROTTLE)


def _brake(state: _State, rider: Rider, start: Number, end: Number) -> Phase:
    """The brakes from one speed down to another at their deceleration, or what ground, slope and motor alone take where that is more."""
    vehicle, motor = state.vehicle, state.motor
    mass = vehicle.effective_mass_kg

    def slows(speed: Number) -> tuple[Number, Any]:
        return -np.maximum(rider.brake_m_s2, (state.resistance(speed) - state.push(0.0)) / mass), None

    speed, time, distance, _ = _over_speed(start, np.minimum(end, start), _EVEN, slows)
    wanted = -mass * slows(speed)[0] - state.resistance(speed)
    motor_a, pack_a = braking_motor_a(
        state.source.open_v, state.source_ohm, motor, state.machine.control, vehicle.omega(speed), -motor_a_for_force(vehicle, motor, -wanted)
    )
    brake = np.maximum(wanted + state.push(motor_a), 0.0)
    return state.phase("brake", time, distance, speed, vehicle.omega(speed), motor_a, pack_a, brake, THROTTLE)


def _stand(state: _State, seconds: Number) -> Phase:
    """Standing: only the idle current flows."""
    zero = np.zeros((2, *state.shape))
    time = np.stack((zero[0], zero[1] + seconds))
    return state.phase("stand", time, zero, zero, zero, zero, zero + state.machine.control.idle_a, zero, np.full_like(zero, THROTTLE))


def ride_round(
    machine: Machine, source: Source, motors: Sequence[MotorConstants], legs: Sequence[Leg], start_m_s: Number, rider: Rider, balances: dict[int, Number] | None = None
) -> list[list[Phase]]:
    """The phases of every leg of one round, from a speed [m/s] of the shape of the columns. The charge stays.

    motors: the motor as warm as it works on each leg. balances: speeds at which full throttle just holds on each leg [m/s], from a
    round close by; filled in and brought up to date here.
    """
    speed, found = np.asarray(start_m_s, dtype=float), []
    known = {} if balances is None else balances
    for number, (leg, motor) in enumerate(zip(legs, motors, strict=True)):
        state = _State(machine, source, motor, leg, speed.shape)
        phases = _leg(state, rider, speed, known, number)
        found.append(phases)
        speed = phases[-1].speed_m_s[-1]
    return found


def _leg(state: _State, rider: Rider, speed: Number, balances: dict[int, Number], number: int) -> list[Phase]:
    leg, phases = state.leg, []
    room = np.zeros(speed.shape) + (leg.length_m if leg.length_m is not None else leg.time_s)

    def add(phase: Phase) -> None:
        nonlocal room, speed
        phases.append(phase)
        room = room - (phase.time_s[-1] if leg.time_s is not None else phase.distance_m[-1])
        speed = phase.speed_m_s[-1]

    starts = speed < STUCK_M_S
    if state.machine.control.ramp_s > 0.0 and bool(np.any(starts)):
        # A soft start costs as much as half its ramp without current: the momentum is the same.
        phases.append(_stand(state, np.where(starts, state.machine.control.ramp_s / 2.0, 0.0)))
    if leg.coasts:
        if bool(np.any(speed < WALKING_M_S)):
            add(_throttle(state, rider, speed, _reached(state, speed, np.maximum(speed, WALKING_M_S), balances, number), room))
        add(_coast(state, rider, speed, room))
        fails = state.gripped(speed)[0] < -BALANCED_M_S2
        if bool(np.any(fails & (speed <= WALKING_M_S))):
            # Too steep even for a walk with full throttle: it slows further.
            slower = _reached(state, speed, np.full(speed.shape, np.inf), balances, number)
            add(_throttle(state, rider, speed, np.where(fails & (speed <= WALKING_M_S), np.minimum(slower, speed), speed), np.maximum(room, 0.0)))
    else:
        aimed = np.full(speed.shape, np.inf) if leg.aimed_m_s is None else np.broadcast_to(leg.aimed_m_s, speed.shape)
        if bool(np.any(speed > aimed * 1.001)):
            add(_brake(state, rider, speed, np.minimum(aimed, speed)))
        target = _reached(state, speed, aimed, balances, number)
        if bool(np.any(np.abs(target - speed) > 1e-9)):
            add(_throttle(state, rider, speed, target, room))
    b = rider.brake_m_s2
    if leg.time_s is not None:
        left = room - (speed / b if leg.stop_s is not None else 0.0)
    else:
        left = (room - (speed * speed / (2.0 * b) if leg.stop_s is not None else 0.0)) / np.maximum(speed, STUCK_M_S)
    if bool(np.any(left > 1e-9)):
        for phase in _hold(state, speed, np.maximum(left, 0.0)):
            add(phase)
    if leg.stop_s is not None:
        add(_brake(state, rider, speed, 0.0 * speed))
        if leg.stop_s > 0.0:
            add(_stand(state, leg.stop_s))
    return phases


def _reached(state: _State, speed: Number, aimed: Number, balances: dict[int, Number], number: int) -> Number:
    """Where full throttle leads from a speed: the aimed one, or near the speed at which it just holds. [m/s]"""
    finite = np.isfinite(aimed)
    if bool(np.all(finite)) and bool(np.all(state.gripped(aimed)[0] > 0.0)):
        # Also from below all the way: a machine that holds the aimed speed on this slope gets there, unless grip fails it at the start.
        return np.maximum(aimed, STUCK_M_S)
    balances[number] = state.balance(balances.get(number))
    holds = np.maximum(balances[number], STUCK_M_S)
    near = np.where(holds > speed, np.maximum(holds * (1.0 - NEAR), np.minimum(speed, holds)), holds * (1.0 + NEAR))
    return np.where(finite & (holds >= aimed), aimed, near)
