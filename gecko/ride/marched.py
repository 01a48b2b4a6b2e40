"""A ride round and round a course until the first thing that ends it.

At fixed charge and temperatures a round is a handful of array calls (`ride.round`); rounds at a few states of charge make a
table. Where a round takes little of the charge, the rounds between two states follow in closed form; where it takes much,
the legs are gone through one by one, reading the table. Temperatures come from that, and the two are repeated until they agree.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from gecko.electric.bank import Source, rated_ah
from gecko.electric.operating_point import THROTTLE, OperatingPoint
from gecko.figures import Number
from gecko.heat.motor import WINDING_STOP_C, Affine, repeated
from gecko.machine import Machine
from gecko.quadrature import read_at, running_sum
from gecko.ride.by_legs import leg_by_leg
from gecko.ride.courses import Leg
from gecko.ride.emptying import soc_path, time_path
from gecko.ride.record import END_NAMES, HOTTEST_C, Ride, first_below, hottest_ten_minutes, until
from gecko.ride.round import Rider
from gecko.ride.sums import Sums, joined
from gecko.ride.table import EVENTS, LEAST_A, Table, round_table, tabled, taken, workings

_LEFT = np.concatenate(
    [[1.0, 0.9985, 0.996, 0.992, 0.985, 0.97, 0.95, 0.92, 0.88, 0.82, 0.74, 0.64, 0.54, 0.44, 0.36], [0.3, 0.25, 0.2, 0.16, 0.13, 0.1, 0.075, 0.05, 0.03, 0.015, 0.0]]
)
_LEFT_COARSE = np.array([1.0, 0.98, 0.94, 0.85, 0.65, 0.4, 0.27, 0.17, 0.1, 0.05, 0.0])
_DRAWN = np.concatenate([_LEFT[:-8], 0.16 - np.linspace(0.02, 0.31, 16)])
_DRAWN_COARSE = np.concatenate([_LEFT_COARSE[:-4], 0.27 - np.linspace(0.05, 0.42, 9)])
"""What is left of the charge where rounds are tabled; with unlike units what is left of the bank after what was drawn. [1]"""
_HOT = np.concatenate([[0.0, 0.01, 0.03, 0.06, 0.1], np.linspace(0.16, 1.0, 14), [1.06, 1.2]])
"""The same for a ride that ends hot, as shares of what it draws until then."""
FEW_ROUNDS = 12.0
NEARLY_EMPTY = 0.05
"""Below this charge temperatures need not settle any more. [1]"""
LARGE_ROUND = 0.03
"""A ride of fewer rounds, or whose rounds take more of the charge than this, is gone through leg by leg. [1]"""


def course_ride(machine: Machine, legs: Sequence[Leg], brake_m_s2: float, *, coarse: bool = False, splits: bool = False) -> Ride:
    """Ride a course's legs round and round from s = 1 and a cold motor until something ends it.

    brake_m_s2: deceleration of the brakes [m/s²]. coarse: fewer points, for samples (the last axis).
    splits: tell where the energy goes, too.
    """
    aimed = [np.shape(leg.aimed_m_s) for leg in legs if leg.aimed_m_s is not None]
    vehicle = machine.vehicle
    shape = np.broadcast_shapes(
        np.shape(vehicle.mass_kg), np.shape(machine.motor.k_v_s), np.shape(machine.path_ohm), np.shape(rated_ah(machine.bank)), np.shape(legs[0].rolling), *aimed
    )
    fine, few = (_LEFT, _LEFT_COARSE) if machine.bank.uniform else (_DRAWN, _DRAWN_COARSE)
    grid = few if coarse else fine
    rider = Rider.coarse(brake_m_s2) if coarse else Rider.fine(brake_m_s2, splits)
    ride, left = _on_grid(machine, legs, rider, grid, shape)
    if shape or coarse or ride.ends_by != "winding 155 C" or left < 0.7:
        return ride
    # Hot before long: most of the grid lay beyond the end, so once more with all of it before.
    return _on_grid(machine, legs, rider, 1.0 - _HOT * (1.0 - left), shape)[0]


def _on_grid(machine: Machine, legs: Sequence[Leg], rider: Rider, grid: NDArray[np.float64], shape: tuple[int, ...]) -> tuple[Ride, float]:
    """The ride on a grid of what is left, and what is left at the end of a single ride [1]."""
    rolls_on = legs[-1].stop_s is None
    # The first round starts from rest and cold, where later ones do not: the first column is that round, and the grid begins after it.
    opens, later, opening = rolls_on and not shape, grid, 1e-4
    columns = (len(grid) + opens, *shape)
    rise: tuple[Number, Number] = (np.zeros(columns), np.zeros(columns))
    working = [rise] * len(legs)
    balances: dict[int, Number] = {}
    amps: Number = np.full(columns, 5.0)
    start: Number = np.zeros(columns)
    for repetition in range(rider.repetitions):
        grid = np.concatenate([[1.0], (1.0 - opening) * later]) if opens else later
        soc = soc_path(machine, amps, grid, shape)
        source = machine.source(tuple(np.clip(s, 0.0, 1.0) for s in soc))
        ridden, sums = tabled(machine, source, legs, working, start, rider, balances)
        whole = joined(sums)
        amps = np.maximum(whole.mean_a, LEAST_A)
        time, rounds, distance, steps = _between(machine, whole, amps, grid, shape, opens)
        opening = float(taken(machine, whole.mean_a, whole.time_s)[0]) if opens else 0.0
        before, rise = rise, _temperatures(machine, steps)
        if repetition == 0 and not (shape or rider.quick) and _surely_few(machine, whole, rounds, rise):
            return leg_by_leg(machine, legs, rider, grid, soc), 0.0
        working = workings(sums, rise if shape else _as_begun(rise, rounds, opens))
        if rolls_on:
            start = np.array(ridden[-1][-1].speed_m_s[-1])
            start[: int(opens)] = 0.0
        # Nobody rides on past the winding's end; one point more, for the line through it.
        # Past the low cut-off it crawls and settles late.
        pace = whole.distance_m / whole.time_s
        going = (np.minimum(rise[0], before[0]) + machine.ambient_c < WINDING_STOP_C + 1.0) & (pace > 0.6 * np.max(pace[:2], axis=0))
        riding = np.logical_and.accumulate(going)
        riding[1:] = riding[:-1]
        # Near the end the volts fall steeply and everything settles late, for the last moments only.
        riding[grid < NEARLY_EMPTY] = False
        least = int(rolls_on) + int(not machine.bank.uniform)
        if repetition >= least and float(np.max(np.abs(rise[0] - before[0]) * riding)) < rider.settled_k:
            break
    table = round_table(machine, source, soc, ridden, sums)
    coarse = bool(shape) or rider.quick
    few = not coarse and (float(taken(machine, whole.mean_a, whole.time_s)[len(grid) // 3]) > LARGE_ROUND or (opens and bool(np.any(table.margins[..., 0] <= 0.0))))
    ride = _finish(machine, table, whole, distance, soc, source, time, rounds, rise, shape, opens)
    # Changes that are only compared with each other are spared the legs.
    if not coarse and (few or float(ride.value_at_end(rounds)) < FEW_ROUNDS):
        return leg_by_leg(machine, legs, rider, grid, soc), 0.0
    if whole.energy_j is not None:
        ride = replace(ride, energy_j=_energy(_moving(whole.energy_j, table), rounds, opens, float(ride.run_time_s), time))
    return ride, float(np.interp(float(ride.run_time_s), ride.time_s, grid)) if not shape else 0.0


def _surely_few(machine: Machine, whole: Sums, rounds: Number, rise: tuple[Number, Number]) -> bool:
    """Whether a cold motor's rounds tell already that there will be few of them: large ones, or hot before long."""
    if float(taken(machine, whole.mean_a, whole.time_s)[len(rounds) // 3]) > LARGE_ROUND:
        return True
    hot = np.flatnonzero(rise[0] + machine.ambient_c >= WINDING_STOP_C)
    return len(hot) > 0 and float(rounds[hot[0]]) < FEW_ROUNDS / 2.0


def _between(
    machine: Machine, whole: Sums, amps: Number, grid: NDArray[np.float64], shape: tuple[int, ...], opens: bool
) -> tuple[Number, Number, Number, Affine]:
    """Seconds, rounds and metres at each point of the grid, and the step of the nodes between two of them; opens: the first step is one round."""
    spans = np.diff(time_path(machine, amps, grid, shape), axis=0)
    counts = spans * (1.0 / whole.time_s[1:] + 1.0 / whole.time_s[:-1]) / 2.0
    metres = counts * (whole.distance_m[1:] + whole.distance_m[:-1]) / 2.0
    between: Affine = tuple((part[1:] + part[:-1]) / 2.0 for part in whole.heat)
    steps = repeated(between, counts)
    if opens:
        spans[0], counts[0], metres[0] = whole.time_s[0], 1.0, whole.distance_m[0]
        for part, first in zip(steps, whole.heat, strict=True):
            part[0] = first[0]
    return running_sum(spans), running_sum(counts), running_sum(metres), steps


def _temperatures(machine: Machine, steps: Affine) -> tuple[Number, Number]:
    """Winding and case above the air along the grid [K]."""
    most = HOTTEST_C - machine.ambient_c
    winding: Number = np.zeros(steps[0].shape[1:])
    case = winding
    windings, cases = [winding], [case]
    for m11, m12, m21, m22, add1, add2 in zip(*steps, strict=True):
        winding, case = np.clip(m11 * winding + m12 * case + add1, 0.0, most), np.clip(m21 * winding + m22 * case + add2, 0.0, most)
        windings.append(winding)
        cases.append(case)
    return np.array(windings), np.array(cases)


def _finish(
    machine: Machine,
    table: Table,
    whole: Sums,
    distance: Number,
    soc: tuple[Number, ...],
    source: Source,
    time: Number,
    rounds: Number,
    rise: tuple[Number, Number],
    shape: tuple[int, ...],
    opens: bool,
) -> Ride:
    """Where the rounds end, and the sums until then."""
    hottest, hot_moment = _hottest(whole, rise)
    hottest = hottest + machine.ambient_c
    span = whole.time_s
    leg_starts = running_sum(np.stack([leg.time_s for leg in table.legs]))
    found: dict[str, Number] = {}
    for event, margins, moments in zip(EVENTS, table.margins, table.moments, strict=True):
        nearest = np.argmin(margins, axis=0)[None]
        margin = np.take_along_axis(margins, nearest, 0)[0]
        moment = np.take_along_axis(moments + leg_starts[:-1], nearest, 0)[0]
        found[event] = _in_round(margin, moment / span, rounds, time, opens)
    found["winding 155 C"] = _in_round(WINDING_STOP_C - hottest, hot_moment / span, rounds, time, opens)
    empty: Number = np.full(shape, np.inf)
    for charge in soc:
        empty = np.minimum(empty, first_below(np.broadcast_to(charge - 1e-7, time.shape), time))
    found["unit empty"] = empty
    stack = np.stack([found[name] for name in END_NAMES])
    run_time = stack.min(axis=0)
    ended = np.isfinite(run_time)
    ends = np.where(ended, stack.argmin(axis=0), END_NAMES.index("unit empty"))
    run_time = np.where(ended, run_time, time[-1])
    mean_a, power = whole.mean_a, whole.controller_j / span
    ah, energy = until(np.stack((mean_a, power), axis=1) / 3600.0, time[:, None], run_time)
    squares = whole.pack_a2s / span
    rows = np.stack([np.broadcast_to(row, mean_a.shape) for row in source.row_currents(mean_a)])
    root = np.sqrt(whole.motor_a2s[0] / span[0])
    return Ride(
        OperatingPoint(root, mean_a[0], table.lowest_v[0], np.ones(shape), THROTTLE),
        np.max(table.highest_m_s[:2], axis=0),
        time,
        soc,
        whole.distance_m / span,
        mean_a,
        table.lowest_v,
        source.open_v - mean_a * source.resistance_ohm,
        hottest,
        rise[1] + machine.ambient_c,
        run_time,
        ends,
        read_at(distance, time, run_time),
        ah,
        energy,
        np.sqrt(hottest_ten_minutes(squares, time, run_time)),
        np.max(rows[:, 0] / np.maximum(mean_a[0], 1e-9), axis=0),
        rounds,
        rise[0] + machine.ambient_c,
    )


def _moving(each_j: Number, table: Table) -> Number:
    """Energy of a round at each point of the grid, where it does not get round any more that of the last point where it does. [J]"""
    goes = np.min(table.margins[EVENTS.index("stands on a climb")], axis=0) > 0.0
    last = np.maximum.accumulate(np.where(goes, np.arange(len(goes)), 0))
    return each_j[:, last]


def _energy(each_j: Number, rounds: Number, opens: bool, end_s: float, time: Number) -> NDArray[np.float64]:
    """Energy of each part until the ride's end from that of one round at each point of the grid. [J]"""
    steps = np.diff(rounds) * (each_j[:, 1:] + each_j[:, :-1]) / 2.0
    if opens:
        steps[:, 0] = each_j[:, 0]
    running = np.concatenate([np.zeros((len(steps), 1)), np.cumsum(steps, axis=1)], axis=1)
    return np.array([np.interp(end_s, time, part) for part in running])


def _hottest(whole: Sums, rise: tuple[Number, Number]) -> tuple[Number, Number]:
    """Highest winding within a round above the air [K] and when in the round [s]."""
    hottest, moment = rise[0], np.zeros(rise[0].shape)
    for time, (m11, m12, _, _, add, _), _ in whole.on_the_way:
        winding = m11 * rise[0] + m12 * rise[1] + add
        moment = np.where(winding > hottest, time, moment)
        hottest = np.maximum(winding, hottest)
    return hottest, moment


def _as_begun(rise: tuple[Number, Number], rounds: Number, opened: bool) -> tuple[Number, Number]:
    """Temperatures of a single ride above the air half a round before each point of the grid [K].

    A round is ridden at what it was begun with; taken as flowing on between the rounds that is, on average, half a round old.
    Before the first the line goes on backward, so that the first round is the one begun cold. opened: the first point is one round
    of its own, and the line begins at the second.
    """
    if opened:
        later = _as_begun((rise[0][1:], rise[1][1:]), rounds[1:], False)
        return np.concatenate([rise[0][:1], later[0]]), np.concatenate([rise[1][:1], later[1]])
    shifted = []
    for trace in rise:
        # A repetition of the first stretch's slope backward, as one more point in front.
        front = np.concatenate([rounds[:1] - 1.0, rounds])
        slope = (trace[1] - trace[0]) / max(float(rounds[1] - rounds[0]), 1e-9)
        shifted.append(np.interp(rounds - 0.5, front, np.concatenate([[trace[0] - slope], trace])))
    return shifted[0], shifted[1]


def _in_round(margin: Number, share: Number, rounds: Number, time: Number, opens: bool) -> Number:
    """Time at which an end comes: in the first round in which its moment, a share of the round [1], meets no margin; inf when never. [s]

    opens: the first point is the first round alone, and the line begins at the second.
    """
    if not bool(np.any(margin <= 0.0)):
        return np.full(time.shape[1:], np.inf)
    if opens and float(margin[0]) <= 0.0:
        return share[0] * time[1]
    crossed = first_below(margin[int(opens) :], rounds[int(opens) :])
    finite = np.isfinite(crossed)
    at = np.where(finite, crossed, 0.0)
    within = np.clip(read_at(np.broadcast_to(share, rounds.shape), rounds, at), 0.0, 1.0)
    count = np.maximum(np.ceil(at - within - 1e-9), 0.0) + within
    # Without a whole round left on the grid the last one goes on as it was.
    return np.where(finite, np.maximum(read_at(time, rounds, count), 0.0), np.inf)
