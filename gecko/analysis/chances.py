"""How likely a limit is passed: where someone can get hurt, rules speak by the share of the likely cases, not by the middle one."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from gecko.analysis.riding import Riding
from gecko.answers.evaluation import Severity
from gecko.common.figures import SAMPLES, Number
from gecko.physics.motion.duty import winding_after_laps
from gecko.physics.road.forces import turn_speeds, wheelie_acceleration

LIKELY = 0.5
POSSIBLE = 0.25
"""A limit passed in at least these shares of the likely cases is a stop, and a caution. [1] Source: this project's choice: more likely than not, and
one in four."""

FAR = (0.65, 1.8)
"""Outside these shares of a limit no samples are drawn, and the middle case decides. [1] Source: over 120 random machines of all families the upper
quartile of every figure judged here stayed under 1.29 times the middle case, so no caution can arise at 0.78 of a limit or less."""


@dataclass(frozen=True)
class Chance:
    """Share of the likely cases over a limit [1], and what is asked in the middle case, which every screen tells, in the unit of the limit."""

    share: float
    central: float

    @property
    def severity(self) -> Severity | None:
        """A stop where it is likelier than not, a caution from one in four on, else nothing."""
        return "stop" if self.share >= LIKELY else "caution" if self.share >= POSSIBLE else None


def chance(central: float, limit: float, samples: Callable[[], Number | list[float]]) -> Chance:
    """Share of the samples above a limit. central, limit and samples in one unit; far from the limit no sample is drawn.

    >>> chance(9.0, 10.0, lambda: [8.0, 9.0, 10.5, 11.0]).share
    0.5
    >>> chance(1.0, 10.0, lambda: [20.0]).share
    0.0
    """
    if not FAR[0] * limit < central < FAR[1] * limit:
        return Chance(float(central > limit), central)
    values = np.atleast_1d(np.asarray(samples(), dtype=float))
    return Chance(float(np.mean(values > limit)), central)


class Sampled:
    """The samples of one setup, the same ones its ranges are computed from. Each outcome is computed once, and only when a rule asks for it.

    In 200 even layers a share is steady to about 0.02 (rms, against 3,000 samples of 40 random machines)."""

    def __init__(self, riding: Riding) -> None:
        self._central = riding
        self._drawn = Riding(riding.setup, riding.context, samples=True)

    def _flat(self, values: Number) -> NDArray[np.float64]:
        return np.broadcast_to(np.asarray(values, dtype=float), (SAMPLES,))

    @cached_property
    def top_m_s(self) -> NDArray[np.float64]:
        """Top speed on the course's grade at full charge. [m/s]"""
        return self._flat(self._drawn.top)

    def top_quantile(self, share: float) -> float:
        """Speed so many of the likely cases stay under. [m/s]"""
        return float(np.quantile(self.top_m_s, share))

    @cached_property
    def peak_a(self) -> NDArray[np.float64]:
        """Largest pack amps of a launch. [A]"""
        return self._flat(self._drawn.peak_a)

    @cached_property
    def stall_a(self) -> NDArray[np.float64]:
        """Pack amps at full throttle with the wheels blocked. [A]"""
        return self._flat(self._drawn.stall_point.pack_a)

    def seconds_above(self, limit_a: float) -> NDArray[np.float64]:
        """How long a launch asks for more than so many amps, sample by sample. [s]"""
        return self._flat(self._drawn.launch.seconds_above(limit_a))

    @cached_property
    def lift_share(self) -> NDArray[np.float64]:
        """Largest acceleration of a launch over the one that lifts the front [1]; 0 unless the rear axle drives."""
        lifts = wheelie_acceleration(self._drawn.m.vehicle)
        if lifts is None:
            return self._flat(0.0)
        return self._flat(np.max(self._drawn.launch.acceleration_m_s2, axis=0) / lifts)

    @cached_property
    def tip_share(self) -> NDArray[np.float64]:
        """Top speed over the one at which a turn tips it [1]; 0 on two wheels, and where it slides first."""
        tips, slides = turn_speeds(self._drawn.m.vehicle)
        if tips is None:
            return self._flat(0.0)
        return self._flat(np.where(np.asarray(tips) < slides, self.top_m_s / tips, 0.0))

    @cached_property
    def stop_m(self) -> NDArray[np.float64]:
        """Distance to stand from top speed. [m]"""
        return self._flat(self._drawn.stop.distance_m)

    @cached_property
    def course_rise(self) -> NDArray[np.float64]:
        """Rise of the winding over the course, each sample over the middle case [1]: from laps, which cost little."""
        drawn, central = self._drawn, self._central
        return self._rises([winding_after_laps(one.m, one.lap.mean_square_motor_a2, one.lap.mean_omega, one.lap.air_w_per_k, 1200.0) for one in (drawn, central)])

    @cached_property
    def flat_out_rise(self) -> NDArray[np.float64]:
        """The same for three minutes at full throttle, held at the top speed."""
        windings = []
        for one in (self._drawn, self._central):
            point = one.top_point
            air = one.m.thermal.air_conductance(one.top) + 0.0 * one.top
            windings.append(winding_after_laps(one.m, np.square(point.motor_a), one.m.vehicle.omega(one.top), air, 180.0))
        return self._rises(windings)

    def _rises(self, windings_c: list[Number]) -> NDArray[np.float64]:
        air = self._central.m.ambient_c
        drawn, central = (np.asarray(winding) - air for winding in windings_c)
        return self._flat(drawn / np.maximum(central, 1e-9))
