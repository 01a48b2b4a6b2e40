"""The knob's scale: which share of full duty a mark stands for, fitted from marks and the speeds measured there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from gecko.common.figures import Array, Number
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import KNOBS, top_speed

LEAST_DUTY = 0.05
"""A knob never counts as less than this: below it nothing turns. [1]"""


@dataclass(frozen=True)
class KnobMap:
    """Marks [1] and the duty at each [1], rising; straight between. Two points, (0, 0) and (1, 1), while nothing was measured."""

    marks: tuple[float, ...] = (0.0, 1.0)
    duties: tuple[Number, ...] | Array = (0.0, 1.0)
    measured: int = 0

    def duty(self, mark: float) -> Number:
        """Share of full duty at a mark. [1]

        >>> KnobMap().duty(0.6)
        0.6

        Derived here: a straight line between measured marks.
        """
        table = np.asarray(self.duties, dtype=float)
        i = int(np.clip(np.searchsorted(self.marks, mark) - 1, 0, len(self.marks) - 2))
        share = (mark - self.marks[i]) / (self.marks[i + 1] - self.marks[i])
        found = np.maximum(table[i] + share * (table[i + 1] - table[i]), LEAST_DUTY)
        return float(found) if table.ndim == 1 else found

    def mark(self, duty: float) -> float:
        """Mark at which the knob gives a share of full duty [1], for a map of central values. [1]

        >>> KnobMap((0.0, 0.5, 1.0), (0.0, 0.8, 1.0)).mark(0.4)
        0.25

        Derived here: the inverse of `duty`.
        """
        return float(np.interp(duty, np.asarray(self.duties, dtype=float), self.marks))


def fit_knob(machine: Machine, points: Sequence[tuple[float, Number]]) -> KnobMap:
    """Fit the scale from points of mark [1] and speed [m/s], measured on the level at about half charge with full throttle.

    Each speed is looked up in the machine's own line of speed against duty; where the points would make the scale fall it
    is held level half way. machine: without any limiter. Samples lie on the last axis.

    Derived here: half way between the two bounds of a rising line through the points (Barlow, Bartholomew, Bremner and Brunk 1972 on regression
    that keeps an order).
    """
    column = (-1, 1) if np.ndim(machine.vehicle.mass_kg) else (-1,)
    dialled = replace(machine, control=replace(machine.control, duty_max=KNOBS.reshape(column)))
    speeds = np.asarray(top_speed(dialled, dialled.source(0.5), dialled.motor_cool))
    marks = [mark for mark, _ in points]
    duties = np.stack([_duty_of(speeds, np.asarray(speed, dtype=float)) for _, speed in points])
    order = np.argsort(marks, kind="stable")
    marks, duties = [marks[i] for i in order], duties[order]
    # Halfway between the least rising line above all points and the greatest one below.
    above, below = np.maximum.accumulate(duties, axis=0), np.minimum.accumulate(duties[::-1], axis=0)[::-1]
    duties = (above + below) / 2.0
    ends = np.zeros((1, *duties.shape[1:]))
    kept = [i for i, mark in enumerate(marks) if mark < 0.999 and (i == 0 or mark > marks[i - 1])]
    return KnobMap((0.0, *(marks[i] for i in kept), 1.0), np.concatenate([ends, duties[kept], ends + 1.0]), len(points))


def _duty_of(speeds: NDArray[np.float64], speed: NDArray[np.float64]) -> NDArray[np.float64]:
    """Duty [1] at which the machine goes a speed [m/s]; speeds: those at `KNOBS`, samples last."""
    duties, wide = np.concatenate([[0.0], KNOBS]), np.broadcast_to(speed, speeds.shape[1:])
    ladder = np.concatenate([np.zeros((1, *speeds.shape[1:])), np.maximum.accumulate(speeds, axis=0)])
    if ladder.ndim == 1:
        return np.asarray(np.interp(float(wide), ladder, duties))
    return np.array([np.interp(one, ladder[:, i], duties) for i, one in enumerate(wide.tolist())])
