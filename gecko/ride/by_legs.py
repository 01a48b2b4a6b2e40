"""A ride over rounds that each take much of the charge: leg by leg, reading the tables at the charge of the moment."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

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
"""A single ride is not followed over more legs than this, and its round not cut into more pieces."""


@dataclass(frozen=True)
class _Row:
    """A leg read at one charge: seconds, metres, what it takes of the charge, charge [As] and its squares, joules, heat, margins, moments."""

    seconds_s: float
    sums: NDArray[np.float64]
    taken: float
    heat: NDArray[np.float64]
    margins: NDArray[np.float64]
    moments: NDArray[np.float64]
    lowest_v: float
    energy_j: NDArray[np.float64]
    places: NDArray[np.float64]
    """On the way, one line a place: seconds, the winding there from winding and case at the start and what is added, amps squared [A²s]."""


def _all_rows(machine: Machine, table: Table) -> list[NDArray[np.float64]]:
    """Everything each leg comes to at every charge of the grid.

    What a leg takes of the charge is its share of what the round takes: lead gives its amp-hours by the mean amps of the round.
    """
    legs = table.legs
    time_s: Number = sum(leg.time_s for leg in legs)
    pack_as: Number = sum(leg.pack_as for leg in legs)
    per_as = taken(machine, pack_as / time_s, time_s) / np.maximum(pack_as, 1e-9)
    return [_rows(leg, per_as, table, index) for index, leg in enumerate(legs)]


def _rows(leg: Sums, per_as: Number, table: Table, index: int) -> NDArray[np.float64]:
    """One line a charge, in the order of `_read`; per_as: what an ampere-second takes of the charge. [mixed]"""
    share = per_as * leg.pack_as
    energies = leg.energy_j if leg.energy_j is not None else np.zeros((len(PARTS), len(leg.time_s)))
    sums = (leg.distance_m, leg.pack_as, leg.pack_a2s, leg.controller_j)
    places = [part for time, (m11, m12, _, _, add1, _), weight in leg.on_the_way for part in (time, m11, m12, add1, weight)]
    return np.stack((leg.time_s, *sums, share, *leg.heat, *table.margins[:, index], *table.moments[:, index], table.lowest_v, *energies, *places), axis=-1)


def _read(rows: NDArray[np.float64], grid: NDArray[np.float64], left: float) -> _Row:
    low = int(np.clip(np.searchsorted(-grid, -left) - 1, 0, len(grid) - 2))
    share = float(np.clip((grid[low] - left) / (grid[low] - grid[low + 1]), 0.0, 1.0))
    row = rows[low] + share * (rows[low + 1] - rows[low])
    count = len(EVENTS)
    margins, moments, rest = np.split(row[12:], (count, 2 * count))
    return _Row(float(row[0]), row[1:5], float(row[5]), row[6:12], margins, moments, float(rest[0]), rest[1 : 1 + len(PARTS)], rest[1 + len(PARTS) :].reshape(-1, 5))


PIECES = 3
LARGE_RISE_K = 20.0
"""A leg on which the winding moves by more than this is ridden in so many pieces. [K]"""
_SETTLED_K = 3.0
REPETITIONS = 4
"""Tables and temperatures are brought to agree in at most so many rounds of either."""


def leg_by_leg(machine: Machine, legs: Sequence[Leg], rider: Rider, grid: NDArray[np.float64], soc: tuple[Number, ...]) -> Ride:
    """The ride of a single machine over few or large rounds: tables are read at the charge of each leg's middle. Units as in `Ride` [SI].

    The motor is as warm on a leg, at a charge, as the ride finds it there; tables and ride are repeated until they agree. A leg that
    heats the winding much is ridden in pieces.
    """
    source = machine.source(tuple(np.clip(charge, 0.0, 1.0) for charge in soc))
    none = np.zeros(len(grid))
    ride, working, steepest, fastest = _settled(machine, legs, rider, grid, soc, source, [(none, none)] * len(legs))
    if max(steepest) <= LARGE_RISE_K or PIECES * len(legs) > MOST_PIECES:
        return ride
    brakes_m, brakes_s = fastest**2 / (2.0 * rider.brake_m_s2), fastest / rider.brake_m_s2
    pieces = [_pieces(leg, brakes_m, brakes_s) if rise > LARGE_RISE_K else [leg] for leg, rise in zip(legs, steepest, strict=True)]
    # What the whole leg found is where its pieces begin.
    begun = [at for parts, at in zip(pieces, working, strict=True) for _ in parts]
    return _settled(machine, [piece for parts in pieces for piece in parts], rider, grid, soc, source, begun)[0]


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


def _settled(
    machine: Machine,
    legs: Sequence[Leg],
    rider: Rider,
    grid: NDArray[np.float64],
    soc: tuple[Number, ...],
    source: Source,
    working: list[tuple[Number, Number]],
) -> tuple[Ride, list[tuple[Number, Number]], list[float], float]:
    """The ride once tables and temperatures agree, those temperatures, the most the winding rose on each leg [K], the highest speed [m/s]."""
    start, rolls_on = np.zeros(len(grid)), legs[-1].stop_s is None
    balances: dict[int, Number] = {}
    for _ in range(REPETITIONS):
        ridden, sums = tabled(machine, source, legs, working, start, rider, balances)
        first = table = round_table(machine, source, soc, ridden, sums)
        if rolls_on:
            first = _from_rest(machine, source, soc, legs, working, rider, table, [phases[-1].speed_m_s[-1] for phases in ridden])
            start = ridden[-1][-1].speed_m_s[-1]
        trace, visits, end = _followed(machine, first, table, grid, soc)
        before, working = working, [_as_visited(grid, seen, was) for seen, was in zip(visits, working, strict=True)]
        moved = max((abs(seen[1] - float(np.interp(seen[0], grid[::-1], was[0][::-1]))) for leg, was in zip(visits, before, strict=True) for seen in leg), default=0.0)
        if moved < _SETTLED_K:
            break
    steepest = [max((abs(seen[3]) for seen in leg), default=0.0) for leg in visits]
    return _ride(machine, first, table, grid, soc, trace, end), working, steepest, float(table.highest_m_s[0])


def _as_visited(grid: NDArray[np.float64], seen: list[tuple[float, ...]], was: tuple[Number, Number]) -> tuple[Number, Number]:
    """Winding and case above the air on a leg at every charge of the grid [K], from where the ride came by: (charge, winding, case, rise)."""
    if not seen:
        return was
    left, winding, case, _ = np.array(seen).T
    return np.interp(grid, left[::-1], winding[::-1]), np.interp(grid, left[::-1], case[::-1])


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
    speed, phases, sums = np.zeros(len(ends[0])), [], []
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


def _followed(
    machine: Machine, first: Table, table: Table, grid: NDArray[np.float64], soc: tuple[Number, ...]
) -> tuple[NDArray[np.float64], list[list[tuple[float, ...]]], int]:
    """The ride leg after leg, the first round from a table of its own: its trace, what the winding was on each leg when the ride came by, and
    the number of what ends it."""
    rolling = _all_rows(machine, table)
    from_rest = rolling if first is table else _all_rows(machine, first)
    visits: list[list[tuple[float, ...]]] = [[] for _ in rolling]
    least = np.min(np.stack(soc), axis=0)
    empty_left = float(np.interp(0.0, least[::-1], grid[::-1]))
    end, stop_k = END_NAMES.index("unit empty"), WINDING_STOP_C - machine.ambient_c
    left, winding, case, t, sums, share, energy = 1.0, 0.0, 0.0, 0.0, np.zeros(4), 0.0, np.zeros(len(PARTS))
    trace = [(t, left, winding, case, 0.0, *sums, float(table.lowest_v[0]), winding, *energy)]
    for step in range(MOST_LEGS):
        i = step % len(rolling)
        rows = (from_rest if step < len(rolling) else rolling)[i]
        row = _read(rows, grid, left - _read(rows, grid, left).taken / 2.0)
        m11, m12, m21, m22, add1, add2 = row.heat
        hot = min(max(m11 * winding + m12 * case + add1, 0.0), HOTTEST_C)
        warm = min(max(m21 * winding + m22 * case + add2, 0.0), HOTTEST_C)
        seconds, by_winding, by_case, added, weights = row.places.T
        on_the_way = np.clip(by_winding * winding + by_case * case + added, 0.0, HOTTEST_C)
        steps = np.concatenate([[winding], on_the_way])
        peak, works = float(np.max(steps)), (steps[1:] + steps[:-1]) / 2.0
        busy = float(weights.sum())
        mean = float(works @ weights) / busy if busy > 1e-6 else winding
        visits[i].append((left - row.taken / 2.0, mean, (case + warm) / 2.0, float(np.max(np.abs(np.diff(steps))))))
        comes = [(moment / row.seconds_s, END_NAMES.index(name)) for name, margin, moment in zip(EVENTS, row.margins, row.moments, strict=True) if margin <= 0.0]
        if peak >= stop_k:
            at = float(np.interp(stop_k, np.maximum.accumulate(steps), np.concatenate([[0.0], seconds])))
            comes.append((min(at / row.seconds_s, 1.0), END_NAMES.index("winding 155 C")))
        if left - row.taken <= empty_left:
            comes.append((max(left - empty_left, 0.0) / max(row.taken, 1e-12), END_NAMES.index("unit empty")))
        share, end = min(comes, default=(1.0, end))
        t, left, sums = t + share * row.seconds_s, left - share * row.taken, sums + share * row.sums
        energy = energy + share * row.energy_j
        winding, case = winding + share * (hot - winding), case + share * (warm - case)
        hottest = min(peak, stop_k) if comes else peak
        trace.append((t, left, hottest, case, (step + share) / len(rolling), *sums, row.lowest_v, winding, *energy))
        if comes:
            break
    return np.array(trace), visits, end


def _ride(machine: Machine, first: Table, table: Table, grid: NDArray[np.float64], soc: tuple[Number, ...], trace: NDArray[np.float64], end: int) -> Ride:
    """The ride of a trace of legs."""
    time, lefts, windings, cases, rounds, distance, pack_as, pack_a2s, joules, lowest, resting = trace.T[:11]
    spans = np.maximum(np.diff(time), 1e-9)

    def mean(total: Number) -> Number:
        """Mean of a running total over each leg, at the leg's end."""
        each = np.diff(total) / spans
        return np.concatenate([each[:1], each])

    charges = tuple(np.interp(lefts, grid[::-1], charge[::-1]) for charge in soc)
    mean_a = mean(pack_as)
    source = machine.source(tuple(np.clip(charge, 0.0, 1.0) for charge in charges))
    own = np.stack([np.broadcast_to(row, mean_a.shape) for row in source.row_currents(mean_a)])
    squares = mean(pack_a2s)
    root = np.sqrt(sum(leg.motor_a2s[0] for leg in first.legs) / sum(leg.time_s[0] for leg in first.legs))
    return Ride(
        OperatingPoint(root, mean_a[0], lowest[0], 1.0, THROTTLE),
        table.highest_m_s[0],
        time,
        charges,
        mean(distance),
        mean_a,
        lowest,
        source.open_v - mean_a * source.resistance_ohm,
        windings + machine.ambient_c,
        cases + machine.ambient_c,
        time[-1],
        np.asarray(end),
        distance[-1],
        pack_as[-1] / 3600.0,
        joules[-1] / 3600.0,
        np.sqrt(hottest_ten_minutes(squares, time, time[-1])),
        np.max(own[:, 0] / max(float(mean_a[0]), 1e-9)),
        rounds,
        resting + machine.ambient_c,
        trace[-1, 11:] if table.legs[0].energy_j is not None else None,
    )
