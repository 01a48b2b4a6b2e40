"""The bank: rows of units, solved not averaged. One array call gives volts and resistance at any state of charge.

The sample axis is always last; every other axis leads.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from gecko.common.constants import REFERENCE_C
from gecko.common.figures import Number
from gecko.reference.tables import cell_curve

PULSE_S = 10.0
"""A pack's resistance is that of a pulse of so long. [s]"""


@dataclass(frozen=True, kw_only=True)
class Unit:
    """`series_count` alike packs in series. Volts, ohms and Ah are of one pack."""

    chemistry: str
    cells_in_series: int
    capacity_ah: Number
    resistance_ohm: Number
    series_count: int = 1
    peukert_exponent: float | None = None
    continuous_a: Number | None = None
    peak_10s_a: Number | None = None
    trip_a: Number | None = None
    trip_delay_s: float | None = None
    protection_low_v: Number | None = None
    temp_c: float | None = None
    """Its own temperature, where it is not that of all packs. [°C]"""
    grows: Number = 1.0
    """Resistance while current flows for minutes over that of a pulse of ten seconds, which `resistance_ohm` is. [1]"""
    grows_s: float = 60.0
    """Time constant of that growth. [s]"""

    @property
    def slow_share(self) -> Number:
        """The part of `resistance_ohm` that comes with time, `(grows − 1)·e^(10 s/τ)`: after ten seconds both parts make what a pulse meets. [1]

        Derived here: after ten seconds (1 − s·(1 − e⁻¹⁰ᐟᵗ)) + s·(1 − e⁻¹⁰ᐟᵗ) = 1, and for long 1 + (grows − 1).
        """
        return (self.grows - 1.0) * math.exp(PULSE_S / self.grows_s)

    @property
    def fast_share(self) -> Number:
        """The part that is there at once. [1]

        Derived here: what the share that comes with minutes leaves of one.
        """
        return 1.0 - self.slow_share * (1.0 - math.exp(-PULSE_S / self.grows_s))

    def at_c(self, packs_c: float) -> float:
        """Temperature in force among packs of `packs_c`. [°C]

        Derived here: a pack of which no temperature is told is as warm as the others.

        >>> from gecko.physics.motion.example import BANK
        >>> BANK.units[0].at_c(10.0)
        10.0
        """
        return packs_c if self.temp_c is None else self.temp_c


@dataclass(frozen=True)
class RowModel:
    """A row of units in series, `parallel_count` times, with the ohms of its own leads, plugs, adapters and fuse. [Ω]"""

    units: tuple[Unit, ...]
    parallel_count: int = 1
    lead_ohm: Number = 0.0


@dataclass(frozen=True)
class BankModel:
    """Rows side by side."""

    rows: tuple[RowModel, ...]

    @property
    def units(self) -> tuple[Unit, ...]:
        """All unit groups, row by row."""
        return tuple(unit for row in self.rows for unit in row.units)

    @property
    def uniform(self) -> bool:
        """Whether one state of charge describes the whole bank: one kind of row with one kind of unit."""
        return len(self.rows) == 1 and len(self.rows[0].units) == 1


def open_volts_per_cell(chemistry: str, soc: Number) -> Number:
    """Open-circuit volts of one cell at a state of charge. [V]

    >>> float(open_volts_per_cell("li-ion", 0.5))
    3.72

    Source: `reference/cells.csv`, linear between its points.
    """
    curve_soc, curve_v = cell_curve(chemistry)
    return np.interp(soc, curve_soc, curve_v)


_PER_K = {"lead": 0.010, "nickel": 0.016}


def temperature_factor(chemistry: str, temp_c: float) -> float:
    """Factor on resistance by temperature: `exp(0.022·(25−T))` lithium, `exp(0.010·(25−T))` lead, `exp(0.016·(25−T))` nickel. [1]

    Source: this project's planning value.

    >>> round(temperature_factor("li-ion", 25.0), 6), round(temperature_factor("li-ion", 0.0), 2)
    (1.0, 1.73)
    """
    return math.exp(_PER_K.get(chemistry, 0.022) * (REFERENCE_C - temp_c))


_LOW_SOC = np.array([0.0, 0.1, 0.2, 0.3])
_LOW_FACTOR = np.array([2.2, 1.5, 1.15, 1.0])


def low_charge_factor(soc: Number) -> Number:
    """Factor on resistance at low charge: 1 from 0.3 up, 1.15 at 0.2, 1.5 at 0.1, 2.2 at 0. [1]

    Source: this project's planning value, linear between.

    >>> float(low_charge_factor(0.5)), float(low_charge_factor(0.0))
    (1.0, 2.2)
    """
    return np.asarray(np.interp(soc, _LOW_SOC, _LOW_FACTOR))


def unit_volts_v(unit: Unit, soc: Number, cell_v: Number | None = None) -> Number:
    """Open-circuit volts of a unit group. [V] cell_v: those of one of its cells at this charge, where they are known already [V].

    Derived here: cells in series carry one current, so their volts add.

    10 cells of 4.19 V at rest:

    >>> from gecko.physics.motion.example import BANK
    >>> round(float(unit_volts_v(BANK.units[0], 1.0)), 6)
    41.9
    """
    return unit.series_count * unit.cells_in_series * (open_volts_per_cell(unit.chemistry, soc) if cell_v is None else cell_v)


def unit_ohm(unit: Unit, soc: Number, temp_c: float, held: bool = False, low: Number | None = None) -> Number:
    """Resistance of a unit group at charge and temperature, of a pulse of ten seconds, or held for minutes. [Ω] low: the factor of this
    charge, where it is known already [1].

    Derived here: cells in series add their ohms. The factors of charge and temperature are planning values of this project.

    >>> from gecko.physics.motion.example import BANK
    >>> float(unit_ohm(BANK.units[0], 0.5, 25.0))
    0.1
    """
    factor = temperature_factor(unit.chemistry, unit.at_c(temp_c)) * (low_charge_factor(soc) if low is None else low)
    return unit.series_count * unit.resistance_ohm * factor * (unit.grows if held else 1.0)


@dataclass(frozen=True)
class Source:
    """The bank as one source: open volts [V], resistance [Ω], and by row: open volts, resistance, how often."""

    open_v: Number
    resistance_ohm: Number
    row_open_v: tuple[Number, ...]
    row_ohm: tuple[Number, ...]
    row_counts: tuple[int, ...]

    def volts(self, current_a: Number) -> Number:
        """Terminal volts at a bank current. [V]

        Source: Ohm's law.

        >>> Source(40.0, 0.1, (40.0,), (0.1,), (1,)).volts(20.0)
        38.0
        """
        return self.open_v - current_a * self.resistance_ohm

    def row_currents(self, current_a: Number) -> tuple[Number, ...]:
        """Current of one row of each kind at a bank current, `I_k = (E_k − V)/R_k`. [A]

        Source: Kirchhoff's voltage law.

        >>> Source(40.0, 0.05, (41.0, 39.0), (0.1, 0.1), (1, 1)).row_currents(20.0)
        (20.0, 0.0)
        """
        volts = self.volts(current_a)
        return tuple((e - volts) / r for e, r in zip(self.row_open_v, self.row_ohm, strict=True))


def source_at(bank: BankModel, soc: Number | tuple[Number, ...], temp_c: float, held: bool = False) -> Source:
    """The bank as a source, at one state of charge for all units or one for each unit group; held: its current flows for minutes.

    Σ (E_k − V)/R_k = I, hence E = Σ(E_k/R_k)/Σ(1/R_k), R = 1/Σ(1/R_k).

    Source: Millman's theorem, from Kirchhoff's current law.

    Two rows of 0.1 Ω side by side:

    >>> from gecko.physics.motion.example import BANK
    >>> float(source_at(BANK, 1.0, 25.0).resistance_ohm)
    0.05
    """
    units = bank.units
    each = soc if isinstance(soc, tuple) else (soc,) * len(units)
    # All at one charge are asked for once of a kind of cell.
    per_cell = {} if isinstance(soc, tuple) else {chemistry: open_volts_per_cell(chemistry, soc) for chemistry in sorted({unit.chemistry for unit in units})}
    low = None if isinstance(soc, tuple) else low_charge_factor(soc)
    index = 0
    row_e: list[Number] = []
    row_r: list[Number] = []
    conductance: Number = 0.0
    weighted: Number = 0.0
    for row in bank.rows:
        volts: Number = 0.0
        ohms: Number = row.lead_ohm
        for unit in row.units:
            volts = volts + unit_volts_v(unit, each[index], per_cell.get(unit.chemistry))
            ohms = ohms + unit_ohm(unit, each[index], temp_c, held, low)
            index += 1
        row_e.append(volts)
        row_r.append(ohms)
        conductance = conductance + row.parallel_count / ohms
        weighted = weighted + row.parallel_count * volts / ohms
    return Source(weighted / conductance, 1.0 / conductance, tuple(row_e), tuple(row_r), tuple(r.parallel_count for r in bank.rows))


def rated_ah(bank: BankModel) -> Number:
    """Rated capacity of the bank: the smallest unit of each row, rows added. [Ah]

    Source: charge is kept: what leaves one pack of a row leaves each; currents of rows side by side add.

    >>> from gecko.physics.motion.example import BANK
    >>> rated_ah(BANK)
    10.0
    """
    total: Number = 0.0
    for row in bank.rows:
        smallest = row.units[0].capacity_ah
        for unit in row.units[1:]:
            smallest = np.minimum(smallest, unit.capacity_ah)
        total = total + row.parallel_count * smallest
    return total


def cold_share(temp_c: float) -> float:
    """What the cold leaves of a capacity: 1 − 0.006·(25 − T) below 25 °C, not below 0.3. [1]

    >>> cold_share(25.0), round(cold_share(5.0), 2), cold_share(-100.0)
    (1.0, 0.88, 0.3)

    Source: this project's planning value, in the spirit of makers' discharge curves in the cold.
    """
    return max(0.3, 1.0 - 0.006 * (REFERENCE_C - temp_c)) if temp_c < REFERENCE_C else 1.0


def usable_ah(unit: Unit, current_a: Number, temp_c: float) -> Number:
    """Capacity a unit gives at its own current, cold included. [Ah]

    Lithium and nickel: rated. Lead: Peukert, `C·(I20/I)^(k−1)`, `I20 = C/20`, never above C. Below 25 °C ×(1 − 0.006·(25 − T)),
    not below 0.3. Source: this project's planning value.

    >>> from gecko.physics.motion.example import BANK
    >>> float(usable_ah(BANK.units[0], 5.0, 25.0))
    5.0
    """
    temp_c = unit.at_c(temp_c)
    capacity: Number = unit.capacity_ah
    if unit.chemistry == "lead":
        twenty_hour = unit.capacity_ah / 20.0
        exponent = (unit.peukert_exponent or 1.15) - 1.0
        capacity = unit.capacity_ah * (twenty_hour / np.maximum(current_a, twenty_hour)) ** exponent
    return capacity * cold_share(temp_c)


@dataclass(frozen=True)
class BankLimits:
    """Current limits of the bank in all [A]; None where a unit states none."""

    continuous_a: Number | None
    peak_10s_a: Number | None
    trip_a: Number | None
    trip_delay_s: float
    peak_at_most: bool = False
    """Whether some unit states no peak amps, so that the bank gives at most these."""


def _least_sum(bank: BankModel, name: str) -> Number | None:
    total: Number = 0.0
    for row in bank.rows:
        least: Number | None = None
        for unit in row.units:
            value = getattr(unit, name)
            if value is not None:
                least = value if least is None else np.minimum(least, value)
        if least is None:
            return None
        total = total + row.parallel_count * least
    return total


def bank_limits(bank: BankModel) -> BankLimits:
    """Limits of the bank: in a row the least unit that states one limits, rows add; none where a row has no unit that does. [A]

    Source: one current runs through a row, currents of rows add.
    """
    delays = [unit.trip_delay_s if unit.trip_delay_s is not None else 1.0 for unit in bank.units]
    silent = any(unit.peak_10s_a is None for unit in bank.units)
    return BankLimits(_least_sum(bank, "continuous_a"), _least_sum(bank, "peak_10s_a"), _least_sum(bank, "trip_a"), min(delays), silent)


def charge_at_volts(chemistry: str, volts_per_cell_v: Number) -> Number:
    """State of charge of a cell at rest at these volts, within 0…1. [1]

    >>> float(charge_at_volts("li-ion", 3.72))
    0.5

    The inverse of `open_volts_per_cell`. On LFP's flat stretch a few millivolts are a lot of charge.

    Source: the rest curves of reference/cells.csv.
    """
    curve_soc, curve_v = cell_curve(chemistry)
    return np.interp(volts_per_cell_v, curve_v, curve_soc)
