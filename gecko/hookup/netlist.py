"""The wiring of a setup: every part it has with its terminals, joined as they belong. Nothing in it is drawn by hand."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from gecko.analysis.runs import STANDBY_A
from gecko.document.parts.auxiliary import Auxiliary
from gecko.document.parts.hookup import OrderTrial
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack, adapter_ohm, resistance_figure
from gecko.document.parts.plug import Switch
from gecko.document.parts.wire import Lead
from gecko.document.setup import Row, Setup
from gecko.hookup.wiring import Component, Conductor, Function, PartKind, Role, Terminal, Wiring
from gecko.machine.contacts import plug_ohm
from gecko.machine.resolve import GUARD_OHM, SWITCH_OHM, resolve
from gecko.physics.electric.path import fuse_ohm

BARE_OHM = 1e-4
"""A joint or short lead of which nothing is entered. [Ω]"""
METER_OHM = 1e6
"""A small voltmeter. [Ω]"""
_LEAST_OHM = 1e-4


def letter(row: int) -> str:
    """A row's name: A, B, …"""
    return chr(ord("A") + row)


def pack_window_v(unit: Pack) -> tuple[float, float, float]:
    """Open volts of a pack, low, expected and high: by its measured resting volts, else from nearly empty to full. [V]"""
    if unit.resting_v is not None:
        v = unit.resting_v.value
        return 0.98 * v, v, 1.02 * v
    low, expected, high = {"li-ion": (3.3, 4.1, 4.2), "lfp": (3.0, 3.35, 3.65), "lead": (1.93, 2.12, 2.2), "nickel": (1.15, 1.32, 1.45)}[unit.chemistry]
    n = unit.cells_in_series
    return low * n, expected * n, high * n


class _Builder:
    def __init__(self, setup: Setup) -> None:
        self.setup = setup
        self.parts: list[Component] = []
        self.wires: list[Conductor] = []
        self.ohms: dict[str, float] = {}
        self.volts: dict[str, tuple[float, float, float]] = {}
        self.amps: dict[str, float] = {}

    def part(self, id_: str, kind: PartKind, label: str, detail: str, terminals: Iterable[tuple[str, Function, Role]], row: int | None = None) -> Component:
        made = Component(id_, kind, label, detail, tuple(Terminal(name, function, role) for name, function, role in terminals), row)
        self.parts.append(made)
        return made

    def wire(self, a: str, b: str, lead: Lead | None = None, ohm: float | None = None) -> None:
        gauge, length = (lead.words, float(lead.length_m.value)) if lead is not None else ("", None)
        joint = lead.joint if lead is not None and lead.joint != "unknown" else ""
        own = ohm if ohm is not None else lead.ohm / 2.0 if lead is not None else BARE_OHM
        back = "minus_bar." in (a, b) or a.endswith("−") or b.endswith("−")
        colour = "" if lead is None or ".phase" in b else lead.colour_back if back else lead.colour
        self.wires.append(Conductor(f"w{len(self.wires) + 1}", a, b, gauge, length, joint, max(own, _LEAST_OHM), colour))

    def through(self, id_: str, kind: PartKind, label: str, detail: str, ohm: float, row: int | None = None, function: Function = "plus") -> Component:
        """A part in the plus lead."""
        self.ohms[id_] = max(ohm, _LEAST_OHM)
        return self.part(id_, kind, label, detail, (("in", function, "passes"), ("out", function, "passes")), row)

    def row(self, r: int, row: Row) -> None:
        """A row's packs in series, its fuse, and its two ends to the bars."""
        units, name, last = row.units, letter(r), len(row.units) - 1
        for u, unit in enumerate(units):
            pack = self.part(
                f"pack{r}_{u}",
                "pack",
                f"Pack {name}" if last == 0 else f"Pack {name}{u + 1}",
                unit.label,
                (
                    ("−", "minus" if u == 0 else "link minus", "takes" if u == 0 else "passes"),
                    ("+", "plus" if u == last else "link plus", "gives" if u == last else "passes"),
                ),
                r,
            )
            self.volts[pack.id], self.ohms[pack.id] = pack_window_v(unit), max(float(resistance_figure(unit).value) + adapter_ohm(unit), _LEAST_OHM)
        links = max(last, 1)
        for u in range(last):
            self.wire(f"pack{r}_{u}.+", f"pack{r}_{u + 1}.−", row.link, row.link.ohm / links if row.link is not None else None)
        contacts = sum(plug_ohm(plug) for plug in row.plugs) / 2.0
        way = (row.lead.ohm / 2.0 if row.lead is not None else BARE_OHM) + contacts
        self.wire("minus_bar.", f"pack{r}_0.−", row.lead, way)
        if row.fuse is None:
            self.wire(f"pack{r}_{last}.+", "plus_bar.", row.lead, way)
        else:
            fuse = self.through(f"row_fuse{r}", "fuse", f"{row.fuse.rating_a:g} A", f"row {name} fuse" if last else f"pack {name} fuse", fuse_ohm(row.fuse.rating_a), r)
            self.wire(f"pack{r}_{last}.+", fuse.at("in"), row.lead, way)
            self.wire(fuse.at("out"), "plus_bar.")

    def path(self) -> str:
        """Main fuse, cut-off and guard one after the other; the terminal the load hangs on."""
        setup, here = self.setup, "plus_bar."

        def next_(part: Component, lead: Lead | None = None) -> str:
            self.wire(here, part.at("in"), lead)
            return part.at("out")

        if setup.main_fuse is not None:
            here = next_(self.through("main_fuse", "fuse", f"{setup.main_fuse.rating_a:g} A", "main fuse", fuse_ohm(setup.main_fuse.rating_a)))
        if setup.cut_off is not None:
            here = next_(self.through("cut_off", "switch", "Cut-off", setup.cut_off.kind, _switch_ohm(setup.cut_off)))
        if setup.guard is not None and setup.guard.kind == "module":
            self.ohms["guard"] = setup.guard.resistance_ohm.value if setup.guard.resistance_ohm else GUARD_OHM
            guard = self.part(
                "guard",
                "guard",
                "Low-volt guard",
                f"{setup.guard.volts_v.value:g} V",
                (("in", "plus", "passes"), ("out", "plus", "passes"), ("−", "minus", "takes")),
            )
            self.wire(guard.at("−"), "minus_bar.")
            here = next_(guard)
        return here

    def load(self, here: str) -> None:
        """Controller or pedal switch, with the motor and the small wires."""
        setup, lead = self.setup, self.setup.main_lead
        poles = sum(plug_ohm(p) for p in setup.plugs if p.place == "main") / 2.0
        one_way = (lead.ohm / 2.0 if lead else 0.01) + (setup.controller_lead.ohm / 2.0 if setup.controller_lead else 0.0) + poles
        direct = setup.controller is None or setup.controller.kind == "none"
        if direct:
            switch = self.pedal("plus")
            self.wire(here, switch.at("in"), lead, one_way)
            self.motors(*self.direction(switch.at("out"), "minus_bar.", one_way))
            return
        assert setup.controller is not None
        if setup.controller.before_pedal:
            # The stock harness stays: the module feeds it in place of the old battery.
            into: list[tuple[str, Function, Role]] = [("battery +", "plus", "takes"), ("battery −", "minus", "takes")]
            out: list[tuple[str, Function, Role]] = [("motor +", "motor", "gives"), ("motor −", "motor", "gives")]
            module = self.part("controller", "controller", "Knob module", "before the pedal", [*into, *out])
            self.amps[module.id] = setup.controller.waits_a
            self.wire(here, module.at("battery +"), setup.controller_lead or lead, one_way)
            self.wire(module.at("battery −"), "minus_bar.", lead, one_way)
            switch = self.pedal("motor")
            self.wire(module.at("motor +"), switch.at("in"))
            self.motors(*self.direction(switch.at("out"), module.at("motor −"), 0.0))
            return
        control, brushless = setup.controller, setup.motor is not None and setup.motor.brushless
        amps = f"{control.battery_limit_a.value:g} A" if control.battery_limit_a else ""
        terminals: list[tuple[str, Function, Role]] = [("battery +", "plus", "takes"), ("battery −", "minus", "takes")]
        if brushless and setup.motor is not None:
            for side in sides(setup.motor):
                terminals += [(f"{side}phase {x}", "phase", "gives") for x in "ABC"]
                if setup.motor.has_halls:
                    terminals += [(f"{side}Hall 5 V", "5 V", "gives"), (f"{side}Hall ground", "signal ground", "gives")]
                    terminals += [(f"{side}Hall {x}", "Hall signal", "takes") for x in "ABC"]
        else:
            terminals += [("motor +", "motor", "gives"), ("motor −", "motor", "gives")]
        joins = self._small_wires(terminals)
        controller = self.part("controller", "controller", "Controller", f"{control.kind} {amps}".strip(), terminals)
        self.amps["controller"] = control.waits_a
        self.wire(here, controller.at("battery +"), setup.controller_lead or lead, one_way)
        self.wire(controller.at("battery −"), "minus_bar.", lead, one_way)
        for a, b in joins:
            self.wire(a, b)
        if brushless:
            self.motors([], [], 0.0)
        else:
            self.motors(*self.direction(controller.at("motor +"), controller.at("motor −"), 0.0))

    def pedal(self, fed: Function) -> Component:
        """The stock pedal switch, with what feeds it."""
        switch = self.part("pedal_switch", "pedal switch", "Pedal switch", "on or off", (("in", fed, "takes"), ("out", "motor", "passes")))
        self.ohms[switch.id] = _switch_ohm(self.setup.pedal_switch)
        return switch

    def direction(self, give: str, back: str, ohm: float) -> tuple[list[str], list[str], float]:
        """The cross-wired switch for forward, neutral and reverse between what drives a brushed motor and the motor, where there is one:
        what then gives, what it comes back to, and the ohms of the way back."""
        motor = self.setup.motor
        if self.setup.controls.direction != "in the motor leads" or motor is None or motor.brushless:
            return [give], [back], ohm
        ends: Function = "minus" if back == "minus_bar." else "motor"
        throws: list[tuple[str, Function, Role]] = [(f"{way} {k}", "motor", "passes") for way in ("forward", "reverse") for k in (1, 2)]
        part = self.part("direction", "direction switch", "Direction", "forward, neutral, reverse", (("in 1", "motor", "passes"), ("in 2", ends, "passes"), *throws))
        self.ohms[part.id] = SWITCH_OHM
        self.wire(give, part.at("in 1"))
        self.wire(part.at("in 2"), back, self.setup.motor_lead if ends == "minus" else None, max(ohm, BARE_OHM))
        # Crossed: what is plus in forward is minus in reverse.
        self.wire(part.at("forward 1"), part.at("reverse 2"))
        self.wire(part.at("forward 2"), part.at("reverse 1"))
        return [part.at("forward 1")], [part.at("forward 2")], 0.0

    def _small_wires(self, terminals: list[tuple[str, Function, Role]]) -> list[tuple[str, str]]:
        """Throttle, levers, key and switches: their parts, the controller's terminals for them, and what is joined."""
        setup, throttle, controls = self.setup, self.setup.throttle, self.setup.controls
        joins: list[tuple[str, str]] = []

        def plug(id_: str, kind: PartKind, label: str, detail: str, *wires: tuple[str, str, Function, Role, Role]) -> None:
            """A part on its plug: each wire by the controller's and the part's name for it, with what it does on either side."""
            terminals.extend((name, function, role) for name, _, function, role, _ in wires)
            part = self.part(id_, kind, label, detail, [(own, function, role) for _, own, function, _, role in wires])
            joins.extend((f"controller.{name}", part.at(own)) for name, own, _, _, _ in wires)

        def contact(id_: str, kind: PartKind, label: str, detail: str, name: str, function: Function, *more: tuple[str, str, Function, Role, Role]) -> None:
            """A contact that joins an input to ground."""
            ground = f"{name.removesuffix(' signal')} ground"
            plug(id_, kind, label, detail, (name, "1", function, "takes", "passes"), (ground, "2", "signal ground", "gives", "passes"), *more)

        if throttle is not None and throttle.kind == "switch":
            contact("throttle", "throttle", "Throttle", "switch", "throttle signal", "throttle signal")
        else:
            plug(
                "throttle",
                "throttle",
                "Throttle",
                throttle.kind if throttle is not None else "unknown",
                ("throttle 5 V", "5 V", "5 V", "gives", "takes"),
                ("throttle ground", "ground", "signal ground", "gives", "takes"),
                ("throttle signal", "signal", "throttle signal", "takes", "gives"),
            )
        if throttle is not None and throttle.brake_cut_off_present and throttle.brake_cut_off_wired:
            contact("brake", "lever", "Brake lever", "cut-off", "brake signal", "brake signal")
        if throttle is not None and throttle.foot_switch_wired:
            plug(
                "foot_switch",
                "foot switch",
                "Foot switch",
                "closed while stood on",
                ("foot switch", "1", "foot switch", "takes", "passes"),
                ("foot ground", "2", "signal ground", "gives", "passes"),
            )
        if controls.key:
            plug("key", "key", "Key", "on or off", ("key in", "1", "key", "takes", "passes"), ("key out", "2", "key", "gives", "passes"))
        if controls.speed_switch:
            # Three speeds: one wire to ground, none, or the other one.
            three = setup.controller is not None and len(setup.controller.modes) > 2
            second: tuple[tuple[str, str, Function, Role, Role], ...] = (("speed 2", "3", "speed", "takes", "passes"),) if three else ()
            contact("speed_switch", "small switch", "Speed switch", "modes", "speed", "speed", *second)
        if controls.direction == "at the controller":
            plug(
                "direction",
                "direction switch",
                "Direction",
                "forward, neutral, reverse",
                ("forward", "forward", "forward", "takes", "passes"),
                ("reverse", "reverse", "reverse", "takes", "passes"),
                ("direction ground", "ground", "signal ground", "gives", "passes"),
            )
        elif controls.reverse:
            contact("reverse_switch", "small switch", "Reverse switch", "only when standing", "reverse", "reverse")
        if controls.indicator:
            plug(
                "display",
                "display",
                "Display",
                "or charge indicator",
                ("display plus", "plus", "display plus", "gives", "takes"),
                ("display ground", "ground", "signal ground", "gives", "takes"),
                ("display signal", "signal", "display", "gives", "takes"),
            )
        if controls.learns and setup.controller is not None and setup.controller.kind == "brushless":
            contact("learning_plug", "small switch", "Learning plug", "apart while riding", "learning", "learning")
        return joins

    def motors(self, give: list[str], back: list[str], ohm: float) -> None:
        """The motor set on what drives it: plus and minus, or three phases with their Halls."""
        setup, motor = self.setup, self.setup.motor
        if motor is None or (motor.brushless and back == ["minus_bar."]):
            # No switch can drive three phases: without a controller there is nothing to join them to.
            return
        machine, lead = resolve(setup).machine, setup.motor_lead
        alone = float(machine.motor.resistance_ohm) if machine is not None else 0.1
        each = alone * {"parallel": motor.count, "series": 1.0 / motor.count}.get(motor.wiring, 1.0)
        names = []
        for i, side in enumerate(sides(motor)):
            label = f"{side}motor".capitalize()
            # Straight from a switch the last motor's way back is the minus bar.
            ends = back == ["minus_bar."] and (motor.wiring != "series" or i == motor.count - 1)
            terminals: list[tuple[str, Function, Role]] = [("+", "motor", "takes"), ("−", "minus" if ends else "motor", "takes")]
            if motor.brushless:
                terminals = [(f"phase {x}", "phase", "takes") for x in "ABC"]
                if motor.has_halls:
                    terminals += [("Hall 5 V", "5 V", "takes"), ("Hall ground", "signal ground", "takes"), *((f"Hall {x}", "Hall signal", "gives") for x in "ABC")]
            names.append(self.part(f"motor{i}", "motor", label, motor.kind, terminals))
            self.ohms[f"motor{i}"] = max(each, _LEAST_OHM)
        if motor.brushless:
            for side, part in zip(sides(motor), names, strict=True):
                belongs = joined_as(setup.order_trials, side.strip())
                for one in part.terminals:
                    self.wire(f"controller.{side}{one.name}", part.at(belongs.get(one.name, one.name)), lead if one.function == "phase" else None)
            return
        plus = [give[0]] if motor.wiring == "series" else give * len(names)
        if motor.wiring == "series" and len(names) == 2:
            self.wire(plus[0], names[0].at("+"), lead)
            self.wire(names[0].at("−"), names[1].at("+"), lead)
            self.wire(names[1].at("−"), back[0], lead, (lead.ohm / 2.0 if lead else BARE_OHM) + ohm)
            return
        for source, part in zip(plus, names, strict=True):
            self.wire(source, part.at("+"), lead)
            self.wire(part.at("−"), back[0], lead, (lead.ohm / 2.0 if lead else BARE_OHM) + ohm)

    def accessory(self, i: int, branch: Auxiliary, behind: str) -> None:
        """A branch beside the drive: fuse, converter, load, and its own way back."""
        tap = {"behind the cut-off": behind, "at the packs": "plus_bar.", "part of the string": "pack0_0.+"}[branch.taps]
        here, back = tap, "minus_bar."
        if branch.fuse is not None:
            fuse = self.through(f"aux_fuse{i}", "fuse", f"{branch.fuse.rating_a:g} A", f"{branch.label} fuse", fuse_ohm(branch.fuse.rating_a))
            self.wire(here, fuse.at("in"), branch.lead)
            here = fuse.at("out")
        if branch.switch != "none" and branch.converter is None:
            here = self._accessory_switch(i, branch, here, "plus")
        volts = sum(pack_window_v(unit)[1] for unit in self.setup.bank.rows[0].units) if self.setup.bank else 12.0
        plus: Function = "plus"
        minus: Function = "minus"
        if branch.converter is not None:
            out = float(branch.converter.output_v.value)
            made = self.part(
                f"converter{i}",
                "converter",
                "Converter",
                f"to {out:g} V",
                (("in +", "plus", "takes"), ("in −", "minus", "takes"), ("out +", "accessory plus", "gives"), ("out −", "accessory minus", "gives")),
            )
            self.volts[made.id], self.amps[made.id] = (0.95 * out, out, 1.05 * out), branch.converter.standby_a.value if branch.converter.standby_a else STANDBY_A
            self.wire(here, made.at("in +"), branch.lead)
            self.wire(made.at("in −"), "minus_bar.", branch.lead)
            here, back, volts = made.at("out +"), made.at("out −"), out
            plus, minus = "accessory plus", "accessory minus"
            if branch.switch != "none":
                here = self._accessory_switch(i, branch, here, "accessory plus")
        terminals: list[tuple[str, Function, Role]] = [("+", plus, "takes"), ("−", minus, "takes")]
        load = self.part(f"accessory{i}", "accessory", branch.label, f"{branch.amps_a.value:g} A", terminals)
        self.ohms[load.id] = max(volts / float(branch.amps_a.value), _LEAST_OHM)
        self.wire(here, load.at("+"), None if branch.converter is not None else branch.lead)
        if branch.returns == "frame":
            if not any(one.id == "frame" for one in self.parts):
                self.part("frame", "frame", "Frame", "metal of the machine", (("", "frame", "passes"),))
            back = "frame."
        self.wire(load.at("−"), back, None if branch.converter is not None else branch.lead)

    def _accessory_switch(self, i: int, branch: Auxiliary, here: str, function: Function) -> str:
        """The switch or push button of an accessory, in its plus lead."""
        label = {"switch": "Switch", "push button": "Button"}[branch.switch]
        part = self.through(f"aux_switch{i}", "accessory switch", label, branch.label, SWITCH_OHM, function=function)
        self.wire(here, part.at("in"), branch.lead if function == "plus" else None)
        return part.at("out")

    def beside(self, behind: str) -> None:
        """What else hangs on the bank: voltmeter, charge socket, the coil of a brake that power holds open, accessories."""
        setup = self.setup
        two: tuple[tuple[str, Function, Role], ...] = (("+", "plus", "takes"), ("−", "minus", "takes"))

        def hang(id_: str, kind: PartKind, label: str, detail: str, plus: str, ohm: float) -> None:
            part = self.part(id_, kind, label, detail, two)
            self.ohms[id_] = ohm
            self.wire(plus, part.at("+"))
            self.wire(part.at("−"), "minus_bar.")

        if setup.guard is not None and setup.guard.kind == "voltmeter":
            hang("voltmeter", "voltmeter", "Voltmeter", f"stop at {setup.guard.volts_v.value:g} V", behind, METER_OHM)
        if setup.controls.charge_socket:
            hang("charge_socket", "socket", "Charge socket", "full-charge volts", "plus_bar.", 1e9)
        if setup.vehicle is not None and setup.vehicle.fail_safe_brake == "held by power":
            hang("brake_coil", "brake coil", "Brake coil", "lets go while powered", behind, 30.0)
        for i, branch in enumerate(setup.auxiliaries):
            self.accessory(i, branch, behind)


def joined_as(trials: Sequence[OrderTrial], side: str) -> dict[str, str]:
    """Which wire of the motor each wire of the controller is joined to, by name, where an order was found by trying; else equal ones."""
    good = next((trial for trial in trials if trial.outcome == "smooth forward" and (not side or trial.side == side)), None)
    if good is None:
        return {}
    phases = {f"phase {own}": f"phase {motor}" for own, motor in zip("ABC", good.phases, strict=True)}
    return phases | {f"Hall {own}": f"Hall {motor}" for own, motor in zip("ABC", good.halls, strict=True)}


def sides(motor: Motor) -> tuple[str, ...]:
    """What the terminals of each motor begin with: nothing where there is one motor."""
    return ("left ", "right ") if motor.count == 2 else ("",)


def _switch_ohm(switch: Switch | None) -> float:
    return switch.resistance_ohm.value if switch is not None and switch.resistance_ohm else SWITCH_OHM


def build_wiring(setup: Setup) -> Wiring | None:
    """The wiring of a setup, or None while it has no packs. Units as in `Wiring` [Ω, V, A]."""
    if setup.bank is None:
        return None
    made = _Builder(setup)
    made.part("minus_bar", "bar", "Minus bar", "all minus leads meet", (("", "minus", "passes"),))
    made.part("plus_bar", "bar", "Plus bar", "all rows meet", (("", "plus", "passes"),))
    for r, row in enumerate(setup.bank.rows):
        made.row(r, row)
    behind = made.path()
    made.load(behind)
    made.beside(behind)
    return Wiring(tuple(made.parts), tuple(made.wires), made.ohms, made.volts, made.amps)
