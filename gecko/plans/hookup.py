"""The plan of the hookup: its steps, its drawing, its plugs and cables, the order of phases and Halls, and the way back to stock."""

from __future__ import annotations

from typing import Literal, get_args

from gecko.analysis.riding import Riding
from gecko.answers.evaluation import Out
from gecko.document.parts.hookup import HarnessPlug
from gecko.document.setup import Setup
from gecko.hookup.back import WayBack, way_back
from gecko.hookup.cables import CableOut, cables
from gecko.hookup.colours import wire_colours
from gecko.hookup.crosswalk import Crosswalk, crosswalk
from gecko.hookup.drawing import DrawingOut, drawing_of
from gecko.hookup.erc import FaultKind, check
from gecko.hookup.joined import Joined
from gecko.hookup.logic import Acting, Unused, acting, unused
from gecko.hookup.netlist import sides
from gecko.hookup.orders import Suggestion, next_order
from gecko.hookup.shape import Step
from gecko.hookup.steps.order import steps_of
from gecko.hookup.steps.stand import stand_steps
from gecko.hookup.wire_list import WireRow, wire_rows
from gecko.hookup.wiring import called, terminal_called
from gecko.machine.resolve import resolve


class Matching(Out):
    """The order of phases and Halls to try next, and what a meter in the plus lead should show meanwhile."""

    side: Literal["", "left", "right"]
    """Which motor, where there are two: one after the other, the other one's phases apart."""
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


class FaultOut(Out):
    """What is wrong with the wiring as the setup has it; open: something is not joined yet."""

    kind: FaultKind
    sentence: str


class Hookup(Out):
    """The plan of the hookup."""

    steps: list[Step]
    stand: list[Step]
    """Checks on the stand and the first ride, made from what is on this machine."""
    faults: list[FaultOut]
    """Of the electrical rule check, those that can burn something first."""
    drawing: DrawingOut
    wires: list[WireRow]
    terminals: list[TerminalOut]
    plugs: list[Crosswalk]
    """How the plugs of the setup go together, in their order."""
    cables: list[CableOut]
    """What is said of each cable of small wires."""
    matching: list[Matching]
    """Which order of phases and Halls to try next, of each brushless motor with Halls."""
    logic: list[Acting]
    """What throttle, lever and switches do, and how it shows."""
    harness: list[HarnessPlug]
    """Plugs and loose wires a controller's harness may have."""
    unused: list[Unused]
    """Plugs of the controller nothing hangs on, and what to do with them."""
    back: WayBack | None
    """The way back to what the machine came with; None where this is it, or nobody knows."""

    @property
    def in_order(self) -> list[Step]:
        """From the first step to the first ride."""
        return [*self.steps, *self.stand]

    @property
    def to_tick(self) -> list[Step]:
        """Every step one can tick: there, on the stand, and back again."""
        return [*self.in_order, *(self.back.steps if self.back is not None else [])]


def build_hookup(setup: Setup, baseline: Setup | None = None) -> Hookup | None:
    """Steps and drawing of a setup; None while it has no packs. baseline: what the machine came with, where this setup is another."""
    net = Joined.of(setup)
    if net is None:
        return None
    return Hookup(
        steps=steps_of(net, baseline),
        stand=stand_steps(setup, _top_m_s(setup)),
        faults=[FaultOut(kind=fault.kind, sentence=fault.sentence) for fault in check(net.wiring)],
        drawing=drawing_of(net.wiring, wire_colours(setup, net.wiring)),
        wires=wire_rows(setup, net.wiring),
        terminals=[
            TerminalOut(id=part.at(one.name), part=called(part), name=terminal_called(part, one.name), function=one.function)
            for part in net.wiring.parts
            for one in part.terminals
        ],
        plugs=[crosswalk(pair) for pair in setup.plug_pairs],
        cables=cables(setup),
        matching=_matching(setup),
        logic=acting(setup),
        harness=list(get_args(HarnessPlug)),
        unused=unused(setup),
        back=way_back(setup, baseline) if baseline is not None else None,
    )


def _top_m_s(setup: Setup) -> float | None:
    riding = Riding(setup)
    return float(riding.top) if riding.machine is not None else None


_MUCH = 3.0
"""Amps over those of a smooth run with the wheel free at which an order is surely wrong. [1] Source: this project's planning value."""


def _matching(setup: Setup) -> list[Matching]:
    motor, control = setup.motor, setup.controller
    if motor is None or not motor.brushless or not motor.has_halls or control is None or control.kind != "brushless":
        return []
    machine = resolve(setup).machine
    free = float(machine.motor.no_load_a / motor.count + machine.control.idle_a) if machine is not None else 1.0
    found = []
    for side in sides(motor):
        trials = [trial for trial in setup.order_trials if not side or trial.side == side.strip()]
        found.append(Matching(side=side.strip(), next=next_order(trials), smooth_a=free, stop_a=max(_MUCH * free, 1.0)))
    return found
