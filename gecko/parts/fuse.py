"""A fuse with its holder and where it sits."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Figure, Part, non_negative, positive

FuseKind = Literal["blade", "large blade", "bolt-down", "cartridge"]


class Fuse(Part):
    """A fuse: rating, kind, DC volts, place."""

    kind: FuseKind = "blade"
    """Blade, large blade, bolt-down or cartridge."""
    rating_a: float = Field(gt=0, le=500)
    """Amps printed on it."""
    dc_volts_v: float = Field(default=32, gt=0, le=1000)
    """DC volts printed on it. It must cover the full-charge volts."""
    breaking_a: float | None = Field(default=None, gt=0, le=200_000)
    """Largest current it can break. Empty: what is usual for its kind, 1 000 A (ISO 8820-3), cartridges 20 000 A."""
    side: Literal["positive", "negative", "unknown"] = "positive"
    """Which lead it sits in. It belongs in the positive one. Unknown: not looked at."""
    distance_m: non_negative(10) = Figure(value=0.15, basis="assumed")  # type: ignore[valid-type]
    """Length of positive lead between the pack and the fuse, which nothing guards."""
    holder_a: positive(500) | None = None  # type: ignore[valid-type]
    """What the holder is rated for. Empty: as much as the fuse."""
    holder_v: positive(1000) | None = None  # type: ignore[valid-type]
    """DC volts the holder is made for. Empty: as much as the fuse."""

    @property
    def breaks_a(self) -> float:
        """Breaking capacity in force. [A]"""
        if self.breaking_a is not None:
            return self.breaking_a
        return 20_000.0 if self.kind == "cartridge" else 1_000.0
