"""Lines over time and place: the launch, a round of the course, the whole ride, and where its energy goes."""

from __future__ import annotations

import numpy as np

from gecko.analysis.riding import Riding
from gecko.answers.evaluation import Curve, Out
from gecko.common.figures import Array
from gecko.physics.electric.operating_point import LIMITS
from gecko.physics.ride.record import PARTS
from gecko.physics.ride.rides import NAMES, one_round
from gecko.plans.curves import curve


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
    ride, line = a.ride, a.ride.line
    energy = np.asarray(ride.energy_j) / 3600.0
    given, took = _given_and_taken(energy)
    given = max(given, 1e-9)

    def over_time(values: Array) -> Curve:
        return curve(line.time_s, values)

    return RideOut(
        course=a.course.name,
        run_time_s=float(ride.run_time_s),
        distance_m=float(ride.distance_m),
        ends_by=ride.ends_by,
        rounds=_rounds_ridden(a),
        mean_a=float(ride.mean_a),
        wh_per_km=float(ride.wh_per_km),
        top_m_s=float(ride.fastest_m_s),
        mean_m_s=float(ride.distance_m) / max(float(ride.run_time_s), 1e-9),
        end_volts_v=float(line.controller_v[-1]),
        round_lines=_rounds(a),
        charge=over_time(np.mean(np.stack(line.soc), axis=0)),
        volts=over_time(line.controller_v),
        amps=over_time(line.pack_a),
        speed=over_time(line.speed_m_s),
        winding=over_time(line.winding_c),
        case=over_time(line.case_c),
        energy=[EnergyPart(name=name, energy_wh=float(part), share=float(part) / given) for name, part in zip(PARTS[1:], energy[1:], strict=True)],
        balance=took / given if took > 0.0 else 1.0,
    )


def _rounds_ridden(a: Riding) -> float:
    """Rounds until the end, the last one by its way or, on a course of times, by its time. [1]"""
    whole = float(a.ride.rounds)
    if all(leg.length_m is not None for leg in a.legs):
        return float(a.ride.distance_m) / sum(leg.length_m or 0.0 for leg in a.legs)
    return whole


def _given_and_taken(energy: Array) -> tuple[float, float]:
    """What flows in and what flows out of the cells, the height and the speed, over a ride's `PARTS`, in their unit.

    Over a net descent with regeneration the cells take: what they give is then no measure of anything.
    """
    flows = np.concatenate([[-energy[0]], energy[1:]])
    return float(-flows[flows < 0.0].sum()), float(flows[flows > 0.0].sum())


MOST_SHOWN = 400
"""So many points of a round are shown at most. [1]"""


def _rounds(a: Riding) -> list[RoundOut]:
    """A later round at full, half and low charge, at the temperatures the ride has there."""
    line = a.ride.line
    lowest = float(min(charge[-1] for charge in line.soc))
    levels = sorted({1.0, max(0.5, lowest), max(lowest, 0.02)}, reverse=True)
    least = np.min(np.stack(line.soc), axis=0)
    found = []
    for level in levels:
        # The ride comes by this charge once; the other unit groups are where they are then.
        at = float(np.interp(-level, -least, line.time_s))
        soc = [float(np.clip(np.interp(at, line.time_s, charge), 0.02, 1.0)) for charge in line.soc]
        winding, case = (float(np.interp(at, line.time_s, trace)) for trace in (line.winding_end_c, line.case_c))
        points, count = one_round(a.m, a.legs, a.brake_m_s2, soc, winding, case)
        shown = np.unique(np.linspace(0, count - 1, min(count, MOST_SHOWN)).astype(int))
        found.append(
            RoundOut(
                charge=level,
                time_s=_told(points.time_s[shown]),
                place_m=_told(points.place_m[shown]),
                speed_m_s=_told(points.speed_m_s[shown]),
                pack_a=_told(points.pack_a[shown]),
                motor_a=_told(points.motor_a[shown]),
                volts_v=_told(points.volts_v[shown]),
                power_w=_told(points.volts_v[shown] * points.pack_a[shown]),
                climb_m=_told(points.climb_m[shown]),
                doing=[NAMES[int(points.doing[k])] or f"full throttle, {LIMITS[int(points.limit[k])]}" for k in shown],
            )
        )
    return found


def _told(values: Array) -> list[float]:
    """Values with six digits, as they go over the line, in their unit."""
    return [float(f"{value:.6g}") for value in values]
