"""A ride over rounds that each take much of the charge: leg by leg, reading the tables at the charge of the moment."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gecko.electric.operating_point import THROTTLE, OperatingPoint
from gecko.figures import Number
from gecko.heat.motor import WINDING_STOP_C
from gecko.machine import Machine
from gecko.ride.energy import PARTS
from gecko.ride.record import END_NAMES, Ride, hottest_ten_minutes
from gecko.ride.sums import Sums, joined
from gecko.ride.table import EVENTS, Table, taken

MOST_LEGS = 20_000
"""A single ride is not followed over more legs than this."""


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


def _rows(machine: Machine, legs: list[Sums], table: Table, index: int) -> NDArray[np.float64]:
    """Everything a leg comes to at every charge of the grid, one line a charge, in the order of `_read`. [mixed]

    What it takes of the charge is its share of what the round takes: lead gives its amp-hours by the mean amps of the round.
    """
    leg, whole = legs[index], joined(legs)
    share = taken(machine, whole) * leg.pack_as / np.maximum(whole.pack_as, 1e-9)
    energies = leg.energy_j if leg.energy_j is not None else np.zeros((len(PARTS), len(leg.time_s)))
    sums = (leg.distance_m, leg.pack_as, leg.pack_a2s, leg.controller_j)
    return np.stack((leg.time_s, *sums, share, *leg.heat, *table.margins[:, index], *table.moments[:, index], table.lowest_v, *energies), axis=-1)


def _read(rows: NDArray[np.float64], grid: NDArray[np.float64], left: float) -> _Row:
    low = int(np.clip(np.searchsorted(-grid, -left) - 1, 0, len(grid) - 2))
    share = float(np.clip((grid[low] - left) / (grid[low] - grid[low + 1]), 0.0, 1.0))
    row = rows[low] + share * (rows[low + 1] - rows[low])
    count = len(EVENTS)
    margins, moments, rest = np.split(row[12:], (count, 2 * count))
    return _Row(float(row[0]), row[1:5], float(row[5]), row[6:12], margins, moments, float(rest[0]), rest[1:])


def leg_by_leg(machine: Machine, first: list[Sums], table: Table, grid: NDArray[np.float64], soc: tuple[Number, ...]) -> Ride:
    """The ride of a single machine over rounds that each take much of the charge: tables are read at the charge of each leg's middle. Units as in `Ride` [SI]."""
    from_rest, rolling = ([_rows(machine, legs, table, i) for i in range(len(legs))] for legs in (first, table.legs))
    least = np.min(np.stack(soc), axis=0)
    empty_left = float(np.interp(0.0, least[::-1], grid[::-1]))
    end, stop_k = END_NAMES.index("unit empty"), WINDING_STOP_C - machine.ambient_c
    left, winding, case, t, sums, share, energy = 1.0, 0.0, 0.0, 0.0, np.zeros(4), 0.0, np.zeros(len(PARTS))
    trace = [(t, left, winding, case, 0.0, *sums, float(table.lowest_v[0]))]
    for step in range(MOST_LEGS):
        i = step % len(rolling)
        rows = (from_rest if step < len(rolling) else rolling)[i]
        row = _read(rows, grid, left - _read(rows, grid, left).taken / 2.0)
        m11, m12, m21, m22, add1, add2 = row.heat
        hot, warm = m11 * winding + m12 * case + add1, m21 * winding + m22 * case + add2
        comes = [(moment / row.seconds_s, END_NAMES.index(name)) for name, margin, moment in zip(EVENTS, row.margins, row.moments, strict=True) if margin <= 0.0]
        if hot >= stop_k:
            comes.append((max(stop_k - winding, 0.0) / max(hot - winding, 1e-9), END_NAMES.index("winding 155 C")))
        if left - row.taken <= empty_left:
            comes.append((max(left - empty_left, 0.0) / max(row.taken, 1e-12), END_NAMES.index("unit empty")))
        share, end = min(comes, default=(1.0, end))
        t, left, sums = t + share * row.seconds_s, left - share * row.taken, sums + share * row.sums
        energy = energy + share * row.energy_j
        winding, case = winding + share * (hot - winding), case + share * (warm - case)
        trace.append((t, left, winding, case, (step + share) / len(rolling), *sums, row.lowest_v))
        if comes:
            break
    time, lefts, windings, cases, rounds, distance, pack_as, pack_a2s, joules, lowest = np.array(trace).T
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
    root = np.sqrt(sum(leg.motor_a2s[0] for leg in first) / sum(leg.time_s[0] for leg in first))
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
        windings + machine.ambient_c,
        energy if table.legs[0].energy_j is not None else None,
    )
