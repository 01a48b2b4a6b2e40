"""Lines over time and place: the launch, a round of the course, the whole ride, and where its energy goes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from gecko.curves import curve
from gecko.electric.operating_point import LIMITS
from gecko.evaluation import Curve, Out
from gecko.ride.courses import Leg
from gecko.ride.energy import PARTS
from gecko.ride.marched import course_ride
from gecko.ride.phase import Phase
from gecko.ride.record import Ride
from gecko.ride.round import Rider, ride_round
from gecko.riding import Riding


class LaunchMark(Out):
    """Seconds and metres from rest to a speed [m/s]."""

    speed_m_s: float
    time_s: float
    distance_m: float


class LongerOut(Out):
    """The front wheel with the rear wheel moved back by so much [m]: acceleration that lifts it over the largest of the launch."""

    longer_m: float
    wheelie_margin: float


class LaunchOut(Out):
    """Full throttle from rest, full packs, level. Lines over seconds."""

    marks: list[LaunchMark]
    time_s: float
    distance_m: float
    peak_a: float
    rms_a: float
    motor_peak_a: float
    largest_m_s2: float
    lifts_m_s2: float | None
    wheelie_margin: float | None
    wheelie_share: float | None
    """Share of the full motor current below which the front stays down."""
    slips_until_s: float | None
    longer: list[LongerOut]
    speed: Curve
    acceleration: Curve
    pack: Curve
    motor: Curve


def launch_out(a: Riding) -> LaunchOut:
    """The launch with its lines and marks."""
    run, wheelie = a.launch, a.wheelie
    target = float(run.speed_m_s[-1])
    marks = []
    for share in (0.25, 0.5, 0.75, 1.0):
        speed = share * target
        time, distance = (float(np.interp(speed, run.speed_m_s, trace)) for trace in (run.time_s, run.distance_m))
        marks.append(LaunchMark(speed_m_s=speed, time_s=time, distance_m=distance))
    slips = np.flatnonzero(run.slipping)
    longer = []
    if wheelie is not None:
        vehicle = a.m.vehicle
        for more in (0.0, 0.05, 0.10, 0.20):
            # The rear contact moves back: the centre of mass lies farther ahead of it, and the same push lifts less.
            lifts = vehicle.gravity_m_s2 * (float(vehicle.com_ahead_of_rear_m) + more) / float(vehicle.com_height_m)
            longer.append(LongerOut(longer_m=more, wheelie_margin=lifts * wheelie.margin / wheelie.lifts_m_s2))
    return LaunchOut(
        marks=marks,
        time_s=float(run.time_s[-1]),
        distance_m=float(run.distance_m[-1]),
        peak_a=float(a.peak_a),
        rms_a=float(run.rms_pack_a),
        motor_peak_a=float(np.max(run.motor_a)),
        largest_m_s2=float(np.max(run.acceleration_m_s2)),
        lifts_m_s2=None if wheelie is None else wheelie.lifts_m_s2,
        wheelie_margin=None if wheelie is None else wheelie.margin,
        wheelie_share=None if wheelie is None else wheelie.share,
        slips_until_s=float(run.time_s[slips[-1]]) if len(slips) else None,
        longer=longer,
        speed=curve(run.time_s[::2], run.speed_m_s[::2]),
        acceleration=curve(run.time_s[::2], run.acceleration_m_s2[::2]),
        pack=curve(run.time_s[::2], run.pack_a[::2]),
        motor=curve(run.time_s[::2], run.motor_a[::2]),
    )


class RoundOut(Out):
    """One round of the course at a charge, point by point: what happens where."""

    charge: float
    time_s: list[float]
    place_m: list[float]
    speed_m_s: list[float]
    pack_a: list[float]
    motor_a: list[float]
    volts_v: list[float]
    power_w: list[float]
    climb_m: list[float]
    doing: list[str]
    """What the rider does, or which limit holds at full throttle."""


class EnergyPart(Out):
    """A part of the ride's energy [Wh]; climbing and speed may give back."""

    name: str
    energy_wh: float
    share: float


class RideOut(Out):
    """The ride: how it ends, its rounds and lines, its energy."""

    course: str
    run_time_s: float
    distance_m: float
    ends_by: str
    rounds: float | None
    mean_a: float
    wh_per_km: float
    top_m_s: float
    mean_m_s: float
    end_volts_v: float
    round_lines: list[RoundOut]
    charge: Curve
    volts: Curve
    amps: Curve
    speed: Curve
    winding: Curve
    case: Curve
    energy: list[EnergyPart]
    balance: float
    """What all parts take over what cells, slopes down and lost speed give."""


def ride_out(a: Riding) -> RideOut:
    """The ride with its lines over time, one round at full, half and low charge, and where the energy goes."""
    ride, course = a.ride, a.setup.course
    end = float(ride.run_time_s)
    keep = np.asarray(ride.time_s) < end
    time = np.append(np.asarray(ride.time_s)[keep], end)

    def line(values: Any) -> Curve:
        return curve(time, np.interp(time, ride.time_s, np.broadcast_to(values, np.shape(ride.time_s))))

    legs, steady = (a.legs, False) if course is not None else ((_steady_leg(a),), True)
    split = course_ride(a.m, legs, Rider.fine(a.brake_m_s2, splits=True))
    energy = np.zeros(len(PARTS)) if split.energy_j is None else np.asarray(split.energy_j) / 3600.0
    given, took = _given_and_taken(energy)
    given = max(given, 1e-9)
    charge = np.mean(np.stack(ride.soc), axis=0)
    return RideOut(
        course=course.name if course is not None else "Steady",
        run_time_s=end,
        distance_m=float(ride.distance_m),
        ends_by=ride.ends_by,
        rounds=None if ride.rounds is None else float(ride.value_at_end(np.asarray(ride.rounds))),
        mean_a=float(ride.pack_ah * 3600.0 / max(end, 1e-9)),
        wh_per_km=float(ride.energy_wh / ride.distance_m * 1000.0) if ride.distance_m > 1 else 0.0,
        top_m_s=float(ride.first_speed_m_s),
        mean_m_s=float(ride.distance_m) / max(end, 1e-9),
        end_volts_v=float(ride.value_at_end(np.asarray(np.broadcast_to(ride.controller_v, np.shape(ride.time_s))))),
        round_lines=[] if steady else _rounds(a, ride, legs),
        charge=line(charge),
        volts=line(ride.controller_v),
        amps=line(ride.pack_a),
        speed=line(ride.speed_m_s),
        winding=line(ride.winding_c),
        case=line(ride.case_c),
        energy=[EnergyPart(name=name, energy_wh=float(part), share=float(part) / given) for name, part in zip(PARTS[1:], energy[1:], strict=True)],
        balance=took / given if took > 0.0 else 1.0,
    )


def _given_and_taken(energy: Any) -> tuple[float, float]:
    """What flows in and what flows out of the cells, the height and the speed, over a ride's `PARTS`, in their unit.

    Over a net descent with regeneration the cells take: what they give is then no measure of anything.
    """
    flows = np.concatenate([[-energy[0]], energy[1:]])
    return float(-flows[flows < 0.0].sum()), float(flows[flows > 0.0].sum())


STEADY_M = 400.0


def _steady_leg(a: Riding) -> Leg:
    """The steady ride of a setup without a course, as rounds of one stretch. [m]"""
    vehicle = a.m.vehicle
    return Leg(STEADY_M, None, a.setup.ground.grade, vehicle.rolling_resistance, vehicle.friction, a.aimed, 1.0, False, None)


def _rounds(a: Riding, ride: Ride, legs: Sequence[Leg]) -> list[RoundOut]:
    """A later round at full, half and low charge, at the temperatures the ride has there."""
    charge = np.min(np.stack(ride.soc), axis=0)
    lowest = float(np.interp(float(ride.run_time_s), ride.time_s, charge))
    levels = sorted({1.0, max(0.5, lowest), max(lowest, 0.02)}, reverse=True)
    warm = [np.interp([-level for level in levels], -charge, np.broadcast_to(trace, charge.shape)) for trace in (ride.winding_c, ride.case_c)]
    motor = a.m.motor.at(warm[0], warm[1])
    source = a.m.source(np.array(levels))
    rider = Rider.fine(a.brake_m_s2)
    start = np.zeros(len(levels))
    ridden = ride_round(a.m, source, [motor] * len(legs), legs, start, rider)
    if legs[-1].stop_s is None:
        ridden = ride_round(a.m, source, [motor] * len(legs), legs, ridden[-1][-1].speed_m_s[-1], rider)
    phases = [phase for leg in ridden for phase in leg]
    ohm = a.m.source_ohm(source)
    found = []
    for column, level in enumerate(levels):
        time = place = climb = 0.0
        lines: dict[str, list[Any]] = {name: [] for name in ("time", "place", "speed", "pack", "motor", "volts", "power", "climb", "doing")}
        for phase in phases:
            if float(phase.time_s[-1, column]) <= 1e-9:
                continue
            keep = np.unique(np.append(np.arange(0, len(phase.time_s), 3), len(phase.time_s) - 1))
            metres, pack = phase.distance_m[keep, column], phase.pack_a[keep, column]
            volts = float(source.open_v[column]) - pack * float(np.broadcast_to(ohm, (len(levels),))[column])
            lines["time"].extend((time + phase.time_s[keep, column]).tolist())
            lines["place"].extend((place + metres).tolist())
            lines["speed"].extend(phase.speed_m_s[keep, column].tolist())
            lines["pack"].extend(pack.tolist())
            lines["motor"].extend(phase.motor_a[keep, column].tolist())
            lines["volts"].extend(volts.tolist())
            lines["power"].extend((volts * pack).tolist())
            lines["climb"].extend((climb + metres * phase.leg.grade).tolist())
            lines["doing"].extend(_doing(phase, k, column) for k in keep.tolist())
            time, place = time + float(phase.time_s[-1, column]), place + float(metres[-1])
            climb += float(metres[-1]) * phase.leg.grade
        names = ("time", "place", "speed", "pack", "motor", "volts", "power", "climb")
        rounded = {name: [float(f"{value:.6g}") for value in lines[name]] for name in names}
        found.append(
            RoundOut(
                charge=level,
                time_s=rounded["time"],
                place_m=rounded["place"],
                speed_m_s=rounded["speed"],
                pack_a=rounded["pack"],
                motor_a=rounded["motor"],
                volts_v=rounded["volts"],
                power_w=rounded["power"],
                climb_m=rounded["climb"],
                doing=lines["doing"],
            )
        )
    return found


def _doing(phase: Phase, k: int, column: int) -> str:
    if phase.kind != "throttle":
        return {"hold": "holds its speed", "coast": "rolls", "brake": "brakes", "stand": "stands"}[phase.kind]
    return f"full throttle, {LIMITS[int(phase.limit[k, column])]}"
