"""Checks of leads, plugs and switches."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis import Analysis
from gecko.checks.edits import figure, put, round_up
from gecko.checks.fuse import best_edits
from gecko.checks.registry import Edit, Trip, rule
from gecko.electric.path import wire_ohm_per_m
from gecko.protection.ampacity import derated_ampacity_a
from gecko.reference.tables import AWG_SIZES, contact
from gecko.words import amps, q, volts


@rule("wire.ampacity", station="leads", stage="protect", principle="A lead carries its amps without getting hot.")
def wire_ampacity(a: Analysis) -> Iterator[Trip]:
    lead = a.setup.main_lead
    if lead is None:
        return
    stands = a.lead_stands_a(lead)
    if a.rms_a <= stands:
        return
    thicker = next((g for g in AWG_SIZES if derated_ampacity_a(g, a.lead_row(lead), a.setup.ground.ambient_c, lead.bundle_conductors) >= a.rms_a), 2)
    yield Trip(
        "stop",
        "The lead is too thin for the ride",
        f"The ride asks for {amps(a.rms_a)} on average; {q(lead.awg, 'awg')} stands {amps(stands)} in this bundle at {q(a.setup.ground.ambient_c, 'temp')}.",
        f"Use {q(thicker, 'awg')} or thicker.",
        "/main_lead/awg",
        (*best_edits(a), Edit(f"Use {q(thicker, 'awg')}", put("main_lead/awg", thicker))),
    )


@rule("wire.drop", station="leads", stage="protect", principle="Volts lost in the lead are speed lost on the road.")
def wire_drop(a: Analysis) -> Iterator[Trip]:
    lead = a.setup.main_lead
    if lead is None:
        return
    ohm = 2.0 * lead.length_m.value * float(wire_ohm_per_m(lead.awg))
    share = a.rms_a * ohm / float(a.half.open_v)
    if share <= 0.03:
        return
    index = AWG_SIZES.index(lead.awg)
    edits = tuple(
        Edit(f"Use {q(g, 'awg')}", put("main_lead/awg", g))
        for g in AWG_SIZES[index + 1 :]
        if a.rms_a * 2.0 * lead.length_m.value * float(wire_ohm_per_m(g)) / float(a.half.open_v) <= 0.03
    )[:1]
    yield Trip(
        "caution" if share > 0.10 else "note",
        "Volts get lost in the lead",
        f"At {amps(a.rms_a)} the {q(lead.length_m.value, 'length')} of {q(lead.awg, 'awg')} lose {volts(a.rms_a * ohm)}, {100 * share:.1f} % of the bank's.",
        "Use a thicker or a shorter lead; 3 % is the goal.",
        "/main_lead/awg",
        edits,
    )


@rule("plug.rating", station="plugs", stage="protect", principle="A plug that carries too much browns and melts.")
def plug_rating(a: Analysis) -> Iterator[Trip]:
    for i, plug in enumerate(a.setup.plugs):
        stands = plug.rating_a.value if plug.rating_a else contact(plug.kind)[1]
        if a.rms_a <= 0.8 * stands:
            continue
        over = a.rms_a > stands
        yield Trip(
            "stop" if over else "caution",
            "A plug carries too much" if over else "A plug is close to its limit",
            f"The {plug.kind} plug is asked for {amps(a.rms_a)}; it stands {amps(stands)}.",
            "Use a stronger plug.",
            f"/plugs/{i}/kind",
            (Edit("Use a two-pole plug of the 90 A class", put(f"plugs/{i}", {"kind": "two-pole 90", "poles": plug.poles})),),
            place=str(i),
        )


@rule("plug.browned", station="plugs", stage="protect", principle="A browned plug ran too hot once and will again.", needs="document")
def plug_browned(a: Analysis) -> Iterator[Trip]:
    for i, plug in enumerate(a.setup.plugs):
        if plug.browned:
            yield Trip(
                "stop",
                "A browned plug is used again",
                f"The {plug.kind} plug is browned: its contacts have at least ten times their resistance and heat up more with every ride.",
                "Cut it off and fit a new pair.",
                f"/plugs/{i}/browned",
                (Edit("Fit a new pair", put(f"plugs/{i}/browned", False)),),
                place=str(i),
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
