"""Checks of the controller, throttle, levers, or of driving straight from a switch."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis import Analysis
from gecko.checks.edits import figure, put
from gecko.checks.registry import Edit, Trip, rule
from gecko.protection.precharge import CAPACITOR_OHM
from gecko.protection.precharge import precharge as plan_precharge
from gecko.words import amps, q, volts


@rule(
    "ctl.kind",
    station="controller",
    stage="drive",
    principle="A brushed motor has two leads and a brushless one three: each needs its own controller.",
    needs="document",
)
def kind(a: Analysis) -> Iterator[Trip]:
    control, motor = a.setup.controller, a.setup.motor
    if control is None or motor is None:
        return
    if control.kind == "none":
        if motor.brushless:
            yield Trip(
                "stop",
                "A brushless motor needs a controller",
                f"A {motor.kind} motor does not turn on plain DC; there is no controller.",
                "Add a brushless controller.",
                "/controller/kind",
                (Edit("Add a brushless controller", put("controller/kind", "brushless")),),
            )
        return
    wanted = "brushless" if motor.brushless else "brushed"
    if control.kind != wanted:
        yield Trip(
            "stop",
            "Controller and motor do not match",
            f"The {motor.kind} motor needs a {wanted} controller; this one is {control.kind}.",
            f"Use a {wanted} controller.",
            "/controller/kind",
            (Edit(f"Use a {wanted} controller", put("controller/kind", wanted)),),
        )
    elif wanted == "brushless" and control.needs_halls and not motor.has_halls:
        yield Trip(
            "stop",
            "The controller looks for Hall sensors",
            "It works only with Hall sensors; this motor has none.",
            "Use a controller that runs without them.",
            "/controller/needs_halls",
            (Edit("Use a controller that runs without Halls", put("controller/needs_halls", False)),),
        )


@rule("ctl.throttle", station="controller", stage="drive", principle="A controller reads one kind of throttle.", needs="document")
def throttle(a: Analysis) -> Iterator[Trip]:
    control, have = a.setup.controller, a.setup.throttle
    if control is None or have is None or control.kind == "none" or "unknown" in (control.throttle, have.kind):
        return
    if control.throttle != have.kind:
        yield Trip(
            "stop",
            "The throttle speaks another language",
            f"The controller reads a {control.throttle} throttle; the machine has a {have.kind} one. It may start at full speed or not at all.",
            f"Fit a {control.throttle} throttle.",
            "/throttle/kind",
            (Edit(f"Fit a {control.throttle} throttle", put("throttle/kind", control.throttle)),),
        )


@rule("ctl.brake", station="controller", stage="drive", principle="The brake lever stops the motor before it stops the wheel.", needs="document")
def brake(a: Analysis) -> Iterator[Trip]:
    have, control = a.setup.throttle, a.setup.controller
    if have is None or control is None or control.kind == "none" or not have.brake_cut_off_present or have.brake_cut_off_wired:
        return
    relaxed = a.context.house.brake_cut_off == "relaxed"
    yield Trip(
        "note" if relaxed else "caution",
        "The brake cut-off is not wired",
        "The lever has a sensor, but its signal goes nowhere: with a stuck throttle brake and motor fight.",
        "Wire the lever to the controller's brake input.",
        "/throttle/brake_cut_off_wired",
        (Edit("Wire it", put("throttle/brake_cut_off_wired", True)),),
    )


@rule("ctl.foot", station="controller", stage="drive", principle="On a quad the foot switch stops the motor when the rider is off.", needs="document")
def foot(a: Analysis) -> Iterator[Trip]:
    vehicle, have = a.setup.vehicle, a.setup.throttle
    if vehicle is None or vehicle.family != "quad" or have is None or have.foot_switch_wired is not False:
        return
    yield Trip(
        "stop",
        "The foot switch is not wired",
        "This quad runs on when the rider falls off: its foot switch is not wired.",
        "Wire the foot switch into the controller's lock or brake line.",
        "/throttle/foot_switch_wired",
        (Edit("Wire it", put("throttle/foot_switch_wired", True)),),
    )


LEAST_LIMIT_A = 2.0
"""A controller is not set lower than this by a fix: nothing would move. [A]"""


@rule("ctl.limit", station="controller", stage="drive", principle="The controller's limit is what motor, pack, fuse and wire must stand.")
def limit(a: Analysis) -> Iterator[Trip]:
    held = a.m.control.battery_limit_a
    if held is None:
        return
    held_a = float(held)
    weakest: list[tuple[float, str]] = []
    if a.limits.peak_10s_a is not None:
        weakest.append((float(a.limits.peak_10s_a), "the packs for ten seconds"))
    lead = a.setup.main_lead
    if lead is not None:
        weakest.append((1.35 * a.lead_stands_a(lead), "the lead for some minutes"))
    if not weakest:
        return
    least, who = min(weakest)
    if held_a <= least:
        return
    yield Trip(
        "caution",
        "The controller may ask too much",
        f"Its limit is {amps(held_a)}; {who} stand {amps(least)}.",
        "Set the controller lower, or strengthen what stands behind it.",
        "/controller/battery_limit_a",
        (Edit(f"Set the controller to {int(least)} A", put("controller/battery_limit_a", figure(float(int(least))))),) if least >= LEAST_LIMIT_A else (),
    )


@rule("ctl.precharge", station="controller", stage="protect", principle="Empty capacitors draw a spark when plugged in.", needs="bank")
def precharge(a: Analysis) -> Iterator[Trip]:
    control, full = a.setup.controller, a.full_v
    if control is None or control.kind == "none" or control.precharge or full is None or full <= 36.0:
        return
    ohm = float(a.m.source_ohm(a.full)) + CAPACITOR_OHM if a.machine is not None else 0.1
    found = plan_precharge(control, a.bank_limit_a, full, ohm)
    yield Trip(
        "caution" if full > 50 else "note",
        "Plugging in will spark",
        f"Its capacitors draw up to {amps(found.spark_a)} for an instant from {volts(full)}, {found.energy_j:.1f} J; each time it eats the plug's contacts.",
        f"Connect through a resistor first ({found.resistor_ohm:g} Ω, {found.rated_w:g} W, {max(2.0 * found.seconds_s, 1.0):.0f} s), or accept the spark on a plug made for it.",
        "/controller/precharge",
        (Edit("There is a pre-charge path", put("controller/precharge", True)),),
    )


@rule("ctl.direct", station="switch", stage="drive", principle="Without a controller the stall current goes through switch, fuse and gearbox.")
def direct(a: Analysis) -> Iterator[Trip]:
    if a.m.control.kind != "none":
        return
    stall = float(a.stall_point.pack_a)
    switch = a.setup.pedal_switch
    rated = switch.rating_a.value if switch is not None and switch.rating_a is not None else None
    over = rated is not None and stall > 2.0 * rated
    because = f"A blocked wheel draws {amps(stall)} through the pedal switch" + (f", which stands {amps(rated)}." if rated is not None else ".")
    soft = Edit(
        "Add a brushed controller",
        lambda d: d.update(
            controller={
                "kind": "brushed",
                "nominal_v": figure(round(a.nominal_v or 12.0, 1)),
                "battery_limit_a": figure(max(10.0, round(stall * 0.45))),
                "max_v": figure(round((a.full_v or 15.0) * 1.2, 1)),
                "undervoltage_v": figure(round((a.nominal_v or 12.0) * 0.85, 1)),
            }
        ),
    )
    yield Trip(
        "stop" if over and not a.context.is_baseline else "caution",
        "Pedal straight to motor",
        because,
        "Add a controller with a soft start, or a stronger switch.",
        "/pedal_switch/rating_a",
        (soft,),
    )


@rule("ctl.reverse", station="controller", stage="drive", principle="Forward and reverse are changed standing still.", needs="document")
def reverse(a: Analysis) -> Iterator[Trip]:
    vehicle, motor, control = a.setup.vehicle, a.setup.motor, a.setup.controller
    if vehicle is None or motor is None or vehicle.family not in ("ride-on car", "quad") or motor.brushless or (control is not None and control.reverse_locked):
        return
    direct = control is not None and control.kind == "none"
    because = f"Thrown into reverse, a brushed motor on this {vehicle.family} sees twice its volts and the gears the full blow."
    if a.machine is not None:
        speed = q(float(a.top), "speed")
        because = f"Thrown into reverse from {speed}, the gears on this {vehicle.family} take the full blow; the controller's limit holds the amps."
        if direct:
            blow = float((a.full.open_v + a.motor.k_v_s * a.m.vehicle.omega(a.top)) / (a.m.source_ohm(a.full) + a.motor.loop_ohm))
            because = (
                f"Thrown into reverse from {speed}, {amps(blow)} flow, where a blocked wheel draws {amps(float(a.stall_point.pack_a))}: motor and gears take the blow."
            )
    # As found it is the maker's machine; changed, with nothing that meters the blow, it is the builder's.
    yield Trip(
        "caution" if direct and not a.context.is_baseline else "note",
        "Reverse only when standing",
        because,
        "Teach the rider to stop first, or use a controller that locks reverse while rolling.",
        "/controller/reverse_locked",
        () if direct or control is None else (Edit("The controller locks reverse while rolling", put("controller/reverse_locked", True)),),
    )


@rule("ctl.bay", station="controller", stage="drive", principle="A controller sits dry, screwed down, with room for its plugs.", needs="document")
def sits(a: Analysis) -> Iterator[Trip]:
    control, vehicle = a.setup.controller, a.setup.vehicle
    if control is None or control.kind == "none":
        return
    room = vehicle.controller_room if vehicle is not None else None
    sides = [figure.value for figure in (control.length_m, control.width_m, control.height_m) if figure is not None]
    if room is not None and len(sides) == 3:
        has = sorted(figure.value for figure in (room.length_m, room.width_m, room.height_m))
        if any(side > space for side, space in zip(sorted(sides), has, strict=True)):
            words = " × ".join(f"{1000 * side:.0f}" for side in sides)
            yield Trip(
                "caution",
                "The controller does not fit its place",
                f"With its plugs it is {words} mm; the room is {' × '.join(f'{1000 * space:.0f}' for space in has)} mm.",
                "Find another place, or a smaller controller.",
                "/vehicle/controller_room",
                place="fit",
            )
    if control.in_spray:
        yield Trip(
            "caution",
            "The controller sits in the spray",
            "Water and grit from the wheels reach it or its plugs.",
            "Move it behind a panel, or make a splash guard, plugs pointing down.",
            "/controller/in_spray",
            (Edit("It is moved out of the spray", put("controller/in_spray", False)),),
            place="spray",
        )
    if control.mounting == "ties only":
        yield Trip(
            "caution",
            "The controller hangs on ties",
            "Ties alone wear through where the machine shakes, and give it no metal to cool against.",
            "Screw it to metal.",
            "/controller/mounting",
            (Edit("It is screwed down", put("controller/mounting", "screwed")),),
            place="ties",
        )


VENT_SHARE = 0.6
"""A closed-in controller is fine up to this share of its limit. [1]"""


@rule("ctl.vent", station="controller", stage="drive", principle="A controller gives its heat to moving air.")
def vent(a: Analysis) -> Iterator[Trip]:
    control = a.setup.controller
    if control is None or control.kind == "none" or not control.enclosed:
        return
    share = a.rms_a / a.bank_limit_a
    if share <= VENT_SHARE:
        return
    yield Trip(
        "note",
        "The controller is closed in",
        f"The ride asks for {amps(a.rms_a)}, {100 * share:.0f} % of its {amps(a.bank_limit_a)}, and no air moves past it.",
        "Let air past it, or screw it to metal outside.",
        "/controller/enclosed",
        (Edit("Air moves past it", put("controller/enclosed", False)),),
    )
