"""Checks of the controller, throttle, levers, or of driving straight from a switch."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis.precharge import precharge_of, resistor_words
from gecko.analysis.whole import Analysis
from gecko.common.words import amps, q, volts
from gecko.document.parts.pack import charge_limit_a
from gecko.document.setup import Setup
from gecko.physics.electric.operating_point import fed_back_a
from gecko.physics.motion.top_speed import free_roll
from gecko.rules import margins
from gecko.rules.edits import put, setting
from gecko.rules.registry import Edit, Trip, rule, setup_rule
from gecko.rules.together import knob_module


@setup_rule(
    "ctl.kind",
    station="controller",
    stage="drive",
    principle="A brushed motor has two leads and a brushless one three: each needs its own controller.",
)
def kind(setup: Setup) -> Iterator[Trip]:
    control, motor = setup.controller, setup.motor
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
    if control.kind != wanted and (motor.brushless or not control.before_pedal):
        yield Trip(
            "stop",
            "Controller and motor do not match",
            f"The {motor.kind} motor needs a {wanted} controller; this one is {'a ' if control.before_pedal else ''}{control.kind}.",
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


@setup_rule("ctl.throttle", station="controller", stage="drive", principle="A controller reads one kind of throttle.")
def throttle(setup: Setup) -> Iterator[Trip]:
    control, have = setup.controller, setup.throttle
    if control is None or have is None or not control.reads_throttle or "unknown" in (control.throttle, have.kind):
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


LEAST_LIMIT_A = 2.0
"""A controller is not set lower than this by a fix: nothing would move. [A]"""


@rule("ctl.limit", station="controller", stage="drive", principle="The controller's limit is what motor, pack, fuse and wire must stand.")
def limit(a: Analysis) -> Iterator[Trip]:
    # What it can really draw; its label alone says nothing of what this motor takes.
    held_a = a.reachable_a
    if a.m.control.battery_limit_a is None or held_a is None:
        return
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
        f"It can draw {amps(held_a)}; {who} stand {amps(least)}.",
        "Set the controller lower, or strengthen what stands behind it.",
        "/controller/battery_limit_a",
        (Edit(f"Set the controller to {int(least)} A", put("controller/battery_limit_a", setting(float(int(least))))),) if least >= LEAST_LIMIT_A else (),
    )


@rule("ctl.backfeed", station="controller", stage="drive", principle="A motor that is turned faster than its volts is a generator, whatever the controller says.")
def backfeed(a: Analysis) -> Iterator[Trip]:
    """Downhill with the packs switched off, its capacitors take what the motor makes; with them in, the packs do."""
    grade = a.setup.ground.hill_grade
    down = [segment.grade for segment in a.setup.course.segments if segment.grade < 0.0] if a.setup.course is not None else [-grade] if grade > 0.0 else []
    stands = a.resolved.figures.get("/controller/max_v")
    if a.m.control.kind == "none" or stands is None or not (down or a.m.control.extra > 0.0):
        return
    freely = float(free_roll(a.m.vehicle, a.motor, min(down, default=0.0)))
    driven = a.m.control.extra > 0.0 and float(a.top) > freely
    freely = max(freely, float(a.top)) if driven else freely
    makes = float(a.motor.k_v_s * a.m.vehicle.omega(freely))
    capacitors = margins.controller_volts(makes, stands.value)
    if capacitors.over:
        opens = "a guard that opens, a pack that trips or a plug that is pulled" if a.setup.guard is not None else "a pack that trips or a plug that is pulled"
        yield Trip(
            "caution",
            "Rolling without packs can kill the controller",
            f"{'With its field weakened it goes' if driven else f'Down {-100.0 * min(down):.0f} % it rolls to'} {q(freely, 'speed')}{'' if driven else ' unbraked'}; there the motor makes {volts(makes)}. With the packs in they hold it; "
            f"after {opens} its capacitors take the volts, and stand {volts(stands.value)}.",
            "Brake down that slope, and never push or roll it fast with the packs switched off: take the motor's plug apart first.",
            "/controller/max_v",
            place="capacitors",
            margin=capacitors,
        )
    rolled = float(a.speeds.downhill[0])
    back = float(fed_back_a(a.full.open_v, a.m.source_ohm(a.full), a.motor, a.m.control, a.m.vehicle.omega(rolled)))
    bank = a.setup.bank
    takes = sum(min(charge_limit_a(unit) for unit in row.units) for row in bank.rows) if bank is not None else 0.0
    charged = margins.regenerated_amps(back, takes)
    if bank is not None and charged.over:
        yield Trip(
            "caution",
            "Downhill the motor charges the packs by itself",
            f"At {q(rolled, 'speed')} {amps(back)} come back through the controller's diodes, whatever it is set to; the packs may be charged with {amps(takes)}.",
            "Brake down that slope, or start it with the packs well below full.",
            "/ground/hill_grade",
            place="packs",
            margin=charged,
        )


SMALL = 0.85
"""Below this share of a motor's plate watts a controller is worth a word. [1] This project's planning value."""


@rule("ctl.matches", station="controller", stage="drive", principle="The smaller of controller and motor sets what the wheel gets.")
def matches(a: Analysis) -> Iterator[Trip]:
    """A controller below its motor's plate, and packs below their controller: neither hurts, but what was paid for is not used."""
    limit, motor = a.resolved.figures.get("/controller/battery_limit_a"), a.resolved.motor
    plate = a.resolved.figures.get("/motor/power_w")
    if limit is None or motor is None or plate is None or a.m.control.battery_limit_a is None:
        return
    held = float(a.m.control.battery_limit_a)
    asks = plate.value * motor.count / a.resolved.figures["/motor/efficiency"].value
    gives = held * (a.nominal_v or 0.0)
    if gives < SMALL * asks and limit.basis != "assumed":
        yield Trip(
            "note",
            "The controller is smaller than its motor",
            f"At {volts(a.nominal_v or 0.0)} its {amps(held)} are {gives:.0f} W; the motor's plate takes {asks:.0f} W. It will pull less than its plate says.",
            "Fit a controller of the motor's size where that pull is wanted; otherwise it is easy on packs and motor.",
            "/controller/battery_limit_a",
            place="plate",
        )
    packs = a.limits.continuous_a
    if packs is not None and float(packs) < SMALL * held and a.rms_a <= float(packs):
        yield Trip(
            "note",
            "The packs are smaller than their controller",
            f"The controller may draw {amps(held)}; the packs give {amps(float(packs))} for long. On this ride they are asked for {amps(a.rms_a)}, so they stand it.",
            "On longer climbs set the controller lower, or add a row.",
            "/controller/battery_limit_a",
            place="packs",
        )


@rule("ctl.precharge", station="controller", stage="protect", principle="Empty capacitors draw a spark when plugged in.", needs="bank")
def precharge(a: Analysis) -> Iterator[Trip]:
    control, full = a.setup.controller, a.full_v
    if control is None or control.kind == "none" or control.precharge or full is None or full <= 36.0:
        return
    found = precharge_of(a)
    if found is None:
        return
    yield Trip(
        "caution" if full > 50 else "note",
        "Plugging in will spark",
        f"Its capacitors draw up to {amps(found.spark_a)} for an instant from {volts(full)}, {found.energy_j:.1f} J; each time it eats the plug's contacts.",
        f"Connect through a {resistor_words(found)} first, or accept the spark on a plug made for it.",
        "/controller/precharge",
        (Edit("Add a pre-charge path", put("controller/precharge", True)),),
    )


@rule("ctl.direct", station="switch", stage="drive", principle="Without a controller the stall current goes through switch, fuse and gearbox.")
def direct(a: Analysis) -> Iterator[Trip]:
    if a.m.control.kind != "none" or not a.motor_is_brushed:
        # A brushless motor without a controller is the rule about their kinds.
        return
    stall = float(a.stall_point.pack_a)
    switch = a.setup.pedal_switch
    rated = switch.rating_a.value if switch is not None and switch.rating_a is not None else None
    if rated is None or stall <= rated:
        return
    switch_amps = margins.stalled_switch_amps(stall, rated)
    over = switch_amps.over
    yield Trip(
        "stop" if over else "caution",
        "Pedal straight to motor",
        f"A blocked wheel draws {amps(stall)} through the pedal switch, which stands {amps(rated)}.",
        "Put a knob module with a soft start before it, or use a stronger switch.",
        "/pedal_switch/rating_a",
        (knob_module(a),),
        margin=switch_amps,
    )


SLOW_M_S = 2.5
"""Below this a reversed drive is a jolt, not a fall. [m/s] Source: this project's planning value, a brisk walk and a half."""


@rule("ctl.reverse", station="controller", stage="drive", principle="Forward and reverse are changed standing still.")
def reverse(a: Analysis) -> Iterator[Trip]:
    vehicle, control, controls = a.setup.vehicle, a.setup.controller, a.setup.controls
    fitted = controls.reverse or controls.direction != "none" or (vehicle is not None and vehicle.family in ("ride-on car", "quad"))
    if vehicle is None or not fitted or (control is not None and control.reverse_locked):
        return
    direct = a.m.control.kind == "none"
    top = float(a.top)
    speed = q(top, "speed")
    if direct and a.motor_is_brushed:
        blow = float((a.full.open_v + a.motor.k_v_s * a.m.vehicle.omega(a.top)) / (a.m.source_ohm(a.full) + a.motor.loop_ohm))
        because = f"Thrown into reverse from {speed}, {amps(blow)} flow, where a blocked wheel draws {amps(float(a.stall_point.pack_a))}: motor and gears take the blow."
    else:
        because = f"Thrown into reverse from {speed}, gears, chain and rider on this {vehicle.family} take the full blow; the controller's limit holds only the amps."
    yield Trip(
        "caution" if top > SLOW_M_S else "note",
        "Reverse only when standing",
        because,
        "Use a controller or switch that locks reverse while rolling, and teach the rider to stop first.",
        "/controller/reverse_locked",
        () if direct or control is None else (Edit("Use one that locks reverse while rolling", put("controller/reverse_locked", True)),),
    )


@setup_rule("ctl.bay", station="controller", stage="drive", principle="A controller sits dry, screwed down, with room for its plugs.")
def sits(setup: Setup) -> Iterator[Trip]:
    control, vehicle = setup.controller, setup.vehicle
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
            (Edit("Move it out of the spray", put("controller/in_spray", False)),),
            place="spray",
        )
    if control.mounting == "ties only":
        yield Trip(
            "caution",
            "The controller hangs on ties",
            "Ties alone wear through where the machine shakes, and give it no metal to cool against.",
            "Screw it to metal.",
            "/controller/mounting",
            (Edit("Screw it down", put("controller/mounting", "screwed")),),
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
        (Edit("Let air past it", put("controller/enclosed", False)),),
    )
