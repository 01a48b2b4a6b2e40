"""One round of a course at every charge of a grid, and how near it is to what can end a ride."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gecko.electric.bank import Source, rated_ah, unit_ohm, unit_volts_v, usable_ah
from gecko.electric.operating_point import UNDERVOLTAGE
from gecko.figures import Number
from gecko.machine import Machine
from gecko.ride.courses import Leg
from gecko.ride.phase import Phase
from gecko.ride.record import FOLDBACK_S, HOTTEST_C
from gecko.ride.round import STUCK_M_S, Rider, ride_round
from gecko.ride.sums import OUT_OF_REACH, Sums, leg_sums, level_for

LEAST_A = 0.02
"""A ride takes at least this, whatever it gives back. [A]"""


@dataclass(frozen=True)
class Table:
    """One round at every charge of the grid: the sums of each leg, how near each end is, and the speeds met.

    margins, moments: for each of `EVENTS` and each leg, what is left until it comes [its unit] and when in the leg it comes [s].
    """

    legs: list[Sums]
    margins: NDArray[np.float64]
    moments: NDArray[np.float64]
    lowest_v: Number
    highest_m_s: Number


EVENTS = ("guard", "pack protection low volts", "foldback below half the aimed speed", "pack protection trip", "stands on a climb")


def taken(machine: Machine, mean_a: Number, time_s: Number) -> Number:
    """What a round with these mean amps [A] takes of the charge (of unlike units: of the bank) in its time [s]. [1]"""
    bank, mean_a, hours = machine.bank, np.maximum(mean_a, LEAST_A), time_s / 3600.0
    if not bank.uniform:
        return hours * mean_a / rated_ah(bank)
    own = mean_a / bank.rows[0].parallel_count
    return hours * own / usable_ah(bank.units[0], own, machine.pack_c)


def round_table(machine: Machine, source: Source, soc: tuple[Number, ...], ridden: list[list[Phase]], sums: list[Sums]) -> Table:
    """The table of a round that was ridden: its sums, how near each leg comes to each end, lowest volts [V] and highest speed [m/s]."""
    ends = [_ends(machine, source, soc, phases) for phases in ridden]
    volts = [source.open_v - phase.pack_a * machine.source_ohm(source) for phases in ridden for phase in phases]
    speeds = [phase.speed_m_s for phases in ridden for phase in phases]
    return Table(
        sums,
        np.stack([np.stack([margin for margin, _ in leg]) for leg in ends], axis=1),
        np.stack([np.stack([moment for _, moment in leg]) for leg in ends], axis=1),
        np.min(np.concatenate(volts), axis=0),
        np.max(np.concatenate(speeds), axis=0),
    )


def _ends(machine: Machine, source: Source, soc: tuple[Number, ...], phases: Sequence[Phase]) -> list[tuple[Number, Number]]:
    """For each of `EVENTS` what is left until it comes in a leg, and when in the leg. [its unit, s]"""
    pack = np.concatenate([phase.pack_a for phase in phases])
    starts = np.concatenate([np.zeros((1, *pack.shape[1:])), np.cumsum([phase.time_s[-1] for phase in phases], axis=0)])
    time = np.concatenate([phase.time_s + starts[i] for i, phase in enumerate(phases)])
    volts = source.open_v - pack * machine.source_ohm(source)
    at_lowest = np.take_along_axis(time, np.argmin(volts, axis=0)[None], 0)[0]
    never = np.full(pack.shape[1:], OUT_OF_REACH)
    guard = low = fold = trip = never
    if machine.guard is not None:
        guard = level_for(volts, phases, machine.guard.delay_s) - (machine.guard.volts_v - 0.01)
    rows, index, delay = source.row_currents(pack), 0, 0.0
    for row, own in zip(machine.bank.rows, rows, strict=True):
        for unit in row.units:
            charge = np.clip(soc[index], 0.0, 1.0)
            if unit.protection_low_v is not None:
                terminal = unit_volts_v(unit, charge) - own * unit_ohm(unit, charge, machine.pack_c)
                low = np.minimum(low, np.min(terminal, axis=0) - unit.protection_low_v * unit.series_count)
            if unit.trip_a is not None:
                delay = unit.trip_delay_s if unit.trip_delay_s is not None else 1.0
                trip = np.minimum(trip, level_for(-own, phases, delay) + unit.trip_a)
            index += 1
    leg = phases[0].leg
    if machine.control.undervoltage_v is not None and not leg.coasts:
        speed, limit = np.concatenate([phase.speed_m_s for phase in phases]), np.concatenate([phase.limit for phase in phases])
        half = 0.5 * (np.max(speed, axis=0) if leg.aimed_m_s is None else leg.aimed_m_s)
        fold = level_for(np.where(limit == UNDERVOLTAGE, speed - half, np.maximum(speed, half)), phases, FOLDBACK_S)
    # Also where it came creeping from the round before and no throttle led down to it.
    driven = [phase.speed_m_s[-1] for phase in phases if phase.kind in ("throttle", "hold")]
    climbs = driven[-1] - 1.2 * STUCK_M_S if driven else never
    within = starts[-1]
    guard_delay = machine.guard.delay_s if machine.guard is not None else 0.0
    moments = (at_lowest + guard_delay, at_lowest, at_lowest + FOLDBACK_S, at_lowest + delay, 0.0 * within)
    return [(margin, np.minimum(moment, within)) for margin, moment in zip((guard, low, fold, trip, climbs), moments, strict=True)]


def tabled(
    machine: Machine,
    source: Source,
    legs: Sequence[Leg],
    working: Sequence[tuple[Number, Number]],
    start_m_s: Number,
    rider: Rider,
    balances: dict[int, Number] | None = None,
) -> tuple[list[list[Phase]], list[Sums]]:
    """One round with the motor as warm as it works on each leg: its phases and their sums. working: winding and case above the air [K]."""
    warm = machine.ambient_c
    motors = [machine.motor.at(winding + warm, case + warm) for winding, case in working]
    ridden = ride_round(machine, source, motors, legs, start_m_s, rider, balances)
    return ridden, [leg_sums(machine, source, motor, phases, at, rider) for motor, phases, at in zip(motors, ridden, working, strict=True)]


COLDEST_K = -40.0
"""What a line drawn backward may lead to at most: nothing cools below the air, but the line's slope is kept. [K]"""


def workings(sums: Sequence[Sums], begun: tuple[Number, Number]) -> list[tuple[Number, Number]]:
    """Winding and case above the air while the motor works on each leg of a round begun at `begun`, weighted by the amps squared. [K]

    A small winding gains tens of kelvin in a launch and loses them standing: what it starts a round with is not what it works at.
    """
    found = []
    at = begun
    for leg in sums:
        (winding, case), by_winding, by_case, weights = at, 0.0, 0.0, 1e-9
        for _, (m11, m12, m21, m22, add1, add2), weight in leg.on_the_way:
            winding_there, case_there = m11 * at[0] + m12 * at[1] + add1, m21 * at[0] + m22 * at[1] + add2
            by_winding, by_case, weights = by_winding + weight * (winding + winding_there), by_case + weight * (case + case_there), weights + weight
            winding, case = winding_there, case_there
        # A leg on which nothing drives has no weight: it is as warm as it begins.
        idle, double = weights < 1e-6, 2.0 * weights
        worked = np.where(idle, at[0], by_winding / double), np.where(idle, at[1], by_case / double)
        found.append((np.minimum(np.maximum(worked[0], COLDEST_K), HOTTEST_C), np.minimum(np.maximum(worked[1], COLDEST_K), HOTTEST_C)))
        at = winding, case
    return found
