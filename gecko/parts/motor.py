"""One motor, or two alike, with what the plate tells."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, positive

MotorKind = Literal["small gear motor", "brushed", "hub", "brushless mid"]
Wiring = Literal["single", "parallel", "series"]


class Motor(Part):
    """The motor set: kind, plate, how many and how wired."""

    kind: MotorKind = "brushed"
    """Small gear motor, brushed motor, hub motor, or brushless mid motor."""
    count: int = Field(default=1, ge=1, le=2)
    """One motor or two alike."""
    wiring: Wiring = "single"
    """Two motors: in parallel (high) or in series (low)."""
    volts_v: positive(120) | None = None  # type: ignore[valid-type]
    """Volts on the plate."""
    power_w: positive(20_000) | None = None  # type: ignore[valid-type]
    """Watts on the plate of one motor: what it gives at the shaft."""
    speed_rpm: positive(60_000) | None = None  # type: ignore[valid-type]
    """Revolutions per minute at the rated load."""
    no_load_rpm: positive(60_000) | None = None  # type: ignore[valid-type]
    """Revolutions per minute with nothing to turn, at the plate's volts."""
    kv_rpm_per_v: positive(5_000) | None = None  # type: ignore[valid-type]
    """Revolutions per minute and volt, if that is printed instead."""
    stand_wheel_rpm: positive(60_000) | None = None  # type: ignore[valid-type]
    """Revolutions per minute of the driven wheel, lifted off the ground, full throttle: a tachometer's reading."""
    stand_v: positive(200) | None = None  # type: ignore[valid-type]
    """Volts at the bank during that reading. Empty: the plate's."""
    resistance_ohm: positive(100) | None = None  # type: ignore[valid-type]
    """Resistance of one motor's winding, cold, terminal to terminal."""
    stall_a: positive(5_000) | None = None  # type: ignore[valid-type]
    """Amps of one motor held still at the plate's volts, if that is printed or measured instead."""
    no_load_a: positive(500) | None = None  # type: ignore[valid-type]
    """Amps of one motor with nothing to turn."""
    efficiency: positive(1) | None = None  # type: ignore[valid-type]
    """Efficiency at the rated load. Empty: typical of its kind."""
    mass_kg: positive(200) | None = None  # type: ignore[valid-type]
    """Mass of one motor, for its heat. Empty: from kind and power."""
    max_rpm: positive(100_000) | None = None  # type: ignore[valid-type]
    """Most revolutions per minute it stands."""
    has_halls: bool = True
    """Brushless only: it has Hall sensors."""

    @property
    def brushless(self) -> bool:
        """Whether it needs a brushless controller."""
        return self.kind in ("hub", "brushless mid")
