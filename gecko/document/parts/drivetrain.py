"""Gearing and wheel: what turns motor speed into road speed."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from gecko.common.figures import Figure
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Held
from gecko.reference.kinds import DriveKind, Tyre


class Drivetrain(Held):
    """How the motor drives the wheel."""

    kind: DriveKind = "chain"
    """Hub motor, chain, plastic gearbox, differential, or worm transaxle."""
    motor_teeth: int | None = Field(default=None, ge=5, le=60)
    """Teeth of the motor's sprocket."""
    wheel_teeth: int | None = Field(default=None, ge=10, le=200)
    """Teeth of the wheel's sprocket."""
    ratio: Annotated[Figure, Within("drivetrain.ratio")] | None = None
    """Motor turns for one turn of the wheel, gearbox and chain together. Empty: from the teeth, or typical."""
    efficiency: Annotated[Figure, Within("drivetrain.efficiency")] | None = None
    """Share of power that reaches the wheel. Empty: typical of its kind."""
    chain_width_m: Annotated[Figure, Within("drivetrain.chain_width_m")] | None = None
    """Inner width of the chain. Empty: that of its size."""
    centre_m: Annotated[Figure, Within("drivetrain.centre_m")] | None = None
    """From the middle of the motor's sprocket to the middle of the wheel's."""
    links: int | None = Field(default=None, ge=10, le=400)
    """Links of the chain."""
    shaft: str | None = Field(default=None, max_length=30)
    """The motor's shaft: diameter with flat, key, spline or thread."""
    sprocket_bore: str | None = Field(default=None, max_length=30)
    """Bore of the motor's sprocket, in the same words."""
    motor_mount: str | None = Field(default=None, max_length=30)
    """Bolt pattern of the motor."""
    frame_mount: str | None = Field(default=None, max_length=30)
    """Bolt pattern the frame or its plate offers, in the same words."""
    wheel_sprocket_bolts: str | None = Field(default=None, max_length=30)
    """Bolt pattern of the wheel's sprocket."""
    wheel_bolts: str | None = Field(default=None, max_length=30)
    """Bolt pattern the wheel or its carrier offers, in the same words."""
    torque_arm: bool | None = None
    """A hub motor's axle is held against turning by torque arms on both sides. Empty: not looked at."""
    mount_homemade: bool | None = None
    """The motor's mount is homemade. Empty: not stated."""
    chain_guard: bool | None = None
    """Chain and sprockets are covered, so that no finger, lace or trouser gets in. Empty: not looked at."""
    in_line: bool | None = None
    """A straight edge lies flat on both sprockets."""
    slack_adjustable: bool | None = None
    """The chain's slack can be adjusted."""
    other_side: bool = False
    """The new sprocket or motor sits on the other side than before, or faces the other way."""
    chain_pitch: str | None = Field(default=None, max_length=20)
    """Chain size, as stamped on it."""
    motor_sprocket_pitch: str | None = Field(default=None, max_length=20)
    """Chain size the motor's sprocket is made for."""
    wheel_sprocket_pitch: str | None = Field(default=None, max_length=20)
    """Chain size the wheel's sprocket is made for."""
    load_limit_nm: Annotated[Figure, Within("drivetrain.load_limit_nm")] | None = None
    """Torque at the wheel the gearing stands, if known."""


class Wheel(Held):
    """The driven wheel."""

    diameter_m: Annotated[Figure, Within("wheel.diameter_m")]
    """Outer diameter of the driven wheel, under load."""
    tyre: Tyre = "pneumatic"
    """Plastic, plastic with a rubber band, solid rubber, or pneumatic."""
