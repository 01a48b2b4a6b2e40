"""Rounds that are much like the ones before: how many of them need not be ridden, and what they come to.

Round after round of a lap the same happens, at slowly falling volts. What the last two rounds took tells what the next ones take, as long as
they take little charge, warm the motor little, and stay far from all that may end the ride; more of them where hundreds of rides are compared.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from gecko.common.compiled import compiled
from gecko.physics.heat.motor import WINDING_CAUTION_C, WINDING_STOP_C
from gecko.physics.ride.balance import two_nodes, unit_now
from gecko.physics.ride.moves import Fineness
from gecko.physics.ride.rig import Array, Car, Cells
from gecko.physics.ride.trace import Sums, added, taken

NEAR = 0.25
"""No round is left out after one in which a clock towards an end ran further than this share of its time. [1]"""
OF_WHAT_IS_LEFT = 0.3
"""The rounds left out may use at most this share of the charge that is left, and of the volts above a level that ends the ride. [1]"""
STEPS_WARMER = 3.0
"""They may warm the winding by at most as much as this many steps. [1]"""
BENDS = 0.1
"""Two rounds tell what the following ones take only as far as that has changed by this share. [1]"""
SETTLES = 0.8
"""They may last at most this share of the time in which unlike rows settle among each other. [1]"""


class Heat(NamedTuple):
    """Losses that never change and do the same in a round's time: in one winding and elsewhere in its motor [W], and the air's speed [m/s]."""

    copper_w: float
    other_w: float
    speed_m_s: float


class Round(NamedTuple):
    """A round of the course as far as it is ridden: the sums, winding and case [K above the air] as it began; so far the winding at its hottest
    [K above the air], how near the volts came to a level that ends the ride [V], the largest share of the time used up after which something
    ends it [1], and whether the low cut-off held back."""

    began: Sums
    winding_k: float
    case_k: float
    hottest_k: float
    margin_v: float
    waited: float
    held_back: bool


class Last(NamedTuple):
    """The round ridden last: what it took, the heat that does the same, and how many rounds on the one being ridden is, in the middle [1]."""

    took: Sums
    heat: Heat
    ago: float


class Charge(NamedTuple):
    """What goes on from round to round in arrays, each changed in place: charge of the unit groups [1], volts that long flowing current has used
    up [V], energy of each of `record.PARTS` [J]; the same as the round began; and what the round ridden last took of charge and energy."""

    soc: Array
    slow_v: Array
    energy_j: Array
    soc_began: Array
    slow_began_v: Array
    energy_began_j: Array
    soc_took: Array
    energy_took_j: Array


@compiled
def mean_heat(car: Car, this: Round, took: Sums, winding_k: float, case_k: float) -> Heat:
    """The steady heat that leads from a round's begin to its end, winding and case there [K above the air].

    What two nodes do is linear in both losses, so two runs with one watt each tell it.

    Derived here: two linear equations for two losses (Cramer's rule).
    """
    dt, speed = took.time_s, took.distance_m / took.time_s
    none_w, none_c = two_nodes(car, this.winding_k, this.case_k, 0.0, 0.0, speed, dt)
    copper_w, copper_c = two_nodes(car, this.winding_k, this.case_k, 1.0, 0.0, speed, dt)
    other_w, other_c = two_nodes(car, this.winding_k, this.case_k, 0.0, 1.0, speed, dt)
    a, b, c, d = copper_w - none_w, other_w - none_w, copper_c - none_c, other_c - none_c
    x, y = winding_k - none_w, case_k - none_c
    whole = a * d - b * c
    return Heat((x * d - b * y) / whole, (a * y - x * c) / whole, speed)


@compiled
def _onward(now: float, before: float, share: float) -> float:
    """What the rounds left out take each, on the straight line through what the last two took."""
    return now + share * (now - before)


@compiled
def _straight(charge: Charge, heat: Heat, last: Last) -> float:
    """How far on the line through the last two rounds, over the way between them, what they take changes by no more than `BENDS`. [1]"""
    changes = abs(heat.copper_w - last.heat.copper_w) / max(abs(heat.copper_w), 1e-9)
    for u in range(charge.soc.size):
        fell = charge.soc_began[u] - charge.soc[u]
        changes = max(changes, abs(fell - charge.soc_took[u]) / max(abs(fell), 1e-12))
    return BENDS / max(changes, 1e-9)


@compiled
def _fading(keeps: float, times: float) -> float:
    """What so many more rounds change, over what the last one did, where of a round's change each next keeps such a share. [1]

    Source: the sum of the geometric series `a + a² + … + aⁿ`.
    """
    return keeps * (1.0 - keeps**times) / (1.0 - keeps) if keeps < 1.0 - 1e-9 else times


@compiled
def _falls_v(cells: Cells, charge: Charge, times: float, pack_a: float) -> float:
    """By how much the volts of the row that falls the most fall in so many rounds, at so many amps of the bank. [V]"""
    most, rows, each_a = 0.0, cells.row_count.size, pack_a / cells.row_count.sum()
    for r in range(rows):
        falls = 0.0
        for u in range(charge.soc.size):
            if cells.row_of[u] == r:
                now_v, now_ohm = unit_now(cells, u, charge.soc[u])
                then_v, then_ohm = unit_now(cells, u, max(charge.soc[u] - times * (charge.soc_began[u] - charge.soc[u]), 0.0))
                falls += now_v - then_v + each_a * (then_ohm - now_ohm)
        most = max(most, falls)
    return most


@compiled
def _most_rounds(cells: Cells, charge: Charge, took: Sums, last: Last, row_ohm: Array, share: float) -> float:
    """How many rounds may be left out for the charge they take, for rows that settle among each other, and for what two rounds can tell. [1]"""
    times = 2.0 * last.ago + 1.0
    for u in range(charge.soc.size):
        fell = abs(charge.soc_began[u] - charge.soc[u])
        times = min(times, min(share, OF_WHAT_IS_LEFT * charge.soc[u]) / max(fell, 1e-12))
        if row_ohm.size > 1:
            here_v, _ = unit_now(cells, u, charge.soc[u])
            lower_v, _ = unit_now(cells, u, max(charge.soc[u] - 0.02, 0.0))
            settles_s = row_ohm[cells.row_of[u]] * cells.capacity_as[u] * 0.02 / max(here_v - lower_v, 1e-6)
            times = min(times, SETTLES * settles_s / took.time_s)
    return times


@compiled
def leave_out(
    cells: Cells,
    car: Car,
    this: Round,
    last: Last,
    sums: Sums,
    winding_k: float,
    case_k: float,
    charge: Charge,
    row_ohm: Array,
    pack_a: float,
    fine: Fineness,
    most: float,
) -> tuple[float, Sums, float, float, Last]:
    """Leave out as many rounds as may be after the one just ridden: how many [1], and sums, winding and case [K above the air] after them.

    None is after one in which the low cut-off held back: speeds fall fast then. row_ohm: of each row [Ω]; pack_a: the most the bank is asked
    for [A]; most: so many at most [1].

    Derived here: what a round takes changes by a straight line from round to round, and so many rounds add up to a sum of an arithmetic series;
    how many is judged by how far that line may bend.
    """
    took = taken(sums, this.began)
    heat = mean_heat(car, this, took, winding_k, case_k)
    times = 0.0
    if last.ago > 0.0 and this.waited <= NEAR and this.margin_v > 0.0 and not this.held_back:
        times = math.floor(min(most, _most_rounds(cells, charge, took, last, row_ohm, fine.left_out)))
    straight = _straight(charge, heat, last)
    later_w, later_c, further = winding_k, case_k, 0.0
    while times >= 1.0:
        further = min((times + 1.0) / (2.0 * last.ago), straight)
        copper_w, other_w = _onward(heat.copper_w, last.heat.copper_w, further), _onward(heat.other_w, last.heat.other_w, further)
        later_w, later_c = two_nodes(car, winding_k, case_k, copper_w, other_w, heat.speed_m_s, times * took.time_s)
        hottest_k = this.hottest_k + max(later_w - winding_k, 0.0)
        passes = False
        for level_c in (WINDING_CAUTION_C, WINDING_STOP_C):
            passes = passes or this.hottest_k + car.ambient_c < level_c <= hottest_k + car.ambient_c
        near = math.isfinite(this.margin_v) and _falls_v(cells, charge, times, pack_a) > OF_WHAT_IS_LEFT * this.margin_v
        if abs(later_w - winding_k) <= STEPS_WARMER * fine.winding_k and not passes and not near:
            break
        times = math.floor(times / 2.0)
    if times >= 1.0:
        sums = added(sums, took, last.took, times, further)
        winding_k, case_k = later_w, later_c
    for u in range(charge.soc.size):
        fell = charge.soc_began[u] - charge.soc[u]
        if times >= 1.0:
            charge.soc[u] -= times * _onward(fell, charge.soc_took[u], further)
            charge.slow_v[u] += (charge.slow_v[u] - charge.slow_began_v[u]) * _fading(math.exp(-took.time_s / cells.slow_s[u]), times)
        charge.soc_took[u] = fell
    spent = charge.energy_j - charge.energy_began_j
    if times >= 1.0:
        charge.energy_j[:] += times * (spent + further * (spent - charge.energy_took_j))
    charge.energy_took_j[:] = spent
    charge.soc_began[:], charge.slow_began_v[:], charge.energy_began_j[:] = charge.soc, charge.slow_v, charge.energy_j
    return times, sums, winding_k, case_k, Last(took, heat, times + 1.0)


NOT_YET = Last(Sums(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0), Heat(0.0, 0.0, 0.0), 0.0)
"""No round has been ridden before."""


@compiled
def charges(soc: Array, slow_v: Array, energy_j: Array) -> Charge:
    """What goes on from round to round, as the first one begins. [1, V, J]

    Derived here: a copy of the state.
    """
    return Charge(soc, slow_v, energy_j, soc.copy(), slow_v.copy(), energy_j.copy(), np.zeros(soc.size), np.zeros(energy_j.size))
