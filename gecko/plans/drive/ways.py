"""Driving at depth: everything the Drive stage shows beside the evaluation."""

from __future__ import annotations

from collections.abc import Sequence

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.document.context import Context
from gecko.document.parts.rider import Rider
from gecko.document.setup import Setup
from gecko.machine.resolve import BRAKE_M_S2
from gecko.physics.motion.hill import Hill
from gecko.physics.road.forces import VehicleModel, stop, turn_speeds
from gecko.plans.drive.gears import GearOut, gears
from gecko.plans.drive.heat import HeatOut, heat_out
from gecko.plans.drive.riders import CAP_NOTE, RiderMark, rider_out
from gecko.plans.drive.sprockets import SprocketsOut, sprockets
from gecko.plans.drive.traces import LaunchOut, RideOut, launch_out, ride_out
from gecko.plans.drive.what_if import TriedOut, what_ifs

TURNS_M = (2.0, 3.0, 5.0, 8.0)
"""Radii of turns that are told. [m]"""


class StopOut(Out):
    """Stopping from top speed with a kind of brake on some axles; SI."""

    brake: str
    axles: str
    in_use: bool
    deceleration_m_s2: float
    distance_m: float
    against_stock: float | None
    """Over the distance of the machine as found."""


class TurnOut(Out):
    """A turn of a radius: speed at which it slides, and at which three or more wheels tip. [m, m/s]"""

    radius_m: float
    slides_m_s: float
    tips_m_s: float | None


class HillsOut(Out):
    """Grades (rise over run) it holds and starts on, by what ends each."""

    pace_m_s: float
    motor_grade: float
    traction_grade: float
    tips_back_grade: float
    holds_grade: float
    holds_ends_by: str
    starts_grade: float
    starts_ends_by: str


class DrivePlan(Out):
    """The Drive stage."""

    known: bool
    """Whether there is enough to compute with; else all lists are empty."""
    launch: LaunchOut | None = None
    ride: RideOut | None = None
    heat: HeatOut | None = None
    gears: list[GearOut] = []
    hills: HillsOut | None = None
    stops: list[StopOut] = []
    turns: list[TurnOut] = []
    riders: list[RiderMark] = []
    cap_note: str = CAP_NOTE
    reaction_s: float = 1.0


class ChangesOut(Out):
    """Single changes tried, or none while it does not move."""

    tried: TriedOut | None


class ChooserOut(Out):
    """Every sprocket one can buy, or none while it does not move."""

    sprockets: SprocketsOut | None


def drive_plan(setup: Setup, context: Context | None = None, riders: Sequence[Rider] = ()) -> DrivePlan:
    """Launch, ride, heat, gears, hill, stop, turn and riders of a setup. riders: those of the garage beside those who ride this setup."""
    a = Analysis(setup, context)
    if not _moves(a):
        return DrivePlan(known=False)
    own = [*([setup.rider] if setup.rider is not None else []), *setup.also]
    everyone = [*own, *(rider for rider in riders if all(rider.name != seen.name for seen in own))]
    return DrivePlan(
        known=True,
        launch=launch_out(a),
        ride=ride_out(a),
        heat=heat_out(a),
        gears=gears(a),
        hills=_hills(a.hill, a.starts_on),
        stops=_stops(a),
        turns=_turns(a.m.vehicle),
        riders=[rider_out(a, rider) for rider in everyone],
        reaction_s=a.resolved.reaction_s,
    )


def drive_changes(setup: Setup, context: Context | None = None) -> ChangesOut:
    """What holds a setup back, by evaluating every single change."""
    a = Analysis(setup, context)
    return ChangesOut(tried=what_ifs(a) if _moves(a) else None)


def drive_sprockets(setup: Setup, context: Context | None = None) -> ChooserOut:
    """Which sprocket to order, by evaluating each."""
    a = Analysis(setup, context)
    return ChooserOut(sprockets=sprockets(a) if _moves(a) else None)


def _moves(a: Analysis) -> bool:
    return a.machine is not None and float(a.level_top) >= 0.05


def _hills(holds: Hill, starts: Hill) -> HillsOut:
    return HillsOut(
        pace_m_s=float(holds.pace_m_s),
        motor_grade=float(holds.motor_grade),
        traction_grade=float(holds.traction_grade),
        tips_back_grade=float(holds.tips_back_grade),
        holds_grade=float(holds.grade),
        holds_ends_by=holds.ends_by,
        starts_grade=float(starts.grade),
        starts_ends_by=starts.ends_by,
    )


def _stops(a: Analysis) -> list[StopOut]:
    """The brake in use first, then every kind on the rear and on both axles."""
    known, base = a.resolved, a.baseline
    stock = None if base is None else float(base.stop.distance_m)
    own = next(name for name, value in BRAKE_M_S2.items() if value == known.brake_m_s2)
    pairs = [(own, known.braked_axles), *((name, axles) for name in BRAKE_M_S2 for axles in ("rear", "both") if (name, axles) != (own, known.braked_axles))]
    found = []
    for name, axles in pairs:
        if name == "gearbox drag" and axles == "both":
            continue
        way = stop(a.m.vehicle, a.top, BRAKE_M_S2[name], known.reaction_s, axles)
        distance = float(way.distance_m)
        found.append(
            StopOut(
                brake=name,
                axles=axles,
                in_use=(name, axles) == pairs[0],
                deceleration_m_s2=float(way.deceleration_m_s2),
                distance_m=distance,
                against_stock=distance / stock if stock else None,
            )
        )
    return found


def _turns(vehicle: VehicleModel) -> list[TurnOut]:
    found = []
    for radius in TURNS_M:
        tips, slides = turn_speeds(vehicle, radius)
        found.append(TurnOut(radius_m=radius, slides_m_s=float(slides), tips_m_s=None if tips is None else float(tips)))
    return found
