"""When it goes wrong: what to do, in few words, with the switches of this machine; what not to do; what to look at before it runs again.

Cautions of this project, deferring to fire service and doctors. Where somebody is hurt or something burns, what they say on the phone goes
before anything here.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from gecko.answers.evaluation import Gate, Out
from gecko.document.setup import Setup

TroubleId = Literal["runaway", "smoke", "swelling", "water", "crash", "acid", "shock"]


class Do(Out):
    """One thing to do: in two or three words, and where it helps a sentence."""

    title: str
    what: str


class TroubleCheck(Out):
    """One thing to look at before it is powered or ridden again, and which of the two it holds up."""

    key: str
    text: str
    gate: Gate


class Trouble(Out):
    """One kind of trouble. call: the emergency number belongs at the top of it."""

    id: TroubleId
    title: str
    under: str
    lead: str
    call: bool
    steps: list[Do]
    dont: list[str]
    milder_title: str
    milder: str
    before: str
    """What may not be done before the checks: "rides", "charges" or "is powered"."""
    checks: list[TroubleCheck]


def trouble_of(setup: Setup | None) -> list[Trouble]:
    """Every kind of trouble, told for a machine; in general words without one."""
    return [_runaway(setup), _smoke(), _swelling(), _water(), _crash(setup), _acid(), _shock(setup)]


def _checks(gate: Gate, *texts: str) -> list[TroubleCheck]:
    return [TroubleCheck(key=f"{gate}{i}", text=text, gate=gate) for i, text in enumerate(texts)]


REACH = {"rider": "within the rider's reach", "adult beside it": "an adult beside it reaches it", "out of reach": "hard to reach: stop the machine first"}


def _ways_off(setup: Setup | None) -> Iterator[Do]:
    """What switches this machine off, the nearest first."""
    if setup is None:
        yield Do(title="Switch off.", what="Key, cut-off or battery plug, whichever is nearest.")
        return
    if setup.controls.key or setup.key_switch is not None:
        yield Do(title="Key off.", what="It cuts the controller." if setup.key_switch is None else "It cuts the machine's own current.")
    if setup.cut_off is not None:
        where = REACH.get(setup.cut_off.reach or "", "where the plan says")
        pull = "Pull the plug" if setup.cut_off.kind == "pullable plug" else "Open the cut-off"
        yield Do(title=f"{pull}.", what=f"It parts the packs from everything; {where}. Anyone near may do it.")
    if not setup.controls.key and setup.key_switch is None and setup.cut_off is None:
        yield Do(title="Pull the battery plug.", what="This machine has neither key nor cut-off: only its packs' plug stops it. From behind, once it stands or lies.")


def _runaway(setup: Setup | None) -> Trouble:
    levers = setup is None or (setup.vehicle is not None and setup.vehicle.family != "ride-on car")
    handle = "Foot off the pedal" if not levers else "Hand off the throttle"
    steps = [
        Do(title="Let go, and brake." if levers else "Let go.", what=f"{handle}{', both levers' if levers else ''}. Steer for grass, away from people."),
        *_ways_off(setup),
    ]
    checks = ["Throttle or pedal snaps back by itself, also with the bars turned", "Wheels up: nothing turns with the throttle let go"]
    if setup is None or setup.cut_off is not None:
        checks.append("Wheels up: the cut-off kills it while it turns")
    if setup is not None and setup.throttle is not None and setup.throttle.brake_cut_off_wired:
        checks.append("Wheels up: the brake lever stops the motor")
    if setup is not None and setup.controller is not None and setup.controller.kind != "none":
        checks.append("Throttle plug dry and whole; the signal at rest is low")
    return Trouble(
        id="runaway",
        title="It runs away",
        under="throttle stuck, will not stop",
        lead="Shout it, loud and short.",
        call=False,
        steps=steps,
        dont=["Do not stand in front of it.", "Do not lift it while the wheel turns."],
        milder_title="Still pulling?",
        milder="Lay it on its side or push it against something soft, and step clear. Then pull the pack's plug, from behind.",
        before="rides",
        checks=_checks("ride", *checks),
    )


def _smoke() -> Trouble:
    return Trouble(
        id="smoke",
        title="Smoke or heat from a pack",
        under="pack, plug or motor",
        lead="The pack is worth nothing. People first.",
        call=True,
        steps=[
            Do(title="Everyone away.", what="Children first, out of the smoke and upwind of it."),
            Do(title="Leave it where it is.", what="Hot, hissing or smoking: do not lift, press or carry it."),
            Do(title="Call the fire service.", what="Say “a lithium battery is burning”, and where."),
            Do(title="Shut the door and wait outside.", what="It can flare up again for hours, even when it looks out."),
        ],
        dont=["Do not breathe the smoke to save the machine.", "Do not pull plugs on a pack that hisses.", "Do not put it in car or bin."],
        milder_title="Only warm, no smoke, no hiss?",
        milder="Switch the charger off at the wall, open the cut-off, walk away for an hour. Then outdoors, on stone, well away from anything that burns.",
        before="charges",
        checks=_checks(
            "power",
            "The fire service has said it is over, or nothing ever smoked",
            "The pack went to a battery collection point, and not back",
            "Plug, lead and fuse looked at, browned ones replaced",
            "Charger tried with another pack, somebody beside it",
        ),
    )


def _swelling() -> Trouble:
    return Trouble(
        id="swelling",
        title="A pack swells",
        under="or smells sweet",
        lead="It is finished, and may still burn.",
        call=False,
        steps=[
            Do(title="Stop using it.", what="Charger off at the wall, cut-off open. Do not charge or drain it."),
            Do(title="Outdoors, if it is cool.", what="On stone or in a metal bin of dry sand, well away from anything that burns."),
            Do(title="Tape its poles.", what="Then to a battery collection point; say that it swelled."),
        ],
        dont=["Do not press or pierce it.", "Do not put it in household waste.", "Do not keep it indoors overnight."],
        milder_title="Warm, hissing or smoking?",
        milder="Then it is a burning pack: everyone away, and call the fire service.",
        before="charges",
        checks=_checks(
            "power",
            "The pack went to a battery collection point",
            "The other packs of its row looked at, measured alone: equal volts, no swelling",
            "The charger's end volts measured",
        ),
    )


def _water() -> Trouble:
    return Trouble(
        id="water",
        title="Into water",
        under="dropped in, hosed, rained in",
        lead="Water eats contacts for days after.",
        call=False,
        steps=[
            Do(title="Power off.", what="Key off, cut-off open, before anybody lifts it out."),
            Do(title="Packs out.", what="If they are cool. Stand them outdoors, apart, for a day; salt water: a collection point."),
            Do(title="Open and dry everything.", what="Covers, plugs, controller; a day in warm air, no heat gun."),
        ],
        dont=["Do not try whether it still runs.", "Do not charge a pack that was under water."],
        milder_title="Only splashed?",
        milder="Wipe it, open the plugs, look for wet or green contacts, let it dry overnight.",
        before="is powered",
        checks=_checks(
            "power",
            "Packs looked at and measured after a day apart: no volts lost, no smell",
            "Every plug opened, dry, no green or white",
            "Measured without power: plus to minus and both to the frame are not a short",
        ),
    )


def _crash(setup: Setup | None) -> Trouble:
    pack_held = "Packs whole, their straps and mount tight"
    checks = [
        "Throttle snaps back, also with the bars turned",
        "Brakes hold, levers and cables straight",
        "Wheels, axle and steering tight and straight",
        "Every lead and plug along its whole way: nothing torn or squeezed",
    ]
    if setup is not None and setup.drivetrain is not None and setup.drivetrain.kind == "chain":
        checks.append("Chain in line, guard on")
    return Trouble(
        id="crash",
        title="A crash",
        under="fall, tip, something bent",
        lead="The rider first. The machine can lie.",
        call=True,
        steps=[
            Do(title="Switch it off.", what="Key or cut-off, so that nothing drives on."),
            Do(title="Look after the rider.", what="Head, neck, belly or a blow that hurts on: do not move them, call for help."),
            Do(title="Look at the packs.", what="Dented, warm or smelling: outdoors, and away from it."),
        ],
        dont=["Do not ride on to see if it still works.", "Do not take a helmet off someone whose neck hurts."],
        milder_title="Only a tip at walking pace?",
        milder="Then the checks below, and a smaller step next time.",
        before="rides",
        checks=[*_checks("power", pack_held), *_checks("ride", *checks)],
    )


def _acid() -> Trouble:
    return Trouble(
        id="acid",
        title="Acid",
        under="a lead battery leaks",
        lead="Water, at once, and lots of it.",
        call=False,
        steps=[
            Do(title="Rinse.", what="Skin or eyes under running water for a quarter of an hour; wet clothes off."),
            Do(title="Eyes, or it still hurts: a doctor.", what="Keep rinsing on the way. Call the emergency number when in doubt."),
            Do(title="Then the machine.", what="Gloves and glasses on, baking soda until it no longer foams, rinse, dry."),
        ],
        dont=["Do not rub an eye.", "Do not wipe acid up with a bare hand or a dry rag."],
        milder_title="Only white crust on the poles?",
        milder="Gloves on, baking soda and water, dry, a little grease. Crust comes back where a block leaks.",
        before="is powered",
        checks=_checks("power", "The leaking block is out, at a battery collection point", "Leads and frame rinsed and dry, eaten ones replaced"),
    )


def _shock(setup: Setup | None) -> Trouble:
    full = setup.bank.rows[0].full_v if setup is not None and setup.bank is not None else None
    volts = f"Full packs of this machine give {full:.0f} V. " if full is not None else ""
    return Trouble(
        id="shock",
        title="A shock",
        under="or the mains side",
        lead="Do not touch whoever holds on to it.",
        call=True,
        steps=[
            Do(title="Cut the current.", what="Mains: plug or breaker. Packs: cut-off or plug."),
            Do(title="Call for help.", what="Not awake or not breathing: emergency number first, then do as they say."),
            Do(title="See a doctor.", what=f"After any shock from the mains, and after one from over 60 V, also when all seems well. {volts}".strip()),
        ],
        dont=["Do not touch them before the current is off.", "Do not mend a charger or a mains lead: that is for a licensed electrician."],
        milder_title="Only a tingle at the charger?",
        milder="Pull it at the wall. Never use it again: its case is live.",
        before="is powered",
        checks=_checks("power", "The charger or lead that gave the shock is out of the house", "No bare terminal left: every pole covered"),
    )
