"""First power: through lamps that hold the amps down, then the main fuse, last of all; then what a controller wants to learn or be told."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from gecko.analysis.precharge import precharge_of, resistor_words
from gecko.analysis.riding import Riding
from gecko.document.setup import Setup
from gecko.hookup.joined import Joined
from gecko.hookup.readings import LAMP_V, State
from gecko.hookup.shape import Step, volts
from gecko.hookup.steps.beside import live_beside
from gecko.hookup.steps.controls import live_controls

SPARKS_FROM_V = 36.0
"""From here on empty capacitors make a spark that pits a switch [V]. Source: this project's planning value."""


def power_steps(net: Joined) -> Iterator[Step]:
    """From packs joined and main fuse out to the first turn of the wheel."""
    every = frozenset(range(len(net.row_volts)))
    packed = State(packs=every, row_fuses=every)
    load = net.load_plus.split(".")[0]
    at_load = (net.load_plus, net.load_minus)
    fused, switched = net.wiring.has("main_fuse"), net.wiring.has("cut_off")
    on = replace(packed, cut_off=True, key=True, foot=True)
    keyed = (" Cut-off on." if switched else "") + (" Key on." if net.wiring.has("key") else "")
    full = max(window[2] for window in net.row_volts)
    at = "across the empty main fuse holder" if fused else "between the packs' plus and the lead, where the main fuse will sit"
    yield Step(
        id="dead",
        title="Check that the load side is dead",
        what="Main fuse still out: nothing may reach the load." if fused else "The last plus lead still off: nothing may reach the load.",
        blocks=["main_fuse"] if fused else [load],
        reading=volts(net, packed if fused else State(), at_load),
        tools=["meter on volts"],
        safety=True,
    )
    lamps = math.ceil(full / LAMP_V)
    limited = replace(on, lamps=lamps) if fused else replace(on, main_fuse=True)
    several = f"{lamps} lamps of 12 V, 21 W, one after the other" if lamps > 1 else "A lamp of 12 V, 21 W"
    yield Step(
        id="limited",
        title="First power through lamps",
        what=f"{several}, {at}. Wheels off the ground, accessories off.{keyed} They flash at most and go dark. Bright for good is a short: lamps off at once.",
        blocks=["main_fuse", load] if fused else [load],
        reading=volts(
            net,
            limited,
            at_load,
            "Full volts with the lamps dark. They also fill the controller's capacitors gently.",
            low=(
                "The lamps glow: a short behind them takes the volts",
                "Something behind them is on: accessories, pedal or throttle",
                "The cut-off or the guard is open",
            ),
        ),
        caution="The lamps get hot. Hands clear of the wheel. Cover the tips at the holder.",
        tools=[f"{lamps} × 12 V, 21 W lamp with leads" if lamps > 1 else "12 V, 21 W lamp with leads", "meter on volts"],
        safety=True,
        gate="power",
    )
    before = _against_the_spark(net, full, switched)
    yield from live_controls(net, limited)
    yield from live_beside(net, packed, limited)
    if fused:
        note = "Cut-off off: dead." if switched else "From here on the load is live."
        yield Step(
            id="main_fuse",
            title="Main fuse in, last of all",
            what=f"{'Cut-off off, k' if switched else 'K'}ey off, throttle free, lamps off. {'' if switched else before}Push the fuse in.",
            blocks=["main_fuse"],
            reading=volts(net, replace(packed, main_fuse=True), at_load, note),
            tools=["meter on volts"],
            safety=True,
            gate="power",
        )
    else:
        yield Step(
            id="main_fuse",
            title="No power before there is a main fuse",
            what="Lamps off, lead off again. Plan a main fuse in Protect, fit it close to the packs, and come back.",
            blocks=[load],
            caution="A short in the lead draws hundreds of amps with nothing to stop it.",
            safety=True,
            gate="power",
            barred="There is no main fuse: fit one first, and power comes after it.",
        )
    touch = f"a touch of the {'throttle' if net.wiring.has('throttle') else 'pedal'}, no more"
    yield Step(
        id="first_power",
        title="First full power, wheels off the ground",
        what=f"Hands clear of the wheel. {before if switched or not fused else ''}{keyed.strip()} Nothing may turn by itself. {'Leave the throttle alone: it learns first.' if learns(net.setup) else f'Then {touch}.'}",
        blocks=[load],
        reading=volts(net, replace(on, main_fuse=True), at_load),
        caution="If anything turns by itself, smells or gets warm: cut-off off, fuse out.",
        tools=["meter on volts", "firm stand"],
        safety=True,
        gate="power",
    )
    yield from after_power(net.setup)


def learns(setup: Setup) -> bool:
    """Whether the controller learns the motor, before anybody turns the throttle."""
    return setup.controls.learns and setup.controller is not None and setup.controller.kind == "brushless"


def _against_the_spark(net: Joined, full_v: float, switched: bool) -> str:
    """What comes before the contact that fills empty capacitors: the cut-off, or the fuse where there is none."""
    control = net.setup.controller
    if not net.wiring.has("controller") or control is None or full_v <= SPARKS_FROM_V:
        return ""
    if control.precharge:
        return "Use its pre-charge first. "
    found = precharge_of(Riding(net.setup))
    return f"First a {resistor_words(found)} across the open {'cut-off' if switched else 'holder'}, against the spark. " if found is not None else ""


def after_power(setup: Setup) -> Iterator[Step]:
    """What comes after the first power: learning, and settings."""
    control = setup.controller
    if learns(setup):
        yield Step(
            id="learn",
            title="Let the controller learn the motor",
            what="Join the learning plug: the wheel starts by itself. When it runs smoothly, unplug and wait until it stands. Backward: plug in once more, then unplug. Only then a touch of the throttle, no more.",
            blocks=["learning_plug", "controller"],
            caution="The wheel starts at once, without throttle. Wheel free, hands clear.",
            safety=True,
            gate="power",
        )
    if control is not None and control.firmware is not None and control.firmware.changed:
        limit = f"{control.battery_limit_a.value:g} A from the bank" if control.battery_limit_a else "the amp limit of this plan"
        low = f", {control.undervoltage_v.value:g} V low cut-off" if control.undervoltage_v else ""
        yield Step(
            id="settings",
            title="Enter the limits of this plan",
            what=f"Note version and settings first, keep the old file. Then {limit}{low}. Try them with the wheels off the ground.",
            blocks=["controller"],
            tools=["the controller's app, cable or display"],
            gate="power",
        )
