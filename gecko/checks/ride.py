"""Checks of rider and ground: speed, launch, stop, turn, weight."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from gecko.analysis import Analysis
from gecko.checks.edits import figure, put
from gecko.checks.registry import Edit, Trip, rule
from gecko.parts.vehicle import Brake
from gecko.riding import Riding
from gecko.words import q, volts


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
    rolls_at = _rolls(a)
    if rolls_at is not None:
        rolled, where, edit = rolls_at
        if rolled > limit * 1.15 and rolled > fast * 1.02:
            yield Trip(
                "caution",
                "Downhill it rolls faster",
                f"{where} it rolls to {q(rolled, 'speed')}; a limiter does nothing there, the brake does.",
                "Keep to the flat with this rider, or walk the slope.",
                "/ground/hill_grade",
                (edit,),
                place="downhill",
            )


def _rolls(a: Analysis) -> tuple[float, str, Edit] | None:
    """The speed rolled downhill [m/s], where, and what would end it: on the course where it has a slope down, else on the ground's hill."""
    course = a.setup.course
    if course is not None:
        down = [segment.grade for segment in course.segments if segment.grade < 0.0]
        if not down:
            return None
        return float(a.ride.first_speed_m_s), f"On {course.name}, {-100 * min(down):.0f} % down,", Edit("Ride on the flat only", put("course", None))
    hill = a.setup.ground.hill_grade
    return (float(a.speeds.downhill[0]), f"Down the {100 * hill:.0f} % slope", Edit("Ride on the flat only", put("ground/hill_grade", 0.0))) if hill > 0 else None


@rule("ride.wheelie", station="wheels", stage="drive", principle="A launch must not lift the front.")
def wheelie(a: Analysis) -> Iterator[Trip]:
    strongest, mode = _strongest(a)
    found = strongest.wheelie
    if found is None or found.margin > 1.0:
        return
    rider = a.setup.rider
    child = rider is not None and rider.age_years is not None and rider.age_years < 14
    edits: list[Edit] = []
    if a.m.control.phase_limit_a is not None:
        lower = float(int(float(strongest.stall_point.motor_a) * (found.share or found.margin) * 0.97))
        edits.append(Edit(f"Set the motor-side limit to {lower:.0f} A", put("controller/phase_limit_a", figure(lower))))
    if mode:
        edits.append(Edit("Lock the mode in use", put("controller/modes_locked", True)))
    largest = found.lifts_m_s2 / found.margin
    share = f" Below {100 * found.share:.0f} % of the motor amps it stays down." if found.share is not None else ""
    yield Trip(
        "stop" if child else "caution",
        "A launch lifts the front wheel",
        f"Full throttle{mode} gives {largest:.1f} m/s²; above {found.lifts_m_s2:.1f} m/s² the front comes up.{share}",
        "Soften the start, limit the motor's amps, or gear it longer.",
        "/controller/phase_limit_a",
        tuple(edits),
    )


def _strongest(a: Analysis) -> tuple[Riding, str]:
    """The setup in the strongest mode the rider can choose, and words for it where that is another than the one in use."""
    control = a.setup.controller
    if control is None or not control.modes or control.modes_locked:
        return a, ""
    best = max(control.modes, key=lambda mode: (mode.current, mode.duty))
    used = next((mode for mode in control.modes if mode.name == control.mode), None)
    if used is None or (used.current, used.duty) >= (best.current, best.duty):
        return a, ""
    other = Riding(a.setup.model_copy(update={"controller": control.model_copy(update={"mode": best.name})}), a.context)
    return other, f" in mode {best.name}, which the rider can choose,"


@rule("ride.stop", station="rider", stage="drive", principle="New speed needs new brakes.")
def stop_distance(a: Analysis) -> Iterator[Trip]:
    yield from _brake_kind(a)
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


BRAKE_FOR_M_S: dict[Brake, float] = {"gearbox drag": 3.0, "drum or band": 7.0, "rim": 9.0, "disc": math.inf}
"""Up to which speed a kind of brake is enough; planning values of this project. [m/s]"""


def _brake_kind(a: Analysis) -> Iterator[Trip]:
    """A brake takes up the energy of the speed, and fades when it is too much."""
    kind, top = a.brake_kind, float(a.top)
    most = BRAKE_FOR_M_S[kind]
    if top <= most or a.context.is_baseline:
        return
    next_kind = next(name for name, speed in BRAKE_FOR_M_S.items() if speed >= top)
    words = "Its gearbox drag" if kind == "gearbox drag" else f"Its {kind} brake"
    yield Trip(
        "caution",
        "The brake is made for less",
        f"{words} is enough up to about {q(most, 'speed')}; it goes {q(top, 'speed')}.",
        f"Fit a {next_kind} brake, or limit the speed.",
        "/vehicle/brake",
        (Edit(f"Fit a {next_kind} brake", put("vehicle/brake", next_kind)), *_limiter(a, most)),
        place="kind",
    )


COIL_SHARE = 0.15
"""A coil lets go on volts up to this far from its own. [1]"""


@rule(
    "ride.brake.electric",
    station="rider",
    stage="drive",
    principle="A brake that grips without current is a parking brake: without it another must hold.",
    needs="document",
)
def brake_electric(a: Analysis) -> Iterator[Trip]:
    vehicle = a.setup.vehicle
    if vehicle is None or vehicle.fail_safe_brake is None:
        return
    if vehicle.fail_safe_brake != "held by power":
        if vehicle.parking_brake:
            return
        yield Trip(
            "stop",
            "Nothing holds it parked",
            f"The electric brake is {vehicle.fail_safe_brake}; on a slope it rolls off, with or without the rider.",
            "Fit another parking brake, or let the electric one work again.",
            "/vehicle/parking_brake",
            (
                Edit("Another parking brake is fitted", put("vehicle/parking_brake", True)),
                Edit("The electric brake works again", put("vehicle/fail_safe_brake", "held by power")),
            ),
            place="parked",
        )
        return
    coil, bank_v = vehicle.fail_safe_brake_v, a.nominal_v
    if coil is None or bank_v is None:
        return
    fed = [bank_v, *(aux.converter.output_v.value for aux in a.setup.auxiliaries if aux.converter is not None)]
    if any(abs(volts_v - coil.value) <= COIL_SHARE * coil.value for volts_v in fed):
        return
    yield Trip(
        "stop",
        "The electric brake is not fed",
        f"Its coil needs {volts(coil.value)} to let go; the bank has {volts(bank_v)} and no converter gives that. It drags or burns.",
        f"Feed it {volts(coil.value)} from a converter behind the cut-off.",
        "/vehicle/fail_safe_brake_v",
        place="coil",
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
