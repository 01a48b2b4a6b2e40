"""Checks of rider and ground: speed, launch, stop, turn, weight."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from gecko.analysis import Analysis
from gecko.checks.edits import figure, put
from gecko.checks.registry import Edit, Trip, rule
from gecko.words import q


def _limiter(a: Analysis, target: float) -> tuple[Edit, ...]:
    """A limiter mark that brings the top speed to `target` [m/s]: speed is nearly proportional to the duty."""
    if a.m.control.kind == "none":
        return ()
    now = a.setup.throttle.limiter_mark if a.setup.throttle and a.setup.throttle.limiter_mark else 1.0
    knob = a.resolved.knob
    mark = float(np.floor(knob.mark(knob.duty(now) * target / float(a.top)) * 100 * 0.99) / 100)
    if mark < 0.1:
        return ()

    def change(document: dict) -> None:  # type: ignore[type-arg]
        put("throttle/limiter_mark", mark)(document)
        put("throttle/limiter_reachable", False)(document)

    return (Edit(f"Limiter at mark {10 * mark:.1f} of 10, out of reach", change),)


@rule(
    "ride.cap",
    station="rider",
    stage="drive",
    principle="The rider's cap is for the rider, the machine and the place; local rules and the maker's limit come first.",
)
def cap(a: Analysis) -> Iterator[Trip]:
    limit = a.resolved.cap_m_s
    if limit is None:
        return
    fast = float(a.top)
    have = a.setup.throttle
    limited = have is not None and have.limiter_mark is not None
    if fast > limit * 1.005:
        yield Trip(
            "stop",
            "Faster than this rider should go",
            f"It reaches {q(fast, 'speed')}; the cap is {q(limit, 'speed')}" + (" with the limiter where it is." if limited else " and there is no limiter set."),
            "Set a limiter out of the rider's reach, or use fewer volts.",
            "/throttle/limiter_mark",
            _limiter(a, limit),
            place="speed",
        )
    elif limited and have is not None and have.limiter_reachable:
        yield Trip(
            "caution",
            "The rider can reach the limiter",
            f"Turned up, it goes faster than {q(limit, 'speed')}.",
            "Put the limiter where the rider cannot reach it.",
            "/throttle/limiter_reachable",
            (Edit("Put it out of reach", put("throttle/limiter_reachable", False)),),
            place="reach",
        )
    hill = a.setup.ground.hill_grade
    if hill > 0:
        rolled = float(a.speeds.downhill[0])
        if rolled > limit * 1.15 and rolled > fast * 1.02:
            yield Trip(
                "caution",
                "Downhill it rolls faster",
                f"Down the {100 * hill:.0f} % slope it rolls to {q(rolled, 'speed')}; a limiter does nothing there, the brake does.",
                "Keep to the flat with this rider, or walk the slope.",
                "/ground/hill_grade",
                (Edit("Ride on the flat only", put("ground/hill_grade", 0.0)),),
                place="downhill",
            )


@rule("ride.wheelie", station="wheels", stage="drive", principle="A launch must not lift the front.")
def wheelie(a: Analysis) -> Iterator[Trip]:
    vehicle = a.m.vehicle
    if vehicle.driven_axle != "rear":
        return
    largest = float(np.max(a.launch.acceleration_m_s2))
    lifts = 9.81 * float(vehicle.com_ahead_of_rear_m) / float(vehicle.com_height_m)
    if largest < lifts:
        return
    rider = a.setup.rider
    child = rider is not None and rider.age_years is not None and rider.age_years < 14
    edits: tuple[Edit, ...] = ()
    if a.m.control.phase_limit_a is not None:
        lower = float(int(float(a.m.control.phase_limit_a) * lifts / largest * 0.85))
        edits = (Edit(f"Set the motor-side limit to {lower:.0f} A", put("controller/phase_limit_a", figure(lower))),)
    yield Trip(
        "stop" if child else "caution",
        "A launch lifts the front wheel",
        f"Full throttle gives {largest:.1f} m/s²; above {lifts:.1f} m/s² the front comes up.",
        "Soften the start, limit the motor's amps, or gear it longer.",
        "/controller/phase_limit_a",
        edits,
    )


@rule("ride.stop", station="rider", stage="drive", principle="New speed needs new brakes.")
def stop_distance(a: Analysis) -> Iterator[Trip]:
    base = a.baseline
    if base is None:
        return
    share = float(a.stop.distance_m) / float(base.stop.distance_m)
    if share <= 1.5:
        return
    yield Trip(
        "stop" if share > 2.5 else "caution",
        "It needs much more room to stop",
        f"From {q(float(a.top), 'speed')} it takes {q(float(a.stop.distance_m), 'length')} to stand; as found it took {q(float(base.stop.distance_m), 'length')}.",
        "Fit brakes that match the speed, or limit the speed.",
        "/vehicle/brake",
        (
            *_limiter(a, float(a.top) / np.sqrt(share) * 1.1),
            *_limiter(a, float(base.top) * 1.15),
            Edit("Fit disc brakes on both axles", lambda d: d["vehicle"].update(brake="disc", braked_axles="both")),
        ),
    )


@rule("ride.tip", station="rider", stage="drive", principle="On three or four wheels a fast turn tips.")
def tip(a: Analysis) -> Iterator[Trip]:
    tips = a.tip_m_s
    if tips is None or float(a.top) <= float(tips):
        return
    yield Trip(
        "caution",
        "A fast turn can tip it over",
        f"In a turn of 3 m radius it tips at {q(float(tips), 'speed')}; it goes {q(float(a.top), 'speed')}.",
        "Teach slow turns, or limit the speed.",
        "/throttle/limiter_mark",
        _limiter(a, float(tips)),
    )


@rule("ride.weight", station="rider", stage="survey", principle="Frame, wheels and brakes are made for so much weight.", needs="document")
def weight(a: Analysis) -> Iterator[Trip]:
    vehicle = a.setup.vehicle
    if vehicle is None or vehicle.max_load_kg is None:
        return
    load, limit = a.resolved.rider_mass_kg, vehicle.max_load_kg.value
    if load <= limit:
        return
    yield Trip(
        "stop" if load > 1.15 * limit else "caution",
        "Heavier than the maker allows",
        f"The rider weighs {q(load, 'mass')}; the maker's limit is {q(limit, 'mass')}.",
        "Only a lighter rider.",
        "/rider/mass_kg",
    )


@rule("ride.road", station="rider", stage="survey", principle="Where it may be ridden depends on local rules.", needs="document")
def road(a: Analysis) -> Iterator[Trip]:
    if a.setup.vehicle is None or a.context.is_baseline:
        return
    yield Trip(
        "note",
        "Private ground, helmet on",
        "Where such machines may be ridden depends on local rules; the maker's limits come first.",
        "Ride off the road, with a helmet, and with an adult near.",
    )
