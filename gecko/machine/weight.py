"""Where the weight sits: from two axle weights, else from frame, packs and riders put where they are."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from gecko.common.figures import Number
from gecko.document.parts.vehicle import Seat

SEAT_SHARE: dict[Seat, float] = {"over the rear axle": 0.0, "behind the rear axle": -0.15, "over the front axle": 1.0}
"""Where a seat is ahead of the rear axle, as a share of the wheelbase; between the axles: as its kind of machine usually has it. [1]"""

RIDER_OVER_MACHINE_M = 0.30
"""The middle of a seated rider is so much higher than that of the machine. [m] Source: this project's planning value; with the typical machine
and rider of a family the two together sit where the family's table says."""
STANDING_M = 0.30
"""Standing lifts the rider by so much more, on machines made for sitting. [m] This project's planning value."""


class Mass(NamedTuple):
    """A mass [kg], how far ahead of the rear axle and how high it sits [m]."""

    kg: Number
    ahead_m: Number
    height_m: Number


class Centre(NamedTuple):
    """Centre of mass ahead of the rear contact and above the ground. [m]"""

    ahead_m: Number
    height_m: Number


def centre_of(masses: list[Mass]) -> Centre:
    """Centre of several masses: each by its share of the whole. [m]

    >>> centre_of([Mass(30.0, 0.5, 0.3), Mass(60.0, 0.2, 0.6)])
    Centre(ahead_m=0.3, height_m=0.5)
    """
    whole = sum(mass.kg for mass in masses)
    ahead = sum(mass.kg * mass.ahead_m for mass in masses) / whole
    height = sum(mass.kg * mass.height_m for mass in masses) / whole
    return Centre(_settled(ahead), _settled(height))


def _settled(value: Number) -> Number:
    return float(np.round(value, 12)) if np.ndim(value) == 0 else value


def ahead_by_axles(wheelbase_m: Number, front_kg: Number, rear_kg: Number) -> Number:
    """Centre of mass ahead of the rear contact from what either axle carries: `L·front/(front + rear)`. [m]

    Source: moments about the rear contact on level ground.

    >>> ahead_by_axles(1.0, 40.0, 60.0)
    0.4
    """
    return wheelbase_m * front_kg / (front_kg + rear_kg)
