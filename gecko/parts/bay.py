"""The battery bay and how packs are held in it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, positive

HoldKind = Literal["strap", "bracket", "clamp", "screws", "dock latch", "glue", "tape", "elastic", "hook-and-loop"]

SURE: frozenset[HoldKind] = frozenset({"strap", "bracket", "clamp", "screws", "dock latch"})
"""Ways that hold a pack through a fall. Glue, tape, elastic and hook-and-loop let go with heat, age or a jolt."""


class Bay(Part):
    """Room for the packs, inside measures."""

    length_m: positive(2)  # type: ignore[valid-type]
    """Inside length, along the machine."""
    width_m: positive(2)  # type: ignore[valid-type]
    """Inside width, across the machine."""
    height_m: positive(2)  # type: ignore[valid-type]
    """Inside height, to the lid or seat."""
    clearance_m: float = Field(default=0.01, ge=0, le=0.2)
    """Room left free around each pack, for padding."""
    connector_m: float = Field(default=0.03, ge=0, le=0.3)
    """Room above or beside each pack for its connectors and leads."""
    ahead_of_rear_m: float | None = Field(default=None, ge=-2, le=4)
    """Middle of the bay ahead of the rear axle."""
    floor_m: float | None = Field(default=None, ge=0, le=2)
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
