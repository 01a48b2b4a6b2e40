"""A phase of a ride: points along a stretch of one kind, such as full throttle, holding, braking."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from gecko.figures import Number
from gecko.motion.forces import VehicleModel
from gecko.ride.courses import Leg

PhaseKind = Literal["throttle", "hold", "coast", "brake", "stand"]


@dataclass(frozen=True)
class Phase:
    """Points of one phase: seconds and metres from its start, speed [m/s], motor speed [rad/s], motor and pack amps [A], brakes [N],
    the number of the limit, and the leg it belongs to."""

    kind: PhaseKind
    leg: Leg
    vehicle: VehicleModel
    time_s: Number
    distance_m: Number
    speed_m_s: Number
    omega: Number
    motor_a: Number
    pack_a: Number
    brake_n: Number
    limit: Number

    def integral(self, values: Number) -> Number:
        """Integral of a trace over the phase, in its unit times seconds."""
        return np.sum((values[1:] + values[:-1]) * np.diff(self.time_s, axis=0), axis=0) / 2.0
