"""The machine itself: family, mass, geometry, brakes, and how it was stock."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, positive
from gecko.parts.bay import Bay
from gecko.parts.hookup import SideJob

Family = Literal["ride-on car", "small dirt bike", "quad", "scooter", "kart", "mini bike", "transplant"]
Brake = Literal["gearbox drag", "drum or band", "rim", "disc"]


class Vehicle(Part):
    """The rolling machine without rider and packs."""

    family: Family
    """Which kind of machine it is; unknown numbers start from the family's typical ones."""
    mass_kg: positive(600) | None = None  # type: ignore[valid-type]
    """Mass of the machine with the packs it came with, without the rider."""
    max_load_kg: positive(600) | None = None  # type: ignore[valid-type]
    """Maker's limit for rider and load."""
    max_speed_m_s: positive(40) | None = None  # type: ignore[valid-type]
    """Maker's highest speed. It comes first."""
    least_age_years: float | None = Field(default=None, ge=1, le=99)
    """Maker's least age of a rider. It comes first."""
    seats: int | None = Field(default=None, ge=1, le=4)
    """Seats. Empty: one."""
    suspension: bool | None = None
    """It has suspension, or tyres with air and room to give. Empty: as its kind of machine usually has."""
    extra_mass_kg: positive(200) | None = None  # type: ignore[valid-type]
    """Mass of what was added beside the packs: motor, brackets, cages."""
    stock_charger_left: bool | None = None
    """The stock charger or its socket is still there and would go into the new packs. Empty: not looked at."""
    cables_clear: bool | None = None
    """No cable lies over an edge, at the steering, or near chain and wheel. Empty: not looked at."""
    wheelbase_m: positive(4) | None = None  # type: ignore[valid-type]
    """Distance between the axles."""
    com_ahead_of_rear_m: positive(4) | None = None  # type: ignore[valid-type]
    """Centre of mass ahead of the rear contact, rider aboard."""
    com_height_m: positive(3) | None = None  # type: ignore[valid-type]
    """Height of the centre of mass, rider aboard."""
    track_m: positive(3) | None = None  # type: ignore[valid-type]
    """Distance between left and right wheels."""
    drag_area_m2: positive(5) | None = None  # type: ignore[valid-type]
    """Drag area with rider. Empty: typical of machine and rider."""
    driven_axle: Literal["rear", "front", "all"] = "rear"
    """Which axle is driven."""
    brake: Brake | None = None
    """Kind of brake. Empty: typical of the family."""
    fail_safe_brake: Literal["held by power", "released for good", "removed"] | None = None
    """An electric brake that grips without current: how it is now. Empty: it has none."""
    fail_safe_brake_v: positive(120) | None = None  # type: ignore[valid-type]
    """Volts the electric brake's coil needs to let go."""
    parking_brake: bool | None = None
    """There is another parking brake."""
    braked_axles: Literal["rear", "front", "both"] = "rear"
    """Which axles are braked."""
    board_in_path: Literal["yes", "no", "unknown"] = "unknown"
    """A circuit board sits between pedal and motor. More volts can kill it."""
    board_bypassed: bool = False
    """The board is bypassed: the new wiring does not pass it."""
    plus_lead_note: str = Field(default="", max_length=300)
    """Which lead is plus, and how you know: read off the battery or measured, never by colour alone."""
    bay: Bay | None = None
    """Room for the packs."""
    controller_room: Bay | None = None
    """Room for the controller with its plugs."""
    plus_lead_proven: bool | None = None
    """The plus lead was read off the old battery or measured. Empty: not looked at; a colour is no proof."""


class Stock(Part):
    """The electrics as they left the factory: what gains and gearbox loads are compared with."""

    volts_v: positive(120) | None = None  # type: ignore[valid-type]
    """Nominal volts as found."""
    capacity_ah: positive(500) | None = None  # type: ignore[valid-type]
    """Amp-hours as found."""
    fuse_a: positive(500) | None = None  # type: ignore[valid-type]
    """Fuse as found."""
    packs_kg: positive(200) | None = None  # type: ignore[valid-type]
    """Mass of the packs that are in the machine's mass: what the packs of this setup weigh more or less comes on top. Empty: it was
    weighed with these packs."""
    also_did: list[SideJob] = Field(default=[], max_length=7)
    """What the parts that were replaced did beside what they are named for."""
    notes: str = Field(default="", max_length=500)
    """Anything worth keeping about the stock wiring."""
