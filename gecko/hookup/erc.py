"""The electrical rule check: what is wrong with a wiring, told from the wiring alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from gecko.hookup.readings import Circuit, State, everything_on
from gecko.hookup.wiring import FITTING, Component, Nets, Wiring, words
from gecko.physics.electric.nodal import solve

FaultKind = Literal["wrong function", "open", "two drivers", "short", "reversed", "dead", "unfused"]
_PAIRS = (("battery +", "battery −"), ("in +", "in −"), ("+", "−"), ("5 V", "ground"), ("Hall 5 V", "Hall ground"))
"""Terminals that have to see plus and minus this way round."""


@dataclass(frozen=True)
class Fault:
    """Something wrong: its kind, a sentence, and the terminals it is about."""

    kind: FaultKind
    sentence: str
    terminals: tuple[str, ...]


def check(wiring: Wiring) -> list[Fault]:
    """Every fault of a wiring, those that can burn something first; an empty list where there is none."""
    return [*_shorts(wiring), *_direction(wiring), *_unfused(wiring), *_reversed(wiring), *_functions(wiring), *_drivers(wiring), *_open(wiring)]


def _joined(wiring: Wiring, *, without: frozenset[str] = frozenset()) -> Nets:
    """Nets with everything closed that only passes current on: fuses, switches, guard."""
    nets = Nets(wiring.terminals())
    for wire in wiring.wires:
        nets.join(wire.a, wire.b)
    for part in wiring.parts:
        if part.kind in ("fuse", "switch", "guard", "accessory switch") and part.id not in without:
            nets.join(part.at("in"), part.at("out"))
    return nets


def _functions(wiring: Wiring) -> Iterator[Fault]:
    for wire in wiring.wires:
        a, b = wiring.terminal(wire.a).function, wiring.terminal(wire.b).function
        if (a != b or a.startswith("link")) and frozenset({a, b}) not in FITTING:
            yield Fault("wrong function", f"{_cap(words(wiring, wire.a))} ({a}) is joined to {words(wiring, wire.b)} ({b}).", (wire.a, wire.b))
        elif wire.a.split(".")[0] == wire.b.split(".")[0] and wiring.part(wire.a).kind != "direction switch":
            # A direction switch is cross-wired; whether rightly is seen in each of its positions.
            yield Fault("wrong function", f"{_cap(words(wiring, wire.a))} is joined to {words(wiring, wire.b)} of the same part.", (wire.a, wire.b))


def _drivers(wiring: Wiring) -> Iterator[Fault]:
    nets = Nets(wiring.terminals())
    for wire in wiring.wires:
        nets.join(wire.a, wire.b)
    for net in nets.groups():
        giving = [
            name for name in net if wiring.terminal(name).role == "gives" and wiring.terminal(name).function not in ("plus", "signal ground", "accessory minus", "key")
        ]
        taking = [name for name in net if wiring.terminal(name).function in ("phase", "Hall signal") and wiring.terminal(name).role == "takes"]
        for group, what in ((giving, "both give on one net"), (taking, "hang on one net")):
            if len(group) > 1:
                yield Fault("two drivers", f"{_cap(' and '.join(words(wiring, name) for name in group))} {what}.", tuple(group))


def _open(wiring: Wiring) -> Iterator[Fault]:
    """Terminals nothing is joined to."""
    used = {end for wire in wiring.wires for end in (wire.a, wire.b)}
    for part in wiring.parts:
        for one in part.terminals:
            if part.at(one.name) not in used:
                yield Fault("open", f"Nothing is joined to {words(wiring, part.at(one.name))}.", (part.at(one.name),))


def _shorts(wiring: Wiring) -> Iterator[Fault]:
    nets = _joined(wiring)
    for part in wiring.parts:
        pairs = [(part.at("+"), part.at("−"))] if part.kind in ("pack", "accessory", "voltmeter", "socket", "brake coil") else []
        if part.kind == "controller":
            pairs = [(part.at("battery +"), part.at("battery −"))]
            pairs += [(part.at(one.name), part.at("battery −")) for one in part.terminals if one.function == "5 V"]
        if part.kind == "converter":
            pairs = [(part.at("in +"), part.at("in −")), (part.at("out +"), part.at("out −"))]
        for plus, minus in pairs:
            if nets.same(plus, minus):
                yield Fault("short", f"{_cap(words(wiring, plus))} and {words(wiring, minus)} are joined: a short.", (plus, minus))
    rows: dict[int, list[Component]] = {}
    for part in wiring.parts:
        if part.kind == "pack" and part.row is not None:
            rows.setdefault(part.row, []).append(part)
    for packs in rows.values():
        if len(packs) > 1 and nets.same(packs[0].at("−"), packs[-1].at("+")):
            yield Fault(
                "short", f"{_cap(words(wiring, packs[-1].at('+')))} and {words(wiring, packs[0].at('−'))} are joined: a short.", (packs[-1].at("+"), packs[0].at("−"))
            )


def _direction(wiring: Wiring) -> Iterator[Fault]:
    """A switch in the motor leads that shorts them in a position, or whose reverse turns no other way than its forward."""
    for part in wiring.parts:
        if part.kind != "direction switch" or not any(one.name == "in 1" for one in part.terminals):
            continue
        feeds = part.at("in 1"), part.at("in 2")
        # By which of the two it is fed, each end of each motor in forward and in reverse.
        fed: dict[str, list[str | None]] = {}
        for way in ("forward", "reverse"):
            nets = Nets(wiring.terminals())
            for wire in wiring.wires:
                nets.join(wire.a, wire.b)
            nets.join(feeds[0], part.at(f"{way} 1"))
            nets.join(feeds[1], part.at(f"{way} 2"))
            if nets.same(*feeds):
                ends = (part.at(f"{way} 1"), part.at(f"{way} 2"))
                yield Fault("short", f"{part.label} in {way} joins its two ways in: a short.", (*feeds, *ends))
            for name in wiring.terminals():
                if wiring.part(name).kind == "motor":
                    fed.setdefault(name, []).append(next((feed for feed in feeds if nets.same(name, feed)), None))
        throws = tuple(part.at(f"{way} {k}") for way in ("forward", "reverse") for k in (1, 2))
        if any(forward is not None and forward == back for forward, back in fed.values()):
            yield Fault("wrong function", f"{part.label}: reverse feeds the motor the same way round as forward.", throws)
        elif any((forward is None) != (back is None) for forward, back in fed.values()):
            yield Fault("open", f"{part.label}: one way round feeds the motor, the other does not.", throws)


def _unfused(wiring: Wiring) -> Iterator[Fault]:
    """Plus of a load that hangs on a pack's plus without a fuse between."""
    fuses = frozenset(part.id for part in wiring.parts if part.kind == "fuse")
    if not fuses:
        return
    nets = _joined(wiring, without=fuses)
    sources = [part.at("+") for part in wiring.parts if part.kind == "pack"]
    for part in wiring.parts:
        if part.kind in ("controller", "pedal switch", "accessory", "converter", "voltmeter", "socket", "brake coil"):
            name = {"controller": "battery +", "pedal switch": "in", "converter": "in +"}.get(part.kind, "+")
            if any(nets.same(source, part.at(name)) for source in sources):
                yield Fault("unfused", f"{_cap(words(wiring, part.at(name)))} hangs on the packs without a fuse between.", (part.at(name),))


def _reversed(wiring: Wiring) -> Iterator[Fault]:
    """What sees its plus and minus the wrong way round, or nothing at all, with everything on."""
    if any(True for _ in _shorts(wiring)):
        # With a short there are no volts worth reading.
        return
    rows = {part.row for part in wiring.parts if part.kind == "pack" and part.row is not None}
    state: State = everything_on(max(rows, default=-1) + 1)
    circuit = Circuit(wiring, state)
    elements = circuit.live()
    found = solve(elements + circuit.anchors(elements), "minus_bar.")
    for part in wiring.parts:
        names = {one.name for one in part.terminals}
        for plus, minus in _PAIRS:
            if (part.kind in ("pack", "motor") and plus == "+") or not {plus, minus} <= names:
                continue
            seen = found.between(part.at(plus), part.at(minus))
            if seen < -0.5:
                yield Fault("reversed", f"{part.label} sees plus and minus the wrong way round.", (part.at(plus), part.at(minus)))
            elif seen < 0.5:
                yield Fault("dead", f"{part.label} gets no volts between {plus} and {minus}: its way there or its way back is missing.", (part.at(plus), part.at(minus)))


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]
