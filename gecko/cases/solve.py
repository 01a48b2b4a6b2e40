"""Solved machines: computes everything the `expected` of a case file holds, in its shape."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from gecko.cases.fuse_and_wire import fuse_and_wire
from gecko.cases.load import Case, full_charge_v, load_case
from gecko.common.documents import Document
from gecko.physics.electric.bank import bank_limits, rated_ah
from gecko.physics.electric.joining import join_rows
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import OperatingPoint
from gecko.physics.heat.motor import HeatRun
from gecko.physics.motion.duty import flat_out, stalled
from gecko.physics.motion.hill import hill
from gecko.physics.motion.launch import Launch, launch
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import top_speed
from gecko.physics.ride.lap import stop_and_go_lap
from gecko.physics.ride.record import Ride
from gecko.physics.ride.rides import Moment, steady_ride
from gecko.physics.road.forces import (
    motor_a_for_force,
    pitch_over,
    resistance_n,
    static_grip_n,
    stop,
    turn_speeds,
    wheel_force_n,
    wheelie_acceleration,
)

CHARGES = {"s=1": 1.0, "s=0.5": 0.5, "s=0.2": 0.2}


def solve_case(document: Document) -> Document:
    """Everything a case's `expected` holds, computed by this core. `document` is a whole case file or its inputs."""
    case = load_case(document.get("inputs", document))
    machine = case.machine
    level = {name: _top_speed(machine, soc, 0.0) for name, soc in CHARGES.items()}
    graded = {name: _top_speed(machine, soc, 0.05) for name, soc in CHARGES.items()}
    full_speed = level["s=1"]["speed_m_s"]
    full = machine.source(1.0)
    run = launch(machine, full, machine.motor_cool, 0.9 * full_speed)
    ride, first = _cruise(case)
    result = {
        "derived": _derived(case),
        "operating_points": _operating_points(case),
        "top_speed_level": level,
        "top_speed_on_5_percent": graded,
        "launch_0_to_90_percent": _launch(run),
        "traction_and_wheelie": _traction(machine, run),
        "hill": _hill(machine, full_speed),
        "stop": _stop(case, full_speed),
        "turn_radius_3_m": dict(zip(("tip_over_m_s", "slide_m_s"), turn_speeds(machine.vehicle), strict=True)),
        "cruise": _cruise_result(case, ride, first),
        "stop_and_go_lap": _laps(case),
        "motor_heat": {
            "full_throttle_level": _heat(flat_out(machine, full)),
            "stalled_full_throttle": _heat(stalled(machine, full)),
        },
        "bank_current_limits": _limits(machine, run, ride),
        "fuse_and_wire": fuse_and_wire(case, run),
    }
    return {name: _plain(item) for name, item in result.items()}


def _plain(value: object) -> object:
    if isinstance(value, Mapping):
        return {key: _plain(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(item) for item in value]
    if isinstance(value, np.bool_ | bool):
        return bool(value)
    if isinstance(value, np.ndarray):
        return _plain(value.tolist())
    if isinstance(value, np.floating | float):
        return float(f"{float(value):.9g}") if np.isfinite(value) else None
    return int(value) if isinstance(value, np.integer) else value


def _motor(motor: MotorConstants) -> Document:
    return {
        "resistance_ohm": motor.resistance_ohm,
        "k_v_s_per_rad": motor.k_v_s,
        "no_load_current_a": motor.no_load_a,
    }


def _derived(case: Case) -> Document:
    machine = case.machine
    bank = {}
    for name, soc in CHARGES.items():
        source = machine.source(soc)
        bank[name] = {"open_volts_v": source.open_v, "resistance_ohm": source.resistance_ohm}
    thermal = machine.thermal
    derived: Document = {
        "bank": bank,
        "bank_rated_ah": rated_ah(machine.bank),
        "full_charge_volts_v": full_charge_v(machine.bank),
        "path_ohm": machine.path_ohm,
        "motor_each_at_25c": {
            **_motor(case.motor_each),
            "rated_current_a": case.motor_each.rated_a,
            "rated_copper_loss_w": case.motor_each.rated_copper_w,
            "rated_other_loss_w": case.motor_each.rated_other_w,
        },
        "motor_thermal_each": {
            "winding_j_per_k": thermal.winding_j_per_k,
            "case_j_per_k": thermal.case_j_per_k,
            "winding_to_case_k_per_w": thermal.winding_to_case_k_per_w,
            "case_to_air_k_per_w_still": thermal.case_to_air_k_per_w,
        },
        "motor_equivalent_at_ambient": _motor(machine.motor_cool),
    }
    if len(machine.bank.rows) > 1:
        full = machine.source(1.0)
        derived["row_share_full"] = {f"bank_current_{amps}a": {"volts_v": full.volts(amps), "row_currents_a": list(full.row_currents(amps))} for amps in (0, 10, 30)}
        extra = 0.005
        joined = join_rows(machine.bank.rows[0], machine.bank.rows[1], 1.0, 0.5, extra, machine.pack_c)
        derived["joining_row1_full_row2_half"] = {
            "first_current_a": joined.first_current_a,
            "charge_moved_ah": joined.charge_moved_ah,
            "time_to_2_percent_s": joined.time_to_2_percent_s,
            "soc_a_end": joined.soc_a_end,
            "soc_b_end": joined.soc_b_end,
            "leads_plus_fuses_ohm": extra,
        }
    return derived


def _point(point: OperatingPoint) -> Document:
    return {
        "motor_a": point.motor_a,
        "pack_a": point.pack_a,
        "controller_volts_v": point.controller_v,
        "duty": point.duty,
        "limit": point.limit_name(),
    }


def _operating_points(case: Case) -> list[Document]:
    """Six shares of the no-load speed at s = 1, computed at s = 1 and at s = 0.2; or the speeds a file asks for."""
    machine = case.machine
    asked = case.inputs.get("operating_point_requests")
    if asked is None:
        omega = machine.source(1.0).open_v / machine.motor_cool.k_v_s
        shares = (0.0, 0.15, 0.35, 0.55, 0.75, 0.9)
        asked = [{"soc": soc, "motor_speed_rad_s": share * omega} for soc in (1.0, 0.2) for share in shares]
    points = []
    for request in asked:
        speed = request["motor_speed_rad_s"] * machine.vehicle.wheel_radius_m / machine.vehicle.gear_ratio
        point = machine.full(machine.source(request["soc"]), machine.motor_cool, speed)
        points.append({"soc": request["soc"], "motor_speed_rad_s": request["motor_speed_rad_s"], **_point(point)})
    return points


def _top_speed(machine: Machine, soc: float, grade: float) -> Document:
    source, motor = machine.source(soc), machine.motor_cool
    speed = top_speed(machine, source, motor, grade)
    point = machine.full(source, motor, speed)
    return {"speed_m_s": speed, **_point(point), "bank_volts_v": source.volts(point.pack_a)}


def _launch(run: Launch) -> Document:
    return {
        "target_speed_m_s": run.speed_m_s[-1],
        "time_s": run.time_s[-1],
        "distance_m": run.distance_m[-1],
        "start_acceleration_m_s2": run.acceleration_m_s2[0],
        "start_traction_limited": run.slipping[0],
        "peak_pack_a": run.pack_a.max(),
        "peak_motor_a": run.motor_a.max(),
        "rms_pack_a": run.rms_pack_a,
    }


def _traction(machine: Machine, run: Launch) -> Document:
    vehicle, motor = machine.vehicle, machine.motor_cool
    point = machine.full(machine.source(1.0), motor, 0.0)
    force = wheel_force_n(vehicle, motor, point.motor_a, standing=True)
    grip = static_grip_n(vehicle)
    lifts_at = wheelie_acceleration(vehicle)
    largest = run.acceleration_m_s2.max()
    lifting = None
    if lifts_at is not None:
        needed = vehicle.effective_mass_kg * lifts_at + resistance_n(vehicle, 0.0)
        lifting = motor_a_for_force(vehicle, motor, needed) / point.motor_a
    return {
        "full_throttle_force_at_rest_n": force,
        "static_grip_at_rest_n": grip,
        "grip_over_force": grip / force,
        "wheelie_acceleration_m_s2": lifts_at,
        "largest_launch_acceleration_m_s2": largest,
        "wheelie_margin": None if lifts_at is None else lifts_at / largest,
        "motor_current_share_at_which_front_lifts": lifting,
        "front_lifts": lifts_at is not None and bool(largest >= lifts_at),
    }


def _hill(machine: Machine, full_speed: float) -> Document:
    full, motor = machine.source(1.0), machine.motor_cool
    held = hill(machine, full, motor, min(1.2, full_speed / 2.0))
    start = hill(machine, full, motor, 0.0)
    return {
        "pace_m_s": held.pace_m_s,
        "steepest_grade": held.grade,
        "ends_by": held.ends_by,
        "motor_alone_grade": held.motor_grade,
        "traction_alone_grade": held.traction_grade,
        "tips_back_grade": held.tips_back_grade,
        "motor_a": held.point.motor_a,
        "pack_a": held.point.pack_a,
        "cannot_start_grade": start.grade,
        "cannot_start_by": start.ends_by,
    }


def _stop(case: Case, full_speed: float) -> Document:
    given, vehicle = case.inputs["stop"], case.machine.vehicle
    found: Document = {"from_speed_m_s": full_speed, "pitch_over_m_s2": pitch_over(vehicle)}
    for name, axles in (("both_axles", "both"), ("rear_axle_only", "rear")):
        stopped = stop(vehicle, full_speed, given["brake_m_s2"], given["reaction_s"], axles)
        found[name] = {"deceleration_m_s2": stopped.deceleration_m_s2, "distance_m": stopped.distance_m}
    return found


def _cruise(case: Case) -> tuple[Ride, Moment]:
    course = case.inputs["course"]
    aimed = None if course["full_throttle"] else course["aimed_speed_m_s"]
    return steady_ride(case.machine, aimed, course["grade"])


def _cruise_result(case: Case, ride: Ride, first: Moment) -> Document:
    seconds, line, drawn = float(ride.run_time_s), ride.line, first.pack_a - float(case.machine.control.idle_a)
    duty = 1.0 if case.machine.control.kind == "none" else drawn / first.motor_a if first.motor_a > 0.0 else 0.0
    ends = [max(float(charge[-1]), 0.0) for charge in line.soc]
    point = OperatingPoint(first.motor_a, first.pack_a, first.controller_v, duty, first.limit)
    return {
        "first_moment": {"speed_m_s": first.speed_m_s, **_point(point)},
        "run_time_s": seconds,
        "distance_m": ride.distance_m,
        "ends_by": ride.ends_by,
        "pack_ah": ride.pack_ah,
        "energy_at_controller_wh": ride.energy_wh,
        "wh_per_km": ride.energy_wh / (ride.distance_m / 1000.0),
        "mean_pack_a": ride.pack_ah * 3600.0 / seconds,
        "rms_pack_a_hottest_ten_minutes": ride.rms_pack_a,
        "soc_end_by_unit": ends,
        "controller_volts_end_v": line.controller_v[-1],
        "winding_end_c": line.winding_end_c[-1],
        "winding_max_c": float(np.max(line.winding_c)),
        "case_end_c": line.case_c[-1],
        "time_to_130c_s": ride.caution_s if np.isfinite(ride.caution_s) else None,
    }


def _laps(case: Case) -> Document:
    lap = case.inputs["course"]["lap"]
    aimed = None if lap["full_throttle"] else lap["aimed_speed_m_s"]
    found = {}
    for name, soc in CHARGES.items():
        one = stop_and_go_lap(case.machine, case.machine.source(soc), lap["length_m"], aimed, lap["brake_m_s2"], lap["stand_s"])
        found[name] = {"rms_pack_a": one.rms_pack_a, "mean_pack_a": one.mean_pack_a, "lap_time_s": one.time_s}
    return found


def _heat(run: HeatRun) -> Document:
    reaches_stop = run.reaches(155.0)

    def at(time_s: float) -> list[float] | None:
        if reaches_stop is not None and reaches_stop <= time_s:
            return None
        pair = run.at(time_s)
        return None if pair is None else [float(pair[0]), float(pair[1])]

    return {
        "winding_case_at_600_s_c": at(600.0),
        "winding_case_at_1200_s_c": at(1200.0),
        "winding_reaches_130c_s": run.reaches(130.0),
        "winding_reaches_155c_s": reaches_stop,
    }


def _limits(machine: Machine, run: Launch, ride: Ride) -> Document:
    """Limits of a bank of one kind of row; a bank of unlike rows has none in this format."""
    if len(machine.bank.rows) != 1:
        return {}
    limits = bank_limits(machine.bank)
    found: Document = {"continuous_a": limits.continuous_a, "peak_10s_a": limits.peak_10s_a, "trip_a": limits.trip_a}
    if limits.trip_a is not None:
        above = float(run.seconds_above(limits.trip_a))
        stall = machine.full(machine.source(1.0), machine.motor_cool, 0.0)
        found |= {
            "launch_longest_time_above_trip_s": above,
            "launch_trips": above > limits.trip_delay_s,
            "stall_current_above_trip": bool(stall.pack_a > limits.trip_a),
        }
    found["peak_above_10s_limit"] = None if limits.peak_10s_a is None else bool(run.pack_a.max() > limits.peak_10s_a)
    found["cruise_rms_above_continuous"] = None if limits.continuous_a is None else bool(ride.rms_pack_a > limits.continuous_a)
    return found
