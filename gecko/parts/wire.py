"""A lead: a run of wire, out and back."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, positive

Awg = Literal[18, 16, 14, 12, 10, 8, 6, 4, 2]
Insulation = Literal["60", "75", "105", "silicone"]


class Lead(Part):
    """A run of copper lead between two parts. Its current comes back through the other lead of the pair."""

    awg: Awg = 12
    """Wire size by American gauge: a smaller number is a thicker wire."""
    length_m: positive(30)  # type: ignore[valid-type]
    """Length one way. The way back counts as well."""
    insulation: Insulation = "105"
    """What the insulation stands, in °C. Silicone counts as 105 °C unless both ends are lugs."""
    bundle_conductors: int = Field(default=2, ge=1, le=20)
    """How many loaded wires lie tight together; a bundle runs hotter."""
