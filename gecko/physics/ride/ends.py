"""What ends a ride within a step, and when."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from gecko.common.compiled import inlined
from gecko.physics.electric.operating_point import UNDERVOLTAGE
from gecko.physics.heat.motor import WINDING_STOP_C
from gecko.physics.ride.balance import Supply, gives_as, unit_now
from gecko.physics.ride.moves import OPEN, Move
from gecko.physics.ride.rig import Array, Car, Cells, Legs

GUARD, LOW_VOLTS, FOLDBACK, EMPTY, HOT, TRIP, STUCK, LONG, ROUNDS = range(9)
"""What ends a ride; `record.END_NAMES` has the words. The last is no end: as many rounds as were asked for."""
FOLDBACK_S = 10.0
STUCK_S = 10.0
"""Held below half the meant speed by the low cut-off, or creeping with the throttle open, for so long: the ride is over. [s]"""


class Waits(NamedTuple):
    """For how long what may end a ride has lasted: below the guard's level, held back by the low cut-off, creeping. [s]"""

    low_s: float
    fold_s: float
    creep_s: float


@inlined
def _unit_v(cells: Cells, u: int, charge: float, slow_v: float, own_a: float) -> float:
    """Volts at the terminals of a unit group at its current [A]. [V]"""
    open_v, ohm = unit_now(cells, u, charge)
    return open_v - slow_v - own_a * ohm


@inlined
def margin_over_ends_v(cells: Cells, car: Car, at: Supply, move: Move, soc: Array, slow_v: Array, rows_a: Array) -> float:
    """How far the volts are above a level that ends the ride, the guard's or that of a unit's own protection. [V]

    Derived here: the least of what each level leaves.
    """
    margin = np.inf
    if car.guard_v > 0.0:
        margin = at.open_v - move.down * move.drive.pack_a * at.ohm - car.guard_v + 0.01
    for u in range(soc.size):
        if cells.floor_v[u] > 0.0:
            margin = min(margin, _unit_v(cells, u, soc[u], slow_v[u], rows_a[cells.row_of[u]]) - cells.floor_v[u])
    return margin


@inlined
def margin_under_trips_a(cells: Cells, rows_a: Array) -> float:
    """How far the amps of a unit group are below those at which its own protection opens. [A]

    Derived here: the least of what each trip leaves.
    """
    margin = np.inf
    for u in range(cells.row_of.size):
        margin = min(margin, cells.trip_a[u] - rows_a[cells.row_of[u]])
    return margin


@inlined
def meets_s(margin: float, before: float, dt: float) -> float:
    """How long until a margin is used up if it goes on as in the step before, of dt [s], from whichever side it comes; infinity: it is not. [s]

    Derived here: a straight line through the last two margins.
    """
    nears = margin * before > 0.0 and abs(margin) < abs(before) < np.inf
    return margin / (before - margin) * dt if nears else np.inf


@inlined
def _sooner(ends_s: float, end: int, passed: bool, still_s: float, name: int) -> tuple[float, int]:
    """The earlier of two ends within a step: the one known so far, and this one, which is `still_s` away [s]."""
    return (max(still_s, 0.0), name) if passed and still_s <= ends_s else (ends_s, end)


@inlined
def crossed_s(before: float, after: float, level: float, dt: float) -> float:
    """When a trace that rises from one value to another over dt [s] passes a level, all in its unit; infinity: not. [s]

    Derived here: a straight line through both values.
    """
    return np.inf if after < level or before >= level else dt * (level - before) / (after - before)


@inlined
def lasted(car: Car, legs: Legs, leg: int, move: Move, waits: Waits, speed: float, volts: float, dt: float) -> Waits:
    """For how long each has lasted after a step of dt [s] at a speed [m/s] and volts: it begins anew where it is interrupted.

    Derived here: a clock that runs while its condition holds.
    """
    opened, folds = move.doing == OPEN, move.drive.limit == UNDERVOLTAGE
    return Waits(
        waits.low_s + dt if car.guard_v > 0.0 and volts < car.guard_v - 0.01 else 0.0,
        waits.fold_s + dt if opened and folds and speed < legs.half_m_s[leg] else 0.0,
        waits.creep_s + dt if opened and not folds and speed < legs.climb_m_s[leg] else 0.0,
    )


@inlined
def machine_ends(car: Car, waits: Waits, winding_k: float, later_k: float, left_s: float, dt: float) -> tuple[float, int]:
    """What guard, low cut-off, winding or the clock end within a step, and when. waits: at the step's end [s]; winding as it begins and ends [K above
    the air];
    left_s: of the longest ride [s].

    Derived here: the earliest of what its clocks and its winding have left.
    """
    ends_s, end = _sooner(dt, -1, waits.low_s > 0.0, car.guard_delay_s - (waits.low_s - dt), GUARD)
    ends_s, end = _sooner(ends_s, end, waits.fold_s > 0.0, FOLDBACK_S - (waits.fold_s - dt), FOLDBACK)
    ends_s, end = _sooner(ends_s, end, waits.creep_s > 0.0, STUCK_S - (waits.creep_s - dt), STUCK)
    hot_s = crossed_s(winding_k, later_k, WINDING_STOP_C - car.ambient_c, dt)
    ends_s, end = _sooner(ends_s, end, hot_s <= dt, hot_s, HOT)
    return _sooner(ends_s, end, True, left_s, LONG)


@inlined
def packs_end(cells: Cells, soc: Array, slow_v: Array, rows_a: Array, mean_a: Array, fall: Array, trip_s: Array, ends_s: float, end: int, dt: float) -> tuple[float, int]:
    """The end the packs bring, where it comes before the one known so far, and when [s]; fills how fast each unit group falls [1/s] and for how long
    each has
    been over its trip [s].

    Derived here: the earliest of empty, own cut-off and own trip over the unit groups.
    """
    for u in range(soc.size):
        own = rows_a[cells.row_of[u]]
        fall[u] = own / gives_as(cells, u, own if mean_a[u] < 0.0 else mean_a[u])
        if cells.floor_v[u] > 0.0 and _unit_v(cells, u, soc[u], slow_v[u], own) <= cells.floor_v[u]:
            ends_s, end = 0.0, LOW_VOLTS
        over = own > cells.trip_a[u]
        ends_s, end = _sooner(ends_s, end, over, cells.trip_delay_s[u] - trip_s[u], TRIP)
        trip_s[u] = trip_s[u] + dt if over else 0.0
        ends_s, end = _sooner(ends_s, end, fall[u] > 0.0, soc[u] / max(fall[u], 1e-12), EMPTY)
    return ends_s, end


@inlined
def nearest_end(car: Car, cells: Cells, waits: Waits, trip_s: Array) -> float:
    """How near the clocks are to ending the ride: the largest share of its time that one has used up. [1]

    Derived here: the largest of the clocks over their times.
    """
    share = max(waits.fold_s / FOLDBACK_S, waits.creep_s / STUCK_S)
    if car.guard_v > 0.0 and waits.low_s > 0.0:
        share = 1.0
    for u in range(trip_s.size):
        if trip_s[u] > 0.0:
            share = max(share, trip_s[u] / max(cells.trip_delay_s[u], 1e-9))
    return share
