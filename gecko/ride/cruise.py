"""Steady cruise from full charge until the first thing that ends it.

A quadrature over charge: at each state of charge speed and amps follow in one array call, time is charge over current.
Motor temperatures come from a march along that time, and the two are repeated until they agree.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from gecko.constants import COPPER_ALPHA_PER_K
from gecko.electric.bank import Source, rated_ah, unit_ohm, unit_volts_v
from gecko.electric.motor import CLAMP_C, MAGNET_PER_K
from gecko.electric.operating_point import UNDERVOLTAGE, OperatingPoint, part_throttle
from gecko.figures import Number
from gecko.heat.motor import WINDING_STOP_C, motor_losses_w, resistance_factor, two_node_matrix, two_node_transition
from gecko.machine import Machine
from gecko.motion.forces import motor_a_for_force, resistance_n
from gecko.motion.top_speed import KNOTS, top_speed
from gecko.quadrature import cumulative, first_above
from gecko.ride.emptying import soc_path, time_path
from gecko.ride.record import FOLDBACK_S, HOTTEST_C, Ride, first_below, hottest_ten_minutes, until

_FINE = np.concatenate(
    [
        [1.0, 0.9995, 0.999, 0.998, 0.996, 0.993, 0.989, 0.984, 0.977, 0.97, 0.96],
        np.arange(0.95, 0.31, -0.025),
        np.arange(0.30, 0.105, -0.01),
        np.arange(0.10, 0.042, -0.004),
        np.arange(0.04, 0.0005, -0.001),
        [0.0],
    ]
)
_COARSE = np.concatenate(
    [
        [1.0, 0.999, 0.996, 0.991, 0.984, 0.974, 0.96],
        np.arange(0.94, 0.79, -0.02),
        np.arange(0.775, 0.325, -0.05),
        [0.3, 0.25, 0.2, 0.175, 0.15, 0.125],
        np.arange(0.10, 0.0005, -0.01),
        [0.0],
    ]
)
_DRAWN = 1.0 - np.concatenate([[0.0, 0.002, 0.006], np.linspace(0.012, 0.84, 24), np.linspace(0.86, 1.15, 30)])
_DRAWN_COARSE = 1.0 - np.concatenate([[0.0, 0.005], np.linspace(0.02, 0.85, 20), np.linspace(0.865, 1.15, 25)])
_HOT = np.concatenate([[0.0, 0.004, 0.01, 0.02, 0.035, 0.055, 0.08], np.linspace(0.11, 1.0, 45), [1.05, 1.15]])
"""The same for a ride that ends hot, as shares of what it draws until then."""
SAME_SHARES = 0.02
"""Unlike rows share the current alike while the bank's amps differ by less than this share of the largest. [1]"""
SAME_CHARGE = 0.005
"""A new march of the shares that moves no charge by more than this needs no further repetition. [1]"""
SETTLED_K = 0.5
"""A ride's temperatures count as settled when a repetition moves the winding by less than this. [K]"""


def _follow(machine: Machine, source: Source, motor: Any, grade: float, start: Number, times: int) -> Number:
    """Full-throttle speed tracked from a near start by a damped Newton iteration. [m/s]"""
    speed = np.maximum(start, 0.02)
    for _ in range(times):
        step = np.maximum(speed * 1e-3, 1e-4)
        both = np.stack((speed, speed + step))
        f0, f1 = machine.push(source, motor, both) - resistance_n(machine.vehicle, both, grade)
        slope = np.minimum((f1 - f0) / step, -1e-6)
        speed = np.maximum(speed + np.clip(-f0 / slope, -0.4 * speed, 0.4 * speed), 0.0)
    return speed


def cruise(machine: Machine, aimed_m_s: Number | None, grade: float = 0.0, *, coarse: bool = False, knots_m_s: Number | None = None) -> Ride:
    """Steady ride at an aimed speed [m/s] (None: full throttle throughout) on a grade, from s = 1 and a cold motor.

    Where full throttle cannot hold the aimed speed, it goes as fast as it can. coarse: fewer points, for
    samples. knots_m_s: full-throttle speeds at the charges of `KNOTS`, where they are known already.
    """
    vehicle = machine.vehicle
    shape = np.broadcast_shapes(
        np.shape(vehicle.mass_kg),
        np.shape(machine.motor.k_v_s),
        np.shape(machine.path_ohm),
        np.shape(rated_ah(machine.bank)),
        np.shape(vehicle.rolling_resistance),
        np.shape(machine.bank.units[0].resistance_ohm),
        np.shape(aimed_m_s) if aimed_m_s is not None else (),
    )
    grid = (_COARSE if coarse else _FINE) if machine.bank.uniform else (_DRAWN_COARSE if coarse else _DRAWN)
    if knots_m_s is None:
        knots_m_s = top_speed(machine, machine.source(KNOTS.reshape((-1,) + (1,) * len(shape))), machine.motor_cool, grade)
    knots = np.broadcast_to(knots_m_s, (len(KNOTS), *shape))
    ride = _march(machine, aimed_m_s, grade, grid, knots, shape, coarse)
    if shape or coarse or ride.ends_by != "winding 155 C":
        return ride
    # Hot before long: most of the grid lay beyond the end, so once more with all of it before.
    drawn = 1.0 - float(np.interp(float(ride.run_time_s), ride.time_s, grid))
    return _march(machine, aimed_m_s, grade, 1.0 - _HOT * drawn, knots, shape, coarse)


def _march(
    machine: Machine,
    aimed_m_s: Number | None,
    grade: float,
    grid: NDArray[np.float64],
    knots: Number,
    shape: tuple[int, ...],
    coarse: bool,
) -> Ride:
    """The ride on a grid of charge (or, with unlike units, of what is left of the bank after what was drawn). [1]"""
    vehicle, points = machine.vehicle, len(grid)
    amps, losses, air = _half_way(machine, aimed_m_s, knots[1], grade)
    marched = np.broadcast_to(amps, (points, *shape))
    soc, time = soc_path(machine, marched, grid, shape), time_path(machine, marched, grid, shape)
    winding, case = _first_guess(machine, losses, air, time)
    mean_soc = np.clip(np.mean(np.stack(soc), axis=0), 0.0, 1.0)
    low = np.clip(np.searchsorted(-KNOTS, -mean_soc) - 1, 0, len(KNOTS) - 2)
    share = (KNOTS[low] - mean_soc) / (KNOTS[low] - KNOTS[low + 1])
    flat = np.take_along_axis(knots, low, 0) * (1.0 - share) + np.take_along_axis(knots, low + 1, 0) * share
    for repetition in range(8):
        source = machine.source(tuple(np.clip(s, 0.0, 1.0) for s in soc))
        motor = machine.motor.at(winding, case)
        ohms = machine.source_ohm(source)
        if aimed_m_s is None:
            flat = _follow(machine, source, motor, grade, flat, 2 if repetition == 0 else 1)
            speed: Number = flat
            point = machine.full(source, motor, speed)
        else:
            aimed = np.broadcast_to(aimed_m_s, (points, *shape))
            wanted = motor_a_for_force(vehicle, motor, resistance_n(vehicle, aimed, grade))
            wanted = np.maximum(wanted, 0.0)
            most = machine.amps(source, motor, aimed)
            holds = wanted <= most
            point = part_throttle(source.open_v, ohms, motor, machine.control, vehicle.omega(aimed), wanted)
            speed = aimed
            if not bool(holds.all()):
                flat = _follow(machine, source, motor, grade, np.minimum(flat, aimed), 2 if repetition == 0 else 1)
                speed = np.where(holds, aimed, np.minimum(flat, aimed))
                slow = machine.full(source, motor, speed)
                point = OperatingPoint(
                    np.where(holds, point.motor_a, slow.motor_a),
                    np.where(holds, point.pack_a, slow.pack_a),
                    np.where(holds, point.controller_v, slow.controller_v),
                    np.where(holds, point.duty, slow.duty),
                    np.where(holds, point.limit, slow.limit),
                )
        # Past the foldback it crawls for hours and settles late, and past the first empty unit nobody rides.
        riding = np.logical_and.accumulate((speed >= 0.5 * speed[0]) & np.logical_and.reduce([charge >= 0.0 for charge in soc]))
        unmoved = True
        if not machine.bank.uniform and np.max(np.abs(point.pack_a - marched) * riding) > SAME_SHARES * np.max(point.pack_a * riding):
            marched = np.broadcast_to(point.pack_a, (points, *shape))
            shared = soc
            soc = soc_path(machine, marched, grid, shape)
            unmoved = all(np.max(np.abs(now - then) * riding) < SAME_CHARGE for now, then in zip(soc, shared, strict=True))
        time = time_path(machine, point.pack_a, grid, shape)
        before = winding
        winding, case = _warm(machine, motor, point, speed, time, winding, case)
        # Nobody rides on past the winding's end either; one point more, for the line through it.
        cool = np.logical_and.accumulate(np.minimum(winding, before) < WINDING_STOP_C + 1.0)
        riding[1:] &= cool[:-1]
        if unmoved and np.max(np.abs(winding - before) * riding) < (SETTLED_K * 5.0 if coarse else SETTLED_K):
            break
    return _finish(machine, aimed_m_s, soc, time, speed, point, source, winding, case, shape)


def _half_way(machine: Machine, aimed_m_s: Number | None, flat_m_s: Number, grade: float) -> tuple[Number, tuple[Number, Number], Number]:
    """Pack amps [A], losses of one cool motor [W] and its conductance to air [W/K] part way through the ride, at a charge
    of `KNOTS[1]` where full throttle gives `flat_m_s` [m/s]: the constant load of the first guess."""
    motor, source = machine.motor_cool, machine.source(KNOTS[1])
    speed = flat_m_s if aimed_m_s is None else np.minimum(aimed_m_s, flat_m_s)
    omega = machine.vehicle.omega(speed)
    wanted = np.maximum(motor_a_for_force(machine.vehicle, motor, resistance_n(machine.vehicle, speed, grade)), 0.0)
    pack = wanted
    if machine.control.kind != "none":
        pack = part_throttle(source.open_v, machine.source_ohm(source), motor, machine.control, omega, wanted).pack_a
    return np.maximum(pack, 0.05), motor_losses_w(motor, wanted, omega, machine.motor_count), machine.thermal.air_conductance(speed)


def _first_guess(machine: Machine, losses_w: tuple[Number, Number], air_w_per_k: Number, time: Number) -> tuple[Number, Number]:
    """Winding and case along a ride under a constant load, the winding's loss that of half its rise. [°C]"""
    copper, other = losses_w
    hot = copper
    for _ in range(2):
        rise = (hot + other) / air_w_per_k + hot * machine.thermal.winding_to_case_k_per_w
        hot = copper * resistance_factor(machine.ambient_c + rise / 2.0)
    end_w, end_c, (m11, m12, m21, m22) = two_node_transition(hot, other, machine.thermal, air_w_per_k, time)
    winding = end_w - m11 * end_w - m12 * end_c
    case = end_c - m21 * end_w - m22 * end_c
    return _clamped(machine, winding), _clamped(machine, case)


def _clamped(machine: Machine, rise_k: Number) -> Number:
    """Temperature from a rise above the air, within what is believable. [°C]"""
    return np.clip(rise_k, 0.0, HOTTEST_C - machine.ambient_c) + machine.ambient_c


def _warm(machine: Machine, motor: Any, point: OperatingPoint, speed: Number, time: Number, winding: Number, case: Number) -> tuple[Number, Number]:
    """Winding and case along the ride [°C], losses taken at each step's middle.

    The losses are those at the temperatures of the repetition before, `winding` and `case`; where the march finds others on its
    way, the copper loss goes with them (at a given push it rises with the winding's resistance and with the square of what the
    magnets lose). Settled, the two agree and the correction is nothing; without it hot rides would settle late or never.
    """
    omega = machine.vehicle.omega(speed)
    copper, other = motor_losses_w(motor, point.motor_a, omega, machine.motor_count)
    air = machine.thermal.air_conductance(speed) + 0.0 * copper
    steps = np.diff(time, axis=0)
    magnet = MAGNET_PER_K[machine.motor.magnet]

    def middle(values: Number) -> Any:
        return (values[1:] + values[:-1]) / 2.0

    copper_m, other_m, air_m = middle(copper), middle(other), middle(air)
    m11, m12, m21, m22 = two_node_matrix(machine.thermal, air_m, steps)
    # y' = end + M·(y − end), and where it ends is linear in the losses: only the recurrence itself runs step by step.
    to_winding = 1.0 / air_m + machine.thermal.winding_to_case_k_per_w
    heat_w, heat_c = (1.0 - m11) * to_winding - m12 / air_m, (1.0 - m22) / air_m - m21 * to_winding
    rest_w, rest_c = other_m * (1.0 - m11 - m12) / air_m, other_m * (1.0 - m22 - m21) / air_m
    hotter = np.where(winding < CLAMP_C, COPPER_ALPHA_PER_K / resistance_factor(winding), 0.0)[:-1]
    weaker = np.where(case < CLAMP_C, 2.0 * magnet, 0.0)[:-1]
    before_w, before_c = (winding - machine.ambient_c)[:-1], (case - machine.ambient_c)[:-1]
    most = HOTTEST_C - machine.ambient_c
    plain = steps.ndim == 1
    columns = (m11, m12, m21, m22, heat_w, heat_c, rest_w, rest_c, copper_m, hotter, weaker, before_w, before_c)
    rows = [column.tolist() if plain else column for column in columns]
    least, greatest = (max, min) if plain else (np.maximum, np.minimum)
    w: Any = 0.0 if plain else np.zeros(steps.shape[1:])
    c: Any = w
    rise_w, rise_c = [w], [c]
    for a11, a12, a21, a22, h_w, h_c, r_w, r_c, loss, by_w, by_c, was_w, was_c in zip(*rows, strict=True):
        loss = loss * least(1.0 + by_w * (w - was_w) + by_c * (c - was_c), 0.0)
        w, c = greatest(a11 * w + a12 * c + h_w * loss + r_w, most), greatest(a21 * w + a22 * c + h_c * loss + r_c, most)
        rise_w.append(w)
        rise_c.append(c)
    return _clamped(machine, np.array(rise_w)), _clamped(machine, np.array(rise_c))


def _finish(
    machine: Machine,
    aimed: Number | None,
    soc: tuple[Number, ...],
    time: Number,
    speed: Number,
    point: OperatingPoint,
    source: Source,
    winding: Number,
    case: Number,
    shape: tuple[int, ...],
) -> Ride:
    full_shape = time.shape
    pack = np.broadcast_to(point.pack_a, full_shape)
    volts = np.broadcast_to(point.controller_v, full_shape)
    never = np.full(shape, np.inf)
    events = [never] * 6
    if machine.guard is not None:
        events[0] = first_below(volts - (machine.guard.volts_v - 0.01), time) + machine.guard.delay_s
    index = 0
    rows = source.row_currents(point.pack_a)
    low = never
    trip = never
    empty = never
    for row, own in zip(machine.bank.rows, rows, strict=True):
        for unit in row.units:
            charge = np.clip(soc[index], 0.0, 1.0)
            if unit.protection_low_v is not None:
                terminal = unit_volts_v(unit, charge) - own * unit_ohm(unit, charge, machine.pack_c)
                floor = unit.protection_low_v * unit.series_count
                low = np.minimum(low, first_below(np.broadcast_to(terminal - floor, full_shape), time))
            if unit.trip_a is not None:
                delay = unit.trip_delay_s if unit.trip_delay_s is not None else 1.0
                trip = np.minimum(trip, first_below(unit.trip_a - np.broadcast_to(own, full_shape), time) + delay)
            empty = np.minimum(empty, first_below(np.broadcast_to(soc[index] - 1e-7, full_shape), time))
            index += 1
    events[1], events[3], events[5] = low, empty, trip
    goal = speed[0] if aimed is None else aimed
    limit = np.broadcast_to(point.limit, full_shape)
    if machine.control.undervoltage_v is not None:
        half = np.where(limit == UNDERVOLTAGE, speed - 0.5 * goal, np.maximum(speed, 0.5 * goal))
        events[2] = first_below(half, time) + FOLDBACK_S
    events[4] = first_above(winding, time, WINDING_STOP_C)
    stack = np.stack(events)
    run_time = stack.min(axis=0)
    ended = np.isfinite(run_time)
    ends = np.where(ended, stack.argmin(axis=0), 3)
    run_time = np.where(ended, run_time, time[-1])
    speed_full = np.broadcast_to(speed, full_shape)
    bulk = np.stack((speed_full, pack / 3600.0, pack * volts / 3600.0), axis=1)
    distance, ah, energy = until(bulk, time[:, None], run_time)
    squares = np.square(pack)
    hottest = hottest_ten_minutes(cumulative(squares, time), time, run_time)
    row_amps = np.stack([np.broadcast_to(r, full_shape) for r in rows])
    worst_row = np.max(row_amps[:, 0] / np.maximum(pack[0], 1e-9), axis=0)
    first = OperatingPoint(*(_at_start(v, full_shape) for v in (point.motor_a, point.pack_a, point.controller_v, point.duty, point.limit)))
    return Ride(
        first,
        speed_full[0],
        time,
        soc,
        speed_full,
        pack,
        volts,
        source.open_v - pack * source.resistance_ohm,
        winding,
        case,
        run_time,
        ends,
        distance,
        ah,
        energy,
        np.sqrt(hottest),
        worst_row,
    )


def _at_start(values: Any, full_shape: tuple[int, ...]) -> Any:
    """First entry of a trace, or what does not change along it."""
    return values[0] if np.ndim(values) == len(full_shape) else values
