"""The wires of a setup as a list to cut and join them by; as CSV in the open form of docs/formats.md."""

from __future__ import annotations

import csv
import io

from gecko.answers.evaluation import Out
from gecko.common.cells import cell
from gecko.common.words import plain
from gecko.document.setup import Setup
from gecko.hookup.colours import wire_colours
from gecko.hookup.netlist import build_wiring
from gecko.hookup.wiring import Wiring, words

COLUMNS = ("wire", "from", "to", "function", "colour_from", "colour_to", "gauge", "length_m", "joint")


class WireRow(Out):
    """A wire: its ends, what it is for, its colour at either end, its gauge as a sentence names it, its length one way, and its joint."""

    id: str
    start: str
    end: str
    function: str
    start_colour: str
    end_colour: str
    gauge: str
    length_m: float | None
    """Empty where no lead is entered. [m]"""
    joint: str


def wire_rows(setup: Setup, wiring: Wiring) -> list[WireRow]:
    """All wires, lengths one way [m]."""
    colours, found = wire_colours(setup, wiring), []
    for wire in wiring.wires:
        a, b = wiring.terminal(wire.a), wiring.terminal(wire.b)
        found.append(
            WireRow(
                id=wire.id,
                start=words(wiring, wire.a),
                end=words(wiring, wire.b),
                function=a.function if a.function == b.function else f"{a.function} to {b.function}",
                start_colour=colours[wire.id][0],
                end_colour=colours[wire.id][1],
                gauge=wire.gauge,
                length_m=wire.length_m,
                joint=wire.joint,
            )
        )
    return found


def wire_list_csv(setup: Setup) -> str:
    """One line a wire, lengths one way [m]; empty but for its head while there are no packs."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    wiring = build_wiring(setup)
    for row in wire_rows(setup, wiring) if wiring is not None else ():
        length = "" if row.length_m is None else f"{row.length_m:g}"
        texts = (row.id, row.start, row.end, row.function, row.start_colour, row.end_colour, plain(row.gauge), length, row.joint)
        writer.writerow([cell(text) for text in texts])
    return out.getvalue()
