"""How many amps a wire stands: table, ambient, bundle."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import exp, sqrt

import numpy as np

from gecko.common.words import gauge
from gecko.physics.electric.path import awg_area_m2
from gecko.reference.tables import AWG_SIZES, ampacity_row

INSULATION_C: dict[str, float] = {"60": 60.0, "75": 75.0, "105": 105.0, "silicone": 200.0, "building": 60.0}
"""Rating of each insulation row. [°C]"""


def bundle_factor(conductors: int) -> float:
    """Factor for wires lying tight together: 2–3 ×0.7, 4–6 ×0.6, 7+ ×0.5. [1]

    >>> bundle_factor(3)
    0.7

    Source: common derating practice, this project's planning value.
    """
    if conductors <= 1:
        return 1.0
    return 0.7 if conductors <= 3 else 0.6 if conductors <= 6 else 0.5


def ambient_factor(insulation_c: float, air_c: float) -> float:
    """Factor for warm air, `√((T_ins − T_a)/(T_ins − 30))`, 1 below 30 °C, 0 at and above the rating. [1]

    >>> round(ambient_factor(105, 40), 4)
    0.9309

    Source: heat given off in proportion to the rise above the air; the form of NEC 310.15(B).
    """
    if air_c <= 30.0:
        return 1.0
    return 0.0 if air_c >= insulation_c else sqrt((insulation_c - air_c) / (insulation_c - 30.0))


def decision_row(insulation: str, lugged_ends: bool = False) -> str:
    """Ampacity row that counts in the decision: silicone counts as 105 [°C] unless both ends are lugs.

    Source: this project's choice: what the wire ends in stands 105 °C.
    """
    return "105" if insulation == "silicone" and not lugged_ends else insulation


@dataclass(frozen=True)
class Size:
    """What a lead is made of: a gauge, or mm² instead, and how many such wires side by side."""

    awg: int
    mm2: float | None = None
    strands: int = 1

    @property
    def area_m2(self) -> float:
        """Copper of all wires together. [m²]

        Derived here: wires side by side add their copper.
        """
        return self.strands * (awg_area_m2(self.awg) if self.mm2 is None else self.mm2 * 1e-6)

    def table_a(self, row: str) -> float:
        """Ampacity of all wires together in free air at 30 °C. [A]

        By gauge from the table; by mm² between its gauges, log–log over the copper, and on along its end slope.

        >>> Size(12).table_a("105"), round(Size(12, mm2=3.309).table_a("105"), 1), Size(12, strands=2).table_a("105")
        (45.0, 45.0, 90.0)

        Source: reference/awg.csv.
        """
        return self.strands * (ampacity_row(row)[self.awg] if self.mm2 is None else _between_gauges_a(row, self.mm2))

    @property
    def words(self) -> str:
        """The size as a sentence names it."""
        return gauge(self.awg, self.mm2, self.strands)

    def in_bundle(self, conductors: int) -> int:
        """Loaded wires in the bundle when each wire of a pair of leads counts. [1]

        Source: as conduit tables count loaded conductors, two for each pair of leads.
        """
        return conductors + 2 * (self.strands - 1)


@cache
def _between_gauges_a(row: str, mm2: float) -> float:
    table = ampacity_row(row)
    areas = np.log([awg_area_m2(awg) * 1e6 for awg in AWG_SIZES])
    amps = np.log([table[awg] for awg in AWG_SIZES])
    x = float(np.log(mm2))
    end = 0 if x < areas[0] else -1
    if areas[0] <= x <= areas[-1]:
        return exp(float(np.interp(x, areas, amps)))
    slope = (amps[1] - amps[0]) / (areas[1] - areas[0]) if end == 0 else (amps[-1] - amps[-2]) / (areas[-1] - areas[-2])
    return exp(float(amps[end] + slope * (x - areas[end])))


STANDARD_SIZES = tuple(Size(awg) for awg in AWG_SIZES)
"""The gauges the choice looks at, thinnest first."""


def sizes_with(own: Size | None) -> tuple[Size, ...]:
    """The standard gauges, and the lead's own size in its place among them when it is none of them; thinnest first [m²]."""
    if own is None or own in STANDARD_SIZES:
        return STANDARD_SIZES
    return tuple(sorted((*STANDARD_SIZES, own), key=lambda size: size.area_m2))


def derated_ampacity_a(size: Size, row: str, air_c: float, conductors: int) -> float:
    """Ampacity of a wire size after ambient and bundle. [A]

    >>> round(derated_ampacity_a(Size(12), "105", 35, 1), 2)
    43.47

    Source: table value times the two factors, as NEC 310.15 does.
    """
    return size.table_a(row) * bundle_factor(size.in_bundle(conductors)) * ambient_factor(INSULATION_C[row], air_c)
