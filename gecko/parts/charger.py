"""The charger on the shelf."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, positive
from gecko.parts.pack import Chemistry


class Charger(Part):
    """A charger with its end volts and amps."""

    label: str = Field(default="Charger", max_length=60)
    """What you call it."""
    chemistry: Chemistry = "li-ion"
    """Chemistry it is made for."""
    end_v: positive(150)  # type: ignore[valid-type]
    """Volts at which it stops."""
    amps_a: positive(200)  # type: ignore[valid-type]
    """Amps it charges with."""
    per: Literal["unit", "bank"] = "unit"
    """It charges packs one by one, or the whole bank in place."""
    plug: Literal["own", "mains pattern", "shared pattern"] = "own"
    """Its plug: one of its own, of a mains pattern, or one that also fits another voltage."""
    while_joined: bool = False
    """Packs are charged one by one while they are still joined side by side."""
    isolated: bool | None = None
    """Charging in place: the bank is cut off from the machine meanwhile."""
