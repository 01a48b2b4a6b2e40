"""A ride marched in time, compiled: step by step until the first thing that ends it.

Each step is one of what a rider does: full throttle, holding a speed, rolling, braking, standing. Speeds follow the balance of push and
resistance (an exponential step, exact where that balance is a straight line, so that a speed that has settled takes long steps),
the charge of each unit group its own current, winding and case the exact solution of the two nodes.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from gecko.common.compiled import borrowed, compiled, inlined
from gecko.common.figures import Number
from gecko.physics.electric.operating_point import UNDERVOLTAGE
from gecko.physics.heat.motor import WINDING_CAUTION_C, WINDING_STOP_C
from gecko.physics.ride.balance import Ground, Supply, Warm, effective_kg, ground_of, push_n, row_amps, slow_after, supply, two_nodes, warm_motor, weakening_a
from gecko.physics.ride.ends import ROUNDS, Waits, crossed_s, lasted, machine_ends, margin_over_ends_v, margin_under_trips_a, meets_s, nearest_end, packs_end
from gecko.physics.ride.moves import OPEN, STAND, STOP, Fineness, Move, Step, doing_now, in_the_middle, longest_step_s, trimmed, warming_k_s, worked_out
from gecko.physics.ride.record import WARM_S
from gecko.physics.ride.repeat import NOT_YET, Round, charges, leave_out
from gecko.physics.ride.rig import Array, Car, Cells, Legs, Rigs, legs_at, rig_at
from gecko.physics.ride.trace import (
    FIRST_SPAN_S,
    SPANS,
    Points,
    Span,
    Sums,
    Trace,
    borrowed_trace,
    halved,
    hottest_k,
    hottest_mean,
    keep_point,
    room_for_trace,
    write_span,
)

LONGEST_S, MOST_STEPS = 24.0 * 3600.0, 3_000_000
"""No ride is followed for longer, or in more steps. [s, 1]"""


SPEED_PART = 12
"""Number of the part of the energy that goes into speed, the last of `record.PARTS`. [1]"""


LEAST_S, SLOW_STEP_S = 0.05, 0.5


class Before(NamedTuple):
    """The step before: what the rider did, how far the volts were above a level that ends the ride [V] and the amps of a unit group below those its
    protection opens at [A], and its seconds."""

    doing: int
    margin_v: float
    margin_a: float
    dt: float


class Start(NamedTuple):
    """How a ride begins: charge of each unit group [1], winding and case above the air [K], speed [m/s]."""

    soc: Array
    winding_k: float
    case_k: float
    speed_m_s: float


class Figures(NamedTuple):
    """What a ride came to, or many rides, an entry each: number of what ended it, seconds, metres, charge at the bank [As], energy at the controller
    [J], its fastest [m/s], most pack and motor amps, RMS amps over the hottest ten minutes [A], the hottest winding within `WARM_S` [K above the
    air], when it passed its caution and its stop [s, infinity: never], rounds ridden [1], energy of each of `record.PARTS` [J] on the last axis."""

    end: Number
    time_s: Number
    distance_m: Number
    pack_as: Number
    controller_j: Number
    fastest_m_s: Number
    most_pack_a: Number
    most_motor_a: Number
    rms_pack_a: Number
    rms_motor_a: Number
    warm_k: Number
    caution_s: Number
    stop_s: Number
    rounds: Number
    energy_j: Array


class Marched(NamedTuple):
    """A ride: its figures, its trace, of which `spans` are filled, and how many points were kept."""

    figures: Figures
    trace: Trace
    spans: int
    points: int


class Space(NamedTuple):
    """Room for a ride while it is marched, kept by whoever has it marched: five entries a unit group, three a kind of row, one for each of
    `record.PARTS`, and its trace."""

    by_unit: Array
    by_row: Array
    by_part: Array
    trace: Trace


@compiled
def space_for(cells: Cells) -> Space:
    """Room for one ride after the other with a bank of such groups and rows. [1]"""
    groups, rows = cells.in_series.size, cells.row_count.size
    return Space(np.zeros((5, groups)), np.zeros((3, rows)), np.zeros(SPEED_PART + 1), room_for_trace(groups))


@compiled
def march(cells: Cells, car: Car, legs: Legs, start: Start, most_rounds: float, fine: Fineness, mean_a: Array, kept: Points, space: Space) -> Marched:
    """Ride the legs round and round until something ends it or so many rounds are done.

    mean_a: mean amps of each unit group over the round before [A], by which lead gives its amp-hours, brought up to date; below zero: by the
    amps of the moment. kept: every step is written there, as long as there is room. space: what it is marched in, which the figures and the
    trace then stand in.

    Source: the midpoint rule, of second order in the step; a straight line between margins finds the ends within a step. Checked against a plain
    march of its own in `tests/judge.py`.
    """
    groups = start.soc.size
    # Arrays the caller keeps alive are used without reference counting.
    soc, slow_v, fall = borrowed(space.by_unit[0]), borrowed(space.by_unit[1]), borrowed(space.by_unit[2])
    trip_s, round_as = borrowed(space.by_unit[3]), borrowed(space.by_unit[4])
    row_v, row_ohm, rows_a = borrowed(space.by_row[0]), borrowed(space.by_row[1]), borrowed(space.by_row[2])
    trace, energy, sums = borrowed_trace(space.trace), borrowed(space.by_part), Sums(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0)
    soc[:], slow_v[:], fall[:], trip_s[:], round_as[:], energy[:] = start.soc, 0.0, 0.0, 0.0, 0.0, 0.0
    winding, case, speed = start.winding_k, start.case_k, start.speed_m_s
    charge, last = charges(soc, slow_v, energy), NOT_YET
    span, this = Span(sums, 1e9, 1e9, winding), Round(sums, winding, case, winding, np.inf, 0.0, False)
    fastest, most_pack, most_motor, caution_s, stop_s = speed, 0.0, 0.0, np.inf, np.inf
    waits, open_s = Waits(0.0, 0.0, 0.0), car.ramp_s
    spans, width_s, round_s, written, most_points = 0, FIRST_SPAN_S, 0.0, 0, kept.time_s.size
    leg, rounds, stands, end, before = 0, 0.0, -1.0, -1, Before(-1, 0.0, 0.0, 1.0)
    timed, room, ground = _begin(car, legs, leg)
    for steps in range(MOST_STEPS):
        if end >= 0:
            break
        # What the rider does, and what flows.
        at = supply(cells, car, soc, slow_v, row_v, row_ohm)
        motor = warm_motor(car, winding, case)
        stops = legs.stop_s[leg] >= 0.0
        does = doing_now(car, legs, leg, timed, speed, room, stands, before.doing)
        if does == OPEN and speed <= 0.0 and waits.creep_s + waits.fold_s <= 0.0:
            open_s = 0.0
        move = worked_out(car, legs, leg, at, motor, ground, speed, does, open_s)
        row_amps(cells, car, at, move.down * move.drive.pack_a, row_v, row_ohm, rows_a)
        # How long that may go on.
        rises_k_s = warming_k_s(car, move, motor, winding - case)
        longest_s = longest_step_s(cells, car, move, fine, rises_k_s, rows_a, row_ohm)
        if move.doing == OPEN and speed < legs.half_m_s[leg]:
            # A clock that counts towards an end may start at any moment.
            longest_s = min(longest_s, SLOW_STEP_S)
        longest_s = min(longest_s, LEAST_S + fine.of_time * sums.time_s)
        # Where volts or amps come to a level beyond which time counts towards an end, or back to it, the step ends there.
        margin_v, margin_a = margin_over_ends_v(cells, car, at, move, soc, slow_v, rows_a), margin_under_trips_a(cells, rows_a)
        if move.doing == before.doing:
            longest_s = min(longest_s, max(min(meets_s(margin_v, before.margin_v, before.dt), meets_s(margin_a, before.margin_a, before.dt)), LEAST_S))
        step = Step(min(longest_s, stands), 0.0, 0.0) if does == STAND else trimmed(car, move, speed, room, timed, stops, longest_s)
        dt = max(step.dt, 1e-9)
        middle = step.metres / dt
        # Half way the winding has done half its rise, and the speed half its change.
        motor = warm_motor(car, winding + rises_k_s * dt / 2.0, case)
        if step.changed != 0.0:
            move = in_the_middle(car, at, motor, ground, move, middle)
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
        waits = lasted(car, legs, leg, move, waits, middle, volts, dt)
        ends_s, end = machine_ends(car, waits, winding, later_w, LONGEST_S - sums.time_s if steps < MOST_STEPS - 1 else 0.0, dt)
        ends_s, end = packs_end(cells, soc, slow_v, rows_a, mean_a, fall, trip_s, ends_s, end, dt)
        caution_s = min(caution_s, sums.time_s + crossed_s(winding, later_w, WINDING_CAUTION_C - car.ambient_c, dt))
        stop_s = min(stop_s, sums.time_s + crossed_s(winding, later_w, WINDING_STOP_C - car.ambient_c, dt))
        if end >= 0:
            share = ends_s / dt
            step = Step(ends_s, share * step.changed, share * step.metres)
            later_w, later_c = winding + share * (later_w - winding), case + share * (later_c - case)
            dt = ends_s
        # The step is taken.
        _discharge(cells, soc, slow_v, rows_a, fall, round_as, dt)
        if written < most_points:
            keep_point(kept, written, sums, speed, pack, volts, move, leg)
            written += 1
        _spend(energy, car, at, motor, ground, move, middle, pack, volts, square, dt)
        energy[SPEED_PART] += effective_kg(car) * step.changed * (speed + step.changed / 2.0)
        before = Before(move.doing, margin_v, margin_a, dt)
        sums = Sums(
            sums.time_s + dt,
            sums.distance_m + step.metres,
            sums.climb_m + step.metres * ground.grade,
            sums.pack_as + pack * dt,
            sums.pack_a2s + pack * pack * dt,
            sums.motor_a2s + square * dt,
            sums.controller_j + pack * volts * dt,
        )
        winding, case, speed = later_w, later_c, max(speed + step.changed, 0.0)
        open_s = min(open_s + dt, car.ramp_s) if move.doing == OPEN else car.ramp_s
        fastest, most_pack, most_motor = max(fastest, speed), max(most_pack, pack), max(most_motor, drive.motor_a)
        span = Span(span.began, min(span.controller_v, volts), min(span.bank_v, bank_volts), max(span.hottest_k, winding))
        held_back = this.held_back or (move.doing == OPEN and drive.limit == UNDERVOLTAGE)
        waited = max(this.waited, nearest_end(car, cells, waits, trip_s))
        this = Round(this.began, this.winding_k, this.case_k, max(this.hottest_k, winding), min(this.margin_v, margin_v), waited, held_back)
        # Go on along the course.
        turned = False
        room -= 0.0 if does == STAND else dt if timed else step.metres
        if does == STAND:
            stands -= dt
        elif stops and (speed <= 0.0 if move.doing == STOP else room <= 1e-9):
            speed, stands = 0.0, legs.stop_s[leg]
        if end < 0 and (-1e-9 <= stands <= 1e-9 or (not stops and room <= 1e-9)):
            stands, leg = -1.0, leg + 1
            if leg == legs.grade.size:
                leg, turned, rounds, round_s = 0, True, rounds + 1.0, sums.time_s - this.began.time_s
                for u in range(groups):
                    mean_a[u] = round_as[u] / round_s if mean_a[u] >= 0.0 else mean_a[u]
                    round_as[u] = 0.0
                if rounds >= most_rounds:
                    end = ROUNDS
            timed, room, ground = _begin(car, legs, leg)
        if turned:
            if end < 0 and fine.left_out > 0.0:
                most, before_w = min(most_rounds - rounds - 1.0, (LONGEST_S - sums.time_s) / round_s - 1.0), winding
                more, sums, winding, case, last = leave_out(cells, car, this, last, sums, winding, case, charge, row_ohm, most_pack, fine, most)
                rounds += more
                span = Span(span.began, span.controller_v, span.bank_v, max(span.hottest_k, this.hottest_k + winding - before_w))
            this = Round(sums, winding, case, winding, np.inf, 0.0, False)
        # A point of the trace: after whole rounds, or within one that is long.
        long_round = max(round_s, sums.time_s - this.began.time_s) > 8.0 * width_s
        if end >= 0 or (sums.time_s - span.began.time_s >= width_s and (turned or long_round)):
            if spans == SPANS - 1 and end < 0:
                spans, width_s = halved(trace, spans), 2.0 * width_s
            write_span(trace, spans, sums, span, winding, case, rounds, soc)
            spans, span = spans + 1, Span(sums, 1e9, 1e9, winding)
    if rounds < 1.0 and sums.time_s > 0.0:
        for u in range(groups):
            mean_a[u] = round_as[u] / sums.time_s if mean_a[u] >= 0.0 else mean_a[u]
    rms_pack, rms_motor = math.sqrt(hottest_mean(trace, trace.pack_a2s, spans)), math.sqrt(hottest_mean(trace, trace.motor_a2s, spans))
    warm_k = hottest_k(trace, spans, start.winding_k, min(WARM_S, sums.time_s))
    figures = Figures(
        float(end),
        sums.time_s,
        sums.distance_m,
        sums.pack_as,
        sums.controller_j,
        fastest,
        most_pack,
        most_motor,
        rms_pack,
        rms_motor,
        warm_k,
        caution_s,
        stop_s,
        rounds,
        space.by_part,
    )
    return Marched(figures, space.trace, spans, written)


@compiled
def march_one(rigs: Rigs, legs: Legs, at: int, start: Start, most_rounds: float, fine: Fineness, mean_a: Array, kept: Points) -> Marched:
    """`march` of one of many machines, by its number."""
    rig = rig_at(rigs, at)
    return march(rig.cells, rig.car, legs_at(legs, at), start, most_rounds, fine, mean_a, kept, space_for(rigs.cells))


@compiled
def _whole(rigs: Rigs, legs: Legs, at: int, fine: Fineness, kept: Points, space: Space) -> Marched:
    """A whole ride: from full charge and a cold motor until something ends it."""
    groups, rig, course = rigs.cells.in_series.size, rig_at(rigs, at), legs_at(legs, at)
    start, mean_a = Start(np.ones(groups), 0.0, 0.0, 0.0), np.zeros(groups)
    # Lead gives its amp-hours by the mean amps of a round; those of the first one are known after it.
    times = 2 if rigs.cells.peukert.max() > 0.0 else 1
    for turn in range(times):
        marched = march(rig.cells, rig.car, course, start, np.inf if turn == times - 1 else 1.0, fine, mean_a, kept, space)
    return marched


@compiled
def ride_one(rigs: Rigs, legs: Legs, fine: Fineness, kept: Points) -> Marched:
    """A whole ride of the first of many machines."""
    return _whole(rigs, legs, 0, fine, kept, space_for(rigs.cells))


@compiled
def ride_each(rigs: Rigs, legs: Legs, fine: Fineness, kept: Points) -> Figures:
    """The whole ride of each of many machines."""
    count, space = rigs.cars.shape[0], space_for(rigs.cells)
    end, time_s, distance_m, pack_as, controller_j = np.zeros(count), np.zeros(count), np.zeros(count), np.zeros(count), np.zeros(count)
    fastest, most_pack, most_motor, rms_pack, rms_motor = np.zeros(count), np.zeros(count), np.zeros(count), np.zeros(count), np.zeros(count)
    warm_k, caution_s, stop_s, rounds, energy_j = np.zeros(count), np.zeros(count), np.zeros(count), np.zeros(count), np.zeros((count, SPEED_PART + 1))
    for i in range(count):
        one = _whole(rigs, legs, i, fine, kept, space).figures
        end[i], time_s[i], distance_m[i], pack_as[i], controller_j[i] = one.end, one.time_s, one.distance_m, one.pack_as, one.controller_j
        fastest[i], most_pack[i], most_motor[i], rms_pack[i], rms_motor[i] = one.fastest_m_s, one.most_pack_a, one.most_motor_a, one.rms_pack_a, one.rms_motor_a
        warm_k[i], caution_s[i], stop_s[i], rounds[i] = one.warm_k, one.caution_s, one.stop_s, one.rounds
        energy_j[i] = one.energy_j
    return Figures(end, time_s, distance_m, pack_as, controller_j, fastest, most_pack, most_motor, rms_pack, rms_motor, warm_k, caution_s, stop_s, rounds, energy_j)


@inlined
def _discharge(cells: Cells, soc: Array, slow_v: Array, rows_a: Array, fall: Array, round_as: Array, dt: float) -> None:
    """Take what a step of dt [s] takes from each unit group."""
    for u in range(soc.size):
        own = rows_a[cells.row_of[u]]
        soc[u] = min(soc[u] - fall[u] * dt, 1.0)
        round_as[u] += own * dt
        if cells.slow_share[u] > 0.0:
            slow_v[u] = slow_after(cells, u, soc[u], slow_v[u], own, dt)


@inlined
def _begin(car: Car, legs: Legs, leg: int) -> tuple[bool, float, Ground]:
    """A leg as it begins: whether it is timed, how much of it there is [m or s], and its ground."""
    timed = math.isfinite(legs.time_s[leg])
    room = legs.time_s[leg] if timed else legs.length_m[leg]
    return timed, room, ground_of(car, legs.grade[leg], legs.rolling[leg], legs.friction[leg], legs.throttle[leg])


@inlined
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
