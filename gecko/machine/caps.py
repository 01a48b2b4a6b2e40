"""How fast a rider should go: by age, lowered by what he rides and how, and never over the maker's limits."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

import numpy as np

from gecko.common.units import mph
from gecko.document.parts.rider import Rider
from gecko.document.parts.vehicle import Vehicle
from gecko.reference.kinds import Tyre
from gecko.reference.rows import read_rows
from gecko.reference.tables import FamilyDefaults

ADULT_YEARS = 18.0
CHILD_YEARS = 14.0
YOUNG_YEARS = 12.0
"""From 18 on a cap is advice; under 14 the rules for children hold; under 12 no limiter may be within reach. [years]"""

YOUNGEST_YEARS: dict[str, float] = {
    "ride-on car": 3.0,
    "small dirt bike": 6.0,
    "quad": 6.0,
    "scooter": 8.0,
    "kart": 8.0,
    "mini bike": 10.0,
    "transplant": 8.0,
}
"""Age that counts where nobody, or nobody's age, is entered: the youngest who is likely to be set on such a machine. Source: this
project's planning values. [years]"""

OLDEST_YEARS: dict[str, float] = {"ride-on car": 8.0, "small dirt bike": 13.0, "quad": 13.0}
"""The oldest who is likely to be set on such a machine; on others a grown-up. Where nobody's age is entered the speed is judged for the
youngest and the load for this one: both on the safe side. Source: this project's planning values. [years]"""


def age_to_carry(rider: Rider | None, family: str | None) -> float:
    """Age the load is counted for: the rider's own, else the oldest likely one's. [years]"""
    if rider is not None and rider.age_years is not None:
        return rider.age_years
    return OLDEST_YEARS.get(family or "", ADULT_YEARS)


STANDING = 0.8
GEARBOX_ONLY = 0.8
UNSPRUNG = 0.9
"""What lowers a cap: standing on a scooter, no brake but the gearbox, no suspension on tyres without air. Source: this project's
planning values. [1]"""

NOT_LOWERED_M_S = mph(5.0)
"""Caps are lowered down to this and no further: at a jogging pace stance and brake no longer decide. [m/s]"""


@cache
def _table() -> tuple[tuple[float, ...], tuple[float, ...]]:
    rows = read_rows("caps")
    return tuple(float(row["age_years"]) for row in rows), tuple(mph(float(row["cap_mph"])) for row in rows)


def cap_by_age(age_years: float) -> float:
    """Highest speed to plan for at an age: the table's rows joined by straight lines. [m/s]

    >>> from gecko.common.units import to_mph
    >>> [round(to_mph(cap_by_age(age)), 2) for age in (3, 5, 7.5, 14, 30)]
    [3.0, 4.0, 6.5, 15.0, 25.0]

    Source: `reference/caps.csv`, this project's planning values.
    """
    ages, caps = _table()
    return float(np.interp(age_years, ages, caps))


@dataclass(frozen=True, kw_only=True)
class Cap:
    """A rider's cap. speed: what holds [m/s]; suggested: the table's, lowered [m/s]; own: the one entered [m/s]; maker: the maker's [m/s].

    why: what lowered the table's, in words. advice: the rider is grown up. age_known: whether it rests on an age somebody entered.
    """

    speed_m_s: float
    suggested_m_s: float
    own_m_s: float | None
    maker_m_s: float | None
    basis: Literal["entered", "by age", "maker", "youngest"]
    factor: float
    why: str
    advice: bool
    age_years: float
    age_known: bool

    @property
    def over_table(self) -> bool:
        """Whether the cap entered is above the table's."""
        return self.own_m_s is not None and self.own_m_s > self.suggested_m_s * 1.005


def grown_up(rider: Rider | None) -> bool:
    """Whether somebody is known to be grown up."""
    return rider is not None and rider.age_years is not None and rider.age_years >= ADULT_YEARS


def cap_of(rider: Rider | None, vehicle: Vehicle | None, family: FamilyDefaults | None, tyre: Tyre) -> Cap | None:
    """The cap of a rider on a machine; None while the machine is not known. [m/s]

    Without an age the youngest likely rider of the family counts.
    """
    if vehicle is None or family is None:
        return None
    age = rider.age_years if rider is not None else None
    years = YOUNGEST_YEARS[vehicle.family] if age is None else age
    factor, why = _lowered(rider, vehicle, family, tyre)
    table = cap_by_age(years)
    suggested = max(table * factor, min(table, NOT_LOWERED_M_S))
    own = float(rider.cap_m_s.value) if rider is not None and rider.cap_m_s is not None else None
    maker = float(vehicle.max_speed_m_s.value) if vehicle.max_speed_m_s is not None else None
    speed = suggested if own is None else own
    basis: Literal["entered", "by age", "maker", "youngest"] = "entered" if own is not None else "youngest" if age is None else "by age"
    if maker is not None and maker < speed:
        speed, basis = maker, "maker"
    advice = grown_up(rider)
    return Cap(
        speed_m_s=speed,
        suggested_m_s=suggested,
        own_m_s=own,
        maker_m_s=maker,
        basis=basis,
        factor=suggested / table,
        why=why if suggested < table else "",
        advice=advice,
        age_years=years,
        age_known=age is not None,
    )


def _lowered(rider: Rider | None, vehicle: Vehicle, family: FamilyDefaults, tyre: Tyre) -> tuple[float, str]:
    reasons: list[str] = []
    factor = 1.0
    if rider is not None and rider.standing:
        factor, reasons = factor * STANDING, [*reasons, "standing"]
    if (vehicle.brake or family.brake) == "gearbox drag":
        factor, reasons = factor * GEARBOX_ONLY, [*reasons, "no brake but the gearbox"]
    unsprung = vehicle.suspension is False or (vehicle.suspension is None and tyre != "pneumatic")
    if unsprung:
        factor, reasons = factor * UNSPRUNG, [*reasons, "no suspension"]
    return factor, ", ".join(reasons)
