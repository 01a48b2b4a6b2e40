"""The steps of a setup in their safe order: power away, controls, motor, the way to the packs, checks, packs, first power, main fuse last."""

from __future__ import annotations

from collections.abc import Iterator
from hashlib import sha256

from gecko.document.setup import Setup
from gecko.hookup.joined import Joined
from gecko.hookup.readings import State
from gecko.hookup.shape import Step, volts
from gecko.hookup.steps.beside import beside_steps
from gecko.hookup.steps.controls import coil_step, control_steps
from gecko.hookup.steps.covers import closing_steps, old_leads, opening_steps
from gecko.hookup.steps.drive import motor_steps, path_steps, unpowered_check
from gecko.hookup.steps.packs import pack_steps
from gecko.hookup.steps.power import power_steps


def steps_of(net: Joined, baseline: Setup | None) -> list[Step]:
    """All steps with their marks. baseline: what the machine came with, where this setup is another."""
    return [step.model_copy(update={"mark": _mark(net, step)}) for step in _steps(net, baseline)]


def _steps(net: Joined, baseline: Setup | None) -> Iterator[Step]:
    setup = net.setup
    note = "Anything left is in the controller's capacitors: wait a minute, measure again." if net.wiring.has("controller") else ""
    yield Step(
        id="safe",
        title="Make it safe",
        what="Wheels off the ground on a firm stand, key off. Packs out, every fuse out, cut-off off.",
        reading=volts(net, State(), (net.load_plus, net.load_minus), note),
        caution="Take off rings and watch. Cover bare terminals. Leave mains wiring and opened packs to those who are trained for it.",
        tools=["stand", "meter on volts"],
        safety=True,
    )
    yield from old_leads(setup, baseline)
    yield from opening_steps(setup)
    yield Step(
        id="dry_fit",
        title="Lay everything out, nothing joined",
        what="Every part where it will sit, every lead along its way, steering from lock to lock, suspension pressed. Cut to length only after that.",
        tools=["tape or ties", "marker"],
        care="A hand's width of slack at each end; nothing near chain, wheel or brake.",
    )
    yield from control_steps(net)
    yield from motor_steps(net)
    yield from path_steps(net)
    yield from coil_step(net)
    yield from beside_steps(net)
    yield from unpowered_check(net)
    yield from pack_steps(net)
    yield from power_steps(net)
    yield from closing_steps(setup)


def _mark(net: Joined, step: Step) -> str:
    """A short print of what a step is about: its title (a cover by its name), its parts, the wires at them, and where the tips stand."""
    rows = {int(block[3:]) for block in step.blocks if block.startswith("row") and block[3:].isdigit()}
    about = [part for part in net.wiring.parts if part.id in step.blocks or (part.kind == "pack" and part.row in rows)]
    ids = {part.id for part in about}
    said = [f"{part.id} {part.label} {part.detail}" for part in about]
    said += [f"{wire.a} {wire.b} {wire.gauge} {wire.joint}" for wire in net.wiring.wires if ids & {wire.a.split(".")[0], wire.b.split(".")[0]}]
    tips = [step.reading.kind, step.reading.red, step.reading.black] if step.reading is not None else []
    return sha256("|".join([step.id, step.title, *said, *tips]).encode()).hexdigest()[:12]
