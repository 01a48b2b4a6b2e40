"""Where a low-volt guard belongs."""

from __future__ import annotations

from gecko.document.parts.pack import GUARD_FLOOR_PER_CELL_V
from gecko.document.setup import Bank

ABOVE_FLOOR = 1.03
"""A good set point stands this much above the floor, for the module's own tolerance. [1] This project's planning value."""


def guard_floor_v(bank: Bank) -> float:
    """Volts under which the cells are spoiled, of the row that needs most. [V]"""
    return max(sum(GUARD_FLOOR_PER_CELL_V[u.chemistry] * u.cells_in_series for u in row.units) for row in bank.rows)


def guard_level_v(bank: Bank) -> float:
    """A good set point for a bank's low-volt guard, to a tenth. [V]"""
    return round(guard_floor_v(bank) * ABOVE_FLOOR, 1)
