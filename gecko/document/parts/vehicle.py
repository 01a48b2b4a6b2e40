"""The machine itself: family, mass, geometry, brakes, and how it was stock."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure, Part
from gecko.document.parts.bay import Bay
from gecko.document.parts.bounds import Within
from gecko.document.parts.hookup import SideJob
from gecko.reference.kinds import Brake

Family = Literal["ride-on car", "small dirt bike", "quad", "scooter", "kart", "mini bike", "transplant"]
Seat = Literal["between the axles", "over the rear axle", "behind the rear axle", "over the front axle"]


class Vehicle(Part):
    """The rolling machine without rider and packs."""

    family: Family
    """Which kind of machine it is; unknown numbers start from the family's typical ones."""
    mass_kg: Annotated[Figure, Within("vehicle.mass_kg")] | None = None
    """Mass of the machine with the packs it came with, without the rider."""
    max_load_kg: Annotated[Figure, Within("vehicle.max_load_kg")] | None = None
    """Maker's limit for rider and load."""
    max_speed_m_s: Annotated[Figure, Within("vehicle.max_speed_m_s")] | None = None
    """Maker's highest speed. It comes first."""
    least_age_years: Annotated[float, Within("vehicle.least_age_years")] | None = None
    """Maker's least age of a rider. It comes first."""
    seats: int | None = Field(default=None, ge=1, le=4)
    """Seats. Empty: one."""
    suspension: bool | None = None
    """It has suspension, or tyres with air and room to give. Empty: as its kind of machine usually has."""
    extra_mass_kg: Annotated[Figure, Within("vehicle.extra_mass_kg")] | None = None
    """Mass of what was added beside packs, motor, controller and wires: brackets, cages, a seat."""
    stock_charger_left: bool | None = None
    """The stock charger or its socket is still there and would go into the new packs. Empty: not looked at."""
    cables_clear: bool | None = None
    """No cable lies over an edge, at the steering, or near chain and wheel. Empty: not looked at."""
    wheelbase_m: Annotated[Figure, Within("vehicle.wheelbase_m")] | None = None
    """Distance between the axles."""
    com_ahead_of_rear_m: Annotated[Figure, Within("vehicle.com_ahead_of_rear_m")] | None = None
    """Centre of mass ahead of the rear contact, rider aboard."""
    com_height_m: Annotated[Figure, Within("vehicle.com_height_m")] | None = None
    """Height of the centre of mass, rider aboard."""
    front_axle_kg: Annotated[Figure, Within("vehicle.front_axle_kg")] | None = None
    """What the front axle carries on level ground, packs in and rider aboard. With the rear one it says where the weight sits."""
    rear_axle_kg: Annotated[Figure, Within("vehicle.rear_axle_kg")] | None = None
    """What the rear axle carries, packs in and rider aboard."""
    seat: Seat | None = None
    """Where the rider sits. Empty: as its kind of machine usually has it."""
    track_m: Annotated[Figure, Within("vehicle.track_m")] | None = None
    """Distance between left and right wheels."""
    drag_area_m2: Annotated[Figure, Within("vehicle.drag_area_m2")] | None = None
    """Drag area with rider. Empty: typical of machine and rider."""
    driven_axle: Literal["rear", "front", "all"] = "rear"
    """Which axle is driven."""
    brake: Brake | None = None
    """Kind of brake. Empty: typical of the family."""
    fail_safe_brake: Literal["held by power", "released for good", "removed"] | None = None
    """An electric brake that grips without current: how it is now. Empty: it has none."""
    fail_safe_brake_v: Annotated[Figure, Within("vehicle.fail_safe_brake_v")] | None = None
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

    volts_v: Annotated[Figure, Within("stock.volts_v")] | None = None
    """Nominal volts as found."""
    capacity_ah: Annotated[Figure, Within("stock.capacity_ah")] | None = None
    """Amp-hours as found."""
    fuse_a: Annotated[Figure, Within("stock.fuse_a")] | None = None
    """Fuse as found."""
    packs_kg: Annotated[Figure, Within("stock.packs_kg")] | None = None
    """Mass of the packs that are in the machine's mass: what the packs of this setup weigh more or less comes on top. Empty: it was
    weighed with these packs."""
    drive_kg: Annotated[Figure, Within("stock.drive_kg")] | None = None
    """Mass of motor, controller, wires and switches that are in the machine's mass: what those of this setup weigh more or less comes on
    top. Empty: it was weighed with these."""
    top_speed_m_s: Annotated[Figure, Within("stock.top_speed_m_s")] | None = None
    """How fast it went as bought, about. Empty: nobody remembers."""
    also_did: list[SideJob] = Field(default=[], max_length=7)
    """What the parts that were replaced did beside what they are named for."""
    notes: str = Field(default="", max_length=500)
    """Anything worth keeping about the stock wiring."""
