"""The way of the current with the packs out: motor, controller or pedal switch, guard, cut-off, empty fuse holder."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from gecko.document.parts.hookup import OrderTrial, Side
from gecko.hookup.joined import MINUS_BAR, PLUS_BAR, Joined
from gecko.hookup.netlist import joined_as
from gecko.hookup.readings import NOT_A_SHORT_OHM, State
from gecko.hookup.shape import Step, not_a_short, ohms, opened
from gecko.hookup.steps.controls import colours, sentences
from gecko.hookup.steps.joints import TIED, joint, tools

SLEEVED = "Sleeve over every bare lug, edge cover where the lead passes metal, a tie a hand's width from each end."


def motor_steps(net: Joined) -> Iterator[Step]:
    """The motor to what drives it, and the switch for its direction between them."""
    setup, wiring = net.setup, net.wiring
    motors = [part.id for part in wiring.parts if part.kind == "motor"]
    if setup.motor is None or net.motor_ohm is None or not motors:
        return
    made = {
        "tools": [*tools(setup.motor_lead), "meter on ohms"],
        "joint": joint(setup.motor_lead, [plug for plug in setup.plugs if plug.place == "motor"]),
        "care": f"{TIED} Tie the motor's leads a hand's width from it.",
    }
    if setup.motor.brushless:
        for i, part in enumerate(motors):
            side: Side | None = None if len(motors) == 1 else "right" if i else "left"
            yield Step(
                id=part if i else "motor",
                title=f"{wiring.part(part).label}: phases and Halls to the controller",
                what=sentences(
                    "Three thick phase leads and the five-pole Hall plug. Keep phases and Halls in their pairs." if setup.motor.has_halls else "Three thick phase leads.",
                    colours(setup, "phases", side),
                    colours(setup, "Halls", side),
                    _found_by_trying(setup.order_trials, side),
                ),
                blocks=[part],
                reading=ohms(net, (f"{part}.phase A", f"{part}.phase B"), note="Measured before they are joined; the same between any two phases.", spread=1.0),
                **made,
            )
        return
    switched = wiring.has("direction") and "direction.in 1" in wiring.terminals()
    if switched:
        yield Step(
            id="direction",
            title="Forward, neutral and reverse switch",
            what=f"In the two motor leads. Cross-wired: forward 1 to reverse 2, forward 2 to reverse 1. Then {_ways_in(net)} to its two ways in, and the motor on forward 1 and 2.",
            blocks=["direction"],
            reading=opened(
                net, ("direction.in 1", "direction.in 2"), "In neutral OL. In forward and in reverse the motor's ohms. Near 0 Ω in either is a short: crossed wrongly."
            ),
            caution="Changed over while rolling it sees twice the volts: only standing still.",
            **made,
        )
    stays = setup.controller is not None and setup.controller.before_pedal
    if stays:
        yield Step(
            id="stock_harness",
            title="Stock harness onto the module's motor side",
            what="The two leads that came from the old battery now come from the module's motor side, plus to plus. Pedal, gear and reverse switches stay as they are: nothing of the stock harness is cut or thrown away.",
            blocks=["pedal_switch"],
            reading=opened(net, ("pedal_switch.in", "pedal_switch.out"), "Pedal released: OL. Pressed: near 0 Ω."),
            caution="Before the module, never behind it: a module between pedal and motor is torn open each time the pedal lets go.",
            tools=["meter on ohms"],
        )
    joined = "" if setup.motor.count == 1 else f"The two motors are joined in {setup.motor.wiring}."
    ends = (f"{motors[0]}.+", f"{motors[-1]}.−") if setup.motor.wiring == "series" else (f"{motors[0]}.+", f"{motors[0]}.−")
    yield Step(
        id="motor",
        title="Motor leads stay where they are" if stays else "Motor leads to the " + ("direction switch" if switched else net.load_label),
        what=sentences("Only looked at and measured." if stays else "Two leads; swapped they turn the wheel backward.", joined, colours(setup, "motor")),
        blocks=motors,
        reading=ohms(net, ends, note="Turn the wheel a little if the value jumps: brushes.", spread=1.0),
        **made,
    )


def _ways_in(net: Joined) -> str:
    """What comes to the ways in of a switch for the direction, in words."""
    if net.wiring.has("pedal_switch") and net.wiring.has("controller"):
        return "the pedal switch's way out and the module's motor minus"
    if net.wiring.has("controller"):
        return "the controller's motor plus and minus"
    return "the pedal switch's way out and the minus bar"


def _found_by_trying(trials: Sequence[OrderTrial], side: Side | None) -> str:
    """The order that was found by trying, in words: it stays when the motor is joined again."""
    found = joined_as(trials, side or "")
    moved = [f"{own} to {motor}" for own, motor in found.items() if own != motor]
    if not found:
        return ""
    return f"By the tries: controller's {', '.join(moved)}; the others to their equals." if moved else "By the tries equal names belong together: leave them so."


def path_steps(net: Joined) -> Iterator[Step]:
    """Minus and plus to the load, then guard, cut-off and empty holder in the plus lead, and all of it checked without power."""
    setup, wiring = net.setup, net.wiring
    main = [plug for plug in setup.plugs if plug.place == "main"]
    made = {"tools": [*tools(setup.main_lead), "meter on ohms"], "joint": joint(setup.main_lead), "care": SLEEVED}
    if net.load_minus != MINUS_BAR:
        yield Step(
            id="minus",
            title=f"Minus lead to the {net.back_label}",
            what="Join the minus bar and the minus terminal, by the marking.",
            blocks=[net.load_minus.split(".")[0]],
            reading=ohms(net, (MINUS_BAR, net.load_minus)),
            **made,
        )
    lead = setup.controller_lead or setup.main_lead
    yield Step(
        id="plus",
        title=f"Plus lead to the {net.load_label}",
        what="Join the plus lead at the load's end only; its other end stays free and covered.",
        blocks=[net.load_plus.split(".")[0]],
        reading=not_a_short(net, (net.load_plus, MINUS_BAR), red_on="plus lead, free end"),
        caution="Find plus by the marking or the meter, never by the colour." if not (setup.vehicle and setup.vehicle.plus_lead_proven) else "",
        tools=[*tools(lead), "meter on ohms"],
        joint=joint(lead, main),
        care=SLEEVED,
    )
    if wiring.has("guard"):
        yield Step(
            id="guard",
            title="Low-volt guard into the plus lead",
            what="Input towards the packs, output towards the load, its minus to the minus bar.",
            blocks=["guard"],
            reading=not_a_short(net, ("guard.in", MINUS_BAR)),
            **made,
        )
    if wiring.has("cut_off"):
        yield Step(
            id="cut_off",
            title="Cut-off into the plus lead",
            what="Fit it within reach. Measure across it switched off, then on: on it must be near 0 Ω.",
            blocks=["cut_off"],
            reading=opened(net, ("cut_off.in", "cut_off.out"), "Switched off the meter shows OL: open."),
            safety=True,
            **made,
        )
    if wiring.has("main_fuse"):
        yield Step(
            id="holder",
            title="Main fuse holder, empty",
            what="Into the plus lead, close to the packs. The fuse stays on the bench until the end.",
            blocks=["main_fuse"],
            reading=opened(net, ("main_fuse.in", "main_fuse.out")),
            tools=made["tools"],
            joint=made["joint"],
            care="Holder upright, cap on, out of the spray; no pull on its leads.",
        )


def unpowered_check(net: Joined) -> Iterator[Step]:
    """All that is joined, measured once more before a pack comes near."""
    wiring = net.wiring
    tips = "main_fuse.out" if wiring.has("main_fuse") else PLUS_BAR, MINUS_BAR
    own = net.resistance(State(cut_off=True), *tips)
    least = NOT_A_SHORT_OHM if own is None else min(NOT_A_SHORT_OHM, 0.5 * own)
    switched = "Cut-off on, k" if wiring.has("cut_off") else "K"
    yield Step(
        id="whole",
        title="The whole load side, without power",
        what=f"{switched}ey off, accessories off, nobody on pedal or throttle. One reading over everything that is joined now."
        + (" Then cut-off off." if wiring.has("cut_off") else ""),
        blocks=[part.id for part in wiring.parts if part.id in ("main_fuse", "cut_off", "guard", "controller", "pedal_switch")],
        reading=not_a_short(net, tips, "Climbing or OL. Near 0 Ω is a short: find it before any pack goes in.", least=least),
        tools=["meter on ohms"],
        safety=True,
    )
