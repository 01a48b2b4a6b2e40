"""The wiring as it is joined: parts with their terminals, and the wires between them. Terminals are named "part.terminal"."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from scipy.cluster.hierarchy import DisjointSet

PartKind = Literal[
    "pack",
    "bar",
    "fuse",
    "switch",
    "guard",
    "controller",
    "motor",
    "throttle",
    "lever",
    "key",
    "pedal switch",
    "foot switch",
    "small switch",
    "direction switch",
    "display",
    "converter",
    "accessory",
    "accessory switch",
    "voltmeter",
    "socket",
    "brake coil",
    "frame",
]
Function = Literal[
    "plus",
    "minus",
    "link plus",
    "link minus",
    "motor",
    "phase",
    "Hall signal",
    "5 V",
    "signal ground",
    "throttle signal",
    "brake signal",
    "key",
    "foot switch",
    "speed",
    "reverse",
    "forward",
    "learning",
    "display",
    "display plus",
    "accessory plus",
    "accessory minus",
    "frame",
]
Role = Literal["gives", "takes", "passes"]
"""What a terminal does on its net: gives volts or a signal, takes them, or passes on what comes."""

FITTING: frozenset[frozenset[Function]] = frozenset({frozenset({"link plus", "link minus"})})
"""Pairs of different functions that may share a net."""


@dataclass(frozen=True)
class Terminal:
    """One terminal of a part: its name, what it is for, what it does on its net."""

    name: str
    function: Function
    role: Role = "passes"


@dataclass(frozen=True)
class Component:
    """A part with its terminals. row: the bank's row it belongs to."""

    id: str
    kind: PartKind
    label: str
    detail: str
    terminals: tuple[Terminal, ...]
    row: int | None = None

    def at(self, name: str) -> str:
        """The full name of a terminal."""
        return f"{self.id}.{name}"


@dataclass(frozen=True)
class Conductor:
    """A wire between two terminals: its gauge as a sentence names it, length one way [m], how its ends are joined, and its resistance [Ω]."""

    id: str
    a: str
    b: str
    gauge: str = ""
    length_m: float | None = None
    joint: str = ""
    ohm: float = 1e-3
    colour: str = ""
    """Colour of its insulation where it is entered."""


@dataclass(frozen=True)
class Wiring:
    """Parts and wires."""

    parts: tuple[Component, ...]
    wires: tuple[Conductor, ...]
    ohms: Mapping[str, float] = field(default_factory=dict)
    """What a part puts in the way of the current, or its load, by its id. [Ω]"""
    volts: Mapping[str, tuple[float, float, float]] = field(default_factory=dict)
    """Open volts of a pack (low, expected, high) or of a converter's output, by its id. [V]"""
    amps: Mapping[str, float] = field(default_factory=dict)
    """What a part draws whenever it is live, by its id. [A]"""

    def part(self, name: str) -> Component:
        """A part by its id, or by that of one of its terminals."""
        wanted = name.split(".")[0]
        return next(one for one in self.parts if one.id == wanted)

    def has(self, name: str) -> bool:
        """Whether there is a part of that id."""
        return any(one.id == name for one in self.parts)

    def terminal(self, name: str) -> Terminal:
        """A terminal by its full name."""
        own = name.split(".", 1)[1]
        return next(one for one in self.part(name).terminals if one.name == own)

    def terminals(self) -> list[str]:
        """All terminals by their full names."""
        return [part.at(one.name) for part in self.parts for one in part.terminals]

    def with_wires(self, wires: Iterable[Conductor]) -> Wiring:
        """The same parts joined otherwise."""
        return replace(self, wires=tuple(wires))


_THROUGH = {"in": "pack side", "out": "load side"}


def called(part: Component) -> str:
    """A part as a sentence names it: a fuse by where it sits, not by its amps."""
    return f"{part.detail[:1].upper()}{part.detail[1:]} holder" if part.kind == "fuse" else part.label


def terminal_called(part: Component, own: str) -> str:
    """A part's terminal as a sentence names it; empty where it has but one."""
    if part.kind in ("fuse", "switch", "guard", "accessory switch"):
        return _THROUGH.get(own, own)
    return f"wire {own}" if own in ("1", "2", "3") else own


def words(wiring: Wiring, terminal: str) -> str:
    """A terminal as a sentence names it: "Controller, battery +"."""
    part = wiring.part(terminal)
    own = terminal_called(part, terminal.split(".", 1)[1])
    return f"{called(part)}, {own}" if own else called(part)


class Nets:
    """Terminals that hang together, by joining one pair after the other."""

    def __init__(self, names: Iterable[str]) -> None:
        self._sets = DisjointSet(names)

    def of(self, name: str) -> str:
        """The terminal that stands for the net of another."""
        return str(self._sets[name])

    def join(self, a: str, b: str) -> None:
        """Make one net of two."""
        self._sets.merge(a, b)

    def same(self, a: str, b: str) -> bool:
        """Whether two terminals hang together."""
        return bool(self._sets.connected(a, b))

    def groups(self) -> list[list[str]]:
        """The nets, each a list of its terminals in the order they were named."""
        found: dict[str, list[str]] = {}
        for name in self._sets:
            found.setdefault(self.of(name), []).append(name)
        return list(found.values())
