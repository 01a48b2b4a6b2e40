"""What the rider does from moment to moment, what flows then, and how long a step of it may be."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from gecko.common.compiled import compiled, inlined
from gecko.physics.electric.operating_point import THROTTLE, UNDERVOLTAGE
from gecko.physics.ride.balance import Drive, Ground, Supply, Warm, amps_for, driven, effective_kg, full_throttle, held_back_n, let_go, part_throttle, push_n
from gecko.physics.ride.rig import WALKING_M_S, Array, Car, Cells, Legs

OPEN, HOLD, ROLL, SLOW, STOP, STAND = range(6)
"""What a rider does: full throttle, holding a speed, rolling, braking down to a speed or to a stand, standing."""


RAMP_STEPS = 8


class Fineness(NamedTuple):
    """How long a step may be: what it may change of the machine's pace [1], of the winding [K], of a unit's charge [1], its seconds [s], and
    its share of the time that has gone by [1]; and the charge that rounds like the one before may take without being ridden [1]."""

    of_pace: float
    winding_k: float
    charge: float
    most_s: float
    of_time: float
    left_out: float


FINE = Fineness(0.02, 1.0, 0.002, 5.0, 0.01, 0.01)
COARSE = Fineness(0.06, 3.0, 0.006, 15.0, 0.04, 0.05)
"""For a single ride; for hundreds of samples and candidates that are compared with each other."""


class Move(NamedTuple):
    """What the rider does now and what follows: what flows, brakes [N], share of the time the pedal is down and of the motor current a soft start lets
    through [1]; acceleration now and when it goes `by` faster [m/s², m/s], and the speed this leads to at most [m/s]."""

    doing: int
    drive: Drive
    brake_n: float
    down: float
    opened: float
    acceleration: float
    ahead: float
    by: float
    goal: float


class Step(NamedTuple):
    """A step: seconds, what it changes the speed by [m/s], metres."""

    dt: float
    changed: float
    metres: float


@inlined
def _needs(slows: float, timed: bool, speed: float) -> float:
    """What stopping from a speed [m/s] takes of a leg [m, or s where the leg is timed]."""
    return speed / slows if timed else speed * speed / (2.0 * slows)


@inlined
def doing_now(car: Car, legs: Legs, leg: int, timed: bool, speed: float, room: float, stands_s: float, before: int) -> int:
    """What the rider does now, after what he did before. room: what is left of the leg [m or s]; stands_s: what is left of the stop at its end,
    -1 before it [s].

    Derived here: the rider holds the aimed speed, and brakes as late as may be.
    """
    if stands_s >= 0.0:
        return STAND
    if legs.stop_s[leg] >= 0.0 and speed > 0.0 and (before == STOP or room <= _needs(car.brake_m_s2, timed, speed) * (1.0 + 1e-9)):
        return STOP
    if legs.coasts[leg]:
        # A rider who has coasted down to a walk goes on with the throttle at that pace.
        return OPEN if speed < WALKING_M_S * (1.0 - 1e-9) else HOLD if speed <= WALKING_M_S * (1.0 + 1e-9) else ROLL
    aimed = legs.aimed_m_s[leg]
    return SLOW if speed > aimed * (1.0 + 1e-6) else HOLD if speed >= aimed * (1.0 - 1e-9) else OPEN


@compiled
def _holds(car: Car, at: Supply, motor: Warm, ground: Ground, speed: float) -> tuple[bool, Drive, float, float]:
    """Holding a speed [m/s]: whether that can be done, what flows, the brakes [N], and for which share of the time the pedal is down [1].

    Downhill regeneration or the brakes hold it. Without a controller the pedal goes down and up.
    """
    omega = speed * car.turn_per_m
    held = held_back_n(car, ground, speed)
    wanted = amps_for(car, motor, held)
    full = full_throttle(car, at, motor, ground.duty_max, omega)
    if wanted > full.motor_a * (1.0 + 1e-9):
        return False, full, 0.0, 1.0
    if car.direct:
        rolling_n, pushed_n = push_n(car, motor, 0.0), push_n(car, motor, full.motor_a)
        down = min(max((held - rolling_n) / (pushed_n - rolling_n), 0.0), 1.0) if pushed_n > rolling_n else 0.0
        return True, full, max(rolling_n - held, 0.0), down
    if wanted > 0.0:
        return True, part_throttle(car, at, motor, omega, wanted, THROTTLE), 0.0, 1.0
    back = let_go(car, at, motor, omega, -wanted)
    return True, back, max(push_n(car, motor, back.motor_a) - held, 0.0), 1.0


@compiled
def _rolls(car: Car, at: Supply, motor: Warm, ground: Ground, speed: float) -> tuple[float, Drive]:
    """Acceleration with the throttle let go [m/s²], and what flows."""
    drive = let_go(car, at, motor, speed * car.turn_per_m, np.inf)
    return (push_n(car, motor, drive.motor_a) - held_back_n(car, ground, speed)) / effective_kg(car), drive


@compiled
def _brakes(car: Car, at: Supply, motor: Warm, ground: Ground, speed: float, slows: float) -> tuple[float, Drive]:
    """Brakes that slow it by so much [m/s²] beside regeneration [N], and what flows."""
    held, wanted = held_back_n(car, ground, speed), slows * effective_kg(car)
    drive = let_go(car, at, motor, speed * car.turn_per_m, -amps_for(car, motor, held - wanted))
    return max(wanted - held + push_n(car, motor, drive.motor_a), 0.0), drive


@inlined
def worked_out(car: Car, legs: Legs, leg: int, at: Supply, motor: Warm, ground: Ground, speed: float, does: int, open_s: float) -> Move:
    """What the rider does, worked out. open_s: for how long the throttle has been open since it stood [s].

    Derived here: `driven`, `_holds`, `_rolls` and `_brakes` by what the rider does.
    """
    by, aimed = max(1e-3 * speed, 1e-4), WALKING_M_S if legs.coasts[leg] else legs.aimed_m_s[leg]
    if does == STAND:
        return Move(STAND, Drive(0.0, car.idle_a, 0.0, THROTTLE), 0.0, 1.0, 1.0, 0.0, 0.0, by, 0.0)
    if does == HOLD:
        can, drive, brake_n, down = _holds(car, at, motor, ground, speed)
        if can:
            return Move(HOLD, drive, brake_n, down, 1.0, 0.0, 0.0, by, speed)
    if does == ROLL:
        acceleration, drive = _rolls(car, at, motor, ground, speed)
        ahead, _ = _rolls(car, at, motor, ground, speed + by)
        return Move(ROLL, drive, 0.0, 1.0, 1.0, acceleration, ahead, by, WALKING_M_S)
    if does in (SLOW, STOP):
        free = (held_back_n(car, ground, speed) - push_n(car, motor, 0.0)) / effective_kg(car)
        slows = max(car.brake_m_s2, free)
        brake_n, drive = _brakes(car, at, motor, ground, speed, slows)
        return Move(does, drive, brake_n, 1.0, 1.0, -slows, -slows, by, aimed if does == SLOW else 0.0)
    # A soft start lets the current rise; in the middle of a step it has risen by half of that.
    opened = min((open_s + car.ramp_s / (2.0 * RAMP_STEPS)) / car.ramp_s, 1.0) if open_s < car.ramp_s else 1.0
    acceleration, drive = driven(car, at, motor, ground, speed, opened)
    ahead, _ = driven(car, at, motor, ground, speed + by, opened)
    # A step ends where the speed passes one below which time counts towards an end.
    level = legs.half_m_s[leg] if drive.limit == UNDERVOLTAGE else legs.climb_m_s[leg]
    falls = acceleration < 0.0 and speed > level * (1.0 + 1e-6)
    rises = acceleration > 0.0 and speed < level * (1.0 - 1e-6)
    return Move(OPEN, drive, 0.0, 1.0, opened, acceleration, ahead, by, level if falls or (rises and level < aimed) else aimed)


@inlined
def in_the_middle(car: Car, at: Supply, motor: Warm, ground: Ground, move: Move, speed: float) -> Move:
    """The same move with what flows at the speed in the middle of its step [m/s].

    Source: midpoint rule.
    """
    drive, brake_n = move.drive, move.brake_n
    if move.doing == OPEN:
        _, drive = driven(car, at, motor, ground, speed, move.opened)
    elif move.doing == ROLL:
        _, drive = _rolls(car, at, motor, ground, speed)
    elif move.doing in (SLOW, STOP):
        brake_n, drive = _brakes(car, at, motor, ground, speed, -move.acceleration)
    return Move(move.doing, drive, brake_n, move.down, move.opened, move.acceleration, move.ahead, move.by, move.goal)


@inlined
def _step(move: Move, speed: float, dt: float) -> Step:
    """A step of dt [s] from a speed [m/s]: with an acceleration that is a straight line in the speed, that is an exponential."""
    x = (move.ahead - move.acceleration) / move.by * dt
    grown = (math.exp(x) - 1.0) / x if abs(x) > 1e-6 and x < 30.0 else 1.0
    changed = move.acceleration * dt * grown
    # Where an exponential is steep, the mean speed is nearer to where it ends.
    mean = speed + move.acceleration * dt * ((grown - 1.0) / x if abs(x) > 1e-3 and x < 30.0 else 0.5)
    return Step(dt, changed, mean * dt)


@inlined
def warming_k_s(car: Car, move: Move, motor: Warm, over_case_k: float) -> float:
    """How fast the winding warms, so many kelvin over the case [K]. [K/s]

    Derived here: the winding's row of the two-node model.
    """
    copper = move.down * move.drive.motor_a * move.drive.motor_a * motor.winding_ohm / car.motor_count
    return (copper - over_case_k * car.winding_to_case_w_per_k) / car.winding_j_per_k


@inlined
def longest_step_s(cells: Cells, car: Car, move: Move, fine: Fineness, rises_k_s: float, rows_a: Array, row_ohm: Array) -> float:
    """How long a step may be, so that nothing changes much within it. rises_k_s: of the winding [K/s]. [s]

    Shares a step may change are planning values of this project, checked by halving them; unlike rows by their time constant `R·Q/(dV/ds)`.
    """
    dt = fine.most_s
    if move.acceleration != 0.0:
        # Brakes alone are a straight line; regeneration bends it.
        pace = fine.of_pace * (5.0 if move.doing >= SLOW and car.regen_a <= 0.0 else 1.0)
        dt = min(dt, pace * car.pace_m_s / abs(move.acceleration))
    if move.doing == OPEN and move.opened < 1.0:
        dt = min(dt, car.ramp_s / RAMP_STEPS)
    dt = min(dt, fine.winding_k / max(abs(rises_k_s), 1e-9))
    for u in range(cells.in_series.size):
        dt = min(dt, fine.charge * cells.capacity_as[u] / max(abs(rows_a[cells.row_of[u]]), 1e-9))
        if rows_a.size > 1:
            # Unlike rows settle among each other, within R·Q over the steepest fall of their volts.
            dt = min(dt, 0.3 * row_ohm[cells.row_of[u]] * cells.capacity_as[u] / (cells.steepest_v[u] * cells.in_series[u]))
    return dt


@inlined
def trimmed(car: Car, move: Move, speed: float, room: float, timed: bool, stops: bool, longest_s: float) -> Step:
    """The step, no farther than its aim, the leg's end, or where braking has to begin. room: what is left of the leg [m or s].

    Derived here: shares of the step by straight lines, repeated as the step is not quite one.
    """
    # Braking to a stand ends where it stands, not where the numbers say that the leg is used up.
    stopping = move.doing == STOP
    step = _step(move, speed, min(longest_s, room) if timed and not stopping else longest_s)
    for _ in range(4):
        share = 1.0
        toward = move.goal - speed
        if move.doing != HOLD and toward * step.changed > 0.0 and abs(step.changed) > abs(toward) * (1.0 + 1e-9):
            share = toward / step.changed
        if speed + step.changed < 0.0:
            share = min(share, -speed / step.changed)
        if not (timed or stopping) and step.metres > room * (1.0 + 1e-9):
            share = min(share, room / step.metres)
        if stops and not stopping:
            before = room - _needs(car.brake_m_s2, timed, speed)
            after = room - (step.dt if timed else step.metres) - _needs(car.brake_m_s2, timed, max(speed + step.changed, 0.0))
            if after < -1e-9 * room and before > 0.0:
                share = min(share, before / (before - after))
        if share >= 1.0:
            break
        step = _step(move, speed, step.dt * share)
    reached = move.doing != HOLD and math.isfinite(move.goal) and abs(speed + step.changed - move.goal) <= 1e-4 * move.goal + 1e-9
    return Step(step.dt, move.goal - speed if reached else step.changed, step.metres)
