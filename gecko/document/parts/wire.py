"""A lead: a run of wire, out and back."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure, Part
from gecko.common.words import gauge
from gecko.document.parts.bounds import Within
from gecko.physics.electric.path import awg_area_m2, copper_ohm_per_m
from gecko.physics.protection.ampacity import Size

Awg = Literal[18, 16, 14, 12, 10, 8, 6, 4, 2]
Insulation = Literal["60", "75", "105", "silicone"]


Material = Literal["copper", "copper-clad aluminium"]
Joint = Literal["crimped", "soldered", "twist cap", "unknown"]

RESISTANCE_OF: dict[Material, float] = {"copper": 1.0, "copper-clad aluminium": 1.59}
"""Resistance of a conductor over that of copper of its size [1]. Source: ASTM B566 class 10A, 0.0274 Ω·mm²/m against 0.0172."""

MM2_SIZES = (0.75, 1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 35.0)
"""Cross-sections sold by the square millimetre (the series of IEC 60228). [mm²]"""


class Lead(Part):
    """A run of copper lead between two parts. Its current comes back through the other lead of the pair."""

    awg: Awg = 12
    """Wire size by American gauge: a smaller number is a thicker wire."""
    length_m: Annotated[Figure, Within("wire.length_m")]
    """Length one way. The way back counts as well."""
    insulation: Insulation = "105"
    """What the insulation stands, in °C. Silicone counts as 105 °C unless both ends are lugs."""
    bundle_conductors: int = Field(default=2, ge=1, le=20)
    """How many loaded wires lie tight together; a bundle runs hotter."""
    mm2: Annotated[float, Within("wire.mm2")] | None = None
    """Copper of one wire in mm², where it is sold so. It then counts instead of the gauge."""
    strands: int = Field(default=1, ge=1, le=6)
    """Wires side by side that share the current. They count as loaded wires of the bundle."""
    air_c: Annotated[float, Within("wire.air_c")] | None = None
    """Air around this lead, where it runs near a motor or in the sun. Empty: as on a riding day."""
    lugged_ends: bool = False
    """Both ends carry lugs on studs, so that silicone may run as hot as it stands."""
    material: Material = "copper"
    """What it is made of. Copper-clad aluminium is lighter, silvery where cut, and carries less than copper of its size."""
    joint: Joint = "unknown"
    """How its ends are joined."""
    colour: str = Field(default="", max_length=30)
    """Colour of its insulation; for the plus wire of a pair. Empty: red for plus, black for minus, as new wire is bought."""
    colour_back: str = Field(default="", max_length=30)
    """Colour of the wire the current comes back through."""

    @property
    def words(self) -> str:
        """The wire as a sentence names it."""
        return gauge(self.awg, self.mm2, self.strands) + ("" if self.material == "copper" else " copper-clad aluminium")

    @property
    def wire_m2(self) -> float:
        """Copper of one of its wires. [m²]"""
        return awg_area_m2(self.awg) if self.mm2 is None else self.mm2 * 1e-6

    @property
    def area_m2(self) -> float:
        """Copper of all its wires together. [m²]"""
        return self.strands * self.wire_m2

    @property
    def ohm(self) -> float:
        """Resistance out and back at 20 °C. [Ω]"""
        return 2.0 * float(self.length_m.value) * self.ohm_per_m

    @property
    def ohm_per_m(self) -> float:
        """Resistance of one metre at 20 °C, one way. [Ω/m]"""
        return float(copper_ohm_per_m(self.area_m2)) * RESISTANCE_OF[self.material]


def size_of(lead: Lead) -> Size:
    """What a lead is made of: gauge [AWG] or [mm²], and how many wires.

    A copper-clad aluminium wire counts as the copper wire of the same resistance, and so carries what that one does.

    >>> from gecko.document.parts.wire import Lead
    >>> round(size_of(Lead(awg=12, length_m=1, material="copper-clad aluminium")).mm2, 2)
    2.08

    Source: equal loss for each metre, ASTM B566 for the resistance; the little more surface it has is left out.
    """
    if lead.material == "copper":
        return Size(lead.awg, lead.mm2, lead.strands)
    return Size(lead.awg, round(lead.wire_m2 * 1e6 / RESISTANCE_OF[lead.material], 4), lead.strands)
