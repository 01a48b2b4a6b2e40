"""What gets hot, how fast, and how long it takes to cool: windings, case, controller, leads; over the course and flat out."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from gecko.analysis.runs import Run
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Curve, Out
from gecko.document.context import Context
from gecko.document.parts.wire import size_of
from gecko.document.setup import Setup
from gecko.physics.electric.operating_point import OperatingPoint
from gecko.physics.heat.controller import ControllerThermal, controller_losses_w, thermal_of
from gecko.physics.heat.motor import WINDING_CAUTION_C, WINDING_STOP_C, step_two_nodes
from gecko.physics.heat.wire import settled_c, warmed_c
from gecko.physics.motion.machine import Machine
from gecko.physics.protection.ampacity import INSULATION_C, bundle_factor
from gecko.physics.ride.record import Ride
from gecko.plans.curves import curve

CONTROLLER_LIMIT_C = 85.0
"""Case of a controller at which most hold back or stop; planning value of this project. [°C]"""
TOUCH_C = 50.0
"""A hand can rest on a case up to about this. [°C]"""
_RESTS_S = np.concatenate([[0.0], np.geomspace(10.0, 4.0 * 3600.0, 120)])


class HotPart(Out):
    """A part: warmest over the course, where it settles flat out (None: nowhere below its limit), seconds there until the limit."""

    name: str
    limit_c: float
    course_c: float
    flat_out_c: float | None
    to_limit_s: float | None
    basis: str


class CoolDown(Out):
    """After the ride, standing: seconds until the winding has lost nine tenths of its rise, and until a hand can rest on the case."""

    start_winding_c: float
    start_case_c: float
    cool_s: float
    touch_s: float
    winding: Curve
    case: Curve


class DayOut(Out):
    """The same ride on another day: air, warmest winding over the course, run time, and seconds flat out to the winding's end."""

    ambient_c: float
    winding_c: float
    run_time_s: float
    ends_by: str
    full_load_to_stop_s: float | None


class HeatOut(Out):
    """Heat of the ride."""

    parts: list[HotPart]
    stalled_to_stop_s: float | None
    cool_down: CoolDown
    days: list[DayOut]
    flat_out_winding: Curve
    flat_out_case: Curve
    course_winding: Curve
    course_case: Curve
    caution_c: float = WINDING_CAUTION_C
    stop_c: float = WINDING_STOP_C


def heat_out(a: Analysis) -> HeatOut:
    """Everything the heat section shows."""
    line, flat = a.ride.line, a.flat_out
    parts = [
        HotPart(
            name="Motor winding",
            limit_c=WINDING_STOP_C,
            course_c=float(np.max(line.winding_c)),
            flat_out_c=float(flat.winding_c[-1]) if flat.reaches(WINDING_STOP_C) is None else None,
            to_limit_s=flat.reaches(WINDING_STOP_C),
            basis="Two nodes, winding and case; from the plate's losses",
        ),
        HotPart(
            name="Motor case and magnets",
            limit_c=120.0,
            course_c=float(np.max(line.case_c)),
            flat_out_c=float(flat.case_c[-1]),
            to_limit_s=None,
            basis="Ferrite magnets lose for good above 120 °C",
        ),
    ]
    if a.m.control.kind != "none":
        parts.append(_controller(a))
    parts.extend(_lead(a.ride, a.top_point, run, name) for run, name in ((a.run("main"), "Main lead"), (a.run("motor"), "Motor lead")) if run is not None)
    return HeatOut(
        parts=parts,
        stalled_to_stop_s=a.stalled.reaches(WINDING_STOP_C),
        cool_down=_cool_down(a.m, a.ride),
        days=[_day(a, air) for air in _airs(a.setup.ground.ambient_c)],
        flat_out_winding=curve(flat.time_s, flat.winding_c),
        flat_out_case=curve(flat.time_s, flat.case_c),
        course_winding=curve(line.time_s, line.winding_c),
        course_case=curve(line.time_s, line.case_c),
    )


def _controller(a: Analysis) -> HotPart:
    control = a.setup.controller
    assert control is not None
    limit_a = a.bank_limit_a
    thermal: ControllerThermal = thermal_of(a.m.control, limit_a, a.nominal_v or 24.0, bool(control.enclosed))
    air = a.m.ambient_c
    ride_w = controller_losses_w(a.m.control, float(a.ride.rms_pack_a), float(np.mean(a.ride.line.controller_v)))
    top_w = controller_losses_w(a.m.control, float(a.top_point.pack_a), float(a.top_point.controller_v))
    settled = air + thermal.settles_k(top_w)
    return HotPart(
        name="Controller",
        limit_c=CONTROLLER_LIMIT_C,
        course_c=air + thermal.rise_k(ride_w, float(a.ride.run_time_s)),
        flat_out_c=settled,
        to_limit_s=thermal.seconds_to(top_w, CONTROLLER_LIMIT_C - air),
        basis="Assumed: 60 K at its amp limit in moving air, half as much again closed in",
    )


def _lead(ride: Ride, top: OperatingPoint, run: Run, name: str) -> HotPart:
    size, row, air = size_of(run.lead), run.data.row, run.data.lead_air_c
    bundled = size.table_a(row) * bundle_factor(size.in_bundle(run.data.conductors))
    limit = INSULATION_C[row]
    flat_a = float(top.motor_a if run.id == "motor" else top.pack_a)
    settles = float(settled_c(size.area_m2, flat_a, bundled, limit, air))
    ride_a = run.amps_a
    return HotPart(
        name=name,
        limit_c=limit,
        course_c=warmed_c(size.area_m2, ride_a, bundled, limit, air, float(ride.run_time_s)),
        flat_out_c=settles if math.isfinite(settles) and settles < 400.0 else None,
        to_limit_s=None,
        basis="Copper's heat balance, settling at its rating at its ampacity",
    )


def _cool_down(machine: Machine, ride: Ride) -> CoolDown:
    """Standing in still air with no current: the two nodes alone."""
    thermal, air = machine.thermal, machine.ambient_c
    winding, case = float(ride.line.winding_end_c[-1]), float(ride.line.case_c[-1])
    w, c = step_two_nodes(winding - air, case - air, 0.0, 0.0, thermal, thermal.air_conductance(0.0) + 0.0 * _RESTS_S, _RESTS_S)

    def until(trace: NDArray[np.float64], level_k: float) -> float:
        return float(np.interp(-level_k, -trace, _RESTS_S)) if trace[0] > level_k else 0.0

    # The case first warms from the winding: what counts is when it is below for good.
    falling = np.maximum.accumulate(np.asarray(c)[::-1])[::-1]
    return CoolDown(
        start_winding_c=winding,
        start_case_c=case,
        cool_s=until(np.asarray(w), 0.1 * max(winding - air, 1e-6)),
        touch_s=until(falling, max(TOUCH_C - air, 1.0)),
        winding=curve(_RESTS_S, w + air),
        case=curve(_RESTS_S, c + air),
    )


def _airs(own: float) -> list[float]:
    return sorted({10.0, 25.0, 35.0, own})


def _day(a: Analysis, ambient_c: float) -> DayOut:
    other = a if ambient_c == a.setup.ground.ambient_c else Analysis(_on_a_day(a.setup, ambient_c), Context(house=a.context.house))
    ride = other.ride
    return DayOut(
        ambient_c=ambient_c,
        winding_c=float(np.max(ride.line.winding_c)),
        run_time_s=float(ride.run_time_s),
        ends_by=ride.ends_by,
        full_load_to_stop_s=other.flat_out.reaches(WINDING_STOP_C),
    )


def _on_a_day(setup: Setup, ambient_c: float) -> Setup:
    return setup.model_copy(update={"ground": setup.ground.model_copy(update={"ambient_c": ambient_c})})
