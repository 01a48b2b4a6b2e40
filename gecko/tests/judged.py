"""Rides beside their judge: which ones, and how far apart the two are."""

from __future__ import annotations

import random
from dataclasses import dataclass, replace
from typing import Any
from unittest.mock import patch

import numpy as np

from gecko.analysis.riding import Riding
from gecko.document.parts.course import Course
from gecko.document.setup import load_setup
from gecko.machine.courses import SHIPPED
from gecko.physics.heat.motor import WINDING_STOP_C
from gecko.physics.motion.machine import Machine
from gecko.physics.ride import rig
from gecko.physics.ride.legs import Leg
from gecko.physics.ride.rides import meant_speeds, ride
from gecko.physics.ride.rig import HELD_BACK, WALKING_M_S
from gecko.plans.arrangements import typical_setup
from gecko.reference.tables import families
from gecko.tests.judge import Judge, random_legs, random_machine

Rode = tuple[Machine, list[Leg], float]
"""A machine, the legs it rides, and its brakes [m/s²]."""
FINEST = 16.0
"""The judge's own steps are that much shorter at last. [1] One ride of forty moves by 2.6 % from a quarter of its steps to a sixteenth."""
UNSHARP_S = 0.21
"""Two steps of the judge: what comes nearer than this comes at the same time. [s]"""


@dataclass(frozen=True)
class Compared:
    """A ride beside the judge's: how far off its run time is [1], and whether it ends by what the judge saw first, or within 2 % of it."""

    off: float
    same_end: bool
    ends_by: str
    run_time_s: float
    judge_s: float
    judge_ends: dict[str, float]


def judged(rode: Rode, finer: float = 1.0) -> Compared:
    """A ride and what the judge says of it; the judge is asked again in shorter steps before the two are called apart."""
    machine, legs, brake = rode
    found = ride(machine, legs, brake)
    meant = [float(speed) for speed in meant_speeds(machine, legs)]
    verdict = Judge(machine, legs, meant, brake, finer=finer).ride()
    _, at = verdict.first
    apart = abs(float(found.run_time_s) - at)
    off = 0.0 if apart <= UNSHARP_S else float(found.run_time_s) / at - 1.0
    near = verdict.close() | {end for end, when in verdict.ends.items() if when - at <= UNSHARP_S}
    if finer < FINEST and (abs(off) > 0.01 or found.ends_by not in near):
        return judged(rode, 4.0 * finer)
    return Compared(off, found.ends_by in near, found.ends_by, float(found.run_time_s), at, verdict.ends)


SHORT_S = 11.0, 3000.0
LONG_S = 3000.0, 20_000.0
"""Rides that are judged take the judge seconds; some last for hours and take it half a minute. [s]"""


def random_ride(seed: int, lasts_s: tuple[float, float] = SHORT_S) -> Rode:
    """A random machine on a random course that is over within a time [s]: the first of those the seed leads to."""
    chance = random.Random(seed)
    while True:
        machine = random_machine(chance)
        rode = machine, random_legs(chance, machine), chance.uniform(1.2, 5.0)
        # Of those that never get going there are enough among the others.
        if lasts_s[0] < float(ride(*rode).run_time_s) < lasts_s[1] or (lasts_s == SHORT_S and chance.random() < 0.02):
            return rode


def realistic_ride(seed: int, course: Course | None = None, lasts_s: tuple[float, float] = SHORT_S) -> Rode:
    """A typical machine of a family with other packs, gears, riders and ground, on a shipped course or the one given."""
    chance = random.Random(seed)
    while True:
        document: dict[str, Any] = typical_setup(chance.choice(sorted(families())), chance.choice([None, 24.0, 36.0, 48.0]))
        chemistry = chance.choice(["li-ion", "li-ion", "lfp", "lead"])
        cells = round(chance.choice([12, 24, 36, 48]) / {"li-ion": 3.6, "lfp": 3.2, "lead": 2.0}[chemistry])
        unit = {"chemistry": chemistry, "cells_in_series": cells, "capacity_ah": {"value": chance.uniform(2, 12), "basis": "measured"}}
        document["bank"] = {"rows": [{"units": [unit]}] * chance.randint(1, 2)}
        document["ground"] = {"surface": chance.choice(["paving", "short grass", "packed dirt"]), "ambient_c": float(np.round(chance.uniform(-5, 35), 1))}
        document["rider"] = {"age_years": chance.randint(4, 40)}
        setup = load_setup(document).model_copy(update={"course": course or chance.choice(SHIPPED)})
        riding = Riding(setup)
        if riding.machine is not None and lasts_s[0] < float(riding.ride.run_time_s) < lasts_s[1]:
            return riding.m, list(riding.legs), riding.brake_m_s2


def on_an_edge(rode: Rode, compared: Compared, share: float = 0.01) -> bool:
    """Whether a ride that is far from its judge's comes there when one of its thresholds is a share higher or lower: of volts, of the winding (by
    air so much warmer or cooler), of the pace below which it does not get up, or of that below which it is held back. [1]"""
    machine, legs, brake = rode
    found = []
    for factor in (1.0 - share, 1.0 + share):
        control = machine.control
        changed: dict[str, Any] = {}
        if machine.guard is not None:
            changed["guard"] = type(machine.guard)(machine.guard.volts_v * factor, machine.guard.delay_s)
        if control.undervoltage_v is not None:
            changed["control"] = replace(control, undervoltage_v=control.undervoltage_v * factor)
        found.append(ride(replace(machine, **changed), legs, brake))
        found.append(ride(replace(machine, ambient_c=machine.ambient_c + (1.0 - factor) * (WINDING_STOP_C - machine.ambient_c)), legs, brake))
        for name, value in (("WALKING_M_S", WALKING_M_S), ("HELD_BACK", HELD_BACK)):
            with patch.object(rig, name, factor * value):
                found.append(ride(machine, legs, brake))
    times = [compared.run_time_s, *(float(one.run_time_s) for one in found)]
    reached = 0.98 * min(times) <= compared.judge_s <= 1.02 * max(times)
    return reached and (compared.same_end or bool({one.ends_by for one in found} & compared.judge_ends.keys()))
