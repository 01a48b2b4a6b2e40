"""How long charging takes, and whether a charger fits."""

from __future__ import annotations

from gecko.evaluation import Out
from gecko.parts.charger import Charger
from gecko.parts.pack import FULL_PER_CELL_V, Pack, charge_limit_a
from gecko.setup import Setup

TAPER_H = 25.0 / 60.0
"""Taper of a lithium charge, 20 to 30 min. [h]"""

ABSORPTION_H = 3.0
"""Absorption of a lead charge: "hours". [h] Source: this project's planning value."""


class ChargePlan(Out):
    """One charger against the packs: hours for one full charge, whether it fits, and why not."""

    charger: str
    per: str
    charges: int
    """Charges one after the other until the whole bank is full: every pack by itself, or once for the bank in place."""
    hours: float
    """For one of them, the longest."""
    total_hours: float
    """For all of them."""
    end_v: float
    wanted_v: float
    fits: bool
    why: str


def charge_hours(chemistry: str, used_ah: float, amps_a: float) -> float:
    """Time of a charge: lithium `1.1·Ah/I` plus 25 min of taper, lead `1.3·Ah/I` plus three hours of absorption. [h]

    >>> round(charge_hours("li-ion", 4.0, 2.0), 2)
    2.62

    Source: CC/CV practice, this project's planning values.
    """
    if chemistry == "lead":
        return 1.3 * used_ah / amps_a + ABSORPTION_H
    return 1.1 * used_ah / amps_a + TAPER_H


def wanted_end_v(charger: Charger, setup: Setup) -> float | None:
    """End volts the charger must have: of one pack, or of the whole row when it charges in place. [V]"""
    if setup.bank is None:
        return None
    units = setup.bank.rows[0].units
    return units[0].full_v if charger.per == "unit" else sum(u.full_v for u in units)


def charge_plans(setup: Setup, chargers: list[Charger]) -> list[ChargePlan]:
    """Each charger against the setup's packs."""
    plans = []
    for charger in chargers:
        wanted = wanted_end_v(charger, setup)
        if setup.bank is None or wanted is None:
            continue
        pack: Pack = setup.bank.rows[0].units[0]
        many = len(setup.bank.rows) if charger.per == "bank" else 1
        amps = charger.amps_a.value
        problems = []
        if charger.chemistry != pack.chemistry:
            problems.append(f"it is made for {charger.chemistry}, the packs are {pack.chemistry}")
        slack = 0.03 if pack.chemistry == "lead" else 0.01
        if abs(charger.end_v.value - wanted) > slack * wanted:
            per_cell = FULL_PER_CELL_V[pack.chemistry]
            problems.append(f"it ends at {charger.end_v.value:.1f} V; {wanted:.1f} V is right ({per_cell:.2f} V a cell)")
        if amps / many > charge_limit_a(pack):
            problems.append(f"{amps / many:.1f} A are more than the {charge_limit_a(pack):.1f} A a pack stands")
        units = [u for row in setup.bank.rows for u in row.units]
        each = [charge_hours(u.chemistry, u.capacity_ah.value, amps) for u in units]
        if charger.per == "bank":
            each = [charge_hours(pack.chemistry, sum(min(u.capacity_ah.value for u in row.units) for row in setup.bank.rows), amps)]
        plans.append(
            ChargePlan(
                charger=charger.label,
                per=charger.per,
                charges=len(each),
                hours=max(each),
                total_hours=sum(each),
                end_v=charger.end_v.value,
                wanted_v=wanted,
                fits=not problems,
                why="; ".join(problems),
            )
        )
    return plans
