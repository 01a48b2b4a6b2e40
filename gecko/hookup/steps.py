"""The steps of the hookup in their safe order, from the wheel back to the packs, main fuse last, each with its reading."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from gecko.evaluation import Out
from gecko.hookup.cables import CableOut, cables
from gecko.hookup.crosswalk import Crosswalk, crosswalk
from gecko.hookup.drawing import DrawingOut, drawing_of
from gecko.hookup.joined import MINUS_BAR, PLUS_BAR, Joined
from gecko.hookup.netlist import letter
from gecko.hookup.orders import Suggestion, next_order
from gecko.hookup.readings import METER_LEADS_OHM, NOT_A_SHORT_OHM, State, meter_doubt_v
from gecko.parts.hookup import PlugPlace
from gecko.parts.pack import charge_limit_a, resistance_figure
from gecko.resolve import resolve
from gecko.setup import Setup


class Reading(Out):
    """What the meter should show, and where its tips go."""

    kind: Literal["volts", "ohms", "open"]
    red_on: str
    black_on: str
    nodes: list[str]
    """The two blocks the tips stand on, for the drawing."""
    low: float | None
    high: float | None
    expected: float | None
    unit: Literal["V", "Ω"]
    note: str = ""


class Step(Out):
    """One step: what to do, which blocks it is about, and the reading to expect."""

    id: str
    title: str
    what: str
    blocks: list[str]
    reading: Reading | None
    caution: str = ""


class Matching(Out):
    """The order of phases and Halls to try next, and what a meter in the plus lead should show meanwhile."""

    next: Suggestion
    smooth_a: float
    """Amps with the wheel turning free, when it runs smoothly. [A]"""
    stop_a: float
    """More than that: let go at once. [A]"""


class TerminalOut(Out):
    """A terminal one can put a tip on."""

    id: str
    part: str
    name: str
    function: str


class Hookup(Out):
    """The plan of the hookup."""

    steps: list[Step]
    drawing: DrawingOut
    terminals: list[TerminalOut]
    plugs: list[Crosswalk]
    """How the plugs of the setup go together, in their order."""
    cables: list[CableOut]
    """What is said of each cable of small wires."""
    matching: Matching | None
    """Which order of phases and Halls to try next; None where there are none."""


def _ohms(red: str, black: str, nodes: list[str], expected: float, note: str = "", spread: float = 0.5) -> Reading:
    high = expected * (1 + spread) + METER_LEADS_OHM
    return Reading(kind="ohms", red_on=red, black_on=black, nodes=nodes, low=0.0, high=round(high, 2), expected=round(expected, 3), unit="Ω", note=note)


def _open(red: str, black: str, nodes: list[str], note: str = "The meter shows OL: open.") -> Reading:
    return Reading(kind="open", red_on=red, black_on=black, nodes=nodes, low=10_000.0, high=None, expected=None, unit="Ω", note=note)


def _volts(net: Joined, state: State, plus: str, minus: str, red: str, black: str, nodes: list[str], note: str = "") -> Reading:
    low, expected, high = net.volts(state, plus, minus)
    margin = meter_doubt_v(expected)
    return Reading(
        kind="volts",
        red_on=red,
        black_on=black,
        nodes=nodes,
        low=round(low - margin, 2),
        high=round(high + margin, 2),
        expected=round(expected, 2),
        unit="V",
        note=note,
    )


def _not_a_short(red: str, black: str, nodes: list[str]) -> Reading:
    return Reading(
        kind="ohms",
        red_on=red,
        black_on=black,
        nodes=nodes,
        low=NOT_A_SHORT_OHM,
        high=None,
        expected=None,
        unit="Ω",
        note="Not a short: over 100 Ω. It may climb while capacitors fill.",
    )


def _steps(net: Joined) -> Iterator[Step]:
    setup = net.setup
    direct = setup.controller is None or setup.controller.kind == "none"
    rows = len(net.row_volts)
    load = "pedal_switch" if direct else "controller"
    load_name, back_name = ("pedal switch", "motor") if direct else ("controller", "controller")
    off = State()
    yield Step(
        id="safe",
        title="Make it safe",
        what="Wheels off the ground on a firm stand, key off. Packs out, every fuse out, cut-off off.",
        blocks=[],
        reading=_volts(net, off, net.load_plus, net.load_minus, f"{load_name} plus", f"{back_name} minus", [load, net.load_minus.split(".")[0]]),
        caution="Take off rings and watch. Cover bare terminals. Leave mains wiring and opened packs to those who are trained for it.",
    )
    yield from _opening_steps(setup)
    yield from _motor_steps(net, direct)
    yield from _small_steps(net)
    yield Step(
        id="minus",
        title=f"Minus lead to the {back_name}",
        what="Join the minus bar and the minus terminal. Crimp, then tug.",
        blocks=[net.load_minus.split(".")[0]],
        reading=_ohms("minus bar", f"{back_name} minus", [net.load_minus.split(".")[0], "minus_bar"], net.resistance(off, net.load_minus, MINUS_BAR) or 0.0),
    )
    yield Step(
        id="plus",
        title=f"Plus lead to the {load_name}",
        what="Join the plus lead at the load's end only; its other end stays free.",
        blocks=[load],
        reading=_not_a_short("plus lead, free end", "minus bar", [load, "minus_bar"]),
        caution="Find plus by the marking or the meter, never by the colour." if not (setup.vehicle and setup.vehicle.plus_lead_proven) else "",
    )
    if net.wiring.has("guard"):
        yield Step(
            id="guard",
            title="Low-volt guard into the plus lead",
            what="Input towards the packs, output towards the load, its minus to the minus bar.",
            blocks=["guard"],
            reading=_not_a_short("guard input", "minus bar", ["guard", "minus_bar"]),
        )
    if net.wiring.has("cut_off"):
        yield Step(
            id="cut_off",
            title="Cut-off into the plus lead",
            what="Fit it within reach. Measure across it switched off, then on: on it must be near 0 Ω.",
            blocks=["cut_off"],
            reading=_open("cut-off, pack side", "cut-off, load side", ["cut_off", "cut_off"], "Switched off the meter shows OL: open."),
        )
    if net.wiring.has("main_fuse"):
        yield Step(
            id="holder",
            title="Main fuse holder, empty",
            what="Into the plus lead, close to the packs. The fuse stays on the bench until the last step.",
            blocks=["main_fuse"],
            reading=_open("holder, pack side", "holder, load side", ["main_fuse", "main_fuse"]),
        )
    yield from _pack_steps(net, rows)
    yield from _power_steps(net, direct, load, load_name, back_name, rows)


def _motor_steps(net: Joined, direct: bool) -> Iterator[Step]:
    setup = net.setup
    if setup.motor is None or net.motor_ohm is None:
        return
    motors = [part.id for part in net.wiring.parts if part.kind == "motor"]
    if not motors:
        return
    if setup.motor.brushless:
        yield Step(
            id="motor",
            title="Motor phases and Halls to the controller",
            what=f"Three thick phase leads and the five-pole Hall plug. Keep phases and Halls in their pairs. {_colours(setup, 'phases')}{_colours(setup, 'Halls')}".strip(),
            blocks=motors,
            reading=_ohms("one phase", "another phase", [motors[0], "controller"], net.motor_ohm, "The same between any two phases.", 1.0),
        )
    else:
        joined = "" if setup.motor.count == 1 else f" The two motors are joined in {setup.motor.wiring}."
        yield Step(
            id="motor",
            title="Motor leads" + (" to the pedal switch" if direct else " to the controller"),
            what="Two leads; swapped they turn the wheel backward." + joined,
            blocks=motors,
            reading=_ohms("motor plus", "motor minus", [motors[0], motors[-1]], net.motor_ohm, "Turn the wheel a little if the value jumps: brushes.", 1.0),
        )
    if not direct:
        yield Step(
            id="throttle",
            title="Throttle plug",
            what=f"Supply, ground and signal by function, not by colour. {_colours(setup, 'throttle')}Click it home and tug.",
            blocks=["throttle"],
            reading=_not_a_short("throttle supply", "throttle ground", ["throttle", "throttle"]),
        )
    if net.wiring.has("brake"):
        yield Step(
            id="brake",
            title="Brake cut-off plug",
            what=f"Measure the lever's two wires with the lever released, then pulled: it must change. {_colours(setup, 'brake')}".strip(),
            blocks=["brake"],
            reading=_open("brake lever, wire 1", "brake lever, wire 2", ["brake", "brake"], "Released: OL. Pulled: near 0 Ω. A lever of the other sense is the reverse."),
        )


def _colours(setup: Setup, place: PlugPlace) -> str:
    """Which colour goes to which at a plug, where it is known."""
    joins = [join for pair in setup.plug_pairs if pair.place == place for join in crosswalk(pair).joins]
    return f"{_cap(', '.join(f'{join.sentence} ({join.function})' for join in joins))}. " if joins else ""


def _cap(text: str) -> str:
    return text[:1].upper() + text[1:]


_SMALL: tuple[tuple[str, PlugPlace, str, str, str], ...] = (
    ("key", "key", "Key", "Its two wires carry battery plus: keep them apart from the 5 V ones.", "Key off: OL. On: near 0 Ω."),
    ("foot_switch", "foot switch", "Foot switch", "It must open when nobody stands on it.", "Nobody on it: OL. Stood on: near 0 Ω."),
    ("speed_switch", "speed switch", "Speed switch", "Through each position in turn.", "One position open, the other near 0 Ω."),
    ("reverse_switch", "reverse switch", "Reverse switch", "For standing only.", "Forward: OL. Reverse: near 0 Ω."),
)


def _small_steps(net: Joined) -> Iterator[Step]:
    """A step for each small switch at the controller."""
    for part, place, title, what, note in _SMALL:
        if net.wiring.has(part):
            reading = _open(f"{title.lower()}, wire 1", f"{title.lower()}, wire 2", [part, part], note)
            yield Step(id=part, title=f"{title} plug", what=f"{what} {_colours(net.setup, place)}".strip(), blocks=[part], reading=reading)


def _opening_steps(setup: Setup) -> Iterator[Step]:
    """A step for each cover and seal that comes off, and each hole for a cable."""
    for i, opening in enumerate(setup.openings):
        if opening.kind == "cable entry":
            what = "Deburr the hole, fit a gland or grommet, leave a loop of cable below it, a free loop at fork and shock as well."
            yield Step(id=f"open{i}", title=f"Cable entry: {opening.label}", what=what, blocks=[], reading=None)
            continue
        screws = f"{opening.fasteners} screws or clips" if opening.fasteners else "Screws or clips"
        by = f", {opening.drive}" if opening.drive else ""
        kept = f"into {opening.kept}" if opening.kept else "into a labelled cup"
        what = f"{screws}{by}, {kept}. Take a photo of the wires and unclip plugs by their housings, never by the wires."
        yield Step(id=f"open{i}", title=f"Open: {opening.label}", what=what, blocks=[], reading=None)


def _last_steps(setup: Setup) -> Iterator[Step]:
    """What comes after the first power: learning, settings, closing up."""
    control = setup.controller
    if setup.controls.learning_plug and control is not None and control.kind == "brushless":
        yield Step(
            id="learn",
            title="Let the controller learn the motor",
            what="Join the learning plug: the wheel starts by itself. When it runs smoothly, unplug and wait until it stands. Backward: plug in once more, then unplug.",
            blocks=["controller"],
            reading=None,
            caution="The wheel starts at once, without throttle. Wheel free, hands clear.",
        )
    if control is not None and control.firmware is not None and control.firmware.changed:
        limit = f"{control.battery_limit_a.value:g} A from the bank" if control.battery_limit_a else "the amp limit of this plan"
        low = f", {control.undervoltage_v.value:g} V low cut-off" if control.undervoltage_v else ""
        yield Step(
            id="settings",
            title="Enter the limits of this plan",
            what=f"Note version and settings first, keep the old file. Then {limit}{low}. Try them with the wheels off the ground.",
            blocks=["controller"],
            reading=None,
        )
    for i, opening in enumerate(setup.openings):
        if opening.kind == "cover":
            what = "Tuck the wires in without pulling a plug, no wire over an edge. By hand torque; medium thread lock at most, none near plastic."
        else:
            what = "Seal it last: gasket clean, or gland tight. Then look once more that no plug has come off inside."
        yield Step(id=f"close{i}", title=f"Close: {opening.label}", what=what, blocks=[], reading=None)


def _pack_steps(net: Joined, rows: int) -> Iterator[Step]:
    fused = frozenset(r for r in range(rows) if net.wiring.has(f"row_fuse{r}"))
    joined: frozenset[int] = frozenset()
    for r in range(rows):
        name = letter(r)
        units = net.setup.bank.rows[r].units if net.setup.bank else []
        word = "Row" if len(units) > 1 else "Pack"
        alone = State(packs=frozenset({r}))
        yield Step(
            id=f"pack{r}",
            title=f"Measure {word.lower()} {name} before it is joined",
            what="On its own terminals, nothing joined yet.",
            blocks=[f"row{r}"],
            reading=_volts(
                net,
                alone,
                net.row_plus(r),
                net.row_minus(r),
                f"{name} plus",
                f"{name} minus",
                [f"row{r}", f"row{r}"],
                "A minus sign means the tips or the pack are reversed.",
            ),
        )
        if r > 0:
            yield _join_check(net, r, name)
        joined |= {r}
        state = State(packs=joined, row_fuses=frozenset(joined & fused))
        fuse = f" and fit its {net.setup.bank.rows[r].fuse.rating_a:g} A fuse" if net.setup.bank and net.setup.bank.rows[r].fuse else ""  # type: ignore[union-attr]
        yield Step(
            id=f"join{r}",
            title=f"Join {word.lower()} {name}{fuse}",
            what="Minus first, then plus. From here on the plus bar is live.",
            blocks=[f"row{r}", f"row_fuse{r}"] if r in fused else [f"row{r}"],
            reading=_volts(net, state, PLUS_BAR, MINUS_BAR, "plus bar", "minus bar", ["plus_bar", "minus_bar"]),
            caution="Live: one hand, insulated tools." if r == 0 else "",
        )


def _join_check(net: Joined, r: int, name: str) -> Step:
    bank = net.setup.bank
    assert bank is not None
    units = bank.rows[r].units
    ohm = net.row_ohm[r] + net.row_ohm[0]
    allowed = min(charge_limit_a(u) for u in units) * ohm
    limit = round(max(min(allowed, 0.5 * len(units)), 0.05), 2)
    share = sum(resistance_figure(u).value for u in units)
    return Step(
        id=f"match{r}",
        title=f"Compare {name} with the plus bar",
        what=f"Red tip on {name} plus, black tip on the plus bar. Only join when they nearly agree: {share * 1000:.0f} mΩ inside let a small difference push many amps.",
        blocks=[f"row{r}"],
        reading=Reading(
            kind="volts",
            red_on=f"{name} plus",
            black_on="plus bar",
            nodes=[f"row{r}", "plus_bar"],
            low=-limit,
            high=limit,
            expected=0.0,
            unit="V",
            note="More than that: charge both to the same volts first.",
        ),
    )


def _power_steps(net: Joined, direct: bool, load: str, load_name: str, back_name: str, rows: int) -> Iterator[Step]:
    every = frozenset(range(rows))
    packed = State(packs=every, row_fuses=every)
    if net.wiring.has("main_fuse"):
        yield Step(
            id="dead",
            title="Check that the load side is dead",
            what="Main fuse still out: nothing may reach the load.",
            blocks=["main_fuse"],
            reading=_volts(net, packed, net.load_plus, net.load_minus, f"{load_name} plus", f"{back_name} minus", [load, net.load_minus.split(".")[0]]),
        )
    high = max(window[2] for window in net.row_volts)
    if not direct and high > 36:
        yield Step(
            id="precharge",
            title="Fill the capacitors gently",
            what="Touch a 100 Ω, 5 W resistor across the empty fuse holder for two seconds, cut-off on; then cut-off off.",
            blocks=["controller"],
            reading=None,
            caution="The resistor gets warm. Do not hold its wires.",
        )
    if net.wiring.has("main_fuse"):
        state = State(packs=every, row_fuses=every, main_fuse=True, cut_off=False)
        note = "Cut-off off: still dead." if net.wiring.has("cut_off") else "From here on the load is live."
        yield Step(
            id="main_fuse",
            title="Main fuse in, last of all",
            what="Cut-off off, key off, throttle free. Push the fuse in.",
            blocks=["main_fuse"],
            reading=_volts(net, state, net.load_plus, net.load_minus, f"{load_name} plus", f"{back_name} minus", [load, net.load_minus.split(".")[0]], note),
        )
    on = State(packs=every, row_fuses=every, main_fuse=True, cut_off=True)
    yield Step(
        id="first_power",
        title="First power, wheels off the ground",
        what="Hands clear of the wheel. Cut-off on, then the key. Nothing may turn by itself.",
        blocks=[load],
        reading=_volts(net, on, net.load_plus, net.load_minus, f"{load_name} plus", f"{back_name} minus", [load, net.load_minus.split(".")[0]]),
        caution="If anything turns, smells or gets warm: cut-off off, fuse out.",
    )
    yield from _last_steps(net.setup)


def build_hookup(setup: Setup) -> Hookup | None:
    """The steps and the drawing of a setup; None while it has no packs."""
    net = Joined.of(setup)
    if net is None:
        return None
    return Hookup(
        steps=list(_steps(net)),
        drawing=drawing_of(net.wiring),
        terminals=_terminals(net),
        plugs=[crosswalk(pair) for pair in setup.plug_pairs],
        cables=cables(setup),
        matching=_matching(setup),
    )


def _terminals(net: Joined) -> list[TerminalOut]:
    return [TerminalOut(id=part.at(one.name), part=part.label, name=one.name, function=one.function) for part in net.wiring.parts for one in part.terminals]


_MUCH = 3.0
"""Amps over those of a smooth run with the wheel free at which an order is surely wrong. [1] Source: this project's planning value."""


def _matching(setup: Setup) -> Matching | None:
    motor, control = setup.motor, setup.controller
    if motor is None or not motor.brushless or not motor.has_halls or control is None or control.kind != "brushless":
        return None
    machine = resolve(setup).machine
    free = float(machine.motor.no_load_a + machine.control.idle_a) if machine is not None else 1.0
    return Matching(next=next_order(setup.order_trials), smooth_a=free, stop_a=max(_MUCH * free, 1.0))
