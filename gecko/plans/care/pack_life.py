"""A pack over its life: what it holds and how much it sags, from what was measured on it, with how far that is known."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

import numpy as np

from gecko.answers.evaluation import Out
from gecko.common.figures import Array, Figure
from gecko.document.parts.pack import Pack, default_resistance_ohm

EntryKind = Literal["capacity", "resistance", "rested", "charged", "mishap", "note"]
"""Kinds of lines of a part's log: amp-hours from full to the guard [Ah], resistance at 25 °C and half charge [Ω], volts at rest [V], amp-hours put
back [Ah], something that happened, a note."""

YEAR_DAYS = 365.25
Z95 = 1.959964
"""Standard deviations to either end of a 95 % interval. [1] Source: the normal distribution."""

AHEAD_DAYS = 365.0
"""So far ahead the page looks. [d]"""


@dataclass(frozen=True, kw_only=True)
class _Prior:
    """What is thought of a pack nobody measured, as shares of its figure when new: how well that is known, how it changes a year, and how far one reading of
    a day lies from the next. [1, 1/year]"""

    new: float
    a_year: float
    a_year_known_to: float
    day_to_day: float


_PRIORS = {
    "capacity": _Prior(new=0.08, a_year=-0.04, a_year_known_to=0.06, day_to_day=0.02),
    "resistance": _Prior(new=0.30, a_year=0.08, a_year_known_to=0.15, day_to_day=0.05),
}
"""Source: planning values of this project: lithium packs in a household lose 2 to 8 % a year and end at 80 % (IEC 61960), their resistance grows twice as fast."""


class LifePointOut(Out):
    """A reading with its 95 % interval."""

    when: datetime
    value: float
    low: float
    high: float


class LifeOut(Out):
    """One figure of a pack over its life: what was read, what it is today, and where it goes; in Ah or Ω."""

    new: float
    """What it was when new: off the label, or assumed."""
    readings: list[LifePointOut]
    now: LifePointOut
    line: list[LifePointOut]
    """From the first reading (or from new) to a year from now, with the 95 % interval of the pack itself, not of a reading."""
    share: float
    """What it is today over what it was when new. [1]"""


class PackLife(Out):
    """A pack's life in two figures, and what they say."""

    capacity: LifeOut
    resistance: LifeOut
    sag_10a_v: float
    """Volts it drops at 10 A today."""
    tone: Literal["fine", "close", "over", "unknown"]
    title: str
    says: str


@dataclass(frozen=True, kw_only=True)
class Read:
    """A reading as it was noted: when, how much, and half of its 95 % interval [the reading's unit]; None: as its kind usually is."""

    when: datetime
    value: float
    half: float | None = None


USUAL_HALF = {"capacity": 0.05, "resistance": 0.10}
"""Half of the 95 % interval of a reading that states none, as a share of it. [1] Source: planning values: a wattmeter in the lead; two meter readings of a load step."""


def _straight(days: Array, prior: _Prior, new: float, at: Array, values: Array, halves: Array) -> tuple[Array, Array]:
    """Mean and standard deviation, at `days` [d], of a straight line of known prior through readings `values` at `at` [d] with 95 % intervals ± `halves`.

    Shapes: days (n,); at, values, halves (m,); both results (n,), in the unit of the values.

    Source: the linear Gaussian model with a Gaussian prior (Bishop, Pattern Recognition and Machine Learning, 2006, eq. 3.50, 3.51 and 3.58).
    """
    mean0 = np.array([1.0, prior.a_year]) * new
    precision0 = np.diag([1.0 / (prior.new * new) ** 2, 1.0 / (prior.a_year_known_to * new) ** 2])
    design = np.column_stack([np.ones_like(at), at / YEAR_DAYS])
    weights = 1.0 / ((halves / Z95) ** 2 + (prior.day_to_day * new) ** 2)
    precision = precision0 + (design.T * weights) @ design
    mean = np.linalg.solve(precision, precision0 @ mean0 + (design.T * weights) @ values)
    wanted = np.column_stack([np.ones_like(days), days / YEAR_DAYS])
    return wanted @ mean, np.sqrt(np.einsum("ij,jk,ik->i", wanted, np.linalg.inv(precision), wanted))


def _life(kind: Literal["capacity", "resistance"], new: float, born: datetime, today: datetime, read: Sequence[Read]) -> LifeOut:
    halves = [one.half if one.half is not None else USUAL_HALF[kind] * one.value for one in read]

    def days(when: datetime) -> float:
        return (when - born) / timedelta(days=1)

    ends = np.linspace(0.0, max(days(today), 0.0) + AHEAD_DAYS, 25)
    wanted = np.append(ends, days(today))
    at, values = np.array([days(one.when) for one in read]), np.array([one.value for one in read])
    mean, sd = _straight(wanted, _PRIORS[kind], new, at, values, np.array(halves))

    def out(when: datetime, value: float, half: float) -> LifePointOut:
        return LifePointOut(when=when, value=value, low=max(value - half, 0.0), high=value + half)

    line = [out(born + timedelta(days=float(day)), float(m), Z95 * float(s)) for day, m, s in zip(ends, mean[:-1], sd[:-1], strict=True)]
    return LifeOut(
        new=new,
        readings=[out(one.when, one.value, half) for one, half in zip(read, halves, strict=True)],
        now=out(today, float(mean[-1]), Z95 * float(sd[-1])),
        line=line,
        share=float(mean[-1]) / new,
    )


def pack_life(pack: Pack, bought: datetime | None, today: datetime, capacity: Sequence[Read], resistance: Sequence[Read]) -> PackLife:
    """What a pack holds and how much it sags over its life, from readings of its log, with 95 % intervals.

    bought: when it was new; without it the first reading is taken for that. Between readings and after them a straight line is drawn, which is no law of
    nature: what comes is shown with the doubt that leaves.
    """
    first = min((one.when for one in (*capacity, *resistance)), default=today)
    born = min(bought or first, first, today)
    holds = _life("capacity", float(pack.capacity_ah.value), born, today, capacity)
    sags = _life("resistance", _new_ohm(pack), born, today, resistance)
    tone, title, says = _verdict(holds, sags)
    return PackLife(capacity=holds, resistance=sags, sag_10a_v=10.0 * sags.now.value, tone=tone, title=title, says=says)


def _new_ohm(pack: Pack) -> float:
    """Resistance when new: the label's, else what such packs usually have. A measured one is of a day, not of the day it was new. [Ω]"""
    stated: Figure | None = pack.resistance_ohm
    return float(stated.value) if stated is not None and stated.basis == "nameplate" else default_resistance_ohm(pack)


def _more(share: float) -> str:
    """So much more or less than when it was new.

    >>> _more(0.04), _more(0.33), _more(-0.2)
    ('as when new', '33 % more than a new one', '20 % less than a new one')
    """
    if abs(share) < 0.1:
        return "as when new"
    return f"{100 * abs(share):.0f} % {'more' if share > 0 else 'less'} than a new one"


WORN_SHARE, AGED_SHARE = 0.8, 0.9
"""Of its label a pack holds less than the first: worn (IEC 61960 ends its life there); less than the second: it shows its age. [1]"""


def _verdict(holds: LifeOut, sags: LifeOut) -> tuple[Literal["fine", "close", "over", "unknown"], str, str]:
    if not holds.readings and not sags.readings:
        return (
            "unknown",
            "Not measured yet.",
            "Its label is all that is known. One full charge put back, or a ride from full to the guard, tells what it holds.",
        )
    gives = f"It gives {holds.now.value:.1f} of {holds.new:.1f} Ah" if holds.readings else "What it holds nobody measured"
    sag = f"sags {_more(sags.share - 1.0)}" if sags.readings else ""
    says = f"{gives}{' and ' + sag if sag else ''}."
    # What is only likely is said so: the interval decides, not its middle.
    if holds.readings and holds.now.high / holds.new < WORN_SHARE:
        return "over", "Worn out.", f"{says} Below 80 % of its label it counts as spent: short rides, watched, and no high amps."
    if holds.share < WORN_SHARE or sags.share > 1.6:
        return "close", "Tired.", f"{says} Measure it again before a long ride counts on it."
    if holds.share < AGED_SHARE or sags.share > 1.25:
        return "close", "Shows its age.", says
    return "fine", "In good shape.", says
