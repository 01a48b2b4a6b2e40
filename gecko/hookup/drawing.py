"""The wiring for the drawing: parts with ports above and below, and lines from below one part to above another; small wires as cables."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from gecko.answers.evaluation import Out
from gecko.hookup.colours import CODES, letters
from gecko.hookup.wiring import Component, Conductor, Function, Wiring

Side = Literal["above", "below"]
Kind = Literal["plus", "minus", "motor", "signal"]

_LEADS: frozenset[Function] = frozenset({"plus", "minus", "link plus", "link minus", "motor", "accessory plus", "accessory minus", "frame"})
"""What has a line of its own; all other wires of a part run in one cable."""
_THROUGH = ("fuse", "switch", "guard", "pedal switch", "accessory switch")
"""Parts with one way in and one way out."""


class DrawnPort(Out):
    """Where lines meet a part: its id, its words, the side it lies on, and the terminals it stands for."""

    id: str
    label: str
    side: Side
    terminals: list[str]


class DrawnPart(Out):
    """A part of the drawing; row: the bank's row it belongs to."""

    id: str
    kind: str
    label: str
    detail: str
    row: int | None
    ports: list[DrawnPort]


class Strand(Out):
    """A wire of a line: what it is for, and the letters of its colour at the start and at the end, base first; none where it is not known."""

    function: str
    start: list[str]
    end: list[str]


class DrawnLine(Out):
    """A wire, or a cable of several, from a port below to a port above; a wire back to its own part stays below."""

    id: str
    start: str
    end: str
    kind: Kind
    label: list[str]
    """Lines of words beside it: gauge and letters of a wire, or one line for each wire of a cable."""
    strands: list[Strand]


class DrawingOut(Out):
    """What is drawn."""

    parts: list[DrawnPart]
    lines: list[DrawnLine]
    letters: dict[str, str]
    """What the letters of the colours that occur mean."""


def drawing_of(wiring: Wiring, colours: Mapping[str, tuple[str, str]]) -> DrawingOut:
    """Parts and lines of a wiring. colours: of each wire's two ends, by its id."""
    ports: dict[str, dict[str, DrawnPort]] = {part.id: {} for part in wiring.parts}
    found: dict[str, tuple[Conductor, str, str]] = {}
    strands: dict[str, list[Strand]] = {}
    said: dict[str, list[str]] = {}
    for wire in wiring.wires:
        seen = colours.get(wire.id, ("", ""))
        start, end = wire.a, wire.b
        if _side(wiring, start, end) == "above":
            start, end, seen = end, start, seen[::-1]
        cable = _cable(wiring, wire)
        ends = [_port(wiring, ports, name, other, wire, cable) for name, other in ((start, end), (end, start))]
        key = f"{ends[0].id}>{ends[1].id}" if cable else wire.id
        strand = Strand(function=_what(wiring, start, end), start=list(letters(seen[0])), end=list(letters(seen[1])))
        words = "–".join(dict.fromkeys(_letters(colour) or "?" for colour in seen)) if any(seen) else ""
        found.setdefault(key, (wire, ends[0].id, ends[1].id))
        strands.setdefault(key, []).append(strand)
        said.setdefault(key, []).append(f"{strand.function} {words}" if cable and words else " ".join(filter(None, (wire.gauge, words))))
    lines = []
    for key, (wire, start, end) in found.items():
        known = any(strand.start or strand.end for strand in strands[key])
        label = [one for one in said[key] if one] if known or len(strands[key]) == 1 else [f"{len(strands[key])} wires"]
        lines.append(DrawnLine(id=key, start=start, end=end, kind=_kind(wiring, wire), label=label, strands=strands[key]))
    parts = [
        DrawnPart(id=part.id, kind=part.kind, label=part.label, detail=part.detail, row=part.row, ports=list(ports[part.id].values()))
        for part in wiring.parts
        if ports[part.id]
    ]
    seen_codes = {code for line in lines for strand in line.strands for code in (*strand.start, *strand.end)}
    return DrawingOut(parts=parts, lines=lines, letters={code: name for name, code in CODES.items() if code in seen_codes})


def _letters(colour: str) -> str:
    return "/".join(letters(colour)) or colour[:10]


def _what(wiring: Wiring, start: str, end: str) -> str:
    """What a small wire is for, in a word or two: by the part's own name for it, where it has one."""
    far = next((name for name in (end, start) if wiring.part(name).kind != "controller"), end)
    own = far.split(".", 1)[1]
    return own if own not in ("1", "2", "3") else wiring.terminal(far).function


def _port(wiring: Wiring, ports: dict[str, dict[str, DrawnPort]], name: str, other: str, wire: Conductor, cable: str) -> DrawnPort:
    """The port of a terminal, shared by the wires of a cable; a bar has one for each of its wires."""
    part, own = wiring.part(name), name.split(".", 1)[1]
    key, label = (name, own) if part.kind != "bar" else (f"{name}{wire.id}", "")
    if cable:
        far = wiring.part(other if part.kind == "controller" else name)
        key = f"{part.id}.{far.id} {cable}"
        side = next((one for one in ("left ", "right ") if own.startswith(one)), "")
        label = f"{side}{cable}" if part.kind in ("controller", "motor") else ""
    elif part.kind in _THROUGH and own != "−":
        # One way in, one way out: their place says it.
        label = ""
    found = ports[part.id].setdefault(key, DrawnPort(id=key, label=label, side=_side(wiring, name, other), terminals=[]))
    if name not in found.terminals:
        found.terminals.append(name)
    return found


def _cable(wiring: Wiring, wire: Conductor) -> str:
    """Name of the cable a wire runs in; empty for a wire of its own."""
    if wiring.terminal(wire.a).function in _LEADS:
        return ""
    far = next((wiring.part(name) for name in (wire.a, wire.b) if wiring.part(name).kind != "controller"), None)
    if far is None:
        return ""
    if far.kind == "motor":
        return "phases" if wiring.terminal(wire.a).function == "phase" else "Halls"
    return far.label.lower()


def _side(wiring: Wiring, name: str, other: str) -> Side:
    """Above where the current comes to a part, or goes back from it to the minus bar; below where it goes on."""
    part, own = wiring.part(name), name.split(".", 1)[1]
    if part.kind == "bar":
        return "below" if part.id == "minus_bar" or _below(wiring.part(other), other.split(".", 1)[1]) is False else "above"
    if part.kind == "motor" and own == "−" and other.endswith(".+"):
        return "below"
    return "below" if _below(part, own) else "above"


def _below(part: Component, own: str) -> bool:
    if part.kind == "frame":
        return True
    if part.kind == "pack":
        return own == "+"
    if part.kind in _THROUGH:
        return own == "out"
    if part.kind == "direction switch":
        return own[-1] in "12" and not own.startswith("in")
    if part.kind == "converter":
        return own.startswith("out")
    return part.kind == "controller" and not own.startswith("battery")


def _kind(wiring: Wiring, wire: Conductor) -> Kind:
    functions = {wiring.terminal(wire.a).function, wiring.terminal(wire.b).function}
    if functions & {"motor", "phase"}:
        return "motor"
    if functions & {"plus", "link plus", "accessory plus"}:
        return "plus"
    return "minus" if functions & {"minus", "accessory minus", "frame"} else "signal"
