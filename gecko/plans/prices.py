"""What the parts of a setup cost: by what was paid or seen, else by a span planning values give."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from typing import Literal

from gecko.answers.evaluation import Out
from gecko.document.rack.about import Racked
from gecko.plans.needs import Need
from gecko.reference.rows import read_rows

LIKE_A_DOLLAR = ("USD", "EUR", "GBP", "CHF")
"""Currencies in which the planning values hold as they stand."""

PriceBasis = Literal["known", "planning value", "unknown"]


class EachOut(Out):
    """What one piece, or a metre of wire, costs: a span in the currency asked for, and how it is known."""

    low: float | None
    high: float | None
    basis: PriceBasis


class CostOut(Out):
    """What parts cost together, in one currency. low counts what has no price as nothing, so it is a least; high is None where some part has none."""

    currency: str
    low: float
    high: float | None
    unpriced: int
    """So many kinds of parts have no price at all."""
    planned: int
    """So many have planning values for a price."""


@dataclass(frozen=True, kw_only=True)
class _Span:
    low_base: float
    low_each: float
    high_base: float
    high_each: float
    sized: bool

    def at(self, size: float | None) -> tuple[float, float] | None:
        """The span for one of this size; None where its size is what the price goes by and nobody knows it."""
        if size is None and self.sized:
            return None
        size = size or 0.0
        return self.low_base + self.low_each * size, self.high_base + self.high_each * size


@cache
def _spans() -> dict[str, _Span]:
    names = ("low_base", "low_each", "high_base", "high_each")
    return {row["kind"]: _Span(sized=any(float(row[name]) > 0.0 for name in names[1::2]), **{name: float(row[name]) for name in names}) for row in read_rows("prices")}


def paid(racked: Racked, currency: str) -> EachOut | None:
    """What was paid or is asked for a part of the rack; None where that is not known, or in another currency."""
    price = racked.about.price
    return EachOut(low=price.amount, high=price.amount, basis="known") if price is not None and price.currency == currency else None


def each(need: Need, rack: Sequence[Racked], currency: str) -> EachOut:
    """What one of a need costs: the span of what was paid or is asked for parts of the rack that would serve it; else planning values.

    A price in another currency is no price here: nobody knows the rate of the day.
    """
    known = [
        price.low / (1.0 if need.unit == "m" else serves)
        for racked in rack
        if (price := paid(racked, currency)) is not None and price.low is not None and (serves := need.serves(racked.part)) > 0.0
    ]
    if known:
        return EachOut(low=min(known), high=max(known), basis="known")
    span = _spans()[need.priced_as or need.kind].at(need.size) if currency in LIKE_A_DOLLAR else None
    return EachOut(low=None, high=None, basis="unknown") if span is None else EachOut(low=span[0], high=span[1], basis="planning value")


def together(priced: Sequence[tuple[float, EachOut]], currency: str) -> CostOut:
    """What so many of each cost together.

    >>> together([(2.0, EachOut(low=3, high=5, basis="known")), (1.0, EachOut(low=None, high=None, basis="unknown"))], "EUR")
    CostOut(currency='EUR', low=6.0, high=None, unpriced=1, planned=0)
    """
    there = [(count, one) for count, one in priced if count > 0.0]
    unpriced = sum(one.low is None for _, one in there)
    return CostOut(
        currency=currency,
        low=sum(count * (one.low or 0.0) for count, one in there),
        high=None if unpriced else sum(count * (one.high or 0.0) for count, one in there),
        unpriced=unpriced,
        planned=sum(one.basis == "planning value" for _, one in there),
    )
