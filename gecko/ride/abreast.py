"""Machines that are compared with each other, ridden over one course in one go: those of one build together cost little more than one."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import replace

import numpy as np

from gecko.alike import build_of, one_of, together
from gecko.figures import Number
from gecko.machine import Machine
from gecko.ride.by_legs import Begun, leg_by_leg
from gecko.ride.courses import Leg
from gecko.ride.marched import march
from gecko.ride.record import Ride
from gecko.ride.round import Rider


def rides_abreast(machines: Sequence[Machine], courses: Sequence[Sequence[Leg]], brakes_m_s2: Sequence[float]) -> list[Ride]:
    """The ride of each machine over a course, for comparing them; units as in `Ride` [SI].

    courses: the legs as each machine rides them. brakes_m_s2: what each one's brakes give.
    """
    groups: dict[Hashable, list[int]] = {}
    for index, (machine, legs) in enumerate(zip(machines, courses, strict=True)):
        groups.setdefault((build_of(machine), build_of(tuple(legs))), []).append(index)
    found: dict[int, Ride] = {}
    for alike in groups.values():
        ridden = _of_one_build([machines[i] for i in alike], [courses[i] for i in alike], np.array([brakes_m_s2[i] for i in alike]))
        found.update(zip(alike, ridden, strict=True))
    return [found[index] for index in range(len(machines))]


def _of_one_build(machines: Sequence[Machine], courses: Sequence[Sequence[Leg]], brakes_m_s2: Number) -> list[Ride]:
    machine, legs = together(machines), together([tuple(course) for course in courses])
    # However much alike they are, each has its place on the last axis.
    vehicle = machine.vehicle
    machine = replace(machine, vehicle=replace(vehicle, mass_kg=vehicle.mass_kg + np.zeros(len(machines))))
    marched = march(machine, legs, Rider.compared(brakes_m_s2))
    assert marched.ride is not None
    rides = [one_of(marched.ride, i) for i in range(len(machines))]
    few: list[int] = np.flatnonzero(np.broadcast_to(marched.few, len(machines))).tolist()
    if few:
        some = together([machines[i] for i in few]), together([tuple(courses[i]) for i in few])
        by_legs = leg_by_leg(*some, Rider.compared(brakes_m_s2[few]), _some(marched.begun, few))
        rides = [dict(zip(few, by_legs, strict=True)).get(i, ride) for i, ride in enumerate(rides)]
    return rides


def _some(begun: Begun, which: list[int]) -> Begun:
    """What is known of some of the rides, by their numbers; units as in `Begun` [SI]."""
    return Begun(
        begun.grid,
        tuple(charge[:, which] for charge in begun.soc),
        [(winding[:, which], case[:, which]) for winding, case in begun.working],
        begun.rolling_m_s[:, which],
        {number: speed[:, which] for number, speed in begun.balances.items()},
    )
