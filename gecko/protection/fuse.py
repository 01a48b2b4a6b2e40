"""Opening times of fuses."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from gecko.figures import Number
from gecko.reference.tables import fuse_curve

NEVER_S = 1e9
"""Times from here on count as never. [s]"""


@dataclass(frozen=True)
class _Band:
    """A fuse's band in logarithms, ready to interpolate."""

    knots: NDArray[np.float64]
    short: NDArray[np.float64]
    slope: float
    long_knots: NDArray[np.float64]
    long: NDArray[np.float64]
    first_finite: float


@cache
def _band(kind: str) -> _Band:
    curve = fuse_curve(kind)
    multiples, longest = np.array(curve.multiples), np.array(curve.longest_s)
    knots, short = np.log(multiples), np.log(curve.shortest_s)
    finite = np.isfinite(longest)
    slope = float((short[1] - short[0]) / (knots[1] - knots[0]))
    return _Band(knots, short, slope, knots[finite], np.log(longest[finite]), float(multiples[finite][0]))


def opening_times_s(kind: str, multiple: Number) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Shortest and longest opening time at a multiple of the rating; inf = never. [s]

    Log–log between the points of the band; the longest below 1.35 is never; the shortest below 1.10 follows its end slope;
    above 6 constant I²t for both; capped at 1e9 s = never.

    >>> tuple(round(float(t), 3) for t in opening_times_s("blade", 2.0))
    (0.15, 5.0)

    Source: bands of ISO 8820-3.
    """
    band = _band(kind)
    log_m = np.log(np.maximum(np.asarray(multiple, dtype=float), 1e-6))
    times_short = np.interp(log_m, band.knots, band.short)
    times_short = np.where(log_m < band.knots[0], band.short[0] + band.slope * (log_m - band.knots[0]), times_short)
    times_long = np.interp(log_m, band.long_knots, band.long)
    beyond = np.maximum(log_m - band.knots[-1], 0.0)
    shortest = np.exp(np.minimum(times_short, np.log(NEVER_S)) - 2.0 * beyond)
    longest = np.exp(times_long - 2.0 * beyond)
    longest = np.where(np.asarray(multiple) < band.first_finite * (1 - 1e-12), np.inf, longest)
    return np.where(shortest >= NEVER_S * (1 - 1e-9), np.inf, shortest), longest


def continuous_limit_a(rating_a: Number, air_c: float) -> Number:
    """Amps a fuse carries for good: `0.75 · rating · (1 − 0.0015·max(0, T − 25))`. [A]

    >>> round(continuous_limit_a(30.0, 25.0), 2)
    22.5

    Source: common fuse practice, this project's planning value.
    """
    return 0.75 * rating_a * (1.0 - 0.0015 * max(0.0, air_c - 25.0))


def nuisance_sum(kind: str, rating_a: Number, amps: Number, time_s: Number, launches: int = 10, *, against: str = "mean") -> Number:
    """Share of the fuse's patience that `launches` launches use up, Σ dt/t(I). [1]

    amps [A] over time_s [s] on the first axis; rating_a broadcasts behind it. against: "mean" is the geometric mean of
    shortest and longest, no share where the longest is never; "shortest" the soonest the fuse may open.
    """
    ratings = np.asarray(rating_a, dtype=float)
    load = np.asarray(amps, dtype=float).reshape((-1,) + (1,) * ratings.ndim)
    shortest, longest = opening_times_s(kind, load / ratings)
    time = np.sqrt(shortest * longest) if against == "mean" else shortest
    rate = np.where(np.isfinite(time), 1.0 / np.where(np.isfinite(time), time, 1.0), 0.0)
    if against == "mean":
        rate = np.where(np.isfinite(longest), rate, 0.0)
    steps = np.diff(np.asarray(time_s, dtype=float)).reshape((-1,) + (1,) * ratings.ndim)
    return launches * np.sum((rate[1:] + rate[:-1]) / 2.0 * steps, axis=0)
