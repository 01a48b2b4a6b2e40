"""The one front door: evaluate a setup, its ranges, and the fixes of its findings."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from gecko.analysis.guard import guard_level_v
from gecko.analysis.riding import Rides
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import (
    BankOut,
    BaselineOut,
    CheckedFix,
    Curves,
    Ending,
    Evaluation,
    Finding,
    FindingFixes,
    GapOut,
    Outcome,
    Range,
    Ranges,
    Stage,
    Widens,
)
from gecko.document.context import Context
from gecko.document.parts.pack import REST_FULL_PER_CELL_V, Pack
from gecko.document.setup import Setup, load_setup
from gecko.machine.resolve import Resolved
from gecko.physics.heat.motor import WINDING_STOP_C
from gecko.physics.motion.top_speed import KNOBS
from gecko.physics.ride.record import END_NAMES, Ride
from gecko.physics.road.forces import turn_speeds, wheelie_acceleration
from gecko.plans.curves import build_curves, curve
from gecko.plans.standing import ratio
from gecko.plans.trail import build_trail, held_back
from gecko.rules.edits import copied
from gecko.rules.looks import survey
from gecko.rules.measuring import measuring
from gecko.rules.registry import Found, run_checks, still_found
from gecko.rules.tried import checked_fix

Basis = Literal["measured", "nameplate", "assumed"]


def evaluate(setup: Setup, context: Context | None = None) -> Evaluation:
    """Evaluate a setup at its central values: trail, outcome, findings, curves. A draft may lack any part.

    >>> evaluate(Setup()).outcome is None
    True
    """
    a = Analysis(setup, context)
    findings = by_weight([found.finding for found in run_checks(a)])
    stations, weak = build_trail(a, findings)
    gaps = [GapOut(path=g.path, message=g.message, kind=g.kind) for g in a.resolved.gaps]
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
        sag_at_peak_v=float(a.peak_a * a.half.resistance_ohm) if model else None,
    )


def _rest_full(unit: Pack) -> float:
    return float(unit.cells_in_series * REST_FULL_PER_CELL_V[unit.chemistry])


def _maybe(value: Any) -> float | None:
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


def ranges(setup: Setup, context: Context | None = None) -> Ranges:
    """5–95 % ranges of the outcomes from 200 seeded samples over all figures that matter. SI."""
    a = Analysis(setup, context, samples=True)
    if a.machine is None:
        return Ranges(outcomes={})
    values = {
        "top_speed_m_s": a.speeds.course[0],
        "top_speed_half_m_s": a.speeds.course[1],
        "top_speed_low_m_s": a.speeds.course[2],
        "top_speed_grade_m_s": a.speeds.hill[0],
        "run_time_s": a.ride.run_time_s,
        "hill_grade": a.hill.grade,
        "peak_a": a.peak_a,
        "lowest_v": a.lowest_v,
        "motor_20min_c": a.warm_c,
        "stop_m": a.stop.distance_m,
        "distance_m": a.ride.distance_m,
        "cruise_a": a.ride.mean_a,
        "wh_per_km": a.ride.wh_per_km,
        "stall_a": a.stall_point.pack_a,
        "sag_v": a.peak_a * a.half.resistance_ohm,
        "launch_s": a.launch.time_s[-1],
        "starts_grade": a.starts_on.grade,
        "tip_m_s": a.tip_m_s,
        "slide_m_s": turn_speeds(a.m.vehicle)[1],
        "wheelie_margin": _margins(a),
    }
    outcomes, widest = {}, {}
    causes = _causes(a.resolved)
    for name, samples in values.items():
        if samples is None:
            continue
        low, median, high = np.percentile(np.atleast_1d(samples), [5, 50, 95])
        outcomes[name] = Range(low=float(low), median=float(median), high=float(high))
        widest[name] = _widest(a.resolved, causes, samples)
    low_line = high_line = None
    if a.speeds.knob is not None:
        low_line, high_line = (curve(KNOBS, np.percentile(a.speeds.knob, p, axis=1)) for p in (5, 95))
    return Ranges(outcomes=outcomes, endings=_endings(a.ride), widest=widest, knob_low=low_line, knob_high=high_line)


LEAST_ENDING = 0.02
"""What ends fewer of the likely rides than this is not told. [1]"""


def _endings(ride: Ride) -> list[Ending]:
    """What ends the rides of the samples, the likeliest first."""
    ends, times = np.atleast_1d(ride.ends), np.atleast_1d(ride.run_time_s)
    found = []
    for number in np.unique(ends):
        share = float(np.mean(ends == number))
        low, high = np.percentile(times[ends == number], [5, 95])
        if share >= LEAST_ENDING:
            found.append(Ending(ends_by=END_NAMES[int(number)], share=share, low_s=float(low), high_s=float(high)))
    return sorted(found, key=lambda ending: -ending.share)


def _margins(a: Analysis) -> Any:
    """Acceleration that lifts the front over the largest of the launch, sample by sample [1]; None unless the rear drives."""
    lifts = wheelie_acceleration(a.m.vehicle)
    largest = np.max(a.launch.acceleration_m_s2, axis=0)
    return None if lifts is None or not np.all(largest > 0.0) else lifts / largest


LEAST_SHARE = 0.08
"""A figure that explains less of a range than this is not named: with 200 samples chance explains up to a few percent. [1]"""


def _causes(resolved: Resolved) -> tuple[list[str], NDArray[np.float64]]:
    """Places of all sampled figures, and their logarithms as columns of mean 0 and spread 1. Shape (figures, samples)."""
    paths, columns = [], []
    for path, values in resolved.drawn.items():
        column = np.log(values)
        spread = float(np.std(column))
        if spread > 1e-9:
            paths.append(path)
            columns.append((column - np.mean(column)) / spread)
    return paths, np.array(columns)


def _widest(resolved: Resolved, causes: tuple[list[str], NDArray[np.float64]], samples: Any) -> list[Widens]:
    """The two figures that explain most of an outcome's spread: squared correlation of its ranks with each figure's logarithm."""
    paths, columns = causes
    ranks = np.argsort(np.argsort(np.broadcast_to(samples, columns.shape[1:]))).astype(float) if len(paths) else np.zeros(0)
    if not len(paths) or np.std(np.broadcast_to(samples, columns.shape[1:])) < 1e-12:
        return []
    centred = (ranks - ranks.mean()) / ranks.std()
    shares = np.square(columns @ centred / len(centred))
    found = []
    for index in np.argsort(-shares)[:2].tolist():
        if shares[index] >= LEAST_SHARE:
            known = measuring(paths[index])
            found.append(Widens(path=paths[index], name=known.name, share=float(shares[index]), basis=resolved.figures[paths[index]].basis, how=known.how))
    return found


def fixes(setup: Setup, context: Context | None = None, *, only: str | None = None) -> list[FindingFixes]:
    """For each finding the changes that were tried and hold: they clear it and add no stop, at most a question to look at. only: one finding's
    key."""
    rides: Rides = {}
    now = Analysis(setup, context, rides=rides)
    found = run_checks(now)
    stops = {f.finding.key for f in found if f.finding.severity == "stop"}
    document = setup.model_dump(mode="json")
    tried: dict[str, Tried] = {}
    result = []
    for entry in found:
        if only is not None and entry.finding.key != only:
            continue
        kept: list[CheckedFix] = []
        for edit in entry.edits:
            if len(kept) == MOST_FIXES:
                break
            candidate = _try(document, edit.change, context, entry, stops, tried, rides)
            if candidate is None or (_rides(now) and not _rides(candidate)):
                continue
            fix = checked_fix(edit.label, now, candidate)
            if all(fix.patch != other.patch for other in kept):
                kept.append(fix)
        result.append(FindingFixes(key=entry.finding.key, fixes=kept))
    return result


MOST_FIXES = 3
"""So many fixes are offered for a finding: the best first, and few enough to choose from. [1]"""

Tried = tuple[Analysis, frozenset[str], frozenset[str]]
"""A setup that was tried, the keys of its findings and those of its stops that no look closes."""


LEAST_RIDE_S = 60.0
"""A setup that rides its course for less does not ride it: it stands on the first slope. [s] This project's planning value."""


def _rides(a: Analysis) -> bool:
    """Whether it gets round its course at all. A change that ends this mends nothing."""
    return a.machine is not None and float(a.ride.run_time_s) >= LEAST_RIDE_S


def _try(
    document: dict[str, Any],
    change: Any,
    context: Context | None,
    entry: Found,
    stops: set[str],
    tried: dict[str, Tried],
    rides: Rides,
) -> Analysis | None:
    """The setup with a change if that clears the finding and adds no stop but one a look closes, else None."""
    changed = copied(document)
    change(changed)
    try:
        candidate = load_setup(changed)
    except ValidationError:
        # An edit that leads out of what a setup may be is no fix.
        return None
    key = candidate.model_dump_json()
    if key not in tried:
        analysis = Analysis(candidate, context, rides=rides)
        if still_found(analysis, entry.finding):
            return None
        after = run_checks(analysis)
        # What it fits is looked at when it is there: a question of its own is no harm done.
        harm = frozenset(f.finding.key for f in after if f.finding.severity == "stop" and not f.finding.question)
        tried[key] = (analysis, frozenset(f.finding.key for f in after), harm)
    analysis, keys, new_stops = tried[key]
    if entry.finding.key in keys or not new_stops <= stops:
        return None
    return analysis
