"""An adapter or dock that takes a tool pack."""

from __future__ import annotations

from typing import Annotated, Literal

from gecko.common.figures import Figure, Part
from gecko.document.parts.bounds import Within
from gecko.document.parts.wire import Lead


class Adapter(Part):
    """What a tool pack is pushed into: contacts, leads, and perhaps electronics that do not belong here."""

    kind: Literal["adapter", "dock"] = "adapter"
    """An adapter with leads, or the dock of a tool or charger."""
    contact_ohm: Annotated[Figure, Within("adapter.contact_ohm")] | None = None
    """Resistance of one contact. Empty: 1.5 mΩ assumed."""
    rating_a: Annotated[Figure, Within("adapter.rating_a")] | None = None
    """Amps it stands. Empty: not known."""
    lead: Lead | None = None
    """Its own leads."""
    polarity_rechecked: bool = False
    """Plus and minus were measured again after it was mounted: a mirrored adapter swaps them."""
    electronics: Literal["none", "removed", "isolated", "in place", "unknown"] = "unknown"
    """Electronics inside it: none, removed, isolated, still in place, or not known."""
