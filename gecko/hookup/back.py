"""The way back to what the machine came with: what comes off, what goes on again, and what cannot be undone."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.answers.evaluation import Out
from gecko.common.words import q
from gecko.document.parts.hookup import PlugPlace
from gecko.document.parts.motor import Motor
from gecko.document.setup import Bank, Setup
from gecko.hookup.joined import Joined
from gecko.hookup.readings import everything_on
from gecko.hookup.shape import Step, volts


class WayBack(Out):
    """Steps back, and what stays all the same."""

    steps: list[Step]
    stays: list[str]


def way_back(setup: Setup, baseline: Setup) -> WayBack:
    """From a setup back to its baseline: only what differs, the packs first off and last on."""
    steps = [Step(id="back.safe", title="Make it safe", what="Wheels off the ground, key off, cut-off off. Main fuse out, then each row fuse, then the packs.")]
    steps += _electrics(setup, baseline)
    steps += _machine(setup, baseline)
    if len(steps) > 1:
        steps += _last(baseline)
    return WayBack(steps=steps if len(steps) > 1 else [], stays=list(_stays(setup, baseline)))


def _packs(bank: Bank | None) -> list[str]:
    return [unit.label for row in bank.rows for unit in row.units] if bank is not None else []


def _electrics(setup: Setup, stock: Setup) -> Iterator[Step]:
    both = (("low-volt guard", setup.guard, stock.guard), ("cut-off", setup.cut_off, stock.cut_off))
    added = [word for word, there, was in both if there is not None and was is None]
    if added:
        yield Step(
            id="back.path",
            title=f"Take the {' and '.join(added)} out of the plus lead",
            what="Join the two ends of the lead again where it was, by plug or crimp.",
            caution="A cut-off is worth keeping on a stock machine as well." if "cut-off" in added else "",
        )
    branches = [one.label for one in setup.auxiliaries if one.label not in {old.label for old in stock.auxiliaries}]
    if branches:
        yield Step(id="back.aux", title=f"Take off: {', '.join(branches)}", what="Each with its own fuse and return wire, at the tap as well.")
    if setup.main_fuse is not None and stock.main_fuse is not None and setup.main_fuse.rating_a != stock.main_fuse.rating_a:
        yield Step(
            id="back.fuse",
            title=f"Main fuse: {stock.main_fuse.rating_a:g} A again",
            what=f"The {setup.main_fuse.rating_a:g} A one was sized for these leads and packs.",
        )
    if setup.main_lead is not None and stock.main_lead is not None and setup.main_lead.words != stock.main_lead.words:
        yield Step(
            id="back.lead",
            title=f"Leads: {stock.main_lead.words} again",
            what="Or leave the new ones where they are thicker; never the thinner ones under the larger fuse.",
        )
    now, then = setup.controller, stock.controller
    if now is not None and then is not None and (now.kind, now.battery_limit_a, now.nominal_v) != (then.kind, then.battery_limit_a, then.nominal_v):
        what = (
            "Pedal switch straight to the motor, as it was; throttle and small wires come out with the controller."
            if then.kind == "none"
            else "The old controller in its old place; pair every plug by the colours noted."
        )
        yield Step(id="back.controller", title="Controller back" if then.kind != "none" else "Controller out", what=what)
    elif now is not None and now.firmware is not None and now.firmware.changed and now.firmware.way_back:
        yield Step(
            id="back.firmware",
            title="Old settings into the controller",
            what=f"{f'Version {now.firmware.version_before} again, then' if now.firmware.version_before else 'Load'} the settings as noted; try them wheels-up.",
        )
    moved: list[PlugPlace] = [pair.place for pair in setup.plug_pairs if pair.joined in ("moved pins", "new pair")]
    if moved:
        yield Step(
            id="back.plugs",
            title=f"Plugs as they were: {', '.join(moved)}",
            what="Pins back into their old housing, or the old pair on again, by the colours noted. Tug each wire.",
        )
    if setup.throttle is not None and stock.throttle is not None and setup.throttle.kind != stock.throttle.kind:
        yield Step(id="back.throttle", title="Throttle back", what=f"The old one: {stock.throttle.kind}.")


def _plate(motor: Motor) -> str:
    parts = [f"{motor.volts_v.value:g} V" if motor.volts_v else "", f"{motor.power_w.value:g} W" if motor.power_w else ""]
    return " ".join(part for part in parts if part) or motor.kind


def _machine(setup: Setup, stock: Setup) -> Iterator[Step]:
    if setup.motor is not None and stock.motor is not None:
        if (_plate(setup.motor), setup.motor.count) != (_plate(stock.motor), stock.motor.count):
            yield Step(
                id="back.motor", title=f"Motor: {_plate(stock.motor)} again", what="Phases, or the two leads, as noted; direction tried with the wheel off the ground."
            )
        elif setup.motor.wiring != stock.motor.wiring:
            yield Step(id="back.motor", title=f"Motors in {stock.motor.wiring} again", what="By their plugs.")
    if setup.drivetrain is not None and stock.drivetrain is not None:
        old = stock.drivetrain
        if _other_sprockets(setup, stock):
            yield Step(
                id="back.sprockets",
                title=f"Sprockets: {old.motor_teeth} and {old.wheel_teeth} teeth again",
                what="With the old chain's length; both in one plane, slack set, guard back on.",
            )
    if setup.wheel is not None and stock.wheel is not None and setup.wheel.diameter_m.value != stock.wheel.diameter_m.value:
        yield Step(id="back.wheel", title="Wheel back", what=f"{q(stock.wheel.diameter_m.value, 'length')} across.")
    if setup.vehicle is not None and stock.vehicle is not None:
        if setup.vehicle.board_bypassed and not stock.vehicle.board_bypassed:
            yield Step(id="back.board", title="Circuit board in again", what="Only on the stock volts: more can kill it.")
        brake = setup.vehicle.fail_safe_brake
        if stock.vehicle.fail_safe_brake == "held by power" and brake in ("released for good", "removed"):
            yield Step(
                id="back.brake",
                title="Electric brake back into service",
                what="Its lever locked back, its coil on power behind the cut-off. It must grip with the power off, on a slope, before anybody rides.",
            )


def _other_sprockets(setup: Setup, stock: Setup) -> bool:
    new, old = setup.drivetrain, stock.drivetrain
    if new is None or old is None or not (old.motor_teeth and old.wheel_teeth):
        return False
    return (new.motor_teeth, new.wheel_teeth) != (old.motor_teeth, old.wheel_teeth)


def _last(stock: Setup) -> Iterator[Step]:
    net = Joined.of(stock)
    chargers = [one.label for one in stock.chargers]
    if chargers:
        yield Step(
            id="back.charger",
            title=f"Charger: {', '.join(chargers)}",
            what="The one for the new packs goes with them: on the old battery it would end at the wrong volts.",
        )
    if net is None or stock.bank is None:
        return
    reading = volts(net, everything_on(len(net.row_volts)), (net.load_plus, net.load_minus))
    lead = any(unit.chemistry == "lead" for row in stock.bank.rows for unit in row.units)
    yield Step(
        id="back.packs",
        title=f"Old packs in: {', '.join(dict.fromkeys(_packs(stock.bank)))}",
        what="Charged first."
        + (" Lead blocks that stood empty for months may not come back." if lead else "")
        + f" Plus by the marking. Then the fuse, wheels off the ground: {reading.red_on} against {reading.black_on} should read"
        + f" {reading.low:.1f} to {reading.high:.1f} V. Then the stand checks.",
    )


def _stays(setup: Setup, stock: Setup) -> Iterator[str]:
    """What cannot be undone."""
    for opening in setup.openings:
        if opening.kind == "cable entry":
            yield f"{opening.label}: the hole stays. Close it with a plug or a gland."
        elif opening.kind == "seal":
            yield f"{opening.label}: a gasket once opened seals less; a new one, or a bead of sealant."
    for pair in setup.plug_pairs:
        if pair.joined == "remade":
            yield f"{pair.place[:1].upper()}{pair.place[1:]}: the joint was made anew; the wires are shorter by it."
    if setup.main_lead is not None and stock.main_lead is not None and _packs(setup.bank) != _packs(stock.bank):
        yield "An old lead that was cut has a joint more for good: a plug there, rated for its fuse."
    control = setup.controller
    if control is not None and control.firmware is not None and control.firmware.changed and not control.firmware.way_back:
        yield "Controller settings: without the old file and its tool they stay as they are, or the maker sets them back."
    if setup.vehicle is not None and setup.vehicle.fail_safe_brake == "removed" and (stock.vehicle is None or stock.vehicle.fail_safe_brake != "removed"):
        yield "The electric brake: only a new one brings it back."
    if _other_sprockets(setup, stock):
        yield "What wear there was: a chain and sprockets run in with one another go back as a set."
    yield "Warranty and the maker's approval, if there were any."
