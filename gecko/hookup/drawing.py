"""The wiring for the drawing: parts with ports above and below, and lines from below one part to above another; small wires as cables."""

from __future__ import annotations

from typing import Literal

from gecko.evaluation import Out
from gecko.hookup.wiring import Component, Conductor, Function, Wiring

Side = Literal["above", "below"]
Kind = Literal["plus", "minus", "motor", "signal"]

_CABLED: frozenset[Function] = frozenset(
    {"5 V", "signal ground", "throttle signal", "brake signal", "key", "foot switch", "speed", "reverse", "display", "Hall signal", "phase"}
)


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


class DrawnLine(Out):
    """A wire, or a cable of several, from a port below to a port above."""

    id: str
    start: str
    end: str
    kind: Kind
    label: str
    wires: int


class DrawingOut(Out):
    """What is drawn."""

    parts: list[DrawnPart]
    lines: list[DrawnLine]


def drawing_of(wiring: Wiring) -> DrawingOut:
    """Parts and lines of a wiring."""
    ports: dict[str, dict[str, DrawnPort]] = {part.id: {} for part in wiring.parts}
    lines: dict[str, DrawnLine] = {}
    for wire in wiring.wires:
        start, end = (wire.a, wire.b) if _side(wiring, wire.a, wire.b) == "below" else (wire.b, wire.a)
        cable = _cable(wiring, wire)
        ends = [_port(wiring, ports, name, other, wire, cable) for name, other in ((start, end), (end, start))]
        key = f"{ends[0].id}>{ends[1].id}" if cable else wire.id
        known = lines.get(key)
        count = known.wires + 1 if known is not None else 1
        label = f"{count} wires" if count > 1 else wire.gauge
        lines[key] = DrawnLine(id=key, start=ends[0].id, end=ends[1].id, kind=_kind(wiring, wire), label=label, wires=count)
    parts = [
        DrawnPart(id=part.id, kind=part.kind, label=part.label, detail=part.detail, row=part.row, ports=list(ports[part.id].values()))
        for part in wiring.parts
        if ports[part.id]
    ]
    return DrawingOut(parts=parts, lines=list(lines.values()))


def _port(wiring: Wiring, ports: dict[str, dict[str, DrawnPort]], name: str, other: str, wire: Conductor, cable: str) -> DrawnPort:
    """The port of a terminal, shared by the wires of a cable; a bar has one for each of its wires."""
    part, own = wiring.part(name), name.split(".", 1)[1]
    key, label = (f"{part.id}.{cable}", cable) if cable else (f"{name}{wire.id}", "") if part.kind == "bar" else (name, own)
    if (cable and part.kind not in ("controller", "motor")) or part.kind in ("fuse", "switch", "pedal switch") or (part.kind == "guard" and own != "−"):
        # One way in, one way out: their place says it.
        label = ""
    found = ports[part.id].setdefault(key, DrawnPort(id=key, label=label, side=_side(wiring, name, other), terminals=[]))
    if name not in found.terminals:
        found.terminals.append(name)
    return found


def _cable(wiring: Wiring, wire: Conductor) -> str:
    """Name of the cable a wire runs in; empty for a wire of its own."""
    if wiring.terminal(wire.a).function not in _CABLED:
        return ""
    names = wire.a.split(".", 1)[1], wire.b.split(".", 1)[1]
    if any(name.startswith("Hall") for name in names):
        return "Halls"
    if any(name.startswith("phase") for name in names):
        return "phases"
    far = next(wiring.part(name) for name in (wire.a, wire.b) if wiring.part(name).kind != "controller")
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
    if part.kind in ("fuse", "switch", "guard", "pedal switch"):
        return own == "out"
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
