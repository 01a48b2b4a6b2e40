"""A setup with its wiring: the ends one asks about while joining it, and what the meter shows there."""

from __future__ import annotations

from dataclasses import dataclass, field

from gecko.analysis.state import row_path_ohm
from gecko.document.parts.pack import resistance_figure
from gecko.document.setup import Setup
from gecko.hookup.netlist import build_wiring, pack_window_v
from gecko.hookup.readings import State, between, ohms, solved
from gecko.hookup.wiring import Wiring
from gecko.machine.resolve import resolve
from gecko.physics.electric.nodal import Solution
from gecko.physics.electric.path import fuse_ohm

PLUS_BAR, MINUS_BAR = "plus_bar.", "minus_bar."


@dataclass(frozen=True)
class Joined:
    """A setup, its wiring, open volts of each row (low, expected, high) [V], resistance of each row without its fuse [Ω], and of the motors
    together [Ω]."""

    setup: Setup
    wiring: Wiring
    row_volts: tuple[tuple[float, float, float], ...]
    row_ohm: tuple[float, ...]
    motor_ohm: float | None
    known: dict[State, tuple[Solution, ...]] = field(default_factory=dict)
    """States that were solved already: a plan asks for many readings in few of them."""

    @classmethod
    def of(cls, setup: Setup) -> Joined | None:
        """The wiring of a setup, or None while it has no packs."""
        wiring, bank = build_wiring(setup), setup.bank
        if wiring is None or bank is None:
            return None
        windows = [[pack_window_v(unit) for unit in row.units] for row in bank.rows]
        machine = resolve(setup).machine
        return cls(
            setup,
            wiring,
            tuple((sum(w[0] for w in row), sum(w[1] for w in row), sum(w[2] for w in row)) for row in windows),
            tuple(sum(resistance_figure(u).value for u in row.units) + row_path_ohm(row) - (fuse_ohm(row.fuse.rating_a) if row.fuse else 0.0) for row in bank.rows),
            float(machine.motor.resistance_ohm) if machine is not None else None,
        )

    @property
    def load_plus(self) -> str:
        """Where the plus lead ends: the controller's battery plus, or the pedal switch."""
        return "controller.battery +" if self.wiring.has("controller") else "pedal_switch.in"

    @property
    def load_minus(self) -> str:
        """Where the minus lead ends: the controller's battery minus, or the last motor's way back."""
        if self.wiring.has("controller"):
            return "controller.battery −"
        if self.wiring.has("direction"):
            return "direction.in 2"
        motors = [part.id for part in self.wiring.parts if part.kind == "motor"]
        return f"{motors[-1]}.−" if motors else MINUS_BAR

    @property
    def load_label(self) -> str:
        """What the plus lead ends at, in a word or two."""
        return self.wiring.part(self.load_plus).label.lower()

    @property
    def back_label(self) -> str:
        """What the minus lead ends at, in a word or two."""
        return self.wiring.part(self.load_minus).label.lower()

    def row_plus(self, row: int) -> str:
        """A row's plus end."""
        return [part.at("+") for part in self.wiring.parts if part.kind == "pack" and part.row == row][-1]

    def row_minus(self, row: int) -> str:
        """A row's minus end."""
        return next(part.at("−") for part in self.wiring.parts if part.kind == "pack" and part.row == row)

    def volts(self, state: State, red: str, black: str) -> tuple[float, float, float]:
        """Low, expected and high volts between two terminals in a state. [V]"""
        if state not in self.known:
            self.known[state] = solved(self.wiring, state)
        return between(self.known[state], red, black)

    def resistance(self, state: State, red: str, black: str) -> float | None:
        """Ohms between two terminals with the packs out; None for open. [Ω]"""
        return ohms(self.wiring, state, red, black)
