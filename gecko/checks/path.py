"""Checks of leads, plugs and switches."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis import Analysis
from gecko.checks.edits import both, figure, fuse_and_size, put, round_up
from gecko.checks.fuse import GUARDED, best_edits, guarded_cells, too_hot_words
from gecko.checks.registry import Edit, Trip, rule
from gecko.electric.contacts import plug_stands_a
from gecko.parts.plug import Plug
from gecko.protection.ampacity import STANDARD_SIZES, Size, derated_ampacity_a
from gecko.protection.runs import Run
from gecko.words import amps, q, volts


def _place(run: Run) -> str:
    return "" if run.kind == "main" else run.id


def _thicker(a: Analysis, run: Run) -> Size | None:
    """Thinnest gauge that carries the run's amps."""
    lead = run.lead
    return next((s for s in STANDARD_SIZES if derated_ampacity_a(s, a.lead_row(lead), run.data.lead_air_c, lead.bundle_conductors) >= run.amps_a), None)


@rule("wire.ampacity", station="leads", stage="protect", principle="A lead carries its amps without getting hot.")
def wire_ampacity(a: Analysis) -> Iterator[Trip]:
    for run in a.runs:
        stands = a.lead_stands_a(run.lead)
        if run.amps_a <= stands:
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
        )


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
        bad = [name for name in GUARDED[:3] if cell.table.failing(a.context.house.wire_school)[name][cell.f, cell.g]]
        if not bad:
            continue
        because = (
            f"At {q(a.setup.ground.coldest_c, 'temp')} and 20 % charge a short at its end draws only {amps(cell.number('prospective_20_percent_coldest_a'))}; "
            f"the {cell.fuse_words} wants twice its rating."
            if bad == ["cold_short"]
            else too_hot_words(a, cell)
        )
        yield Trip(
            "caution",
            f"{cell.run.name}: too thin for the fuse before it",
            because,
            "Use a thicker wire, or give this lead a fuse of its own.",
            f"{cell.run.path}/awg",
            best_edits(a, cell.run),
            place=cell.run.id,
        )
    for run in a.runs:
        if run.kind == "accessory" and not run.guard:
            yield Trip(
                "caution",
                f"{run.name}: no fuse at all",
                f"Its {run.lead.words} lead comes straight from the packs, which can push {amps(run.data.warm_open_v / run.data.warm_bank_ohm)} through it in a short.",
                "Give it a small fuse of its own where it leaves the packs.",
                run.fuse_path,
                best_edits(a, run),
                place=run.id,
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
        over = asked > stands
        yield Trip(
            "stop" if over else "caution",
            "A plug carries too much" if over else "A plug is close to its limit",
            f"The {plug.kind} plug is asked for {amps(asked)}; it stands {amps(stands)}.",
            "Use a stronger plug.",
            f"{path}/kind",
            (Edit("Use a two-pole plug of the 90 A class", put(path, {"kind": "two-pole 90", "poles": plug.poles, "place": plug.place})),),
            place=place,
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


@rule("switch.dc", station="cut_off", stage="protect", principle="A DC arc does not go out by itself: a switch needs DC volts and amps.", needs="bank")
def switch_dc(a: Analysis) -> Iterator[Trip]:
    full = a.full_v or 0.0
    for name, words in (("cut_off", "cut-off"), ("pedal_switch", "pedal switch")):
        switch = getattr(a.setup, name)
        if switch is None:
            continue
        asked = a.rms_a if a.machine is not None else 0.0
        bad_v = switch.dc_volts_v is not None and switch.dc_volts_v.value < full
        bad_a = switch.rating_a is not None and switch.rating_a.value < asked
        if not bad_v and not bad_a:
            continue
        what = f"{switch.dc_volts_v.value:g} V DC, and full packs give {volts(full)}" if bad_v else f"{amps(switch.rating_a.value)}, and the ride asks for {amps(asked)}"
        new_a = round_up(max(asked * 1.25, switch.rating_a.value if switch.rating_a else 0.0), 10)
        yield Trip(
            "stop",
            f"The {words} cannot break this circuit",
            f"The {words} is made for {what}. Its contacts would weld or burn.",
            f"Use one for {round_up(full, 10):.0f} V DC and {new_a:.0f} A or more.",
            f"/{name}",
            (
                Edit(
                    f"Use a {words} for {round_up(full, 10):.0f} V DC, {new_a:.0f} A",
                    put(name, {**switch.model_dump(), "dc_volts_v": figure(round_up(full, 10)), "rating_a": figure(new_a)}),
                ),
            ),
            place=name,
        )
    for path, place, plug, _ in asked_plugs(a):
        if plug.dc_volts_v is not None and plug.dc_volts_v.value < full:
            yield Trip(
                "stop",
                "A plug is not made for these volts",
                f"The {plug.kind} plug is made for {plug.dc_volts_v.value:g} V DC, and full packs give {volts(full)}. Pulled under load it would draw an arc.",
                f"Use one for {round_up(full, 10):.0f} V DC or more.",
                f"{path}/dc_volts_v",
                (Edit(f"Use one for {round_up(full, 10):.0f} V DC", put(f"{path}/dc_volts_v", figure(round_up(full, 10)))),),
                place=f"plug{place}",
                station="plugs",
            )
