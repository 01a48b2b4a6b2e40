"""What belongs together changes together: a knob module with its mark, guard and fuse; a fuse with the wire and the holder behind it."""

from __future__ import annotations

from functools import partial

import numpy as np

from gecko.analysis.guard import guard_level_v
from gecko.analysis.whole import Aboard, Analysis
from gecko.common.documents import Document
from gecko.common.words import amps
from gecko.document.parts.controller import Throttle
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.pack import usual_limits_a
from gecko.document.parts.plug import Switch
from gecko.document.setup import Setup, load_setup
from gecko.physics.protection.choice import LIMIT_OVER_FUSE
from gecko.physics.protection.fuse import continuous_limit_a, fuse_rank
from gecko.reference.tables import OfferedFuse, offered_fuses
from gecko.rules.edits import as_fuse, as_size, both, merged, one_more_row, put, round_up, setting, to_buy
from gecko.rules.registry import Edit, Later

LEAST_MARK = 0.1
"""A knob is not set lower than this: the motor would hum and not move. [1]"""

MODULE_LIMITS_A = (10.0, 15.0, 20.0, 30.0, 40.0, 60.0)
"""Limits modules for brushed motors are sold with. [A] Source: this project's planning values."""


def limiter_edits(a: Analysis, target_m_s: float) -> Later:
    """A limiter mark under which most of the likely cases stay under `target_m_s` [m/s], and out of reach where it is known to be within; none
    without a controller, or where no mark does. Whether it is out of reach where nobody has looked stays a question."""
    return partial(_limiter, a, target_m_s)


def _limiter(a: Analysis, target_m_s: float) -> tuple[Edit, ...]:
    mark = likely_mark(a, target_m_s)
    if mark is None:
        return ()
    name, edit = f"Limiter at mark {10 * mark:.1f} of 10", put("throttle/limiter_mark", mark)
    if a.setup.throttle is not None and a.setup.throttle.limiter_reachable is True:
        return (Edit(f"{name}, moved out of reach", both(edit, put("throttle/limiter_reachable", False))),)
    return (Edit(name, edit),)


UNDER = 0.78
"""So many of the likely cases stay under what a mark is set for: a little more than the three of four that end a caution. [1]"""


def likely_mark(a: Analysis, target_m_s: float) -> float | None:
    """The knob's mark at which `UNDER` of the likely cases stay under `target_m_s` [m/s]; None where no mark gives it. [1]"""
    if a.machine is None or a.m.control.kind == "none" or float(a.top) <= 0.0:
        return None
    aimed = target_m_s * float(a.top) / max(a.sampled.top_quantile(UNDER), 1e-6)
    mark = mark_for(a, aimed)
    if mark is None:
        return None
    # Turned down, the spread of the speed changes, mostly to wider, so the mark is checked again there.
    throttle = (a.setup.throttle or Throttle()).model_copy(update={"limiter_mark": mark})
    there = Analysis(a.setup.model_copy(update={"throttle": throttle}), a.context).sampled.top_quantile(UNDER)
    return mark if there <= target_m_s else mark_for(a, 0.995 * aimed * target_m_s / there)


def mark_for(a: Analysis, target_m_s: float) -> float | None:
    """The knob's mark at which the top speed is `target_m_s` [m/s], rounded down to a hundredth; None where no mark gives it. [1]"""
    if a.machine is None or a.m.control.kind == "none":
        return None
    duty = a.duty_for(target_m_s)
    if duty is None:
        return None
    mark = float(np.floor(a.resolved.knob.mark(duty / max(a.resolved.unlimited_duty, 1e-6)) * 100.0) / 100.0)
    return mark if mark >= LEAST_MARK else None


def knob_module(a: Analysis) -> Edit:
    """A module with a knob before the stock pedal and switches: it limits speed and amps and starts softly. Its mark, the low-volt guard
    and the fuse that go with it come along."""
    limit = module_limit_a(a)
    nominal, full = a.nominal_v or 12.0, a.full_v or 15.0

    def change(document: Document) -> None:
        document["controller"] = {
            "kind": "knob module",
            "nominal_v": to_buy(round(nominal, 1)),
            "max_v": to_buy(round_up(1.2 * full, 5)),
            "undervoltage_v": to_buy(round(0.6 * nominal, 1)),
            "battery_limit_a": setting(limit),
            "phase_limit_a": setting(1.3 * limit),
            "ramp_s": setting(1.0),
            "throttle": "switch",
            "brake_cut_off_input": False,
        }
        throttle = {**(document.get("throttle") or {}), "kind": "switch", "limiter_mark": None, "limiter_reachable": None}
        document["throttle"] = throttle
        changed = Analysis(load_setup(document), a.context)
        if changed.machine is None:
            return
        slowest = _slowest_m_s(changed.riders)
        if slowest is not None and slowest < changed.sampled.top_quantile(UNDER):
            mark = likely_mark(changed, 0.98 * slowest)
            if mark is not None:
                throttle["limiter_mark"] = mark
        add_guard(document)
        fit_fuse_and_wire(document, a)

    return Edit(f"Knob module of {limit:.0f} A before the pedal, with its mark", change)


def _slowest_m_s(riders: tuple[Aboard, ...]) -> float | None:
    """The lowest cap of all who ride, told at the rider the setup is computed for. [m/s]"""
    return min((one.cap.speed_m_s / one.mass_factor for one in riders), default=None)


def module_limit_a(a: Analysis) -> float:
    """Limit of a module for what packs, motors and the parts on the way bear: the largest sold that neither trips the packs, nor asks the
    motors for over half of what they would draw stalled, nor needs a larger fuse than the weakest plug or switch allows. [A]"""
    most = [0.5 * float(a.stall_point.pack_a)]
    if a.setup.bank is not None:
        most.append(0.8 * sum(min(usual_limits_a(unit)[1] for unit in row.units) for row in a.setup.bank.rows))
    if a.limits.trip_a is not None:
        most.append(0.7 * float(a.limits.trip_a))
    if a.least_part_a is not None:
        most.append(LIMIT_OVER_FUSE * a.least_part_a)
    return max((sold for sold in MODULE_LIMITS_A if sold <= min(most)), default=MODULE_LIMITS_A[0])


def add_guard(document: Document) -> None:
    """A low-volt guard, where packs need one and there is none."""
    setup = load_setup(document)
    if setup.guard is not None or setup.bank is None or not any(unit.unguarded for row in setup.bank.rows for unit in row.units):
        return
    a = Analysis(setup)
    rating = part_rating_a(float(a.peak_a), a.setup.main_fuse) if a.machine is not None else 60.0
    document["guard"] = {"kind": "module", "volts_v": setting(guard_level_v(setup.bank)), "rating_a": to_buy(rating)}


def part_rating_a(peak_a: float, main_fuse: Fuse | None) -> float:
    """Rating of a new part in the main path: the launch with a quarter to spare, and never under the main fuse. [A]"""
    fuse = main_fuse.rating_a if main_fuse else 0.0
    return round_up(max(peak_a * 1.25, fuse), 10)


def fit_fuse_and_wire(document: Document, around: Analysis) -> None:
    """Choose main fuse and wire again where what is there no longer meets every condition, with a holder for that fuse."""
    analysis = Analysis(load_setup(document), around.context)
    main = analysis.run("main")
    if main is None:
        return
    school = around.context.house.wire_school
    cell = analysis.cell(main)
    if cell is not None and bool(cell[0].feasible(school)[cell[1], cell[2]]):
        return
    table = analysis.table(main)
    best = table.recommended(school)
    if best is None:
        return
    merged(document, "/main_fuse", as_fuse(table.fuses[best[0]]))
    merged(document, "/main_lead", as_size(table.sizes[best[1]]))


def row_fuse(a: Analysis) -> OfferedFuse | None:
    """A fuse for each row: it carries the row's worst permitted share with room, and opens after the main fuse."""
    bank, air = a.setup.bank, a.setup.ground.ambient_c
    rows = len(bank.rows) if bank else 1
    main = a.setup.main_fuse.rating_a if a.setup.main_fuse else 0.0
    load = max(a.row_worst[1]) if a.machine is not None else 10.0
    share = max(a.row_worst[0]) / max(float(a.peak_a), 1e-6) if a.machine is not None else 1.0 / rows
    limit = (a.reachable_a or 0.0) * min(share, 1.0) / LIMIT_OVER_FUSE if a.machine is not None else 0.0
    launch = max(a.row_worst[0]) / 1.35 if a.machine is not None and not limit else 0.0
    full = a.full_v or 0.0
    fitting = [
        fuse
        for fuse in offered_fuses()
        if fuse.dc_volts_v >= full and continuous_limit_a(fuse.rating_a, air) >= 1.1 * load and fuse.rating_a >= max(1.2 * main / rows, limit, launch)
    ]
    return min(fitting, key=fuse_rank, default=None)


def fuse_bare_rows(document: Document, around: Analysis) -> None:
    """A fuse for each of several rows that has none."""
    rows = document["bank"]["rows"]
    fuse = row_fuse(Analysis(load_setup(document), around.context)) if len(rows) > 1 else None
    for row in rows:
        if fuse is not None and not row.get("fuse"):
            row["fuse"] = as_fuse(fuse)


def row_beside(a: Analysis) -> Edit:
    """Another row like the first, side by side, every row with a fuse of its own."""

    def change(document: Document) -> None:
        one_more_row(document)
        fuse_bare_rows(document, a)

    return Edit("One more row side by side", change)


def stronger_plug(a: Analysis, path: str, poles: int, place: str) -> Edit:
    """A plug of the 90 A class, and fuse and wire as they then may be."""

    def change(document: Document) -> None:
        put(path.strip("/"), {"kind": "two-pole 90", "poles": poles, "place": place})(document)
        fit_fuse_and_wire(document, a)

    return Edit("Use a two-pole plug of the 90 A class", change)


def stronger_switch(setup: Setup, name: str, words: str, volts_v: float, rating_a: float) -> Edit:
    """A switch for these volts [V] and amps [A] in place of the one there; what else is known of it stays."""
    have: Switch | None = getattr(setup, name)
    new = {**(have.model_dump() if have is not None else {"kind": "switch"}), "dc_volts_v": to_buy(volts_v), "rating_a": to_buy(rating_a)}
    return Edit(f"Use a {words} for {volts_v:.0f} V DC, {amps(rating_a)}", put(name, new))
