"""Opening times of fuses."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from gecko.common.figures import Array, N, Number
from gecko.reference.tables import OfferedFuse, fuse_curve, offered_fuses

NEVER_S = 1e9
"""Times from here on count as never. [s]"""
_LOG_NEVER = float(np.log(NEVER_S))


KIND_ORDER = ("blade", "large blade", "bolt-down", "cartridge")
"""Simplest kind first."""

DC_CLASSES_V = (32.0, 58.0, 80.0, 125.0)
"""DC volts fuses are made for (`reference/offered_fuses.csv`). [V]"""


def dc_class_v(full_v: float) -> float:
    """Lowest class of fuse that covers full-charge volts; the highest there is above all of them. [V]

    >>> dc_class_v(42.0)
    58.0

    Source: the classes fuses of reference/offered_fuses.csv are sold in.
    """
    return next((volts for volts in DC_CLASSES_V if volts >= full_v), DC_CLASSES_V[-1])


def fuse_rank(fuse: OfferedFuse) -> tuple[float, int, float]:
    """Order in which fuses are taken: smallest rating [A], simplest kind, lowest volts [V].

    The order is a planning value of this project: the fuse most shops have comes first.
    """
    return fuse.rating_a, KIND_ORDER.index(fuse.kind), fuse.dc_volts_v


def fuse_for(rating_a: float, full_v: float) -> OfferedFuse | None:
    """The simplest fuse one can buy with this rating [A], or the next larger, that breaks full-charge volts [V]; None when there is none.

    >>> fuse = fuse_for(60.0, 58.8)
    >>> fuse.kind, fuse.dc_volts_v, fuse.rating_a
    ('bolt-down', 80.0, 60.0)
    """
    fitting = [fuse for fuse in offered_fuses() if fuse.dc_volts_v >= full_v and fuse.rating_a >= rating_a]
    return min(fitting, key=fuse_rank, default=None)


@dataclass(frozen=True)
class _Band:
    """A fuse's band in logarithms, ready to interpolate."""

    knots: NDArray[np.float64]
    short: NDArray[np.float64]
    slope: float
    long_knots: NDArray[np.float64]
    long: NDArray[np.float64]
    mean: NDArray[np.float64]
    first_finite: float


@cache
def _band(kind: str) -> _Band:
    curve = fuse_curve(kind)
    multiples, longest = np.array(curve.multiples), np.array(curve.longest_s)
    knots, short = np.log(multiples), np.log(curve.shortest_s)
    finite = np.isfinite(longest)
    slope = float((short[1] - short[0]) / (knots[1] - knots[0]))
    long = np.log(longest[finite])
    # A little below the first multiple that has a longest time, because rounding in the logarithm could otherwise turn it into never.
    first = float(knots[finite][0]) - 1e-12
    return _Band(knots, short, slope, knots[finite], long, (short[finite] + long) / 2.0, first)


def opening_times_s(kind: str, multiple: Number) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Shortest and longest opening time at a multiple of the rating; inf = never. [s]

    Log–log between the points of the band; the longest below 1.35 is never; the shortest below 1.10 follows its end slope;
    above 6 constant I²t for both; capped at 1e9 s = never.

    >>> tuple(round(float(t), 3) for t in opening_times_s("blade", 2.0))
    (0.15, 5.0)

    Source: bands of ISO 8820-3.
    """
    log_m = _log(multiple)
    return _shortest(_band(kind), log_m), _longest(_band(kind), log_m)


def longest_opening_s(kind: str, multiple: Number) -> NDArray[np.float64]:
    """Longest opening time at a multiple of the rating; inf = never. [s] See `opening_times_s`.

    Source: bands of reference/fuse_curves.csv.

    >>> float(longest_opening_s("blade", 1.35)), round(float(longest_opening_s("blade", 2.0)), 6)
    (600.0, 5.0)
    """
    return _longest(_band(kind), _log(multiple))


def mean_opening_s(kind: str, multiple: Number) -> NDArray[np.float64]:
    """Middle of the band, the geometric mean of shortest and longest; inf where the longest is never. [s]

    >>> round(float(mean_opening_s("blade", 2.0)), 3)
    0.866

    Source: bands of reference/fuse_curves.csv, log–log between their points.
    """
    band, log_m = _band(kind), _log(multiple)
    # The geometric mean of two lines in logarithms on the same knots is a line on them.
    times = np.interp(log_m, band.long_knots, band.mean) - 2.0 * np.maximum(log_m - band.knots[-1], 0.0)
    return np.where(log_m < band.first_finite, np.inf, np.exp(times))


def _log(multiple: Number) -> NDArray[np.float64]:
    logarithm: NDArray[np.float64] = np.log(np.maximum(np.asarray(multiple, dtype=float), 1e-6))
    return logarithm


def _shortest(band: _Band, log_m: NDArray[np.float64]) -> NDArray[np.float64]:
    times = np.interp(log_m, band.knots, band.short)
    times = np.where(log_m < band.knots[0], band.short[0] + band.slope * (log_m - band.knots[0]), times)
    shortest = np.exp(np.minimum(times, _LOG_NEVER) - 2.0 * np.maximum(log_m - band.knots[-1], 0.0))
    return np.where(shortest >= NEVER_S * (1 - 1e-9), np.inf, shortest)


def _longest(band: _Band, log_m: NDArray[np.float64]) -> NDArray[np.float64]:
    times = np.interp(log_m, band.long_knots, band.long) - 2.0 * np.maximum(log_m - band.knots[-1], 0.0)
    return np.where(log_m < band.first_finite, np.inf, np.exp(times))


def continuous_limit_a(rating_a: N, air_c: float) -> N:
    """Amps a fuse carries for good: `0.75 · rating · (1 − 0.0015·max(0, T − 25))`. [A]

    >>> round(continuous_limit_a(30.0, 25.0), 2)
    22.5

    Source: common fuse practice, this project's planning value.
    """
    return 0.75 * rating_a * (1.0 - 0.0015 * max(0.0, air_c - 25.0))


def nuisance_sum(kind: str, rating_a: Number, amps: Number, time_s: Number, launches: int = 10, *, against: str = "mean") -> Array:
    """Share of the fuse's patience that `launches` launches use up, Σ dt/t(I). [1]

    amps [A] over time_s [s] on the first axis; rating_a broadcasts behind it. against: "mean" is the geometric mean of
    shortest and longest, no share where the longest is never; "shortest" the soonest the fuse may open.

    Source: this project's planning value: linear accumulation (Miner's rule) applied to a fuse's patience.

    A third of its rating does nothing to a fuse:

    >>> float(nuisance_sum("blade", 30.0, np.full((2, 1), 10.0), np.array([[0.0], [1.0]])).sum())
    0.0
    """
    ratings = np.asarray(rating_a, dtype=float)
    load = np.asarray(amps, dtype=float).reshape((-1,) + (1,) * ratings.ndim)
    rate = 1.0 / (mean_opening_s(kind, load / ratings) if against == "mean" else _shortest(_band(kind), _log(load / ratings)))
    steps = np.diff(np.asarray(time_s, dtype=float)).reshape((-1,) + (1,) * ratings.ndim)
    return np.asarray(launches * np.sum((rate[1:] + rate[:-1]) / 2.0 * steps, axis=0))
