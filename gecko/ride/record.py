"""A ride from full charge until the first thing that ends it: its trace, its end, and the sums along it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gecko.electric.operating_point import OperatingPoint
from gecko.figures import Number
from gecko.quadrature import cumulative, first_above, pick, read_at

END_NAMES = (
    "guard",
    "pack protection low volts",
    "foldback below half the aimed speed",
    "unit empty",
    "winding 155 C",
    "pack protection trip",
    "stands on a climb",
)
"""What can end a ride, by number."""
FOLDBACK_S = 10.0
"""Held below half the aimed speed by the low cut-off for so long, the ride is over. [s]"""
HOTTEST_C = 400.0
"""A ride in the tables may go on past 155 °C; there it is clamped, the event ends it before. [°C]"""


@dataclass(frozen=True)
class Ride:
    """A ride: the first moment, the trace over time (first axis), and how it ends.

    time_s [s]; soc of each unit group [1]; speed [m/s]; pack amps [A]; controller volts [V]; winding and case [°C].
    """

    first: OperatingPoint
    first_speed_m_s: Number
    time_s: Number
    soc: tuple[Number, ...]
    speed_m_s: Number
    pack_a: Number
    controller_v: Number
    bank_v: Number
    winding_c: Number
    case_c: Number
    run_time_s: Number
    ends: Number
    distance_m: Number
    pack_ah: Number
    energy_wh: Number
    rms_pack_a: Number
    row_share: Number
    rounds: Number | None = None
    """On a course: rounds ridden at each point. [1]"""
    winding_round_c: Number | None = None
    """On a course: winding at each point as a round begins, where `winding_c` is the highest within it. [°C]"""
    energy_j: Number | None = None
    """On a course, where asked for: energy of each of `ride.energy.PARTS` until the end. [J]"""

    @property
    def ends_by(self) -> str:
        """What ends a single ride."""
        return END_NAMES[int(np.asarray(self.ends).reshape(-1)[0])]

    def value_at_end(self, trace: Number) -> Number:
        """A trace read at the ride's end, in its own unit."""
        return read_at(trace, self.time_s, self.run_time_s)

    def reaches_winding(self, limit_c: float) -> float | None:
        """Time the winding first reaches a temperature [°C] within the ride, or None. [s] For a single ride."""
        time = first_above(self.winding_c, self.time_s, limit_c)
        return float(time) if np.isfinite(time) and time <= self.run_time_s else None


def first_below(metric: Number, time_s: Number) -> Number:
    """Time at which a metric first falls to zero, linear between points; inf when never. [s]"""
    below = metric <= 0.0
    any_below = below.any(axis=0)
    if not np.any(any_below):
        return np.full(below.shape[1:], np.inf)
    index = np.maximum(below.argmax(axis=0), 1)
    high, low, t_high, t_low = pick(metric, index), pick(metric, index - 1), pick(time_s, index), pick(time_s, index - 1)
    gap = low - high
    share = np.clip(np.where(gap > 0, low / np.where(gap > 0, gap, 1.0), 0.0), 0.0, 1.0)
    time = t_low + share * (t_high - t_low)
    return np.where(below[0], 0.0, np.where(any_below, time, np.inf))


def until(values: Number, time_s: Number, end_s: Number) -> Number:
    """Integral of a trace from 0 to the ride's end, in its unit times seconds."""
    return read_at(cumulative(values, time_s), time_s, end_s)


def hottest_ten_minutes(total: Number, time: Number, end: Number) -> Number:
    """Largest mean of the squared amps over 600 s, or over the whole ride when it is shorter, from their integral since the start [A²s]. [A²]

    Samples take the last ten minutes, where the volts are lowest and the amps highest.
    """
    window = np.minimum(600.0, end)
    if np.ndim(end) > 0:
        return (read_at(total, time, end) - read_at(total, time, end - window)) / np.maximum(window, 1e-9)
    stops = np.clip(np.append(time, end), window, end)
    inside = np.interp(stops, time, total) - np.interp(stops - window, time, total)
    return np.max(inside) / np.maximum(window, 1e-9)
