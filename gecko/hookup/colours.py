"""Colours of wires: their letters, and what the wire at each terminal looks like, entered or as new wire is bought."""

from __future__ import annotations

from gecko.document.setup import Setup
from gecko.hookup.crosswalk import colours_of
from gecko.hookup.wiring import Conductor, Function, Wiring

CODES = {
    "black": "BK",
    "brown": "BN",
    "red": "RD",
    "orange": "OG",
    "yellow": "YE",
    "green": "GN",
    "blue": "BU",
    "violet": "VT",
    "grey": "GY",
    "white": "WH",
    "pink": "PK",
    "gold": "GD",
    "turquoise": "TQ",
    "silver": "SR",
}
"""Letters of colours. Source: IEC 60757."""
_ALSO = {"purple": "violet", "lilac": "violet", "gray": "grey", "tan": "brown", "cyan": "turquoise", "clear": "silver", "rose": "pink"}
USUAL: dict[Function, str] = {"plus": "red", "minus": "black", "link plus": "red", "link minus": "red", "accessory plus": "red", "accessory minus": "black"}
"""Colours of new wire for what carries the current. Of a wire that is there already the colour is no proof."""


def letters(colour: str) -> tuple[str, ...]:
    """The letters of a colour's words, base first; empty where none is known.

    >>> letters("white with red"), letters("light blue"), letters("purple"), letters("muddy")
    (('WH', 'RD'), ('BU',), ('VT',), ())
    """
    words = colour.lower().replace("/", " ").replace("-", " ").replace(",", " ").split()
    found = [CODES[_ALSO.get(word, word)] for word in words if _ALSO.get(word, word) in CODES]
    return tuple(dict.fromkeys(found))[:2]


def wire_colours(setup: Setup, wiring: Wiring) -> dict[str, tuple[str, str]]:
    """Colour of each wire at its two ends, by its id: of the plug it ends in, else of its lead, else the usual one."""
    seen = colours_of(setup)

    def at(wire: Conductor, end: str) -> str:
        return seen.get(end) or wire.colour or USUAL.get(wiring.terminal(end).function, "")

    return {wire.id: (at(wire, wire.a), at(wire, wire.b)) for wire in wiring.wires}
