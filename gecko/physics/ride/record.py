"""A ride from full charge until the first thing that ends it: its figures, its end, and its trace."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gecko.common.figures import Number
from gecko.physics.ride.rig import Array

END_NAMES = (
    "guard",
    "pack protection low volts",
    "foldback below half the aimed speed",
    "unit empty",
    "winding 155 C",
    "pack protection trip",
    "does not get up",
    "goes on for a day",
)
"""What can end a ride, by the numbers of `ride.march`."""
PARTS = (
    "cells",
    "packs",
    "wires",
    "controller",
    "winding",
    "motor drag",
    "gears",
    "spinning wheels",
    "rolling",
    "air",
    "climbing",
    "brakes",
    "speed",
)
"""What the cells give, and what it goes into; climbing gives back downhill, speed when it slows. The rest sums to the first."""
WARM_S = 1200.0
"""How warm the winding gets is told after so long, or at the ride's end where that is sooner. [s]"""


@dataclass(frozen=True)
class Trace:
    """A ride over time, in spans of whole rounds where those are short: the first point is the start.

    time_s [s]; soc of each unit group [1]; mean speed [m/s] and pack amps [A]; lowest volts at controller and bank [V]; winding at its
    hottest in the span, and as it ends, and case [°C]; rounds ridden [1].
    """

    time_s: Array
    soc: tuple[Array, ...]
    speed_m_s: Array
    pack_a: Array
    controller_v: Array
    bank_v: Array
    winding_c: Array
    winding_end_c: Array
    case_c: Array
    rounds: Array


@dataclass(frozen=True)
class Ride:
    """A ride's figures, of samples one entry each: seconds and number of what ends it, metres, amp-hours from the bank, watt-hours at the
    controller, RMS amps of pack and motor over the hottest ten minutes, fastest, most amps of pack and motor, winding after `WARM_S`
    [°C], when the winding passed 130 and 155 °C [s, infinity: never], rounds [1], and energy of each of `PARTS` [J] on the first axis.
    """

    run_time_s: Number
    ends: Number
    distance_m: Number
    pack_ah: Number
    energy_wh: Number
    rms_pack_a: Number
    rms_motor_a: Number
    fastest_m_s: Number
    most_pack_a: Number
    most_motor_a: Number
    warm_c: Number
    caution_s: Number
    stop_s: Number
    rounds: Number
    energy_j: Number
    trace: Trace | None = None
    """Of a single ride."""

    @property
    def ends_by(self) -> str:
        """What ends a single ride."""
        return END_NAMES[int(self.ends)]

    @property
    def line(self) -> Trace:
        """The trace of a single ride."""
        assert self.trace is not None
        return self.trace

    @property
    def mean_a(self) -> Number:
        """Mean pack amps. [A]

        Derived here: charge over time.
        """
        return self.pack_ah * 3600.0 / np.maximum(self.run_time_s, 1e-9)

    @property
    def wh_per_km(self) -> Number:
        """Energy for each kilometre [Wh]; 0 where it does not move.

        Derived here: energy over way.
        """
        return np.where(np.asarray(self.distance_m) > 1.0, self.energy_wh / np.maximum(self.distance_m, 1.0) * 1000.0, 0.0)[()]
