"""A ride marched in time, compiled: step by step until the first thing that ends it.

Each step is one of what a rider does: full throttle, holding a speed, rolling, braking, standing. Speeds follow the balance of push and
resistance (an exponential step, exact where that balance is a straight line, so that a speed that has settled takes long steps),
the charge of each unit group its own current, winding and case the exact solution of the two nodes.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from gecko.compiled import compiled
from gecko.electric.operating_point import THROTTLE, UNDERVOLTAGE
from gecko.heat.motor import WINDING_CAUTION_C, WINDING_STOP_C
from gecko.ride.balance import (
    Drive,
    Ground,
    Supply,
    Warm,
    amps_for,
    driven,
    effective_kg,
    full_throttle,
    gives_as,
    ground_of,
    held_back_n,
    let_go,
    part_throttle,
    push_n,
    row_amps,
    slow_after,
    supply,
    two_nodes,
    unit_now,
    warm_motor,
    weakening_a,
)
from gecko.ride.rig import WALKING_M_S, Array, Car, Cells, Legs

OPEN, HOLD, ROLL, SLOW, STOP, STAND = range(6)
"""What a rider does: full throttle, holding a speed, rolling, braking down to a speed or to a stand, standing."""
GUARD, LOW_VOLTS, FOLDBACK, EMPTY, HOT, TRIP, STUCK, LONG, ROUNDS = range(9)
"""What ends a ride; `record.END_NAMES` has the words. The last is no end: as many rounds as were asked for."""
FOLDBACK_S = 10.0
STUCK_S = 10.0
"""Held below half the meant speed by the low cut-off, or creeping with the throttle open, for so long: the ride is over. [s]"""
LONGEST_S, MOST_STEPS = 24.0 * 3600.0, 3_000_000
"""No ride is followed for longer, or in more steps. [s, 1]"""
SPANS = 256
"""A ride's trace has at most so many points: where it would have more, pairs of them become one. [1]"""
FIRST_SPAN_S = 2.0
RAMP_STEPS, LEAST_S, SLOW_STEP_S = 8, 0.05, 0.5
SPEED_PART = 12
"""Number of the part of the energy that goes into speed, the last of `record.PARTS`. [1]"""


class Fineness(NamedTuple):
    """How long a step may be: what it may change of the machine's pace [1], of the winding [K], of a unit's charge [1], its seconds [s], and
    its share of the time that has gone by [1]."""

    of_pace: float
    winding_k: float
    charge: float
    most_s: float
    of_time: float


FINE = Fineness(0.02, 1.0, 0.002, 5.0, 0.01)
COARSE = Fineness(0.06, 3.0, 0.006, 15.0, 0.04)
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


class Before(NamedTuple):
    """The step before: what the rider did, how far the volts were above a level that ends the ride [V], and its seconds."""

    doing: int
    margin_v: float
    dt: float


class Start(NamedTuple):
    """How a ride begins: charge of each unit group [1], winding and case above the air [K], speed [m/s]."""

    soc: Array
    winding_k: float
    case_k: float
    speed_m_s: float


class Trace(NamedTuple):
    """A ride in at most `SPANS` spans, whole rounds where they are short: until when [s], metres [m], mean pack amps and the squares' sum [A, A²s],
    motor amps squared [A²s], lowest volts at controller and bank [V], winding at its hottest and at the end, case at the end [K above the air],
    rounds [1]; charge of each unit group [1] of shape (spans, groups)."""

    time_s: Array
    distance_m: Array
    pack_as: Array
    pack_a2s: Array
    motor_a2s: Array
    controller_v: Array
    bank_v: Array
    hottest_k: Array
    winding_k: Array
    case_k: Array
    rounds: Array
    soc: Array


class SoFar(NamedTuple):
    """A span of the trace that is not over yet: since when, and what it came to; units as in `Trace` [SI]."""

    since_s: float
    pack_as: float
    pack_a2s: float
    motor_a2s: float
    controller_v: float
    bank_v: float
    hottest_k: float


class Marched(NamedTuple):
    """What a ride came to: what ended it and when [s], metres [m], charge at the bank [As], energy at the controller [J], its fastest [m/s],
    most pack and motor amps [A], when the winding passed its caution and its stop [s, infinity: never], rounds ridden [1], energy of each
    of `record.PARTS` [J], and its trace, of which `spans` are filled."""

    end: int
    time_s: float
    distance_m: float
    pack_as: float
    controller_j: float
    fastest_m_s: float
    most_pack_a: float
    most_motor_a: float
    caution_s: float
    stop_s: float
    rounds: float
    energy_j: Array
    trace: Trace
    spans: int
    points: int


class Points(NamedTuple):
    """Every step of a ride, where that is asked for: seconds, metres, speed [m/s], pack and motor amps [A], controller volts [V], height
    climbed [m], what the rider does and which limit holds, and the leg."""

    time_s: Array
    place_m: Array
    speed_m_s: Array
    pack_a: Array
    motor_a: Array
    volts_v: Array
    climb_m: Array
    doing: Array
    limit: Array
    leg: Array


def points(most: int) -> Points:
    """Room for so many steps [1]; none: they are not kept."""
    return Points(*(np.zeros(most) for _ in Points._fields))


@compiled
def _needs(slows: float, timed: bool, speed: float) -> float:
    """What stopping from a speed [m/s] takes of a leg [m, or s where the leg is timed]."""
    return speed / slows if timed else speed * speed / (2.0 * slows)


@compiled
def _does(car: Car, legs: Legs, leg: int, timed: bool, speed: float, room: float, stands_s: float, before: int) -> int:
    """What the rider does now, after what he did before. room: what is left of the leg [m or s]; stands_s: what is left of the stop at its end,
    -1 before it [s]."""
    if stands_s >= 0.0:
        return STAND
    if legs.stop_s[leg] >= 0.0 and speed > 0.0 and (before == STOP or room <= _needs(car.brake_m_s2, timed, speed) * (1.0 + 1e-9)):
        return STOP
    if legs.coasts[leg]:
        # Who coasts to a walk pushes on with the throttle at this pace.
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


@compiled
def _move(car: Car, legs: Legs, leg: int, at: Supply, motor: Warm, ground: Ground, speed: float, does: int, open_s: float) -> Move:
    """What the rider does, worked out. open_s: for how long the throttle has been open since it stood [s]."""
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


@compiled
def _in_the_middle(car: Car, at: Supply, motor: Warm, ground: Ground, move: Move, speed: float) -> Move:
    """The same move with what flows at the speed in the middle of its step [m/s]."""
    drive, brake_n = move.drive, move.brake_n
    if move.doing == OPEN:
        _, drive = driven(car, at, motor, ground, speed, move.opened)
    elif move.doing == ROLL:
        _, drive = _rolls(car, at, motor, ground, speed)
    elif move.doing in (SLOW, STOP):
        brake_n, drive = _brakes(car, at, motor, ground, speed, -move.acceleration)
    return Move(move.doing, drive, brake_n, move.down, move.opened, move.acceleration, move.ahead, move.by, move.goal)


@compiled
def _step(move: Move, speed: float, dt: float) -> Step:
    """A step of dt [s] from a speed [m/s]: with an acceleration that is a straight line in the speed, that is an exponential."""
    x = (move.ahead - move.acceleration) / move.by * dt
    grown = (math.exp(x) - 1.0) / x if abs(x) > 1e-6 and x < 30.0 else 1.0
    changed = move.acceleration * dt * grown
    # Where an exponential is steep, the mean speed is nearer to where it ends.
    mean = speed + move.acceleration * dt * ((grown - 1.0) / x if abs(x) > 1e-3 and x < 30.0 else 0.5)
    return Step(dt, changed, mean * dt)


@compiled
def _rises_k_s(car: Car, move: Move, motor: Warm, over_case_k: float) -> float:
    """How fast the winding warms, so many kelvin over the case [K]. [K/s]"""
    copper = move.down * move.drive.motor_a * move.drive.motor_a * motor.winding_ohm / car.motor_count
    return (copper - over_case_k * car.winding_to_case_w_per_k) / car.winding_j_per_k


@compiled
def _longest_s(cells: Cells, car: Car, move: Move, fine: Fineness, rises_k_s: float, rows_a: Array, row_ohm: Array) -> float:
    """How long a step may be, so that nothing changes much within it. rises_k_s: of the winding [K/s]. [s]"""
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


@compiled
def _trimmed(car: Car, move: Move, speed: float, room: float, timed: bool, stops: bool, longest_s: float) -> Step:
    """The step, no farther than its aim, the leg's end, or where braking has to begin. room: what is left of the leg [m or s]."""
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


@compiled
def _unit_v(cells: Cells, u: int, charge: float, slow_v: float, own_a: float) -> float:
    """Volts at the terminals of a unit group at its current [A]. [V]"""
    open_v, ohm = unit_now(cells, u, charge)
    return open_v - slow_v - own_a * ohm


@compiled
def _margin_v(cells: Cells, car: Car, at: Supply, move: Move, soc: Array, slow_v: Array, rows_a: Array) -> float:
    """How far the volts are above a level that ends the ride, the guard's or that of a unit's own protection. [V]"""
    margin = np.inf
    if car.guard_v > 0.0:
        margin = at.open_v - move.down * move.drive.pack_a * at.ohm - car.guard_v + 0.01
    for u in range(soc.size):
        if cells.floor_v[u] > 0.0:
            margin = min(margin, _unit_v(cells, u, soc[u], slow_v[u], rows_a[cells.row_of[u]]) - cells.floor_v[u])
    return margin


@compiled
def _sooner(ends_s: float, end: int, passed: bool, still_s: float, name: int) -> tuple[float, int]:
    """What ends it within the step, and when: the earlier of what is known and of this, which has `still_s` to go [s]."""
    return (max(still_s, 0.0), name) if passed and still_s <= ends_s else (ends_s, end)


@compiled
def _crossed(before: float, after: float, level: float, dt: float) -> float:
    """When a trace that rises from one value to another over dt [s] passes a level, all in its unit; infinity: not. [s]"""
    return np.inf if after < level or before >= level else dt * (level - before) / (after - before)


@compiled
def march(cells: Cells, car: Car, legs: Legs, start: Start, most_rounds: float, fine: Fineness, mean_a: Array, kept: Points) -> Marched:
    """Ride the legs round and round until something ends it or so many rounds are done.

    mean_a: mean amps of each unit group over the round before [A], by which lead gives its amp-hours, brought up to date; below zero: by the
    amps of the moment. kept: every step is written there, as long as there is room.
    """
    groups, rows = start.soc.size, cells.row_count.size
    soc, slow_v, fall, trip_s, round_as = start.soc.copy(), np.zeros(groups), np.zeros(groups), np.zeros(groups), np.zeros(groups)
    row_v, row_ohm, rows_a = np.zeros(rows), np.zeros(rows), np.zeros(rows)
    winding, case, speed = start.winding_k, start.case_k, start.speed_m_s
    stop_k, caution_k = WINDING_STOP_C - car.ambient_c, WINDING_CAUTION_C - car.ambient_c
    trace, energy, so_far = _trace(groups), np.zeros(13), SoFar(0.0, 0.0, 0.0, 0.0, 1e9, 1e9, winding)
    time, distance, climb, pack_as, controller_j = 0.0, 0.0, 0.0, 0.0, 0.0
    fastest, most_pack, most_motor, caution_s, stop_s = speed, 0.0, 0.0, np.inf, np.inf
    low_s, fold_s, creep_s, open_s = 0.0, 0.0, 0.0, car.ramp_s
    span, width_s, round_from, round_s, written = 0, FIRST_SPAN_S, 0.0, 0.0, 0
    leg, rounds, stands, end, before = 0, 0.0, -1.0, -1, Before(-1, 0.0, 1.0)
    timed, room, ground = _begin(car, legs, leg)
    for steps in range(MOST_STEPS):
        if end >= 0:
            break
        at = supply(cells, car, soc, slow_v, row_v, row_ohm)
        motor = warm_motor(car, winding, case)
        stops = legs.stop_s[leg] >= 0.0
        does = _does(car, legs, leg, timed, speed, room, stands, before.doing)
        if does == OPEN and speed <= 0.0 and creep_s + fold_s <= 0.0:
            open_s = 0.0
        move = _move(car, legs, leg, at, motor, ground, speed, does, open_s)
        row_amps(cells, car, at, move.down * move.drive.pack_a, row_v, row_ohm, rows_a)
        rises_k_s = _rises_k_s(car, move, motor, winding - case)
        longest_s = _longest_s(cells, car, move, fine, rises_k_s, rows_a, row_ohm)
        if move.doing == OPEN and speed < legs.half_m_s[leg]:
            # Time may begin to count towards an end any moment.
            longest_s = min(longest_s, SLOW_STEP_S)
        longest_s = min(longest_s, LEAST_S + fine.of_time * time)
        # Where the volts come down to a level that ends the ride, the step ends there.
        margin_v = _margin_v(cells, car, at, move, soc, slow_v, rows_a)
        if move.doing == before.doing and 0.0 < margin_v < before.margin_v:
            longest_s = min(longest_s, max(margin_v / (before.margin_v - margin_v) * before.dt, LEAST_S))
        step = Step(min(longest_s, stands), 0.0, 0.0) if does == STAND else _trimmed(car, move, speed, room, timed, stops, longest_s)
        dt = max(step.dt, 1e-9)
        middle = step.metres / dt
        # Half way the winding has done half its rise, and the speed half its change.
        motor = warm_motor(car, winding + rises_k_s * dt / 2.0, case)
        if step.changed != 0.0:
            move = _in_the_middle(car, at, motor, ground, move, middle)
        drive = move.drive
        pack = move.down * drive.pack_a + (1.0 - move.down) * car.idle_a
        square = move.down * drive.motor_a * drive.motor_a
        weak = move.down * weakening_a(car, motor, drive, at.open_v - pack * at.ohm) ** 2
        square += weak
        pack += weak * motor.winding_ohm / (car.efficiency * (at.open_v - pack * at.ohm))
        volts, bank_volts = at.open_v - pack * at.ohm, at.open_v - pack * (at.ohm - car.path_ohm)
        row_amps(cells, car, at, pack, row_v, row_ohm, rows_a)
        other_w = abs(motor.k_v_s * drive.omega) * car.no_load_a / car.motor_count
        later_w, later_c = two_nodes(car, winding, case, square * motor.winding_ohm / car.motor_count, other_w, middle, dt)
        # What ends it within the step, if anything does: the earliest counts.
        ends_s, folds = dt, drive.limit == UNDERVOLTAGE
        if car.guard_v > 0.0:
            below = volts < car.guard_v - 0.01
            ends_s, end = _sooner(ends_s, end, below, car.guard_delay_s - low_s, GUARD)
            low_s = low_s + dt if below else 0.0
        below = move.doing == OPEN and folds and middle < legs.half_m_s[leg]
        ends_s, end = _sooner(ends_s, end, below, FOLDBACK_S - fold_s, FOLDBACK)
        fold_s = fold_s + dt if below else 0.0
        below = move.doing == OPEN and not folds and middle < legs.climb_m_s[leg]
        ends_s, end = _sooner(ends_s, end, below, STUCK_S - creep_s, STUCK)
        creep_s = creep_s + dt if below else 0.0
        hot_s = _crossed(winding, later_w, stop_k, dt)
        ends_s, end = _sooner(ends_s, end, hot_s <= dt, hot_s, HOT)
        caution_s, stop_s = min(caution_s, time + _crossed(winding, later_w, caution_k, dt)), min(stop_s, time + hot_s)
        for u in range(groups):
            own = rows_a[cells.row_of[u]]
            fall[u] = own / gives_as(cells, u, own if mean_a[u] < 0.0 else mean_a[u])
            if cells.floor_v[u] > 0.0 and _unit_v(cells, u, soc[u], slow_v[u], own) <= cells.floor_v[u]:
                ends_s, end = 0.0, LOW_VOLTS
            over = own > cells.trip_a[u]
            ends_s, end = _sooner(ends_s, end, over, cells.trip_delay_s[u] - trip_s[u], TRIP)
            trip_s[u] = trip_s[u] + dt if over else 0.0
            ends_s, end = _sooner(ends_s, end, fall[u] > 0.0, soc[u] / max(fall[u], 1e-12), EMPTY)
        ends_s, end = _sooner(ends_s, end, True, LONGEST_S - time if steps < MOST_STEPS - 1 else 0.0, LONG)
        if end >= 0:
            share = ends_s / dt
            step = Step(ends_s, share * step.changed, share * step.metres)
            later_w, later_c = winding + share * (later_w - winding), case + share * (later_c - case)
            dt = ends_s
        # It is taken.
        for u in range(groups):
            own = rows_a[cells.row_of[u]]
            soc[u] = min(soc[u] - fall[u] * dt, 1.0)
            round_as[u] += own * dt
            if cells.slow_share[u] > 0.0:
                slow_v[u] = slow_after(cells, u, soc[u], slow_v[u], own, dt)
        if written < kept.time_s.size:
            _keep(kept, written, time, distance, climb, speed, pack, volts, move, leg)
            written += 1
        _spend(energy, car, at, motor, ground, move, middle, pack, volts, square, dt)
        energy[SPEED_PART] += effective_kg(car) * step.changed * (speed + step.changed / 2.0)
        climb += step.metres * ground.grade
        before = Before(move.doing, margin_v, dt)
        time, distance, speed = time + dt, distance + step.metres, max(speed + step.changed, 0.0)
        winding, case = later_w, later_c
        open_s = min(open_s + dt, car.ramp_s) if move.doing == OPEN else car.ramp_s
        pack_as, controller_j = pack_as + pack * dt, controller_j + pack * volts * dt
        fastest, most_pack, most_motor = max(fastest, speed), max(most_pack, pack), max(most_motor, drive.motor_a)
        so_far = SoFar(
            so_far.since_s,
            so_far.pack_as + pack * dt,
            so_far.pack_a2s + pack * pack * dt,
            so_far.motor_a2s + square * dt,
            min(so_far.controller_v, volts),
            min(so_far.bank_v, bank_volts),
            max(so_far.hottest_k, winding),
        )
        # On along the course.
        turned = False
        room -= 0.0 if does == STAND else dt if timed else step.metres
        if does == STAND:
            stands -= dt
        elif stops and (speed <= 0.0 if move.doing == STOP else room <= 1e-9):
            speed, stands = 0.0, legs.stop_s[leg]
        if end < 0 and (-1e-9 <= stands <= 1e-9 or (not stops and room <= 1e-9)):
            stands, leg = -1.0, leg + 1
            if leg == legs.grade.size:
                leg, turned, rounds, round_s, round_from = 0, True, rounds + 1.0, time - round_from, time
                for u in range(groups):
                    mean_a[u] = round_as[u] / round_s if mean_a[u] >= 0.0 else mean_a[u]
                    round_as[u] = 0.0
                if rounds >= most_rounds:
                    end = ROUNDS
            timed, room, ground = _begin(car, legs, leg)
        # A point of the trace: after whole rounds, or within one that is long.
        long_round = max(round_s, time - round_from) > 8.0 * width_s
        if end >= 0 or (time - so_far.since_s >= width_s and (turned or long_round)):
            if span == SPANS - 1 and end < 0:
                span, width_s = _halved(trace, span), 2.0 * width_s
            _write(trace, span, time, distance, so_far, winding, case, rounds, soc)
            span, so_far = span + 1, SoFar(time, 0.0, 0.0, 0.0, 1e9, 1e9, winding)
    if rounds < 1.0 and time > 0.0:
        for u in range(groups):
            mean_a[u] = round_as[u] / time if mean_a[u] >= 0.0 else mean_a[u]
    return Marched(end, time, distance, pack_as, controller_j, fastest, most_pack, most_motor, caution_s, stop_s, rounds, energy, trace, span, written)


@compiled
def _begin(car: Car, legs: Legs, leg: int) -> tuple[bool, float, Ground]:
    """A leg as it begins: whether it is timed, how much of it there is [m or s], and its ground."""
    timed = math.isfinite(legs.time_s[leg])
    room = legs.time_s[leg] if timed else legs.length_m[leg]
    return timed, room, ground_of(car, legs.grade[leg], legs.rolling[leg], legs.friction[leg], legs.throttle[leg])


@compiled
def _trace(groups: int) -> Trace:
    """Room for the trace of a ride."""
    n = SPANS
    flat = np.zeros((11, n))
    return Trace(flat[0], flat[1], flat[2], flat[3], flat[4], flat[5], flat[6], flat[7], flat[8], flat[9], flat[10], np.zeros((n, groups)))


@compiled
def _write(trace: Trace, span: int, time: float, distance: float, so_far: SoFar, winding: float, case: float, rounds: float, soc: Array) -> None:
    """A span of the trace."""
    trace.time_s[span], trace.distance_m[span], trace.rounds[span] = time, distance, rounds
    trace.pack_as[span], trace.pack_a2s[span], trace.motor_a2s[span] = so_far.pack_as, so_far.pack_a2s, so_far.motor_a2s
    trace.controller_v[span], trace.bank_v[span] = so_far.controller_v, so_far.bank_v
    trace.hottest_k[span], trace.winding_k[span], trace.case_k[span] = so_far.hottest_k, winding, case
    for u in range(soc.size):
        trace.soc[span, u] = soc[u]


@compiled
def _copied(trace: Trace, to: int, first: int, last: int) -> None:
    """A span of the trace from the spans first to last."""
    trace.time_s[to], trace.distance_m[to], trace.rounds[to] = trace.time_s[last], trace.distance_m[last], trace.rounds[last]
    for sums in (trace.pack_as, trace.pack_a2s, trace.motor_a2s):
        sums[to] = sums[first : last + 1].sum()
    trace.controller_v[to] = trace.controller_v[first : last + 1].min()
    trace.bank_v[to] = trace.bank_v[first : last + 1].min()
    trace.hottest_k[to] = trace.hottest_k[first : last + 1].max()
    trace.winding_k[to], trace.case_k[to] = trace.winding_k[last], trace.case_k[last]
    for u in range(trace.soc.shape[1]):
        trace.soc[to, u] = trace.soc[last, u]


@compiled
def _halved(trace: Trace, filled: int) -> int:
    """Pairs of spans as one; how many there are then. [1]"""
    half = (filled + 1) // 2
    for k in range(half):
        _copied(trace, k, 2 * k, min(2 * k + 1, filled - 1))
    return half


@compiled
def _keep(kept: Points, n: int, time: float, distance: float, climb: float, speed: float, pack: float, volts: float, move: Move, leg: int) -> None:
    """A step, as it begins."""
    kept.time_s[n], kept.place_m[n], kept.climb_m[n], kept.speed_m_s[n] = time, distance, climb, speed
    kept.pack_a[n], kept.motor_a[n], kept.volts_v[n] = pack, move.drive.motor_a, volts
    kept.doing[n], kept.limit[n], kept.leg[n] = move.doing, move.drive.limit, leg


@compiled
def _spend(energy: Array, car: Car, at: Supply, motor: Warm, ground: Ground, move: Move, speed: float, pack: float, volts: float, square: float, dt: float) -> None:
    """Add what a step takes of each of `record.PARTS` but the last, each from its own formula, none as what is left over. [J]"""
    drive, bank_ohm = move.drive, at.ohm - car.path_ohm
    # A pedal that goes down and up heats by the amps while it is down.
    heats = move.down * drive.pack_a * drive.pack_a + (1.0 - move.down) * car.idle_a * car.idle_a
    drawn = pack - car.idle_a
    lost = ((1.0 - car.efficiency) * drawn if drawn >= 0.0 else (1.0 - 1.0 / car.efficiency) * drawn) + car.idle_a
    shaft = motor.k_v_s * (move.down * drive.motor_a - car.no_load_a) * drive.omega
    push = move.down * push_n(car, motor, drive.motor_a) + (1.0 - move.down) * push_n(car, motor, 0.0)
    rim = drive.omega / car.turn_per_m
    weight = car.mass_kg * car.gravity_m_s2 / math.sqrt(1.0 + ground.grade * ground.grade)
    powers = (
        at.open_v * pack,
        heats * bank_ohm,
        heats * car.path_ohm + square * car.lead_ohm,
        volts * lost,
        square * motor.winding_ohm,
        motor.k_v_s * car.no_load_a * drive.omega,
        shaft - push * rim,
        push * (rim - speed),
        (ground.held_n - weight * ground.grade) * speed,
        car.drag_n_s2_m2 * speed * speed * speed,
        weight * ground.grade * speed,
        move.brake_n * speed,
    )
    for k in range(SPEED_PART):
        energy[k] += powers[k] * dt
