"""Which sprocket to order: what every pair one can buy does to speed, launch, hill, the front wheel and the heat."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Literal

import numpy as np

from gecko.analysis.riding import Riding
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.common.documents import Patch
from gecko.document.context import Context
from gecko.document.parts.drivetrain import Drivetrain
from gecko.document.setup import Setup
from gecko.physics.road.chain import fit_chain, sprocket_radius_m
from gecko.reference.tables import ChainSize, chain_size, chains
from gecko.rules.drive import stock_stall_nm

Side = Literal["motor", "wheel", "wheel size", "as set up"]


class SprocketOut(Out):
    """A gearing one can have, and what it does; SI."""

    label: str
    side: Side
    motor_teeth: int | None
    wheel_teeth: int | None
    wheel_diameter_m: float
    ratio: float
    in_use: bool
    top_speed_m_s: float
    launch_s: float
    hill_grade: float
    hill_ends_by: str
    wheelie_margin: float | None
    """Acceleration that lifts the front over the largest of the launch; at 1 and below it lifts."""
    motor_20min_c: float
    """Warmest winding in twenty minutes of the course."""
    run_time_s: float
    stock_torque: float | None
    """Torque at the wheels at standstill over that of the machine as found."""
    chain_pull_n: float | None
    """Pull in the chain at standstill."""
    links: int | None
    centre_m: float | None
    """Links it takes, and the centre distance they ask for."""
    patch: Patch
    """Fields of the setup it changes."""


class SprocketsOut(Out):
    """The chooser: every choice beside the one in use, and why there are none, where there are none."""

    chain: str | None
    pitch_m: float | None
    choices: list[SprocketOut]
    why_none: str


_WHEEL_STEPS = (-0.051, -0.0254, 0.0254, 0.051)
"""Other wheels: one and two inches smaller and larger. [m]"""


def sprockets(a: Analysis) -> SprocketsOut:
    """The chooser for a setup: motor side, wheel side, and other wheels."""
    drive = a.setup.drivetrain
    chain = chain_size(drive.chain_pitch) if drive is not None else None
    offered: list[_Offer] = [(a.setup, "as set up", [])]
    why = ""
    if drive is None or drive.kind != "chain" or drive.motor_teeth is None or drive.wheel_teeth is None:
        why = "Enter the teeth of both sprockets to see what others would do." if drive is None or drive.kind == "chain" else f"A {drive.kind} has no sprocket to choose."
    else:
        for side, teeth in _offered(drive, chain):
            patch = _set({f"/drivetrain/{side}_teeth": teeth, "/drivetrain/ratio": None})
            other = drive.model_copy(update={f"{side}_teeth": teeth, "ratio": None})
            offered.append((a.setup.model_copy(update={"drivetrain": other}), side, patch))
    wheel = a.setup.wheel
    if wheel is not None:
        for step in _WHEEL_STEPS:
            diameter = round(wheel.diameter_m.value + step, 4)
            if diameter > 0.08:
                other_wheel = wheel.model_copy(update={"diameter_m": wheel.diameter_m.model_copy(update={"value": diameter})})
                offered.append((a.setup.model_copy(update={"wheel": other_wheel}), "wheel size", _set({"/wheel/diameter_m/value": diameter})))
    ridings = [Riding(setup, Context(house=a.context.house)) for setup, _, _ in offered]
    choices = [_of(a, riding, chain, side, patch) for riding, (_, side, patch) in zip(ridings, offered, strict=True)]
    return SprocketsOut(chain=chain.size if chain else None, pitch_m=chain.pitch_m if chain else None, choices=choices, why_none=why)


_Offer = tuple[Setup, Side, Patch]


def _set(values: dict[str, object]) -> Patch:
    return [{"op": "add", "path": path, "value": value} for path, value in values.items()]


def _offered(drive: Drivetrain, chain: ChainSize | None) -> Iterator[tuple[Literal["motor", "wheel"], int]]:
    """Teeth one can buy near the present ones, on either side; of an unknown chain those of the commonest small one."""
    table = chain or chains()["25"]
    assert drive.motor_teeth is not None and drive.wheel_teeth is not None
    for teeth in table.motor_teeth:
        if teeth != drive.motor_teeth and 0.55 <= teeth / drive.motor_teeth <= 1.7:
            yield "motor", teeth
    own = drive.wheel_teeth
    near = sorted(table.wheel_teeth, key=lambda teeth: abs(math.log(teeth / own)))
    for teeth in sorted(near[:7]):
        if teeth != own:
            yield "wheel", teeth


def _of(a: Analysis, other: Riding, chain: ChainSize | None, side: Side, patch: Patch) -> SprocketOut:
    drive = other.setup.drivetrain
    motor, wheel = (drive.motor_teeth, drive.wheel_teeth) if drive is not None else (None, None)
    stock = stock_stall_nm(a)
    torque = float(other.stall_wheel_nm)
    pull = fit = None
    if chain is not None and motor and wheel and drive is not None and drive.kind == "chain":
        pull = torque / sprocket_radius_m(wheel, chain.pitch_m)
        if drive.centre_m is not None:
            fit = fit_chain(motor, wheel, drive.centre_m.value, chain.pitch_m)
    wheelie = other.wheelie
    diameter = 2.0 * float(other.m.vehicle.wheel_radius_m)
    label = {"motor": f"{motor} at the motor", "wheel": f"{wheel} at the wheel", "as set up": f"{motor}:{wheel}" if motor and wheel else "as set up"}
    return SprocketOut(
        label=label.get(side, "another wheel"),
        side=side,
        motor_teeth=motor,
        wheel_teeth=wheel,
        wheel_diameter_m=diameter,
        ratio=float(other.m.vehicle.gear_ratio),
        in_use=side == "as set up",
        top_speed_m_s=float(other.top),
        launch_s=float(other.launch.time_s[-1]),
        hill_grade=float(other.hill.grade),
        hill_ends_by=other.hill.ends_by,
        wheelie_margin=None if wheelie is None else wheelie.margin,
        motor_20min_c=float(np.asarray(other.warm_c)),
        run_time_s=float(other.ride.run_time_s),
        stock_torque=None if stock is None or stock <= 0 else torque / stock,
        chain_pull_n=pull,
        links=fit.links if fit else None,
        centre_m=fit.centre_m if fit else None,
        patch=patch,
    )
