"""A ride round and round a course until the first thing that ends it.

At fixed charge and temperatures a round is a handful of array calls (`ride.round`); rounds at a few states of charge make a
table. Where a round takes little of the charge, the rounds between two states follow in closed form; where it takes much,
the legs are gone through one by one, reading the table. Temperatures come from that, and the two are repeated until they agree.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from gecko.electric.bank import Source, rated_ah
from gecko.electric.operating_point import THROTTLE, OperatingPoint
from gecko.figures import Number
from gecko.heat.motor import WINDING_STOP_C, Affine, repeated
from gecko.machine import Machine
from gecko.quadrature import cumulative, pick, read_at, running_sum
from gecko.ride.by_legs import EARLY, SHARES, Begun, leg_by_leg
from gecko.ride.courses import Leg
from gecko.ride.emptying import soc_path, time_path
from gecko.ride.record import END_NAMES, HOTTEST_C, Ride, first_below, hottest_ten_minutes, until
from gecko.ride.round import STUCK_M_S, Rider
from gecko.ride.sums import Sums, joined
from gecko.ride.table import EVENTS, LEAST_A, Table, round_table, tabled, taken, workings

_LEFT = np.concatenate(
    [
        [1.0, 0.9985, 0.996, 0.992, 0.985, 0.97, 0.95, 0.92, 0.88, 0.82, 0.74, 0.64, 0.54, 0.44, 0.36],
        [0.3, 0.25, 0.2, 0.16, 0.13, 0.1, 0.075, 0.05, 0.035, 0.024, 0.016, 0.01, 0.005, 0.0],
    ]
)
_LEFT_COARSE = np.array([1.0, 0.98, 0.94, 0.85, 0.65, 0.4, 0.27, 0.17, 0.1, 0.05, 0.0])
_DRAWN = np.concatenate([_LEFT[_LEFT > 0.16], 0.16 - np.linspace(0.02, 0.31, 16)])
_DRAWN_COARSE = np.concatenate([_LEFT_COARSE[:-4], 0.27 - np.linspace(0.05, 0.42, 9)])
"""What is left of the charge where rounds are tabled; with unlike units what is left of the bank after what was drawn. [1]"""
FEW_ROUNDS, FEW_HOT_ROUNDS = 12.0, 6.0
STEADY = 0.01
"""A round that begins as fast as the one before it ended, to within this share of the highest speed, is the same round. [1]"""
NEARLY_EMPTY = 0.05
"""Below this charge temperatures need not settle any more. [1]"""
LARGE_ROUND = 0.05
"""A ride of fewer rounds until it is empty or until it is hot, or whose rounds take more of the charge than this, is gone through leg by leg. [1]"""


@dataclass(frozen=True)
class Marched:
    """A ride read from the tables of its rounds, and what they tell for going through it leg by leg.

    few: whether there are so few rounds, or such large ones, that it has to be; one entry a sample. A single ride of which that is sure is
    None. left: what is left at the end of a single ride [1].
    """

    ride: Ride | None
    few: NDArray[np.bool_]
    begun: Begun
    left: float = 0.0


def course_ride(machine: Machine, legs: Sequence[Leg], rider: Rider) -> Ride:
    """Ride a course's legs round and round from s = 1 and a cold motor until something ends it; units as in `Ride` [SI].

    Samples, on the last axis, are never ridden leg by leg.
    """
    marched = march(machine, legs, rider)
    if rider.sampled:
        assert marched.ride is not None
        return marched.ride
    if marched.ride is not None and not marched.few and rider.hot_again and marched.ride.ends_by == "winding 155 C" and marched.left >= EARLY:
        # Hot before long: most of the grid lay beyond the end, so once more with all of it before.
        marched = march(machine, legs, rider, marched)
    if marched.ride is not None and not marched.few:
        return marched.ride
    return leg_by_leg(machine, legs, rider, marched.begun)[0]


@dataclass(frozen=True)
class _Guess:
    """What the tables are begun with at each charge: winding and case above the air, as rounds begin and on each leg [K]; the speed a round
    begins with and those of balance [m/s]; mean amps [A]; what the first round takes of the charge [1]."""

    rise: tuple[Number, Number]
    working: list[tuple[Number, Number]]
    start_m_s: Number
    balances: dict[int, Number]
    amps: Number
    opening: float


def _blind(legs: Sequence[Leg], opens: bool, columns: tuple[int, ...]) -> _Guess:
    """Knowing nothing but how fast the last stretch is ridden: about so fast later rounds begin. Units as in `_Guess` [SI]."""
    none, last = np.zeros(columns), legs[-1].aimed_m_s
    start = np.concatenate([none[:1], none[1:] + last]) if opens and last is not None else none
    return _Guess((none, none), [(none, none)] * len(legs), start, {}, np.full(columns, 5.0), 1e-4)


def _from(near: Marched, later: NDArray[np.float64], opens: bool, ambient_c: float) -> _Guess:
    """A single ride from the same ride on another grid, in air of a temperature [°C]."""
    assert near.ride is not None and near.ride.winding_round_c is not None
    old, opening = near.begun.grid, 1.0 - float(near.begun.grid[1])
    grid = np.concatenate([[1.0], (1.0 - opening) * later]) if opens else later
    there = near.begun.on(grid)
    winding, case, amps = (np.interp(grid, old[::-1], trace[::-1]) for trace in (near.ride.winding_round_c - ambient_c, near.ride.case_c - ambient_c, near.ride.pack_a))
    start = there.rolling_m_s[:, 0]
    if opens:
        start = np.concatenate([[0.0], start[1:]])
    working = [(one[:, 0], other[:, 0]) for one, other in there.working]
    return _Guess((winding, case), working, start, {number: speed[:, 0] for number, speed in there.balances.items()}, amps, opening)


def march(machine: Machine, legs: Sequence[Leg], rider: Rider, near: Marched | None = None) -> Marched:
    """The ride from tables at so many charges; near: the same ride, hot early, to be ridden on a grid of its own. Units as in `Ride` [SI].

    A single one whose rounds will surely be few is left to the legs, without a ride.
    """
    aimed = [np.shape(leg.aimed_m_s) for leg in legs if leg.aimed_m_s is not None]
    vehicle, single_bank = machine.vehicle, machine.bank.uniform
    figures = (vehicle.mass_kg, vehicle.gear_ratio, vehicle.wheel_radius_m, machine.motor.k_v_s, machine.path_ohm, rated_ah(machine.bank), legs[0].rolling)
    shape = np.broadcast_shapes(*(np.shape(figure) for figure in figures), *aimed)
    fine, few_points = (_LEFT, _LEFT_COARSE) if single_bank else (_DRAWN, _DRAWN_COARSE)
    later = few_points if rider.sampled else fine if near is None else 1.0 - SHARES * (1.0 - near.left)
    # Where rounds roll on, the first one starts from rest and cold and the later ones do not: the first column is that round, and the
    # grid begins after it.
    opens = legs[-1].stop_s is None
    guess = _blind(legs, opens, (len(later) + opens, *shape)) if near is None else _from(near, later, opens, machine.ambient_c)
    rise, working, start, balances, amps, opening = guess.rise, guess.working, guess.start_m_s, guess.balances, guess.amps, guess.opening
    least = 0 if near is not None else 1 if single_bank else 2
    for repetition in range(rider.repetitions):
        grid = np.concatenate([[1.0], (1.0 - opening) * later]) if opens else later
        soc = soc_path(machine, amps, grid, shape)
        source = machine.source(tuple(np.clip(s, 0.0, 1.0) for s in soc))
        # When neither temperatures nor speeds are known the roughest round will do.
        rough = repetition == 0 and near is None
        ridden, sums = tabled(machine, source, legs, working, start, Rider.samples(rider.brake_m_s2) if rough else rider, balances)
        whole = joined(sums, places=False)
        amps = np.maximum(whole.mean_a, LEAST_A)
        time, rounds, distance, steps = _between(machine, whole, amps, grid, shape, opens)
        opening = float(np.mean(taken(machine, whole.mean_a, whole.time_s)[0]))
        before, rise = rise, _temperatures(machine, steps)
        working = workings(sums, rise if shape else _as_begun(rise, rounds, opens))
        rolling = ridden[-1][-1].speed_m_s[-1]
        large = taken(machine, whole.mean_a, whole.time_s)[len(grid) // 3] > LARGE_ROUND
        if not (rough or shape or rider.sampled) and (bool(large) or _hot_within(machine, rounds, rise, FEW_HOT_ROUNDS)):
            return Marched(None, np.array(True), _begun(grid, soc, working, rolling, balances, shape))
        begun_m_s, start = start, np.concatenate([np.zeros((1, *shape)), rolling[1:]]) if opens else start
        # Nobody rides on past the winding's end; one point more, for the line through it.
        # Past the low cut-off it crawls and settles late.
        pace = whole.distance_m / whole.time_s
        going = (np.minimum(rise[0], before[0]) + machine.ambient_c < WINDING_STOP_C + 1.0) & (pace > 0.6 * np.max(pace[:2], axis=0))
        riding = np.logical_and.accumulate(going)
        riding[1:] = riding[:-1]
        # Near the end the volts fall steeply and everything settles late, for the last moments only.
        riding[grid < NEARLY_EMPTY] = False
        steady = float(np.max(np.abs(start - begun_m_s) * riding)) < STEADY * max(float(np.max(rolling)), STUCK_M_S)
        if repetition >= least and steady and float(np.max(np.abs(rise[0] - before[0]) * riding)) < rider.settled_k:
            break
    whole, table = joined(sums), round_table(machine, source, soc, ridden, sums)
    ride = _finish(machine, table, whole, distance, soc, source, time, rounds, rise, shape, opens)
    # A first round that does not get round is one of those few, too.
    enough = np.where(ride.ends == END_NAMES.index("winding 155 C"), FEW_HOT_ROUNDS, FEW_ROUNDS)
    few = large | (ride.value_at_end(rounds) < enough) | np.any(table.margins[:, :, 0] <= 0.0, axis=(0, 1))
    if whole.energy_j is not None:
        ride = replace(ride, energy_j=_energy(_moving(whole.energy_j, table), rounds, opens, float(ride.run_time_s), time))
    left = 0.0 if shape else float(np.interp(float(ride.run_time_s), ride.time_s, grid))
    return Marched(ride, few, _begun(grid, soc, working, rolling, balances, shape), left)


def _begun(
    grid: NDArray[np.float64], soc: tuple[Number, ...], working: list[tuple[Number, Number]], rolling: Number, balances: dict[int, Number], shape: tuple[int, ...]
) -> Begun:
    """The same with the rides on the last axis, where there is a single one, too. Units as in `Begun` [SI]."""
    if shape:
        return Begun(grid, soc, working, rolling, balances)
    return Begun(
        grid,
        tuple(charge[:, None] for charge in soc),
        [(winding[:, None], case[:, None]) for winding, case in working],
        rolling[:, None],
        {number: speed[:, None] for number, speed in balances.items()},
    )


def _hot_within(machine: Machine, rounds: Number, rise: tuple[Number, Number], few: float) -> bool:
    """Whether a single machine's winding reaches its end within a few rounds [1]."""
    hot = rise[0] + machine.ambient_c
    return bool(np.any(hot >= WINDING_STOP_C)) and float(np.interp(WINDING_STOP_C, np.maximum.accumulate(hot), rounds)) < few


def _between(machine: Machine, whole: Sums, amps: Number, grid: NDArray[np.float64], shape: tuple[int, ...], opens: bool) -> tuple[Number, Number, Number, Affine]:
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
        winding, case = (np.minimum(np.maximum(rise, 0.0), most) for rise in (m11 * winding + m12 * case + add1, m21 * winding + m22 * case + add2))
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
    windings = _windings(whole, rise) + machine.ambient_c
    hottest = windings.max(axis=0)
    span = whole.time_s
    leg_starts = running_sum(np.stack([leg.time_s for leg in table.legs]))
    found: dict[str, Number] = {}
    for event, margins, moments in zip(EVENTS, table.margins, table.moments, strict=True):
        # Each leg comes at its own moment of the round: one that meets the end at a lower charge may still be the next to come.
        each = zip(margins, moments + leg_starts[:-1], strict=True)
        found[event] = np.min([_in_round(margin, moment, span, rounds, time, opens) for margin, moment in each], axis=0)
    found["winding 155 C"] = _too_hot(windings, whole, rounds, time, opens)
    empty: Number = np.full(shape, np.inf)
    for charge in soc:
        empty = np.minimum(empty, first_below(np.broadcast_to(charge - 1e-7, time.shape), time))
    found["unit empty"] = empty
    stack = np.stack([found[name] for name in END_NAMES])
    run_time = stack.min(axis=0)
    ended = np.isfinite(run_time)
    ends = np.where(ended, stack.argmin(axis=0), END_NAMES.index("unit empty"))
    run_time = np.where(ended, run_time, time[-1])
    if not shape and int(ends) == END_NAMES.index("winding 155 C"):
        hottest = _meets_stop(hottest, time, float(run_time))
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
        np.sqrt(hottest_ten_minutes(cumulative(squares, time), time, run_time)),
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


def _meets_stop(hottest: Number, time: Number, end_s: float) -> Number:
    """A single ride's highest windings [°C] over time, so that they reach their end as the ride does [s].

    A point tells of the round that begins there, and is hot later in it; up to the end nothing is above the end.
    """
    met = np.minimum(hottest, WINDING_STOP_C)
    after = int(np.searchsorted(time, end_s, side="right"))
    if 0 < after < len(time) and end_s > time[after - 1]:
        before = met[after - 1]
        met[after:] = before + (WINDING_STOP_C - before) * (time[after:] - time[after - 1]) / (end_s - time[after - 1])
    return met


def _windings(whole: Sums, rise: tuple[Number, Number]) -> Number:
    """Winding above the air as a round begins and at the places on its way, for a round begun at each point of the grid. [K] Shape (places, …)."""
    return np.stack([rise[0], *(m11 * rise[0] + m12 * rise[1] + add for _, (m11, m12, _, _, add, _), _ in whole.on_the_way)])


def _too_hot(windings: Number, whole: Sums, rounds: Number, time: Number, opens: bool) -> Number:
    """Time at which the winding reaches its end: within the first round that is begun so warm that it does; inf when never. [s]

    windings: at the places of a round, as `_windings` gives them [°C]. opens: as for `_in_round`.
    """
    margin = WINDING_STOP_C - windings.max(axis=0)
    if not bool(np.any(margin <= 0.0)):
        return np.full(time.shape[1:], np.inf)
    crossed = first_below(margin[int(opens) :], rounds[int(opens) :])
    finite = np.isfinite(crossed)
    first = np.ceil(np.where(finite, crossed, 0.0) - 1e-9)
    if opens:
        first = np.where(margin[0] <= 0.0, 0.0, first)
        finite = finite | (margin[0] <= 0.0)
    moments = np.stack([np.zeros(rounds.shape), *(np.broadcast_to(moment, rounds.shape) for moment, _, _ in whole.on_the_way)])
    at = np.minimum(first, rounds[-1])
    warm, when = (np.stack([read_at(one, rounds, at) for one in place]) for place in (windings, moments))
    index = np.maximum((warm >= WINDING_STOP_C - 1e-9).argmax(axis=0), 1)
    low, high = pick(warm, index - 1), pick(warm, index)
    share = np.minimum(np.maximum((WINDING_STOP_C - low) / np.where(high > low, high - low, 1.0), 0.0), 1.0)
    before = pick(when, index - 1)
    return np.where(finite, read_at(time, rounds, first) + before + share * (pick(when, index) - before), np.inf)


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


def _in_round(margin: Number, moment_s: Number, span_s: Number, rounds: Number, time: Number, opens: bool) -> Number:
    """Time at which an end comes: in the first round in which its moment [s], of the round's time [s], meets no margin; inf when never. [s]

    opens: the first point is the first round alone, and the line begins at the second.
    """
    if not bool(np.any(margin <= 0.0)):
        return np.full(time.shape[1:], np.inf)
    crossed = first_below(margin[int(opens) :], rounds[int(opens) :])
    finite = np.isfinite(crossed)
    at = np.where(finite, crossed, 0.0)
    within = np.minimum(np.maximum(read_at(np.broadcast_to(moment_s / span_s, rounds.shape), rounds, at), 0.0), 1.0)
    full = np.maximum(np.ceil(at - within - 1e-9), 0.0)
    # What is ridden of the last round is ridden at the charges between its begin and the end: near empty a whole one there takes far longer.
    # Without a whole round left on the grid the last one goes on as it was.
    seconds = read_at(np.broadcast_to(moment_s, rounds.shape), rounds, np.minimum(full + within / 2.0, rounds[-1]))
    found = np.where(finite, read_at(time, rounds, full) + seconds, np.inf)
    return np.where(margin[0] <= 0.0, moment_s[0], found) if opens else found
