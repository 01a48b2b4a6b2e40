"""Nodal solver: the DC volts of a small netlist of sources and resistors, with loads and diodes solved by iteration."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gecko.common.errors import GeckoError

LEAK_S = 1e-9
"""Leak from every node to the reference, so that a floating part has volts near zero instead of none. [S]"""
MOST_TURNS, MOST_HALVES = 100, 40
"""The most steps of Newton's method, and how often one step may be halved until it leads nearer. [1]"""
ENOUGH_A, ENOUGH_V, NEAR_A = 1e-11, 1e-9, 1e-7
"""It counts as solved when no node has more amps left over than this [A], or the volts move less than this [V]; where rounding ends the search before
that, this much is near enough [A]."""


@dataclass(frozen=True)
class Resistor:
    """Ohms between two nodes."""

    a: str
    b: str
    ohm: float


@dataclass(frozen=True)
class VoltSource:
    """Volts from `minus` to `plus`, behind its own resistance [Ω]."""

    plus: str
    minus: str
    volts_v: float
    ohm: float


@dataclass(frozen=True)
class CurrentSource:
    """Amps taken out of node `a` and put into node `b`, whatever volts that takes; where nothing leads back from b to a, none flow."""

    a: str
    b: str
    amps_a: float


@dataclass(frozen=True)
class Load:
    """A part that draws amps from `a` to `b` while it has more than `least_v`; below that it falls off like a resistor, and backward it draws
    nothing."""

    a: str
    b: str
    amps_a: float
    least_v: float = 1.0


@dataclass(frozen=True)
class PowerLoad:
    """A part that draws watts from `a` to `b`, such as a converter: the more amps, the fewer volts there are; below `least_v` it gives up."""

    a: str
    b: str
    watts_w: float
    least_v: float


@dataclass(frozen=True)
class Diode:
    """Lets amps from `a` to `b` pass above `drop_v`, behind ohms; backward nothing."""

    a: str
    b: str
    drop_v: float = 0.6
    ohm: float = 0.01


Straight = Resistor | VoltSource | CurrentSource
Bent = Load | PowerLoad | Diode
"""Parts whose amps are no straight line of their volts."""
Element = Straight | Bent


@dataclass(frozen=True)
class Solution:
    """Volts of each node against the reference [V]."""

    volts: Mapping[str, float]

    def between(self, plus: str, minus: str) -> float:
        """Volts from `minus` to `plus`, as a meter with its red tip on `plus` shows them. [V]

        Source: Kirchhoff's law of voltages.
        """
        return self.volts[plus] - self.volts[minus]


def ends(element: Element) -> tuple[str, str]:
    """The two nodes of an element."""
    return (element.plus, element.minus) if isinstance(element, VoltSource) else (element.a, element.b)


def solve(elements: Iterable[Element], reference: str) -> Solution:
    """Node volts by G·v = i, loads and diodes by Newton's way from no amps on, each step as long as it leads nearer. [V]

    Sources are Norton equivalents, so every element needs ohms above zero. Raises GeckoError for one that has none, and where nothing
    settles: those volts cannot be told.

    >>> divider = [VoltSource("p", "0", 12.0, 1e-3), Resistor("p", "m", 100.0), Resistor("m", "0", 200.0)]
    >>> round(solve(divider, "0").between("m", "0"), 3)
    8.0

    Source: Kirchhoff's current law.
    """
    parts = list(elements)
    net = _Net(parts, reference)
    volts = net.straight()
    if net.bent:
        volts = net.settled(volts)
    return Solution({reference: 0.0, **{name: float(volts[k]) for name, k in net.index.items()}})


class _Net:
    """The nodes of a netlist and what is a straight line between them: conductances [S] and amps put into each node [A]."""

    def __init__(self, parts: Sequence[Element], reference: str) -> None:
        names = sorted({node for part in parts for node in ends(part)} | {reference})
        self.index = {name: i for i, name in enumerate(name for name in names if name != reference)}
        self.reference = reference
        size = len(self.index)
        self.g, self.i = np.eye(size) * LEAK_S, np.zeros(size)
        self.bent: list[Bent] = [part for part in parts if isinstance(part, Bent)]
        for part in parts:
            if isinstance(part, Resistor):
                self._conducts(self.g, part, part.ohm)
            elif isinstance(part, VoltSource):
                self._conducts(self.g, part, part.ohm)
                self._puts(self.i, part.minus, part.plus, part.volts_v / part.ohm)
            elif isinstance(part, CurrentSource) and connected([other for other in parts if other is not part], part.a, part.b):
                self._puts(self.i, part.a, part.b, part.amps_a)

    def _conducts(self, g: NDArray[np.float64], part: Element, ohm: float) -> None:
        a, b = ends(part)
        if ohm <= 0:
            raise GeckoError(f"The part between {a} and {b} needs more than 0 Ω.", code="netlist")
        self._line(g, a, b, 1.0 / ohm)

    def _line(self, g: NDArray[np.float64], a: str, b: str, siemens: float) -> None:
        for one, other in ((a, b), (b, a)):
            if one != self.reference:
                g[self.index[one], self.index[one]] += siemens
                if other != self.reference:
                    g[self.index[one], self.index[other]] -= siemens

    def _puts(self, i: NDArray[np.float64], out_of: str, into: str, amps: float) -> None:
        for node, sign in ((into, 1.0), (out_of, -1.0)):
            if node != self.reference:
                i[self.index[node]] += sign * amps

    def straight(self) -> NDArray[np.float64]:
        """Volts of all nodes as if loads and diodes were not there. [V]

        Source: modified nodal analysis, Ho, Ruehli and Brennan 1975: `G·v = i`.
        """
        return np.asarray(np.linalg.solve(self.g, self.i)) if self.index else np.zeros(0)

    def _across(self, volts: NDArray[np.float64], part: Element) -> float:
        one, other = (0.0 if node == self.reference else float(volts[self.index[node]]) for node in ends(part))
        return one - other

    def _left_over(self, volts: NDArray[np.float64]) -> NDArray[np.float64]:
        """Amps that do not add up at each node. [A]"""
        left = self.i - self.g @ volts
        for part in self.bent:
            self._puts(left, *ends(part), _amps(part, self._across(volts, part))[0])
        return left

    def settled(self, volts: NDArray[np.float64]) -> NDArray[np.float64]:
        """Volts of all nodes with loads and diodes, from volts near them. [V]

        Source: Newton's method, each step halved until what is left over falls (Armijo 1966 asks for a certain fall; any does here).
        """
        left = self._left_over(volts)
        for _ in range(MOST_TURNS):
            worst = float(np.abs(left).max(initial=0.0))
            if worst <= ENOUGH_A:
                return volts
            slope = self.g.copy()
            for part in self.bent:
                self._line(slope, *ends(part), _amps(part, self._across(volts, part))[1])
            step = np.linalg.solve(slope, left)
            for _ in range(MOST_HALVES):
                tried = self._left_over(volts + step)
                if float(np.abs(tried).max(initial=0.0)) < worst:
                    break
                step = step / 2.0
            else:
                if worst <= NEAR_A:
                    return volts
                break
            volts, left = volts + step, tried
            if float(np.abs(step).max(initial=0.0)) <= ENOUGH_V:
                return volts
        raise GeckoError("These volts cannot be told: a load takes more than what feeds it can give.", code="netlist")


def _amps(part: Bent, volts: float) -> tuple[float, float]:
    """Amps from a to b at some volts [V] and their slope. [A, S]"""
    if isinstance(part, Diode):
        on = volts > part.drop_v
        return ((volts - part.drop_v) / part.ohm, 1.0 / part.ohm) if on else (0.0, LEAK_S)
    if volts <= 0.0:
        return 0.0, LEAK_S
    most = part.amps_a if isinstance(part, Load) else part.watts_w / part.least_v
    if volts < part.least_v:
        return most * volts / part.least_v, most / part.least_v
    return (part.amps_a, 0.0) if isinstance(part, Load) else (part.watts_w / volts, -part.watts_w / volts**2)


def connected(elements: Iterable[Element], a: str, b: str) -> bool:
    """Whether two nodes hang together through anything at all."""
    links: dict[str, set[str]] = {}
    for e in elements:
        one, other = ends(e)
        links.setdefault(one, set()).add(other)
        links.setdefault(other, set()).add(one)
    seen, todo = {a}, [a]
    while todo:
        for node in links.get(todo.pop(), ()):
            if node not in seen:
                seen.add(node)
                todo.append(node)
    return b in seen
