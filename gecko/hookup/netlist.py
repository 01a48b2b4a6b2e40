"""The small netlist behind the hookup: packs, fuses, cut-off, guard, controller, motor; solved for any state."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from gecko.electric.contacts import plug_ohm
from gecko.electric.nodal import CurrentSource, Element, Resistor, Solution, VoltSource, connected, solve
from gecko.electric.path import fuse_ohm
from gecko.parts.pack import Pack, resistance_figure
from gecko.power.state import row_path_ohm
from gecko.resolve import GUARD_OHM, SWITCH_OHM, resolve
from gecko.setup import Setup
from gecko.words import plain

BlockKind = Literal["pack", "fuse", "joint", "switch", "guard", "controller", "motor", "throttle", "brake", "pedal switch"]

TEST_A = 0.001
"""Current of a meter on its ohm range. [A]"""


@dataclass(frozen=True)
class Block:
    """A part in the drawing: its layer from the packs (0) to the motor, its column within it, its terminals."""

    id: str
    kind: BlockKind
    label: str
    detail: str
    layer: int
    column: int
    terminals: tuple[str, ...]


@dataclass(frozen=True)
class Wire:
    """A lead in the drawing between two terminals, with its label and polarity."""

    start: str
    end: str
    polarity: Literal["plus", "minus", "motor", "signal"]
    label: str = ""


@dataclass(frozen=True)
class State:
    """What is fitted and switched: row fuses in (by row), main fuse in, cut-off on, packs in (by row)."""

    packs: frozenset[int] = frozenset()
    row_fuses: frozenset[int] = frozenset()
    main_fuse: bool = False
    cut_off: bool = False


@dataclass(frozen=True)
class Netlist:
    """Blocks and wires of a setup, and the solver on it."""

    setup: Setup
    blocks: tuple[Block, ...]
    wires: tuple[Wire, ...]
    row_volts: tuple[tuple[float, float, float], ...]
    """Open volts of each row: low, expected, high. [V]"""
    row_ohm: tuple[float, ...]
    motor_ohm: float | None
    idle_a: float
    ohms: dict[str, float] = field(default_factory=dict)

    def elements(self, state: State, volts: Literal["low", "expected", "high"] = "expected") -> list[Element]:
        """Netlist elements of a state. The controller draws its idle current; its inside is unknown."""
        which = {"low": 0, "expected": 1, "high": 2}[volts]
        parts: list[Element] = []
        for r, (window, ohm) in enumerate(zip(self.row_volts, self.row_ohm, strict=True)):
            if r in state.packs:
                parts.append(VoltSource(f"row{r}+", "minus", window[which], ohm))
            if r in state.row_fuses or not self.ohms.get(f"row_fuse{r}"):
                parts.append(Resistor(f"row{r}+", "joint", self.ohms.get(f"row_fuse{r}") or 1e-3))
        if state.main_fuse and "main_fuse" in self.ohms:
            parts.append(Resistor("joint", "fuse_out", self.ohms["main_fuse"]))
        elif "main_fuse" not in self.ohms:
            parts.append(Resistor("joint", "fuse_out", 1e-3))
        if "cut_off" not in self.ohms or state.cut_off:
            parts.append(Resistor("fuse_out", "cut_out", self.ohms.get("cut_off", 1e-3)))
        parts.append(Resistor("cut_out", "guard_out", self.ohms.get("guard", 1e-3)))
        parts.append(Resistor("guard_out", "load+", self.ohms["plus_lead"]))
        parts.append(Resistor("load-", "minus", self.ohms["minus_lead"]))
        live = bool(state.packs) and connected(parts, "load+", "minus")
        if live and self.idle_a > 0:
            parts.append(CurrentSource("load+", "load-", self.idle_a))
        return parts

    def volts(self, state: State, plus: str, minus: str) -> tuple[float, float, float]:
        """Low, expected and high volts between two nodes in a state, by nodal analysis. [V]"""
        found = sorted(self._solve(state, w).between(plus, minus) for w in ("low", "expected", "high"))
        return found[0], found[1], found[2]

    def _solve(self, state: State, which: str) -> Solution:
        parts = self.elements(state, which)  # type: ignore[arg-type]
        known = {n for e in parts for n in ((e.plus, e.minus) if isinstance(e, VoltSource) else (e.a, e.b))}
        floating: list[Element] = [Resistor(node, "minus", 1e9) for node in ("joint", "fuse_out", "cut_out", "guard_out", "load+", "load-") if node not in known]
        return solve([*parts, *floating], "minus")

    def resistance(self, state: State, a: str, b: str) -> float | None:
        """Ohms a meter shows between two nodes with the packs out, by a small test current; None for open. [Ω]"""
        parts = [e for e in self.elements(State(frozenset(), state.row_fuses, state.main_fuse, state.cut_off)) if not isinstance(e, CurrentSource)]
        if a in ("motor+",) or b in ("motor+",):
            return self.motor_ohm
        if not connected(parts, a, b):
            return None
        return solve([*parts, CurrentSource(b, a, TEST_A)], b).between(a, b) / TEST_A


def _row_window(units: list[Pack]) -> tuple[float, float, float]:
    """Open volts of a row: from the measured resting volts where entered, else from nearly empty to full."""
    if all(u.resting_v is not None for u in units):
        v = sum(u.resting_v.value for u in units if u.resting_v is not None)
        return 0.98 * v, v, 1.02 * v
    low = sum(u.cells_in_series * {"li-ion": 3.3, "lfp": 3.0, "lead": 1.93}[u.chemistry] for u in units)
    high = sum(u.cells_in_series * {"li-ion": 4.2, "lfp": 3.65, "lead": 2.2}[u.chemistry] for u in units)
    return low, sum(u.cells_in_series * {"li-ion": 4.1, "lfp": 3.35, "lead": 2.12}[u.chemistry] for u in units), high


def build_netlist(setup: Setup) -> Netlist | None:
    """The netlist of a setup, or None while it has no packs."""
    bank = setup.bank
    if bank is None:
        return None
    blocks: list[Block] = []
    wires: list[Wire] = []
    ohms: dict[str, float] = {}
    for r, row in enumerate(bank.rows):
        letter = chr(ord("A") + r)
        names = f"{len(row.units)} × {row.units[0].label}" if len(row.units) > 1 else row.units[0].label
        blocks.append(Block(f"row{r}", "pack", f"{'Row' if len(row.units) > 1 else 'Pack'} {letter}", names, 0, r, (f"row{r}+", f"row{r}-")))
        if row.fuse is not None:
            ohms[f"row_fuse{r}"] = fuse_ohm(row.fuse.rating_a)
            blocks.append(Block(f"row_fuse{r}", "fuse", f"{row.fuse.rating_a:g} A", f"row fuse {letter}", 1, r, (f"row{r}+", "joint")))
        wires.append(Wire(f"row{r}+", "joint", "plus"))
        wires.append(Wire(f"row{r}-", "minus", "minus"))
    if setup.main_fuse is not None:
        ohms["main_fuse"] = fuse_ohm(setup.main_fuse.rating_a)
        blocks.append(Block("main_fuse", "fuse", f"{setup.main_fuse.rating_a:g} A", "main fuse, goes in last", 2, 0, ("joint", "fuse_out")))
    if setup.cut_off is not None:
        ohms["cut_off"] = setup.cut_off.resistance_ohm.value if setup.cut_off.resistance_ohm else SWITCH_OHM
        blocks.append(Block("cut_off", "switch", "Cut-off", setup.cut_off.kind, 3, 0, ("fuse_out", "cut_out")))
    if setup.guard is not None and setup.guard.kind == "module":
        ohms["guard"] = setup.guard.resistance_ohm.value if setup.guard.resistance_ohm else GUARD_OHM
        blocks.append(Block("guard", "guard", "Low-volt guard", f"{setup.guard.volts_v.value:g} V", 4, 0, ("cut_out", "guard_out")))
    lead = setup.main_lead
    one_way = lead.ohm / 2.0 if lead else 0.01
    one_way += setup.controller_lead.ohm / 2.0 if setup.controller_lead else 0.0
    poles = sum(plug_ohm(p) for p in setup.plugs if p.place == "main")
    ohms["plus_lead"] = max(one_way + poles / 2.0, 1e-4)
    ohms["minus_lead"] = max(one_way + poles / 2.0, 1e-4)
    gauge = plain(lead.words) if lead else ""
    wires += [Wire("guard_out", "load+", "plus", gauge), Wire("load-", "minus", "minus", gauge)]
    direct = setup.controller is None or setup.controller.kind == "none"
    if direct:
        blocks.append(Block("pedal_switch", "pedal switch", "Pedal switch", "on or off", 5, 0, ("load+", "motor+")))
    else:
        assert setup.controller is not None
        amps = f"{setup.controller.battery_limit_a.value:g} A" if setup.controller.battery_limit_a else ""
        blocks.append(Block("controller", "controller", "Controller", f"{setup.controller.kind} {amps}".strip(), 5, 0, ("load+", "load-", "motor+", "motor-")))
        blocks.append(Block("throttle", "throttle", "Throttle", setup.throttle.kind if setup.throttle else "unknown", 5, 1, ("throttle",)))
        wires.append(Wire("throttle", "controller", "signal"))
        if setup.throttle is not None and setup.throttle.brake_cut_off_present:
            blocks.append(Block("brake", "brake", "Brake lever", "cut-off", 5, 2, ("brake",)))
            wires.append(Wire("brake", "controller", "signal"))
    if setup.motor is not None:
        for i in range(setup.motor.count):
            label = "Motor" if setup.motor.count == 1 else f"Motor {'left' if i == 0 else 'right'}"
            blocks.append(Block(f"motor{i}", "motor", label, setup.motor.kind, 6, i, ("motor+", "motor-")))
        wires.append(Wire("motor+", "motor-", "motor"))
    machine = resolve(setup).machine
    motor_ohm = float(machine.motor.resistance_ohm) if machine is not None else None
    idle = float(machine.control.idle_a) if machine is not None else 0.0
    return Netlist(
        setup,
        tuple(blocks),
        tuple(wires),
        tuple(_row_window(row.units) for row in bank.rows),
        tuple(sum(resistance_figure(u).value for u in row.units) + row_path_ohm(row) - (fuse_ohm(row.fuse.rating_a) if row.fuse else 0.0) for row in bank.rows),
        motor_ohm,
        idle,
        ohms,
    )
