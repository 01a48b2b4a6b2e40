"""From timed passes to a speed with its interval."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt

from scipy.special import stdtrit

from gecko.common.errors import GeckoError

TIMING_S = 0.2
"""One standard deviation of a hand-stopped time. [s] Source: this project's planning value."""

FEW_SPREAD = 0.03
"""Relative scatter of the ride itself, taken when there are too few passes to see it. [1]"""

READ_S = 0.03
"""What rounding to a tenth of a second leaves unknown, one standard deviation: passes that look alike are no better known. [s]"""


@dataclass(frozen=True)
class Pass:
    """One timed pass over a marked length: metres, seconds, and direction ("out" or "back")."""

    distance_m: float
    time_s: float
    direction: str = "out"


@dataclass(frozen=True)
class Reduced:
    """Mean speed [m/s], half-width of its 95 % interval [m/s], and how many passes."""

    speed_m_s: float
    half_width_m_s: float
    passes: int


def reduce_passes(passes: Sequence[Pass]) -> Reduced:
    """Mean of timed passes with its 95 % interval; both ways, each direction weighs half.

    `half-width = t_{95,ν}·s/√n`, s pooled within each direction, ν its degrees of freedom: the timing error is within what the passes scatter.
    Fewer than two passes in every direction: `1.96·√((3 % of v̄)² + (0.2 s·v̄/t̄)²)/√n`, both from experience. Source: Student's t.
    Raises GeckoError without passes, or for a pass without length or time.
    """
    if not passes:
        raise GeckoError("Enter at least one pass: a length and a time.", path="/passes")
    for i, one in enumerate(passes):
        if one.distance_m <= 0 or one.time_s <= 0:
            raise GeckoError("A pass needs a length and a time above zero.", path=f"/passes/{i}")
    groups: dict[str, list[float]] = {}
    for one in passes:
        groups.setdefault(one.direction, []).append(one.distance_m / one.time_s)
    means = [sum(group) / len(group) for group in groups.values()]
    speed = sum(means) / len(means)
    n = len(passes)
    freedom = sum(len(group) - 1 for group in groups.values())
    mean_time = sum(one.time_s for one in passes) / n
    if freedom > 0:
        squares = sum((v - mean) ** 2 for group, mean in zip(groups.values(), means, strict=True) for v in group)
        spread, factor = max(sqrt(squares / freedom), READ_S * speed / mean_time), float(stdtrit(freedom, 0.975))
    else:
        spread, factor = speed * hypot(FEW_SPREAD, TIMING_S / mean_time), 1.96
    # Directions weigh half each, so unequal counts count as fewer passes.
    effective = len(groups) ** 2 / sum(1.0 / len(group) for group in groups.values())
    return Reduced(speed, factor * spread / sqrt(effective), n)


def gain(new: Reduced, base: Reduced) -> tuple[float, float]:
    """Ratio of a measured speed to the baseline's and the half-width of its interval. [1]

    Relative half-widths add in squares (first order).
    """
    ratio = new.speed_m_s / base.speed_m_s
    relative = sqrt((new.half_width_m_s / new.speed_m_s) ** 2 + (base.half_width_m_s / base.speed_m_s) ** 2)
    return ratio, ratio * relative
