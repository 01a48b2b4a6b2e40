"""How a joint is made: what it takes, what to mind, what keeps it from being pulled and from water."""

from __future__ import annotations

from gecko.document.parts.plug import Plug
from gecko.document.parts.wire import Lead

THICK_M2 = 6e-6
"""From here on hand pliers close no crimp: a hexagon tool does [m²]. Source: this project's planning value."""

_MADE = {
    "crimped": "Crimped: strip as long as the barrel, right die, tug each wire, shrink sleeve over it. No solder on top: the wire breaks where it ends.",
    "soldered": "Soldered: twist, heat the wire and not the solder, hold still until dull, shrink sleeve. It must never bend at the joint.",
    "twist cap": "A twist cap shakes loose on a machine: crimp instead, tug, sleeve.",
    "unknown": "Crimp what comes off again, solder only what never does. Tug each wire, shrink sleeve over it.",
}
PINS = "Plug pins: crimp copper and insulation apart, push in until it clicks, tug each wire."
_PLUGS = {
    "spade 6.3": "Spades: fully insulated ones, on the live half the socket side.",
    "bullet 4": "Bullets: soldered or crimped in the cup, sleeve up to the rim.",
    "bullet 5.5": "Bullets: soldered or crimped in the cup, sleeve up to the rim.",
    "two-pole 60": "Two-pole plug: soldered in its cups, packs' half the one without bare pins.",
    "two-pole 90": "Two-pole plug: soldered in its cups, packs' half the one without bare pins.",
    "genderless 45": "Genderless plug: crimp the contact, push it over the spring until it clicks.",
}
TIED = "Ties snug, not tight, and nothing over an edge; a free loop at fork and shock."


def tools(lead: Lead | None) -> list[str]:
    """What it takes to join a lead: by its joint and by how thick it is."""
    if lead is None:
        return ["stripper", "crimp tool", "shrink sleeve"]
    if lead.joint == "soldered":
        return ["stripper", "soldering iron, 60 W or more", "shrink sleeve"]
    crimp = "hexagon crimp tool" if lead.wire_m2 > THICK_M2 else "crimp tool"
    return ["stripper", f"{crimp} for {lead.words}", "shrink sleeve"]


def joint(lead: Lead | None, plugs: list[Plug] | None = None) -> str:
    """How its ends, and the plugs in it, are joined, in words."""
    kinds = dict.fromkeys(plug.kind for plug in plugs or [])
    return " ".join([_MADE[lead.joint if lead is not None else "unknown"], *(_PLUGS[kind] for kind in kinds if kind in _PLUGS)])
