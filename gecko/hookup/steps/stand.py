"""The checks on the stand and the first ride, made from what is on this machine."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.document.setup import Setup
from gecko.hookup.shape import Step

SLOW_M_S = 2.3
"""Up to a jog beside it a toy needs no grown-up to try it first. [m/s] Source: this project's planning value, 5 mph."""


def stand_steps(setup: Setup, top_m_s: float | None = None) -> list[Step]:
    """Checks before anybody rides, wheels off the ground first, then the first ride. top_m_s: its top speed, where it is known [m/s]."""
    return list(_steps(setup, top_m_s))


def _check(step_id: str, title: str, what: str, caution: str = "") -> Step:
    return Step(id=step_id, title=title, what=what, caution=caution, safety=True, gate="power")


def _steps(setup: Setup, top_m_s: float | None) -> Iterator[Step]:
    control, throttle, controls = setup.controller, setup.throttle, setup.controls
    handle = "Throttle" if control is not None and control.reads_throttle else "Pedal"
    family = setup.vehicle.family if setup.vehicle is not None else ""
    yield _check("stand_direction", "Wheels turn forward", "On the stand, a touch of the throttle: every driven wheel turns forward.", "Hands, hair and sleeves clear.")
    yield _check(
        "stand_throttle",
        f"{handle} snaps back",
        f"{handle} pressed and let go, slowly and at once, bars to both sides: it snaps back by itself and the wheel runs down.",
    )
    if setup.cut_off is not None:
        yield _check("stand_cut_off", "Cut-off kills it under load", "Wheel turning, cut-off opened: it is dead at once and stays dead.")
    if control is not None and (control.modes or controls.speed_switch):
        yield _check("stand_modes", "Each speed mode does what it says", "From the lowest up; the wheel turns faster each time.")
    if throttle is not None and throttle.brake_cut_off_wired:
        yield _check("stand_brake", "Brake cut-off beats the throttle", "Wheel turning, lever pulled, throttle held: the motor stops and stays off.")
    if _braked(setup):
        yield _check("stand_brake_holds", "Brakes hold by themselves", "Lever pulled, power off: no braked wheel can be turned by hand, and let go it turns freely.")
    if throttle is not None and throttle.foot_switch_wired:
        yield _check("stand_foot", "Foot switch stops the motor", "Wheel turning, foot off: it stops at once.")
    if controls.reverse or controls.direction != "none" or family in ("ride-on car", "quad"):
        yield _check("stand_reverse", "Reverse only from standstill", "Wait until the wheel stands, then reverse: it turns backward, and slower where it should.")
    yield Step(
        id="stand_steering",
        title="Steering lock to lock and suspension pressed: nothing pulls, nothing touches",
        what="Power off. Both ends of the way, twice; every cable keeps a free loop.",
        safety=True,
    )
    yield Step(
        id="stand_wheels",
        title="Wheels and axles tight",
        what="Power off. Shake each wheel: no play, no click; nuts and pins in place" + (", axle nuts of the hub motor to the maker's torque." if _hub(setup) else "."),
        safety=True,
    )
    yield Step(id="stand_guards", title="Guards back on, every bolt tight", what="Covers, chain guard and seat as they belong; nothing loose in the bay.", safety=True)
    slow = family == "ride-on car" and top_m_s is not None and top_m_s <= SLOW_M_S
    yield Step(
        id="stand_first",
        title="First ride at walking pace, an adult beside it" if slow else "First ride by an adult or the builder, lowest mode, open ground: calm",
        what="Helmet on, level ground, nobody in front. Start, stop and steer before anything faster"
        + (", an adult's hand on the cut-off." if slow and setup.cut_off is not None else "; one step up only after that was calm."),
        safety=True,
        gate="ride",
    )
    yield Step(
        id="stand_warm",
        title="Felt by hand after the first minutes",
        what="After five minutes, power off: plugs, leads, fuse and switch no more than warm, motor cool enough to keep a hand on.",
        caution="Start with the back of the hand: a bad plug burns.",
        safety=True,
        gate="ride",
    )


def _braked(setup: Setup) -> bool:
    vehicle = setup.vehicle
    if vehicle is None:
        return True
    return vehicle.brake != "gearbox drag" if vehicle.brake is not None else vehicle.family != "ride-on car"


def _hub(setup: Setup) -> bool:
    return setup.motor is not None and setup.motor.kind == "hub"
