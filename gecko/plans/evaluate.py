"""The front door: a setup evaluated at its central values."""

from __future__ import annotations

from typing import Literal

import numpy as np

from gecko.analysis.guard import guard_level_v
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import (
    BankOut,
    BaselineOut,
    Curves,
    Evaluation,
    Finding,
    GapOut,
    OneMoreOut,
    Outcome,
    Stage,
)
from gecko.common.figures import Figure, Number
from gecko.document.context import Context
from gecko.document.parts.pack import REST_FULL_PER_CELL_V, Pack, another, as_kind
from gecko.document.setup import MOST_IN_SERIES, MOST_ROWS, Bank, Setup
from gecko.machine.caps import grown_up
from gecko.machine.resolve import Resolved
from gecko.physics.heat.motor import WINDING_STOP_C
from gecko.physics.road.forces import turn_speeds
from gecko.plans.curves import build_curves
from gecko.plans.standing import ratio
from gecko.plans.trail import build_trail, held_back
from gecko.rules.looks import survey
from gecko.rules.registry import run_checks

Basis = Literal["measured", "nameplate", "assumed"]


def evaluate(setup: Setup, context: Context | None = None) -> Evaluation:
    """Evaluate a setup at its central values: trail, outcome, findings, curves. A draft may lack any part.

    >>> evaluate(Setup()).outcome is None
    True
    """
    a = Analysis(setup, context)
    findings = by_weight([found.finding for found in run_checks(a)])
    stations, weak = build_trail(a, findings)
    gaps = [GapOut(path=g.path, message=g.message, kind=g.kind, value=g.value, unit=g.unit) for g in a.resolved.gaps]
    return Evaluation(
        gaps=gaps,
        bank=_bank(a),
        outcome=_outcome(a) if a.machine is not None else None,
        baseline=_baseline(a),
        trail=stations,
        weak_link=weak,
        held_back=held_back(a, stations),
        findings=findings,
        curves=build_curves(a) if a.machine is not None else Curves(),
        survey=list(survey(a)),
        rider_grown_up=grown_up(setup.rider),
        openings=openings(findings),
        ready=a.machine is not None and not any(f.gate in ("plan", "power") for f in findings) and not any(g.kind == "missing" for g in gaps),
    )


_HURTS: tuple[Stage, ...] = ("drive", "protect", "power", "hookup", "prove", "survey", "care")
"""Cautions in the order in which they can hurt: who rides first, then fire, then the packs. This project's choice."""


def by_weight(findings: list[Finding]) -> list[Finding]:
    """The same findings with the cautions that matter most before the others: by what they can hurt, then by how far they are over."""
    return sorted(findings, key=lambda f: (_HURTS.index(f.stage), -ratio(f.asked, f.stands)) if f.severity == "caution" else (-1, 0.0))


_NOTHING: dict[Stage, str] = {
    "power": "These packs stand what is asked of them: nothing to do here.",
    "protect": "Fuse and wire fit each other, the load and a short: nothing to do here.",
    "drive": "Speed, stopping and heat are within their limits: nothing to do here.",
}


def _mid(sentence: str) -> str:
    """A sentence as it goes on after a colon."""
    return sentence if sentence[:2].isupper() else sentence[:1].lower() + sentence[1:]


def openings(findings: list[Finding]) -> dict[Stage, str]:
    """What to do at each of the planning stages, in one sentence."""
    found: dict[Stage, str] = {}
    for stage, nothing in _NOTHING.items():
        here = [f for f in findings if f.stage == stage]
        stops = [f for f in here if f.gate == "plan"]
        later = [f for f in here if f.gate in ("power", "ride")]
        cautions = [f for f in here if f.severity == "caution"]
        if stops:
            more = f" {len(stops) - 1} more after it." if len(stops) > 1 else ""
            found[stage] = f"First: {_mid(stops[0].instruction)}{more}"
        elif later:
            found[stage] = f"Nothing stops the plan here. Before {'the first power' if later[0].gate == 'power' else 'the first ride'}: {_mid(later[0].instruction)}"
        elif cautions:
            found[stage] = f"Nothing stops it here. Mind: {_mid(cautions[0].instruction)}"
        else:
            found[stage] = nothing
    return found


def _bank(a: Analysis) -> BankOut | None:
    bank = a.setup.bank
    if bank is None:
        return None
    rows = bank.rows
    nominal = a.nominal_v or 0.0
    model = a.machine.bank if a.machine else None
    source = a.half if model else None
    limits = a.limits if model else None
    return BankOut(
        nominal_v=nominal,
        full_v=a.full_v or 0.0,
        empty_v=max(sum(u.empty_v for u in row.units) for row in rows),
        rest_full_v=max(sum(_rest_full(u) for u in row.units) for row in rows),
        guard_v=guard_level_v(bank),
        capacity_ah=bank.holds_ah,
        energy_wh=nominal * bank.holds_ah,
        resistance_ohm=float(source.resistance_ohm) if source else 0.0,
        peak_10s_a=_maybe(limits.peak_10s_a) if limits else None,
        peak_at_most=limits is not None and limits.peak_at_most,
        continuous_a=_maybe(limits.continuous_a) if limits else None,
        trip_a=_maybe(limits.trip_a) if limits else None,
        rows=len(rows),
        units_v=[[unit.nominal_v for unit in row.units] for row in rows],
        alike=all(as_kind(unit) == as_kind(rows[0].units[0]) for row in rows for unit in row.units),
        another=[[another(unit) for unit in row.units] for row in rows],
        one_more_in_series=_one_more_in_series(a.resolved.figures, bank),
        one_more_row_ah=Bank(rows=[*rows, rows[-1]]).holds_ah if len(rows) < MOST_ROWS else bank.holds_ah,
        sag_at_peak_v=float(a.peak_a * a.half.resistance_ohm) if model else None,
    )


def _one_more_in_series(figures: dict[str, Figure], bank: Bank) -> OneMoreOut | None:
    if any(len(row.units) >= MOST_IN_SERIES for row in bank.rows):
        return None
    last = [row.units[-1] for row in bank.rows]
    full = max(row.full_v + pack.full_v for row, pack in zip(bank.rows, last, strict=True))
    stands = figures.get("/controller/max_v")
    return OneMoreOut(
        nominal_v=max(sum(unit.nominal_v for unit in (*row.units, pack)) for row, pack in zip(bank.rows, last, strict=True)),
        full_v=full,
        controller_v=stands.value if stands else None,
        refused=stands is not None and full > stands.value,
    )


def _rest_full(unit: Pack) -> float:
    return float(unit.cells_in_series * REST_FULL_PER_CELL_V[unit.chemistry])


def _maybe(value: Number | None) -> float | None:
    return None if value is None else float(value)


_BEHIND = {
    "top_speed_m_s": ("/motor/volts_v", "/motor/speed_rpm", "/motor/no_load_rpm", "/motor/kv_rpm_per_v", "/drivetrain/ratio", "/wheel/diameter_m"),
    "run_time_s": ("capacity_ah", "/ground/rolling_resistance", "/vehicle/mass_kg"),
    "hill_grade": ("/vehicle/mass_kg", "/rider/mass_kg", "/motor/power_w", "/drivetrain/ratio"),
    "peak_a": ("/controller/battery_limit_a", "/motor/power_w", "resistance_ohm"),
    "lowest_v": ("resistance_ohm",),
    "motor_20min_c": ("/motor/power_w", "/motor/efficiency", "/motor/mass_kg"),
}
_WEAKNESS = {"measured": 0, "nameplate": 1, "assumed": 2}


def _bases(resolved: Resolved) -> dict[str, Basis]:
    """Weakest basis among the figures that mainly drive each outcome."""
    weakest: dict[str, Basis] = {}
    for path, figure in resolved.figures.items():
        # Packs are many and their figures are named by their last step; all others by their whole path.
        name = path.rsplit("/", 1)[-1] if path.startswith("/bank/") else path
        if _WEAKNESS[figure.basis] >= _WEAKNESS.get(weakest.get(name, "measured"), 0):
            weakest[name] = figure.basis
    found: dict[str, Basis] = {}
    for outcome, paths in _BEHIND.items():
        bases = [weakest[path] for path in paths if path in weakest]
        found[outcome] = max(bases, key=lambda basis: _WEAKNESS[basis]) if bases else "assumed"
    return found


def _outcome(a: Analysis) -> Outcome:
    ride, wheelie = a.ride, a.wheelie
    full_load, stalled = a.flat_out.reaches(WINDING_STOP_C), a.stalled.reaches(WINDING_STOP_C)
    speeds = a.speeds
    return Outcome(
        top_speed_m_s=float(speeds.course[0]),
        top_speed_half_m_s=float(speeds.course[1]),
        top_speed_low_m_s=float(speeds.course[2]),
        top_speed_grade_m_s=float(speeds.hill[0]),
        top_speed_grade_half_m_s=float(speeds.hill[1]),
        top_speed_grade_low_m_s=float(speeds.hill[2]),
        hill_grade_asked=a.setup.ground.hill_grade,
        limit_at_top=a.top_point.limit_name(),
        aimed_speed_m_s=float(ride.fastest_m_s),
        run_time_s=float(ride.run_time_s),
        distance_m=float(ride.distance_m),
        ends_by=ride.ends_by,
        wh_per_km=float(ride.wh_per_km),
        hill_grade=float(a.hill.grade),
        hill_ends_by=a.hill.ends_by,
        peak_a=float(a.peak_a),
        cruise_a=float(ride.mean_a),
        rms_a=a.rms_a,
        stall_a=float(a.stall_point.pack_a),
        lowest_v=float(a.lowest_v),
        sag_v=float(a.peak_a * a.half.resistance_ohm),
        motor_20min_c=float(np.asarray(a.warm_c)),
        winding_stop_s=float(ride.stop_s) if np.isfinite(ride.stop_s) else None,
        full_load_to_stop_s=full_load,
        stalled_to_stop_s=stalled,
        stop_m=float(a.stop.distance_m),
        tip_m_s=_maybe(a.tip_m_s),
        launch_s=float(a.launch.time_s[-1]),
        launch_rms_a=float(a.launch.rms_pack_a),
        starts_grade=float(a.starts_on.grade),
        slide_m_s=float(turn_speeds(a.m.vehicle)[1]),
        course=a.course.name,
        wheelie_margin=None if wheelie is None else wheelie.margin,
        cap_m_s=a.resolved.cap_m_s,
        bases=_bases(a.resolved),
    )


def _baseline(a: Analysis) -> BaselineOut | None:
    base = a.baseline
    if base is None:
        return None
    return BaselineOut(
        top_speed_m_s=float(base.top),
        run_time_s=float(base.ride.run_time_s),
        hill_grade=float(base.hill.grade),
        peak_a=float(base.peak_a),
        lowest_v=float(base.lowest_v),
        motor_20min_c=float(np.asarray(base.warm_c)),
        stop_m=float(base.stop.distance_m),
    )
