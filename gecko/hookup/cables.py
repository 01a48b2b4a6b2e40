"""Cables that several small wires share: conductors they need against those it has, gauge enough, and no power among the signals."""

from __future__ import annotations

from typing import Literal

from gecko.answers.evaluation import Out
from gecko.document.parts.hookup import PlugPlace, SignalCable
from gecko.document.setup import Setup
from gecko.hookup.crosswalk import FUNCTIONS

SIGNAL_MM2, LOCK_MM2 = 0.14, 0.5
"""Least copper of a signal wire, and of the lock wire, which carries the controller's whole small supply at battery volts [mm²].
Source: this project's planning values."""
POWER: tuple[PlugPlace, ...] = ("phases", "motor")
SHARED: dict[PlugPlace, tuple[str, ...]] = dict.fromkeys(
    ("throttle", "brake", "foot switch", "speed switch", "reverse switch", "direction switch", "learning", "display"), ("ground",)
)
"""Wires of which one serves all plugs in a cable: the controller's signal ground."""


class CableOut(Out):
    """A cable and what is said of it."""

    label: str
    needs: int
    """Conductors the plugs need when each has all its own."""
    least: int
    """Conductors with one signal ground for all."""
    has: int
    state: Literal["fits", "with one ground", "too few", "wrong"]
    said: list[str]


def cables(setup: Setup) -> list[CableOut]:
    """Every cable of a setup, judged by its conductors and their copper."""
    return [_cable(cable) for cable in setup.cables]


def _cable(cable: SignalCable) -> CableOut:
    wires = [(place, function) for place in dict.fromkeys(cable.carries) for function in FUNCTIONS[place]]
    grounds = sum(function in SHARED.get(place, ()) for place, function in wires)
    needs, least = len(wires), len(wires) - max(grounds - 1, 0)
    said: list[str] = []
    state: Literal["fits", "with one ground", "too few", "wrong"] = "fits"
    if needs > cable.conductors:
        state = "with one ground" if least <= cable.conductors else "too few"
        said.append(
            f"{needs} wires for {cable.conductors} conductors: let the plugs share one signal ground, then {least} do."
            if state == "with one ground"
            else f"{needs} wires, {least} with one ground for all, but {cable.conductors} conductors: run a second cable."
        )
    power = [place for place in cable.carries if place in POWER]
    if power:
        state = "wrong"
        said.append(f"No {' and no '.join(power)} in it: amps among signals make the throttle jump. Give them their own leads, apart.")
    if "Halls" in cable.carries and "throttle" in cable.carries:
        said.append("Halls and throttle share a 5 V: a short in one stills both.")
    asked = (("a signal", bool(wires), SIGNAL_MM2), ("the lock wire", "key" in cable.carries, LOCK_MM2))
    thin = [words for words, there, least_mm2 in asked if there and cable.mm2 < least_mm2]
    if thin:
        state = "wrong"
        said.append(f"{cable.mm2:g} mm² is thin for {' and '.join(thin)}: at least {LOCK_MM2 if 'the lock wire' in thin else SIGNAL_MM2:g} mm².")
    if "key" in cable.carries:
        said.append("The lock wire carries battery volts: fuse it with 1 to 2 A at the controller.")
    return CableOut(label=cable.label, needs=needs, least=least, has=cable.conductors, state=state, said=said)
