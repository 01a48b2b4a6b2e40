"""Rides over rounds that each take much of the charge: leg by leg, reading the tables at the charge of the moment.

Several machines ride at once, on the last axis; a single one is one of one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from gecko.alike import one_of
from gecko.electric.bank import Source
from gecko.electric.operating_point import THROTTLE, OperatingPoint
from gecko.figures import Number
from gecko.heat.motor import WINDING_STOP_C
from gecko.machine import Machine
from gecko.ride.courses import Leg
from gecko.ride.energy import PARTS
from gecko.ride.record import END_NAMES, HOTTEST_C, Ride, hottest_ten_minutes
from gecko.ride.round import Rider
from gecko.ride.sums import Sums
from gecko.ride.table import EVENTS, Table, round_table, tabled, taken

MOST_LEGS = 20_000
MOST_PIECES = 60
"""A ride is not followed over more legs than this, and its round not cut into more pieces."""
PIECES = 3
LARGE_RISE_K = 20.0
"""A leg on which the winding moves by more than this is ridden in so many pieces. [K]"""
_SETTLED_K = 1.5
REPETITIONS = 3
"""Tables and temperatures are brought to agree in at most so many rounds of either, after the first."""
EARLY = 0.7
SHARES = np.concatenate([[0.0, 0.01, 0.03, 0.06, 0.1], np.linspace(0.16, 1.0, 14), [1.06, 1.2]])
"""A ride that ends with more of its charge than this has a grid of its own: shares of what it draws until then. [1]"""

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Begun:
    """What is known of the rides at each charge of a grid (first axis; rides on the last) before they are gone through leg by leg.

    grid: what is left [1]; soc of each unit group [1]; winding and case above the air on each leg [K]; the speed a round begins with
    [m/s]; speeds of balance by leg [m/s].
    """

    grid: Array
    soc: tuple[Number, ...]
    working: list[tuple[Number, Number]]
    rolling_m_s: Number
    balances: dict[int, Number]

    def on(self, grid: Array) -> Begun:
        """The same on another grid. [1]"""

        def moved(trace: Number) -> Number:
            return np.stack([np.interp(grid, self.grid[::-1], one[::-1]) for one in trace.T], axis=-1)

        working = [(moved(winding), moved(case)) for winding, case in self.working]
        balances = {number: moved(speed) for number, speed in self.balances.items()}
        return Begun(grid, tuple(moved(charge) for charge in self.soc), working, moved(self.rolling_m_s), balances)


def leg_by_leg(machine: Machine, legs: Sequence[Leg], rider: Rider, begun: Begun) -> list[Ride]:
    """The rides over few or large rounds: tables are read at the charge of each leg's middle. Units as in `Ride` [SI].

    The motor is as warm on a leg, at a charge, as the ride finds it there; tables and ride are repeated until they agree. A leg that
    heats a winding much is ridden in pieces.
    """
    rides = _Settling(machine, legs, rider, begun)
    moved = rides.once()
    begun, left, rises = rides.begun(), rides.least_left(), rides.rises_k()
    early = EARLY < left < 1.0 - 1e-4
    if early:
        # Most of the grid lay beyond the end: once more with all of it before.
        begun = begun.on(1.0 - 1.3 * SHARES * (1.0 - left))
    split = max(rises) > LARGE_RISE_K and PIECES * len(legs) <= MOST_PIECES
    if split:
        fastest = rides.table.highest_m_s[0]
        brakes_m, brakes_s = float(np.max(fastest**2 / (2.0 * rider.brake_m_s2))), float(np.max(fastest / rider.brake_m_s2))
        pieces = [_pieces(leg, brakes_m, brakes_s) if rise > LARGE_RISE_K else [leg] for leg, rise in zip(legs, rises, strict=True)]
        legs = [piece for parts in pieces for piece in parts]
        # What the whole leg found is where its pieces begin.
        begun = replace(begun, working=[was for parts, was in zip(pieces, begun.working, strict=True) for _ in parts], balances={})
    if early or split:
        rides = _Settling(machine, legs, rider, begun)
        moved = rides.once()
    for _ in range(REPETITIONS):
        if moved < _SETTLED_K:
            break
        moved = rides.once()
    return rides.rides()


def _pieces(leg: Leg, brakes_m: float, brakes_s: float) -> list[Leg]:
    """A leg in pieces; only the last one stops, and it is long enough for that [m, s]."""
    whole = leg.length_m if leg.length_m is not None else leg.time_s
    assert whole is not None
    needed = 1.1 * (brakes_m if leg.length_m is not None else brakes_s) if leg.stop_s is not None else 0.0
    last = min(max(whole / PIECES, needed), whole)
    sizes = [(whole - last) / (PIECES - 1)] * (PIECES - 1) if last < 0.9 * whole else []
    timed = leg.length_m is None
    found = [replace(leg, length_m=None if timed else size, time_s=size if timed else None, stop_s=None) for size in sizes]
    end = whole - sum(sizes)
    return [*found, replace(leg, length_m=None if timed else end, time_s=end if timed else None)]


class _Settling:
    """Tables and rides on their way to agreeing."""

    def __init__(self, machine: Machine, legs: Sequence[Leg], rider: Rider, begun: Begun) -> None:
        self._machine, self._legs, self._rider = machine, legs, rider
        self._grid, self._soc, self._start = begun.grid, begun.soc, begun.rolling_m_s
        self._source = machine.source(tuple(np.clip(charge, 0.0, 1.0) for charge in begun.soc))
        self._balances = dict(begun.balances)
        self._working = begun.working

    def once(self) -> float:
        """Make the tables, follow the rides, and tell how far what they find is from what the tables were made with [K]."""
        rider, source = self._rider, self._source
        ridden, sums = tabled(self._machine, source, self._legs, self._working, self._start, rider, self._balances)
        self.first = self.table = round_table(self._machine, source, self._soc, ridden, sums)
        if self._legs[-1].stop_s is None:
            ends = [phases[-1].speed_m_s[-1] for phases in ridden]
            self.first = _from_rest(self._machine, source, self._soc, self._legs, self._working, rider, self.table, ends)
            self._start = ends[-1]
        self._followed = _Following(self._machine, self.first, self.table, self._grid, self._soc).until_the_end()
        before, self._working = self._working, [_as_visited(self._grid, seen, was) for seen, was in zip(self._followed.visits, self._working, strict=True)]
        return max(_moved(self._grid, seen, was) for seen, was in zip(self._followed.visits, before, strict=True))

    def begun(self) -> Begun:
        """What is known now, to begin with on another grid or in other pieces."""
        return Begun(self._grid, self._soc, self._working, self._start, self._balances)

    def least_left(self) -> float:
        """What is left of the charge at the end of the ride that goes on longest. [1]"""
        return self._followed.least_left()

    def rises_k(self) -> list[float]:
        """The most a winding moved at once on each leg. [K]"""
        return [max((float(np.max(seen[3])) for seen in leg), default=0.0) for leg in self._followed.visits]

    def rides(self) -> list[Ride]:
        """The rides as they were followed last; units as in `Ride` [SI]."""
        legs = self.first.legs
        root = np.sqrt(sum(leg.motor_a2s[0] for leg in legs) / sum(leg.time_s[0] for leg in legs))
        splits = legs[0].energy_j is not None
        found = []
        for i in range(np.shape(self._start)[-1]):
            trail = self._followed.of(i)
            energy = trail.totals[-1, 6:] if splits else None
            found.append(_ride(one_of(self._machine, i), root[i], self.table.highest_m_s[0][i], self._grid, one_of(self._soc, i), trail, energy))
        return found


def _moved(grid: Array, seen: list[Visit], was: tuple[Number, Number]) -> float:
    """How far the windings the rides found on a leg are from those its table was made with, at most. [K]"""
    if not seen:
        return 0.0
    lefts, windings = (np.stack([visit[k] for visit in seen]) for k in (0, 1))
    return max(float(np.max(np.abs(windings[:, i] - np.interp(lefts[:, i], grid[::-1], was[0][::-1, i])))) for i in range(lefts.shape[1]))


def _as_visited(grid: Array, seen: list[Visit], was: tuple[Number, Number]) -> tuple[Number, Number]:
    """Winding and case above the air on a leg at every charge of the grid [K], from where the rides came by: (charge, winding, case, rise)."""
    if not seen:
        return was
    left, winding, case = (np.stack([visit[k] for visit in reversed(seen)]) for k in (0, 1, 2))
    each = range(left.shape[1])
    return tuple(np.stack([np.interp(grid, left[:, i], trace[:, i]) for i in each], axis=-1) for trace in (winding, case))  # type: ignore[return-value]


def _from_rest(
    machine: Machine,
    source: Source,
    soc: tuple[Number, ...],
    legs: Sequence[Leg],
    working: Sequence[tuple[Number, Number]],
    rider: Rider,
    table: Table,
    ends: list[Number],
) -> Table:
    """The table of a round begun from rest: only the first legs differ, until the speed is that of the later rounds. ends: their speeds [m/s]."""
    speed, phases, sums = np.zeros_like(ends[0]), [], []
    for i, end in enumerate(ends):
        ridden, first = tabled(machine, source, legs[i : i + 1], working[i : i + 1], speed, rider)
        speed = ridden[-1][-1].speed_m_s[-1]
        phases += ridden
        sums += first
        if float(np.max(np.abs(speed - end))) < 0.01 * float(np.max(end) + 0.1):
            break
    begun, count = round_table(machine, source, soc, phases, sums), len(sums)
    return replace(
        table,
        legs=[*sums, *table.legs[count:]],
        margins=np.concatenate([begun.margins, table.margins[:, count:]], axis=1),
        moments=np.concatenate([begun.moments, table.moments[:, count:]], axis=1),
    )


def _all_rows(machine: Machine, table: Table) -> list[Array]:
    """Everything each leg comes to at every charge of the grid. Shape (charges, rides, what `_Following` reads).

    What a leg takes of the charge is its share of what the round takes: lead gives its amp-hours by the mean amps of the round.
    """
    legs = table.legs
    time_s: Number = sum(leg.time_s for leg in legs)
    pack_as: Number = sum(leg.pack_as for leg in legs)
    per_as = taken(machine, pack_as / time_s, time_s) / np.maximum(pack_as, 1e-9)
    return [_rows(leg, per_as, table, index) for index, leg in enumerate(legs)]


def _rows(leg: Sums, per_as: Number, table: Table, index: int) -> Array:
    """One line a charge and ride; per_as: what an ampere-second takes of the charge. [mixed]"""
    energies = leg.energy_j if leg.energy_j is not None else ()
    sums = (leg.time_s, leg.distance_m, leg.pack_as, leg.pack_a2s, leg.controller_j, per_as * leg.pack_as)
    margins, moments = table.margins[:, index], table.moments[:, index]
    places = [np.stack(parts) for parts in zip(*((time, m11, m12, add1, weight) for time, (m11, m12, _, _, add1, _), weight in leg.on_the_way), strict=True)]
    return np.moveaxis(np.concatenate([np.stack((*sums, *energies)), np.stack((*leg.heat, table.lowest_v)), margins, moments, *places]), 0, -1).copy()


_TAKEN = 5
"""In the totals: seconds, metres, charge and its squares, joules, what it takes of the charge, and the energies, if they are told apart."""
_EVENTS = len(EVENTS)
_EMPTY, _HOT = END_NAMES.index("unit empty"), END_NAMES.index("winding 155 C")
_BY_MARGIN = [END_NAMES.index(name) for name in EVENTS]

Visit = tuple[Array, Array, Array, Array]
"""Rides coming by a leg: charge [1], winding and case above the air [K], and the most the winding moved at once [K]."""


@dataclass(frozen=True)
class _Trail:
    """A ride's trace at the ends of its legs (first axis): totals; highest winding on the leg, case and winding at its end, above the air
    [K]; rounds [1]; lowest volts [V]; and the number of what ends it."""

    totals: Array
    hottest_k: Array
    case_k: Array
    winding_k: Array
    rounds: Array
    lowest_v: Array
    end: int


class _Following:
    """Rides followed leg after leg, the first round from a table of its own; all arrays have the rides on the first axis."""

    def __init__(self, machine: Machine, first: Table, table: Table, grid: Array, soc: tuple[Number, ...]) -> None:
        self._grid, self._rising = grid, -grid
        self._rolling = _all_rows(machine, table)
        self._from_rest = self._rolling if first is table else _all_rows(machine, first)
        self._taken_before: list[Array | None] = [None for _ in self._rolling]
        least = np.min(np.stack(soc), axis=0)
        count = least.shape[1]
        self._each = np.arange(count)
        # Of a grid that ends before the charge does, nobody comes to the end.
        self._empty_left = np.array([np.interp(0.0, charge[::-1], grid[::-1], left=-np.inf) for charge in least.T])
        self._stop_k = WINDING_STOP_C - machine.ambient_c
        sums = table.legs[0]
        self._totals = np.zeros((count, _TAKEN + 1 + (0 if sums.energy_j is None else len(PARTS))))
        self._winding, self._case = np.zeros(count), np.zeros(count)
        self._going, self._ends, self._lengths = np.ones(count, dtype=bool), np.full(count, _EMPTY), np.ones(count, dtype=int)
        self.visits: list[list[Visit]] = [[] for _ in self._rolling]
        """By leg, then by round."""
        self._trace = [(self._totals, self._winding, self._case, self._winding, np.zeros(count), table.lowest_v[0])]

    def of(self, ride: int) -> _Trail:
        """A ride's own trace."""
        lines = self._trace[: self._lengths[ride]]
        totals, hottest, case, winding, rounds, lowest = (np.array([line[k][ride] for line in lines]) for k in range(6))
        return _Trail(totals, hottest, case, winding, rounds, lowest, int(self._ends[ride]))

    def least_left(self) -> float:
        """The least that is left of the charge. [1]"""
        return float(1.0 - np.max(self._totals[:, _TAKEN]))

    def until_the_end(self) -> _Following:
        """Go on until every ride has met its end."""
        step, legs = 0, len(self._rolling)
        while step < MOST_LEGS and bool(self._going.any()):
            self._leg((self._from_rest if step < legs else self._rolling)[step % legs], step, legs)
            step += 1
        return self

    def _read(self, rows: Array, left: Array) -> Array:
        low = np.minimum(np.maximum(np.searchsorted(self._rising, -left) - 1, 0), len(self._grid) - 2)
        upper = self._grid[low]
        share = np.minimum(np.maximum((upper - left) / (upper - self._grid[low + 1]), 0.0), 1.0)
        first = rows[low, self._each]
        return np.asarray(first + (rows[low + 1, self._each] - first) * share[:, None])

    def _leg(self, rows: Array, step: int, legs: int) -> None:
        left, before = 1.0 - self._totals[:, _TAKEN], self._taken_before[step % legs]
        # The middle of the leg, by what it took a round before.
        takes = self._read(rows, left)[:, _TAKEN] if before is None else before
        row = self._read(rows, left - takes / 2.0)
        adds, rest = np.split(row, [self._totals.shape[1]], axis=1)
        takes = self._taken_before[step % legs] = adds[:, _TAKEN]
        m11, m12, m21, m22, add1, add2, lowest = rest[:, :7].T
        winding, case = self._winding, self._case
        hot = np.minimum(np.maximum(m11 * winding + m12 * case + add1, 0.0), HOTTEST_C)
        warm = np.minimum(np.maximum(m21 * winding + m22 * case + add2, 0.0), HOTTEST_C)
        at, by_winding, by_case, added, weights = rest[:, 7 + 2 * _EVENTS :].reshape(len(winding), 5, -1).transpose(1, 0, 2)
        on_the_way = np.minimum(np.maximum(by_winding * winding[:, None] + by_case * case[:, None] + added, 0.0), HOTTEST_C)
        steps = np.concatenate([winding[:, None], on_the_way], axis=1)
        peak, busy = steps.max(axis=1), weights.sum(axis=1)
        mean = (weights * (steps[:, 1:] + steps[:, :-1])).sum(axis=1) / np.maximum(2.0 * busy, 1e-12)
        # A leg on which nothing drives is as warm as it begins. Who has arrived already goes on being seen where it ended.
        works = np.where(busy > 1e-6, mean, winding)
        moved = np.abs(steps[:, 1:] - steps[:, :-1]).max(axis=1) * self._going
        self.visits[step % legs].append((left - takes / 2.0 * self._going, works, (case + warm) / 2.0, moved))
        share = 1.0 * self._going
        margins, over, short = rest[:, 7 : 7 + _EVENTS], peak >= self._stop_k, left - takes <= self._empty_left
        if bool(((margins <= 0.0).any(axis=1) | over | short)[self._going].any()):
            found = np.full((len(END_NAMES), len(left)), np.inf)
            seconds = adds[:, 0]
            found[_BY_MARGIN] = np.where(margins <= 0.0, rest[:, 7 + _EVENTS : 7 + 2 * _EVENTS] / seconds[:, None], np.inf).T
            found[_HOT] = np.where(over, np.minimum(self._reaches_stop(steps, at) / seconds, 1.0), np.inf)
            found[_EMPTY] = np.where(short, np.maximum(left - self._empty_left, 0.0) / np.maximum(takes, 1e-12), np.inf)
            comes = found.min(axis=0)
            ended = np.isfinite(comes) & self._going
            self._ends = np.where(ended, found.argmin(axis=0), self._ends)
            share = np.where(ended, comes, share)
            peak = np.where(ended, np.minimum(peak, self._stop_k), peak)
            going = self._going & ~ended
        else:
            going = self._going
        self._totals = self._totals + share[:, None] * adds
        self._winding, self._case = winding + share * (hot - winding), case + share * (warm - case)
        self._trace.append((self._totals, peak, self._case, self._winding, (step + share) / legs, lowest))
        self._lengths = self._lengths + self._going
        self._going = going

    def _reaches_stop(self, steps: Array, at: Array) -> Array:
        """When in the leg a winding that does reaches its end, linear between the places on the way. [s]"""
        index = np.maximum((steps >= self._stop_k).argmax(axis=1), 1)
        times = np.concatenate([np.zeros((len(at), 1)), at], axis=1)
        low, high = steps[self._each, index - 1], steps[self._each, index]
        part = np.clip((self._stop_k - low) / np.where(high > low, high - low, 1.0), 0.0, 1.0)
        first, second = times[self._each, index - 1], times[self._each, index]
        return np.asarray(first + part * (second - first))


def _ride(machine: Machine, root_a: Number, highest_m_s: Number, grid: Array, soc: tuple[Number, ...], trail: _Trail, energy_j: Array | None) -> Ride:
    """The ride of a trail; root_a: RMS motor amps of the first round [A], highest speed [m/s], energy of each of `PARTS` [J]."""
    time, distance, pack_as, pack_a2s, joules, took = trail.totals[:, : _TAKEN + 1].T
    spans = np.maximum(np.diff(time), 1e-9)

    def mean(total: Number) -> Number:
        """Mean of a running total over each leg, at the leg's end."""
        each = np.diff(total) / spans
        return np.concatenate([each[:1], each])

    charges = tuple(np.interp(1.0 - took, grid[::-1], charge[::-1]) for charge in soc)
    mean_a = mean(pack_as)
    source = machine.source(tuple(np.clip(charge, 0.0, 1.0) for charge in charges))
    own = np.stack([np.broadcast_to(row, mean_a.shape) for row in source.row_currents(mean_a)])
    return Ride(
        OperatingPoint(root_a, mean_a[0], trail.lowest_v[0], 1.0, THROTTLE),
        highest_m_s,
        time,
        charges,
        mean(distance),
        mean_a,
        trail.lowest_v,
        source.open_v - mean_a * source.resistance_ohm,
        trail.hottest_k + machine.ambient_c,
        trail.case_k + machine.ambient_c,
        time[-1],
        np.asarray(trail.end),
        distance[-1],
        pack_as[-1] / 3600.0,
        joules[-1] / 3600.0,
        np.sqrt(hottest_ten_minutes(pack_a2s, time, time[-1])),
        np.max(own[:, 0] / max(float(mean_a[0]), 1e-9)),
        trail.rounds,
        trail.winding_k + machine.ambient_c,
        energy_j,
    )
