"""Checks of the gearing."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from gecko.analysis.whole import Analysis
from gecko.common.figures import Figure
from gecko.document.parts.pack import Pack, default_resistance_ohm
from gecko.document.setup import Setup
from gecko.physics.road.chain import sprocket_radius_m
from gecko.physics.road.forces import wheel_force_n
from gecko.reference.tables import ChainSize, chain_size, chains
from gecko.rules import margins
from gecko.rules.edits import put, setting
from gecko.rules.registry import Edit, Trip, rule, setup_rule
from gecko.rules.together import knob_module


@setup_rule("drive.chain", station="gearing", stage="drive", principle="A chain fits only sprockets of its own pitch.")
def chain(setup: Setup) -> Iterator[Trip]:
    drive = setup.drivetrain
    if drive is None or drive.chain_pitch is None:
        return
    for name, pitch, words in (
        ("motor_sprocket_pitch", drive.motor_sprocket_pitch, "motor's"),
        ("wheel_sprocket_pitch", drive.wheel_sprocket_pitch, "wheel's"),
    ):
        if pitch is not None and pitch.strip().lower() != drive.chain_pitch.strip().lower():
            yield Trip(
                "stop",
                "Chain and sprocket do not fit",
                f"The chain is {drive.chain_pitch}; the {words} sprocket is made for {pitch}. It jumps and throws the chain.",
                f"Use a {words} sprocket for {drive.chain_pitch}.",
                f"/drivetrain/{name}",
                (Edit(f"Use a {words} sprocket for {drive.chain_pitch}", put(f"drivetrain/{name}", drive.chain_pitch)),),
                place=name,
            )
            continue
        made_for = chain_size(pitch)
        if made_for is None or drive.chain_width_m is None or abs(drive.chain_width_m.value - made_for.inner_width_m) <= WIDTH_M:
            continue
        yield Trip(
            "stop",
            "The chain is not as wide as the sprocket",
            f"The chain is {1000 * drive.chain_width_m.value:.1f} mm wide inside; the {words} sprocket is made for {1000 * made_for.inner_width_m:.1f} mm.",
            f"Use a chain {1000 * made_for.inner_width_m:.1f} mm wide inside.",
            "/drivetrain/chain_width_m",
            (Edit(f"Use a {made_for.size} chain", put("drivetrain/chain_width_m", None)),),
            place=f"{name} width",
        )


WIDTH_M = 0.0006
"""Chains whose inner widths differ by more than this do not share a sprocket. [m]"""


@setup_rule("drive.fit", station="gearing", stage="drive", principle="Sprocket, shaft and mount are made for each other.")
def fit(setup: Setup) -> Iterator[Trip]:
    drive = setup.drivetrain
    if drive is None:
        return
    for place, one, other, words in (
        ("bore", drive.shaft, drive.sprocket_bore, ("shaft", "motor's sprocket", "bore")),
        ("mount", drive.motor_mount, drive.frame_mount, ("motor's bolts", "frame", "pattern")),
        ("wheel", drive.wheel_sprocket_bolts, drive.wheel_bolts, ("wheel sprocket's bolts", "wheel", "pattern")),
    ):
        if one is None or other is None or _same(one, other):
            continue
        path = {"bore": "/drivetrain/sprocket_bore", "mount": "/drivetrain/frame_mount", "wheel": "/drivetrain/wheel_bolts"}[place]
        yield Trip(
            "stop",
            {"bore": "Sprocket and shaft do not fit", "mount": "The motor does not bolt on", "wheel": "The sprocket does not bolt to the wheel"}[place],
            f"The {words[0]}: {one}; the {words[1]}: {other}. Drilled or shimmed by hand it runs out of true and lets go.",
            f"Get the {words[1]} with the {words[2]} {one}, or have an adapter turned.",
            path,
            (Edit(f"Get a {words[1]} made for {one}", put(path.strip("/"), one)),),
            place=place,
        )


def _same(one: str, other: str) -> bool:
    return one.lower().replace(" ", "") == other.lower().replace(" ", "")


@setup_rule("drive.line", station="gearing", stage="drive", principle="A chain runs straight and with a little slack.")
def line(setup: Setup) -> Iterator[Trip]:
    drive = setup.drivetrain
    if drive is None or drive.kind != "chain":
        return
    if drive.in_line is False:
        yield Trip(
            "caution",
            "The sprockets are not in one plane",
            "A straight edge does not lie flat on both: the chain climbs the teeth, wears and jumps off.",
            "Shim the sprocket or the motor until a straight edge touches both all along.",
            "/drivetrain/in_line",
            (Edit("Shim it until a straight edge lies flat on both", put("drivetrain/in_line", True)),),
            place="plane",
        )
    if drive.slack_adjustable is False:
        yield Trip(
            "caution",
            "The chain cannot be tightened",
            "A new chain lengthens by about one part in a hundred in its first hours; without slots or a roller it then jumps.",
            "Slot the motor's holes, or add a sprung roller on the slack side.",
            "/drivetrain/slack_adjustable",
            (Edit("Slot the holes", put("drivetrain/slack_adjustable", True)),),
            place="slack",
        )


@setup_rule("drive.side", station="gearing", stage="drive", principle="A motor turned round turns the wheel backward.")
def side(setup: Setup) -> Iterator[Trip]:
    drive, motor = setup.drivetrain, setup.motor
    if drive is None or not drive.other_side:
        return
    brushless = motor is not None and motor.brushless
    yield Trip(
        "note",
        "The wheel will turn backward",
        "The sprocket or the motor sits on the other side than before, so the same wiring drives the other way.",
        "Match phases and Halls again for the other direction; a controller's reverse may be weaker." if brushless else "Swap the two motor leads.",
        "/drivetrain/other_side",
    )


def stock_stall_nm(a: Analysis) -> float | None:
    """Torque of the stock machine at the wheels at standstill [N·m]: as found, or its own where it still runs on its stock volts.

    Where neither is known, that of its motor at the stock volts, switched straight on where such machines are: what limits it now was not
    there then.
    """
    if a.stock is not None:
        return float(a.stock.stall_wheel_nm)
    own = float(a.stall_wheel_nm)
    stock_v, family = a.setup.stock.volts_v, a.resolved.family
    if stock_v is None or a.nominal_v is None or family is None:
        return own if a.context.is_baseline else None
    if a.m.control.kind == "none" and a.nominal_v <= 1.02 * stock_v.value:
        return own
    if family.controller != "none":
        return own * min(float(stock_v.value / a.nominal_v), 1.0)
    capacity = a.setup.stock.capacity_ah
    block = Pack(chemistry="lead", cells_in_series=max(round(stock_v.value / 2.0), 1), capacity_ah=capacity or Figure(value=family.capacity_ah))
    source_ohm = default_resistance_ohm(block) + float(np.mean(a.m.path_ohm))
    amps = stock_v.value / (float(np.mean(a.motor.loop_ohm)) + source_ohm)
    return float(np.mean(wheel_force_n(a.m.vehicle, a.motor, amps, standing=True) * a.m.vehicle.wheel_radius_m))


@rule("drive.gearbox", station="gearing", stage="drive", principle="Plastic gears stand about 2.5 times their stock stall torque.")
def gearbox(a: Analysis) -> Iterator[Trip]:
    drive, stock = a.setup.drivetrain, stock_stall_nm(a)
    if drive is None or drive.kind != "plastic gearbox" or stock is None or stock <= 0:
        return
    loads = margins.gear_torque(float(a.stall_wheel_nm), stock)
    share = float(a.stall_wheel_nm) / stock
    if share <= 1.5:
        return
    edits: tuple[Edit, ...] = ()
    limit = a.m.control.phase_limit_a
    if limit is not None:
        lower = float(int(float(limit) * 1.45 / share))
        if lower >= 2.0:
            edits = (Edit(f"Set the motor-side limit to {lower:.0f} A", put("controller/phase_limit_a", setting(lower))),)
    elif a.motor_is_brushed:
        edits = (knob_module(a),)
    yield Trip(
        "stop" if loads.over else "caution",
        "Pull-away is hard on the gears",
        f"A blocked wheel now loads the gears with {share:.1f} times their stock torque ({float(a.stall_wheel_nm):.0f} against {stock:.0f} N·m at the wheels).",
        "Add a soft start, or limit the motor's amps.",
        "/controller/phase_limit_a",
        edits,
        margin=loads,
    )


def _unmeasured(nm: float, wheel_teeth: int) -> Iterator[Trip]:
    """A chain of unknown size, where not even the thinnest of the usual ones would do."""
    pulls = {chain: _pull(nm, chain, wheel_teeth) for chain in chains().values()}
    thinnest = min(pulls, key=lambda chain: chain.tensile_n)
    least = pulls[thinnest]
    if not least.over:
        return
    holds = [chain.size for chain, margin in pulls.items() if not margin.over]
    yield Trip(
        "caution",
        "Is the chain strong enough for this pull?",
        f"Pulling away it pulls the chain with {least.asked:.0f} N. Nobody measured the chain; a {thinnest.size} takes {least.stands:.0f} N in use"
        + (f", a {holds[0]} would do." if holds else ", and none in the table would do."),
        "Read the size stamped on its links, or measure ten of them, and enter it.",
        "/drivetrain/chain_pitch",
        margin=least,
    )


def _pull(nm: float, size: ChainSize, wheel_teeth: int) -> margins.Margin:
    return margins.chain_pull(nm, sprocket_radius_m(wheel_teeth, size.pitch_m), size.tensile_n)


@rule("drive.pull", station="gearing", stage="drive", principle="A chain takes only a part of the pull that tears it.")
def pull(a: Analysis) -> Iterator[Trip]:
    drive = a.setup.drivetrain
    if drive is None or drive.kind != "chain" or not drive.wheel_teeth:
        return
    size = chain_size(drive.chain_pitch)
    if size is None:
        yield from _unmeasured(float(a.stall_wheel_nm), drive.wheel_teeth)
        return
    pulled = _pull(float(a.stall_wheel_nm), size, drive.wheel_teeth)
    if not pulled.over:
        return
    # Taken from the amps that flow: a limit above them would hold nothing back.
    lower = float(int(float(a.stall_point.motor_a) * 0.95 * pulled.stands / pulled.asked)) if a.m.control.phase_limit_a is not None else 0.0
    yield Trip(
        "stop",
        "The chain is too weak for this pull",
        f"Pulling away it pulls the chain with {pulled.asked:.0f} N; a {size.size} chain takes {pulled.stands:.0f} N in use. It stretches, jumps and tears.",
        "Use a stronger chain with its sprockets, or limit the motor's amps.",
        "/drivetrain/chain_pitch",
        (Edit(f"Set the motor-side limit to {lower:.0f} A", put("controller/phase_limit_a", setting(lower))),) if lower >= 2.0 else (),
        margin=pulled,
    )


@setup_rule("drive.teeth", station="gearing", stage="drive", principle="A small sprocket bends the chain sharply.")
def teeth(setup: Setup) -> Iterator[Trip]:
    drive = setup.drivetrain
    if drive is None or drive.motor_teeth is None or drive.motor_teeth >= 11:
        return
    yield Trip(
        "note",
        "A small motor sprocket",
        f"With {drive.motor_teeth} teeth the chain is louder and wears sooner; 11 or more run smoother.",
        "Keep it oiled and look at it often.",
        "/drivetrain/motor_teeth",
    )


ASSUMED_RPM = 1.8
"""A motor of which nothing more is known stands so many times the no-load speed of its plate; planning value of this project. [1]"""


@rule("drive.rpm", station="motors", stage="drive", principle="A rotor flies apart above its highest speed.")
def rpm(a: Analysis) -> Iterator[Trip]:
    motor = a.setup.motor
    if motor is None:
        return
    per_rpm = 2.0 * math.pi / 60.0
    turns = float(a.m.vehicle.omega(a.top)) / per_rpm
    if motor.max_rpm is not None:
        stands, words = motor.max_rpm.value, "it stands"
    else:
        each, plate = a.resolved.motor_each, a.resolved.figures["/motor/volts_v"].value
        assert each is not None
        stands, words = ASSUMED_RPM * (plate - float(each.no_load_a * each.resistance_ohm)) / float(each.k_v_s) / per_rpm, "assumed to stand"
    if turns <= stands:
        return
    yield Trip(
        "caution",
        "The motor turns too fast",
        f"At top speed it turns {turns:.0f} rpm; {words} {stands:.0f}.",
        "Gear it longer or use fewer volts.",
        "/motor/max_rpm",
    )
