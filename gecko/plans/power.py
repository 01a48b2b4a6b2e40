"""The packs at depth: everything the Power stage shows beside the evaluation."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import numpy as np

from gecko.analysis.fit import balance_m, lay_in, sides_m
from gecko.analysis.guard import guard_floor_v
from gecko.analysis.joining import flow, pairs
from gecko.analysis.occupancy import occupancies
from gecko.analysis.runs import letters
from gecko.analysis.state import charges_now, model_of, row_path_ohm
from gecko.analysis.voltmeter import MeterLine, SetPoint, cruise_a, meter_table, set_points
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Curve, Out
from gecko.document.context import Context
from gecko.document.parts.bay import Bay
from gecko.document.parts.pack import Pack
from gecko.document.parts.rider import Ground
from gecko.document.parts.vehicle import Vehicle
from gecko.document.setup import Bank, Setup
from gecko.physics.electric.bank import BankModel, RowModel, source_at, usable_ah
from gecko.physics.electric.discharge import discharge
from gecko.plans.curves import curve
from gecko.rules.bay import overloaded

LEAST_A = 0.02
LEAST_M_S = 0.05
"""Slower or with less than this nothing rides. [A, m/s]"""


class UnitShare(Out):
    """One pack of a row over a discharge: its label, charge at start and end [1], and what stays unused [Ah]."""

    row: int
    unit: int
    label: str
    start: float
    end: float
    unused_ah: float
    ends: bool
    """It ends the ride."""


class Emptying(Out):
    """The bank emptied by the amps of the cruise: each row's amps over time, who ends it, what is left in whom."""

    start: Literal["full", "as they rest"]
    amps_a: float
    seconds_s: float
    ends_by: str
    rows: list[Curve]
    """Amps of each row against seconds."""
    units: list[UnitShare]


class PairOut(Out):
    """Two rows at rest, if they were joined now."""

    high: int
    low: int
    high_v: float
    low_v: float
    first_a: float
    allowed_a: float
    within_v: float
    safe_after_s: float
    """Until what flows is no more than the lower one may be charged with; 0 when it never is more."""
    settled_s: float
    moved_ah: float
    flow: Curve


class OccupancyOut(Out):
    """One way of filling the slots."""

    name: str
    rows: list[int]
    permitted: bool
    volts_v: float
    peak_a: float
    rms_a: float
    worst_row_a: float
    top_speed_m_s: float | None
    run_time_s: float | None
    sag_v: float
    problems: list[str]


class SwapOut(Out):
    """All rows together against one after the other."""

    together_s: float
    together_sag_v: float
    swapped_s: float
    swapped_sag_v: float
    changes: int


class ColdOut(Out):
    """The packs at a temperature [°C]: what they give at cruise [Ah], their resistance at half charge [Ω], sag at the peak [V]."""

    temp_c: float
    capacity_ah: float
    resistance_ohm: float
    sag_v: float


class BoxOut(Out):
    """A pack laid into the bay: near corner and sides, along, across, upward. [m]"""

    index: int
    at: list[float]
    sides: list[float]


class BayOut(Out):
    """Whether the packs fit, where they lie, what they weigh and where their weight sits."""

    answer: Literal["fits", "too big", "no way found", "sizes not known"]
    bay: list[float]
    boxes: list[BoxOut]
    balance_m: list[float] | None
    """Centre of mass from the bay's near lower corner."""
    ahead_of_rear_m: float | None
    height_m: float | None


class PowerPlan(Out):
    """Everything of the packs that costs more than a key press may."""

    emptying: list[Emptying] = []
    joining: list[PairOut] = []
    occupancies: list[OccupancyOut] = []
    swap: SwapOut | None = None
    cold: list[ColdOut] = []
    set_points: list[SetPoint] = []
    meter: list[MeterLine] = []
    cruise_a: float | None = None
    mass_kg: float | None = None
    bay: BayOut | None = None


def power_plan(setup: Setup, context: Context | None = None) -> PowerPlan:
    """What the Power stage shows of a setup beside its evaluation. Parts that cannot be computed yet are left out.

    >>> power_plan(Setup()).joining
    []
    """
    a = Analysis(setup, context)
    if setup.bank is None:
        return PowerPlan()
    plan = PowerPlan(joining=list(_joining(setup.bank, setup.ground)), mass_kg=sum(pack.weighs_kg for _, pack in a.packs), bay=_bay(a.packs, setup.vehicle))
    if a.machine is None:
        return plan
    floor = guard_floor_v(setup.bank)
    return plan.model_copy(
        update={
            "emptying": list(_emptying(a)),
            "occupancies": list(_occupancies(a)),
            "swap": _swap(a),
            "cold": list(_cold(a.m.bank, cruise_a(a.ride), float(a.peak_a), setup.ground)),
            "set_points": set_points(a.m, a.ride, a.peak_a, setup.bank, floor),
            "meter": meter_table(a.m, a.ride),
            "cruise_a": cruise_a(a.ride),
        }
    )


def _joining(bank: Bank, ground: Ground) -> Iterator[PairOut]:
    for pair in pairs(bank, ground):
        found = flow(bank, ground, pair)
        size = np.abs(found.current_a)
        points = np.unique(np.round(np.geomspace(1, len(size), 60)).astype(int)) - 1
        yield PairOut(
            high=pair.high,
            low=pair.low,
            high_v=pair.high_v,
            low_v=pair.low_v,
            first_a=pair.first_a,
            allowed_a=pair.allowed_a,
            within_v=pair.within_v,
            safe_after_s=found.seconds_until(pair.allowed_a) if pair.first_a > pair.allowed_a else 0.0,
            settled_s=found.time_to_2_percent_s,
            moved_ah=abs(found.charge_moved_ah),
            flow=curve(found.time_s[points], size[points]),
        )


def _emptying(a: Analysis) -> Iterator[Emptying]:
    bank = a.setup.bank
    assert bank is not None
    model = BankModel(tuple(RowModel(model_of(row).units, 1, row_path_ohm(row)) for row in bank.rows))
    places = [(r, u) for r, row in enumerate(bank.rows) for u in range(len(row.units))]
    amps = cruise_a(a.ride)
    if amps < LEAST_A or float(a.ride.fastest_m_s) < LEAST_M_S:
        # The controller never switches on, or the ride ends as it begins: a finding says so, and no pack is emptied by it.
        return
    guard = float(a.m.guard.volts_v) + amps * float(a.m.path_ohm) if a.m.guard else None
    known = [charges_now(row) for row in bank.rows]
    starts: list[tuple[Literal["full", "as they rest"], list[float]]] = [("full", [1.0] * len(places))]
    if all(charges is not None for charges in known):
        starts.append(("as they rest", [charge for charges in known if charges is not None for charge in charges]))
    for name, start in starts:
        found = discharge(model, amps, start, a.m.pack_c, guard)
        points = np.unique(np.round(np.linspace(0, len(found.time_s) - 1, 60)).astype(int))
        yield Emptying(
            start=name,
            amps_a=amps,
            seconds_s=float(found.time_s[-1]),
            ends_by=found.ends_by,
            rows=[curve(found.time_s[points], line[points]) for line in found.row_a],
            units=[
                UnitShare(
                    row=r,
                    unit=u,
                    label=bank.rows[r].units[u].label,
                    start=start[i],
                    end=float(max(found.soc[i, -1], 0.0)),
                    unused_ah=found.unused_ah[i],
                    ends=i == found.unit,
                )
                for i, (r, u) in enumerate(places)
            ],
        )


def _variant(a: Analysis, bank: Bank) -> Analysis:
    """The same machine on another bank."""
    return Analysis(a.setup.model_copy(update={"bank": bank}), a.context)


def _occupancies(a: Analysis) -> Iterator[OccupancyOut]:
    bank = a.setup.bank
    assert bank is not None
    for which in occupancies(a, a.all_rows, every=True):
        whole = len(which.rows) == len(bank.rows)
        other = a if whole else _variant(a, bank.model_copy(update={"rows": [bank.rows[r] for r in which.rows]}))
        out = tuple(r for r in range(len(bank.rows)) if r not in which.rows)
        word = "All slots" if whole else f"Only {letters(which.rows)}" if len(which.rows) == 1 else f"Without {letters(out)}"
        yield OccupancyOut(
            name=word if len(bank.rows) > 1 else "The row",
            rows=list(which.rows),
            permitted=which.permitted,
            volts_v=float(source_at(other.m.bank, 0.5, a.m.pack_c).open_v),
            peak_a=which.peak_a,
            rms_a=which.rms_a,
            worst_row_a=max(which.row_rms_a),
            top_speed_m_s=float(other.top),
            run_time_s=float(other.ride.run_time_s),
            sag_v=which.peak_a * which.resistance_ohm,
            problems=[] if whole else overloaded(a, which),
        )
    extra = (
        [("Home on the small pack", bank.model_copy(update={"rows": [bank.rows[0].model_copy(update={"units": [bank.home_pack], "link": None})]}))]
        if bank.home_pack
        else []
    )
    if any(unit.bypass_link for row in bank.rows for unit in row.units):
        rows = [row.model_copy(update={"units": [u for u in row.units if not u.bypass_link]}) for row in bank.rows]
        if all(row.units for row in rows):
            extra.append(("Helper bypassed", bank.model_copy(update={"rows": rows})))
    for name, small in extra:
        other = _variant(a, small)
        yield OccupancyOut(
            name=name,
            rows=[],
            permitted=True,
            volts_v=float(other.half.open_v),
            peak_a=float(other.peak_a),
            rms_a=other.rms_a,
            worst_row_a=max(other.all_rows.row_rms_a),
            top_speed_m_s=float(other.top),
            run_time_s=float(other.ride.run_time_s),
            sag_v=float(other.peak_a * other.half.resistance_ohm),
            problems=overloaded(other, other.all_rows),
        )


def _swap(a: Analysis) -> SwapOut | None:
    bank = a.setup.bank
    if bank is None or len(bank.rows) < 2:
        return None
    seconds, sags = 0.0, []
    kinds = a.resolved.row_kinds
    for kind in sorted(set(kinds)):
        alone = _variant(a, bank.model_copy(update={"rows": [bank.rows[kinds.index(kind)]]}))
        seconds += float(alone.ride.run_time_s) * kinds.count(kind)
        sags.append(float(alone.peak_a * alone.half.resistance_ohm))
    return SwapOut(
        together_s=float(a.ride.run_time_s),
        together_sag_v=float(a.peak_a * a.half.resistance_ohm),
        swapped_s=seconds,
        swapped_sag_v=max(sags),
        changes=len(bank.rows) - 1,
    )


def _cold(bank: BankModel, amps: float, peak_a: float, ground: Ground) -> Iterator[ColdOut]:
    for temp in sorted({ground.coldest_c, 0.0, 10.0, 25.0}):
        source = source_at(bank, 0.5, temp)
        currents = source.row_currents(amps)
        given = sum(row.parallel_count * min(float(usable_ah(u, abs(float(i)), temp)) for u in row.units) for row, i in zip(bank.rows, currents, strict=True))
        yield ColdOut(temp_c=temp, capacity_ah=given, resistance_ohm=float(source.resistance_ohm), sag_v=float(peak_a * source.resistance_ohm))


def _bay(packs: list[tuple[str, Pack]], vehicle: Vehicle | None) -> BayOut | None:
    room: Bay | None = vehicle.bay if vehicle else None
    if room is None:
        return None
    inside = [room.length_m.value, room.width_m.value, room.height_m.value]
    sides = [sides_m(pack, room) for _, pack in packs]
    known = [side for side in sides if side is not None]
    if len(known) < len(sides):
        return BayOut(answer="sizes not known", bay=inside, boxes=[], balance_m=None, ahead_of_rear_m=None, height_m=None)
    layout = lay_in(room, known)
    balance = balance_m(layout, [pack.weighs_kg for _, pack in packs])
    ahead = height = None
    if balance is not None and room.ahead_of_rear_m is not None:
        ahead = room.ahead_of_rear_m + balance[0] - inside[0] / 2.0
    if balance is not None and room.floor_m is not None:
        height = room.floor_m + balance[2]
    return BayOut(
        answer=layout.answer,
        bay=inside,
        boxes=[BoxOut(index=box.index, at=list(box.at), sides=list(box.sides)) for box in layout.boxes],
        balance_m=None if balance is None else list(balance),
        ahead_of_rear_m=ahead,
        height_m=height,
    )
