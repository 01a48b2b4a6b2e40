"""What a voltmeter tells: volts against charge at rest and at cruise, and what the guard's set point leaves or overstrains."""

from __future__ import annotations

import numpy as np

from gecko.answers.evaluation import Out
from gecko.common.figures import Number
from gecko.document.parts.pack import EMPTY_PER_CELL_V
from gecko.document.setup import Bank
from gecko.physics.motion.machine import Machine
from gecko.physics.ride.record import Ride

CHARGES = (1.0, 0.9, 0.8, 0.7, 0.6, 0.5, 0.4, 0.3, 0.2, 0.1)


class MeterLine(Out):
    """A line of the table for the handlebar: charge [1] with the bank's volts at rest and while cruising. [V]"""

    charge: float
    rest_v: float
    cruise_v: float


def meter_table(machine: Machine, ride: Ride) -> list[MeterLine]:
    """Volts at the bank to read off, fullest first, at the amps of the steady cruise."""
    amps = cruise_a(ride)
    lines = []
    for charge in CHARGES:
        source = machine.source(charge, held=True)
        lines.append(MeterLine(charge=charge, rest_v=float(source.open_v), cruise_v=float(source.volts(amps))))
    return lines


def cruise_a(ride: Ride) -> float:
    """Mean amps of the steady cruise. [A]"""
    return float(ride.mean_a)


def rebound_v(machine: Machine, ride: Ride, level_v: float) -> float:
    """Volts the packs recover to at rest after a guard has opened at `level_v` under cruise. [V]

    The charge is the one at which the cruise meets the set point; what it gains back is the current times the resistance to the guard.
    """
    charges = np.linspace(0.0, 1.0, 201)
    source = machine.source(charges, held=True)
    amps = cruise_a(ride)
    seen = source.open_v - amps * machine.source_ohm(source)
    return float(np.interp(np.interp(level_v, seen, charges), charges, source.open_v))


class SetPoint(Out):
    """A guard's set point [V], and what it leaves or overstrains."""

    volts_v: float
    cell_v: float
    left_cruise: float
    """Share of charge left when it opens under the steady cruise."""
    left_peak: float
    """The same under the launch's peak."""
    rebound_v: float
    """What the packs recover to at rest."""
    below_floor: bool


def set_points(machine: Machine, ride: Ride, peak_a: Number, bank: Bank, floor_v: float) -> list[SetPoint]:
    """Set points from well under the floor to where a third of the charge is left, for the bank's own cells."""
    assert bank is not None
    cells = max(sum(u.cells_in_series for u in row.units) for row in bank.rows)
    empty = min(sum(EMPTY_PER_CELL_V[u.chemistry] * u.cells_in_series for u in row.units) for row in bank.rows)
    charges = np.linspace(0.0, 1.0, 201)
    source, held = machine.source(charges), machine.source(charges, held=True)
    cruise = source.open_v - cruise_a(ride) * machine.source_ohm(held)
    peak = source.open_v - float(peak_a) * machine.source_ohm(source)
    top = float(np.interp(0.35, charges, cruise))
    points = []
    for volts in np.linspace(0.92 * empty, max(top, 1.02 * empty), 9):
        level = round(float(volts), 1)
        points.append(
            SetPoint(
                volts_v=level,
                cell_v=level / cells,
                left_cruise=float(np.interp(level, cruise, charges)),
                left_peak=float(np.interp(level, peak, charges)),
                rebound_v=rebound_v(machine, ride, level),
                below_floor=level < floor_v - 0.01,
            )
        )
    return points
