"""One motor, or two alike, with what the plate tells."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Held

MotorKind = Literal["small gear motor", "brushed", "hub", "brushless mid"]
BRUSHLESS: tuple[MotorKind, ...] = ("hub", "brushless mid")
"""Kinds that need a brushless controller."""
Wiring = Literal["single", "parallel", "series"]


class Motor(Held):
    """The motor set: kind, plate, how many and how wired."""

    kind: MotorKind = "brushed"
    """Small gear motor, brushed motor, hub motor, or brushless mid motor."""
    count: int = Field(default=1, ge=1, le=2)
    """One motor or two alike."""
    wiring: Wiring = "single"
    """Two motors: in parallel (high) or in series (low)."""
    volts_v: Annotated[Figure, Within("motor.volts_v")] | None = None
    """Volts on the plate."""
    power_w: Annotated[Figure, Within("motor.power_w")] | None = None
    """Watts on the plate of one motor: what it gives at the shaft."""
    speed_rpm: Annotated[Figure, Within("motor.speed_rpm")] | None = None
    """Revolutions per minute at the rated load."""
    no_load_rpm: Annotated[Figure, Within("motor.no_load_rpm")] | None = None
    """Revolutions per minute with nothing to turn, at the plate's volts."""
    kv_rpm_per_v: Annotated[Figure, Within("motor.kv_rpm_per_v")] | None = None
    """Revolutions per minute and volt, if that is printed instead."""
    stand_wheel_rpm: Annotated[Figure, Within("motor.stand_wheel_rpm")] | None = None
    """Revolutions per minute of the driven wheel, lifted off the ground, full throttle: a tachometer's reading."""
    stand_v: Annotated[Figure, Within("motor.stand_v")] | None = None
    """Volts at the bank during that reading. Empty: the plate's."""
    resistance_ohm: Annotated[Figure, Within("motor.resistance_ohm")] | None = None
    """Resistance of one motor's winding, cold, terminal to terminal."""
    stall_a: Annotated[Figure, Within("motor.stall_a")] | None = None
    """Amps of one motor held still at the plate's volts, if that is printed or measured instead."""
    no_load_a: Annotated[Figure, Within("motor.no_load_a")] | None = None
    """Amps of one motor with nothing to turn."""
    efficiency: Annotated[Figure, Within("motor.efficiency")] | None = None
    """Efficiency at the rated load. Empty: typical of its kind."""
    mass_kg: Annotated[Figure, Within("motor.mass_kg")] | None = None
    """Mass of one motor, for its heat. Empty: from kind and power."""
    max_rpm: Annotated[Figure, Within("motor.max_rpm")] | None = None
    """Most revolutions per minute it stands."""
    has_halls: bool = True
    """Brushless only: it has Hall sensors."""

    @property
    def brushless(self) -> bool:
        """Whether it needs a brushless controller."""
        return self.kind in BRUSHLESS
