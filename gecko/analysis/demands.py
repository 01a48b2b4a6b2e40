"""What flows in each of four situations, for how long, and what ends it: one table for everything that asks how many amps there are."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.document.parts.fuse import Fuse
from gecko.physics.electric.bank import BankLimits
from gecko.physics.heat.motor import WINDING_STOP_C, HeatRun
from gecko.physics.motion.duty import flat_out
from gecko.physics.protection.fuse import opening_times_s

LONG_S = 1200.0
"""A climb is followed for so long; what lasts longer is told as no end. [s]"""


class Demand(Out):
    """A situation: amps of the packs and of all motors together [A], for how long [s], None where nothing ends it, and what does."""

    name: str
    pack_a: float
    motor_a: float
    lasts_s: float | None
    ends_by: str


def demands(a: Analysis) -> Iterator[Demand]:
    """A blocked wheel, a launch, a climb and the ride, in whatever mode and mark the rider can choose; the ride as it is set. [A, s]"""
    own = a.hardest
    stall = own.stall_point
    yield _held(a.limits, a.setup.main_fuse, "A wheel that is blocked", float(stall.pack_a), float(stall.motor_a), own.stalled)
    run = own.launch
    yield Demand(name="A launch", pack_a=float(np.max(run.pack_a)), motor_a=float(np.max(run.motor_a)), lasts_s=float(run.time_s[-1]), ends_by="it is up to speed")
    grade = max(a.setup.ground.hill_grade, a.setup.ground.grade)
    if float(own.hill.grade) < grade:
        yield _held(a.limits, a.setup.main_fuse, f"A climb of {100.0 * grade:.0f} %, which it does not get up", float(stall.pack_a), float(stall.motor_a), own.stalled)
    else:
        point = own.m.full(own.full, own.motor, float(own.speeds.hill[0]))
        heat = flat_out(own.m, own.full, grade, LONG_S)
        yield _held(a.limits, a.setup.main_fuse, f"A climb of {100.0 * grade:.0f} %, throttle open", float(point.pack_a), float(point.motor_a), heat)
    ride = a.ride
    yield Demand(name=f"{a.course.name}, on average by heat", pack_a=a.rms_a, motor_a=a.motor_rms_a, lasts_s=float(ride.run_time_s), ends_by=ride.ends_by)


def _held(limits: BankLimits, fuse: Fuse | None, name: str, pack_a: float, motor_a: float, heat: HeatRun) -> Demand:
    """Amps that stay as they are: whatever ends them first."""
    ends: list[tuple[float, str]] = []
    trip = limits.trip_a
    if fuse is not None:
        ends.append((float(opening_times_s(fuse.kind, pack_a / fuse.rating_a)[1]), "the main fuse opens, at the latest"))
    if trip is not None and pack_a > float(trip):
        ends.append((limits.trip_delay_s, "the packs switch off"))
    burns = heat.reaches(WINDING_STOP_C)
    if burns is not None:
        ends.append((burns, "the winding is at its end"))
    first, by = min(ends, default=(np.inf, ""))
    known = bool(np.isfinite(first))
    return Demand(name=name, pack_a=pack_a, motor_a=motor_a, lasts_s=first if known else None, ends_by=by if known else "nothing but empty packs")
