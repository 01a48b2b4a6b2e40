"""How long charging takes, and whether a charger fits."""

from __future__ import annotations

from math import log

from gecko.answers.evaluation import Out
from gecko.document.parts.charger import Charger
from gecko.document.parts.pack import FULL_PER_CELL_V, Pack, charge_limit_a
from gecko.document.setup import Setup
from gecko.rules import margins

TAPER_H = {"li-ion": 0.2, "lfp": 0.05, "lead": 1.3, "nickel": 0.0}
"""Time constant with which the amps fall once the end volts are reached; none where a charger ends by the bend in the volts. [h]
Source: this project's planning values."""

END_SHARE_PER_H = {"li-ion": 1.0 / 20.0, "lfp": 1.0 / 20.0, "lead": 1.0 / 50.0, "nickel": 1.0 / 20.0}
"""A charge ends when the amps have fallen to this share of the capacity in Ah. [1/h] Source: this project's planning values."""

CHARGE_FACTOR = {"li-ion": 1.0, "lfp": 1.0, "lead": 1.15, "nickel": 1.4}
"""Ah put in for every Ah taken out. [1] Source: this project's planning values; nickel between the 1.1 of a quick charge and the sixteen hours at a tenth
of its amp-hours by which IEC 61951-2 fills a cell."""


class ChargePlan(Out):
    """One charger against the packs: hours for one full charge, whether it fits, and why not."""

    charger: str
    per: str
    charges: int
    """Charges it does until the whole bank is full, shared with the other chargers that fit: every pack by itself, or the bank in place."""
    side_by_side: int
    """Packs it charges at a time."""
    hours: float
    """For one charge, the longest."""
    total_hours: float
    """Until the last of its charges is done."""
    all_hours: float
    """Until the whole bank is full, with every charger that charges packs as this one does at work."""
    end_v: float
    wanted_v: float
    fits: bool
    why: str


def charge_hours(chemistry: str, used_ah: float, amps_a: float, capacity_ah: float | None = None) -> float:
    """Time of a charge: steady amps until the end volts, then amps that fall exponentially. [h]

    used_ah: taken out since it was full [Ah]; amps_a: the charger's [A]; capacity_ah: of what is charged, where that is more than was
    taken out [Ah]. In the taper the amps are in proportion to what is still missing, with the time constant `TAPER_H`: it begins when I·τ
    is missing, at once where less is, and ends at the end current. A charger at or under the end current has no taper, and no nickel charger has.

    >>> round(charge_hours("li-ion", 4.0, 2.0), 4)  # (4 - 0.4) / 2 + 0.2 ln(2 / 0.2)
    2.2605
    >>> charge_hours("nickel", 2.0, 1.0)
    2.8
    """
    tau = TAPER_H[chemistry]
    ends_a = END_SHARE_PER_H[chemistry] * (used_ah if capacity_ah is None else capacity_ah)
    missing = CHARGE_FACTOR[chemistry] * used_ah
    if tau == 0.0:
        return missing / amps_a
    steady = max(missing - amps_a * tau, 0.0) / amps_a
    starts_a = min(amps_a, missing / tau)
    return steady + (tau * log(starts_a / ends_a) if starts_a > ends_a else 0.0)


def wanted_end_v(charger: Charger, setup: Setup) -> float | None:
    """End volts the charger must have: of one pack, or of the whole row when it charges in place. [V]"""
    if setup.bank is None:
        return None
    units = setup.bank.rows[0].units
    return units[0].full_v if charger.per == "unit" else sum(u.full_v for u in units)


def charge_plans(setup: Setup, chargers: list[Charger]) -> list[ChargePlan]:
    """Each charger against the setup's packs. Chargers that take packs one by one, and fit, share the packs; one that does not fit is
    shown as if it were alone."""
    if setup.bank is None:
        return []
    problems = [_problems(setup, charger) for charger in chargers]
    packs = [u for row in setup.bank.rows for u in row.units]
    fitting = [i for i, charger in enumerate(chargers) if charger.per == "unit" and not problems[i]]
    shared = _share(packs, [chargers[i] for i in fitting])
    plans = []
    for i, charger in enumerate(chargers):
        if charger.per == "bank":
            one = charge_hours(packs[0].chemistry, setup.bank.holds_ah, charger.amps_a.value)
            done, total, each, everything = 1, one, one, one
        else:
            mine = shared[fitting.index(i)] if i in fitting else _share(packs, [charger])[0]
            done, total, each = mine
            everything = max(part[1] for part in shared) if i in fitting else total
        plans.append(
            ChargePlan(
                charger=charger.label,
                per=charger.per,
                charges=done,
                side_by_side=charger.ports if charger.per == "unit" else 1,
                hours=each,
                total_hours=total,
                all_hours=everything,
                end_v=charger.end_v.value,
                wanted_v=wanted_end_v(charger, setup) or 0.0,
                fits=not problems[i],
                why="; ".join(problems[i]),
            )
        )
    return plans


def _problems(setup: Setup, charger: Charger) -> list[str]:
    """Why a charger does not fit the packs; empty where it does."""
    assert setup.bank is not None
    pack: Pack = setup.bank.rows[0].units[0]
    wanted = wanted_end_v(charger, setup) or 0.0
    many = len(setup.bank.rows) if charger.per == "bank" else 1
    amps = charger.amps_a.value
    problems = []
    if charger.chemistry != pack.chemistry:
        problems.append(f"it is made for {charger.chemistry}, the packs are {pack.chemistry}")
    if margins.charger_volts(charger.end_v.value, wanted, margins.SLACK[pack.chemistry]).over:
        per_cell = FULL_PER_CELL_V[pack.chemistry]
        problems.append(f"it ends at {charger.end_v.value:.1f} V; {wanted:.1f} V is right ({per_cell:.2f} V a cell)")
    if margins.charging_amps(amps / many, charge_limit_a(pack)).over:
        problems.append(f"{amps / many:.1f} A are more than the {charge_limit_a(pack):.1f} A a pack stands")
    return problems


def _share(packs: list[Pack], chargers: list[Charger]) -> list[tuple[int, float, float]]:
    """For each charger its charges, when the last is done, and its longest charge [h], the packs shared among all ports: the largest first,
    each at the port that has it full soonest. For like packs nothing ends sooner."""
    ports = [(c, 0.0) for c, charger in enumerate(chargers) for _ in range(charger.ports)]
    done, longest = [0] * len(chargers), [0.0] * len(chargers)
    for pack in sorted(packs, key=lambda one: -one.capacity_ah.value):
        hours = [charge_hours(pack.chemistry, pack.capacity_ah.value, chargers[c].amps_a.value) for c, _ in ports]
        if not hours:
            break
        p = min(range(len(ports)), key=lambda k: ports[k][1] + hours[k])
        c, until = ports[p]
        ports[p] = c, until + hours[p]
        done[c] += 1
        longest[c] = max(longest[c], hours[p])
    # A charger that gets no pack still says what one charge would take.
    first = max(packs, key=lambda one: one.capacity_ah.value)
    for c, charger in enumerate(chargers):
        longest[c] = longest[c] or charge_hours(first.chemistry, first.capacity_ah.value, charger.amps_a.value)
    return [(done[c], max(until for owner, until in ports if owner == c), longest[c]) for c in range(len(chargers))]
