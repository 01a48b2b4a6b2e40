"""The wires of a setup as a list to cut and join them by, in the open form of docs/formats.md."""

from __future__ import annotations

import csv
import io

from gecko.hookup.crosswalk import colours_of
from gecko.hookup.netlist import build_wiring
from gecko.hookup.wiring import words
from gecko.setup import Setup

COLUMNS = ("wire", "from", "to", "function", "colour_from", "colour_to", "gauge", "length_m", "joint")


USUAL = {"plus": "red", "minus": "black", "link plus": "red", "link minus": "red"}
"""Colours of new wire for what carries the current. Of a wire that is there already the colour is no proof."""


def wire_list_csv(setup: Setup) -> str:
    """One line a wire, lengths one way [m]; empty but for its head while there are no packs."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    wiring, colours = build_wiring(setup), colours_of(setup.plug_pairs)
    for wire in wiring.wires if wiring is not None else ():
        assert wiring is not None
        a, b = wiring.terminal(wire.a), wiring.terminal(wire.b)
        function = a.function if a.function == b.function else f"{a.function} to {b.function}"
        seen = [_cell(colours.get(end, USUAL.get(wiring.terminal(end).function, ""))) for end in (wire.a, wire.b)]
        writer.writerow(
            (
                wire.id,
                _cell(words(wiring, wire.a)),
                _cell(words(wiring, wire.b)),
                function,
                *seen,
                wire.gauge,
                "" if wire.length_m is None else f"{wire.length_m:g}",
                wire.joint,
            )
        )
    return out.getvalue()


def _cell(text: str) -> str:
    """A name a spreadsheet does not take for a formula."""
    return f"'{text}" if text[:1] in "=+-@\t\r" else text
