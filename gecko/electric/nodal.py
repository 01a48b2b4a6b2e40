"""Resistive nodal solver: the DC volts of a small netlist."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from gecko.errors import GeckoError

LEAK_S = 1e-9
"""Leak from every node to the reference, so that a floating part has volts near zero instead of none. [S]"""


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
    """Amps taken out of node `a` and put into node `b`."""

    a: str
    b: str
    amps_a: float


Element = Resistor | VoltSource | CurrentSource


@dataclass(frozen=True)
class Solution:
    """Volts of each node against the reference [V]."""

    volts: Mapping[str, float]

    def between(self, plus: str, minus: str) -> float:
        """Volts from `minus` to `plus`, as a meter with its red tip on `plus` shows them. [V]"""
        return self.volts[plus] - self.volts[minus]


def solve(elements: Iterable[Element], reference: str) -> Solution:
    """Node volts by G·v = i. [V]

    Sources are Norton equivalents, so every element needs ohms above zero. Raises GeckoError for one that has none.

    >>> divider = [VoltSource("p", "0", 12.0, 1e-3), Resistor("p", "m", 100.0), Resistor("m", "0", 200.0)]
    >>> round(solve(divider, "0").between("m", "0"), 3)
    8.0

    Source: Kirchhoff's current law.
    """
    parts = list(elements)
    names = sorted({n for e in parts for n in ((e.plus, e.minus) if isinstance(e, VoltSource) else (e.a, e.b))} | {reference})
    index = {name: i for i, name in enumerate(n for n in names if n != reference)}
    size = len(index)
    g = np.eye(size) * LEAK_S
    i = np.zeros(size)

    def conductance(a: str, b: str, ohm: float) -> None:
        if ohm <= 0:
            raise GeckoError(f"The part between {a} and {b} needs more than 0 Ω.", code="netlist")
        for one, other in ((a, b), (b, a)):
            if one != reference:
                g[index[one], index[one]] += 1.0 / ohm
                if other != reference:
                    g[index[one], index[other]] -= 1.0 / ohm

    def inject(node: str, amps: float) -> None:
        if node != reference:
            i[index[node]] += amps

    for e in parts:
        if isinstance(e, Resistor):
            conductance(e.a, e.b, e.ohm)
        elif isinstance(e, VoltSource):
            conductance(e.plus, e.minus, e.ohm)
            inject(e.plus, e.volts_v / e.ohm)
            inject(e.minus, -e.volts_v / e.ohm)
        else:
            inject(e.a, -e.amps_a)
            inject(e.b, e.amps_a)
    volts = np.linalg.solve(g, i) if size else np.zeros(0)
    return Solution({reference: 0.0, **{name: float(volts[k]) for name, k in index.items()}})


def connected(elements: Iterable[Element], a: str, b: str) -> bool:
    """Whether two nodes hang together through anything at all; a plain yes or no, without unit [1]."""
    links: dict[str, set[str]] = {}
    for e in elements:
        one, other = (e.plus, e.minus) if isinstance(e, VoltSource) else (e.a, e.b)
        links.setdefault(one, set()).add(other)
        links.setdefault(other, set()).add(one)
    seen, todo = {a}, [a]
    while todo:
        for node in links.get(todo.pop(), ()):
            if node not in seen:
                seen.add(node)
                todo.append(node)
    return b in seen
