"""What the machine does in each gear, mode and failure: high, low, reverse, every speed mode, one motor out."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Literal

import numpy as np

from gecko.analysis.riding import Riding, Wheelie
from gecko.answers.evaluation import Out
from gecko.document.context import Context
from gecko.document.setup import Setup
from gecko.physics.electric.motor import combine
from gecko.physics.heat.motor import WINDING_STOP_C

GearKind = Literal["gear", "mode", "reverse", "one motor out"]


class GearOut(Out):
    """One way of riding it: what it is called, whether it is the one in use, and what it gives; SI."""

    name: str
    kind: GearKind
    in_use: bool
    moves: bool
    """It moves at all."""
    top_speed_m_s: float
    push_n: float
    """Push of full throttle at standstill, before grip."""
    stall_a: float
    """Pack amps at standstill."""
    launch_s: float | None
    hill_grade: float
    hill_ends_by: str
    wheelie_margin: float | None
    wheelie_share: float | None
    full_load_to_stop_s: float | None
    """Seconds flat out until the winding is at its end; None: never."""
    note: str


def gear_out(a: Riding, name: str, kind: GearKind, in_use: bool, note: str = "") -> GearOut:
    """A gear from how the machine rides in it."""
    wheelie: Wheelie | None = a.wheelie
    moves = float(a.level_top) > 0.1
    return GearOut(
        name=name,
        kind=kind,
        in_use=in_use,
        moves=moves,
        top_speed_m_s=float(a.level_top),
        push_n=float(a.stall_wheel_nm / a.m.vehicle.wheel_radius_m),
        stall_a=float(a.stall_point.pack_a),
        launch_s=float(a.launch.time_s[-1]) if moves else None,
        hill_grade=float(a.hill.grade),
        hill_ends_by=a.hill.ends_by,
        wheelie_margin=None if wheelie is None else wheelie.margin,
        wheelie_share=None if wheelie is None else wheelie.share,
        full_load_to_stop_s=a.flat_out.reaches(WINDING_STOP_C),
        note=note,
    )


def gears(a: Riding) -> list[GearOut]:
    """Every gear and mode of a setup, the one in use among them; and with two motors what happens when one gives up."""
    setup = a.setup
    assert setup.motor is not None and setup.controller is not None
    found = [*_wirings(a, setup), *_modes(a, setup)]
    if not any(gear.in_use for gear in found):
        found.insert(0, gear_out(a, "As set up", "gear", True))
    found.extend(_reverse(a))
    found.extend(_one_out(a))
    return found


def _with(a: Riding, setup: Setup) -> Riding:
    return Riding(setup, Context(house=a.context.house))


def _wirings(a: Riding, setup: Setup) -> Iterator[GearOut]:
    motor = setup.motor
    if motor is None or motor.count < 2:
        return
    for name, wiring in (("High: motors in parallel", "parallel"), ("Low: motors in series", "series")):
        own = motor.wiring == wiring
        other = a if own else _with(a, setup.model_copy(update={"motor": motor.model_copy(update={"wiring": wiring})}))
        yield gear_out(other, name, "gear", own)


def _modes(a: Riding, setup: Setup) -> Iterator[GearOut]:
    control = setup.controller
    if control is None or control.kind == "none":
        return
    for mode in control.modes:
        own = mode.name == control.mode
        other = a if own else _with(a, setup.model_copy(update={"controller": control.model_copy(update={"mode": mode.name})}))
        yield gear_out(other, f"Mode {mode.name}", "mode", own)


def _reverse(a: Riding) -> Iterator[GearOut]:
    control = a.setup.controller
    if control is None or control.kind == "none":
        return
    back = _with(a, a.setup)
    back.machine = replace(a.m, control=replace(a.m.control, duty_max=np.maximum(a.m.control.duty_max * control.reverse_duty, 0.05)))
    yield gear_out(back, "Reverse", "reverse", False, "" if control.reverse_locked else "It does not wait until the machine stands.")


def _one_out(a: Riding) -> Iterator[GearOut]:
    motor, each = a.setup.motor, a.resolved.motor_each
    if motor is None or motor.count < 2 or each is None:
        return
    name = "One motor gives up (a lead off, a brush worn)"
    if motor.wiring == "series":
        still = _with(a, a.setup)
        still.machine = replace(a.m, motor=replace(a.m.motor, resistance_ohm=1e9))
        yield gear_out(still, name, "one motor out", False, "In series the current stops in both: it stands still.")
        return
    alone = _with(a, a.setup)
    # The dead one still turns with the wheels: its friction stays, its push does not.
    left = replace(combine(each, 1, "single"), no_load_a=each.no_load_a * motor.count, lead_ohm=a.m.motor.lead_ohm)
    alone.machine = replace(a.m, motor=left, motor_count=1)
    yield gear_out(alone, name, "one motor out", False, "The other does the work of both and warms faster: stop and look when it pulls to one side or feels weak.")
