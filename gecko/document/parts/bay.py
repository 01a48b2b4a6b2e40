"""The battery bay and how packs are held in it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure, Part
from gecko.document.parts.bounds import Within

HoldKind = Literal["strap", "bracket", "clamp", "screws", "dock latch", "glue", "tape", "elastic", "hook-and-loop"]

SURE: frozenset[HoldKind] = frozenset({"strap", "bracket", "clamp", "screws", "dock latch"})
"""Ways that hold a pack through a fall. Glue, tape, elastic and hook-and-loop let go with heat, age or a jolt."""


class Bay(Part):
    """Room for the packs, inside measures."""

    length_m: Annotated[Figure, Within("bay.length_m")]
    """Inside length, along the machine."""
    width_m: Annotated[Figure, Within("bay.width_m")]
    """Inside width, across the machine."""
    height_m: Annotated[Figure, Within("bay.height_m")]
    """Inside height, to the lid or seat."""
    clearance_m: Annotated[float, Within("bay.clearance_m")] = 0.01
    """Room left free around each pack, for padding."""
    connector_m: Annotated[float, Within("bay.connector_m")] = 0.03
    """Room above or beside each pack for its connectors and leads."""
    ahead_of_rear_m: Annotated[float, Within("bay.ahead_of_rear_m")] | None = None
    """Middle of the bay ahead of the rear axle."""
    floor_m: Annotated[float, Within("bay.floor_m")] | None = None
    """Height of the bay's floor above the ground."""


class Holding(Part):
    """How the packs are held and cushioned."""

    by: list[HoldKind] = Field(default=[], max_length=6)
    """What holds them. None: nothing does."""
    cushioned: bool = False
    """Padding between packs and walls."""
    against: Literal["padding", "plastic wall", "bare metal"] = "padding"
    """What the packs lean against."""
    spreader_plates: bool = False
    """Plates behind a plastic wall spread the force of screws and straps."""
    homemade: bool = False
    """The mount is homemade: bent, printed or welded at home."""
