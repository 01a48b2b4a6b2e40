"""A fuse with its holder and where it sits."""

from __future__ import annotations

from typing import Annotated, Literal

from gecko.common.figures import Figure
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Held

FuseKind = Literal["blade", "large blade", "bolt-down", "cartridge"]


class Fuse(Held):
    """A fuse: rating, kind, DC volts, place."""

    kind: FuseKind = "blade"
    """Blade, large blade, bolt-down or cartridge."""
    rating_a: Annotated[float, Within("fuse.rating_a")]
    """Amps printed on it."""
    dc_volts_v: Annotated[float, Within("fuse.dc_volts_v")] = 32
    """DC volts printed on it. It must cover the full-charge volts."""
    breaking_a: Annotated[float, Within("fuse.breaking_a")] | None = None
    """Largest current it can break. Empty: what is usual for its kind, 1 000 A (ISO 8820-3), cartridges 20 000 A."""
    side: Literal["positive", "negative", "unknown"] = "positive"
    """Which lead it sits in. It belongs in the positive one. Unknown: not looked at."""
    distance_m: Annotated[Figure, Within("fuse.distance_m")] = Figure(value=0.15, basis="assumed")
    """Length of positive lead between the pack and the fuse, which nothing guards."""
    holder_a: Annotated[Figure, Within("fuse.holder_a")] | None = None
    """What the holder is rated for. Empty: as much as the fuse."""
    holder_v: Annotated[Figure, Within("fuse.holder_v")] | None = None
    """DC volts the holder is made for. Empty: as much as the fuse."""

    @property
    def breaks_a(self) -> float:
        """Breaking capacity in force. [A]"""
        if self.breaking_a is not None:
            return self.breaking_a
        return 20_000.0 if self.kind == "cartridge" else 1_000.0
