"""The courses that ship with the planner, and a course as numbers for one machine."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from gecko.common.figures import Number
from gecko.document.parts.course import Course, Segment
from gecko.document.parts.rider import Ground
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import top_speed
from gecko.physics.ride.legs import Leg
from gecko.physics.ride.rig import WALKING_M_S
from gecko.reference.kinds import Tyre
from gecko.reference.tables import surface

USUAL_SHARE = 0.8
"""Aimed speed of a stretch that says nothing: a share of the level top speed there at half charge. [1]"""

STANDS_M_S = 0.1
"""What goes no faster than this stands. [m/s] Source: this project's planning value."""

SHIPPED: tuple[Course, ...] = (
    Course(name="Lawn laps", segments=[Segment(surface="short grass", length_m=60.0, share=USUAL_SHARE, stop_s=8.0)]),
    Course(name="Pavement cruise", segments=[Segment(surface="paving", length_m=100.0, share=USUAL_SHARE)]),
    Course(
        name="Hill park",
        segments=[
            Segment(surface="packed dirt", grade=0.08, length_m=40.0, share=USUAL_SHARE),
            Segment(surface="packed dirt", length_m=40.0, share=USUAL_SHARE),
            Segment(surface="packed dirt", grade=-0.08, length_m=40.0, coast=True),
        ],
    ),
)
"""Stop and go on grass, steady on paving, up and down a bank."""


def _usual_top_m_s(machine: Machine) -> NDArray[np.float64]:
    """The level top speed shares of a course are taken of: that at half charge. [m/s]

    Packs that rest below the controller's low cut-off by then would be asked for no speed, and stand for ever; who rides them sets out as fast
    as full packs go, until the cut-off ends it; and who cannot move at all means to walk.
    """
    half, full = (np.asarray(top_speed(machine, machine.source(charge), machine.motor_cool)) for charge in (0.5, 1.0))
    best = np.where(half < WALKING_M_S, np.maximum(half, full), half)
    return np.where(best < STANDS_M_S, WALKING_M_S, best)


def legs_of(machine: Machine, course: Course, ground: Ground, tyre: Tyre) -> tuple[Leg, ...]:
    """A course's legs for a machine; aimed speeds in m/s [m/s].

    Where a stretch lies on other ground than the setup, the table's figures of that ground apply, off by the same share as
    those of the setup's own ground (a measured or sampled tyre stays itself). Without a controller the pedal is down all along.
    """
    own_rolling, own_friction = surface(ground.surface, tyre)
    kinds = sorted({segment.surface or ground.surface for segment in course.segments})
    roll: dict[str, Number] = {}
    grip: dict[str, Number] = {}
    for kind in kinds:
        rolling, friction = surface(kind, tyre)
        roll[kind] = machine.vehicle.rolling_resistance * (rolling / own_rolling)
        grip[kind] = machine.vehicle.friction * (friction / own_friction)
    direct = machine.control.kind == "none"
    tops: dict[str, Number] = {}
    if not direct and any(s.speed_m_s is None and s.throttle is None and not s.coast for s in course.segments):
        stacked = np.stack([np.broadcast_to(roll[kind], np.shape(machine.vehicle.mass_kg)) for kind in kinds])
        there = replace(machine, vehicle=replace(machine.vehicle, rolling_resistance=stacked))
        tops = dict(zip(kinds, _usual_top_m_s(there), strict=True))

    def leg(segment: Segment) -> Leg:
        kind = segment.surface or ground.surface
        aimed: Number | None = None
        if not direct and segment.throttle is None and not segment.coast:
            aimed = segment.speed_m_s if segment.speed_m_s is not None else (segment.share or USUAL_SHARE) * tops[kind]
        return Leg(
            length_m=segment.length_m,
            time_s=segment.time_s,
            grade=segment.grade,
            rolling=roll[kind],
            friction=grip[kind],
            aimed_m_s=aimed,
            throttle=1.0 if direct else segment.throttle or 1.0,
            coasts=segment.coast,
            stop_s=segment.stop_s,
        )

    return tuple(leg(segment) for segment in course.segments)
