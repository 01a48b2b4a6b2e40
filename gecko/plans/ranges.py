"""How far the likely cases spread: the 5 to 95 % ranges of the outcomes, what ends the rides, and which figure widens them most."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import (
    Ending,
    Range,
    Ranges,
    Widens,
)
from gecko.common.figures import Number
from gecko.document.context import Context
from gecko.document.setup import Setup
from gecko.machine.resolve import Resolved
from gecko.physics.motion.launch import Launch
from gecko.physics.motion.top_speed import KNOBS
from gecko.physics.ride.record import END_NAMES, Ride
from gecko.physics.road.forces import VehicleModel, turn_speeds, wheelie_acceleration
from gecko.plans.curves import curve
from gecko.rules.measuring import measuring

Basis = Literal["measured", "nameplate", "assumed"]


def ranges(setup: Setup, context: Context | None = None) -> Ranges:
    """5–95 % ranges of the outcomes from 200 seeded samples over all figures that matter. SI."""
    a = Analysis(setup, context, samples=True)
    if a.machine is None:
        return Ranges(outcomes={})
    values = {
        "top_speed_m_s": a.speeds.course[0],
        "top_speed_half_m_s": a.speeds.course[1],
        "top_speed_low_m_s": a.speeds.course[2],
        "top_speed_grade_m_s": a.speeds.hill[0],
        "run_time_s": a.ride.run_time_s,
        "hill_grade": a.hill.grade,
        "peak_a": a.peak_a,
        "lowest_v": a.lowest_v,
        "motor_20min_c": a.warm_c,
        "stop_m": a.stop.distance_m,
        "distance_m": a.ride.distance_m,
        "cruise_a": a.ride.mean_a,
        "wh_per_km": a.ride.wh_per_km,
        "stall_a": a.stall_point.pack_a,
        "sag_v": a.peak_a * a.half.resistance_ohm,
        "launch_s": a.launch.time_s[-1],
        "starts_grade": a.starts_on.grade,
        "tip_m_s": a.tip_m_s,
        "slide_m_s": turn_speeds(a.m.vehicle)[1],
        "wheelie_margin": _margins(a.m.vehicle, a.launch),
    }
    outcomes, widest = {}, {}
    causes = _causes(a.resolved)
    for name, samples in values.items():
        if samples is None:
            continue
        low, median, high = np.percentile(np.atleast_1d(samples), [5, 50, 95])
        outcomes[name] = Range(low=float(low), median=float(median), high=float(high))
        widest[name] = _widest(a.resolved, causes, samples)
    low_line = high_line = None
    if a.speeds.knob is not None:
        low_line, high_line = (curve(KNOBS, np.percentile(a.speeds.knob, p, axis=1)) for p in (5, 95))
    return Ranges(outcomes=outcomes, endings=_endings(a.ride), widest=widest, knob_low=low_line, knob_high=high_line)


LEAST_ENDING = 0.02
"""What ends fewer of the likely rides than this is not told. [1]"""


def _endings(ride: Ride) -> list[Ending]:
    """What ends the rides of the samples, the likeliest first."""
    ends, times = np.atleast_1d(ride.ends), np.atleast_1d(ride.run_time_s)
    found = []
    for number in np.unique(ends):
        share = float(np.mean(ends == number))
        low, high = np.percentile(times[ends == number], [5, 95])
        if share >= LEAST_ENDING:
            found.append(Ending(ends_by=END_NAMES[int(number)], share=share, low_s=float(low), high_s=float(high)))
    return sorted(found, key=lambda ending: -ending.share)


def _margins(vehicle: VehicleModel, launch: Launch) -> Number | None:
    """Acceleration that lifts the front over the largest of the launch, sample by sample [1]; None unless the rear drives."""
    lifts = wheelie_acceleration(vehicle)
    largest = np.max(launch.acceleration_m_s2, axis=0)
    return None if lifts is None or not np.all(largest > 0.0) else lifts / largest


LEAST_SHARE = 0.08
"""A figure that explains less of a range than this is not named: with 200 samples chance explains up to a few percent. [1]"""


def _causes(resolved: Resolved) -> tuple[list[str], NDArray[np.float64]]:
    """Places of all sampled figures, and their logarithms as columns of mean 0 and spread 1. Shape (figures, samples)."""
    paths, columns = [], []
    for path, values in resolved.drawn.items():
        column = np.log(values)
        spread = float(np.std(column))
        if spread > 1e-9:
            paths.append(path)
            columns.append((column - np.mean(column)) / spread)
    return paths, np.array(columns)


def _widest(resolved: Resolved, causes: tuple[list[str], NDArray[np.float64]], samples: Number) -> list[Widens]:
    """The two figures that explain most of an outcome's spread: squared correlation of its ranks with each figure's logarithm."""
    paths, columns = causes
    ranks = np.argsort(np.argsort(np.broadcast_to(samples, columns.shape[1:]))).astype(float) if len(paths) else np.zeros(0)
    if not len(paths) or np.std(np.broadcast_to(samples, columns.shape[1:])) < 1e-12:
        return []
    centred = (ranks - ranks.mean()) / ranks.std()
    shares = np.square(columns @ centred / len(centred))
    found = []
    for index in np.argsort(-shares)[:2].tolist():
        if shares[index] >= LEAST_SHARE:
            known = measuring(paths[index])
            found.append(Widens(path=paths[index], name=known.name, share=float(shares[index]), basis=resolved.figures[paths[index]].basis, how=known.how))
    return found
