"""Checks of the gearing."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis import Analysis
from gecko.checks.edits import figure, put
from gecko.checks.registry import Edit, Trip, rule


@rule("drive.chain", station="gearing", stage="drive", principle="A chain fits only sprockets of its own pitch.", needs="document")
def chain(a: Analysis) -> Iterator[Trip]:
    drive = a.setup.drivetrain
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


def stock_stall_nm(a: Analysis) -> float | None:
    """Torque of the stock machine at the wheels at standstill [N·m]: the baseline's, or its own if it is the baseline."""
    if a.context.is_baseline:
        return float(a.stall_wheel_nm)
    return float(a.baseline.stall_wheel_nm) if a.baseline is not None else None


@rule("drive.gearbox", station="gearing", stage="drive", principle="Plastic gears stand about 2.5 times their stock stall torque.")
def gearbox(a: Analysis) -> Iterator[Trip]:
    drive, stock = a.setup.drivetrain, stock_stall_nm(a)
    if drive is None or drive.kind != "plastic gearbox" or stock is None or stock <= 0 or a.context.is_baseline:
        return
    share = float(a.stall_wheel_nm) / stock
    if share <= 1.5:
        return
    edits: tuple[Edit, ...] = ()
    limit = a.m.control.phase_limit_a
    if limit is not None:
        lower = float(int(float(limit) * 1.45 / share))
        edits = (Edit(f"Set the motor-side limit to {lower:.0f} A", put("controller/phase_limit_a", figure(lower))),)
    yield Trip(
        "stop" if share > 2.5 else "caution",
        "Pull-away is hard on the gears",
        f"A blocked wheel now loads the gears with {share:.1f} times their stock torque ({float(a.stall_wheel_nm):.0f} against {stock:.0f} N·m at the wheels).",
        "Add a soft start, or limit the motor's amps.",
        "/controller/phase_limit_a",
        edits,
    )


@rule("drive.teeth", station="gearing", stage="drive", principle="A small sprocket bends the chain sharply.", needs="document")
def teeth(a: Analysis) -> Iterator[Trip]:
    drive = a.setup.drivetrain
    if drive is None or drive.motor_teeth is None or drive.motor_teeth >= 11:
        return
    yield Trip(
        "note",
        "A small motor sprocket",
        f"With {drive.motor_teeth} teeth the chain is louder and wears sooner; 11 or more run smoother.",
        "Keep it oiled and look at it often.",
        "/drivetrain/motor_teeth",
    )


@rule("drive.rpm", station="motors", stage="drive", principle="A rotor flies apart above its highest speed.")
def rpm(a: Analysis) -> Iterator[Trip]:
    motor = a.setup.motor
    if motor is None or motor.max_rpm is None:
        return
    turns = float(a.m.vehicle.omega(a.top)) * 60.0 / (2.0 * 3.141592653589793)
    if turns <= motor.max_rpm.value:
        return
    yield Trip(
        "caution",
        "The motor turns too fast",
        f"At top speed it turns {turns:.0f} rpm; it stands {motor.max_rpm.value:.0f}.",
        "Gear it longer or use fewer volts.",
        "/motor/max_rpm",
    )
