"""The wires of a setup as a list to cut and join them by, in the open form of docs/formats.md."""

from __future__ import annotations

import csv
import io

from gecko.hookup.cells import cell
from gecko.hookup.colours import wire_colours
from gecko.hookup.netlist import build_wiring
from gecko.hookup.wiring import words
from gecko.setup import Setup
from gecko.words import plain

COLUMNS = ("wire", "from", "to", "function", "colour_from", "colour_to", "gauge", "length_m", "joint")


def wire_list_csv(setup: Setup) -> str:
    """One line a wire, lengths one way [m]; empty but for its head while there are no packs."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    wiring = build_wiring(setup)
    if wiring is None:
        return out.getvalue()
    colours = wire_colours(setup, wiring)
    for wire in wiring.wires:
        a, b = wiring.terminal(wire.a), wiring.terminal(wire.b)
        function = a.function if a.function == b.function else f"{a.function} to {b.function}"
        seen = [cell(colour) for colour in colours[wire.id]]
        writer.writerow(
            (
                wire.id,
                cell(words(wiring, wire.a)),
                cell(words(wiring, wire.b)),
                function,
                *seen,
                plain(wire.gauge),
                "" if wire.length_m is None else f"{wire.length_m:g}",
                wire.joint,
            )
        )
    return out.getvalue()
