"""What a meter shows between any two terminals, in any state of fuses, switches, throttle, levers and wheel, by nodal analysis."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Literal

from gecko.hookup.wiring import Wiring
from gecko.physics.electric.nodal import CurrentSource, Element, Load, Resistor, Solution, VoltSource, connected, ends, solve

TEST_A = 0.001
"""Current of a meter on its ohm range. [A]"""
METER_LEADS_OHM = 0.3
"""Ohms of a hobby meter's own leads and contacts. [Ω]"""
VOLT_RANGE_OHM = 10e6
"""A meter on its volt range. [Ω] Source: common hand meters."""
NOT_A_SHORT_OHM = 100.0
"""What cannot be derived (ohms into a controller or converter) is only known to be more than this. [Ω]"""
SUPPLY_V, SUPPLY_OHM = 5.0, 10.0
"""The small supply of a controller for throttle and Halls, behind its own resistance. [V, Ω]"""
IDLE_SIGNAL_V, FULL_SIGNAL_V = 0.85, 4.2
"""Signal of a Hall throttle at rest and fully open. [V] Source: this project's planning values."""
PULL_UP_OHM, SENSOR_OHM, POTENTIOMETER_OHM, INPUT_OHM = 4700.0, 700.0, 5000.0, 100e3
CLOSED_OHM = 0.05
"""Pull-ups of a controller's inputs, a Hall sensor's supply, a potentiometer end to end, an input; a small switch that is closed. [Ω]"""
LAMP_OHM, LAMP_V = 0.7, 14.5
"""A 12 V, 21 W lamp, cold, and the volts one of them stands [Ω, V]. By its plate 6.9 Ω hot; a tungsten filament is ten times less when cold."""
HALL_HIGH = ((True, False, True), (True, False, False), (True, True, False), (False, True, False), (False, True, True), (False, False, True))
"""Halls A, B, C over one electrical turn in six steps, 120° apart."""

_PULLED_UP = frozenset({"brake signal", "foot switch", "speed", "reverse", "forward", "learning", "Hall signal"})
"""Inputs of a controller that a switch or sensor pulls down."""

Level = Literal["low", "expected", "high"]
LEVELS: tuple[Level, ...] = ("low", "expected", "high")
Direction = Literal["forward", "neutral", "reverse"]


@dataclass(frozen=True)
class State:
    """What is fitted, switched and held: rows of packs in, row fuses in, main fuse in, cut-off on, key on; throttle 0…1, brake pulled, foot
    switch stood on, pedal pressed, accessories on; where the switch for the direction stands, and that for the speed (0: no wire to ground,
    1 or 2: its first or second); the learning plug joined, accessories' own fuses in, lamps in the main fuse's place, in series; the wheel's
    place in the electrical turn, 0…5."""

    packs: frozenset[int] = frozenset()
    row_fuses: frozenset[int] = frozenset()
    main_fuse: bool = False
    cut_off: bool = False
    key: bool = False
    throttle: float = 0.0
    brake: bool = False
    foot: bool = False
    pedal: bool = False
    accessories: bool = False
    direction: Direction = "forward"
    speed: int = 0
    learning: bool = False
    aux_fuses: bool = True
    lamps: int = 0
    turn: int = 0


def everything_on(rows: int) -> State:
    """All in and switched on, throttle at rest."""
    every = frozenset(range(rows))
    return State(every, every, True, True, True, foot=True, accessories=True)


class Circuit:
    """A wiring in a state, as elements between its terminals; volts of the packs at one level, those of one pack at another where that is asked."""

    def __init__(self, wiring: Wiring, state: State, level: Level = "expected", apart: tuple[str, Level] | None = None) -> None:
        self.wiring, self.state = wiring, state
        self._which = LEVELS.index(level)
        self._apart = {} if apart is None else {apart[0]: LEVELS.index(apart[1])}
        self.passive: list[Element] = [Resistor(wire.a, wire.b, wire.ohm) for wire in wiring.wires]
        for part in wiring.parts:
            self.passive.extend(self._passive(part.id, part.kind))

    def _closed(self, id_: str, kind: str) -> bool:
        state, row = self.state, self.wiring.part(id_).row
        if kind == "fuse":
            return state.main_fuse or state.lamps > 0 if id_ == "main_fuse" else row in state.row_fuses if row is not None else state.aux_fuses
        if kind == "small switch":
            return {"reverse_switch": state.direction == "reverse", "speed_switch": state.speed == 1, "learning_plug": state.learning}[id_]
        return {
            "switch": state.cut_off,
            "guard": True,
            "pedal switch": state.pedal,
            "key": state.key,
            "foot switch": state.foot,
            "lever": state.brake,
            "accessory switch": state.accessories,
        }[kind]

    def _passive(self, id_: str, kind: str) -> Iterator[Element]:
        """The elements of a part that conduct without power."""
        wiring, ohms = self.wiring, self.wiring.ohms
        if kind in ("fuse", "switch", "guard", "pedal switch", "accessory switch"):
            if self._closed(id_, kind):
                lamps = self.state.lamps * LAMP_OHM if id_ == "main_fuse" and not self.state.main_fuse else 0.0
                yield Resistor(f"{id_}.in", f"{id_}.out", ohms[id_] + lamps)
        elif kind in ("key", "foot switch", "lever", "small switch"):
            if self._closed(id_, kind):
                yield Resistor(f"{id_}.1", f"{id_}.2", CLOSED_OHM)
            if kind == "small switch" and self.state.speed == 2 and f"{id_}.3" in wiring.terminals():
                yield Resistor(f"{id_}.3", f"{id_}.2", CLOSED_OHM)
        elif kind == "direction switch":
            way = self.state.direction
            if f"{id_}.in 1" not in wiring.terminals():
                if way != "neutral":
                    yield Resistor(f"{id_}.{way}", f"{id_}.ground", CLOSED_OHM)
            elif way != "neutral":
                yield from (Resistor(f"{id_}.in {k}", f"{id_}.{way} {k}", ohms[id_]) for k in (1, 2))
        elif kind == "motor":
            if f"{id_}.+" in wiring.terminals():
                yield Resistor(f"{id_}.+", f"{id_}.−", ohms[id_])
            else:
                # A star: what is measured between two phases is twice one leg.
                yield from (Resistor(f"{id_}.phase {x}", f"{id_}*", ohms[id_] / 2.0) for x in "ABC")
                if f"{id_}.Hall 5 V" in wiring.terminals():
                    yield Resistor(f"{id_}.Hall 5 V", f"{id_}.Hall ground", SENSOR_OHM)
        elif kind == "throttle" and f"{id_}.signal" in wiring.terminals():
            detail = wiring.part(id_).detail
            if detail == "potentiometer":
                # At rest a little off the end, so that a broken wire shows.
                share = 0.17 + 0.67 * self.state.throttle
                yield Resistor(f"{id_}.5 V", f"{id_}.signal", POTENTIOMETER_OHM * (1.0 - share))
                yield Resistor(f"{id_}.signal", f"{id_}.ground", POTENTIOMETER_OHM * share)
            else:
                yield Resistor(f"{id_}.5 V", f"{id_}.ground", SENSOR_OHM)
        elif kind == "throttle":
            if self.state.throttle > 0.0:
                yield Resistor(f"{id_}.1", f"{id_}.2", CLOSED_OHM)
        elif kind in ("voltmeter", "brake coil", "socket") or (kind == "accessory" and (self.state.accessories or wiring.has(id_.replace("accessory", "aux_switch")))):
            yield Resistor(f"{id_}.+", f"{id_}.−", ohms[id_])
        elif kind == "controller":
            # Inside a controller all grounds are joined to battery minus.
            yield from (Resistor(f"{id_}.{one.name}", f"{id_}.battery −", 0.01) for one in wiring.part(id_).terminals if one.function == "signal ground")
        elif kind == "converter":
            yield Resistor(f"{id_}.in −", f"{id_}.out −", 0.01)

    def live(self) -> list[Element]:
        """All elements with what feeds and is fed. A part gives its outputs only where it has its own volts."""
        wiring, state = self.wiring, self.state
        found = list(self.passive)
        for part in wiring.parts:
            if part.kind == "pack" and part.row in state.packs:
                found.append(VoltSource(part.at("+"), part.at("−"), wiring.volts[part.id][self._apart.get(part.id, self._which)], wiring.ohms[part.id]))
        fed = solve(found + self.anchors(found), "minus_bar.")
        for part in wiring.parts:
            if part.kind == "controller" and fed.between(part.at("battery +"), part.at("battery −")) > 1.0:
                found.append(Load(part.at("battery +"), part.at("battery −"), wiring.amps[part.id]))
                found.extend(self._controller(part.id))
            if part.kind == "converter" and fed.between(part.at("in +"), part.at("in −")) > 1.0:
                found.append(Load(part.at("in +"), part.at("in −"), wiring.amps[part.id]))
                found.append(VoltSource(part.at("out +"), part.at("out −"), wiring.volts[part.id][self._which], 0.05))
        fed = solve(found + self.anchors(found), "minus_bar.")
        for part in wiring.parts:
            names = {one.name for one in part.terminals}
            if part.kind == "throttle" and part.detail in ("hall", "unknown") and "signal" in names and fed.between(part.at("5 V"), part.at("ground")) > 3.0:
                volts = IDLE_SIGNAL_V + (FULL_SIGNAL_V - IDLE_SIGNAL_V) * state.throttle
                found.append(VoltSource(part.at("signal"), part.at("ground"), volts, 100.0))
            if part.kind == "motor" and "Hall 5 V" in names and fed.between(part.at("Hall 5 V"), part.at("Hall ground")) > 3.0:
                # An open collector: a high signal lets the line float, a low one pulls it down.
                found.extend(Resistor(part.at(f"Hall {x}"), part.at("Hall ground"), 50.0) for x, high in zip("ABC", HALL_HIGH[state.turn % 6], strict=True) if not high)
        return found

    def _controller(self, id_: str) -> Iterator[Element]:
        """What a controller that is switched on gives, and what its inputs hang on."""
        functions = {one.name: one.function for one in self.wiring.part(id_).terminals}
        minus = f"{id_}.battery −"
        if "key in" in functions:
            yield Resistor(f"{id_}.key out", f"{id_}.battery +", 1.0)
            yield Resistor(f"{id_}.key in", minus, INPUT_OHM)
            if not self.state.key:
                return
        for name, function in functions.items():
            if function == "display plus":
                yield Resistor(f"{id_}.{name}", f"{id_}.battery +", 1.0)
            elif function == "5 V":
                yield VoltSource(f"{id_}.{name}", minus, SUPPLY_V, SUPPLY_OHM)
            elif function in _PULLED_UP or (function == "throttle signal" and "throttle 5 V" not in functions):
                yield VoltSource(f"{id_}.{name}", minus, SUPPLY_V, PULL_UP_OHM)
            elif name == "throttle signal":
                yield Resistor(f"{id_}.{name}", minus, INPUT_OHM)

    def anchors(self, elements: list[Element]) -> list[Element]:
        """A leak for every terminal nothing is joined to, so that it has volts at all."""
        known = {node for element in elements for node in ends(element)}
        return [Resistor(name, "minus_bar.", 1e9) for name in self.wiring.terminals() if name not in known and name != "minus_bar."]


def solved(wiring: Wiring, state: State) -> tuple[Solution, ...]:
    """The volts of all terminals in a state, for packs nearly empty, as expected, and full. [V]"""
    return tuple(_solved(Circuit(wiring, state, level)) for level in LEVELS)


def _solved(circuit: Circuit, meter: tuple[str, str] | None = None) -> Solution:
    elements = circuit.live()
    held: list[Element] = [] if meter is None or meter[0] == meter[1] else [Resistor(*meter, VOLT_RANGE_OHM)]
    return solve(elements + circuit.anchors(elements) + held, "minus_bar.")


def between(solutions: tuple[Solution, ...], red: str, black: str) -> tuple[float, float, float]:
    """Low, expected and high volts with the red tip on one terminal and the black one on another. [V]"""
    found = [solution.between(red, black) for solution in solutions]
    return min(found), found[1], max(found)


def volts(wiring: Wiring, state: State, red: str, black: str) -> tuple[float, float, float]:
    """Low, expected and high volts of a wiring in a state, each pack as full or as empty as it alone may be, with the meter's own ohms. [V]

    Packs that are not joined need not agree: what nobody knows of one is added to what nobody knows of the other.
    """
    tips = (red, black)
    expected = _solved(Circuit(wiring, state), tips).between(red, black)
    low = high = expected
    for part in wiring.parts:
        if part.kind == "pack" and part.row in state.packs:
            moved = [_solved(Circuit(wiring, state, apart=(part.id, level)), tips).between(red, black) - expected for level in ("low", "high")]
            low, high = low + min(*moved, 0.0), high + max(*moved, 0.0)
    return low, expected, high


def runs(wiring: Wiring, state: State) -> bool:
    """Whether the throttle turns the motor in a state: open, powered, and nothing holds it back."""
    if state.throttle <= 0.0 or not wiring.has("controller") or state.brake:
        return False
    if (wiring.has("key") and not state.key) or (wiring.has("foot_switch") and not state.foot):
        return False
    return _solved(Circuit(wiring, state)).between("controller.battery +", "controller.battery −") > 1.0


def meter_doubt_v(shown_v: float) -> float:
    """How far off a hobby meter may be at what it shows: 1 % and 50 mV. [V]"""
    return 0.01 * abs(shown_v) + 0.05


def ohms(wiring: Wiring, state: State, red: str, black: str) -> float | None:
    """Ohms between two terminals with the packs out, by a small test current; None for open. [Ω]"""
    circuit = Circuit(wiring, replace(state, packs=frozenset()))
    elements = circuit.passive
    if red == black:
        return 0.0
    if not connected(elements, red, black):
        return None
    return solve([*elements, CurrentSource(black, red, TEST_A)], black).between(red, black) / TEST_A


METER_STEP_OHM = 0.1
"""The last digit of a hand meter on its lowest range. [Ω]"""


def least_ohm(expected_ohm: float) -> float:
    """Least that a meter shows of a part of so many ohms [Ω]: a winding's is more than nothing, for nothing is a short."""
    return max(0.98 * expected_ohm - METER_STEP_OHM, 0.0)


def derivable(wiring: Wiring, state: State, red: str, black: str) -> bool:
    """Whether the ohms between two terminals can be derived: not where an unknown inside lies between them."""
    circuit = Circuit(wiring, state)
    inside: list[Element] = []
    for part in wiring.parts:
        if part.kind in ("controller", "converter", "display"):
            names = [part.at(one.name) for one in part.terminals]
            inside.extend(Resistor(names[0], other, 1e4) for other in names[1:])
    return ohms(wiring, state, red, black) is not None or not connected([*circuit.passive, *inside], red, black)
