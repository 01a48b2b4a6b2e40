"""The charger on the shelf."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Held
from gecko.document.parts.pack import Chemistry


class Charger(Held):
    """A charger with its end volts and amps."""

    label: str = Field(default="Charger", max_length=60)
    """What you call it."""
    chemistry: Chemistry = "li-ion"
    """Chemistry it is made for."""
    end_v: Annotated[Figure, Within("charger.end_v")]
    """Volts at which it stops."""
    amps_a: Annotated[Figure, Within("charger.amps_a")]
    """Amps it charges with, each port."""
    ports: int = Field(default=1, ge=1, le=12)
    """Packs it charges at the same time, each at a port of its own."""
    per: Literal["unit", "bank"] = "unit"
    """It charges packs one by one, or the whole bank in place."""
    plug: Literal["own", "mains pattern", "shared pattern"] = "own"
    """Its plug: one of its own, of a mains pattern, or one that also fits another voltage."""
    while_joined: bool = False
    """Packs are charged one by one while they are still joined side by side."""
    through: Literal["its own port", "output contacts"] | None = None
    """Where it charges a pack: through the port or dock made for it, which watches and balances the cells, or through the contacts the machine draws
    its current from."""
    place: Literal["watched, clear of ways out", "unwatched", "on a way out"] | None = None
    """Where it charges. Empty: not stated."""
    coldest_c: Annotated[float, Within("charger.coldest_c")] | None = None
    """Coldest air packs are charged in. Empty: above freezing."""
    mains_opened: bool = False
    """Its case or its mains lead was opened, mended or exchanged."""
    isolated: bool | None = None
    """Charging in place: the bank is cut off from the machine meanwhile."""
