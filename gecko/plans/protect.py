"""The wiring at depth: every run, every joint, every node, as the Protect stage shows them beside the evaluation."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Literal

import numpy as np

from gecko.analysis.demands import Demand, demands
from gecko.analysis.precharge import Precharge, precharge_of
from gecko.analysis.runs import Run, letters
from gecko.analysis.whole import Analysis, candidates, offered
from gecko.answers.evaluation import CheckedFix, ChoiceOut, Out, SizeOut
from gecko.common.figures import Number
from gecko.document.context import Context
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.plug import Plug, Switch
from gecko.document.parts.wire import size_of
from gecko.document.setup import Bank, Setup, load_setup
from gecko.machine.contacts import plug_ohm, plug_stands_a
from gecko.machine.resolve import GUARD_OHM, SWITCH_OHM
from gecko.physics.electric.path import fuse_ohm
from gecko.physics.heat.wire import settled_c, warmed_c
from gecko.physics.protection.ampacity import INSULATION_C, Size, bundle_factor, sizes_with
from gecko.physics.protection.choice import CONDITIONS, ChoiceInput, RowFuse, choice_table
from gecko.physics.protection.fuse import longest_opening_s
from gecko.plans.curves import build_choice, size_out
from gecko.rules.edits import fuse_and_size
from gecko.rules.fuse import GUARDED, UNFUSED_M, best_edits
from gecko.rules.registry import Edit, run_checks
from gecko.rules.tried import checked_fix

TEN_MINUTES_S = 600.0


class NextSize(Out):
    """What the next thicker wire brings: its heat [°C], volts saved [V], top speed won [m/s]."""

    size: SizeOut
    steady_c: float | None
    saved_v: float
    speed_m_s: float


class RunOut(Out):
    """A lead of the tree, with fuse and wire judged together."""

    id: str
    kind: str
    name: str
    path: str
    after: str
    rows: list[int]
    size: SizeOut
    length_m: float
    fuse: str | None
    """The fuse that guards it, in words; None where nothing does."""
    own_fuse: bool
    asked_a: float
    peak_a: float
    stands_a: float
    steady_c: float | None
    """Settles at, under its RMS amps; None where it never settles."""
    ten_minutes_c: float
    limit_c: float | None
    """Settles at, on a climb at the controller's limit; None without one or where it never settles."""
    insulation_c: float
    drop_v: float
    loss_w: float
    short_a: float
    cold_short_a: float
    fails: list[str]
    best: str | None
    thicker: NextSize | None


JointKind = Literal["fuse", "lead", "plug", "switch", "guard"]


class JointOut(Out):
    """What a part of the path costs: its ohms, volts and watts at RMS and at peak amps, what it is asked and stands."""

    name: str
    kind: JointKind
    place: str
    ohm: float
    asked_a: float
    stands_a: float | None
    stands_v: float | None
    volts_v: float
    watts_w: float
    peak_v: float


class NodeOut(Out):
    """A place where a short could happen: what flows full and warm, and at 20 % on the coldest day, and how soon its fuse opens."""

    name: str
    short_a: float
    cold_a: float
    fuse: str | None
    opens_s: float | None
    """Longest time the fuse takes, full and warm; None: never, or no fuse before it."""
    cold_opens_s: float | None


class StretchOut(Out):
    """Positive lead that no fuse guards, and how long it may be. [m]"""

    name: str
    length_m: float
    most_m: float


class ProtectPlan(Out):
    """Everything of the wiring that costs more than a key press may."""

    runs: list[RunOut] = []
    joints: list[JointOut] = []
    nodes: list[NodeOut] = []
    stretches: list[StretchOut] = []
    precharge: Precharge | None = None
    demands: list[Demand] = []
    """What flows in a blocked wheel, a launch, a climb and the ride, for how long."""
    choice: ChoiceOut | None = None
    """The table of the run that was asked for."""
    all_best: CheckedFix | None = None
    """Fuse and wire of every run at once, where every one of them has a pair that meets all conditions."""


def protect_plan(setup: Setup, context: Context | None = None, run_id: str = "main") -> ProtectPlan:
    """What the Protect stage shows of a setup beside its evaluation; run_id: whose table of fuse and wire.

    >>> protect_plan(Setup()).runs
    []
    """
    a = Analysis(setup, context)
    if a.machine is None or setup.bank is None:
        return ProtectPlan()
    return ProtectPlan(
        runs=[_run(a, run) for run in a.runs],
        joints=list(_joints(a)),
        nodes=list(_nodes(a)),
        stretches=list(_stretches(a.setup.bank, a.setup.main_fuse)),
        precharge=precharge_of(a),
        demands=list(demands(a)),
        choice=build_choice(a, run_id),
        all_best=_all_best(a),
    )


def _fuse_words(fuse: Fuse | None) -> str | None:
    return None if fuse is None else f"{fuse.rating_a:g} A {fuse.kind}, {fuse.dc_volts_v:g} V"


def _finite(value: Number) -> float | None:
    number = float(value)
    return number if np.isfinite(number) else None


def _run(a: Analysis, run: Run) -> RunOut:
    lead, data, fuse = run.lead, run.data, a.guard_fuse(run)
    size, air = size_of(lead), data.lead_air_c
    insulation = INSULATION_C[data.row]
    cell = a.cell(run)
    fails: list[str] = []
    short = data.warm_open_v / (data.fault_bank_ohm + data.other_path_ohm + lead.ohm)
    cold = data.cold_open_v / (data.cold_bank_ohm + data.other_path_ohm + lead.ohm)
    if cell is not None:
        table, f, g = cell
        masks = table.failing(a.context.house.wire_school)
        wanted = CONDITIONS if run.fuse is not None else GUARDED
        fails = [name for name in wanted if masks[name][f, g]]
        short, cold = float(table.numbers["prospective_a"][f, g]), float(table.numbers["prospective_20_percent_coldest_a"][f, g])
    stands = a.lead_stands_a(lead)
    if run.amps_a > stands:
        fails = ["ampacity", *fails]
    edits = best_edits(a, run) if fails else ()
    limit = data.reachable_a

    def bundled_a(wire: Size) -> float:
        return wire.table_a(data.row) * bundle_factor(wire.in_bundle(data.conductors))

    def settles(wire: Size, amps: float) -> float | None:
        return _finite(settled_c(wire.area_m2, amps, bundled_a(wire), insulation, air)) if air < insulation else None

    return RunOut(
        id=run.id,
        kind=run.kind,
        name=run.name,
        path=run.path,
        after=run.after,
        rows=list(run.rows),
        size=size_out(size),
        length_m=float(lead.length_m.value),
        fuse=_fuse_words(fuse),
        own_fuse=run.fuse is not None,
        asked_a=run.amps_a,
        peak_a=run.peak_a,
        stands_a=stands,
        steady_c=settles(size, run.amps_a),
        ten_minutes_c=warmed_c(size.area_m2, run.amps_a, bundled_a(size), insulation, air, TEN_MINUTES_S) if air < insulation else air,
        limit_c=None if limit is None else settles(size, limit),
        insulation_c=insulation,
        drop_v=run.amps_a * lead.ohm,
        loss_w=run.amps_a**2 * lead.ohm,
        short_a=short,
        cold_short_a=cold,
        fails=fails,
        best=edits[0].label if edits else None,
        thicker=_thicker(a, run, settles),
    )


def _thicker(a: Analysis, run: Run, settles: Callable[[Size, float], float | None]) -> NextSize | None:
    own = size_of(run.lead)
    sizes = sizes_with(own)
    place = sizes.index(own) + 1
    if place >= len(sizes) or run.kind == "accessory":
        return None
    size = sizes[place]
    document = a.setup.model_dump(mode="json")
    fuse_and_size(run, None, size).change(document)
    other = Analysis(load_setup(document), a.context)
    saved = run.amps_a * run.lead.ohm * (1.0 - own.area_m2 / size.area_m2)
    return NextSize(size=size_out(size), steady_c=settles(size, run.amps_a), saved_v=saved, speed_m_s=float(other.top - a.top))


def _joints(a: Analysis) -> Iterator[JointOut]:
    setup, bank = a.setup, a.setup.bank
    assert bank is not None
    peaks, steady = a.row_worst

    def joint(name: str, kind: JointKind, place: str, ohm: float, rms: float, peak: float, stands: float | None, volts: float | None = None) -> JointOut:
        return JointOut(
            name=name, kind=kind, place=place, ohm=ohm, asked_a=rms, stands_a=stands, stands_v=volts, volts_v=rms * ohm, watts_w=rms * rms * ohm, peak_v=peak * ohm
        )

    def plug(one: Plug, place: str, rms: float, peak: float) -> JointOut:
        return joint(f"{one.kind} plug", "plug", place, plug_ohm(one), rms, peak, plug_stands_a(one), one.dc_volts_v.value if one.dc_volts_v else None)

    def fused(fuse: Fuse, name: str, place: str, rms: float, peak: float) -> JointOut:
        return joint(name, "fuse", place, float(fuse_ohm(fuse.rating_a)), rms, peak, fuse.rating_a, fuse.dc_volts_v)

    seen: set[int] = set()
    for r, row in enumerate(bank.rows):
        kind = a.resolved.row_kinds[r]
        if kind in seen:
            continue
        seen.add(kind)
        members = tuple(q for q, k in enumerate(a.resolved.row_kinds) if k == kind)
        place = f"row {letters(members)}" if len(members) == 1 else f"rows {letters(members)}, each"
        for i, one in enumerate(row.plugs):
            yield plug(one, f"{place} · {i + 1}", steady[r], peaks[r])
        if row.fuse is not None:
            yield fused(row.fuse, "Row fuse", place, steady[r], peaks[r])
        for name, lead in (("Row lead", row.lead), ("Links", row.link)):
            if lead is not None:
                yield joint(name, "lead", place, lead.ohm, steady[r], peaks[r], a.lead_stands_a(lead))
    rms, peak = a.rms_a, float(a.peak_a)
    motor = (rms, peak) if a.m.control.kind == "none" else (a.motor_rms_a, float(np.max(a.launch.motor_a)))
    if setup.main_fuse is not None:
        yield fused(setup.main_fuse, "Main fuse", "main", rms, peak)
    for name, lead in (("Main lead", setup.main_lead), ("Controller lead", setup.controller_lead)):
        if lead is not None:
            yield joint(name, "lead", "main", lead.ohm, rms, peak, a.lead_stands_a(lead))
    for i, one in enumerate(setup.plugs):
        yield plug(one, f"{one.place} · {i + 1}", *((rms, peak) if one.place == "main" else motor))
    switches: tuple[tuple[str, Switch | None], ...] = (("Cut-off", setup.cut_off), ("Pedal switch", setup.pedal_switch))
    for name, switch in switches:
        if switch is not None:
            ohm = switch.resistance_ohm.value if switch.resistance_ohm else SWITCH_OHM
            yield joint(
                name, "switch", "main", ohm, rms, peak, switch.rating_a.value if switch.rating_a else None, switch.dc_volts_v.value if switch.dc_volts_v else None
            )
    guard = setup.guard
    if guard is not None and guard.kind == "module":
        yield joint(
            "Low-volt guard",
            "guard",
            "main",
            guard.resistance_ohm.value if guard.resistance_ohm else GUARD_OHM,
            rms,
            peak,
            guard.rating_a.value if guard.rating_a else None,
        )
    if setup.motor_lead is not None:
        yield joint("Motor lead", "lead", "motor", setup.motor_lead.ohm, *motor, a.lead_stands_a(setup.motor_lead))


def _nodes(a: Analysis) -> Iterator[NodeOut]:
    """Shorts from the packs outward: at a row, at the joint, behind the main fuse, at the ends of the leads."""
    setup, bank = a.setup, a.setup.bank
    assert bank is not None
    first = next((run for run in a.runs if run.kind == "row"), None)
    if first is not None:
        yield _node(a.guard_fuse(first), f"End of a lead of {first.name[0].lower()}{first.name[1:]}", first, first.lead.ohm)
    main = a.run("main")
    if main is None:
        return
    fuse = setup.main_fuse
    data = main.data
    bare, cold_bare = data.fault_bank_ohm, data.cold_bank_ohm
    row_fuse = bank.rows[0].fuse
    share = max(f.share for f in data.row_fuses) if data.row_fuses else 1.0
    yield _opening("The joint of the rows" if len(bank.rows) > 1 else "The packs' terminals", data, bare, cold_bare, row_fuse, share)
    if fuse is not None:
        own = float(fuse_ohm(fuse.rating_a))
        yield _opening("Right behind the main fuse", data, bare + own, cold_bare + own, fuse)
    yield _node(a.guard_fuse(main), "At the controller" if a.m.control.kind != "none" else "At the pedal switch", main, main.lead.ohm)
    motor = a.run("motor")
    if motor is not None and a.m.control.kind == "none":
        yield _node(a.guard_fuse(motor), "At the motor", motor, motor.lead.ohm)
    for run in a.runs:
        if run.kind == "accessory":
            yield _node(a.guard_fuse(run), f"End of the lead to {run.name[0].lower()}{run.name[1:]}", run, run.lead.ohm)


def _node(fuse: Fuse | None, name: str, run: Run, lead_ohm: float) -> NodeOut:
    data = run.data
    rest = data.other_path_ohm + lead_ohm + (float(fuse_ohm(fuse.rating_a)) if fuse else 0.0)
    return _opening(name, data, data.fault_bank_ohm + rest, data.cold_bank_ohm + rest, fuse)


def _opening(name: str, data: ChoiceInput, ohm: float, cold_ohm: float, fuse: Fuse | None, share: float = 1.0) -> NodeOut:
    short, cold = data.warm_open_v / ohm, data.cold_open_v / cold_ohm
    times: list[float | None] = [None, None]
    if fuse is not None:
        times = [_finite(longest_opening_s(fuse.kind, amps * share / fuse.rating_a)) for amps in (short, cold)]
    return NodeOut(name=name, short_a=short, cold_a=cold, fuse=_fuse_words(fuse), opens_s=times[0], cold_opens_s=times[1])


def _stretches(bank: Bank | None, main_fuse: Fuse | None) -> Iterator[StretchOut]:
    assert bank is not None
    for r, row in enumerate(bank.rows):
        if row.fuse is not None:
            yield StretchOut(name=f"Row {letters((r,))}, to its fuse", length_m=float(row.fuse.distance_m.value), most_m=UNFUSED_M)
        elif row.lead is not None:
            yield StretchOut(name=f"Row {letters((r,))}, to the joint", length_m=float(row.lead.length_m.value), most_m=UNFUSED_M)
    if main_fuse is not None and not all(row.fuse for row in bank.rows):
        yield StretchOut(name="Packs to the main fuse", length_m=float(main_fuse.distance_m.value), most_m=UNFUSED_M)


def _all_best(a: Analysis) -> CheckedFix | None:
    """Fuse and wire of every run at once: the main fuse first, then rows that open after it, then what these guard."""
    document = a.setup.model_dump(mode="json")
    words = []
    for kinds in (("main",), ("row",), ("accessory",), ("link", "controller", "motor")):
        now = Analysis(load_setup(document), a.context)
        for run in now.runs:
            if run.kind not in kinds:
                continue
            if run.kind in ("main", "row", "accessory"):
                edit = _best_pair(now, run)
                if edit is None:
                    return None
            else:
                stands = run.amps_a <= now.lead_stands_a(run.lead)
                edits = () if stands and not run.guard else best_edits(now, run)
                if not edits:
                    continue
                edit = edits[0]
            edit.change(document)
            words.append(f"{run.name}: {edit.label}")
    candidate = Analysis(load_setup(document), a.context)
    before = {f.finding.key for f in run_checks(a) if f.finding.severity == "stop"}
    if any(f.finding.severity == "stop" and f.finding.key not in before for f in run_checks(candidate)):
        return None
    fix = checked_fix("; ".join(words), a, candidate)
    return fix if fix.patch else None


def _best_pair(a: Analysis, run: Run) -> Edit | None:
    """The best fuse and wire of a run. The main fuse is chosen as if rows had none yet, a row's so that it opens after the main one."""
    main, school = a.run("main"), a.context.house.wire_school
    fuses, size = candidates(a.guard_fuse(run)), size_of(run.lead)
    table = choice_table(replace(run.data, row_fuses=()), fuses, size)
    feasible = table.feasible(school)
    for flat in np.argsort(np.where(feasible, table.order, table.order.size), axis=None)[: int(feasible.sum())]:
        f, g = divmod(int(flat), len(table.sizes))
        offer = table.fuses[f]
        if run.kind == "row" and len(a.resolved.row_kinds) > 1 and main is not None and main.fuse is not None:
            share = run.peak_a / max(float(a.peak_a), 1e-6)
            order = choice_table(replace(main.data, row_fuses=(RowFuse(offer.kind, offer.rating_a, share),)), (offered(main.fuse),), size_of(main.lead))
            if order.fails["selectivity"][0, order.sizes.index(size_of(main.lead))]:
                continue
        return fuse_and_size(run, offer, table.sizes[g])
    return None
