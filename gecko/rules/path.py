"""Checks of leads, plugs and switches."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from gecko.analysis.runs import Run, letters
from gecko.analysis.whole import Analysis
from gecko.common.words import amps, q, seconds, volts
from gecko.document.parts.plug import Plug, Switch
from gecko.document.parts.wire import size_of
from gecko.document.setup import Bank, Setup
from gecko.machine.contacts import plug_stands_a
from gecko.physics.electric.operating_point import ControllerModel, OperatingPoint
from gecko.physics.heat.wire import seconds_to_insulation
from gecko.physics.protection.ampacity import INSULATION_C, STANDARD_SIZES, Size, bundle_factor, derated_ampacity_a
from gecko.physics.protection.fuse import fuse_for
from gecko.rules import margins
from gecko.rules.edits import as_fuse, both, fuse_and_size, put, round_up, to_buy
from gecko.rules.fuse import GUARDED, best_edits, guarded_cells, too_hot, too_hot_words
from gecko.rules.registry import Edit, Trip, rule, setup_rule
from gecko.rules.together import stronger_plug, stronger_switch


def _place(run: Run) -> str:
    return "" if run.kind == "main" else run.id


def _thicker(a: Analysis, run: Run) -> Size | None:
    """Thinnest gauge that carries the run's amps, and, behind the controller, what it can push into a blocked motor."""
    lead = run.lead
    carries = (s for s in STANDARD_SIZES if derated_ampacity_a(s, a.lead_row(lead), run.data.lead_air_c, lead.bundle_conductors) >= run.amps_a)
    pushed = _pushed_a(a.m.control, a.stall_point) if run.kind == "motor" else None
    return next((s for s in carries if pushed is None or _bears_s(run, s, pushed) >= 1.2 * STALLED_S), None)


@rule("wire.ampacity", station="leads", stage="protect", principle="A lead carries its amps without getting hot.")
def wire_ampacity(a: Analysis) -> Iterator[Trip]:
    for run in a.runs:
        stands = a.lead_stands_a(run.lead)
        carries = margins.lead_amps(run.amps_a, stands)
        if not carries.over:
            continue
        thicker = _thicker(a, run)
        yield Trip(
            "stop",
            "The lead is too thin for the ride" if run.kind == "main" else f"{run.name}: too thin for the ride",
            f"The ride asks for {amps(run.amps_a)} on average; {run.lead.words} stands {amps(stands)} in this bundle at {q(run.data.lead_air_c, 'temp')}.",
            f"Use {thicker.words} or thicker." if thicker else "Lay two wires side by side, or lower the amps.",
            f"{run.path}/awg",
            (*best_edits(a, run), *((fuse_and_size(run, None, thicker),) if thicker else ())),
            place=_place(run),
            margin=carries,
        )
    yield from _pushed(a)


STALLED_S = 60.0
"""So long a lead behind the controller must bear what the controller can push into a blocked motor. [s] Source: this project's planning
value: longer than a child leans on a kerb, and the motor itself is hot by then."""


def _pushed(a: Analysis) -> Iterator[Trip]:
    """No fuse sees the motor's amps: its lead must bear what the controller can push."""
    run = a.run("motor")
    pushes = _pushed_a(a.m.control, a.stall_point)
    if run is None or pushes is None or run.amps_a > a.lead_stands_a(run.lead):
        return
    if _bears_s(run, size_of(run.lead), pushes) >= STALLED_S:
        return
    thicker = next((size for size in STANDARD_SIZES if _bears_s(run, size, pushes) >= 1.2 * STALLED_S), None)
    yield Trip(
        "stop",
        "Motor lead: too thin for the controller",
        f"Into a blocked motor the controller pushes {amps(pushes)}; {run.lead.words} stands {amps(a.lead_stands_a(run.lead))} and is too hot within {seconds(_bears_s(run, size_of(run.lead), pushes))}. "
        "No fuse sees these amps.",
        f"Use {thicker.words} or thicker, or a lower motor-side limit." if thicker else "Use a lower motor-side limit.",
        f"{run.path}/awg",
        (fuse_and_size(run, None, thicker),) if thicker else (),
        place="motor.push",
        margin=margins.lead_amps(pushes, a.lead_stands_a(run.lead)),
    )


def _pushed_a(control: ControllerModel, stalled: OperatingPoint) -> float | None:
    """What the controller pushes into a blocked motor; None where nothing meters it. [A]"""
    limit = control.phase_limit_a
    return None if limit is None or control.kind == "none" else min(float(np.mean(limit)), float(stalled.motor_a))


def _bears_s(run: Run, size: Size, amps_a: float) -> float:
    """How long a wire of this size bears so many amps [A] in the run's bundle and air. [s]"""
    row = run.data.row
    bundled = size.table_a(row) * bundle_factor(size.in_bundle(run.lead.bundle_conductors))
    return float(seconds_to_insulation(size.area_m2, amps_a, bundled, INSULATION_C[row], run.data.lead_air_c))


@setup_rule("wire.unknown", station="leads", stage="protect", principle="A lead nobody has looked at is not known to stand anything.", needs="bank")
def wire_unknown(setup: Setup) -> Iterator[Trip]:
    bank = setup.bank
    assert bank is not None
    names = [f"lead of row {letters((r,))}" for r, row in enumerate(bank.rows) if row.lead is None and len(bank.rows) > 1]
    names += [f"links of row {letters((r,))}" for r, row in enumerate(bank.rows) if row.link is None and len(row.units) > 1]
    names += [] if setup.motor_lead is not None or setup.controller is None or setup.controller.kind == "none" else ["motor lead"]
    names += [f"lead of the {branch.label}" for branch in setup.auxiliaries if branch.lead is None and branch.fuse is not None]
    if names:
        yield Trip(
            "caution",
            "Leads nobody has entered",
            f"Not known: {', '.join(names)}. Whether they stand what flows cannot be said.",
            "Read the gauge off the insulation, or compare with a wire you know, and enter it.",
            _unknown_path(setup.bank),
        )


def _unknown_path(bank: Bank | None) -> str:
    for r, row in enumerate(bank.rows if bank else []):
        if row.lead is None and bank and len(bank.rows) > 1:
            return f"/bank/rows/{r}/lead"
        if row.link is None and len(row.units) > 1:
            return f"/bank/rows/{r}/link"
    return "/motor_lead"


@rule("wire.drop", station="leads", stage="protect", principle="Volts lost in the lead are speed lost on the road.")
def wire_drop(a: Analysis) -> Iterator[Trip]:
    half = float(a.half.open_v)
    for run in a.runs:
        lead = run.lead
        lost = run.amps_a * lead.ohm
        if lost <= 0.03 * half:
            continue
        enough = (s for s in STANDARD_SIZES if s.area_m2 >= lead.area_m2 * lost / (0.03 * half))
        yield Trip(
            "caution" if lost > 0.10 * half else "note",
            "Volts get lost in the lead" if run.kind == "main" else f"{run.name}: volts get lost",
            f"At {amps(run.amps_a)} the {q(lead.length_m.value, 'length')} of {lead.words} lose {volts(lost)}, {100 * lost / half:.1f} % of the bank's.",
            "Use a thicker or a shorter lead; 3 % is the goal.",
            f"{run.path}/awg",
            tuple(fuse_and_size(run, None, size) for size in enough)[:1],
            place=_place(run),
        )


@rule("wire.mixed", station="leads", stage="protect", principle="A thinner lead behind a fuse needs a fuse of its own, or the gauge that fuse guards.")
def wire_mixed(a: Analysis) -> Iterator[Trip]:
    for cell in guarded_cells(a):
        failing = cell.table.failing(a.context.house.wire_school)
        bad = [name for name in GUARDED[:3] if failing[name][cell.f, cell.g]]
        if not bad:
            continue
        # The same conditions, and the same severity, as for the main lead: it burns as well.
        stop = cell.fails("withstand") or bool(cell.table.wire_common[cell.f, cell.g])
        because = (
            f"At {q(a.setup.ground.coldest_c, 'temp')} and 20 % charge a short at its end draws only {amps(cell.number('prospective_20_percent_coldest_a'))}; "
            f"the {cell.fuse_words} wants twice its rating."
            if bad == ["cold_short"]
            else too_hot_words(cell, a.lead_stands_a(cell.run.lead))
        )
        yield Trip(
            "stop" if stop else "caution",
            f"{cell.run.name}: too thin for the fuse before it",
            because,
            "Use a thicker wire, or give this lead a fuse of its own.",
            f"{cell.run.path}/awg",
            best_edits(a, cell.run),
            place=cell.run.id,
            margin=too_hot(cell, a.lead_stands_a(cell.run.lead)),
        )
    yield from _bare_accessories(a)


def _bare_accessories(a: Analysis) -> Iterator[Trip]:
    """What hangs on the packs beside the drive without a fuse of its own, whether its lead is entered or not."""
    full = a.full_v or 0.0
    for i, branch in enumerate(a.setup.auxiliaries):
        run = a.run(f"accessory{i}")
        if branch.fuse is not None or branch.taps == "part of the string":
            continue
        if branch.taps == "behind the cut-off" and a.setup.main_fuse is not None and run is not None:
            continue
        at_packs = branch.taps == "at the packs"
        short_a = float(a.full.open_v / a.full.resistance_ohm)
        fuse = fuse_for(round_up(1.5 * branch.amps_a.value, 1), full)
        edits = best_edits(a, run) if run is not None and run.guard in ("", run.id) else ()
        small = (Edit(f"A {fuse.rating_a:g} A fuse of its own", put(f"auxiliaries/{i}/fuse", as_fuse(fuse))),) if fuse is not None else ()
        yield Trip(
            "stop" if at_packs else "caution",
            f"{branch.label}: no fuse at all" if at_packs else f"{branch.label}: no fuse of its own",
            f"Its lead comes straight from the packs, which push {amps(short_a)} through it in a short."
            if at_packs
            else "How thick its lead is nobody has entered, and only the main fuse stands before it.",
            "Give it a small fuse of its own where it leaves the packs.",
            f"/auxiliaries/{i}/fuse",
            (*edits, *small),
            place=f"accessory{i}",
            margin=margins.drawn_without_protection(short_a),
        )


@rule("wire.joint", station="leads", stage="protect", principle="What shakes loose sparks and heats: crimp what can be taken apart, solder what stays.", needs="document")
def wire_joint(a: Analysis) -> Iterator[Trip]:
    bank, setup = a.setup.bank, a.setup
    leads = [
        ("main lead", "/main_lead", setup.main_lead),
        ("controller lead", "/controller_lead", setup.controller_lead),
        ("motor lead", "/motor_lead", setup.motor_lead),
    ]
    leads += [(f"lead of row {chr(ord('A') + r)}", f"/bank/rows/{r}/lead", row.lead) for r, row in enumerate(bank.rows if bank else [])]
    leads += [(f"lead of the {branch.label}", f"/auxiliaries/{i}/lead", branch.lead) for i, branch in enumerate(setup.auxiliaries)]
    twisted = [(name, path) for name, path, lead in leads if lead is not None and lead.joint == "twist cap"]
    if not twisted:
        return
    names = ", ".join(name for name, _ in twisted)
    yield Trip(
        "note" if a.context.house.joints == "any" else "caution",
        "Twist caps on a machine that shakes",
        f"Joined by twist caps: {names}. They are made for walls that stand still; shaken they let go or arc.",
        "Crimp them, or solder and sleeve them.",
        f"{twisted[0][1]}/joint",
        (Edit("Crimp them", both(*(put(f"{path}/joint", "crimped") for _, path in twisted))),),
    )


def asked_plugs(a: Analysis) -> Iterator[tuple[str, str, Plug, float]]:
    """Every plug with its path, the place of its findings, and the amps it is asked for. [A]"""
    known = a.machine is not None
    for i, plug in enumerate(a.setup.plugs):
        asked = 0.0
        if known:
            asked = a.motor_rms_a if plug.place == "motor" and a.m.control.kind != "none" else a.rms_a
        yield f"/plugs/{i}", str(i), plug, asked
    for r, row in enumerate(a.setup.bank.rows if a.setup.bank else []):
        for i, plug in enumerate(row.plugs):
            yield f"/bank/rows/{r}/plugs/{i}", f"row{r}.{i}", plug, a.row_worst[1][r] if known else 0.0


@rule("plug.rating", station="plugs", stage="protect", principle="A plug that carries too much browns and melts.")
def plug_rating(a: Analysis) -> Iterator[Trip]:
    for path, place, plug, asked in asked_plugs(a):
        stands = plug_stands_a(plug)
        if asked <= 0.8 * stands:
            continue
        carries = margins.plug_amps(asked, stands)
        over = carries.over
        yield Trip(
            "stop" if over else "caution",
            "A plug carries too much" if over else "A plug is close to its limit",
            f"The {plug.kind} plug is asked for {amps(asked)}; it stands {amps(stands)}.",
            "Use a stronger plug.",
            f"{path}/kind",
            (stronger_plug(a, path, plug.poles, plug.place),),
            place=place,
            margin=carries,
        )


@rule("plug.live", station="plugs", stage="protect", principle="The half that stays powered has its pins covered.", needs="document")
def plug_live(a: Analysis) -> Iterator[Trip]:
    for path, place, plug, _ in asked_plugs(a):
        if plug.live_pins:
            yield Trip(
                "caution",
                "Bare pins that stay live",
                f"Pulled apart, the half of the {plug.kind} plug on the packs' side has bare pins with {volts(a.full_v or 0.0)} on them.",
                "Put the socket half on the packs' side and the pin half on the other.",
                f"{path}/live_pins",
                (Edit("Swap the halves", put(f"{path}/live_pins", False)),),
                place=place,
            )


@rule("plug.browned", station="plugs", stage="protect", principle="A browned plug ran too hot once and will again.", needs="document")
def plug_browned(a: Analysis) -> Iterator[Trip]:
    for path, place, plug, _ in asked_plugs(a):
        if plug.browned:
            yield Trip(
                "stop",
                "A browned plug is used again",
                f"The {plug.kind} plug is browned: its contacts have at least ten times their resistance and heat up more with every ride.",
                "Cut it off and fit a new pair.",
                f"{path}/browned",
                (Edit("Fit a new pair", put(f"{path}/browned", False)),),
                place=place,
            )


SWITCHES = (("cut_off", "cut-off"), ("key_switch", "key"), ("contactor", "contactor"), ("pedal_switch", "pedal switch"))
"""Everything in the path that must break the current, by its field."""


@rule("switch.dc", station="cut_off", stage="protect", principle="A DC arc does not go out by itself: a switch needs DC volts and amps.", needs="bank")
def switch_dc(a: Analysis) -> Iterator[Trip]:
    full = a.full_v or 0.0
    worst = float(a.peak_a) if a.machine is not None else 0.0
    if a.machine is not None and a.m.control.kind == "none":
        # The stall amps through a pedal switch are the rule about driving without a controller; here what it breaks on every ride.
        worst = max(a.rms_a, 0.5 * worst)
    control = a.setup.controller
    behind = float(np.max(a.launch.motor_a)) if a.machine is not None and control is not None and control.before_pedal else worst
    for name, words in SWITCHES:
        switch = getattr(a.setup, name)
        if switch is not None:
            # Behind a module the pedal switches what the motors take, which is more than the packs give.
            yield from _breaks(a, name, words, switch, full, max(worst, behind) if name == "pedal_switch" else worst)
    for path, place, plug, _ in asked_plugs(a):
        if plug.dc_volts_v is not None and (breaks := margins.switch_volts(full, plug.dc_volts_v.value)).over:
            yield Trip(
                "stop",
                "A plug is not made for these volts",
                f"The {plug.kind} plug is made for {plug.dc_volts_v.value:g} V DC, and full packs give {volts(full)}. Pulled under load it would draw an arc.",
                f"Use one for {round_up(full, 10):.0f} V DC or more.",
                f"{path}/dc_volts_v",
                (Edit(f"Use one for {round_up(full, 10):.0f} V DC", put(f"{path}/dc_volts_v", to_buy(round_up(full, 10)))),),
                place=f"plug{place}",
                station="plugs",
                margin=breaks,
            )


def _breaks(a: Analysis, name: str, words: str, switch: Switch, full: float, worst: float) -> Iterator[Trip]:
    by_volts = margins.switch_volts(full, switch.dc_volts_v.value if switch.dc_volts_v is not None else np.inf)
    by_amps = margins.switch_amps(worst, switch.rating_a.value if switch.rating_a is not None else np.inf)
    new_v, new_a = round_up(full, 10), round_up(max(worst * 1.25, switch.rating_a.value if switch.rating_a else 0.0), 10)
    by_hand = switch.kind == "pullable plug"
    unknown = not by_hand and (switch.dc_volts_v is None or switch.rating_a is None)
    if by_volts.over or by_amps.over:
        what = f"{by_volts.stands:g} V DC, and full packs give {volts(full)}" if by_volts.over else f"{amps(float(by_amps.stands))}, and a launch asks for {amps(worst)}"
        yield Trip(
            "stop",
            f"The {words} cannot break this circuit",
            f"The {words} is made for {what}. Its contacts would weld or burn.",
            f"Use one for {new_v:.0f} V DC and {new_a:.0f} A or more.",
            f"/{name}",
            (stronger_switch(a.setup, name, words, new_v, new_a),),
            place=name,
            margin=by_volts if by_volts.over else by_amps,
        )
    elif unknown:
        yield Trip(
            "stop",
            f"What does the {words} break?",
            f"No DC {'volts are' if switch.dc_volts_v is None else 'amps are'} entered for the {words}. It must break {volts(full)} DC and {amps(worst)}; a rating for AC says nothing.",
            f"Read its DC rating off its body and enter it; else use one for {new_v:.0f} V DC and {new_a:.0f} A.",
            f"/{name}/{'dc_volts_v' if switch.dc_volts_v is None else 'rating_a'}",
            (stronger_switch(a.setup, name, words, new_v, new_a),),
            place=name,
            gate="power",
            margin=margins.switch_volts(full, 0.0),
        )
    if switch.side == "negative":
        yield Trip(
            "stop",
            f"The {words} is in the minus lead",
            f"With the {words} open the whole machine still hangs on the packs' plus: a short to the frame passes it by.",
            "Move it into the positive lead, close to the packs.",
            f"/{name}/side",
            (Edit("Move it to the positive lead", put(f"{name}/side", "positive")),),
            place=f"{name}.side",
        )


@setup_rule("switch.reach", station="cut_off", stage="protect", principle="A switch that stops it helps only who can reach it.")
def switch_reach(setup: Setup) -> Iterator[Trip]:
    switch = setup.cut_off
    if switch is None or switch.reach != "out of reach":
        return
    yield Trip(
        "stop",
        "The cut-off is out of reach",
        "When it runs away neither the rider nor an adult beside it reaches the cut-off.",
        "Move it to where the rider reaches it, or an adult walking beside.",
        "/cut_off/reach",
        (Edit("Move it to where the rider reaches it", put("cut_off/reach", "rider")),),
        gate="ride",
    )
